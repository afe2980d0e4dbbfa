import type { BitChange } from './diagrams.ts'
import type { SetSearch } from './set-search.ts'
import { toTop } from './to-top.ts'

/** Which situations matter to a goal, as a set for each place of the first character. */
export interface SetsOfGoal {
  /** In which the goal holds. */
  readonly met: Int32Array
  /** From which it can be met, over all moves that are possible. */
  readonly canMeet: Int32Array
  /** Reached before the goal has been met. */
  readonly unmet: Int32Array
  readonly everMet: boolean
  /** Whether some are unmet and cannot meet it any more. */
  readonly canBeLost: boolean
}

/** A change between two places, or at one. */
interface Move {
  readonly from: number
  readonly to: number
  readonly change: BitChange
}

/** Judges a goal over all that was found. Null where the nodes are used up. Pauses now and then. */
export function* setsOfGoal(
  search: SetSearch,
  goal: number,
  met: Int32Array = metIn(search, goal),
): Generator<undefined, SetsOfGoal | null> {
  const moves = movesOf(search)
  const canMeet = yield* spread(search, met, moves, 'backwards', null)
  if (!canMeet) return null
  const start = new Int32Array(met.length)
  start[search.start.place] = search.diagrams.difference(search.start.set, met[search.start.place]!)
  const unmet = yield* spread(search, start, moves, 'forwards', met)
  if (!unmet) return null
  return {
    met,
    canMeet,
    unmet,
    everMet: met.some((set) => set !== 0),
    canBeLost: unmet.some((set, place) => search.diagrams.difference(set, canMeet[place]!) !== 0),
  }
}

/** By place, all that was found in which a goal holds. */
export function metIn(search: SetSearch, goal: number): Int32Array {
  const { goals } = search.stage.tables
  return search.where((regs) => goals[goal]!(regs, 0))
}

function movesOf(search: SetSearch): Move[] {
  const moves: Move[] = []
  for (const [from, set] of search.reached.entries()) {
    if (set === 0) continue
    for (const { change, to } of search.changesAt(from)) {
      if (!change.isStorm && (to !== from || change.change.bits.length > 0)) {
        moves.push({ from, to, change: change.change })
      }
    }
  }
  return moves
}

/** All that moves lead to from some sets, or back from them; what is in `without` is left out. */
function* spread(
  search: SetSearch,
  from: Int32Array,
  moves: readonly Move[],
  way: 'forwards' | 'backwards',
  without: Int32Array | null,
): Generator<undefined, Int32Array | null> {
  const { diagrams, reached } = search
  const next = (move: Move, set: number): number =>
    way === 'forwards'
      ? diagrams.image(set, move.change)
      : diagrams.intersection(diagrams.preimage(set, move.change), reached[move.from]!)
  const [source, target] = way === 'forwards' ? (['from', 'to'] as const) : (['to', 'from'] as const)
  const own: Move[][] = Array.from(reached, () => [])
  const other: Move[][] = Array.from(reached, () => [])
  for (const move of moves) (move.from === move.to ? own : other)[move[source]]!.push(move)
  for (const all of own) all.sort((a, b) => b.change.bits[0]! - a.change.bits[0]!)
  const found = new Int32Array(reached.length)
  const fresh = from.slice()
  const waiting = [...fresh.keys()].filter((place) => fresh[place] !== 0)
  for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
    let set = diagrams.difference(fresh[place]!, found[place]!)
    fresh[place] = 0
    if (set === 0) continue
    const left = without?.[place] ?? 0
    for (let before = -1; before !== set;) {
      before = set
      for (const move of own[place]!) {
        for (let last = -1; last !== set;) {
          last = set
          set = diagrams.union(set, diagrams.difference(next(move, set), left))
        }
        if (diagrams.made > search.nodes) return null
        yield
      }
    }
    found[place] = diagrams.union(found[place]!, set)
    for (const move of other[place]!) {
      const to = move[target]
      const made = diagrams.difference(diagrams.difference(next(move, set), without?.[to] ?? 0), found[to]!)
      if (made === 0) continue
      fresh[to] = diagrams.union(fresh[to]!, made)
      toTop(waiting, to)
    }
    yield
  }
  return found
}
