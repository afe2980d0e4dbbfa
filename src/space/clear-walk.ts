import type { PlacedCharacter } from '../interactables/index.ts'
import { between, distance, edges, nearestShare, type Point, type Segment, sideOf, toSegment } from './geometry.ts'
import { type Grid, middleOf } from './grid.ts'
import { type Layout, type Shape, touching } from './layout.ts'
import { apart } from './legs.ts'
import { handsBreadth } from './zone-shapes.ts'
import { cornersOf } from './squares.ts'
import type { Facts, Signature } from './alternatives.ts'

/** What a character's ground is cut from. */
export interface Terrain {
  readonly layout: Layout
  readonly character: PlacedCharacter
  readonly grid: Grid
  readonly facts: ReadonlyMap<number, Facts>
  /** For each cell what may be met in it: the sum of some of `met`. */
  readonly mets: Uint8Array
}

/** What may be met in a cell: walls that some spot in it is too near to; borders of zones or bodies. */
export const met = { walls: 1, borders: 2 } as const

/** A border that a walk may cross, once: the zone or the body of which it says otherwise at its end. */
export interface Border {
  readonly kind: 'zone' | 'body'
  readonly index: number
}

/** A square of spots with its sides along the axes, and the disc round it: every spot in it is within `slack` metres of `middle`. */
export interface Disc {
  readonly middle: Point
  readonly slack: number
}

/**
 * Whether it is certain that everybody who can stand in a disc, and of whose spot `signature` is so, can walk straight to
 * `end` without coming to a wall and without crossing a border but, once, `crossed`. At the end everything must be as
 * in `signature` (but for `crossed`), with room for the character, certainly.
 *
 * Every such walk lies in the hull of the disc and the end. Only what is uncertain in a cell that the hull comes into
 * can have a border in it. Of each such thing it is shown that its border is not met:
 * - Who is within something convex at both ends is so on the way.
 * - Beside a straight side, the distance to it is that to its line, which changes evenly along a walk: where it is at
 *   least the limit at the end, too, it is so all the way. All that lies behind the line is at least as far, also another wall, such as
 *   the next side of the same chest.
 * - The distance to something convex is a convex function along a walk. So it stays above its limit where it does not
 *   fall at the start, or does not fall towards the end seen from there, or the whole hull is far enough away.
 * - A polygon of which only one side comes into the hull is a half plane there; of two that share a corner, the part
 *   of the hull on either side is a wedge. Wedges below 180 degrees are convex; from a larger one, the end must be on
 *   the right side of both lines.
 * A border that is crossed belongs to something that is convex, or whose complement is, within the hull: a straight line
 * crosses it once at the most.
 */
export function isClearWalk(
  terrain: Terrain,
  disc: Disc,
  signature: Signature,
  end: Point,
  crossed: Border | null = null,
): boolean {
  const { layout, character } = terrain
  const walk: Walk = { disc, end, line: { a: disc.middle, b: end } }
  const near = borders(terrain, walk)
  const room = character.radius - touching
  const walls = near.walls.map((wall) => layout.walls[wall]!)
  let known: Point[] | null = null
  const standing = (): Point[] =>
    (known ??= walls.reduce((spots, wall) => beyond(spots, disc, wall, room), cornersOf(disc.middle, disc.slack)))
  const isOff = (wall: Segment): boolean =>
    keepsOff(walk, segmentOf(wall), room) ||
    isBehindOther(walk, wall, walls, room) ||
    setsOut(standing(), end, wall, room)
  if (!walls.every(isOff)) return false
  for (const body of near.bodies) {
    if (crossed?.kind === 'body' && crossed.index === body) continue
    const outline = layout.figures[body]!.body!
    if (!signature.bodies.includes(body) && !keepsOff(walk, rectangleOf(outline), room)) return false
  }
  for (const zone of near.zones) {
    const isCrossed = crossed?.kind === 'zone' && crossed.index === zone
    if (!keepsSide(walk, layout.zones[zone]!, signature.zones.includes(zone), isCrossed, character)) return false
  }
  return true
}

