import { orient2d } from 'robust-predicates'

/** A point on the ground: x east, y north, in metres. */
export type Point = readonly [number, number]

/** A straight piece from one point to another. */
export interface Segment {
  readonly a: Point
  readonly b: Point
}

/** Lengths closer than this, in metres, are the same. */
export const hair = 1e-9

/** The distance between two points, in metres. */
export function distance(a: Point, b: Point): number {
  const dx = a[0] - b[0]
  const dy = a[1] - b[1]
  return Math.sqrt(dx * dx + dy * dy)
}

/** The point a share `t` of the way from `a` to `b`. */
export function between(a: Point, b: Point, t: number): Point {
  return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
}

/** The share of the way along a segment at which it is nearest to a point, from 0 to 1; 0 for a segment without length. */
export function nearestShare(p: Point, { a, b }: Segment): number {
  const dx = b[0] - a[0]
  const dy = b[1] - a[1]
  const square = dx * dx + dy * dy
  if (square === 0) return 0
  const t = ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / square
  return t < 0 ? 0 : t > 1 ? 1 : t
}

/** The distance from a point to a segment, in metres. */
export function toSegment(p: Point, { a, b }: Segment): number {
  return betweenPoints(p, a, b)
}

/** The distance from a point to the segment between two others, in metres. */
function betweenPoints(p: Point, a: Point, b: Point): number {
  const dx = b[0] - a[0]
  const dy = b[1] - a[1]
  const fx = p[0] - a[0]
  const fy = p[1] - a[1]
  const square = dx * dx + dy * dy
  const t = square === 0 ? 0 : (fx * dx + fy * dy) / square
  const share = t < 0 ? 0 : t > 1 ? 1 : t
  const ex = fx - dx * share
  const ey = fy - dy * share
  return Math.sqrt(ex * ex + ey * ey)
}

/** The edges of a polygon, in the order of its corners. */
export function edges(outline: readonly Point[]): Segment[] {
  return outline.map((a, i) => ({ a, b: outline[(i + 1) % outline.length]! }))
}

/**
 * On which side of the line from `a` to `b` a point lies: above 0 to the left, below 0 to the right, 0 on the line.
 * Exact, whatever the order in which points are given: adaptive precision (Shewchuk 1997).
 */
export function sideOf(p: Point, a: Point, b: Point): number {
  return -orient2d(a[0], a[1], b[0], b[1], p[0], p[1])
}

/**
 * Whether a point is in a polygon, its border included. Crossing numbers with exact predicates; the border is found by
 * distance.
 */
export function inPolygon(p: Point, outline: readonly Point[]): boolean {
  const y = p[1]
  let inside = false
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const a = outline[i]!
    const b = outline[j]!
    if (a[1] > y === b[1] > y) continue
    const side = sideOf(p, a, b)
    if (b[1] > a[1] ? side > 0 : side < 0) inside = !inside
  }
  return inside || toBorder(p, outline) <= hair
}

/** The distance from a point to a polygon, in metres; 0 inside it. */
export function toPolygon(p: Point, outline: readonly Point[]): number {
  return inPolygon(p, outline) ? 0 : toBorder(p, outline)
}

/** The distance from a point to the border of a polygon, in metres. */
export function toBorder(p: Point, outline: readonly Point[]): number {
  let least = Infinity
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const d = betweenPoints(p, outline[j]!, outline[i]!)
    if (d < least) least = d
  }
  return least
}

/**
 * The share of the way along `s` at which it meets `o`; null where it does not. Segments along the same line do not
 * meet.
 */
export function meetingShare(s: Segment, o: Segment): number | null {
  const dx = s.b[0] - s.a[0]
  const dy = s.b[1] - s.a[1]
  const ex = o.b[0] - o.a[0]
  const ey = o.b[1] - o.a[1]
  const cross = dx * ey - dy * ex
  if (cross === 0) return null
  const fx = o.a[0] - s.a[0]
  const fy = o.a[1] - s.a[1]
  const t = (fx * ey - fy * ex) / cross
  const u = (fx * dy - fy * dx) / cross
  return t >= 0 && t <= 1 && u >= 0 && u <= 1 ? t : null
}

