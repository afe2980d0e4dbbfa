import { escaped } from '../model/index.ts'
import type { LaidOut, Point } from '../space/index.ts'
import { type PlanLabel, placeLabels } from './labels.ts'
import { footer, planFrame, type PlanFrame } from './plan-frame.ts'
import { key } from './plan-key.ts'
import {
  bodies,
  colours,
  covered,
  ground,
  handles,
  patterns,
  people,
  places,
  ranges,
  stopBoxes,
  type Track,
  tracks,
  walls,
  zones,
} from './plan-things.ts'
import {
  type HandleElsewhere,
  handlesElsewhere,
  headingBoxes,
  headings,
  marksElsewhere,
  type StoreyName,
  storeyNames,
} from './plan-storeys.ts'
import { planShapes } from './shapes.ts'
import { element, ink, paper, round } from './svg.ts'

/** How a plan is drawn. */
export interface PlanOptions {
  /** Pixels a metre; chosen to fill a page of 1280 × 800 where it is left out. */
  readonly scale?: number | undefined
  /** The state of each interactable, by name; the initial ones where it is left out. */
  readonly states?: Readonly<Record<string, string>> | undefined
  /** The storey that is drawn; all of the level where it is left out. */
  readonly storey?: string | undefined
  /** Ways to draw over it. */
  readonly tracks?: readonly Track[] | undefined
  /** What is pointed at: an interactable by its name, or a spot in metres; each with a text. */
  readonly marks?: readonly PlanMark[] | undefined
}

/** Something that is pointed at on a plan. */
export interface PlanMark {
  readonly at: string | Point
  readonly text: string
}

