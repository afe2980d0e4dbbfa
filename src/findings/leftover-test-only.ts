import { absent, found, type Rule } from './rule.ts'

/** A copy that is there for trying things out only, and would go into the finished game. */
export const leftoverTestOnly: Rule = {
  name: 'leftover-test-only',
  severity: 'warning',
  ask: ({ stage: { expanded } }) =>
    Object.entries(expanded.level.interactables ?? {}).flatMap(([name, copy]) => {
      if (copy['test-only'] === undefined) return []
      if (!copy['test-only']) return [absent(name)]
      const facts = { rule: 'leftover-test-only', interactable: name } as const
      return [found(name, { path: `interactables.${name}.test-only`, isAboutKey: true, facts, steps: [], grant: null })]
    }),
}
