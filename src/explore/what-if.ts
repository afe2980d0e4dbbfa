import type { Stage } from '../play/index.ts'
import type { Evidence } from './answers.ts'
import { Predecessors, goalSets } from './graph.ts'
import { losingMoves } from './losses.ts'
import type { Free } from './successors.ts'
import { Search } from './search.ts'
import { lookOut, type Observation } from './observation.ts'
import { findStuck } from './stuck.ts'

/** What is possible in a level, without plays and proofs: for asking what would no longer be wrong. */
export interface Possible {
  /** For each row whether it can be taken. */
  readonly rows: readonly boolean[]
  /** For each goal whether it can be met. */
  readonly goals: readonly boolean[]
  /** For each goal the rows with which it can be lost; -1: without a transition to blame. */
  readonly losing: readonly ReadonlySet<number>[]
  /** The keys of what was looked out for and is possible. */
  readonly witnesses: ReadonlySet<string>
}

/**
 * What would be possible with some moves made free, and with the row `undone` one that can be taken back; machines that are
 * stuck are looked for only where that is wanted. Null where the budget is not enough to tell.
 */
export function* possible(
  stage: Stage,
  fineness: Evidence['fineness'],
  budget: number,
  free: Free | null,
  undone: number | null,
  observations: readonly Observation[],
  wantsStuck: boolean,
): Generator<undefined, Possible | null> {
  const search = new Search(stage, fineness, budget, free)
  while (!search.advance(250)) yield
  if (!search.isComplete) return null
  const backward = yield* Predecessors.of(search)
  const back = undone === null ? new Map<number, number[]>() : yield* takenBack(search, undone)
  const goals: boolean[] = []
  const losing: ReadonlySet<number>[] = []
  for (const goal of stage.expanded.goals.keys()) {
    const sets = yield* goalSets(search, backward, goal, back)
    goals.push(sets.everMet)
    losing.push(new Set(sets.everMet && sets.lost > 0 ? (yield* losingMoves(search, sets, null)).keys() : []))
    yield
  }
  const stuck = wantsStuck ? [(yield* findStuck(search, backward, new Set(), back)).observation] : []
  const witnesses = new Set((yield* lookOut(search, backward, [...observations, ...stuck], 1, back)).keys())
  return { rows: [...search.firstTaken].map((first) => first >= 0), goals, losing, witnesses }
}

/** For each situation, what a move that takes a row leads to from it. */
function* takenBack(search: Search, row: number): Generator<undefined, Map<number, number[]>> {
  const back = new Map<number, number[]>()
  const regs = new Int32Array(search.stage.tables.at.size)
  for (let index = 0; index < search.expanded; index++) {
    const patch = search.read(index, regs)
    search.moves.each(regs, patch, (after, on, _kind, _what, taken) => {
      if (taken.includes(row)) back.set(index, [...(back.get(index) ?? []), search.find(after, on)])
    })
    if (index % 1024 === 1023) yield
  }
  return back
}
