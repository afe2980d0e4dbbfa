import type { NameProblem } from '../../interactables/index.ts'
import { askProblems } from '../shared/names.ts'
import type { Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface DuplicateNameFacts {
  readonly problem: Extract<NameProblem, { rule: 'duplicate-name' }>
}

/** A name of two things that a step could mean. */
export const duplicateName: Rule<DuplicateNameFacts> = {
  name: 'duplicate-name',
  severity: 'warning',
  isByLevel: true,
  ask: (context) => askProblems(context, 'duplicate-name'),
  says({ problem }) {
    return `"${problem.subject}" is also the name of ${problem.other}: "walk to ${problem.subject}" could mean either.`
  },
  fix() {
    return 'Rename one of the two.'
  },
}
