import {
  between,
  distance,
  edges,
  inPolygon,
  meetingShare,
  type Point,
  type Segment,
  toPolygon,
  toSegment,
} from './geometry.ts'
import { boxOf } from './boxes.ts'
import { type Layout, type Shape, touching } from './layout.ts'
import { handsBreadth, inZone, onBody } from './zone-shapes.ts'

/** Something that changes for a character on its way: it comes into, or out of, a zone or the ground of a body. */
export interface Crossing {
  /** Whole milliseconds after the leg began, rounded up; at least 1. */
  readonly ms: number
  /** The share of the leg at which it is, from 0 to 1. */
  readonly share: number
  readonly kind: 'zone' | 'body'
  /** The zone, or the interactable whose body it is. */
  readonly index: number
  readonly inside: boolean
}

/** One straight walk, as long as nothing new gets in its way. */
export interface Leg {
  readonly from: Point
  readonly to: Point
  /** Whole milliseconds until it ends: at `to`, or where a wall stops it. */
  readonly ms: number
  /** In the order in which they come on the way; at the same place bodies first, then by index. */
  readonly crossings: readonly Crossing[]
  /** Whether a wall stops it. */
  readonly walled: boolean
}

/** What a character is known to be in at the start of a leg. */
export interface Within {
  readonly zones: ReadonlySet<number>
  readonly bodies: ReadonlySet<number>
}

/**
 * A straight walk from a spot to another, at a speed in metres a second, by a character of some radius in metres.
 * Without `within`, what it starts in is found by looking.
 */
export function walkLeg(
  layout: Layout,
  from: Point,
  to: Point,
  radius: number,
  speed: number,
  within: Within | null = null,
): Leg {
  const known = walked.get(layout) ?? new Map<string, Leg>()
  walked.set(layout, known)
  const start = within ? `${[...within.zones].join()}/${[...within.bodies].join()}` : ''
  const key = [from[0], from[1], to[0], to[1], radius, speed, start].join()
  const before = known.get(key)
  if (before) return before
  const leg = legOf(layout, from, to, radius, speed, within)
  if (known.size >= mostWalked) known.clear()
  known.set(key, leg)
  return leg
}

/** Legs of each level, by all that they depend on: while plays are tried, the same ways are walked again and again. */
const walked = new WeakMap<Layout, Map<string, Leg>>()
const mostWalked = 10_000

function legOf(layout: Layout, from: Point, to: Point, radius: number, speed: number, within: Within | null): Leg {
  const whole = distance(from, to)
  const end = wallShare(layout, from, to, radius)
  const ms = (share: number): number => Math.ceil(((whole * share) / speed) * 1000 - 1e-7)
  const limit = end ?? 1
  const crossings: Crossing[] = []
  const add = (kind: Crossing['kind'], index: number, spans: readonly Span[]): void => {
    for (const { share, inside } of spans) {
      if (share <= limit) crossings.push({ ms: Math.max(1, ms(share)), share, kind, index, inside })
    }
  }
  const line = boxOf([from, to])
  for (const index of layout.near.zones.near(line, radius + handsBreadth)) {
    add('zone', index, zoneChanges(layout.zones[index]!, radius, from, to, within?.zones.has(index)))
  }
  for (const index of layout.near.bodies.near(line, radius)) {
    add('body', index, bodyChanges(layout.figures[index]!.body!, radius, from, to, within?.bodies.has(index)))
  }
  crossings.sort((a, b) => a.share - b.share || (a.kind === b.kind ? a.index - b.index : a.kind === 'body' ? -1 : 1))
  const stopped = end === null ? ms(1) : Math.max(0, Math.floor(((whole * end) / speed) * 1000) - 1)
  return {
    from,
    to,
    ms: stopped,
    crossings: crossings.filter((c) => end === null || c.ms <= stopped),
    walled: end !== null,
  }
}

/** Where a character is on a leg, so many milliseconds after it began. */
export function spotOn(leg: Leg, elapsed: number, speed: number): Point {
  const whole = distance(leg.from, leg.to)
  if (whole === 0) return leg.from
  const share = (elapsed * speed) / 1000 / whole
  return share >= 1 ? leg.to : between(leg.from, leg.to, share)
}

/** Whether a character can walk straight from one spot to another without touching a wall or one of some bodies. */
export function isClear(
  layout: Layout,
  from: Point,
  to: Point,
  radius: number,
  bodies: readonly (readonly Point[])[],
): boolean {
  const line = { a: from, b: to }
  const near = radius - touching
  const walls = layout.near.walls.near(boxOf([from, to]), near)
  if (walls.some((wall) => apart(line, layout.walls[wall]!) < near)) return false
  return !bodies.some(
    (body) =>
      inPolygon(from, body) || edges(body).some((edge) => couldTouch(line, edge, near) && apart(line, edge) < near),
  )
}

interface Span {
  /** The share of the way at which it begins. */
  readonly share: number
  readonly inside: boolean
}

