import type { Tables } from '../machine/index.ts'

/** The numbers (plus 1) of rows of a machine that can have to wait until a character is out of the way. */
export function canWait(tables: Tables, machine: number): number[] {
  const own = tables.states[machine]!
  return tables.rowsOf[machine]!.filter((row) => row.to >= 0 && own[row.to]!.blocksWalk)
    .filter((row) => row.transition.from.some((from) => !own[from]!.blocksWalk))
    .map((row) => row.index + 1)
}
