import type { Stage } from '../../play/index.ts'
import type { Point } from '../../space/index.ts'
import { cellsIn, patchesWithin } from './ground.ts'

/** For each character the patches to which there is a way from its start, or from a place, whatever stands in it. */
export function openGround({ expanded, space }: Stage): Set<number>[] {
  return expanded.characters.map((_, who) => {
    const { beside, patchAt } = space.patches[who]!
    const landings = expanded.places.map((_place, place) => space.landing(who, place))
    const seen = new Set([patchAt(space.layout.starts[who]!), ...landings])
    seen.delete(-1)
    for (const patch of seen) for (const next of beside[patch]!) seen.add(next)
    return seen
  })
}

/** Whether somebody stands in a room who is on one of some patches; the first cell that shows it is enough. */
export function isComeInto(
  { expanded, space }: Stage,
  outline: readonly Point[],
  open: readonly ReadonlySet<number>[],
): boolean {
  return expanded.characters.some((_, who) => {
    const { grid, patchesIn } = space.patches[who]!
    for (const cell of cellsIn(grid, outline)) if (patchesIn(cell).some((patch) => open[who]!.has(patch))) return true
    return false
  })
}

/** A thing in a doorway that bars it in every state, and the rooms behind it into which nobody can come. */
export interface Bars {
  readonly doorway: string
  /** The rooms that it cuts off; none where there is another way into both. */
  readonly rooms: readonly string[]
  /** For each character the patches in those rooms. */
  readonly patches: readonly (readonly number[])[]
}

/** What an interactable bars for good; null where it stands in no doorway, or gives way in some state. */
export function barredBy(stage: Stage, machine: number): Bars | null {
  const { doorway, states } = stage.expanded.interactables[machine]!
  const { doorways, rooms } = stage.space.layout
  const own = states.filter(({ isSpare }) => !isSpare)
  const place = doorways.find(({ name }) => name === doorway)
  if (!place || !own.every(({ blocksWalk }) => blocksWalk)) return null
  const open = openGround(stage)
  const beside = rooms.filter(({ name, outline }) => place.rooms.includes(name) && !isComeInto(stage, outline, open))
  const patches = patchesWithin(
    stage,
    beside.map(({ outline }) => outline),
  )
  return { doorway: place.name, rooms: beside.map(({ name }) => name), patches }
}

/** The rooms that are cut off by something that never gives way. */
export function barredRooms(stage: Stage): Set<string> {
  return new Set(stage.expanded.interactables.flatMap(({ index }) => barredBy(stage, index)?.rooms ?? []))
}

/** The patches to which a character can walk from its start while everything is as it is then. */
export function shutGround({ expanded, space }: Stage, who: number): Set<number> {
  const { beside, patchAt, patches } = space.patches[who]!
  const isShut = (body: number): boolean => {
    const { states, initial } = expanded.interactables[body]!
    return states[initial]!.blocksWalk
  }
  const first = patchAt(space.layout.starts[who]!)
  const seen = new Set(first < 0 ? [] : [first])
  for (const patch of seen) {
    for (const next of beside[patch]!) if (!patches[next]!.signature.bodies.some(isShut)) seen.add(next)
  }
  return seen
}
