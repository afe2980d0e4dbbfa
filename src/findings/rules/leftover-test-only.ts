import { likely } from '../shared/edits.ts'
import { ruledOut, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface LeftoverTestOnlyFacts {
  readonly interactable: string
}

/** An instance that is there for trying things out only, and would go into the finished game. */
export const leftoverTestOnly: Rule<LeftoverTestOnlyFacts> = {
  name: 'leftover-test-only',
  severity: 'warning',
  isByLevel: true,
  ask: ({ stage: { expanded } }) =>
    Object.entries(expanded.level.interactables ?? {}).flatMap(([name, instance]) => {
      if (instance['test-only'] === undefined) return []
      if (!instance['test-only']) return [ruledOut(name)]
      const facts = { interactable: name } as const
      return [found(name, { path: `interactables.${name}.test-only`, isAboutKey: true, facts, steps: [], grant: null })]
    }),
  says(facts) {
    return `${facts.interactable} is only there for trying things out, and players would find it; it may also hide what is wrong without it.`
  },
  fix() {
    return 'Take it out before the level is handed on, or accept it until then.'
  },
  edit({ path }) {
    return likely({ do: 'remove', path: path.replace(/\.test-only$/, '') })
  },
}
