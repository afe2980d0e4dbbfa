import type { HandleDefinition, ZoneDefinition } from '../model/index.ts'
import { distance, moved, type Point, turned } from '../space/index.ts'

/** A frame on the ground: where its middle is, degrees that it is turned by, and how many metres one of its own is. */
export interface GripFrame {
  readonly at: Point
  readonly turn: number
  readonly scale: number
}

/** A part of a zone that is dragged. */
export type GripPart = 'radius' | 'middle' | 'size' | 'turn' | 'arc' | 'width' | 'from' | 'to' | number

/** What a grip changes, and how. */
export type PlanDrag =
  /** A spot in a frame, with a height where one is written. */
  | { readonly is: 'spot'; readonly path: string; readonly frame: GripFrame; readonly height: number | null }
  /** How far it is from a spot, in metres of so many; `side`: along this way only, to both sides. */
  | {
      readonly is: 'distance'
      readonly path: string
      readonly from: Point
      readonly metre: number
      readonly side: number | null
    }
  /** Which way it is seen from a spot, in degrees from `zero`. */
  | { readonly is: 'direction'; readonly path: string; readonly from: Point; readonly zero: number }
  | {
      readonly is: 'zone'
      readonly path: string
      readonly frame: GripFrame
      readonly zone: ZoneDefinition
      readonly part: GripPart
    }
  /** How far a leaf turns about its hinge: at so many places, and what says another way there. */
  | {
      readonly is: 'swing'
      readonly paths: readonly string[]
      readonly ways: readonly string[]
      readonly hinge: Point
      readonly shut: number
    }
  | { readonly is: 'slide'; readonly paths: readonly string[]; readonly frame: GripFrame; readonly height: number }
  | { readonly is: 'hinge'; readonly path: string; readonly frame: GripFrame }
  /** How far a handle is from the end of a body that is `half` as long, at its left or its right end. */
  | {
      readonly is: 'inset'
      readonly path: string
      readonly frame: GripFrame
      readonly half: number
      readonly end: 'left' | 'right'
      readonly handle: HandleDefinition
    }

/** A value that a part of a level comes to have; undefined: none. */
export interface PlanChange {
  readonly path: string
  readonly value: unknown
}

/**
 * What a level says once a grip is dragged to a spot, in metres: lengths in steps of so many metres, as they are written in the frame that
 * they belong to; angles to 5 degrees.
 */
export function draggedTo(drag: PlanDrag, to: Point, step = 0.001): PlanChange[] {
  const written = ([x, y]: Point): [number, number] => [inSteps(x, step), inSteps(y, step)]
  switch (drag.is) {
    case 'spot': {
      const [x, y] = written(toOwn(drag.frame, to))
      return [{ path: drag.path, value: drag.height === null ? [x, y] : [x, y, drag.height] }]
    }
    case 'distance': {
      const off: Point = [to[0] - drag.from[0], to[1] - drag.from[1]]
      const along = drag.side === null ? distance(to, drag.from) : Math.abs(turned(off, -drag.side)[0])
      return [{ path: drag.path, value: least(along / drag.metre, step) }]
    }
    case 'direction':
      return [{ path: drag.path, value: fives(angleOf([to[0] - drag.from[0], to[1] - drag.from[1]]) - drag.zero) }]
    case 'zone':
      return [{ path: drag.path, value: zoneTo(drag.zone, drag.part, toOwn(drag.frame, to), step) }]
    case 'swing': {
      const round = fives(angleOf([to[0] - drag.hinge[0], to[1] - drag.hinge[1]]) - drag.shut)
      const degrees = round > 180 ? round - 360 : round
      return [
        ...drag.paths.map((path) => ({ path, value: degrees === 0 ? 5 : degrees })),
        ...drag.ways.map((path) => ({ path, value: undefined })),
      ]
    }
    case 'slide': {
      const [x, y] = written(toOwn(drag.frame, to))
      return drag.paths.map((path) => ({ path, value: [x, y, drag.height] }))
    }
    case 'hinge':
      return [{ path: drag.path, value: toOwn(drag.frame, to)[0] < 0 ? 'left' : 'right' }]
    case 'inset': {
      const { frame, half, end } = drag
      const x = toOwn(frame, to)[0] * frame.scale
      const inset = Math.min(half, Math.max(0, end === 'right' ? half - x : half + x))
      return [{ path: drag.path, value: { ...drag.handle, inset: inSteps(inset / frame.scale, step) } }]
    }
  }
}

function zoneTo(zone: ZoneDefinition, part: GripPart, to: Point, step: number): ZoneDefinition {
  const spot: [number, number] = [inSteps(to[0], step), inSteps(to[1], step)]
  const { sector, ring, outline } = zone
  const off: Point = [to[0] - (zone.at?.[0] ?? 0), to[1] - (zone.at?.[1] ?? 0)]
  const far = least(Math.hypot(off[0], off[1]), step)
  switch (part) {
    case 'radius':
      return { ...zone, radius: far }
    case 'middle':
      return { ...zone, at: spot }
    case 'size': {
      const [x, y] = turned(off, -(zone.turn ?? 0))
      return { ...zone, box: [least(2 * Math.abs(x), step), least(2 * Math.abs(y), step)] }
    }
    case 'turn':
      return { ...zone, turn: fives(angleOf(off) - 90) }
    case 'arc':
      return sector ? { ...zone, sector: { ...sector, radius: far, facing: fives(angleOf(off)) } } : zone
    case 'width': {
      if (!sector) return zone
      const aside = fives(angleOf(off) - (sector.facing ?? 90))
      const degrees = Math.min(355, Math.max(5, 2 * Math.min(aside, 360 - aside)))
      return { ...zone, sector: { ...sector, degrees } }
    }
    case 'from':
      return ring ? { ...zone, ring: { ...ring, from: Math.min(far, rounded(ring.to - 0.01)) } } : zone
    case 'to':
      return ring ? { ...zone, ring: { ...ring, to: Math.max(far, rounded(ring.from + 0.01)) } } : zone
    default:
      return { ...zone, outline: (outline ?? []).map((p, i) => (i === part ? spot : p)) }
  }
}

export function fromOwn({ at, turn, scale }: GripFrame, [x, y]: Point): Point {
  return moved(at, turned([x * scale, y * scale], turn))
}

export function toOwn({ at, turn, scale }: GripFrame, [x, y]: Point): Point {
  const [u, v] = turned([x - at[0], y - at[1]], -turn)
  return [u / scale, v / scale]
}

export function angleOf([x, y]: Point): number {
  return (Math.atan2(y, x) * 180) / Math.PI
}

/** Degrees from 0 to 355, in fives. */
function fives(degrees: number): number {
  return (((Math.round(degrees / 5) * 5) % 360) + 360) % 360
}

/** In steps of so many metres, and to the millimetre. */
function inSteps(metres: number, step: number): number {
  return rounded(Math.round(metres / step) * step)
}

export function rounded(metres: number): number {
  return Math.round(metres * 1000) / 1000 + 0
}

/** A length in steps that is never nothing. */
function least(metres: number, step: number): number {
  return Math.max(0.05, inSteps(metres, step))
}
