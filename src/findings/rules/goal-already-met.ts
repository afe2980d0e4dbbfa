import { goalText } from '../shared/texts.ts'
import { ruledOut, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface GoalAlreadyMetFacts {
  readonly goal: string
  readonly title: string | null
}

/** A goal that holds before anybody has done anything: it asks nothing of a player, and proves nothing. */
export const goalAlreadyMet: Rule<GoalAlreadyMetFacts> = {
  name: 'goal-already-met',
  severity: 'warning',
  ask: ({ stage, evidence }) =>
    stage.expanded.goals.map(({ name, title, path }, goal) => {
      if (!evidence.atOnce[goal]) return ruledOut(name)
      return found(name, {
        path,
        facts: { goal: name, title },
        steps: [],
        grant: null,
      })
    }),
  says(facts) {
    return `The goal ${goalText(facts)} holds before anybody has done anything: it asks nothing of a player.`
  },
  fix() {
    return 'Turn the comparison round, or ask for what is to be brought about.'
  },
}
