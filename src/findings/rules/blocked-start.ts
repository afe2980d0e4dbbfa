import type { NameProblem } from '../../interactables/index.ts'
import { likely } from '../shared/edits.ts'
import { askProblems } from '../shared/names.ts'
import type { Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface BlockedStartFacts {
  readonly problem: Extract<NameProblem, { rule: 'blocked-start' }>
}

/** A character that cannot stand where it starts. The check goes on from the nearest spot where it can. */
export const blockedStart: Rule<BlockedStartFacts> = {
  name: 'blocked-start',
  severity: 'error',
  isByLevel: true,
  ask: (context) => askProblems(context, 'blocked-start'),
  says({ problem: { subject, where, nearest } }) {
    const why = where === 'outside' ? 'that is outside of every room' : 'a wall or an obstacle is too near'
    const spot =
      nearest === null
        ? 'There is no spot near by where it could'
        : `The nearest spot where it can is [${nearest.join(', ')}]`
    return `${subject} cannot stand where it starts: ${why}. ${spot}.`
  },
  fix({ problem: { nearest } }) {
    return nearest === null ? 'Move the start into a room.' : `Start at [${nearest.join(', ')}].`
  },
  edit({ path, facts: { problem } }) {
    return problem.nearest && likely({ do: 'replace', path, value: [...problem.nearest] })
  },
}
