import type { Placed, PlacedCharacter } from '../interactables/index.ts'
import { boxAround } from './boxes.ts'
import { between, distance, edges, moved, nearestShare, type Point, type Segment } from './geometry.ts'
import { canStand, type Layout, type Points, type Shape, type Standable } from './layout.ts'
import { acrossReach, nearnessIn, sightingOf } from './reach.ts'

/**
 * Exact answers about single spots. The ground on which a character can stand is bounded by straight lines beside walls
 * and by arcs round their ends, at half its width. So is what a range, a reach or a line of sight bounds: everything
 * below looks at such lines and circles, and at where they meet.
 */
type Curve =
  | { readonly kind: 'line'; readonly line: Segment }
  | { readonly kind: 'circle'; readonly at: Point; readonly radius: number }

/** How far beyond its border a spot is looked for, in metres, so that rounding does not put it on the wrong side. */
const inset = 1e-7

/** The most curves of which every two are looked at together. */
const mostCurves = 400

/**
 * The spot nearest to a point where a character of some radius can stand; of spots that are as near, the one lowest down,
 * then farthest left. Null where there is none within `farthest` metres.
 */
export function nearestStanding(layout: Standable, p: Point, radius: number, farthest = 1000): Point | null {
  if (canStand(layout, p, radius)) return p
  for (let within = 0.5; ; within *= 2) {
    const curves = besideWalls(layout, p, within, radius + inset)
    const spots = [...curves.flatMap((curve) => nearestOn(curve, p)), ...meetings(curves)].filter(
      (spot) => distance(p, spot) <= within,
    )
    spots.sort((a, b) => distance(p, a) - distance(p, b) || a[1] - b[1] || a[0] - b[0])
    const found = spots.find((spot) => canStand(layout, spot, radius))
    if (found) return found
    if (within > farthest) return null
  }
}

/**
 * Nearly the same, at whole centimetres, where there is such a spot within 3 cm of the nearest: for what people write down.
 */
export function nearestWritten(layout: Standable, p: Point, radius: number): Point | null {
  const exact = nearestStanding(layout, p, radius)
  if (!exact || exact === p) return exact
  const [x, y] = [Math.floor(exact[0] * 100), Math.floor(exact[1] * 100)]
  const steps = [-2, -1, 0, 1, 2, 3]
  const spots = steps.flatMap((dx) => steps.map((dy): Point => [(x + dx) / 100, (y + dy) / 100]))
  spots.sort((a, b) => distance(exact, a) - distance(exact, b) || a[1] - b[1] || a[0] - b[0])
  return spots.find((spot) => canStand(layout, spot, radius)) ?? exact
}

/**
 * A spot from which an interactable answers a press of a character, bodies that come and go left out of account; null
 * where there is none.
 *
 * The ground round the handle is swept by a ray from it. Between two directions in which curves meet, begin, end or are
 * touched by the ray, the ray meets the same curves in the same order; so it is enough to look at one direction between
 * each two, and on it at one spot between each two curves (sweeping an arrangement of curves: Bentley and Ottmann 1979).
 */
export function answeringSpot(layout: Layout, placed: Placed, character: PlacedCharacter): Point | null {
  const { handle, rangeFrom, elsewhere } = layout.figures[placed.index]!
  if (!handle || !rangeFrom) return null
  const own = answeringNear(layout, placed, character, { handle, rangeFrom })
  if (own) return own
  for (const points of elsewhere.values()) {
    const spot = answeringNear(layout, placed, character, points)
    if (spot) return spot
  }
  return null
}

