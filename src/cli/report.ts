import type { FileReport, Finding, Question } from '../findings/index.ts'
import { type Place, placeFrame, placeText, printable } from '../model/index.ts'
import { type Paint, paint, wrapped } from './paint.ts'
import type { World } from './world.ts'

const severities = ['error', 'warning', 'advice'] as const

const headings = {
  error: 'Errors: a player can be stuck, or a name leads nowhere',
  warning: 'Warnings: a player can be misled',
  advice: 'Advice',
}

/** A report as people read it; with `isWhole`, long lists are printed whole. */
export function reportText(report: FileReport, text: string, world: World, isWhole = false): string {
  const page: Page = { file: report.file, text, colour: paint(world.colours), columns: world.columns, isWhole }
  const { colour, columns } = page
  const head = `${colour.bold(printable(report.file))}  ${printable(report.title ?? '')}`
  const parts = [
    head,
    ...findingsText(report.findings, page),
    ...openText(report.questions, page),
    ...acceptedText(report, colour, columns),
    closingText(report, page),
  ]
  return `${parts.join('\n\n')}\n\n`
}

/** What a report is written with. */
export interface Page {
  /** The file of the level. */
  readonly file: string
  /** The text of the level. */
  readonly text: string
  readonly colour: Paint
  readonly columns: number
  /** Whether long lists are printed whole. */
  readonly isWhole: boolean
}

/** Findings by severity, then by the interactable that they are about, counted through. */
function findingsText(findings: readonly Finding[], page: Page): string[] {
  const { colour } = page
  const blocks: string[] = []
  let before: Finding | null = null
  for (const [i, finding] of findings.entries()) {
    const isNewSeverity = before?.severity !== finding.severity
    if (isNewSeverity) blocks.push(markOf(finding, colour)(headings[finding.severity]))
    const home = finding.about ?? finding.subject
    const isNewHome = isNewSeverity || home !== (before?.about ?? before?.subject)
    const head = isNewHome ? `${colour.bold(printable(home))}\n` : ''
    blocks.push(head + findingText(finding, i + 1, page))
    before = finding
  }
  return blocks
}

function markOf({ severity }: Finding, colour: Paint): (text: string) => string {
  return severity === 'error' ? colour.error : severity === 'warning' ? colour.warning : colour.faint
}

/** One finding: what happens, where, the steps, what follows from it, and the fix. */
export function findingText(finding: Finding, number: number, page: Page): string {
  const { colour, columns } = page
  const count = `${String(number)}.`.padStart(4)
  const lines = [`${count} ${markOf(finding, colour)(finding.rule)}`]
  if (finding.headline !== null) lines.push(wrapped(colour.bold(printable(finding.headline)), columns, indent))
  const cause = finding.headline === null ? finding.message : `The cause: ${finding.message}`
  lines.push(wrapped(printable(cause), columns, indent))
  if (finding.also.length > 0) {
    lines.push(wrapped(`The same line says so of ${finding.also.join(', ')}.`, columns, indent))
  }
  if (finding.place) lines.push(...placeLines(finding.place, page))
  for (const { value, instances } of finding.table) {
    const said = value ?? '(nothing)'
    lines.push(
      wrapped(`${String(instances.length).padStart(3)} × ${said}: ${instances.join(', ')}`, columns, `${indent}  `),
    )
  }
  if (finding.steps.length > 0) {
    lines.push(`${indent}Steps${finding.short ? ' (fewer might do, but none of these can be left out)' : ''}:`)
    lines.push(...finding.steps.map((step, i) => `${indent}  ${String(i + 1).padStart(2)}. ${printable(step.text)}`))
  }
  if (finding.lastSafe) lines.push(...lastSafeLines(finding.lastSafe, finding.rule, page))
  lines.push(...fixLines(finding, page))
  if (finding.follows.length > 0) {
    lines.push(colour.faint(wrapped(`Fixing this also fixes: ${followsText(finding, page)}.`, columns, indent)))
  }
  return lines.join('\n')
}