interface Walk {
  readonly disc: Disc
  readonly end: Point
  readonly line: Segment
}

/** Walls near, and zones and bodies whose borders may lie in the hull of a walk, by index. */
interface Borders {
  readonly walls: number[]
  readonly zones: number[]
  readonly bodies: number[]
}

function borders({ grid, facts, mets }: Terrain, { disc, line }: Walk): Borders {
  const found: Borders = { walls: [], zones: [], bodies: [] }
  const { left, low, size, columns, rows } = grid
  const { slack } = disc
  const limit = slack + grid.slack + 1e-9
  const column = (x: number): number => Math.min(columns - 1, Math.max(0, Math.floor((x - left) / size)))
  const row = (y: number): number => Math.min(rows - 1, Math.max(0, Math.floor((y - low) / size)))
  const [fromX, toX] = line.a[0] < line.b[0] ? [line.a[0], line.b[0]] : [line.b[0], line.a[0]]
  const [fromY, toY] = line.a[1] < line.b[1] ? [line.a[1], line.b[1]] : [line.b[1], line.a[1]]
  const last = column(toX + slack)
  for (let y = row(fromY - slack), top = row(toY + slack); y <= top; y++) {
    for (let x = column(fromX - slack); x <= last; x++) {
      const cell = y * columns + x
      const here = mets[cell]!
      if (here === 0) continue
      if (toSegment([left + (x + 0.5) * size, low + (y + 0.5) * size], line) > limit) continue
      if ((here & met.walls) !== 0) {
        for (const wall of grid.walls[cell]!) if (!found.walls.includes(wall)) found.walls.push(wall)
      }
      if ((here & met.borders) === 0) continue
      const known = facts.get(cell)!
      for (const { index, is } of known.zones)
        if (is === 'maybe' && !found.zones.includes(index)) found.zones.push(index)
      for (const { index, is } of known.bodies)
        if (is === 'maybe' && !found.bodies.includes(index)) found.bodies.push(index)
    }
  }
  return found
}

/**
 * Spots within `most` metres of `end` that are just as far from a wall or a body on the way there as somebody needs to be: where a
 * lane is hardly wider than the character, only such a spot can be walked to from everywhere in it.
 */
export function endsBeside(terrain: Terrain, disc: Disc, end: Point, most: number): Point[] {
  const near = borders(terrain, { disc, end, line: { a: disc.middle, b: end } })
  const { layout, character } = terrain
  const sides = [
    ...near.walls.map((wall) => layout.walls[wall]!),
    ...near.bodies.flatMap((body) => edges(layout.figures[body]!.body!)),
  ]
  return sides.flatMap(({ a, b }): Point[] => {
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
    const long = Math.sqrt(dx * dx + dy * dy)
    if (long === 0) return []
    const off = ((end[0] - a[0]) * dy - (end[1] - a[1]) * dx) / long
    const by = (off > 0 ? 1 : -1) * character.radius - off
    return Math.abs(by) <= most ? [[end[0] + (by * dy) / long, end[1] - (by * dx) / long]] : []
  })
}

/** Something convex: its nearest point to a spot, and how near it comes to a line. */
interface Convex {
  nearest(p: Point): Point
  toLine(line: Segment): number
  readonly sides: readonly Segment[]
  /** A point of it behind all its sides; null where there is no such side of them. */
  readonly inside: Point | null
}

function pointOf(at: Point): Convex {
  return { nearest: () => at, toLine: (line) => toSegment(at, line), sides: [], inside: null }
}

function segmentOf(segment: Segment): Convex {
  return {
    nearest: (p) => between(segment.a, segment.b, nearestShare(p, segment)),
    toLine: (line) => apart(line, segment),
    sides: [segment],
    inside: null,
  }
}

