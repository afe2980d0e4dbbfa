import { askProblems } from './names.ts'
import type { Rule } from './rule.ts'

/** A well-formed name that leads nowhere. */
export const unknownName: Rule = {
  name: 'unknown-name',
  severity: 'error',
  ask: (context) => askProblems(context, 'unknown-name'),
}
