import type { CompiledTransition, Tables } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'

/** What a transition is called in questions: its interactable and its name, or its place in the table. */
export function rowSubject(stage: Pick<Stage, 'expanded' | 'tables'>, row: CompiledTransition): string {
  return `${stage.expanded.interactables[row.machine]!.name}/${rowTitle(stage, row)}`
}

/** The name of a transition, or its place in the table, counted from 1, where that would not tell it from others. */
export function rowTitle(stage: Pick<Stage, 'expanded' | 'tables'>, row: CompiledTransition): string {
  const { name } = row.transition
  const same = stage.tables.rowsOf[row.machine]!.filter((other) => other.transition.name === name)
  return name !== null && same.length === 1 ? name : `transition-${String(row.place + 1)}`
}

/** The rows that lead to a state, by number. */
export function leadingTo({ rowsOf }: Tables, machine: number, state: number): number[] {
  return rowsOf[machine]!.filter((row) => row.to === state).map((row) => row.index)
}
