export { inspect, type Inspection } from './inspect.ts'
export { logLines, type Happening, type LogEntry, logVersion, type NotAsked, type Unmet } from './log.ts'
export { rowName } from './logbook.ts'
export { Journey, type JourneySave } from './journey.ts'
export { type Arrival, type Opening, Play } from './play.ts'
export { departures, lostNames, projectProblems, startsOf } from './project.ts'
export { type Project, projectJsonSchema } from './project-file.ts'
export { readProject } from './read-project.ts'
export { bodyNow, type Transform } from './poses.ts'
export { type Icon, type Popup, reasonsFor, refusalFeedback, type Showing, toldTo } from './telling.ts'
export type { PlaySave } from './play-state.ts'
export type { View } from './view.ts'
export {
  begunAt,
  levelOfPatch,
  makeStage,
  otherStarts,
  type Stage,
  stageInSlices,
  startRegisters,
  withinReach,
  withWayTo,
} from './stage.ts'
export { type Verdict, verdictJsonSchema, verdictOf, verdictSchema } from './verdict.ts'
export { runWalkthrough, type StepResult, type WalkthroughResult } from './rehearsal.ts'
export {
  readWalkthrough,
  type Walkthrough,
  walkthroughJsonSchema,
  walkthroughSchema,
  type WalkthroughStep,
} from './walkthrough.ts'
export { clockText, entryText, notAskedText, unmetText } from './words.ts'
