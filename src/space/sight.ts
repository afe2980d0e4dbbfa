import { between, distance, meetingShare, nearestShare, type Point, type Segment, toSegment } from './geometry.ts'

/** Yes, no, or: within the slack it could be either. */
export type Tri = 'yes' | 'no' | 'maybe'

/** Metres from a point within which what touches it hides nothing of it. */
const same = 1e-6

/** What comes this near to a line of sight, in metres, is in it. */
const grazing = 1e-9

/** Whether any of some screens stands between a spot and a point; touching the point itself hides nothing. */
export function isHidden(p: Point, to: Point, screens: Iterable<Segment>): boolean {
  const line: Segment = { a: p, b: to }
  for (const screen of screens) {
    if (grazes(line, screen.a) || grazes(line, screen.b)) return true
    const t = meetingShare(line, screen)
    if (t !== null && distance(between(p, to, t), to) > same) return true
  }
  return false
}

function grazes(line: Segment, end: Point): boolean {
  if (distance(end, line.b) <= same) return false
  return distance(end, between(line.a, line.b, nearestShare(end, line))) <= grazing
}

/**
 * The same for all spots within a slack (metres) of `p`: yes and no are so of every one of them.
 *
 * All lines of sight from the disc round `p` lie in a wedge with its tip at `to`, cut off behind the disc. A screen that
 * does not come into the wedge, or only at its tip, hides nothing of the point from any spot. One that goes right across
 * it, in front of the disc, hides the point from every spot; so do two that share an end in the wedge and leave it on different
 * sides, as the walls do that meet in a corner. What does neither (an end in the wedge, a screen through the disc itself) may hide
 * it from some.
 */
export function hiddenWithin(p: Point, to: Point, screens: Iterable<Segment>, slack: number): Tri {
  if (slack === 0) return isHidden(p, to, screens) ? 'yes' : 'no'
  const wedge = wedgeOf(p, to, slack)
  let maybe = false
  const halves: Half[] = []
  for (const screen of screens) {
    // Where there is no wedge, all lines of sight lie in a disc round the point.
    const hides = wedge ? screenIn(wedge, screen) : toSegment(to, screen) > 3 * slack + same ? 'no' : 'maybe'
    if (hides === 'yes') return 'yes'
    if (hides === 'no') continue
    maybe = true
    if (hides === 'maybe') continue
    if (halves.some(({ end, side }) => side !== hides.side && distance(end, hides.end) <= grazing)) return 'yes'
    halves.push(hides)
  }
  return maybe ? 'maybe' : 'no'
}

/** Lines of sight from a disc: in a frame of its own, with the point seen at the origin and the disc along the axis. */
interface Wedge {
  readonly tip: Point
  /** The axis, from the tip to the middle of the disc; of length 1. */
  readonly axis: Point
  /** How far out, in metres, the disc begins and ends. */
  readonly near: number
  readonly far: number
  /** Half the width of the wedge at a metre from its tip. */
  readonly spread: number
}

/** Null where the disc is so near the point that there is no wedge. */
function wedgeOf(p: Point, to: Point, slack: number): Wedge | null {
  const length = distance(p, to)
  if (length <= slack * 1.05 + same) return null
  const axis: Point = [(p[0] - to[0]) / length, (p[1] - to[1]) / length]
  const spread = slack / Math.sqrt(length * length - slack * slack)
  return { tip: to, axis, near: length - slack, far: length + slack, spread }
}

/** A screen in front of the disc with one end in the wedge, and the side on which it leaves it. */
interface Half {
  readonly end: Point
  readonly side: number
}

function screenIn(wedge: Wedge, { a, b }: Segment): Tri | Half {
  const [outA, offA] = inFrame(wedge, a)
  const [outB, offB] = inFrame(wedge, b)
  const limit = (out: number): number => out * wedge.spread + 2 * grazing
  // Above 0: within the wedge, as far as that side of it goes.
  const sides: readonly (readonly [number, number])[] = [
    [wedge.far - outA, wedge.far - outB],
    [limit(outA) - offA, limit(outB) - offB],
    [limit(outA) + offA, limit(outB) + offB],
  ]
  let [from, to] = [0, 1]
  for (const [atA, atB] of sides) {
    if (atA < 0 && atB < 0) return 'no'
    if (atA < 0) from = Math.max(from, atA / (atA - atB))
    else if (atB < 0) to = Math.min(to, atA / (atA - atB))
  }
  if (from > to) return 'no'
  const [outFrom, offFrom] = [outA + (outB - outA) * from, offA + (offB - offA) * from]
  const [outTo, offTo] = [outA + (outB - outA) * to, offA + (offB - offA) * to]
  const isAtTip = (out: number, off: number): boolean => out * out + off * off <= (same * same) / 4
  if (isAtTip(outFrom, offFrom) && isAtTip(outTo, offTo)) return 'no'
  const isInFront = Math.max(outFrom, outTo) < wedge.near && Math.min(outFrom, outTo) > 2 * same
  if (!isInFront || (from === 0 && to === 1)) return 'maybe'
  if (from > 0 && to < 1) return offFrom * offTo < 0 ? 'yes' : 'maybe'
  return from > 0 ? { end: b, side: Math.sign(offFrom) } : { end: a, side: Math.sign(offTo) }
}

/** How far out along the axis of a wedge a point is, and how far off it. */
function inFrame({ tip, axis }: Wedge, p: Point): readonly [out: number, off: number] {
  const [x, y] = [p[0] - tip[0], p[1] - tip[1]]
  return [x * axis[0] + y * axis[1], y * axis[0] - x * axis[1]]
}