/** The plan of a level as an SVG file: to scale, seen from above, with ranges, zones, bodies and what they sweep over. */
export function drawPlan(stage: LaidOut, options: PlanOptions = {}): string {
  const frame = planFrame(stage, options.scale, options.storey)
  const drawn = options.tracks ?? []
  const shapes = planShapes(stage, options.states)
  const elsewhere = handlesElsewhere(stage)
  const names = storeyNames(stage, frame, options.storey)
  const shown = [
    ...ground(stage, shapes, frame),
    ...zones(shapes, frame),
    ...covered(stage, frame),
    ...ranges(shapes, frame),
    ...walls(shapes, frame),
    ...bodies(shapes, frame),
    ...places(shapes, frame),
    ...handles(shapes, frame),
    ...marksElsewhere(frame, elsewhere),
    ...people(shapes, frame),
    ...tracks(frame, drawn),
    ...marks(stage, frame, options.marks ?? []),
  ]
  const parts = [
    patterns(frame),
    element('rect', { width: frame.width, height: frame.height, fill: paper }),
    ...(options.storey === undefined ? shown : [element('g', { 'clip-path': 'url(#shown)' }, ...shown)]),
    ...headings(names),
    ...labels(stage, frame, options, elsewhere, names),
    ...key(stage, frame, { isTracked: drawn.length > 0, isElsewhere: elsewhere.length > 0 }),
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

/** Where something is that is pointed at; null where it stands nowhere. */
function spotOf({ space, expanded }: LaidOut, { at }: PlanMark): Point | null {
  if (typeof at !== 'string') return at
  const { handle } = space.layout.figures[expanded.interactables.findIndex(({ name }) => name === at)] ?? {
    handle: null,
  }
  return handle && [handle[0], handle[1]]
}

/** A ring round what is pointed at, with four strokes towards it. */
function marks(stage: LaidOut, frame: PlanFrame, all: readonly PlanMark[]): string[] {
  return all.flatMap((mark) => {
    const spot = spotOf(stage, mark)
    if (!spot) return []
    const [x, y] = frame.toPlan(spot)
    const strokes = [0, 90, 180, 270].map((angle) =>
      element('path', { d: 'M16 0h9', transform: `translate(${round(x)} ${round(y)}) rotate(${String(angle)})` }),
    )
    const look = { fill: 'none', stroke: colours.track, 'stroke-width': 2.5 }
    return [element('g', look, element('circle', { cx: x, cy: y, r: 16 }), ...strokes)]
  })
}

function labels(
  stage: LaidOut,
  frame: PlanFrame,
  { marks: pointed = [], tracks: ways = [] }: PlanOptions,
  elsewhere: readonly HandleElsewhere[],
  names: readonly StoreyName[],
): string[] {
  const { space, expanded } = stage
  const roomLabels = space.layout.rooms.map(({ name, outline }): PlanLabel => {
    const at = frame.toPlan(middle(outline))
    const text = expanded.level.rooms[name]?.title ?? name
    return { text, at, size: 15, gap: 0, within: roomFor(frame, outline, text), kind: 'room' }
  })
  const named = expanded.interactables.flatMap((placed): PlanLabel[] => {
    const { handle } = space.layout.figures[placed.index]!
    if (!handle) return []
    return [{ text: placed.name, at: frame.toPlan([handle[0], handle[1]]), size: 12, gap: 8, kind: 'thing' }]
  })
  const shown = expanded.characters.map(({ name, start, radius }): PlanLabel => {
    return { text: name, at: frame.toPlan(start), size: 12, gap: radius * frame.scale + 4, kind: 'person' }
  })
  const spots = expanded.places.map(({ name, at }): PlanLabel => {
    return { text: name, at: frame.toPlan(at), size: 12, gap: 10, kind: 'thing' }
  })
  const hollow = elsewhere.map(({ name, storey, at }): PlanLabel => {
    return { text: `${name} (${storey})`, at: frame.toPlan(at), size: 12, gap: 8, kind: 'thing' }
  })
  const told = pointed.flatMap((mark): PlanLabel[] => {
    const spot = spotOf(stage, mark)
    return spot && mark.text !== ''
      ? [{ text: mark.text, at: frame.toPlan(spot), size: 13, gap: 26, kind: 'mark' }]
      : []
  })
  const solid = [...space.layout.solids, ...space.layout.figures.flatMap(({ body }) => (body ? [body] : []))]
  const bounds = { width: frame.width, height: frame.height - footer }
  const taken = [
    ...solid.map((outline) => outline.map((p) => frame.toPlan(p))),
    ...stopBoxes(frame, ways),
    ...headingBoxes(names),
  ]
  const all = [...told, ...named, ...hollow, ...shown, ...spots, ...roomLabels].filter(({ at }) =>
    frame.isOn(frame.toGround(at)),
  )
  return placeLabels(all, bounds, taken).flatMap(({ label, x, y, leader }) => {
    const colour = { room: '#6f6857', thing: ink, person: ink, mark: colours.track }[label.kind]
    const text = element(
      'text',
      {
        x,
        y,
        'font-size': label.size,
        'text-anchor': 'middle',
        'dominant-baseline': 'central',
        fill: colour,
        'font-style': label.kind === 'room' ? 'italic' : null,
        'font-weight': label.kind === 'mark' ? 700 : null,
        'paint-order': 'stroke',
        stroke: colours.room,
        'stroke-width': 3.5,
        'stroke-linejoin': 'round',
      },
      escaped(label.text),
    )
    if (!leader) return [text]
    const line = { x1: leader[0][0], y1: leader[0][1], x2: leader[1][0], y2: leader[1][1] }
    return [element('line', { ...line, stroke: colour, 'stroke-width': 0.8, 'stroke-opacity': 0.7 }), text]
  })
}

/** How far from the middle of a room its name may stand, in pixels, and still be in it. */
function roomFor(frame: PlanFrame, outline: readonly Point[], text: string): Point {
  const [xs, ys] = [outline.map((p) => p[0]), outline.map((p) => p[1])]
  const [wide, deep] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)]
  return [Math.max(0, (wide * frame.scale) / 2 - text.length * 4.6), Math.max(0, (deep * frame.scale) / 2 - 12)]
}

function middle(outline: readonly Point[]): Point {
  const xs = outline.map((p) => p[0])
  const ys = outline.map((p) => p[1])
  return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2]
}
