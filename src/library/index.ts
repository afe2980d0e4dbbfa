export { check, checkNow, type CheckOptions, rules } from './check.ts'
export { drawMachine, drawPlan, planFrame } from './drawings.ts'
export {
  type CharacterNow,
  type EntryOf,
  type InteractableNow,
  LevelPlay,
  type PlayChanges,
  type PlayEvent,
  type SavedPlay,
  startPlay,
  startProject,
} from './level-play.ts'
export { type AnyLevel, type LevelContents, LevelError, PreparedLevel, prepareLevel } from './prepared.ts'
export { projectProblems } from './project.ts'
export {
  coverLevel,
  type CoverResult,
  type GoalPlans,
  type Plan,
  planGoals,
  readWalkthrough,
  runWalkthrough,
  type WalkthroughResult,
} from './walkthroughs.ts'
