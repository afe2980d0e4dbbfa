import { goalText } from '../shared/texts.ts'
import { likely, valueIn } from '../shared/edits.ts'
import { askLosses, lossOf, type LossFacts } from '../shared/losing.ts'
import type { Rule } from '../rule.ts'

/** A goal that a player can lose for good by spending an item. */
export const wastedItem: Rule<LossFacts> = {
  name: 'wasted-item',
  severity: 'error',
  isAboutGoals: true,
  ask: (context) => askLosses(context, 'wasted-item'),
  losing: lossOf,
  says(facts) {
    return `The ${facts.items.join(', the ')} can be wasted on ${facts.interactable ?? ''} (${facts.transition ?? ''}): then the goal ${goalText(facts)} can never be met any more.`
  },
  fix() {
    return 'Keep the item, give another one, or ask here for something else.'
  },
  edit({ stage, path }) {
    return valueIn(stage, path) === 'consume' ? likely({ do: 'replace', path, value: 'keep' }) : null
  },
}
