import { escaped } from '../model/index.ts'
import { type LaidOut, between, distance, type Point, turned } from '../space/index.ts'
import type { PlanFrame } from './plan-frame.ts'
import { coveredBy, type PlanShape, type ShapeOf } from './shapes.ts'
import { element, ink, round } from './svg.ts'

/** What is drawn in which colour. Nothing is told by its colour alone: what blocks is hatched, lines are dashed in ways of their own. */
export const colours = {
  room: '#fffdf7',
  wall: '#39424d',
  solid: '#b9b3a4',
  shut: '#a65232',
  open: '#5f7d45',
  range: '#2c6e8f',
  zone: '#8a5a9e',
  person: '#d08a1d',
  track: '#7a1f5c',
}

/** Dashes of lines. */
export const dashes = { range: '6 4', until: '2 4', zone: '2 3', open: '4 3', swing: '1 3', moved: '3 5' }

/** The fill of what blocks: hatched. */
export const hatch = 'url(#blocks)'

/** The pattern of what blocks, and the part of the page that shows the ground. */
export function patterns(frame: PlanFrame): string {
  const lines = element('path', { d: 'M-1 5L5 -1M3 9L9 3', stroke: ink, 'stroke-width': 1, 'stroke-opacity': 0.55 })
  const back = element('rect', { width: 8, height: 8, fill: colours.shut })
  const whole = element('rect', { ...frame.shown })
  return element(
    'defs',
    {},
    element('pattern', { id: 'blocks', width: 8, height: 8, patternUnits: 'userSpaceOnUse' }, back, lines),
    element('clipPath', { id: 'shown' }, whole),
  )
}

function polygon(
  frame: PlanFrame,
  outline: readonly Point[],
  attributes: Record<string, string | number | null>,
): string {
  const points = outline.map((p) => frame.toPlan(p).map(round).join(',')).join(' ')
  return element('polygon', { points, ...attributes })
}

/** Rooms, doorways, and what cannot be walked. */
export function ground({ space }: LaidOut, shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  return [
    ...[...of(shapes, 'room'), ...of(shapes, 'doorway')].map(({ outline }) =>
      polygon(frame, outline, { fill: colours.room }),
    ),
    ...space.layout.solids.map((outline) =>
      polygon(frame, outline, { fill: colours.solid, stroke: colours.wall, 'stroke-width': 1 }),
    ),
  ]
}

/** The shapes of a kind. */
export function of<K extends PlanShape['kind']>(shapes: readonly PlanShape[], kind: K): ShapeOf<K>[] {
  return shapes.filter((shape): shape is ShapeOf<K> => shape.kind === kind)
}

export function walls(shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  return of(shapes, 'wall').map(({ ends: [a, b] }) => {
    const [x1, y1] = frame.toPlan(a)
    const [x2, y2] = frame.toPlan(b)
    return element('line', { x1, y1, x2, y2, stroke: colours.wall, 'stroke-width': 2.5, 'stroke-linecap': 'round' })
  })
}

/** What each range really covers. */
export function covered(stage: LaidOut, frame: PlanFrame): string[] {
  return stage.expanded.interactables.flatMap((placed) => {
    const d = coveredBy(stage, placed)
      .map((outline) => `M${outline.map((p) => frame.toPlan(p).map(round).join(' ')).join('L')}z`)
      .join('')
    if (d === '') return []
    const look = { fill: colours.range, 'fill-opacity': 0.18, 'fill-rule': 'evenodd' }
    return [element('path', { d, ...look, stroke: colours.range, 'stroke-opacity': 0.8, 'stroke-width': 1 })]
  })
}

/** How far ranges go on paper, whatever is in the way. */
export function ranges(shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  return of(shapes, 'range').flatMap(({ at, radius, until }) => {
    const [cx, cy] = frame.toPlan(at)
    const circle = (r: number, dash: string, opacity: number): string => {
      const look = { fill: 'none', stroke: colours.range, 'stroke-opacity': opacity, 'stroke-dasharray': dash }
      return element('circle', { cx, cy, r: r * frame.scale, ...look })
    }
    return [circle(radius, dashes.range, 0.45), ...(until > radius ? [circle(until, dashes.until, 0.8)] : [])]
  })
}

