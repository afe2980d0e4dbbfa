import { absent, found, type Rule } from './rule.ts'

/** Something that fills a doorway, and which one can walk through in every state. */
export const neverBlocks: Rule = {
  name: 'never-blocks',
  severity: 'warning',
  ask: ({ stage }) =>
    stage.expanded.interactables.flatMap(({ name, path, doorway, states }) => {
      if (doorway === null) return []
      if (states.some(({ blocksWalk }) => blocksWalk)) return [absent(name)]
      const facts = { rule: 'never-blocks', interactable: name, doorway } as const
      return [found(name, { path: `${path}.in`, facts, steps: [], grant: null })]
    }),
}
