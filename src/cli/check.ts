import { type FileReport, narrowed, rules, type Severity, type Wanted } from '../findings/index.ts'
import { drawPlan } from '../draw/index.ts'
import { htmlText, junitOfChecks, numberedMarks, sarifText } from '../formats/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { laidOut } from '../space/index.ts'
import { readBaseline, withoutKnown, writeBaseline } from './baseline.ts'
import { checkFiles } from './checking.ts'
import { filesFor } from './files.ts'
import { kindOf } from './kind.ts'
import { exitCode } from './outcome.ts'
import { fixFiles, undoFixes } from './fixing.ts'
import { didYouMean } from './nearest.ts'
import { isUnder, marginsText } from './margins.ts'
import { readWithCommon } from './read.ts'
import { accountText, lineText, reportText, summaryText } from './report.ts'
import { feedbackText } from './telling.ts'
import { watchFiles } from './watch.ts'
import { exit, readingOnce, Unusable, version, type World } from './world.ts'

/** What a check is asked for. */
export interface CheckCommand {
  readonly format: 'text' | 'json' | 'sarif' | 'junit' | 'html'
  /** Where the report is written; null: to standard output. */
  readonly out: string | null
  /** Findings that are at least so bad end with exit code 1. */
  readonly failOn: Severity
  /** A file of findings that are known: written where there is none. */
  readonly baseline: string | null
  readonly budget: number
  /** Whether no changes are tried with which goals could be met. */
  readonly quick: boolean
  /** Whether the time to spare on the way to each goal is told; and how many seconds there must be of it at least. */
  readonly margins: boolean
  readonly reserve: number | null
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

/** Checks levels, and prints what was found; or makes automatic fixes, or takes them back. */
export async function checkCommand(args: readonly string[], options: CheckCommand, world: World): Promise<number> {
  const wanted = wantedBy(options)
  const limits = { budget: options.budget, quick: options.quick, margins: options.margins || options.reserve !== null }
  const together = (['watch', 'fix', 'undoFix', 'feedback'] as const).filter((one) => options[one])
  if (together.length > 1) throw new Unusable(`--${together[0]!} and --${together[1]!} cannot be given together.`)
  const does = together.find((one) => one !== 'feedback')
  if (options.format !== 'text' && does) throw new Unusable(`--${does} writes no ${options.format}.`)
  if (does && limits.margins) throw new Unusable(`--${does} tells no time to spare.`)
  const once = readingOnce(world)
  const files = await filesFor(args, ['level', 'project'], once)
  if (options.undoFix) return await undoFixes(files, world)
  if (options.fix) return await fixFiles(files, { budget: options.budget, wanted, yes: options.yes }, world)
  if (options.watch) return await watchFiles(files, { limits, wanted }, world)
  const baseline = options.baseline === null ? null : await readBaseline(options.baseline, world)
  const isMany = files.length > 1 || (await isProjectFile(files[0], once))
  const reports: FileReport[] = []
  const shown: FileReport[] = []
  const details: string[] = []
  for await (const { report, text } of checkFiles(files, limits, once)) {
    const fresh = baseline ? withoutKnown(report, baseline) : report
    reports.push(fresh)
    const narrow = narrowed(fresh, wanted)
    shown.push(narrow)
    if (options.format !== 'text') continue
    if (isMany) world.out(lineText(narrow, world))
    if (report.outcome === 'unusable') continue
    // Of many files, those of which a line says it all need no more.
    if (!isMany || options.all || options.feedback || options.explainSearch || isNews(narrow)) {
      details.push(detailsText(narrow, text, options, world))
    }
  }
  if (options.baseline !== null && !baseline && !world.signal.aborted) {
    await writeBaseline(options.baseline, reports, world)
    return exit.clean
  }
  // What was found decides, also where only a part of it was asked for.
  const found = exitCode(reports, world, options.failOn)
  const isTight = reports.some(({ margins }) => margins?.some(({ spare }) => isUnder(spare, options.reserve)))
  const code = found === exit.clean && isTight ? exit.findings : found
  const summary = isMany ? summaryText(shown, world) : ''
  const text =
    options.format === 'text'
      ? `${details.length > 0 && isMany ? '\n' : ''}${details.join('')}${summary}`
      : await formatted(shown, options, code, world)
  if (options.out === null) world.out(text)
  else await world.writeText(options.out, text)
  return code
}

/** Whether a file is a project, which has several levels. */
async function isProjectFile(file: string | undefined, world: World): Promise<boolean> {
  if (file === undefined) return false
  const text = await world.readText(file).catch(() => '')
  return kindOf(text) === 'project'
}

/** Whether there is more to say of a report than that nothing was found. */
function isNews({ findings, accepted, counts, outcome, leftOut, known }: FileReport): boolean {
  return outcome !== 'checked' || findings.length + accepted.length + counts.undecided + leftOut + known > 0
}

function detailsText(report: FileReport, text: string, options: CheckCommand, world: World): string {
  // Colours are for terminals, not for files.
  const page = options.out === null ? world : { ...world, colours: false }
  const told = options.feedback ? feedbackText(report, page) : reportText(report, text, page, options.all)
  return told + marginsText(report, page, options.reserve) + (options.explainSearch ? accountText(report, page) : '')
}

/** Reports in a format for other programs. */
async function formatted(
  reports: readonly FileReport[],
  { format, failOn }: CheckCommand,
  exitCode: number,
  world: World,
): Promise<string> {
  if (format === 'json') return `${JSON.stringify(reports, null, 2)}\n`
  if (format === 'junit') return junitOfChecks(reports, failOn)
  if (format === 'html') return htmlText(reports, { plans: await plansOf(reports, world) })
  const found = new Set(reports.flatMap(({ findings, accepted }) => [...findings, ...accepted].map(({ rule }) => rule)))
  const pages = new Map<string, string>()
  for (const rule of found) pages.set(rule, await world.page(rule))
  return sarifText(reports, { version, exitCode, pages })
}

/** The plans of all levels that could be checked, with the numbers of what was found. */
async function plansOf(reports: readonly FileReport[], world: World): Promise<Map<string, string>> {
  const plans = new Map<string, string>()
  for (const { file, outcome, findings } of reports) {
    if (outcome === 'unusable') continue
    const { value, source } = await readWithCommon(await world.readText(file), file, world)
    if (value) plans.set(file, drawPlan(laidOut(expandLevel(value, source)), { marks: numberedMarks(findings) }))
  }
  return plans
}

function wantedBy({ rules: names, severity }: CheckCommand): Wanted {
  const known = rules.map(({ name }) => String(name))
  for (const name of names) {
    if (known.includes(name)) continue
    throw new Unusable(`--rule: there is no rule "${name}". ${didYouMean(name, known, 'zintel explain lists them.')}`)
  }
  return { rules: names.length === 0 ? null : names, severity }
}