export function zones(shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  const look = { fill: colours.zone, 'fill-opacity': 0.1, stroke: colours.zone, 'stroke-dasharray': dashes.zone }
  return of(shapes, 'zone').map(({ outline, at, radius, inner }) => {
    if (outline) return polygon(frame, outline, look)
    const [x, y] = frame.toPlan(at)
    const circle = (metres: number): string => {
      const r = metres * frame.scale
      return `M${round(x - r)} ${round(y)}a${round(r)} ${round(r)} 0 1 0 ${round(2 * r)} 0a${round(r)} ${round(r)} 0 1 0 ${round(-2 * r)} 0z`
    }
    const d = circle(radius) + (inner > 0 ? circle(inner) : '')
    return element('path', { d, 'fill-rule': 'evenodd', ...look })
  })
}

/** Bodies as they stand, and what their leaves sweep over. */
export function bodies(shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  return of(shapes, 'body').flatMap(({ outline, blocks, sweep, end }) => {
    const look = blocks
      ? { fill: hatch, stroke: ink, 'stroke-dasharray': null }
      : { fill: 'none', stroke: colours.open, 'stroke-dasharray': dashes.open }
    const way = { fill: 'none', stroke: colours.open, 'stroke-width': 1 }
    return [
      ...(sweep
        ? [
            polygon(frame, sweep, {
              ...way,
              'stroke-dasharray': dashes.swing,
              fill: colours.open,
              'fill-opacity': 0.08,
            }),
          ]
        : []),
      ...(end ? [polygon(frame, end, { ...way, 'stroke-dasharray': dashes.open })] : []),
      polygon(frame, outline, { ...look, 'stroke-width': 1.5 }),
    ]
  })
}

export function handles(shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  return of(shapes, 'handle').map(({ name, at, pressable }) => {
    const [x, y] = frame.toPlan(at)
    const look = { stroke: '#fff', 'stroke-width': 1.2 }
    // In a browser, its name comes up where one points at it.
    const title = element('title', {}, escaped(name))
    if (pressable) return element('circle', { cx: x, cy: y, r: 4, fill: colours.range, ...look }, title)
    return element('rect', { x: x - 3.5, y: y - 3.5, width: 7, height: 7, fill: colours.zone, ...look }, title)
  })
}

/** Where characters start, and which way they look. */
export function people(shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  return of(shapes, 'start').map(({ at, radius, facing }) => {
    const [cx, cy] = frame.toPlan(at)
    const [dx, dy] = turned([1, 0], facing)
    const r = radius * frame.scale
    return element(
      'g',
      {},
      element('circle', { cx, cy, r, fill: colours.person, 'fill-opacity': 0.85, stroke: ink }),
      element('line', { x1: cx, y1: cy, x2: cx + dx * r, y2: cy - dy * r, stroke: ink, 'stroke-width': 2 }),
    )
  })
}

/** Where characters can be moved to: a corner mark with a dot, and a stroke the way they look then. */
export function places(shapes: readonly PlanShape[], frame: PlanFrame): string[] {
  return of(shapes, 'place').map(({ name, at, facing }) => {
    const [x, y] = frame.toPlan(at)
    const [dx, dy] = turned([1, 0], facing ?? 0)
    const look = { stroke: colours.person, 'stroke-width': 1.6, fill: 'none' }
    return element(
      'g',
      {},
      element('title', {}, escaped(name)),
      element('path', { d: placeMark, transform: `translate(${round(x)} ${round(y)})`, ...look }),
      element('circle', { cx: x, cy: y, r: 2, fill: colours.person }),
      ...(facing === null ? [] : [element('line', { x1: x, y1: y, x2: x + dx * 13, y2: y - dy * 13, ...look })]),
    )
  })
}

/** The four corners of a square round a spot, as a path. */
export const placeMark = 'M-7 -3V-7H-3M3 -7H7V-3M7 3V7H3M-3 7H-7V3'

/** The way that somebody goes, with what is done on it. */
export interface Track {
  /** What is walked without a break, as spots in metres; between two of them one is moved to a place. */
  readonly pieces: readonly (readonly Point[])[]
  /** What is done where, such as the number of a step. */
  readonly stops: readonly { readonly at: Point; readonly text: string }[]
}

