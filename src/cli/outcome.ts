import type { FileReport } from '../findings/index.ts'
import { exit, type World } from './world.ts'

/** The exit code for some reports. */
export function exitCode(reports: readonly FileReport[], world: World): number {
  if (world.signal.aborted) return exit.interrupted
  if (reports.some(({ outcome }) => outcome === 'unusable')) return exit.unusable
  const findings = reports.flatMap((report) => report.findings)
  if (findings.some(({ severity }) => severity !== 'advice')) return exit.findings
  return reports.some(({ counts }) => counts.undecided > 0) ? exit.undecided : exit.clean
}
