import { carriedLookout, obstructionOf } from './obstruction.ts'
import { ruledOut, found, undecided, type Rule } from './rule.ts'

/** A goal that no player can ever meet. */
export const unreachableGoal: Rule = {
  name: 'unreachable-goal',
  severity: 'error',
  observation: carriedLookout,
  ask({ stage, evidence }) {
    return stage.expanded.goals.map(({ name, title, path }, goal) => {
      const answer = evidence.unreachable[goal]!
      if (answer.answer === 'ruled-out') return ruledOut(name)
      if (answer.answer === 'undecided') return undecided(name, answer.why)
      const obstruction = obstructionOf(stage, evidence, goal)
      const facts = { rule: 'unreachable-goal', goal: name, title, obstruction } as const
      return found(name, { path: obstruction?.root.path ?? path, facts, steps: [], grant: null })
    })
  },
}
