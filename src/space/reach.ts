import type { Placed, PlacedCharacter } from '../interactables/index.ts'
import { boxAround, boxOf } from './boxes.ts'
import { between, distance, edges, nearestShare, type Point, type Segment } from './geometry.ts'
import type { Figure, Layout, Points, Shape } from './layout.ts'
import { zoneHolds } from './zone-shapes.ts'
import { hiddenWithin, type Tri } from './sight.ts'
import { pointWithin } from './squares.ts'

/** How an interactable stands to a character at a spot. */
export interface Nearness {
  /** In range, in reach, and not hidden by walls. */
  readonly answers: Tri
  /** The same for somebody who has come within its range before: it ends farther off then. */
  readonly staysOn: Tri
  /** Whether it is in range: somebody who comes there is, wherever it was before. */
  readonly inRange: Tri
  /** Metres from the hand to the handle. */
  readonly distance: number
  /** Interactables whose bodies are in the line of sight (while they block sight), and whether that is certain. */
  readonly hiders: readonly { readonly interactable: number; readonly hides: Tri }[]
  /** Why it does not answer; null where it may. */
  readonly why: 'out-of-range' | 'out-of-reach' | 'at-another-height' | 'stands-elsewhere' | 'behind-a-wall' | null
}

/** The interactables that can be pressed, and whose handles may be within reach of a spot, ascending. */
export function handlesNear(
  space: { readonly layout: Layout },
  character: PlacedCharacter,
  p: Point,
): readonly number[] {
  return handlesWithin(space, p, farthestReach(character))
}

/** Metres on the ground beyond which a character reaches nothing. */
export function farthestReach({ reach, reachOffset }: PlacedCharacter): number {
  return reach + reachOffset
}

/** The interactables that can be pressed, and whose handles may be so many metres from a spot, ascending. */
export function handlesWithin({ layout }: { readonly layout: Layout }, p: Point, metres: number): readonly number[] {
  return layout.near.handles.near(boxAround(p, 0), metres)
}

/** Where the handles of an interactable are, in the level's frame: its own, and as they are for those on other storeys. */
export function handlesOf({ handle, elsewhere }: Figure): (readonly [number, number, number])[] {
  return handle ? [handle, ...[...elsewhere.values()].map((points) => points.handle)] : []
}

/** Of an interactable, its handle and what its range is measured from, for somebody at a spot; null where floors keep it off, or it stands nowhere. */
export function pointsFor({ storeys, figures }: Layout, interactable: number, p: Point): Points | null {
  const { handle, rangeFrom, storey, elsewhere } = figures[interactable]!
  if (!handle || !rangeFrom) return null
  const from = storeys ? storeys.at(p) : storey
  return from === storey ? { handle, rangeFrom } : (elsewhere.get(from) ?? null)
}

/**
 * Metres on the ground from a spot to the handle of an interactable; from another storey straight, with the difference of the floors. Infinite
 * from another level, or where it stands nowhere.
 */
export function metresTo({ storeys, figures }: Layout, interactable: number, p: Point): number {
  const { handle, storey } = figures[interactable]!
  if (!handle) return Infinity
  const from = storeys ? storeys.at(p) : storey
  if (from === storey) return distance(p, [handle[0], handle[1]])
  if (!storeys!.others(storey).includes(from)) return Infinity
  const [x, y, rise] = storeys!.seenFrom([handle[0], handle[1], 0], storey, from)
  return Math.hypot(distance(p, [x, y]), rise)
}

/** What an interactable is seen past, by a character who could reach it. */
export interface Sighting {
  readonly placed: Placed
  /** Its handle, and what its range is measured from, for somebody at a spot; null where floors keep it off. */
  readonly points: (p: Point) => Points | null
  /** How high its handle is above the floor that it is on; metres. */
  readonly height: number
  /** Where a character must stand, besides; null: anywhere. */
  readonly standsIn: Shape | null
  /** What may stand between; none where sight does not matter. */
  readonly screens: readonly Segment[]
  readonly hiders: readonly { readonly interactable: number; readonly sides: readonly Segment[] }[]
}

