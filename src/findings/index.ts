export { check, checkNow, type CheckOptions, emptyReport } from './check.ts'
export { ruleGroups, rules } from './catalogue.ts'
export { rowTitle } from './dead-transition.ts'
export { happens, rowsFor } from './feedback-table.ts'
export { focusedKey, focusedObservation } from './prompts.ts'
export { reasonTexts } from './reasons.ts'
export { fillIn, type Refusal, refusalObservation, refusalReader, refusalsOf } from './refusals.ts'
export { momentKey, momentObservation } from './room.ts'
export { leadingTo } from './unreachable-state.ts'
export { narrowed, type Wanted } from './narrow.ts'
export { type Severities, withSeverities } from './severities.ts'
export {
  type FileReport,
  type Finding,
  type Question,
  reportJsonSchema,
  reportSchema,
  type ReportStep,
  type Telling,
} from './report.ts'
export type { Rule, RuleName, Severity, Surroundings } from './rule.ts'
export { secondsText, toldSteps } from './told.ts'
