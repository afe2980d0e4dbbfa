import { likely } from '../shared/edits.ts'
import { beginsAnew } from '../shared/remembered.ts'
import type { Placed } from '../../interactables/index.ts'
import { ruledOut, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface NoWayOutFacts {
  readonly interactable: string
  readonly state: string
}

/** A state with no transition that leaves it, and which is not said to be lasting; one that begins anew when one comes back is left so. */
export const noWayOut: Rule<NoWayOutFacts> = {
  name: 'no-way-out',
  severity: 'warning',
  isByLevel: true,
  ask: (context) =>
    context.stage.expanded.interactables.flatMap((placed) =>
      placed.transitions.length === 0 || beginsAnew(context, placed.index)
        ? []
        : placed.states.map(({ name, path, lasting }, state) => {
            const subject = `${placed.name}/${name}`
            if (lasting || leaves(placed, state)) return ruledOut(subject)
            const facts = { interactable: placed.name, state: name } as const
            return found(subject, { path, facts, steps: [], grant: null })
          }),
    ),
  says(facts) {
    return `Once ${facts.interactable} is ${facts.state} it stays so for good: no transition leaves that state, and it is not said to be lasting.`
  },
  fix() {
    return 'Say lasting: true where staying so is meant, or add a transition that leaves it.'
  },
  edit({ path }) {
    return path.startsWith('types.') ? likely({ do: 'add', path, key: 'lasting', value: true }) : null
  },
}

/** Whether any transition leads from a state to another; one that was lost with a wrong name counts. */
function leaves({ transitions }: Placed, state: number): boolean {
  return transitions.some(
    ({ from, to, guard, isRefusal }) =>
      from.includes(state) && !isRefusal && ((to !== null && to !== state) || guard.kind === 'never'),
  )
}
