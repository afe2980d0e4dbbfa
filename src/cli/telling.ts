import { type FileReport, reasonTexts, type Telling } from '../findings/index.ts'
import { channels, printable, type Reason } from '../model/index.ts'
import { paint, type Paint, wrapped } from './paint.ts'
import type { World } from './world.ts'

/** What is perceived of every moment that can happen: a table of moments by channels. */
export function feedbackText(report: FileReport, world: World): string {
  const colour = paint(world.colours)
  const head = `${colour.bold(printable(report.file))}  ${printable(report.title ?? '')}`
  const used = channels.filter((channel) =>
    report.feedback.some((one) => one.channels.some((own) => own.channel === channel)),
  )
  const names = report.feedback.map(momentName)
  const wide = Math.max(6, ...names.map(({ length }) => length))
  const room = Math.max(0, world.columns - wide - 4)
  const columns = used.map((channel) => ({ channel, width: Math.max(channel.length, 4) }))
  const fits = columns.reduce((sum, { width }) => sum + width + 2, 0) <= room
  const lines: string[] = []
  const heading = `  ${'moment'.padEnd(wide)}  ${columns.map(({ channel, width }) => channel.padEnd(width)).join('  ')}`
  let before = ''
  for (const [i, telling] of report.feedback.entries()) {
    if (telling.interactable !== before) lines.push(`${i === 0 ? '' : '\n'}${colour.bold(telling.interactable)}`)
    before = telling.interactable
    const own = (channel: string): readonly string[] =>
      telling.channels.find((one) => one.channel === channel)?.texts ?? []
    const cells = fits
      ? columns.map(({ channel, width }) => cell(own(channel).length, width, colour)).join('  ')
      : telling.channels.map(({ channel }) => channel).join(', ')
    const nothing = isAnswer(telling) ? colour.warning('nothing') : colour.faint('nothing')
    const silent = telling.channels.length === 0 ? nothing : cells
    lines.push(`  ${names[i]!.padEnd(wide)}  ${silent}`.trimEnd())
  }
  const legend =
    'Each line is a moment that a play has shown to happen (? where that could not be told), and on how many channels something is perceived of it.'
  const moments = `${String(report.feedback.length)} moments, ${String(report.feedback.filter((one) => one.channels.length === 0).length)} of which nothing is perceived but what one sees.`
  return `${[head, ...(fits ? [colour.faint(heading)] : []), lines.join('\n'), wrapped(`${moments} ${legend}`, world.columns, '')].join('\n\n')}\n\n`
}

/** Whether a player has asked for something, and waits to be told. */
function isAnswer({ moment }: Telling): boolean {
  return ['refused', 'missing', 'too-full'].includes(moment)
}

/** The reason that a moment stands for. */
const impliedBy: Readonly<Record<string, string>> = { missing: 'item missing', 'too-full': 'no room' }

function momentName({ moment, which, happens }: Telling): string {
  const all = which === null || moment === 'transition' ? '' : reasonsText(which)
  // That an item is missing, or there is no room, the moment says by itself.
  const reasons = all === impliedBy[moment] ? '' : all
  const name = moment === 'transition' ? (which ?? '') : reasons === '' ? moment : `${moment}: ${reasons}`
  return happens === 'undecided' ? `${name} ?` : name
}

function cell(count: number, width: number, colour: Paint): string {
  const text = (count === 0 ? '·' : count === 1 ? 'x' : String(count)).padEnd(width)
  return count === 0 ? colour.faint(text) : colour.good(text)
}

/** The reasons of a refusal, such as `carries, room-for`, in words. */
function reasonsText(which: string): string {
  const words = which.split(', ').map((reason) => reasonTexts[reason as Reason])
  return [...new Set(words)].filter((word) => word !== '').join(', ')
}