/** The same round its handle as it is for those on one storey. */
function answeringNear(
  layout: Layout,
  placed: Placed,
  character: PlacedCharacter,
  { handle, rangeFrom }: Points,
): Point | null {
  const { standsIn } = layout.figures[placed.index]!
  const at: Point = [handle[0], handle[1]]
  const across = acrossReach(character, handle[2])
  const range = level(placed.radius, rangeFrom[2] - character.hand)
  if (across === null || range === null) return null
  const reach = across.most
  const sighting = sightingOf(layout, placed, character)!
  const isGood = (p: Point): boolean =>
    nearnessIn(sighting, character, p, 0).answers === 'yes' && canStand(layout, p, character.radius)
  const screens = placed.sight
    ? layout.near.screens.near(boxAround(at, reach), 0).map((screen) => layout.screens[screen]!)
    : []
  const curves: Curve[] = [
    ...besideWalls(layout, at, reach, character.radius - 1e-6),
    { kind: 'circle', at: [rangeFrom[0], rangeFrom[1]], radius: range },
    { kind: 'circle', at, radius: reach },
    ...(across.least > 0 ? [{ kind: 'circle', at, radius: across.least } as const] : []),
    ...(standsIn === null ? [] : bordersOf(standsIn)),
    ...screens.map((line): Curve => ({ kind: 'line', line })),
  ]
  const corners = [...curves.flatMap((curve) => cornersOf(curve, at)), ...meetings(curves)]
  for (const spot of [at, ...corners]) if (isGood(spot)) return spot
  for (const way of waysBetween(at, corners)) {
    const shares = curves.flatMap((curve) => sharesOn(curve, at, way)).filter((t) => t > 0 && t < reach)
    const stops = [0, ...shares.sort((a, b) => a - b), reach]
    for (let i = 1; i < stops.length; i++) {
      const t = (stops[i - 1]! + stops[i]!) / 2
      const spot: Point = [at[0] + way[0] * t, at[1] + way[1] * t]
      if (isGood(spot)) return spot
    }
  }
  return null
}

/** The borders of a zone where somebody must stand. */
function bordersOf(zone: Shape): Curve[] {
  if (zone.kind === 'polygon') return edges(zone.outline).map((line) => ({ kind: 'line', line }))
  if (zone.kind === 'skin') return []
  const radii = zone.kind === 'ring' ? [zone.radius, zone.inner] : [zone.radius]
  return radii.map((radius) => ({ kind: 'circle', at: zone.at, radius }))
}

/** How far off on the ground something may be that is so far off in all, and so far up or down; null: out of reach. */
function level(limit: number, height: number): number | null {
  const square = limit * limit - height * height
  return square < 0 ? null : Math.sqrt(square)
}

/** The lines and circles at some distance from the walls that come so near to a point. */
function besideWalls(layout: Standable, p: Point, radius: number, off: number): Curve[] {
  const curves: Curve[] = []
  const ends = new Map<string, Point>()
  for (const index of layout.near.walls.near(boxAround(p, radius + off), 0)) {
    const { a, b } = layout.walls[index]!
    for (const end of [a, b]) ends.set(end.join(' '), end)
    const length = distance(a, b)
    if (length === 0) continue
    const across: Point = [((a[1] - b[1]) / length) * off, ((b[0] - a[0]) / length) * off]
    for (const side of [across, [-across[0], -across[1]] as const]) {
      curves.push({ kind: 'line', line: { a: moved(a, side), b: moved(b, side) } })
    }
  }
  for (const at of ends.values()) curves.push({ kind: 'circle', at, radius: off })
  return curves
}

function nearestOn(curve: Curve, p: Point): Point[] {
  if (curve.kind === 'line') return [between(curve.line.a, curve.line.b, nearestShare(p, curve.line))]
  const gap = distance(curve.at, p)
  if (gap === 0) return [[curve.at[0] + curve.radius, curve.at[1]]]
  return [between(curve.at, p, curve.radius / gap)]
}

/** The ends of a line; where a ray from a point touches a circle, and what is nearest and farthest on it. */
function cornersOf(curve: Curve, from: Point): Point[] {
  if (curve.kind === 'line') return [curve.line.a, curve.line.b, ...nearestOn(curve, from)]
  const { at, radius } = curve
  const gap = distance(at, from)
  if (gap <= radius) return gap === 0 ? [] : nearestOn(curve, from)
  // The points of touch lie on the circle whose diameter is the way from the one to the other (Thales).
  const touches = meetingOfCircles(at, radius, between(at, from, 0.5), gap / 2)
  return [...touches, ...nearestOn(curve, from)]
}

