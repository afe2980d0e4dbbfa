import type { SetSearch } from './set-search.ts'
import { type Move, spread } from './spread.ts'

/** Which situations matter to a goal, as a set for each place of the first character. */
export interface SetsOfGoal {
  /** In which the goal holds. */
  readonly met: Int32Array
  /** From which it can be met, over all moves that are possible. */
  readonly canMeet: Int32Array
  /** Whether the goal is asked to stay within reach also once it has been met. */
  readonly again: boolean
  /** Reached before the goal has been met; or, where it is asked about again, all in which it does not hold. */
  readonly unmet: Int32Array
  /** What of that it is asked about whether the goal can still be met. */
  readonly asked: Int32Array
  /** From which it cannot be met any more, of what is asked about, or leads to that. */
  readonly doomed: Int32Array
  readonly everMet: boolean
  /** Whether some are unmet and cannot meet it any more. */
  readonly canBeLost: boolean
}

/**
 * Judges a goal over all that was found; `surely`: by place, some of all from which it can be met, as far as they are known.
 * Null where the nodes are used up. Pauses now and then.
 */
export function* setsOfGoal(
  search: SetSearch,
  goal: number,
  again: boolean,
  surely: Int32Array | null = null,
): Generator<undefined, SetsOfGoal | null> {
  const { diagrams } = search
  const moves = movesOf(search)
  const holding = holdingOf(search, goal)
  const met = search.reached.map((set) => diagrams.intersection(set, holding))
  const known = met.map((set, place) => diagrams.union(set, surely?.[place] ?? 0))
  const canMeet = yield* backFrom(search, known, moves)
  if (!canMeet) return null
  const start = new Int32Array(met.length)
  start[search.start.place] = diagrams.difference(search.start.set, holding)
  const unmet = again
    ? search.reached.map((set) => diagrams.difference(set, holding))
    : yield* onFrom(search, start, moves, holding)
  if (!unmet) return null
  const { asksIn } = search.stage.expanded.goals[goal]!
  const { here } = search.stage.tables.at
  const isIn = asksIn === undefined ? null : search.holding((regs) => regs[here] === asksIn)
  const asked = isIn === null ? unmet : unmet.map((set) => diagrams.intersection(set, isIn))
  const lost = asked.map((set, place) => diagrams.difference(set, canMeet[place]!))
  const leads = isIn === null || lost.every((set) => set === 0) ? lost : yield* backFrom(search, lost, moves)
  if (!leads) return null
  return {
    met,
    canMeet,
    again,
    unmet,
    asked,
    doomed: leads.map((set, place) => diagrams.difference(set, canMeet[place]!)),
    everMet: met.some((set) => set !== 0),
    canBeLost: lost.some((set) => set !== 0),
  }
}

/** By place, all that was found in which a goal holds. */
export function metIn(search: SetSearch, goal: number): Int32Array {
  const holding = holdingOf(search, goal)
  return search.reached.map((set) => search.diagrams.intersection(set, holding))
}

/** A set in which a goal holds of all that was found. */
function holdingOf(search: SetSearch, goal: number): number {
  const { goals } = search.stage.tables
  return search.holding((regs) => goals[goal]!(regs, 0))
}

function movesOf(search: SetSearch): Move[] {
  const moves: Move[] = []
  for (const [from, set] of search.reached.entries()) {
    if (set === 0) continue
    for (const { change, to } of search.moves.changesAt(from)) {
      if (!change.isStorm && (to !== from || change.change.bits.length > 0)) {
        moves.push({ from, to, change: change.change })
      }
    }
  }
  return moves
}

/** By place, all of `from` and from which moves lead into it, of what was found. Null where the nodes are used up. */
function* backFrom(
  search: SetSearch,
  from: Int32Array,
  moves: readonly Move[],
): Generator<undefined, Int32Array | null> {
  const { diagrams, reached } = search
  const before = (move: Move, set: number): number =>
    diagrams.intersection(diagrams.preimage(set, move.change), reached[move.from]!)
  const all = yield* spread(search, from, moves, { way: 'backwards', without: 0, next: before })
  // What was not found leads to nothing that was: it is left out when all is done.
  return all?.map((set, place) => diagrams.intersection(set, reached[place]!)) ?? null
}

/** By place, all of `from` and to which moves lead from it without coming into what is left out. Null where the nodes are used up. */
function* onFrom(
  search: SetSearch,
  from: Int32Array,
  moves: readonly Move[],
  without: number,
): Generator<undefined, Int32Array | null> {
  const { diagrams } = search
  const after = (move: Move, set: number): number => diagrams.difference(diagrams.image(set, move.change), without)
  return yield* spread(search, from, moves, { way: 'forwards', without, next: after })
}
