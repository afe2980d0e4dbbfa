import { leadingTo } from '../shared/rows.ts'
import type {} from '../../machine/index.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnreachableStateFacts {
  readonly interactable: string
  readonly state: string
}

/** A state that nothing any player does leads to, though its settings leave it in. */
export const unreachableState: Rule<UnreachableStateFacts> = {
  name: 'unreachable-state',
  severity: 'warning',
  isSign: true,
  ask(context) {
    return context.stage.expanded.interactables.flatMap((placed, machine) =>
      // What has no transition at all answers nothing: that is told instead.
      placed.transitions.length === 0 ? [] : placed.states.map((_, state) => askOne(context, machine, state)),
    )
  },
  says(facts) {
    return `${facts.interactable} can never be ${facts.state}: nothing that a player can do leads there.`
  },
  fix() {
    return 'Add a transition to it, or take it out.'
  },
}

function askOne({ stage, evidence }: Context, machine: number, state: number): Asked<UnreachableStateFacts> {
  const placed = stage.expanded.interactables[machine]!
  const { name, path, isSpare } = placed.states[state]!
  const subject = `${placed.name}/${name}`
  const answers = leadingTo(stage.tables, machine, state).map((row) => evidence.dead[row]!)
  if (state === placed.initial || answers.some(({ answer }) => answer === 'ruled-out')) return ruledOut(subject)
  // What its settings leave out, an instance is not meant to come to.
  if (isSpare) return ruledOut(subject)
  const unsettled = answers.find((one) => one.answer === 'undecided')
  if (unsettled?.answer === 'undecided') return undecided(subject, unsettled.why)
  const facts = { interactable: placed.name, state: name } as const
  return found(subject, { path, facts, steps: [], grant: { grant: 'state', machine, state } })
}
