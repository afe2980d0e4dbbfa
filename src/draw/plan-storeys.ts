import { escaped } from '../model/index.ts'
import type { LaidOut, Point } from '../space/index.ts'
import type { PlanFrame } from './plan-frame.ts'
import { colours } from './plan-things.ts'
import { coveredBy } from './shapes.ts'
import { element, ink } from './svg.ts'

/** Pixels between a storey and its name above it. */
const above = 10

/** The name of a storey, with how high it lies, and where it stands, in pixels. */
export interface StoreyName {
  readonly text: string
  readonly at: Point
}

/** The names of storeys, each above its rooms. */
export function storeyNames({ expanded: { level } }: LaidOut, frame: PlanFrame, only?: string): StoreyName[] {
  return Object.entries(level.storeys ?? {}).flatMap(([name, { title = name, floor = 0 }]) => {
    if (only !== undefined && name !== only) return []
    const corners = Object.values(level.rooms).flatMap((room) =>
      room.storey === name ? room.outline.map(([x, y]) => frame.toPlan([x, y])) : [],
    )
    if (corners.length === 0) return []
    const [x, y] = [Math.min(...corners.map((one) => one[0])), Math.min(...corners.map((one) => one[1])) - above]
    const text = `${title}${floor === 0 ? '' : `, ${String(Math.abs(floor))} m ${floor > 0 ? 'up' : 'down'}`}`
    return [{ text, at: [x, y] }]
  })
}

/** The names of storeys as texts. */
export function headings(all: readonly StoreyName[]): string[] {
  return all.map(({ text, at: [x, y] }) =>
    element('text', { x, y, 'font-size': 14, 'font-weight': 700, fill: ink }, escaped(text)),
  )
}

/** The corners of names of storeys, in pixels: labels stay off them. */
export function headingBoxes(all: readonly StoreyName[]): Point[][] {
  return all.map(({ text, at: [x, y] }) => [
    [x, y - 13],
    [x + text.length * 8.5, y + 4],
  ])
}

/** The handle of something that can be pressed through a floor, as it is for those on another storey. */
export interface HandleElsewhere {
  readonly name: string
  /** The storey that it really is on. */
  readonly storey: string
  readonly at: Point
}

/** All handles that can be pressed from other storeys, straight above or below where they are. */
export function handlesElsewhere(stage: LaidOut): HandleElsewhere[] {
  const { expanded, space } = stage
  const { storeys } = space.layout
  if (!storeys) return []
  return expanded.interactables.flatMap((placed) => {
    const { storey, elsewhere } = space.layout.figures[placed.index]!
    if (elsewhere.size === 0) return []
    const covered = new Set(coveredBy(stage, placed).map((outline) => storeys.at(outline[0]!)))
    return [...elsewhere].flatMap(([other, { handle }]): HandleElsewhere[] =>
      covered.has(other)
        ? [{ name: placed.name, storey: storeys.titles[storey] ?? '', at: [handle[0], handle[1]] }]
        : [],
    )
  })
}

/** Them as hollow handles. */
export function marksElsewhere(frame: PlanFrame, all: readonly HandleElsewhere[]): string[] {
  return all.map(({ name, storey, at }) => {
    const [cx, cy] = frame.toPlan(at)
    const title = element('title', {}, escaped(`${name} (${storey})`))
    return element('circle', { cx, cy, r: 4, fill: '#fff', stroke: colours.range, 'stroke-width': 1.6 }, title)
  })
}
