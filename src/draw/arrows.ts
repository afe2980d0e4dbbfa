import { escaped } from '../model/index.ts'
import { element } from './svg.ts'

/** A spot of a drawing, in pixels. */
export interface Spot {
  readonly x: number
  readonly y: number
}

/** The colour of arrows. */
const line = '#39424d'

/** A line of text about a spot. */
export function textLine(x: number, y: number, text: string, look: Readonly<Record<string, string | number>>): string {
  return element('text', { x, y, 'text-anchor': 'middle', ...look }, escaped(text))
}

/** A line through corners, with a head at its end. */
export function arrow(points: readonly Spot[]): string {
  const end = points[points.length - 1]!
  const before = points[points.length - 2] ?? end
  const length = Math.hypot(end.x - before.x, end.y - before.y) || 1
  const [dx, dy] = [(end.x - before.x) / length, (end.y - before.y) / length]
  const corner = (along: number, across: number): string =>
    `${(end.x - dx * along - dy * across).toFixed(1)},${(end.y - dy * along + dx * across).toFixed(1)}`
  return element(
    'g',
    {},
    element('path', { d: smooth(points), fill: 'none', stroke: line, 'stroke-width': 1.3 }),
    element('polygon', { points: [corner(0, 0), corner(9, 4), corner(9, -4)].join(' '), fill: line }),
  )
}

/** A way that rounds its corners: from middle to middle of its pieces. */
function smooth(points: readonly Spot[]): string {
  const at = ({ x, y }: Spot): string => `${x.toFixed(1)} ${y.toFixed(1)}`
  const middle = (a: Spot, b: Spot): Spot => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 })
  const [first, ...rest] = points
  if (!first) return ''
  const pieces = rest.map((point, i) => {
    const next = rest[i + 1]
    return next ? `Q${at(point)} ${at(middle(point, next))}` : `L${at(point)}`
  })
  return `M${at(first)}${pieces.join('')}`
}
