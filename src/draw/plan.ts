import { escaped } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { handlesNear, middleOf, nearness, type Point } from '../space/index.ts'
import { type Label, placeLabels } from './labels.ts'
import { element, ink, paper, round } from './svg.ts'

/** How a plan is drawn. */
export interface PlanOptions {
  /** Pixels a metre; chosen to fit 1200 × 720 where it is left out. */
  readonly scale?: number | undefined
  /** The state of each interactable, by name; the initial ones where it is left out. */
  readonly states?: Readonly<Record<string, string>> | undefined
  /** Leave out what stands for people and what moves: for a page that draws these itself. */
  readonly still?: boolean | undefined
}

/** Where things are on a plan: pixels for metres. */
export interface PlanFrame {
  readonly width: number
  readonly height: number
  readonly scale: number
  /** The pixel of a spot in metres. */
  readonly toPlan: (p: Point) => Point
  /** The spot under a pixel, in metres. */
  readonly toGround: (p: Point) => Point
}

const margin = 28
const footer = 46

const colours = {
  room: '#fffdf7',
  wall: '#39424d',
  solid: '#b9b3a4',
  shut: '#a65232',
  open: '#7f9a65',
  range: '#2c6e8f',
  zone: '#8a5a9e',
  person: '#d08a1d',
}

/** Where the plan of a stage puts things. */
export function planFrame(stage: Stage, scale?: number): PlanFrame {
  const { rooms, doorways } = stage.space.layout
  const points = [...rooms, ...doorways].flatMap(({ outline }) => outline)
  for (const { index, radius } of stage.expanded.interactables) {
    const { rangeFrom, pressable } = stage.space.layout.figures[index]!
    if (!rangeFrom || !pressable) continue
    points.push([rangeFrom[0] - radius, rangeFrom[1] - radius], [rangeFrom[0] + radius, rangeFrom[1] + radius])
  }
  const left = Math.min(...points.map((p) => p[0]))
  const right = Math.max(...points.map((p) => p[0]))
  const low = Math.min(...points.map((p) => p[1]))
  const high = Math.max(...points.map((p) => p[1]))
  const chosen =
    scale ?? Math.min((1200 - 2 * margin) / (right - left), (720 - 2 * margin - footer) / (high - low), 120)
  return {
    width: (right - left) * chosen + 2 * margin,
    height: (high - low) * chosen + 2 * margin + footer,
    scale: chosen,
    toPlan: ([x, y]) => [margin + (x - left) * chosen, margin + (high - y) * chosen],
    toGround: ([x, y]) => [left + (x - margin) / chosen, high - (y - margin) / chosen],
  }
}

/** The plan of a level as an SVG file: to scale, seen from above, with ranges, zones and bodies. */
export function drawPlan(stage: Stage, options: PlanOptions = {}): string {
  const frame = planFrame(stage, options.scale)
  const parts = [
    element('rect', { width: frame.width, height: frame.height, fill: paper }),
    ...rooms(stage, frame),
    ...zones(stage, frame),
    ...answering(stage, frame),
    ...ranges(stage, frame),
    ...walls(stage, frame),
    ...(options.still ? [] : bodies(stage, frame, options.states ?? {})),
    ...handles(stage, frame),
    ...(options.still ? [] : people(stage, frame)),
    ...labels(stage, frame, options.still ?? false),
    ...footing(stage, frame, options.still ?? false),
  ]
  const title = element('title', {}, escaped(stage.expanded.level.title))
  return `${element(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      viewBox: `0 0 ${round(frame.width)} ${round(frame.height)}`,
      width: frame.width,
      height: frame.height,
      'font-family': 'DejaVu Sans, Verdana, sans-serif',
      role: 'img',
    },
    title,
    ...parts,
  )}\n`
}

function polygon(
  frame: PlanFrame,
  outline: readonly Point[],
  attributes: Record<string, string | number | null>,
): string {
  const points = outline.map((p) => frame.toPlan(p).map(round).join(',')).join(' ')
  return element('polygon', { points, ...attributes })
}

function rooms({ space }: Stage, frame: PlanFrame): string[] {
  const { layout } = space
  return [
    ...layout.rooms.map(({ outline }) => polygon(frame, outline, { fill: colours.room })),
    ...layout.doorways.map(({ outline }) => polygon(frame, outline, { fill: colours.room })),
    ...layout.solids.map((outline) =>
      polygon(frame, outline, { fill: colours.solid, stroke: colours.wall, 'stroke-width': 1 }),
    ),
  ]
}

