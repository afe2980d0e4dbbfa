import { type FileReport, narrowed, rules, type Severity, type Wanted } from '../findings/index.ts'
import { checkFiles } from './checking.ts'
import { exitCode } from './outcome.ts'
import { fixFiles, undoFixes } from './fixing.ts'
import { didYouMean } from './nearest.ts'
import { accountText, reportText } from './report.ts'
import { feedbackText } from './telling.ts'
import { watchFiles } from './watch.ts'
import { Unusable, type World } from './world.ts'

/** What a check is asked for. */
export interface CheckCommand {
  readonly json: boolean
  readonly budget: number
  /** Rules, as they were written; empty: all. */
  readonly rules: readonly string[]
  readonly severity: Severity
  /** The table of what is told, instead of the findings. */
  readonly feedback: boolean
  /** How levels were explored, after the findings. */
  readonly explainSearch: boolean
  /** Long lists are printed whole. */
  readonly all: boolean
  readonly watch: boolean
  readonly fix: boolean
  /** Fixes without asking. */
  readonly yes: boolean
  readonly undoFix: boolean
}

/** Checks levels, and prints what was found; or fixes what is certain, or puts that back. */
export async function checkCommand(files: readonly string[], options: CheckCommand, world: World): Promise<number> {
  const wanted = wantedBy(options)
  const together = (['watch', 'fix', 'undoFix', 'feedback'] as const).filter((one) => options[one])
  if (together.length > 1) throw new Unusable(`--${together[0]!} and --${together[1]!} cannot be given together.`)
  const does = together.find((one) => one !== 'feedback')
  if (options.json && does) throw new Unusable(`--${does} writes no JSON.`)
  if (options.undoFix) return await undoFixes(files, world)
  if (options.fix) return await fixFiles(files, { budget: options.budget, wanted, yes: options.yes }, world)
  if (options.watch) return await watchFiles(files, { budget: options.budget, wanted }, world)
  const reports: FileReport[] = []
  const narrow: FileReport[] = []
  for await (const { report, text } of checkFiles(files, options.budget, world)) {
    const shown = narrowed(report, wanted)
    reports.push(report)
    narrow.push(shown)
    if (options.json || report.outcome === 'unusable') continue
    world.out(options.feedback ? feedbackText(shown, world) : reportText(shown, text, world, options.all))
    if (options.explainSearch) world.out(accountText(shown, world))
  }
  if (options.json) world.out(`${JSON.stringify(narrow, null, 2)}\n`)
  // What was found decides, also where only a part of it was asked for.
  return exitCode(reports, world)
}

function wantedBy({ rules: names, severity }: CheckCommand): Wanted {
  const known = rules.map(({ name }) => String(name))
  for (const name of names) {
    if (known.includes(name)) continue
    throw new Unusable(`--rule: there is no rule "${name}". ${didYouMean(name, known, 'zintel explain lists them.')}`)
  }
  return { rules: names.length === 0 ? null : names, severity }
}
