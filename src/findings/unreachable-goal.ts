import { absent, found, open, type Rule } from './rule.ts'

/** A goal that no player can ever meet. */
export const unreachableGoal: Rule = {
  name: 'unreachable-goal',
  severity: 'error',
  ask({ stage, evidence }) {
    return stage.expanded.goals.map(({ name, title, path }, goal) => {
      const answer = evidence.unreachable[goal]!
      if (answer.answer === 'absent') return absent(name)
      if (answer.answer === 'open') return open(name, answer.why)
      return found(name, { path, facts: { rule: 'unreachable-goal', goal: name, title }, steps: [], grant: null })
    })
  },
}