function walls({ space }: Stage, frame: PlanFrame): string[] {
  return space.layout.walls.map(({ a, b }) => {
    const [x1, y1] = frame.toPlan(a)
    const [x2, y2] = frame.toPlan(b)
    return element('line', { x1, y1, x2, y2, stroke: colours.wall, 'stroke-width': 2.5, 'stroke-linecap': 'round' })
  })
}

/** Where a press would be answered, cell by cell: in range, in reach and not behind a wall. */
function answering(stage: Stage, frame: PlanFrame): string[] {
  const { grid } = stage.space.patches[0]!
  const side = grid.size * frame.scale
  let path = ''
  for (let row = 0; row < grid.rows; row++) {
    for (let column = 0; column < grid.columns; column++) {
      const from = column
      while (column < grid.columns && isAnswered(stage, row * grid.columns + column)) column++
      if (column === from) continue
      const [x, y] = frame.toPlan([grid.left + from * grid.size, grid.low + (row + 1) * grid.size])
      path += `M${round(x)} ${round(y)}h${round((column - from) * side)}v${round(side)}h${round((from - column) * side)}z`
    }
  }
  return path === '' ? [] : [element('path', { d: path, fill: colours.range, 'fill-opacity': 0.22 })]
}

function isAnswered({ space, expanded }: Stage, cell: number): boolean {
  const { grid } = space.patches[0]!
  if (grid.stands[cell] === 0) return false
  const spot = middleOf(grid, cell)
  const person = expanded.characters[0]!
  return handlesNear(space, person, spot).some((machine) => {
    return nearness(space.layout, expanded.interactables[machine]!, person, spot)?.answers === 'yes'
  })
}

function ranges({ space, expanded }: Stage, frame: PlanFrame): string[] {
  return expanded.interactables.flatMap(({ index, radius }) => {
    const figure = space.layout.figures[index]!
    if (!figure.pressable || !figure.rangeFrom) return []
    const [cx, cy] = frame.toPlan([figure.rangeFrom[0], figure.rangeFrom[1]])
    const common = { cx, cy, r: radius * frame.scale, fill: colours.range }
    return [
      element('circle', {
        ...common,
        'fill-opacity': 0.03,
        stroke: colours.range,
        'stroke-opacity': 0.55,
        'stroke-dasharray': '5 4',
      }),
    ]
  })
}

function zones({ space }: Stage, frame: PlanFrame): string[] {
  const look = { fill: colours.zone, 'fill-opacity': 0.1, stroke: colours.zone, 'stroke-dasharray': '2 3' }
  return space.layout.zones.flatMap((zone) => {
    // A character that touches a body is at the body, which is drawn already.
    if (zone.kind === 'skin') return []
    if (zone.kind === 'polygon') return polygon(frame, zone.outline, look)
    const [cx, cy] = frame.toPlan(zone.at)
    const disc = element('circle', { cx, cy, r: zone.radius * frame.scale, ...look })
    return zone.kind === 'circle'
      ? disc
      : [disc, element('circle', { cx, cy, r: zone.inner * frame.scale, ...look, fill: '#fff', 'fill-opacity': 0.6 })]
  })
}

function bodies({ space, expanded }: Stage, frame: PlanFrame, states: Readonly<Record<string, string>>): string[] {
  return expanded.interactables.flatMap((placed) => {
    const { body } = space.layout.figures[placed.index]!
    if (!body) return []
    const name = states[placed.name]
    const state = placed.states.find((one) => one.name === name) ?? placed.states[placed.initial]!
    const fill = state.blocksWalk ? colours.shut : 'none'
    const stroke = state.blocksWalk ? ink : colours.open
    const dash = state.blocksWalk ? null : '4 3'
    return [polygon(frame, body, { fill, stroke, 'stroke-width': 1.5, 'stroke-dasharray': dash })]
  })
}

function handles({ space, expanded }: Stage, frame: PlanFrame): string[] {
  return expanded.interactables.flatMap(({ index }) => {
    const { handle, pressable } = space.layout.figures[index]!
    if (!handle) return []
    const [cx, cy] = frame.toPlan([handle[0], handle[1]])
    return [
      element('circle', {
        cx,
        cy,
        r: 4,
        fill: pressable ? colours.range : colours.zone,
        stroke: '#fff',
        'stroke-width': 1.2,
      }),
    ]
  })
}

function people({ expanded }: Stage, frame: PlanFrame): string[] {
  return expanded.characters.map(({ start, radius }) => {
    const [cx, cy] = frame.toPlan(start)
    return element('circle', {
      cx,
      cy,
      r: radius * frame.scale,
      fill: colours.person,
      'fill-opacity': 0.85,
      stroke: ink,
    })
  })
}

