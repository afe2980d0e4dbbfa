import type { Placed, PlacedCharacter } from '../interactables/index.ts'
import { between, distance, edges, meetingShare, nearestShare, type Point, type Segment } from './geometry.ts'
import type { Layout } from './layout.ts'

/** Yes, no, or: within the slack it could be either. */
export type Tri = 'yes' | 'no' | 'maybe'

/** How an interactable stands to a character at a spot. */
export interface Nearness {
  /** In range, in reach, and not hidden by walls. */
  readonly answers: Tri
  /** Metres from the hand to the handle. */
  readonly distance: number
  /** Interactables whose bodies are in the line of sight (while they block sight), and whether that is certain. */
  readonly hiders: readonly { readonly interactable: number; readonly hides: Tri }[]
  /** Why it does not answer; null where it may. */
  readonly why: 'out-of-range' | 'out-of-reach' | 'behind-a-wall' | null
}

const same = 1e-6

/**
 * How an interactable stands to a character at `p`. With a slack (metres), the answer holds for every spot within
 * the slack of `p`, and is "maybe" where those spots differ.
 */
export function nearness(
  layout: Layout,
  placed: Placed,
  character: PlacedCharacter,
  p: Point,
  slack: number,
): Nearness | null {
  const figure = layout.figures[placed.index]!
  const { handle, rangeFrom } = figure
  if (!handle || !rangeFrom) return null
  const toHandle = fromHand(p, character.hand, handle)
  const inRange = within(fromHand(p, character.hand, rangeFrom), placed.radius, slack)
  const inReach = within(toHandle, character.reach, slack)
  if (inRange === 'no' || inReach === 'no') {
    const why = inRange === 'no' ? 'out-of-range' : 'out-of-reach'
    return { answers: 'no', distance: toHandle, hiders: [], why }
  }
  const near = inRange === 'yes' && inReach === 'yes' ? 'yes' : 'maybe'
  if (!placed.sight) return { answers: near, distance: toHandle, hiders: [], why: null }
  const to: Point = [handle[0], handle[1]]
  const walled = hidden(p, to, layout.screens, slack)
  if (walled === 'yes') return { answers: 'no', distance: toHandle, hiders: [], why: 'behind-a-wall' }
  const hiders = layout.figures.flatMap((other, interactable) => {
    if (interactable === placed.index || !other.hides || !other.body) return []
    const hides = hidden(p, to, edges(other.body), slack)
    return hides === 'no' ? [] : [{ interactable, hides }]
  })
  const answers = near === 'yes' && walled === 'no' ? 'yes' : 'maybe'
  return { answers, distance: toHandle, hiders, why: null }
}

/** Metres from a character's hand, at `hand` metres above the spot it stands on, to a point. */
export function fromHand(p: Point, hand: number, to: readonly [number, number, number]): number {
  const dx = to[0] - p[0]
  const dy = to[1] - p[1]
  const dz = to[2] - hand
  return Math.sqrt(dx * dx + dy * dy + dz * dz)
}

/** Whether a length is at most a limit, for all spots within a slack. */
export function within(length: number, limit: number, slack: number): Tri {
  if (length <= limit - slack) return 'yes'
  return length > limit + slack ? 'no' : 'maybe'
}

/** Whether any of some screens stands between a spot and a point; touching the point itself hides nothing. */
function hidden(p: Point, to: Point, screens: readonly Segment[], slack: number): Tri {
  const line: Segment = { a: p, b: to }
  const [left, right] = [Math.min(p[0], to[0]) - slack, Math.max(p[0], to[0]) + slack]
  const [low, high] = [Math.min(p[1], to[1]) - slack, Math.max(p[1], to[1]) + slack]
  let maybe = false
  for (const screen of screens) {
    const { a, b } = screen
    if ((a[0] < left && b[0] < left) || (a[0] > right && b[0] > right)) continue
    if ((a[1] < low && b[1] < low) || (a[1] > high && b[1] > high)) continue
    if (grazes(line, a, slack) || grazes(line, b, slack)) {
      if (slack === 0) return 'yes'
      maybe = true
      continue
    }
    const t = meetingShare(line, screen)
    if (t !== null && distance(between(p, to, t), to) > same) return 'yes'
  }
  return maybe ? 'maybe' : 'no'
}

/** Whether the end of a screen is so near a line that a spot within the slack could see it on the other side. */
function grazes(line: Segment, end: Point, slack: number): boolean {
  if (distance(end, line.b) <= same) return false
  const share = nearestShare(end, line)
  return distance(end, between(line.a, line.b, share)) <= slack * (1 - share) + 1e-9
}
