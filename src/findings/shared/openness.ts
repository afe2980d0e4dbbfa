import type { PlacedState } from '../../interactables/index.ts'

const openNames = ['open', 'opened', 'ajar']
const shutNames = ['shut', 'closed', 'locked', 'barred']

/** Whether a body in a doorway blocks while it is open, and not while it is shut: what the two block was swapped. */
export function isSwapped(states: readonly PlacedState[]): boolean {
  const of = (openness: 'open' | 'shut'): PlacedState[] =>
    states.filter((state) => opennessOf(state) === openness && !state.isSpare)
  const [open, shut] = [of('open'), of('shut')]
  const blocks = ({ blocksWalk }: PlacedState): boolean => blocksWalk
  return open.length > 0 && shut.length > 0 && open.every(blocks) && !shut.some(blocks)
}

/** Whether a state of a type of the level is one in which it stands open, or shut: by its pose, or else by its name; null: neither is said. */
export function opennessOf({ name, pose, motion, path }: PlacedState): 'open' | 'shut' | null {
  if (motion !== null || !path.startsWith('types.')) return null
  const byName = openNames.includes(name) ? 'open' : shutNames.includes(name) ? 'shut' : null
  if (pose === null) return byName
  const byPose = pose === 1 ? 'open' : 'shut'
  return byName === null || byName === byPose ? byPose : null
}
