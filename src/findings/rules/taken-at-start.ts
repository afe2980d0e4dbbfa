import { startRegisters } from '../../play/index.ts'
import { rowSubject, rowTitle } from '../shared/rows.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface TakenAtStartFacts {
  readonly interactable: string
  readonly transition: string
  readonly from: string
}

/** A transition that waits for something that is so at the very start: it is taken before anybody does anything. */
export const takenAtStart: Rule<TakenAtStartFacts> = {
  name: 'taken-at-start',
  severity: 'advice',
  isByLevel: true,
  ask({ stage }) {
    const { tables, expanded } = stage
    const own = tables.awaited.filter(({ row }) => row.transition.path.startsWith('types.'))
    if (own.length === 0) return []
    const regs = startRegisters(stage)
    return own.map(({ row, holds }) => {
      const { name, states, initial } = expanded.interactables[row.machine]!
      const isTaken = row.transition.from.includes(initial) && holds(regs, 0) && row.guard(regs, tables.firstPlayer)
      const subject = rowSubject(stage, row)
      if (!isTaken) return ruledOut(subject)
      const facts = { interactable: name, transition: rowTitle(stage, row), from: states[initial]!.name }
      return found(subject, { path: row.transition.path, facts, steps: [], grant: null })
    })
  },
  says({ interactable, transition, from }) {
    return `${interactable} takes ${transition} at the very start: what it waits for is so before anybody does anything, and so it is never seen ${from}.`
  },
  fix() {
    return 'Turn the condition round, or let it begin in the state that it comes to.'
  },
}
