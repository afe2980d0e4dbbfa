export {
  asWalkthrough,
  writtenOneByOne,
  type WrittenStep,
  writtenSteps,
  type WrittenWalkthrough,
} from './as-walkthrough.ts'
export type { Answer, Counts, Evidence, Loss, Progress, Shown, Witness } from './answers.ts'
export { runInSlices, type RunOutcome, type RunInSlicesOptions, Interrupted, quietly } from './run-in-slices.ts'
export { type Possible, WhatIfs } from './what-if.ts'
export type { Free } from './successors.ts'
export { rowsByThemselves } from './time-cycles.ts'
export { explore, exploreNow, type ExploreOptions } from './explore.ts'
export { exploreFromStarts } from './from-starts.ts'
export { type Fineness, mostGoals, Search, usualBudget } from './search.ts'
export { Coverage } from './cover.ts'
export { Onwards, type Wanted } from './onwards.ts'
export type { Safeguard } from './safeguards.ts'
export type { LastSafe } from './last-safe.ts'
export { type Observation, type PossiblePress, type See, stormKey } from './observation.ts'
export { stuckKey } from './stuck.ts'
export type { Need } from './needs.ts'
export { type Margin, marginOf } from './margins.ts'
export { type GoalPlans, type Plan, planGoals } from './plans.ts'
export { type StepTrack, tracksOf } from './tracks.ts'
export { howPressed, perform, type PlayStep, replay } from './steps.ts'
