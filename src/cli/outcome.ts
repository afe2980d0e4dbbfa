import type { FileReport, Severity } from '../findings/index.ts'
import { exit, type World } from './world.ts'

const order: readonly Severity[] = ['advice', 'warning', 'error']

/** The exit code for some reports, of which findings that are at least so bad count. */
export function exitCode(reports: readonly FileReport[], world: World, failOn: Severity = 'warning'): number {
  if (world.signal.aborted) return exit.interrupted
  if (reports.some(({ outcome }) => outcome === 'unusable')) return exit.unusable
  const findings = reports.flatMap((report) => report.findings)
  if (findings.some(({ severity }) => order.indexOf(severity) >= order.indexOf(failOn))) return exit.findings
  return reports.some(({ counts }) => counts.undecided > 0) ? exit.undecided : exit.clean
}