/** Of spots outside it; inside, the nearest point is on a side. */
function rectangleOf(outline: readonly Point[]): Convex {
  const segments = edges(outline)
  const sides = segments.map(segmentOf)
  return {
    nearest(p) {
      let best = sides[0]!.nearest(p)
      for (const side of sides) {
        const other = side.nearest(p)
        if (distance(p, other) < distance(p, best)) best = other
      }
      return best
    },
    toLine: (line) => Math.min(...sides.map((side) => side.toLine(line))),
    sides: segments,
    inside: between(outline[0]!, outline[2]!, 0.5),
  }
}

/** Whether a character that is further than `limit` from something convex at both ends of a walk is so all the way. */
function keepsOff({ disc: { middle, slack }, end, line }: Walk, thing: Convex, limit: number): boolean {
  if (thing.sides.some((side) => isBeside(middle, slack, end, side, thing.inside, limit))) return true
  const from = thing.nearest(middle)
  const off: Point = [middle[0] - from[0], middle[1] - from[1]]
  const along: Point = [end[0] - middle[0], end[1] - middle[1]]
  const rises = off[0] * along[0] + off[1] * along[1]
  if (rises - slack * (length(along) + length(off) + slack) >= 0) return true
  const to = thing.nearest(end)
  const offEnd: Point = [end[0] - to[0], end[1] - to[1]]
  const falls = offEnd[0] * along[0] + offEnd[1] * along[1]
  if (-falls - slack * length(offEnd) >= 0) return true
  return thing.toLine(line) - slack > limit
}

/** Whether a wall lies behind the line of another that a walk begins and stays beside. */
function isBehindOther({ disc, end }: Walk, wall: Segment, walls: readonly Segment[], limit: number): boolean {
  return walls.some((other) => {
    if (other === wall || !isBeside(disc.middle, disc.slack, end, other, null, limit)) return false
    const side = Math.sign(sideOf(disc.middle, other.a, other.b))
    return [wall.a, wall.b].every((p) => sideOf(p, other.a, other.b) * side <= 0)
  })
}

/** The part of a polygon in a square that is beside a wall in which somebody can stand: as far from it as the limit (Sutherland and Hodgman 1974). */
function beyond(spots: readonly Point[], { middle, slack }: Disc, wall: Segment, limit: number): Point[] {
  const beside = besideOf(middle, slack, wall)
  // On the other side of it nobody in the disc can be as far off as that.
  if (!beside || beside.off(middle) + limit <= slack) return [...spots]
  const over = spots.map((p) => beside.off(p) - limit)
  return spots.flatMap((p, i): Point[] => {
    const next = (i + 1) % spots.length
    const [here, there] = [over[i]!, over[next]!]
    const own = here >= 0 ? [p] : []
    return here >= 0 === there >= 0 ? own : [...own, between(p, spots[next]!, here / (here - there))]
  })
}

/**
 * Whether all who set out from these spots (the corners of a convex part of the ground) do not come nearer to a wall at first, and so,
 * since distance to it is a convex function along a walk, never do. What decides that is concave in the spot and linear in the point of
 * the wall that is nearest to it: it is enough to look at the corners, and at the ends of the stretch of the wall that is nearest to any of
 * them. Where it is no less than -e, nobody comes nearer by more than e over the distance: twice `touching` does not count.
 */
function setsOut(spots: readonly Point[], end: Point, wall: Segment, limit: number): boolean {
  const shares = spots.map((spot) => nearestShare(spot, wall))
  const stretch = [Math.min(...shares), Math.max(...shares)].map((share) => between(wall.a, wall.b, share))
  return spots.every((spot) => {
    const along: Point = [end[0] - spot[0], end[1] - spot[1]]
    return stretch.every((near) => {
      const rises = (spot[0] - near[0]) * along[0] + (spot[1] - near[1]) * along[1]
      return rises >= -2 * touching * limit
    })
  })
}

/** Metres by which a square may reach over the end of a side: so little does not matter beside `touching`. */
const tiny = 2e-9

