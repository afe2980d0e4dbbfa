/**
 * Zintel: doors, chests and keyholes as state machines; players played against them; and what is broken, proved.
 * The core: no interface, no files, no process. Drawings are in `zintel/draw`.
 */
export {
  defineInteractable,
  defineLevel,
  type Diagnostic,
  diagnosticText,
  type Level,
  levelVersion,
  type Place,
  placeFrame,
  placeText,
  type Reading,
  type Source,
  type TypeDefinition,
} from './model/index.ts'
export { builtInTypes, editorSchema, type Expanded, expandLevel, loadLevel, readLevel } from './interactables/index.ts'
export {
  clockText,
  entryText,
  type LogEntry,
  logLines,
  makeStage,
  notAskedText,
  type NotAsked,
  Journey,
  Play,
  type Project,
  projectJsonSchema,
  projectProblems,
  readProject,
  readWalkthrough,
  runWalkthrough,
  type Stage,
  unmetText,
  type View,
  type Walkthrough,
  walkthroughJsonSchema,
  type WalkthroughResult,
} from './play/index.ts'
export {
  drive,
  type DriveOptions,
  type Evidence,
  explore,
  exploreNow,
  type ExploreOptions,
  type PlayStep,
  type Progress,
  replay,
} from './explore/index.ts'
export {
  check,
  checkNow,
  type CheckOptions,
  type FileReport,
  type Finding,
  type Question,
  reportJsonSchema,
  rules,
} from './findings/index.ts'
