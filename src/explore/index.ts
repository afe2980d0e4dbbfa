export type { Answer, Counts, Evidence, Loss, Progress, Refusal } from './answers.ts'
export { explore, exploreNow, type ExploreOptions } from './explore.ts'
export { type Fineness, mostGoals, Search, usualBudget } from './search.ts'
export { type PlayStep, replay } from './steps.ts'
