export { check, checkNow, checkProject, emptyReport } from './check.ts'
export type { CheckOptions } from './find-all.ts'
export { ruleGroups, rules } from './catalogue.ts'
export { rowTitle } from './shared/rows.ts'
export { happens, rowsFor } from './report/feedback-table.ts'
export { focusedKey, focusedObservation } from './shared/prompts.ts'
export { reasonTexts } from './shared/reasons.ts'
export { fillIn } from './shared/edits.ts'
export { type Refusal, refusalObservation, refusalReader, refusalsOf } from './shared/refusals.ts'
export { momentKey, momentObservation } from './shared/room.ts'
export { leadingTo } from './shared/rows.ts'
export { narrowed, type Wanted } from './report/narrow.ts'
export { type Severities, withSeverities } from './report/severities.ts'
export {
  type FileReport,
  type Finding,
  type FollowingFinding,
  type Question,
  reportJsonSchema,
  reportSchema,
  type ReportStep,
  type Telling,
} from './report/report.ts'
export type { Rule, Severity, Surroundings } from './rule.ts'
export { secondsText, toldSteps } from './report/told.ts'
