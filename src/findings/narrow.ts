import { answerCounts } from './check.ts'
import type { FileReport } from './report.ts'
import type { Severity } from './rule.ts'

/** Which findings are wanted: of these rules (null: of all), and at least so bad. */
export interface Wanted {
  readonly rules: readonly string[] | null
  readonly severity: Severity
}

const severities: readonly Severity[] = ['advice', 'warning', 'error']

/** A report with only what is wanted: findings, and the questions of these rules. */
export function narrowed(report: FileReport, { rules, severity }: Wanted): FileReport {
  const least = severities.indexOf(severity)
  const isWanted = (rule: string): boolean => rules === null || rules.includes(rule)
  const findings = report.findings.filter((one) => isWanted(one.rule) && severities.indexOf(one.severity) >= least)
  const questions = report.questions.filter(({ rule }) => isWanted(rule))
  const accepted = report.accepted.filter((one) => isWanted(one.rule) && severities.indexOf(one.severity) >= least)
  return { ...report, findings, accepted, questions, counts: { ...report.counts, ...answerCounts(questions) } }
}
