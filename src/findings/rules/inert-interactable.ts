import { ruledOut, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface InertInteractableFacts {
  readonly interactable: string
}

/** An interactable that answers nothing at all: nothing that happens ever changes it, and no press is refused. */
export const inertInteractable: Rule<InertInteractableFacts> = {
  name: 'inert-interactable',
  severity: 'warning',
  isByLevel: true,
  ask: ({ stage, problems }) =>
    stage.expanded.interactables.map(({ name, path, transitions, states, index: machine }) => {
      const isBroken = problems.some((problem) => problem.subject === name || problem.path.startsWith(`${path}.`))
      const answers = transitions.length > 0 || states.some(({ dials }) => dials)
      if (answers || isBroken) return ruledOut(name)
      const facts = { interactable: name } as const
      return found(name, { path, facts, steps: [], grant: { grant: 'states', machine } })
    }),
  says(facts) {
    return `${facts.interactable} answers nothing: whatever a player does, it stays as it is.`
  },
  fix() {
    return 'Give it a setting, or a transition, that something sets off; or make it an obstacle.'
  },
}
