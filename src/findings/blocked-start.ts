import { askProblems } from './names.ts'
import type { Rule } from './rule.ts'

/** A character that cannot stand where it starts. The check goes on from the nearest spot where it can. */
export const blockedStart: Rule = {
  name: 'blocked-start',
  severity: 'error',
  ask: (context) => askProblems(context, 'blocked-start'),
}
