import { ruledOut, found, type Rule } from './rule.ts'

/** A goal that holds before anybody has done anything: it asks nothing of a player, and proves nothing. */
export const goalAlreadyMet: Rule = {
  name: 'goal-already-met',
  severity: 'warning',
  ask: ({ stage, evidence }) =>
    stage.expanded.goals.map(({ name, title, path }, goal) => {
      if (!evidence.atOnce[goal]) return ruledOut(name)
      return found(name, {
        path,
        facts: { rule: 'goal-already-met', goal: name, title },
        steps: [],
        grant: null,
      })
    }),
}
