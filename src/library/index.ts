export { check, checkNow, checkProject, type CheckOptions, rules } from './check.ts'
export {
  changeText,
  duplicateInLevel,
  freeName,
  type LevelText,
  renameInLevel,
  renameArrival,
  renameInWalkthrough,
} from './editing.ts'
export { coveredGround, drawMachine, drawPlan, planFrame, planGrips, planShapes } from './drawings.ts'
export {
  describeInteractable,
  describeTypes,
  type InteractableSheet,
  listInteractables,
  type SettingNow,
} from './descriptions.ts'
export { LevelPlay, startPlay, startProject } from './level-play.ts'
export { outlookOf } from './outlook.ts'
export type { CharacterNow, EntryOf, Help, InteractableNow, PlayChanges, PlayEvent, SavedPlay } from './now.ts'
export { layOutLevel, type AnyLevel, type LevelContents, LevelError, PreparedLevel, prepareLevel } from './prepared.ts'
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
export { starterFiles, starterTypes } from './starter.ts'
export { liesAt, type RealSpot } from './storeys.ts'