const indent = '     '

/** So many of a list are named. */
const mostNamed = 6

/** What follows from a finding: goals first. */
function followsText({ follows }: Finding, { isWhole }: Page): string {
  const isGoal = ({ rule }: Finding['follows'][number]): boolean => rule === 'unreachable-goal'
  const all = [...follows.filter(isGoal), ...follows.filter((one) => !isGoal(one))]
  return inShort(
    all.map((one) => `${one.rule} ${one.subject}`),
    isWhole,
  )
}

/** The first of a long list, and how many more there are. */
function inShort(all: readonly string[], isWhole: boolean): string {
  if (isWhole || all.length <= mostNamed) return all.join(', ')
  return `${all.slice(0, mostNamed).join(', ')}, and ${String(all.length - mostNamed)} more (--all lists them)`
}

/** What can still be, until it is lost, where that is not a goal. */
const stillSo: Readonly<Record<string, string>> = {
  trapped: 'there is still a way out',
  'cannot-leave': 'there is still a way out',
  'broken-requirement': 'it can still be brought about',
}

/** Until when the goal can still be met. */
function lastSafeLines(
  { after, steps }: NonNullable<Finding['lastSafe']>,
  rule: string,
  { columns, isWhole }: Page,
): string[] {
  const until = after === 0 ? 'At the start' : `After step ${String(after)}`
  const more = `in ${plural(steps.length, 'more step')}${isWhole ? '' : ' (--all lists them)'}`
  const said = wrapped(
    `${until} ${stillSo[rule] ?? 'the goal can still be met'}, ${more}; step ${String(after + 1)} loses it.`,
    columns,
    indent,
  )
  if (!isWhole) return [said]
  return [said, ...steps.map((step, i) => `${indent}  ${String(i + 1).padStart(2)}. ${printable(step.text)}`)]
}

function placeLines(place: Place, { file, text, colour }: Page): string[] {
  // Of what stands in another file, its place will do.
  const frame = place.file === null || place.file === file ? placeFrame(text, place) : ''
  const lines = [`${indent}${colour.place(printable(placeText(place)))}`]
  if (frame !== '') lines.push(colour.faint(frame.replaceAll(/^/gm, indent)))
  return lines
}

/** The fix, with the lines as they would be; after it what was tried. */
function fixLines({ rule, fix, tried }: Finding, { colour, columns }: Page): string[] {
  const says = printable(`Fix: ${fix.says}${fix.automatic ? ' (--fix does it.)' : ''}`)
  const lines = [wrapped(says, columns, indent).replace('Fix:', colour.good('Fix:')), ...changeLines(fix.lines, colour)]
  const then = rule === 'unreachable-goal' ? 'Then the goal can be met.' : 'Then it is not lost so any more.'
  for (const [i, small] of tried.slice(0, mostTried).entries()) {
    const word = i === 0 ? 'Tried:' : 'Or:'
    const more = i === 0 ? ` ${then}${tried.length > 1 ? ' Others are as small:' : ''}` : ''
    const text = wrapped(printable(`${word} ${small.says}${more}`), columns, indent)
    lines.push(text.replace(word, colour.good(word)), ...changeLines(small.lines, colour))
  }
  return lines
}

/** So many changes that were tried are printed. */
const mostTried = 3

/** Lines that go, and those that come in their place. */
export function changeLines(change: Finding['fix']['lines'], colour: Paint): string[] {
  if (!change) return []
  const numbered = (line: string, i: number, mark: string): string =>
    `${indent}${String(change.line + i).padStart(5)} ${mark} ${printable(line)}`
  return [
    ...change.was.map((line, i) => colour.error(numbered(line, i, '-'))),
    ...change.becomes.map((line, i) => colour.good(numbered(line, i, '+'))),
  ]
}

