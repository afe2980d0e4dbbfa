import type { Tables } from '../machine/index.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule } from './rule.ts'

/** A state that nothing any player does leads to, though its settings leave it in. */
export const unreachableState: Rule = {
  name: 'unreachable-state',
  severity: 'warning',
  ask(context) {
    return context.stage.expanded.interactables.flatMap((placed, machine) =>
      // What has no transition at all answers nothing: that is told instead.
      placed.transitions.length === 0 ? [] : placed.states.map((_, state) => askOne(context, machine, state)),
    )
  },
}

function askOne({ stage, evidence }: Context, machine: number, state: number): Asked {
  const placed = stage.expanded.interactables[machine]!
  const { name, path, isSpare } = placed.states[state]!
  const subject = `${placed.name}/${name}`
  const answers = leadingTo(stage.tables, machine, state).map((row) => evidence.dead[row]!)
  if (state === placed.initial || answers.some(({ answer }) => answer === 'ruled-out')) return ruledOut(subject)
  // What its settings leave out, an instance is not meant to come to.
  if (isSpare) return ruledOut(subject)
  const unsettled = answers.find((one) => one.answer === 'undecided')
  if (unsettled?.answer === 'undecided') return undecided(subject, unsettled.why)
  const facts = { rule: 'unreachable-state', interactable: placed.name, state: name } as const
  return found(subject, { path, facts, steps: [], grant: { grant: 'state', machine, state } })
}

/** The rows that lead to a state, by number. */
export function leadingTo({ rowsOf }: Tables, machine: number, state: number): number[] {
  return rowsOf[machine]!.filter((row) => row.to === state).map((row) => row.index)
}
