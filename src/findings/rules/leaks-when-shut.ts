import { likely } from '../shared/edits.ts'
import { isSwapped, opennessOf } from '../shared/openness.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface LeaksWhenShutFacts {
  readonly interactable: string
  readonly doorway: string
  readonly state: string
  readonly blocking: string
  /** Whether it blocks while it is open instead. */
  readonly isSwapped: boolean
}

/** Something in a doorway that can be walked through in a state in which it is shut, though it blocks in another one. */
export const leaksWhenShut: Rule<LeaksWhenShutFacts> = {
  name: 'leaks-when-shut',
  severity: 'warning',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    return expanded.interactables.flatMap(({ name, doorway, states }) => {
      if (doorway === null || !states.some((state) => opennessOf(state) === 'shut')) return []
      const leak = states.find((state) => opennessOf(state) === 'shut' && !state.blocksWalk && !state.isSpare)
      const blocking = states.find(({ blocksWalk }) => blocksWalk)
      // Where it never blocks, that is told by itself.
      if (!leak || !blocking) return [ruledOut(name)]
      const facts = {
        interactable: name,
        doorway,
        state: leak.name,
        blocking: blocking.name,
        isSwapped: isSwapped(states),
      }
      return [found(name, { path: leak.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, doorway, state, blocking }) {
    return `Players can walk through ${interactable} while it is ${state}: it blocks the way through ${doorway} while ${blocking}, but not then.`
  },
  fix({ isSwapped: swapped, state, blocking }) {
    return swapped ? `Swap what it blocks while ${state} and while ${blocking}.` : 'Say in that state what it blocks.'
  },
  edit({ stage, path, facts }) {
    if (facts.isSwapped) return null
    const isSaid = path
      .split('.')
      .reduce<unknown>((part, key) => (part as Record<string, unknown> | undefined)?.[key], stage.expanded.level)
    const hasBlocks = typeof isSaid === 'object' && isSaid !== null && 'blocks' in isSaid
    return hasBlocks
      ? likely({ do: 'replace', path: `${path}.blocks`, value: ['walk', 'sight'] })
      : likely({ do: 'add', path, key: 'blocks', value: ['walk', 'sight'] })
  },
}
