import { askProblems } from './names.ts'
import type { Rule } from './rule.ts'

/** A name of two things that a step could mean. */
export const duplicateName: Rule = {
  name: 'duplicate-name',
  severity: 'warning',
  ask: (context) => askProblems(context, 'duplicate-name'),
}