/** What there is round the handle of an interactable as far as a character reaches; null where it stands nowhere. */
export function sightingOf(layout: Layout, placed: Placed, character: PlacedCharacter): Sighting | null {
  const { handle, rangeFrom, standsIn } = layout.figures[placed.index]!
  if (!handle || !rangeFrom) return null
  const own = { handle, rangeFrom }
  const points = layout.storeys ? (p: Point) => pointsFor(layout, placed.index, p) : () => own
  const height = handle[2]
  if (!placed.sight) return { placed, points, height, standsIn, screens: [], hiders: [] }
  const box = boxAround([handle[0], handle[1]], farthestReach(character))
  const screens = layout.near.screens.near(box, margin).map((screen) => layout.screens[screen]!)
  const hiders = layout.near.hiders.near(box, margin).filter((interactable) => interactable !== placed.index)
  return {
    placed,
    points,
    height,
    standsIn,
    screens,
    hiders: hiders.map((interactable) => ({ interactable, sides: edges(layout.figures[interactable]!.body!) })),
  }
}

/** Beyond its reach a character may come by the slack of a cell. */
const margin = 1

/** How an interactable stands to a character at `p`; null where it stands nowhere. */
export function nearness(layout: Layout, placed: Placed, character: PlacedCharacter, p: Point): Nearness | null {
  const sighting = sightingOf(layout, placed, character)
  return sighting && nearnessIn(sighting, character, p, 0)
}

/** The same for many spots; null where it stands nowhere. */
export function nearnessFrom(
  layout: Layout,
  placed: Placed,
  character: PlacedCharacter,
): ((p: Point) => Nearness) | null {
  const sighting = sightingOf(layout, placed, character)
  return sighting && ((p) => nearnessIn(sighting, character, p, 0))
}

/**
 * How an interactable stands to a character at `p`. With a slack (metres, below 1), the answer holds for every spot of the
 * square round `p` whose corners are so far off, and is "maybe" where those spots differ.
 */
export function nearnessIn(sighting: Sighting, character: PlacedCharacter, p: Point, slack: number): Nearness {
  const { placed, height, standsIn, screens, hiders } = sighting
  const points = sighting.points(p)
  if (!points) return farOff(Infinity, 'behind-a-wall')
  const { handle, rangeFrom } = points
  const toHandle = fromHand(p, character.hand, handle)
  const inRange = within(p, slack, character.hand, rangeFrom, placed.radius)
  const inRangeStill =
    placed.until > placed.radius ? within(p, slack, character.hand, rangeFrom, placed.until) : inRange
  const inReach =
    character.reachOffset === 0
      ? within(p, slack, character.hand, handle, character.reach)
      : ahead(p, slack, character, handle)
  if (inRangeStill === 'no') return farOff(toHandle, 'out-of-range')
  if (inReach === 'no') return farOff(toHandle, inRange === 'no' ? 'out-of-range' : 'out-of-reach')
  if (placed.heights !== null && !isAtHeight(character.hand + height - handle[2], placed.heights))
    return farOff(toHandle, 'at-another-height')
  const stands = standsIn === null ? 'yes' : zoneHolds(standsIn, p, character.radius, slack)
  if (stands === 'no') return farOff(toHandle, 'stands-elsewhere')
  const to: Point = [handle[0], handle[1]]
  const walled = screens.length === 0 ? 'no' : hiddenWithin(p, to, screens, slack)
  if (walled === 'yes') return farOff(toHandle, 'behind-a-wall')
  const hidden = hiders.flatMap(({ interactable, sides }) => {
    const hides = hiddenWithin(p, to, sides, slack)
    return hides === 'no' ? [] : [{ interactable, hides }]
  })
  const isCertain = inReach === 'yes' && stands === 'yes' && walled === 'no'
  return {
    answers: inRange === 'yes' && !isCertain ? 'maybe' : inRange,
    staysOn: inRangeStill === 'yes' && isCertain ? 'yes' : 'maybe',
    inRange,
    distance: toHandle,
    hiders: hidden,
    why: inRange === 'no' ? 'out-of-range' : null,
  }
}

