import { ruledOut, found, type Rule } from '../rule.ts'

/** A level without a goal: whether one can get stuck in it was not judged. */
export const noGoal: Rule = {
  name: 'no-goal',
  severity: 'advice',
  isByLevel: true,
  ask({ stage }) {
    if (stage.expanded.goals.length > 0) return [ruledOut('level')]
    return [found('level', { path: 'title', facts: {}, steps: [], grant: null })]
  },
  says() {
    return 'The level has no goal, so whether a player can get stuck in it was not judged.'
  },
  fix() {
    return 'Add one under goals.'
  },
}