/** What could not be settled, by reason. */
function openText(questions: readonly Question[], { colour, columns, isWhole }: Page): string[] {
  const undecided = questions.filter(({ answer }) => answer === 'undecided')
  const reasons = [...new Set(undecided.map(({ why }) => why ?? ''))]
  return reasons.map((reason) => {
    const own = undecided.filter(({ why }) => (why ?? '') === reason).map(({ rule, subject }) => `${rule} ${subject}`)
    return `${indent}${colour.warning('undecided')}: ${reason}\n${wrapped(inShort(own, isWhole), columns, `${indent}  `)}`
  })
}

function acceptedText({ accepted }: FileReport, colour: Paint, columns: number): string[] {
  if (accepted.length === 0) return []
  const lines = accepted.map(({ rule, subject, because }) =>
    wrapped(`${rule} ${subject}: ${printable(because)}`, columns, indent),
  )
  return [[colour.faint('Accepted in the file'), ...lines].join('\n')]
}

/** How a level was explored. */
export function accountText({ account }: FileReport, { columns, colours }: World): string {
  const lines = account.map((line) => wrapped(printable(line), columns, '  '))
  return [paint(colours).bold('How it was explored'), ...lines, '', ''].join('\n')
}

/** The closing lines: how much was found, what was proved, how far was looked, and what to do next. */
export function closingText(report: FileReport, { colour, columns }: Page): string {
  const { counts, findings, questions } = report
  const by = severities.map(
    (severity) => [severity, findings.filter((one) => one.severity === severity).length] as const,
  )
  const found = by.filter(([, count]) => count > 0).map(([severity, count]) => plural(count, severity))
  const what =
    found.length > 0
      ? colour.bold(`Found: ${found.join(', ')}.`)
      : report.leftOut > 0
        ? colour.warning('Nothing of what was asked for.')
        : report.known > 0
          ? colour.good('Nothing new found.')
          : report.outcome === 'interrupted'
            ? colour.warning('Nothing found until then.')
            : counts.undecided > 0
              ? colour.warning('Nothing found, but something is undecided.')
              : colour.good(
                  report.accepted.length > 0
                    ? 'Nothing else found, nothing undecided.'
                    : 'Nothing found, nothing undecided.',
                )
  const proved = provedTexts(questions)
  const asked = `${String(questions.length)} questions: ${String(counts.found)} found, ${String(counts.ruledOut)} ruled out, ${String(counts.undecided)} undecided.`
  const looked = `Looked at ${plural(counts.situations, 'situation')} on ${plural(counts.patches, 'patch', 'patches')}, and replayed ${plural(counts.replays, 'play')}.`
  const rest = report.outcome === 'interrupted' ? colour.warning('Interrupted: what is known until then.') : ''
  const left =
    report.leftOut === 0
      ? ''
      : `${plural(report.leftOut, 'finding')} left out by --rule or --severity; the exit code is that of all.`
  const known = report.known === 0 ? '' : `${plural(report.known, 'finding')} known (--baseline).`
  const isAboutGoals = findings.some((one) => [one, ...one.follows].some(({ rule }) => aboutGoals.includes(rule)))
  const untried = report.quick && isAboutGoals ? 'Changes with which a goal could be met were not tried (--quick).' : ''
  const others = report.withoutLevels.join(', ')
  const alone =
    others === ''
      ? ''
      : `Checked without its project: what ${others} ${report.withoutLevels.length > 1 ? 'give' : 'gives'}, and coming back from there, is left out of account. Check the project file for that.`
  const unread =
    report.unread.length === 0
      ? ''
      : `Of the other levels of its project, ${report.unread.join(', ')} could not be read: what hangs on ${report.unread.length > 1 ? 'them' : 'it'} is undecided.`
  const together =
    report.together.length === 0
      ? ''
      : `Explored as one with the other levels of its project: ${report.together.join(', ')}.`
  return [
    what,
    left,
    known,
    untried,
    ...proved,
    alone,
    unread,
    together,
    `${asked} ${looked}`,
    nextText(findings),
    rest,
  ]
    .filter((line) => line !== '')
    .map((line) => wrapped(line, columns, ''))
    .join('\n')
}

