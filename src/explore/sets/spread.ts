import { Arrivals } from './closing.ts'
import type { BitChange, Diagrams } from './diagrams.ts'
import { closedUnder, type Way } from './rounds.ts'
import { toTop } from './to-top.ts'

/** A change between two places, or at one; or between components. */
export interface Move {
  readonly from: number
  readonly to: number
  readonly change: BitChange
}

/** How sets are spread. */
export interface Spreading {
  readonly way: Way
  /** What is left out. */
  readonly without: number
  /** By place, a part of `from` that moves lead nowhere else from: what was spread before. */
  readonly spread?: Int32Array
  /** What a move between places leads to from a set, or comes from. */
  readonly next: (move: Move, set: number) => number
  /** Is told of what arrived at a place, and then of what this is closed to there. */
  readonly onGrown?: (place: number, set: number) => void
}

/**
 * By place, all of `from` and what moves lead to from it, or all from which they lead into it: what is new at a place is closed
 * under the moves at it and then passed on; the place that got something last is next. Null where more than so many nodes were made.
 */
export function* spread(
  { diagrams, nodes }: { readonly diagrams: Diagrams; readonly nodes: number },
  from: Int32Array,
  moves: readonly Move[],
  { way, without, next, onGrown, spread: known }: Spreading,
): Generator<undefined, Int32Array | null> {
  const [source, target] = way === 'forwards' ? (['from', 'to'] as const) : (['to', 'from'] as const)
  const within: BitChange[][] = Array.from(from, () => [])
  const across: Move[][] = Array.from(from, () => [])
  for (const move of moves) {
    if (move.from !== move.to) across[move[source]]!.push(move)
    else if (move.change.bits.length > 0) within[move.from]!.push(move.change)
  }
  const found = known?.slice() ?? new Int32Array(from.length)
  const arrivals = Array.from(from, () => new Arrivals(diagrams.bits))
  for (const [place, set] of from.entries()) arrivals[place]!.set = set
  /** By place, the changes under which what was found there is closed. */
  const closed: ReadonlySet<BitChange>[] = Array.from(from, (_, place) => new Set(known ? within[place]! : []))
  const waiting = [...from.keys()].filter((place) => from[place] !== found[place])
  const begun = new Set(waiting)
  for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
    const here = place
    const arrived = arrivals[here]!
    const fresh = diagrams.difference(arrived.set, found[here]!)
    arrivals[here] = new Arrivals(diagrams.bits)
    // What was there at the start has come from nowhere, and may still be waiting beside what arrived.
    if (begun.delete(here)) arrived.from.clear()
    if (fresh === 0) continue
    onGrown?.(here, fresh)
    const set = yield* closedUnder(diagrams, within[here]!, way, fresh, {
      nodes,
      changed: arrived.touched,
      wasClosed: (change) => arrived.wasClosed(change, closed, found[here] === 0 ? null : closed[here]!),
      without,
    })
    if (set === null) return null
    if (set !== fresh) onGrown?.(here, set)
    closed[here] = new Set(within[here])
    found[here] = diagrams.union(found[here]!, set)
    for (const move of across[here]!) {
      const to = move[target]
      const made = diagrams.difference(next(move, set), found[to]!)
      if (made === 0) continue
      arrivals[to]!.add(diagrams, made, here, move.change)
      toTop(waiting, to)
    }
    yield
  }
  return found
}
