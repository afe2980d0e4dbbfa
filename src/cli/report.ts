import type { FileReport, Finding, Question } from '../findings/index.ts'
import { type Place, placeFrame, placeText, printable } from '../model/index.ts'
import { type Paint, paint, wrapped } from './paint.ts'
import type { World } from './world.ts'

const severities = ['error', 'warning', 'advice'] as const

/** A report as people read it. */
export function reportText(report: FileReport, text: string, world: World): string {
  const colour = paint(world.colours)
  const head = `${colour.bold(printable(report.file))}  ${printable(report.title ?? '')}`
  const findings = severities.flatMap((severity) => report.findings.filter((one) => one.severity === severity))
  const parts = [
    head,
    ...findings.map((finding, i) => findingText(finding, i + 1, text, colour, world.columns)),
    ...openText(report.questions, colour, world.columns),
    closing(report, colour, world.columns),
  ]
  return `${parts.join('\n\n')}\n\n`
}

function findingText(finding: Finding, number: number, text: string, colour: Paint, columns: number): string {
  const { severity } = finding
  const mark = severity === 'error' ? colour.error : severity === 'warning' ? colour.warning : colour.faint
  const count = `${String(number)}.`.padStart(3)
  const lines = [`${count} ${mark(`${severity}: ${finding.rule}`)}  ${colour.bold(finding.subject)}`]
  lines.push(wrapped(printable(finding.message), columns, '    '))
  if (finding.place) lines.push(...placeLines(finding.place, text, colour))
  if (finding.steps.length > 0) {
    lines.push(finding.short ? '    Steps (fewer might do, but none of these can be left out):' : '    Steps:')
    lines.push(...finding.steps.map((step, i) => `      ${String(i + 1).padStart(2)}. ${printable(step.text)}`))
  }
  if (finding.follows.length > 0) {
    const also = finding.follows.map((one) => `${one.rule} ${one.subject}`).join(', ')
    lines.push(colour.faint(wrapped(`Mending this also mends: ${also}.`, columns, '    ')))
  }
  return lines.join('\n')
}

function placeLines(place: Place, text: string, colour: Paint): string[] {
  const frame = placeFrame(text, place)
  const lines = [`    ${colour.place(printable(placeText(place)))}`]
  if (frame !== '') lines.push(colour.faint(frame.replaceAll(/^/gm, '    ')))
  return lines
}

/** What could not be settled, by reason. */
function openText(questions: readonly Question[], colour: Paint, columns: number): string[] {
  const open = questions.filter(({ answer }) => answer === 'open')
  const reasons = [...new Set(open.map(({ why }) => why ?? ''))]
  return reasons.map((reason) => {
    const own = open.filter(({ why }) => (why ?? '') === reason).map(({ rule, subject }) => `${rule} ${subject}`)
    const shown = own.length > 6 ? [...own.slice(0, 6), `and ${String(own.length - 6)} more`] : own
    return `    ${colour.warning('open')}: ${reason}\n${wrapped(shown.join(', '), columns, '      ')}`
  })
}

function closing(report: FileReport, colour: Paint, columns: number): string {
  const { counts, findings, questions } = report
  const by = severities.map(
    (severity) => [severity, findings.filter((one) => one.severity === severity).length] as const,
  )
  const found = by.filter(([, count]) => count > 0).map(([severity, count]) => plural(count, severity))
  const what =
    found.length > 0
      ? colour.bold(`Found: ${found.join(', ')}.`)
      : counts.open > 0
        ? colour.warning('Nothing found, but something is open.')
        : colour.good('Nothing found, nothing open.')
  const proved = provedText(questions)
  const asked = `${String(questions.length)} questions: ${String(counts.found)} found, ${String(counts.absent)} absent, ${String(counts.open)} open.`
  const looked = `Looked at ${plural(counts.situations, 'situation')} on ${plural(counts.patches, 'patch', 'patches')}, and replayed ${plural(counts.replays, 'play')}.`
  const rest = report.outcome === 'interrupted' ? colour.warning('Interrupted: what is known until then.') : ''
  return [what, proved, `${asked} ${looked}`, rest]
    .filter((line) => line !== '')
    .map((line) => wrapped(line, columns, ''))
    .join('\n')
}

/** What was shown for goals. */
function provedText(questions: readonly Question[]): string {
  const kept = questions
    .filter(({ rule, answer }) => rule === 'soft-lock' && answer === 'absent')
    .map(({ subject }) => subject)
  const safe = kept.filter((goal) =>
    questions.some(({ rule, subject, answer }) => rule === 'wasted-item' && subject === goal && answer === 'absent'),
  )
  if (safe.length === 0) return ''
  return `Proved: ${safe.join(', ')} can be met, and whatever a player does, can still be met.`
}

function plural(count: number, one: string, many = `${one}s`): string {
  const number = String(count).replace(/\B(?=(\d{3})+$)/g, ',')
  if (one === 'advice') return `${number} advice`
  return `${number} ${count === 1 ? one : many}`
}
