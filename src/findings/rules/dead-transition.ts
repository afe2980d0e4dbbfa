import { triggerText } from '../../interactables/index.ts'
import type { Evidence } from '../../explore/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { ruledOut, found, undecided, type Rule } from '../rule.ts'
import { leadingTo, rowSubject, rowTitle } from '../shared/rows.ts'

/** What is known of a finding of this rule. */
export interface DeadTransitionFacts {
  readonly interactable: string
  readonly transition: string
  readonly from: readonly string[]
  readonly to: string
  readonly trigger: string
}

/** A transition that nothing any player does sets off. */
export const deadTransition: Rule<DeadTransitionFacts> = {
  name: 'dead-transition',
  severity: 'warning',
  isSign: true,
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
  says(facts) {
    return `${facts.interactable} never takes ${facts.transition} (${facts.from.join(', ')} -> ${facts.to}, on ${facts.trigger}): nothing that a player can do sets it off.`
  },
  fix() {
    return 'Fix what it waits for, or take it out.'
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

function factsOf(stage: Stage, row: CompiledTransition): DeadTransitionFacts {
  const placed = stage.expanded.interactables[row.machine]!
  const stateName = (state: number): string => placed.states[state]!.name
  return {
    interactable: placed.name,
    transition: rowTitle(stage, row),
    from: row.transition.from.map(stateName),
    to: row.to < 0 ? row.transition.from.map(stateName).join(', ') : stateName(row.to),
    trigger: triggerText(stage.expanded, row.transition.when),
  }
}
