import { answerCounts } from '../check.ts'
import type { FileReport } from './report.ts'
import type { Severity } from '../rule.ts'

/** Which findings are wanted: of these rules (null: of all), and at least so bad. */
export interface Wanted {
  readonly rules: readonly string[] | null
  readonly severity: Severity
}

const severities: readonly Severity[] = ['advice', 'warning', 'error']

/** A report with only what is wanted: groups of findings of which any member is, and the questions of these rules. */
export function narrowed(report: FileReport, { rules, severity }: Wanted): FileReport {
  const least = severities.indexOf(severity)
  const isAsked = (rule: string): boolean => rules === null || rules.includes(rule)
  const isWanted = (one: { readonly rule: string; readonly severity: Severity }): boolean =>
    isAsked(one.rule) && severities.indexOf(one.severity) >= least
  const findings = report.findings.filter((one) => isWanted(one) || one.follows.some(isWanted))
  const questions = report.questions.filter(({ rule }) => isAsked(rule))
  const accepted = report.accepted.filter(isWanted)
  const leftOut = report.leftOut + report.findings.length - findings.length
  return { ...report, findings, leftOut, accepted, questions, counts: { ...report.counts, ...answerCounts(questions) } }
}
