import { barredBy } from '../shared/cut-off.ts'
import { likely } from '../shared/edits.ts'
import { isSwapped, opennessOf } from '../shared/openness.ts'
import { listed } from '../shared/texts.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface BlocksWhenOpenFacts {
  readonly interactable: string
  readonly doorway: string
  readonly state: string
  /** The rooms into which nobody can come because of it. */
  readonly rooms: readonly string[]
}

/** Something in a doorway that stands open, and bars the way all the same. */
export const blocksWhenOpen: Rule<BlocksWhenOpenFacts> = {
  name: 'blocks-when-open',
  severity: 'warning',
  isByLevel: true,
  ask({ stage }) {
    return stage.expanded.interactables.flatMap(({ name, index, doorway, states }) => {
      const open = states.filter((state) => opennessOf(state) === 'open' && !state.isSpare)
      if (doorway === null || open.length === 0) return []
      const barring = open.find(({ blocksWalk }) => blocksWalk)
      // What was swapped is told once, where it is shut.
      if (!barring || isSwapped(states)) return [ruledOut(name)]
      const bars = barredBy(stage, index)
      const rooms = bars?.rooms ?? []
      const facts = { interactable: name, doorway, state: barring.name, rooms }
      const grant = bars && rooms.length > 0 ? ({ grant: 'way', patches: bars.patches } as const) : null
      return [found(name, { path: barring.path, facts, steps: [], grant })]
    })
  },
  says({ interactable, doorway, state, rooms }) {
    const behind = rooms.length === 0 ? '' : ` Nobody can ever come into ${listed(rooms)}.`
    return `${interactable} bars the way through ${doorway} while it is ${state}.${behind}`
  },
  fix() {
    return 'Take walk out of what that state blocks.'
  },
  edit({ path }) {
    return likely({ do: 'remove', path: `${path}.blocks` })
  },
}
