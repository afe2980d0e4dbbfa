import { edges, type Point, type Segment, toPolygon, toSegment } from './geometry.ts'
import type { Tri } from './sight.ts'

/*
 * What is so of all spots of a square with its sides along the axes, such as a cell or a part of one. It is given by its middle and
 * by the metres from there to its corners. The slack of a cell is a little larger than that, so that rounding does no harm.
 */

/** Half a side, in metres. */
function halfOf(slack: number): number {
  return slack * Math.SQRT1_2
}

/** The corners of a square, anticlockwise. */
export function cornersOf([x, y]: Point, slack: number): Point[] {
  const half = halfOf(slack)
  return [
    [x - half, y - half],
    [x + half, y - half],
    [x + half, y + half],
    [x - half, y + half],
  ]
}

/** Whether a point, `rise` metres higher, is within a limit of the spots of a square. */
export function pointWithin(p: Point, slack: number, to: Point, limit: number, rise = 0): Tri {
  const half = halfOf(slack)
  const [x, y] = [Math.abs(to[0] - p[0]), Math.abs(to[1] - p[1])]
  const [nearX, nearY] = [Math.max(0, x - half), Math.max(0, y - half)]
  const across = limit * limit - rise * rise
  if (nearX * nearX + nearY * nearY > across) return 'no'
  return (x + half) ** 2 + (y + half) ** 2 <= across ? 'yes' : 'maybe'
}

/** Whether a body, an outline that is convex, is within a limit (metres, more than a side) of the spots of a square. */
export function bodyWithin(p: Point, slack: number, outline: readonly Point[], limit: number): Tri {
  const gap = toPolygon(p, outline)
  if (gap > limit + slack) return 'no'
  if (gap <= limit - slack) return 'yes'
  const off = cornersOf(p, slack).map((corner) => toPolygon(corner, outline))
  // The distance to something convex is nowhere in a square larger than at a corner.
  if (off.every((one) => one <= limit)) return 'yes'
  // Where the limit is so large, what is decided here does not come into the square: it is nearest to it at a corner of either.
  if (limit <= 2 * slack || off.some((one) => one <= limit)) return 'maybe'
  return outline.every((corner) => pointWithin(p, slack, corner, limit) === 'no') ? 'no' : 'maybe'
}

/** Whether all spots of a square are nearer to a segment than a limit. */
export function isCloserThan(p: Point, slack: number, segment: Segment, limit: number): boolean {
  const gap = toSegment(p, segment)
  if (gap < limit - slack) return true
  return gap < limit && cornersOf(p, slack).every((corner) => toSegment(corner, segment) < limit)
}

/** Whether no spot of a square is nearer to a segment than a limit (metres, more than a side). */
export function keepsOffSegment(p: Point, slack: number, { a, b }: Segment, limit: number): boolean {
  const gap = toSegment(p, { a, b })
  if (gap >= limit + slack) return true
  if (gap < limit) return false
  const isFar = (off: Tri): boolean => off === 'no'
  return (
    isFar(pointWithin(p, slack, a, limit)) &&
    isFar(pointWithin(p, slack, b, limit)) &&
    cornersOf(p, slack).every((corner) => toSegment(corner, { a, b }) >= limit)
  )
}

/** Whether the border of a polygon comes into a square. */
export function isOnBorder(p: Point, slack: number, outline: readonly Point[]): boolean {
  return edges(outline).some((edge) => comesInto(p, slack, edge))
}

/** Whether a segment comes into a square: no line along a side of it, nor one along the segment, parts them. */
function comesInto([x, y]: Point, slack: number, { a, b }: Segment): boolean {
  const half = halfOf(slack)
  if (Math.min(a[0], b[0]) > x + half || Math.max(a[0], b[0]) < x - half) return false
  if (Math.min(a[1], b[1]) > y + half || Math.max(a[1], b[1]) < y - half) return false
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  return Math.abs((x - a[0]) * dy - (y - a[1]) * dx) <= half * (Math.abs(dx) + Math.abs(dy))
}
