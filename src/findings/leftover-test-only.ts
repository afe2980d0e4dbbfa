import { ruledOut, found, type Rule } from './rule.ts'

/** An instance that is there for trying things out only, and would go into the finished game. */
export const leftoverTestOnly: Rule = {
  name: 'leftover-test-only',
  severity: 'warning',
  ask: ({ stage: { expanded } }) =>
    Object.entries(expanded.level.interactables ?? {}).flatMap(([name, instance]) => {
      if (instance['test-only'] === undefined) return []
      if (!instance['test-only']) return [ruledOut(name)]
      const facts = { rule: 'leftover-test-only', interactable: name } as const
      return [found(name, { path: `interactables.${name}.test-only`, isAboutKey: true, facts, steps: [], grant: null })]
    }),
}
