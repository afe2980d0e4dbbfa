import { rules } from '../catalogue.ts'
import type { FileReport, Finding } from './report.ts'
import type { Severity } from '../rule.ts'

const order: readonly Severity[] = ['error', 'warning', 'advice']

/** How bad findings of some rules are, by rule. */
export type Severities = Readonly<Record<string, Severity>>

/**
 * A report in which findings of some rules are as bad as is said. A group is as bad as its worst member; findings come in the order of
 * their severity, else as before.
 */
export function withSeverities(report: FileReport, severities: Severities): FileReport {
  const of = (rule: string, severity: Severity): Severity => severities[rule] ?? severity
  const findings = report.findings.map((finding): Finding => {
    const follows = finding.follows.map((one) => ({ ...one, severity: of(one.rule, one.severity) }))
    const own =
      severities[finding.rule] ?? rules.find(({ name }) => name === finding.rule)?.severity ?? finding.severity
    const all = [own, ...follows.map(({ severity }) => severity)]
    return { ...finding, follows, severity: order.find((one) => all.includes(one)) ?? finding.severity }
  })
  const sorted = order.flatMap((severity) => findings.filter((one) => one.severity === severity))
  return {
    ...report,
    findings: sorted,
    accepted: report.accepted.map((one) => ({ ...one, severity: of(one.rule, one.severity) })),
  }
}