function farOff(distance: number, why: Nearness['why']): Nearness {
  return { answers: 'no', staysOn: 'no', inRange: 'no', distance, hiders: [], why }
}

/**
 * Whether somebody who has walked straight from one spot to another is in range there: within its radius, or, once it has been there on the way
 * or was in range before, as far off as it ends.
 */
export function isStillInRange(
  layout: Layout,
  { index, radius, until }: Placed,
  { hand }: PlacedCharacter,
  from: Point,
  to: Point,
  before: boolean,
): boolean {
  const points = pointsFor(layout, index, to)
  if (!points) return false
  const { rangeFrom } = points
  if (fromHand(to, hand, rangeFrom) <= radius) return true
  const share = nearestShare([rangeFrom[0], rangeFrom[1]], { a: from, b: to })
  return (
    (before || fromHand(between(from, to, share), hand, rangeFrom) <= radius) && fromHand(to, hand, rangeFrom) <= until
  )
}

function isAtHeight(height: number, { from, to }: { readonly from: number; readonly to: number }): boolean {
  return height >= from && height <= to
}

/** Whether a point is so near to the hand of a character, for the spots of a square. */
function within(p: Point, slack: number, hand: number, point: readonly [number, number, number], limit: number): Tri {
  if (slack === 0) return fromHand(p, hand, point) <= limit ? 'yes' : 'no'
  return pointWithin(p, slack, [point[0], point[1]], limit, point[2] - hand)
}

/** The same for a reach that is measured from ahead of the hand: on the ground a ring round the handle. */
function ahead(p: Point, slack: number, character: PlacedCharacter, handle: readonly [number, number, number]): Tri {
  if (slack === 0) return fromReach(p, character, handle) <= character.reach ? 'yes' : 'no'
  const across = acrossReach(character, handle[2])
  if (!across) return 'no'
  const to: Point = [handle[0], handle[1]]
  const outer = pointWithin(p, slack, to, across.most)
  const inner = across.least > 0 ? pointWithin(p, slack, to, across.least) : 'no'
  if (outer === 'no' || inner === 'yes') return 'no'
  return outer === 'yes' && inner === 'no' ? 'yes' : 'maybe'
}

/** How far on the ground, at the least and at the most, a character reaches at some height; null: nowhere. */
export function acrossReach(
  { hand, reach, reachOffset }: PlacedCharacter,
  height: number,
): { readonly least: number; readonly most: number } | null {
  const square = reach * reach - (height - hand) ** 2
  if (square < 0) return null
  const across = Math.sqrt(square)
  return { least: Math.max(0, reachOffset - across), most: reachOffset + across }
}

/** Metres to a point from where the reach of a character at `p` is measured from, which turns to it. */
export function fromReach(
  p: Point,
  { hand, reachOffset }: PlacedCharacter,
  to: readonly [number, number, number],
): number {
  if (reachOffset === 0) return fromHand(p, hand, to)
  const [dx, dy, dz] = [to[0] - p[0], to[1] - p[1], to[2] - hand]
  const over = Math.sqrt(dx * dx + dy * dy) - reachOffset
  return Math.sqrt(over * over + dz * dz)
}

/** Whether a wall, or an obstacle that blocks sight, is in between two spots. */
export function screensBetween(layout: Layout, p: Point, to: Point): boolean {
  const screens = layout.near.screens.near(boxOf([p, to]), margin).map((screen) => layout.screens[screen]!)
  return hiddenWithin(p, to, screens, 0) === 'yes'
}

/** Metres from a character's hand, at `hand` metres above the spot it stands on, to a point. */
export function fromHand(p: Point, hand: number, to: readonly [number, number, number]): number {
  const dx = to[0] - p[0]
  const dy = to[1] - p[1]
  const dz = to[2] - hand
  return Math.sqrt(dx * dx + dy * dy + dz * dz)
}