function zoneChanges(zone: Shape, radius: number, from: Point, to: Point, inside = inZone(zone, from, radius)): Span[] {
  if (zone.kind === 'skin') return bodyChanges(zone.body, radius + handsBreadth, from, to, inside)
  const shares =
    zone.kind === 'polygon'
      ? outlineShares(zone.outline, from, to)
      : [zone.radius, ...(zone.kind === 'ring' ? [zone.inner] : [])].flatMap((radius) =>
          circleShares(zone.at, radius, from, to),
        )
  return changes(shares, (t) => inZone(zone, between(from, to, t), radius), inside)
}

/** What changes at some shares of the way, by looking half-way between each two. */
function changes(shares: readonly number[], isInside: (share: number) => boolean, atStart: boolean): Span[] {
  const cuts = [0, ...[...shares].filter((t) => t > 0 && t < 1).sort((a, b) => a - b), 1]
  const spans: Span[] = []
  let inside = atStart
  for (let i = 1; i < cuts.length; i++) {
    const [start, end] = [cuts[i - 1]!, cuts[i]!]
    if (end - start < 1e-12) continue
    const now = isInside((start + end) / 2)
    if (now !== inside) spans.push({ share: start, inside: now })
    inside = now
  }
  return spans
}

function circleShares(at: Point, radius: number, from: Point, to: Point): number[] {
  const dx = to[0] - from[0]
  const dy = to[1] - from[1]
  const fx = from[0] - at[0]
  const fy = from[1] - at[1]
  const a = dx * dx + dy * dy
  const b = fx * dx + fy * dy
  const inner = b * b - a * (fx * fx + fy * fy - radius * radius)
  if (a === 0 || inner <= 0) return []
  const root = Math.sqrt(inner)
  return [(-b - root) / a, (-b + root) / a]
}

function outlineShares(outline: readonly Point[], from: Point, to: Point): number[] {
  const line = { a: from, b: to }
  return edges(outline).flatMap((edge) => {
    const t = meetingShare(line, edge)
    return t === null ? [] : [t]
  })
}

/** The distance to a convex body along a line is convex: it is left and entered at most once each. */
function bodyChanges(
  body: readonly Point[],
  radius: number,
  from: Point,
  to: Point,
  inside = onBody(body, from, radius),
): Span[] {
  const line = { a: from, b: to }
  // Most bodies near a long way are passed at a distance.
  const isPassed = (edge: Segment): boolean => !couldTouch(line, edge, radius) || apart(line, edge) > radius
  if (!inside && edges(body).every(isPassed) && !inPolygon(from, body)) return []
  const gap = (t: number): number => toPolygon(between(from, to, t), body) - (radius - touching)
  const nearest = lowest(gap)
  if (gap(nearest) >= 0) return inside ? [{ share: 0, inside: false }] : []
  const shares = [0, 1].flatMap((end) => (gap(end) < 0 ? [] : [root(gap, end, nearest)]))
  return changes(shares, (t) => gap(t) < 0, inside)
}

/** The first share of the way at which a wall is touched; null where none is. */
function wallShare(layout: Layout, from: Point, to: Point, radius: number): number | null {
  const line = { a: from, b: to }
  const near = radius - touching
  let first: number | null = null
  for (const index of layout.near.walls.near(boxOf([from, to]), near)) {
    const wall = layout.walls[index]!
    if (apart(line, wall) >= near) continue
    const gap = (t: number): number => toSegment(between(from, to, t), wall) - near
    const share = gap(0) < 0 ? 0 : root(gap, 0, lowest(gap))
    if (first === null || share < first) first = share
  }
  return first
}

/** Where a convex function is below 0 between 0 and 1, by thirds; where it is nowhere found to be, where it is lowest. */
function lowest(f: (t: number) => number): number {
  let low = 0
  let high = 1
  for (let i = 0; i < 90; i++) {
    const third = (high - low) / 3
    const [left, right] = [f(low + third), f(high - third)]
    if (left < 0) return low + third
    if (right < 0) return high - third
    if (left <= right) high -= third
    else low += third
  }
  return (low + high) / 2
}

/** Where a function changes its sign between a share where it is not negative and one where it is, by halves. */
function root(f: (t: number) => number, positive: number, negative: number): number {
  let [a, b] = [positive, negative]
  for (let i = 0; i < 60; i++) {
    const middle = (a + b) / 2
    if (f(middle) >= 0) a = middle
    else b = middle
  }
  return a
}

function couldTouch(line: Segment, other: Segment, near: number): boolean {
  return (
    Math.min(line.a[0], line.b[0]) - near <= Math.max(other.a[0], other.b[0]) &&
    Math.max(line.a[0], line.b[0]) + near >= Math.min(other.a[0], other.b[0]) &&
    Math.min(line.a[1], line.b[1]) - near <= Math.max(other.a[1], other.b[1]) &&
    Math.max(line.a[1], line.b[1]) + near >= Math.min(other.a[1], other.b[1])
  )
}

/** How far two segments are apart, in metres; 0 where they meet. */
export function apart(one: Segment, other: Segment): number {
  if (meetingShare(one, other) !== null) return 0
  return Math.min(toSegment(one.a, other), toSegment(one.b, other), toSegment(other.a, one), toSegment(other.b, one))
}
