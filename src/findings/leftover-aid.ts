import { absent, found, type Rule } from './rule.ts'

/** A copy that is there for trying things out only, and would go into the finished game. */
export const leftoverAid: Rule = {
  name: 'leftover-aid',
  severity: 'warning',
  ask: ({ stage: { expanded } }) =>
    Object.entries(expanded.level.interactables ?? {}).flatMap(([name, copy]) => {
      if (copy.aid === undefined) return []
      if (!copy.aid) return [absent(name)]
      const facts = { rule: 'leftover-aid', interactable: name } as const
      return [found(name, { path: `interactables.${name}.aid`, isAboutKey: true, facts, steps: [], grant: null })]
    }),
}
