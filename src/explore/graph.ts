import { type Search, targetMask } from './search.ts'
import { Bits } from './store.ts'

/** Between so many rounds of a loop others get their turn. */
const round = 0x1fff

/** The moves of a search the other way round: for each situation, those that lead to it. */
export class Predecessors {
  readonly #starts: Int32Array
  readonly #sources: Int32Array

  private constructor(situations: number, moves: number) {
    this.#starts = new Int32Array(situations + 2)
    this.#sources = new Int32Array(moves)
  }

  /** Turns the moves of a search round; of those that are kept, by their edges. */
  static *of(search: Search, isKept: (edge: number) => boolean = () => true): Generator<undefined, Predecessors> {
    const backward = new Predecessors(search.store.count, search.edgeCount)
    const starts = backward.#starts
    const sources = backward.#sources
    const { data: edges, length } = search.edges
    const edgeStarts = search.edgeStarts.data
    for (let edge = 0; edge < length; edge++) {
      if (isKept(edge)) starts[(edges[edge]! & targetMask) + 2]!++
      if ((edge & (8 * round + 7)) === 0) yield
    }
    for (let i = 2; i < starts.length; i++) starts[i]! += starts[i - 1]!
    yield
    for (let source = 0; source < search.expanded; source++) {
      const end = edgeStarts[source + 1]!
      for (let edge = edgeStarts[source]!; edge < end; edge++) {
        if (isKept(edge)) sources[starts[(edges[edge]! & targetMask) + 1]!++] = source
      }
      if ((source & round) === round) yield
    }
    return backward
  }

  first(index: number): number {
    return this.#starts[index]!
  }

  end(index: number): number {
    return this.#starts[index + 1]!
  }

  source(at: number): number {
    return this.#sources[at]!
  }

  get bytes(): number {
    return this.#starts.byteLength + this.#sources.byteLength
  }
}

/** Moves that can also be taken back: for a situation, those that lead back to it. */
export type Undone = ReadonlyMap<number, readonly number[]>

/** Which situations matter to a goal. */
export interface GoalSets {
  readonly goal: number
  /** Whether it is asked about once it has been met, too. */
  readonly again: boolean
  /** Reached before the goal has been met; or, where it is asked about again, all in which it does not hold. */
  readonly unmet: Bits
  /** Those of them of which it is asked whether the goal can still be met. */
  readonly asked: Bits
  /** From here the goal can still be met, as far as the search knows. */
  readonly canMeet: Bits
  /** Whether the goal was met anywhere. */
  readonly everMet: boolean
  /** Those from which it cannot be met any more, and that are asked about, or lead to some that are. */
  readonly doomed: Bits
  /** How many situations are asked about and cannot meet it any more. */
  readonly lost: number
}

/**
 * Judges a goal over all moves that are possible. What was not expanded counts as able to meet it. With `undone`, some
 * moves can also be taken back; with `again`, the goal is asked to stay within reach also once it has been met.
 */
export function* goalSets(
  search: Search,
  backward: Predecessors,
  goal: number,
  { undone = new Map(), again = false }: { readonly undone?: Undone; readonly again?: boolean } = {},
): Generator<undefined, GoalSets> {
  const { count } = search.store
  const { expanded } = search
  const marks = search.marks.data
  const bit = 1 << goal
  const canMeet = new Bits(count)
  const queue = new Int32Array(count)
  let tail = 0
  let everMet = false
  for (let index = 0; index < count; index++) {
    const holds = (marks[index]! & bit) !== 0
    if (holds) everMet = true
    if ((holds || index >= expanded) && canMeet.add(index)) queue[tail++] = index
    if ((index & (4 * round + 3)) === 0) yield
  }
  for (let head = 0; head < tail; head++) {
    if ((head & round) === round) yield
    const index = queue[head]!
    const end = backward.end(index)
    for (let at = backward.first(index); at < end; at++) {
      const source = backward.source(at)
      if (canMeet.add(source)) queue[tail++] = source
    }
    if (undone.size > 0) for (const back of undone.get(index) ?? []) if (canMeet.add(back)) queue[tail++] = back
  }
  const edges = search.edges.data
  const edgeStarts = search.edgeStarts.data
  const unmet = new Bits(count)
  const { asksIn } = search.stage.expanded.goals[goal]!
  const here = asksIn === undefined ? null : search.readerOf(search.stage.tables.at.here)
  const asked = here ? new Bits(count) : unmet
  const doomed = new Bits(count)
  const leads: number[] = []
  let lost = 0
  tail = 0
  for (let index = 0; index < (again ? count : Math.min(count, 1)); index++) {
    if ((index & (4 * round + 3)) === round) yield
    if (!search.holds(index, goal) && unmet.add(index)) queue[tail++] = index
  }
  for (let head = 0; head < tail; head++) {
    const index = queue[head]!
    if ((head & round) === round) yield
    if (here && here(index) === asksIn) asked.add(index)
    if (asked.has(index) && !canMeet.has(index) && doomed.add(index)) {
      lost++
      leads.push(index)
    }
    if (index >= expanded) continue
    const end = edgeStarts[index + 1]!
    for (let edge = edgeStarts[index]!; edge < end; edge++) {
      const target = edges[edge]! & targetMask
      if ((marks[target]! & bit) === 0 && unmet.add(target)) queue[tail++] = target
    }
  }
  let seen = 0
  for (let index = here ? leads.pop() : undefined; index !== undefined; index = leads.pop()) {
    if ((++seen & round) === 0) yield
    for (let at = backward.first(index); at < backward.end(index); at++) {
      const source = backward.source(at)
      if (!canMeet.has(source) && doomed.add(source)) leads.push(source)
    }
  }
  return { goal, again, unmet, asked, canMeet, doomed, everMet, lost }
}

/** The situations from which moves lead to one of these places; those that were not expanded count as such. */
export function* canComeTo(
  search: Search,
  backward: Predecessors,
  undone: Undone,
  places: readonly { readonly index: number }[],
): Generator<undefined, Bits> {
  const within = new Bits(search.store.count)
  const queue: number[] = []
  const add = (index: number): void => {
    if (within.add(index)) queue.push(index)
  }
  for (const { index } of places) add(index)
  for (let index = search.expanded; index < search.store.count; index++) add(index)
  let visited = 0
  for (let index = queue.pop(); index !== undefined; index = queue.pop()) {
    if (++visited % 4096 === 0) yield
    const end = backward.end(index)
    for (let at = backward.first(index); at < end; at++) add(backward.source(at))
    undone.get(index)?.forEach(add)
  }
  return within
}