/** Where every two curves meet; only so many are looked at. */
function meetings(curves: readonly Curve[]): Point[] {
  const all = curves.slice(0, mostCurves)
  return all.flatMap((one, i) => all.slice(i + 1).flatMap((other) => meeting(one, other)))
}

function meeting(one: Curve, other: Curve): Point[] {
  if (one.kind === 'circle' && other.kind === 'circle') {
    return meetingOfCircles(one.at, one.radius, other.at, other.radius)
  }
  if (one.kind === 'circle') return meeting(other, one)
  const { a, b } = one.line
  const length = distance(a, b)
  if (length === 0) return []
  const way: Point = [(b[0] - a[0]) / length, (b[1] - a[1]) / length]
  return sharesOn(other, a, way)
    .filter((t) => t >= -1e-9 && t <= length + 1e-9)
    .map((t): Point => [a[0] + way[0] * t, a[1] + way[1] * t])
}

function meetingOfCircles(a: Point, r: number, b: Point, s: number): Point[] {
  const gap = distance(a, b)
  if (gap === 0 || gap > r + s || gap < Math.abs(r - s)) return []
  const along = (gap * gap + r * r - s * s) / (2 * gap)
  const off = Math.sqrt(Math.max(0, r * r - along * along))
  const [x, y] = [(b[0] - a[0]) / gap, (b[1] - a[1]) / gap]
  const foot: Point = [a[0] + x * along, a[1] + y * along]
  return [
    [foot[0] - y * off, foot[1] + x * off],
    [foot[0] + y * off, foot[1] - x * off],
  ]
}

/** How many metres along a way from a point it meets a curve; the way is of length 1, and goes on both ways. */
function sharesOn(curve: Curve, from: Point, [x, y]: Point): number[] {
  if (curve.kind === 'circle') {
    const [fx, fy] = [curve.at[0] - from[0], curve.at[1] - from[1]]
    const along = fx * x + fy * y
    const square = curve.radius * curve.radius - (fx * fx + fy * fy - along * along)
    if (square < 0) return []
    return [along - Math.sqrt(square), along + Math.sqrt(square)]
  }
  const { a, b } = curve.line
  const [ex, ey] = [b[0] - a[0], b[1] - a[1]]
  const cross = x * ey - y * ex
  if (cross === 0) return []
  const [fx, fy] = [a[0] - from[0], a[1] - from[1]]
  const u = (fx * y - fy * x) / cross
  return u < -1e-9 || u > 1 + 1e-9 ? [] : [(fx * ey - fy * ex) / cross]
}

/** A direction between every two neighbouring ones of those to some points, and of eight fixed ones. */
function waysBetween(from: Point, points: readonly Point[]): Point[] {
  const fixed: Point[] = [
    [1, 0],
    [1, 1],
    [0, 1],
    [-1, 1],
    [-1, 0],
    [-1, -1],
    [0, -1],
    [1, -1],
  ]
  const ways = [...fixed, ...points.map((p): Point => [p[0] - from[0], p[1] - from[1]])].flatMap((way) => {
    const length = Math.sqrt(way[0] * way[0] + way[1] * way[1])
    return length < 1e-12 ? [] : [{ way: [way[0] / length, way[1] / length] as const, at: 0 }]
  })
  const sorted = ways.map(({ way }) => ({ way, at: turnOf(way) })).sort((a, b) => a.at - b.at)
  return sorted.flatMap(({ way, at }, i) => {
    const next = sorted[(i + 1) % sorted.length]!
    if (next.at - at < 1e-15 && i + 1 < sorted.length) return []
    const [x, y] = [way[0] + next.way[0], way[1] + next.way[1]]
    const length = Math.sqrt(x * x + y * y)
    return length === 0 ? [] : [[x / length, y / length] as const]
  })
}

/** Grows with the angle of a direction of length 1, from 0 to below 4. */
function turnOf([x, y]: Point): number {
  const size = Math.abs(x) + Math.abs(y)
  const share = y / size
  return x >= 0 ? (y >= 0 ? share : 4 + share) : 2 - share
}
