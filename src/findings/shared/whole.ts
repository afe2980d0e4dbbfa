import type { Stage } from '../../play/index.ts'
import type { Part } from '../rule.ts'

/** The number that a row of one of the levels that are explored together has in all of them. */
export function rowInWhole({ tables, expanded }: Stage, part: Part, row: number): number {
  const { first } = expanded.joined!.parts.find(({ name }) => name === part.name)!
  const { machine, place } = part.stage.tables.rows[row]!
  return tables.rowsOf[machine + first.interactables]![place]!.index
}

/** Of what is known of each row of levels that are explored together, what is known of the rows of one of these. */
export function ofPart<T>(whole: Stage, part: Part, rows: readonly T[]): T[] {
  return part.stage.tables.rows.map(({ index }) => rows[rowInWhole(whole, part, index)]!)
}
