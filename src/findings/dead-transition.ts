import { triggerText } from '../interactables/index.ts'
import type { Row } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import { absent, found, open, type Facts, type Rule } from './rule.ts'

/** A transition that nothing any player does sets off. */
export const deadTransition: Rule = {
  name: 'dead-transition',
  severity: 'warning',
  ask({ stage, evidence }) {
    const rows = stage.tables.rows.filter(({ transition }) => !transition.isRefusal)
    return rows.map((row) => {
      const subject = rowSubject(stage, row)
      const answer = evidence.dead[row.index]!
      if (answer.answer === 'absent') return absent(subject)
      if (answer.answer === 'open') return open(subject, answer.why)
      const grant = { grant: 'row', row: row.index } as const
      return found(subject, { path: row.transition.path, facts: factsOf(stage, row), steps: [], grant })
    })
  },
}

/** What a transition is called in questions: its interactable and its name, or its place in the table. */
export function rowSubject(stage: Stage, row: Row): string {
  return `${stage.expanded.interactables[row.machine]!.name}/${rowTitle(stage, row)}`
}

/** The name of a transition, or its place in the table, counted from 1, where that would not tell it from others. */
export function rowTitle(stage: Stage, row: Row): string {
  const { name } = row.transition
  const same = stage.tables.rowsOf[row.machine]!.filter((other) => other.transition.name === name)
  return name !== null && same.length === 1 ? name : `transition-${String(row.place + 1)}`
}

function factsOf(stage: Stage, row: Row): Facts {
  const placed = stage.expanded.interactables[row.machine]!
  const stateName = (state: number): string => placed.states[state]!.name
  return {
    rule: 'dead-transition',
    interactable: placed.name,
    transition: rowTitle(stage, row),
    from: row.transition.from.map(stateName),
    to: row.to < 0 ? row.transition.from.map(stateName).join(', ') : stateName(row.to),
    trigger: triggerText(stage.expanded, row.transition.when),
  }
}
