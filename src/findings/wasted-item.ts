import { askLosses } from './losing.ts'
import type { Rule } from './rule.ts'

/** A goal that a player can lose for good by spending an item. */
export const wastedItem: Rule = {
  name: 'wasted-item',
  severity: 'error',
  ask: (context) => askLosses(context, 'wasted-item'),
}
