import type { Placed } from '../interactables/index.ts'
import { ruledOut, found, type Rule } from './rule.ts'

/** A state with no transition that leaves it, and which is not said to be lasting. */
export const noWayOut: Rule = {
  name: 'no-way-out',
  severity: 'warning',
  ask: ({ stage }) =>
    stage.expanded.interactables.flatMap((placed) =>
      placed.transitions.length === 0
        ? []
        : placed.states.map(({ name, path, lasting }, state) => {
            const subject = `${placed.name}/${name}`
            if (lasting || leaves(placed, state)) return ruledOut(subject)
            const facts = { rule: 'no-way-out', interactable: placed.name, state: name } as const
            return found(subject, { path, facts, steps: [], grant: null })
          }),
    ),
}

/** Whether any transition leads from a state to another; one that was lost with a wrong name counts. */
function leaves({ transitions }: Placed, state: number): boolean {
  return transitions.some(
    ({ from, to, guard, isRefusal }) =>
      from.includes(state) && !isRefusal && ((to !== null && to !== state) || guard.kind === 'never'),
  )
}
