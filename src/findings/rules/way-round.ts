import type { Check, Placed } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import { direction, moved, type Point, wayToSpot } from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { somePart } from '../shared/conditions.ts'

/** What is known of a finding of this rule. */
export interface WayRoundFacts {
  readonly interactable: string
  readonly doorway: string
  /** What it asks for. */
  readonly item: string | null
  /** The rooms on both sides of it. */
  readonly rooms: readonly string[]
}

/** Something locked that nobody has to open: with everything shut one can walk to both sides of it. */
export const wayRound: Rule<WayRoundFacts> = {
  name: 'way-round',
  severity: 'advice',
  isByLevel: true,
  ask: ({ stage }) =>
    stage.expanded.interactables.flatMap((placed) => {
      const { name, doorway, path } = placed
      if (doorway === null || !placed.states[placed.initial]!.blocksWalk || !isLocked(stage, placed)) return []
      const place = stage.space.layout.doorways.find((one) => one.name === doorway)
      if (!place || !isWalkedRound(stage, placed, place)) return [ruledOut(name)]
      const item = stage.expanded.items.find((one) => one.name === placed.asksFor?.item)?.title ?? null
      const facts = { interactable: name, doorway, item, rooms: place.rooms }
      return [found(name, { path: `${path}.in`, facts, steps: [], grant: null })]
    }),
  says({ interactable, item, rooms }) {
    const asked = item === null ? '' : `, which asks for the ${item}`
    return `Nobody has to open ${interactable}${asked}: with everything shut, a player can walk from the start to both sides of it, in ${rooms.join(' and in ')}.`
  },
  fix() {
    return 'Shut the other way as well, or do without the lock.'
  },
}

/** Whether its first state is left only with an item, or after something else was opened with one. */
function isLocked({ expanded }: Stage, { initial, transitions }: Placed): boolean {
  const isKey = (check: Check): boolean =>
    check.kind === 'carries' || (check.kind === 'state' && expanded.interactables[check.interactable]!.asksFor !== null)
  const leaving = transitions.filter(({ from, to, isRefusal }) => from.includes(initial) && to !== null && !isRefusal)
  return leaving.length > 0 && leaving.every(({ guard }) => somePart(guard, isKey))
}

/** Whether some player can walk to both sides of a doorway without anything having been opened. */
function isWalkedRound(
  { expanded, space }: Stage,
  { index }: Placed,
  { at, turn, outline }: { readonly at: Point; readonly turn: number; readonly outline: readonly Point[] },
): boolean {
  const blocking = space.layout.figures.flatMap(({ comesAndGoes }, i) => (comesAndGoes ? [i] : []))
  if (!blocking.includes(index)) return false
  const ahead = direction(turn)
  const depth = Math.max(...outline.map((corner) => (corner[0] - at[0]) * ahead[0] + (corner[1] - at[1]) * ahead[1]))
  return expanded.characters.some(({ role, radius }, who) => {
    if (role !== 'player') return false
    const sides = [-1, 1].map((side) => moved(at, scaled(ahead, side * (depth + radius + clearance))))
    return sides.every((side) => wayToSpot(space, who, space.layout.starts[who]!, side, blocking) !== null)
  })
}

function scaled([x, y]: Point, by: number): Point {
  return [x * by, y * by]
}

/** How far from a doorway somebody stands who is beside it, in metres. */
const clearance = 0.1
