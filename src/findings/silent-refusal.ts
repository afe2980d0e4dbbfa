import { rowTitle } from './dead-transition.ts'
import { absent, found, open, type Rule } from './rule.ts'

/** A press that is refused, and nothing tells the player so. */
export const silentRefusal: Rule = {
  name: 'silent-refusal',
  severity: 'warning',
  ask({ stage, evidence }) {
    return stage.expanded.interactables.flatMap((placed, machine) => {
      if (!placed.transitions.some(({ when }) => when.kind === 'press')) return []
      const answer = evidence.refused[machine]!
      if (answer.answer === 'open') return [open(placed.name, answer.why)]
      const all = evidence.refusals[machine]!.map(({ row, steps, short }) => {
        const { transition } = stage.tables.rows[row]!
        const state = placed.states[transition.from[0]!]!.name
        const title = rowTitle(stage, stage.tables.rows[row]!)
        const facts = { rule: 'silent-refusal', interactable: placed.name, transition: title, state } as const
        return { path: transition.path, facts, steps, short, grant: null }
      })
      return [all.length === 0 ? absent(placed.name) : found(placed.name, ...all)]
    })
  },
}
