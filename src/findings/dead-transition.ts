import { triggerText } from '../interactables/index.ts'
import type { Evidence } from '../explore/index.ts'
import type { CompiledTransition } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import { ruledOut, found, undecided, type Facts, type Rule } from './rule.ts'
import { leadingTo } from './unreachable-state.ts'

/** A transition that nothing any player does sets off. */
export const deadTransition: Rule = {
  name: 'dead-transition',
  severity: 'warning',
  ask({ stage, evidence }) {
    const rows = stage.tables.rows.filter((row) => !row.transition.isRefusal && !isSpare(stage, evidence, row))
    return rows.map((row) => {
      const subject = rowSubject(stage, row)
      const answer = evidence.dead[row.index]!
      if (answer.answer === 'ruled-out') return ruledOut(subject)
      if (answer.answer === 'undecided') return undecided(subject, answer.why)
      const grant = { grant: 'row', row: row.index } as const
      return found(subject, { path: row.transition.path, facts: factsOf(stage, row), steps: [], grant })
    })
  },
}

/**
 * Whether a transition that is never taken is none of the instance's business: it leaves only states that its settings leave out; or its
 * type is built in, or other instances of it take the transition, and the state that it leads to is reached otherwise. A lamp that follows a lever which stays on never goes out.
 */
function isSpare(
  { expanded, tables }: Stage,
  { dead }: Evidence,
  { machine, index, place, to, transition }: CompiledTransition,
): boolean {
  if (dead[index]!.answer !== 'found') return false
  const { type, initial, states } = expanded.interactables[machine]!
  if (transition.from.every((from) => states[from]!.isSpare && from !== initial)) return true
  if (to < 0) return false
  const isReached = to === initial || leadingTo(tables, machine, to).some((row) => dead[row]!.answer === 'ruled-out')
  if (!isReached) return false
  const isBuiltIn = expanded.level.types?.[type] === undefined
  const others = expanded.interactables.filter((other) => other.type === type && other.index !== machine)
  const { name } = tables.rows[index]!.transition
  const isTaken = (other: number): boolean =>
    tables.rowsOf[other]!.some(
      (row) => row.place === place && row.transition.name === name && dead[row.index]!.answer === 'ruled-out',
    )
  return isBuiltIn || others.some((other) => isTaken(other.index))
}

/** What a transition is called in questions: its interactable and its name, or its place in the table. */
export function rowSubject(stage: Stage, row: CompiledTransition): string {
  return `${stage.expanded.interactables[row.machine]!.name}/${rowTitle(stage, row)}`
}

/** The name of a transition, or its place in the table, counted from 1, where that would not tell it from others. */
export function rowTitle(stage: Stage, row: CompiledTransition): string {
  const { name } = row.transition
  const same = stage.tables.rowsOf[row.machine]!.filter((other) => other.transition.name === name)
  return name !== null && same.length === 1 ? name : `transition-${String(row.place + 1)}`
}

function factsOf(stage: Stage, row: CompiledTransition): Facts {
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