function labels({ space, expanded }: Stage, frame: PlanFrame, still: boolean): string[] {
  const roomLabels = space.layout.rooms.map(({ name, outline }): Label => {
    const at = frame.toPlan(middle(outline))
    return { text: expanded.level.rooms[name]?.title ?? name, at, size: 15, gap: 0, kind: 'room' }
  })
  const named = expanded.interactables.flatMap((placed): Label[] => {
    const { handle } = space.layout.figures[placed.index]!
    if (!handle) return []
    return [{ text: placed.name, at: frame.toPlan([handle[0], handle[1]]), size: 12, gap: 8, kind: 'thing' }]
  })
  const people = (still ? [] : expanded.characters).map(({ name, start, radius }): Label => {
    return { text: name, at: frame.toPlan(start), size: 12, gap: radius * frame.scale + 4, kind: 'person' }
  })
  const solid = [...space.layout.solids, ...space.layout.figures.flatMap(({ body }) => (body ? [body] : []))]
  const bounds = { width: frame.width, height: frame.height - footer }
  const taken = solid.map((outline) => outline.map((p) => frame.toPlan(p)))
  return placeLabels([...named, ...people, ...roomLabels], bounds, taken).map(({ label, x, y }) =>
    element(
      'text',
      {
        x,
        y,
        'font-size': label.size,
        'text-anchor': 'middle',
        'dominant-baseline': 'central',
        fill: label.kind === 'room' ? '#8b8371' : ink,
        'font-style': label.kind === 'room' ? 'italic' : null,
        'paint-order': 'stroke',
        stroke: colours.room,
        'stroke-width': 3.5,
        'stroke-linejoin': 'round',
      },
      escaped(label.text),
    ),
  )
}

function middle(outline: readonly Point[]): Point {
  const xs = outline.map((p) => p[0])
  const ys = outline.map((p) => p[1])
  return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2]
}

/** The scale, and what the colours mean: of what there is on the plan, as much as there is room for. */
function footing({ expanded, space }: Stage, frame: PlanFrame, still: boolean): string[] {
  const y = frame.height - 22
  const text = (x: number, words: string): string =>
    element('text', { x, y, 'font-size': 12, fill: ink, 'dominant-baseline': 'central' }, escaped(words))
  const square = (more: Record<string, string | number>): string =>
    element('rect', { x: 0, y: y - 6, width: 14, height: 12, ...more })
  const circle = (r: number, more: Record<string, string | number>): string =>
    element('circle', { cx: 7, cy: y, r, ...more })
  const states = expanded.interactables.flatMap(({ index, states }) =>
    space.layout.figures[index]?.body ? states : [],
  )
  const dashed = { 'stroke-dasharray': '4 3' }
  const range = { fill: colours.range, 'fill-opacity': 0.1, stroke: colours.range, ...dashed }
  const zone = { fill: colours.zone, 'fill-opacity': 0.15, stroke: colours.zone, 'stroke-dasharray': '2 3' }
  const all: [isThere: boolean, mark: string, words: string][] = [
    [states.some(({ blocksWalk }) => blocksWalk), square({ fill: colours.shut, stroke: ink }), 'body that blocks'],
    [
      states.some(({ blocksWalk }) => !blocksWalk),
      square({ fill: 'none', stroke: colours.open, ...dashed }),
      'not blocking',
    ],
    [true, square({ fill: colours.range, 'fill-opacity': 0.3 }), 'a press is answered'],
    [true, circle(7, range), 'range'],
    [expanded.zones.length > 0, circle(7, zone), 'zone'],
    [true, circle(4, { fill: colours.range }), 'handle'],
    [!still, circle(7, { fill: colours.person }), 'start'],
  ]
  const parts: string[] = []
  let x = margin
  for (const [, mark, words] of all.filter(([isThere]) => isThere)) {
    const width = 22 + words.length * 6.6
    if (x + width > frame.width - 2 * frame.scale - margin - 48) break
    parts.push(element('g', { transform: `translate(${round(x)} 0)` }, mark, text(22, words)))
    x += width + 20
  }
  const bar = Math.min(2, (frame.width - 2 * margin) / frame.scale)
  const end = frame.width - margin
  const start = end - bar * frame.scale
  parts.push(
    element('path', {
      d: `M${round(start)} ${round(y - 4)}v8M${round(start)} ${round(y)}H${round(end)}M${round(end)} ${round(y - 4)}v8`,
      stroke: ink,
      fill: 'none',
      'stroke-width': 1.5,
    }),
    element(
      'text',
      { x: start - 8, y, 'font-size': 12, fill: ink, 'text-anchor': 'end', 'dominant-baseline': 'central' },
      `${round(bar)} m`,
    ),
  )
  return parts
}
