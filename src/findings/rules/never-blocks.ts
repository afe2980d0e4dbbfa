import { likely } from '../shared/edits.ts'
import { ruledOut, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface NeverBlocksFacts {
  readonly interactable: string
  readonly doorway: string
}

/** Something that fills a doorway, and which one can walk through in every state. */
export const neverBlocks: Rule<NeverBlocksFacts> = {
  name: 'never-blocks',
  severity: 'warning',
  isByLevel: true,
  ask: ({ stage }) =>
    stage.expanded.interactables.flatMap(({ name, type, path, doorway, states, transitions }) => {
      // A lamp or an exit may well be in a doorway: only what is opened by hand, or a type of one's own with several states, is meant to shut it.
      const isOpened = transitions.some(({ when, to }) => when.kind === 'press' && to !== null)
      const isOwn = stage.expanded.level.types?.[type] !== undefined && states.length > 1
      if (doorway === null || !(isOpened || isOwn)) return []
      if (states.some(({ blocksWalk }) => blocksWalk)) return [ruledOut(name)]
      const facts = { interactable: name, doorway } as const
      return [found(name, { path: `${path}.in`, facts, steps: [], grant: null })]
    }),
  says(facts) {
    return `Players can walk through ${facts.interactable} even while it is shut: none of its states blocks the way through ${facts.doorway}.`
  },
  fix() {
    return 'Say in its shut state what it blocks.'
  },
  edit({ stage, facts }) {
    const placed = stage.expanded.interactables.find(({ name }) => name === facts.interactable)
    const shut = placed?.states[placed.initial]
    return shut?.path.startsWith('types.')
      ? likely({ do: 'add', path: shut.path, key: 'blocks', value: ['walk', 'sight'] })
      : null
  },
}
