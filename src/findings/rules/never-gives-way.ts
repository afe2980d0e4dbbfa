import { found, type Rule, ruledOut } from '../rule.ts'
import { barredBy } from '../shared/cut-off.ts'
import { opennessOf } from '../shared/openness.ts'
import { listed } from '../shared/texts.ts'

/** What is known of a finding of this rule. */
export interface NeverGivesWayFacts {
  readonly interactable: string
  readonly doorway: string
  /** Its states, all of which block walking. */
  readonly states: readonly string[]
  /** The rooms into which nobody can come because of it. */
  readonly rooms: readonly string[]
}

/** Something in a doorway that bars it in every state, with a room behind it that has no other way in. */
export const neverGivesWay: Rule<NeverGivesWayFacts> = {
  name: 'never-gives-way',
  severity: 'error',
  isByLevel: true,
  ask({ stage }) {
    return stage.expanded.interactables.flatMap(({ index, name, path, states }) => {
      const bars = barredBy(stage, index)
      // What is open and bars the way is told of that state.
      if (!bars || states.some((state) => !state.isSpare && opennessOf(state) === 'open')) return []
      const { doorway, rooms, patches } = bars
      if (rooms.length === 0) return [ruledOut(name)]
      const own = states.filter(({ isSpare }) => !isSpare).map((state) => state.name)
      const facts = { interactable: name, doorway, states: own, rooms }
      return [found(name, { path, facts, isAboutKey: true, steps: [], grant: { grant: 'way', patches } })]
    })
  },
  says({ interactable, doorway, states, rooms }) {
    const when =
      states.length === 1 ? `its only state, ${states[0]!}, blocks` : `its states, ${listed(states)}, all block`
    return `Nobody can ever come into ${listed(rooms)}: ${interactable} stands in the doorway ${doorway} and never gives way; ${when} walking.`
  },
  fix() {
    return 'Give it a state in which it does not block walking, and a transition that leads there.'
  },
}
