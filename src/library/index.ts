export { check, checkNow, type CheckOptions, rules } from './check.ts'
export { drawMachine, drawPlan, planFrame } from './drawings.ts'
export { LevelPlay, startPlay, startProject } from './level-play.ts'
export type { CharacterNow, EntryOf, InteractableNow, PlayChanges, PlayEvent, SavedPlay } from './now.ts'
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
