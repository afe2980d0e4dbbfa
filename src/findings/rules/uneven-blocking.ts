import type { Placed } from '../../interactables/index.ts'
import { opennessOf } from '../shared/openness.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnevenBlockingFacts {
  readonly type: string
  readonly state: string
  readonly other: string
  readonly is: 'walk-and-sight' | 'comes-and-goes'
}

/** A body of which one state blocks other things than the others, though it stands where it stood. */
export const unevenBlocking: Rule<UnevenBlockingFacts> = {
  name: 'uneven-blocking',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    const seen = new Set<string>()
    return expanded.interactables.flatMap((placed) => {
      const { type, states, doorway, size } = placed
      const isOwn = states.every(({ path }) => path.startsWith('types.'))
      if (!isOwn || seen.has(type) || (doorway === null && size === null)) return []
      seen.add(type)
      const odd = halfBlocking(placed) ?? comingAndGoing(placed)
      if (!odd) return [ruledOut(type)]
      const [state, other] = [states[odd.state]!, states[odd.other]!]
      const facts = { type, state: state.name, other: other.name, is: odd.is }
      return [found(type, { path: state.path, facts, steps: [], grant: null })]
    })
  },
  says({ type, state, other, is }) {
    return is === 'walk-and-sight'
      ? `Of ${type}, ${state} blocks either walking or sight alone, and ${other} blocks both.`
      : `${type} stands in the way while ${other}, and can be walked through while ${state}, and back: nothing moves it in between.`
  },
  fix({ is }) {
    return is === 'walk-and-sight'
      ? 'Say the same in both, unless one can be seen through.'
      : 'Say in that state, too, what it blocks, unless it is gone then.'
  },
}

interface Odd {
  readonly state: number
  readonly other: number
  readonly is: UnevenBlockingFacts['is']
}

/** A state that blocks one of walking and sight, where another one blocks both. */
function halfBlocking({ states }: Placed): Odd | null {
  const both = states.findIndex(({ blocksWalk, blocksSight }) => blocksWalk && blocksSight)
  // What stands open and blocks is told by itself.
  const half = states.findIndex((state) => state.blocksWalk !== state.blocksSight && opennessOf(state) !== 'open')
  return both >= 0 && half >= 0 ? { state: half, other: both, is: 'walk-and-sight' } : null
}

/** A state in which a body in the open does not block, between states in which it does, without moving. */
function comingAndGoing({ states, transitions, doorway }: Placed): Odd | null {
  if (doorway !== null || states.some(({ motion, pose }) => motion !== null || pose !== null)) return null
  const blocking = states.flatMap(({ blocksWalk }, state) => (blocksWalk ? [state] : []))
  for (const [state, { blocksWalk }] of states.entries()) {
    if (blocksWalk) continue
    const leads = (from: number, to: number): boolean =>
      transitions.some((row) => row.from.includes(from) && row.to === to)
    const other = blocking.find((one) => leads(one, state) && leads(state, one))
    if (other !== undefined) return { state, other, is: 'comes-and-goes' }
  }
  return null
}
