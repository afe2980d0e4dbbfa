export { inspect, type Inspection } from './inspect.ts'
export { logLines, type Happening, type LogEntry, logVersion, type NotAsked, type Unmet } from './log.ts'
export { rowName } from './logbook.ts'
export { Play, type Transform, type View } from './play.ts'
export { makeStage, type Stage, stageInSlices, startRegisters } from './stage.ts'
export { runWalkthrough, type StepResult, type WalkthroughResult } from './rehearsal.ts'
export {
  readWalkthrough,
  type Walkthrough,
  walkthroughJsonSchema,
  walkthroughSchema,
  type WalkthroughStep,
} from './walkthrough.ts'
export { clockText, entryText, notAskedText, unmetText } from './words.ts'