/**
 * The sine of an angle in degrees, in the four basic operations alone, so that it is the same on every machine:
 * reduced to at most 45 degrees, then the Taylor series to the 15th power (error below 1e-15).
 */
export function sine(degrees: number): number {
  let d = degrees % 360
  if (d < 0) d += 360
  const sign = d >= 180 ? -1 : 1
  if (d >= 180) d -= 180
  if (d > 90) d = 180 - d
  return sign * (d <= 45 ? series(d, 1) : series(90 - d, 0))
}

/** The cosine of an angle in degrees; see `sine`. */
export function cosine(degrees: number): number {
  return sine(degrees + 90)
}

/** The direction at so many degrees, counter-clockwise from the x axis; of length 1. */
export function direction(degrees: number): Point {
  return [cosine(degrees), sine(degrees)]
}

/** The Taylor series of the sine (from the first power) or the cosine (from the power 0). */
function series(degrees: number, from: 0 | 1): number {
  const x = (degrees * 3.141592653589793) / 180
  let term = from === 1 ? x : 1
  let sum = term
  for (let n = from + 2; n <= 16; n += 2) {
    term = (-term * x * x) / (n * (n - 1))
    sum += term
  }
  return sum
}

/**
 * The angle of a direction in degrees, counter-clockwise from the x axis, from 0 to below 180: a direction and its
 * opposite have the same. Found by halving, with our own sine and cosine; 0 for a direction of no length.
 */
export function degreesOf([x, y]: Point): number {
  if (y === 0) return 0
  if (x === 0) return 90
  const [dx, dy] = y > 0 ? [x, y] : [-x, -y]
  let [low, high] = [0, 180]
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    const [c, s] = direction(middle)
    if (c * dy - s * dx > 0) low = middle
    else high = middle
  }
  return (Math.round(((low + high) / 2) * 1e9) / 1e9) % 180
}

/** A point turned about the origin, counter-clockwise, by an angle in degrees. */
export function turned(p: Point, degrees: number): Point {
  const s = sine(degrees)
  const c = cosine(degrees)
  return [p[0] * c - p[1] * s, p[0] * s + p[1] * c]
}

/** A point moved. */
export function moved(p: Point, by: Point): Point {
  return [p[0] + by[0], p[1] + by[1]]
}

/** The corners of a rectangle round a place, counter-clockwise; its own x and y sizes in metres, its turn in degrees. */
export function rectangle(at: Point, size: Point, turn: number): Point[] {
  const [w, d] = [size[0] / 2, size[1] / 2]
  const corners: Point[] = [
    [-w, -d],
    [w, -d],
    [w, d],
    [-w, d],
  ]
  return corners.map((corner) => moved(turned(corner, turn), at))
}

/** The parts of a segment that lie outside all of some polygons; their borders count as inside. */
export function outside(segment: Segment, polygons: readonly (readonly Point[])[]): Segment[] {
  const cuts = polygons.flatMap((outline) =>
    edges(outline).flatMap((edge) => {
      const t = meetingShare(segment, edge)
      const ends = [edge.a, edge.b].filter((p) => toSegment(p, segment) <= hair).map((p) => nearestShare(p, segment))
      return t === null ? ends : [t, ...ends]
    }),
  )
  const shares = [0, ...cuts.sort((a, b) => a - b), 1]
  const parts: Segment[] = []
  for (let i = 1; i < shares.length; i++) {
    const [from, to] = [shares[i - 1]!, shares[i]!]
    const a = between(segment.a, segment.b, from)
    const b = between(segment.a, segment.b, to)
    if (distance(a, b) <= 1e-7) continue
    const middle = between(a, b, 0.5)
    if (!polygons.some((outline) => inPolygon(middle, outline))) parts.push({ a, b })
  }
  return parts
}

/** Whether the border of a polygon crosses or touches itself, other than where neighbouring edges join. */
export function crossesItself(outline: readonly Point[]): boolean {
  const all = edges(outline)
  for (const [i, one] of all.entries()) {
    for (let j = i + 1; j < all.length; j++) {
      const neighbours = j === i + 1 || (i === 0 && j === all.length - 1)
      if (!neighbours && meetingShare(one, all[j]!) !== null) return true
    }
  }
  return false
}
