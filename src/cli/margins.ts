import type { FileReport } from '../findings/index.ts'
import { paint, wrapped } from './paint.ts'
import type { World } from './world.ts'

type Margin = NonNullable<FileReport['margins']>[number]

/** Whether there is less time to spare than there must be. */
export function isUnder(spare: number | null, reserve: number | null): boolean {
  return spare !== null && reserve !== null && spare < reserve
}

/** How much time there is to spare on the way to each goal, the least first; nothing where that was not asked for. */
export function marginsText({ margins }: FileReport, { columns, colours }: World, reserve: number | null): string {
  if (!margins) return ''
  const colour = paint(colours)
  const spareOf = ({ spare }: Margin): number => spare ?? Infinity
  const lines = [...margins]
    .sort((a, b) => spareOf(a) - spareOf(b))
    .map((margin) => {
      const text = wrapped(textOf(margin, reserve), columns, '  ')
      return isUnder(margin.spare, reserve) ? colour.warning(text) : text
    })
  const none = margins.length === 0 ? [wrapped('No way to a goal was found.', columns, '  ')] : []
  return [colour.bold('Time to spare'), ...lines, ...none, '', ''].join('\n')
}

function textOf({ goal, spare, step, text, by }: Margin, reserve: number | null): string {
  if (spare === null) return `${goal}: nothing on the way runs out.`
  const few = isUnder(spare, reserve) ? `, less than the ${seconds(reserve!)} wanted` : ''
  const where = `before step ${String(step)} (${(text ?? '').replace(/\.$/, '')})`
  if (!by) return `${goal}: ${seconds(spare)} to spare${few}, ${where}.`
  const needed = Math.max(0, by.given - spare)
  return `${goal}: ${seconds(spare)} to spare${few}, ${where}: ${seconds(by.given)} given, ${seconds(needed)} needed. Then ${by.interactable} makes its transition ${by.transition}.`
}

function seconds(value: number): string {
  return `${String(Math.round(value * 1000) / 1000)} s`
}