/** The rules about goals. */
const aboutGoals = ['unreachable-goal', 'soft-lock', 'wasted-item']

/** What to do next about findings. */
function nextText(findings: readonly Finding[]): string {
  const [first] = findings
  if (!first) return ''
  const certain = findings.filter(({ fix }) => fix.automatic).length
  const fixes = certain > 0 ? ` ${plural(certain, 'automatic fix', 'automatic fixes')}: zintel check --fix.` : ''
  return `More about a rule: zintel explain ${first.rule}.${fixes}`
}

/** What was shown for goals and requirements. */
function provedTexts(questions: readonly Question[]): string[] {
  const ruledOut = (of: string): string[] =>
    questions.flatMap(({ rule, subject, answer }) => (rule === of && answer === 'ruled-out' ? [subject] : []))
  const wasted = ruledOut('wasted-item')
  const whyOf = new Map(
    questions.flatMap(({ rule, subject, why }) => (rule === 'soft-lock' ? [[subject, why] as const] : [])),
  )
  const kept = ruledOut('soft-lock').filter((goal) => wasted.includes(goal))
  const safe = kept.filter((goal) => (whyOf.get(goal) ?? null) === null)
  const others = kept.filter((goal) => !safe.includes(goal))
  const held = ruledOut('broken-requirement')
  return [
    ...(safe.length > 0
      ? [`Proved: ${safe.join(', ')} can be met, and whatever a player does, can still be met.`]
      : []),
    ...others.map(
      (goal) => `Proved: ${goal} can be met, and whatever a player does, can still be met, but ${whyOf.get(goal)!}.`,
    ),
    ...(held.length > 0
      ? [`Proved: ${held.join(', ')} ${held.length > 1 ? 'hold' : 'holds'}, whatever anybody does.`]
      : []),
  ]
}

/** A file in one line: how much was found in it. */
export function lineText(report: FileReport, world: World): string {
  const colour = paint(world.colours)
  const { counts, findings, outcome } = report
  const by = severities.map((severity) => plural(findings.filter((one) => one.severity === severity).length, severity))
  const found = by.filter((one) => !one.startsWith('0 '))
  const worst = findings.some(({ severity }) => severity === 'error') ? colour.error : colour.warning
  const said =
    outcome === 'unusable'
      ? colour.error('cannot be used')
      : outcome === 'interrupted'
        ? colour.warning('interrupted')
        : found.length > 0
          ? worst(found.join(', '))
          : counts.undecided > 0
            ? colour.warning(`${String(counts.undecided)} undecided`)
            : colour.good('nothing found, nothing undecided')
  return `${printable(report.file)}: ${said}\n`
}

/** The last line about several files. */
export function summaryText(reports: readonly FileReport[], world: World): string {
  const findings = reports.flatMap((report) => report.findings)
  const by = severities.map((severity) => plural(findings.filter((one) => one.severity === severity).length, severity))
  const found = by.filter((one) => !one.startsWith('0 '))
  const count = (isSo: (report: FileReport) => boolean): number => reports.filter(isSo).length
  const rest = [
    [count(({ outcome }) => outcome === 'unusable'), 'cannot be used'],
    [count(({ counts }) => counts.undecided > 0), 'with something undecided'],
  ] as const
  const more = rest.flatMap(([number, what]) => (number > 0 ? [`${plural(number, 'file')} ${what}`] : []))
  const said = [found.length > 0 ? found.join(', ') : 'nothing found', ...more].join('; ')
  return wrapped(`${plural(reports.length, 'file')}: ${said}.`, world.columns, '') + '\n'
}

/** A number of things, in words: `3 errors`. */
export function plural(count: number, one: string, many = `${one}s`): string {
  const number = String(count).replace(/\B(?=(\d{3})+$)/g, ',')
  if (one === 'advice') return `${number} advice`
  return `${number} ${count === 1 ? one : many}`
}
