import { likely } from '../shared/edits.ts'
import { isSwapped, opennessOf } from '../shared/openness.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface BlocksWhenOpenFacts {
  readonly interactable: string
  readonly doorway: string
  readonly state: string
}

/** Something in a doorway that stands open, and bars the way all the same. */
export const blocksWhenOpen: Rule<BlocksWhenOpenFacts> = {
  name: 'blocks-when-open',
  severity: 'warning',
  ask({ stage: { expanded } }) {
    return expanded.interactables.flatMap(({ name, doorway, states }) => {
      const open = states.filter((state) => opennessOf(state) === 'open' && !state.isSpare)
      if (doorway === null || open.length === 0) return []
      const barring = open.find(({ blocksWalk }) => blocksWalk)
      // What was swapped is told once, where it is shut.
      if (!barring || isSwapped(states)) return [ruledOut(name)]
      const facts = { interactable: name, doorway, state: barring.name }
      return [found(name, { path: barring.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, doorway, state }) {
    return `${interactable} bars the way through ${doorway} while it is ${state}.`
  },
  fix() {
    return 'Take walk out of what that state blocks.'
  },
  edit({ path }) {
    return likely({ do: 'remove', path: `${path}.blocks` })
  },
}
