import { ruledOut, found, type Rule } from './rule.ts'

/** Something that fills a doorway, and which one can walk through in every state. */
export const neverBlocks: Rule = {
  name: 'never-blocks',
  severity: 'warning',
  ask: ({ stage }) =>
    stage.expanded.interactables.flatMap(({ name, path, doorway, states, transitions }) => {
      // A lamp or an exit may well be in a doorway: only what is opened by hand is meant to shut it.
      const isOpened = transitions.some(({ when, to }) => when.kind === 'press' && to !== null)
      if (doorway === null || !isOpened) return []
      if (states.some(({ blocksWalk }) => blocksWalk)) return [ruledOut(name)]
      const facts = { rule: 'never-blocks', interactable: name, doorway } as const
      return [found(name, { path: `${path}.in`, facts, steps: [], grant: null })]
    }),
}
