export { check, checkNow, type CheckOptions, emptyReport } from './check.ts'
export { ruleGroups, rules } from './catalogue.ts'
export { fillIn } from './refusals.ts'
export { narrowed, type Wanted } from './narrow.ts'
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
