import { askLosses } from './losing.ts'
import type { Rule } from './rule.ts'

/** A goal that a player can lose for good. */
export const softLock: Rule = {
  name: 'soft-lock',
  severity: 'error',
  ask: (context) => askLosses(context, 'soft-lock'),
}