/**
 * Whether a walk begins beside a side, all of whose thing lies behind its line, and ends no nearer to that line than the
 * limit.
 */
function isBeside(
  middle: Point,
  slack: number,
  end: Point,
  { a, b }: Segment,
  inside: Point | null,
  limit: number,
): boolean {
  const beside = besideOf(middle, slack, { a, b })
  if (!beside || (inside && beside.off(inside) > 0)) return false
  // A character that stands in the disc is off the line by the limit, on the side on which its middle is.
  return beside.off(middle) + limit > slack && beside.off(end) >= limit
}

/** How far off its line spots are, on the side of the middle of a square, all of which lies beside a segment; null where it does not. */
function besideOf(middle: Point, slack: number, { a, b }: Segment): { readonly off: (p: Point) => number } | null {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const long = Math.sqrt(dx * dx + dy * dy)
  if (long === 0) return null
  const along = ((middle[0] - a[0]) * dx + (middle[1] - a[1]) * dy) / long
  // How far the square reaches along the side, from its middle.
  const reach = (slack * Math.SQRT1_2 * (Math.abs(dx) + Math.abs(dy))) / long
  if (along < reach - tiny || along > long - reach + tiny) return null
  const across = (p: Point): number => ((p[0] - a[0]) * dy - (p[1] - a[1]) * dx) / long
  const side = across(middle) > 0 ? 1 : -1
  return { off: (p) => across(p) * side }
}

function length([x, y]: Point): number {
  return Math.sqrt(x * x + y * y)
}

/** Whether a character that is inside (or outside) a zone at the start stays so, or changes that just once, where it is crossed. */
function keepsSide(walk: Walk, zone: Shape, inside: boolean, isCrossed: boolean, { radius }: PlacedCharacter): boolean {
  if (zone.kind === 'polygon') return keepsPolygonSide(walk, zone.outline, inside, isCrossed)
  if (zone.kind === 'ring') {
    const { disc, end, line } = walk
    const isInHole = distance(disc.middle, zone.at) + disc.slack < zone.inner && distance(end, zone.at) < zone.inner
    if (isInHole) return !inside && !isCrossed
    // Past its hole, a ring is like a circle.
    if (toSegment(zone.at, line) - disc.slack <= zone.inner) return false
  }
  if (inside || isCrossed) return true
  return zone.kind === 'circle' || zone.kind === 'ring'
    ? keepsOff(walk, pointOf(zone.at), zone.radius)
    : keepsOff(walk, rectangleOf(zone.body), radius + handsBreadth - touching)
}

function keepsPolygonSide(
  { disc, end, line }: Walk,
  outline: readonly Point[],
  inside: boolean,
  isCrossed: boolean,
): boolean {
  const sides = edges(outline)
  const met = [...sides.keys()].filter((i) => apart(line, sides[i]!) <= disc.slack + 1e-9)
  if (met.length < 2) return true
  if (met.length > 2) return false
  const [i, j] = met as [number, number]
  const isNext = j === i + 1
  if (!isNext && !(i === 0 && j === sides.length - 1)) return false
  if (isCrossed) return true
  const [one, two] = isNext ? [sides[i]!, sides[j]!] : [sides[j]!, sides[i]!]
  const turn = Math.sign(sideOf(two.b, one.a, one.b))
  const way = isAnticlockwise(outline) ? 1 : -1
  const isWedge = inside ? turn * way >= 0 : turn * way <= 0
  if (isWedge) return true
  const wanted = inside ? way : -way
  return sideOf(end, one.a, one.b) * wanted > 0 && sideOf(end, two.a, two.b) * wanted > 0
}

function isAnticlockwise(outline: readonly Point[]): boolean {
  let twice = 0
  for (const { a, b } of edges(outline)) twice += a[0] * b[1] - b[0] * a[1]
  return twice > 0
}

/** The disc round a cell. */
export function discOf(grid: Grid, cell: number): Disc {
  return { middle: middleOf(grid, cell), slack: grid.slack }
}