/** Ways as arrows, with their stops numbered. */
export function tracks(frame: PlanFrame, all: readonly Track[]): string[] {
  const ways = all.flatMap(({ pieces }) => {
    const jumps = pieces.slice(1).map((piece, i): Point[] => [pieces[i]!.at(-1)!, piece[0]!])
    return [
      ...jumps.flatMap((jump) => trackLine(frame, jump, { 'stroke-width': 1.4, 'stroke-dasharray': dashes.moved })),
      ...pieces.flatMap((piece) => trackLine(frame, piece, { 'stroke-width': 2.2 })),
    ]
  })
  return [...ways, ...stopMarks(frame, all).map(stopMark)]
}

/** A line with an arrow on each long stretch of it. */
function trackLine(frame: PlanFrame, points: readonly Point[], look: Record<string, string | number>): string[] {
  const [first, ...rest] = points.map((p) => frame.toPlan(p))
  if (!first || rest.length === 0) return []
  const d = `M${first.map(round).join(' ')}${rest.map((p) => `L${p.map(round).join(' ')}`).join('')}`
  const line = element('path', { d, fill: 'none', stroke: colours.track, 'stroke-linejoin': 'round', ...look })
  return [line, ...points.slice(1).flatMap((p, i) => arrow(frame, points[i]!, p))]
}

/** An arrow half-way, where there is room for one. */
function arrow(frame: PlanFrame, from: Point, to: Point): string[] {
  if (distance(from, to) * frame.scale < 26) return []
  const [x, y] = frame.toPlan(between(from, to, 0.55))
  const angle = (-Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI
  return [
    element('path', {
      d: 'M-5 -4.5L6 0L-5 4.5z',
      transform: `translate(${round(x)} ${round(y)}) rotate(${round(angle)})`,
      fill: colours.track,
    }),
  ]
}

/** A mark with the numbers of what is done on a spot, or so near to it that their marks would lie over each other. */
interface StopMark {
  /** The middle of the mark, in pixels. */
  readonly at: Point
  readonly texts: string[]
}

function stopMarks(frame: PlanFrame, all: readonly Track[]): StopMark[] {
  const marks: StopMark[] = []
  for (const { at, text } of all.flatMap(({ stops }) => stops)) {
    const [x, y] = frame.toPlan(at)
    const near = marks.find((mark) => {
      const width = (widthOf(mark.texts) + 18) / 2
      return Math.abs(mark.at[0] - x) < width && Math.abs(mark.at[1] - y) < 18
    })
    if (near) near.texts.push(text)
    else marks.push({ at: [x, y], texts: [text] })
  }
  return marks
}

/** Numbers, with those that follow one another put together: 3-5, 8. */
function inShort(texts: readonly string[]): string {
  const runs: [first: string, last: string][] = []
  for (const text of texts) {
    const run = runs.at(-1)
    if (run && Number(text) === Number(run[1]) + 1) run[1] = text
    else runs.push([text, text])
  }
  return runs.map(([first, last]) => (first === last ? first : `${first}\u2013${last}`)).join(', ')
}

function widthOf(texts: readonly string[]): number {
  return Math.max(18, inShort(texts).length * 7 + 8)
}

/** The corners of the marks of ways, in pixels: labels stay off them. */
export function stopBoxes(frame: PlanFrame, all: readonly Track[]): Point[][] {
  return stopMarks(frame, all).map(({ at: [x, y], texts }) => {
    const half = widthOf(texts) / 2
    return [
      [x - half, y - 9],
      [x + half, y + 9],
    ]
  })
}

function stopMark({ at: [x, y], texts }: StopMark): string {
  const width = widthOf(texts)
  return element(
    'g',
    {},
    element('rect', { x: x - width / 2, y: y - 9, width, height: 18, rx: 9, fill: colours.track, stroke: '#fff' }),
    element(
      'text',
      {
        x,
        y,
        'font-size': 11,
        fill: '#fff',
        'font-weight': 700,
        'text-anchor': 'middle',
        'dominant-baseline': 'central',
      },
      inShort(texts),
    ),
  )
}
