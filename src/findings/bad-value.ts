import { askProblems } from './names.ts'
import type { Rule } from './rule.ts'

/** A well-formed value that cannot be meant. */
export const badValue: Rule = {
  name: 'bad-value',
  severity: 'error',
  ask: (context) => askProblems(context, 'bad-value'),
}
