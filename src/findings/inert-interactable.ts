import { ruledOut, found, type Rule } from './rule.ts'

/** An interactable that answers nothing at all: nothing that happens ever changes it, and no press is refused. */
export const inertInteractable: Rule = {
  name: 'inert-interactable',
  severity: 'warning',
  ask: ({ stage, problems }) =>
    stage.expanded.interactables.map(({ name, path, transitions, states, index: machine }) => {
      const isBroken = problems.some((problem) => problem.subject === name || problem.path.startsWith(`${path}.`))
      const answers = transitions.length > 0 || states.some(({ dials }) => dials)
      if (answers || isBroken) return ruledOut(name)
      const facts = { rule: 'inert-interactable', interactable: name } as const
      return found(name, { path, facts, steps: [], grant: { grant: 'states', machine } })
    }),
}
