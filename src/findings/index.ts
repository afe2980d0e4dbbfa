export { check, checkNow, type CheckOptions, emptyReport } from './check.ts'
export { rules } from './catalogue.ts'
export {
  type FileReport,
  type Finding,
  type Question,
  reportJsonSchema,
  reportSchema,
  type ReportStep,
} from './report.ts'
export type { Rule, RuleName, Severity } from './rule.ts'
export { secondsText } from './told.ts'
