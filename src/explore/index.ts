export {
  asWalkthrough,
  writtenOneByOne,
  type WrittenStep,
  writtenSteps,
  type WrittenWalkthrough,
} from './as-walkthrough.ts'
export type { Answer, Counts, Evidence, Loss, Progress, Shown, Sight } from './answers.ts'
export { drive, type Driven, type DriveOptions, Interrupted, quietly } from './drive.ts'
export { possible, type Possible } from './grants.ts'
export type { Free } from './moves.ts'
export { rowsByThemselves } from './rest.ts'
export { explore, exploreNow, type ExploreOptions } from './explore.ts'
export { type Fineness, mostGoals, Search, usualBudget } from './search.ts'
export { Coverage } from './cover.ts'
export { Onwards, type Wanted } from './onwards.ts'
export type { LastSafe } from './last-safe.ts'
export { type Lookout, type PossiblePress, type See, stormKey } from './lookout.ts'
export { stuckKey } from './stuck.ts'
export type { Need } from './needs.ts'
export { type GoalPlans, type Plan, planGoals } from './plans.ts'
export { perform, type PlayStep, replay } from './steps.ts'
