import { likely } from '../shared/edits.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface PassingStartFacts {
  readonly interactable: string
  readonly state: string
  /** In ms. */
  readonly after: number
}

/** An instance that begins in another state than its type says, and leaves it by a timer, before anybody has done anything. */
export const passingStart: Rule<PassingStartFacts> = {
  name: 'passing-start',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    return expanded.interactables.flatMap(({ name, path, states, initial, transitions }) => {
      if (expanded.level.interactables?.[name]?.initial === undefined || initial === 0) return []
      const after = transitions.flatMap(({ from, when }) =>
        when.kind === 'after' && from.includes(initial) ? [when.after] : [],
      )
      if (after.length === 0) return [ruledOut(name)]
      const facts = { interactable: name, state: states[initial]!.name, after: Math.min(...after) }
      return [found(name, { path: `${path}.initial`, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, state, after }) {
    return `${interactable} begins ${state}, and is so for ${String(after / 1000)} s only: a timer ends it, whatever players do.`
  },
  fix() {
    return 'Leave out initial:, or the timer.'
  },
  edit({ path }) {
    return likely({ do: 'remove', path })
  },
}
