import type { Search } from './search.ts'
import { Bits } from './store.ts'

/** Between so many rounds of a loop others get their turn. */
const round = 0x1fff

/** The moves of a search the other way round: for each situation, those that lead to it. */
export class Backward {
  readonly #starts: Int32Array
  readonly #sources: Int32Array

  private constructor(situations: number, moves: number) {
    this.#starts = new Int32Array(situations + 2)
    this.#sources = new Int32Array(moves)
  }

  /** Turns the moves of a search round. */
  static *of(search: Search): Generator<undefined, Backward> {
    const backward = new Backward(search.store.count, search.edgeCount)
    const starts = backward.#starts
    for (let edge = 0; edge < search.edgeCount; edge++) {
      starts[search.target(edge) + 2]!++
      if ((edge & (8 * round + 7)) === 0) yield
    }
    for (let i = 2; i < starts.length; i++) starts[i]! += starts[i - 1]!
    yield
    for (let source = 0; source < search.expanded; source++) {
      const end = search.endEdge(source)
      for (let edge = search.firstEdge(source); edge < end; edge++) {
        backward.#sources[starts[search.target(edge) + 1]!++] = source
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

/** Which situations matter to a goal. */
export interface GoalSets {
  /** Reached before the goal has been met. */
  readonly unmet: Bits
  /** From here the goal can still be met, as far as the search knows. */
  readonly canMeet: Bits
  /** Whether the goal was met anywhere. */
  readonly everMet: boolean
  /** How many situations are unmet and cannot meet it any more. */
  readonly lost: number
}

/**
 * Judges a goal over all moves that are possible. What was not expanded counts as able to meet it. With `undone`, some
 * moves can also be taken back: for a situation, those that lead back to it.
 */
export function* goalSets(
  search: Search,
  backward: Backward,
  goal: number,
  undone: ReadonlyMap<number, readonly number[]> = new Map(),
): Generator<undefined, GoalSets> {
  const { count } = search.store
  const canMeet = new Bits(count)
  const queue = new Int32Array(count)
  let tail = 0
  let everMet = false
  for (let index = 0; index < count; index++) {
    const holds = search.holds(index, goal)
    if (holds) everMet = true
    if ((holds || index >= search.expanded) && canMeet.add(index)) queue[tail++] = index
    if ((index & (4 * round + 3)) === 0) yield
  }
  for (let head = 0; head < tail; head++) {
    if ((head & round) === round) yield
    const end = backward.end(queue[head]!)
    for (let at = backward.first(queue[head]!); at < end; at++) {
      const source = backward.source(at)
      if (canMeet.add(source)) queue[tail++] = source
    }
    for (const back of undone.get(queue[head]!) ?? []) if (canMeet.add(back)) queue[tail++] = back
  }
  const unmet = new Bits(count)
  let lost = 0
  tail = 0
  if (count > 0 && !search.holds(0, goal) && unmet.add(0)) queue[tail++] = 0
  for (let head = 0; head < tail; head++) {
    const index = queue[head]!
    if ((head & round) === round) yield
    if (!canMeet.has(index)) lost++
    const end = search.endEdge(index)
    for (let edge = search.firstEdge(index); edge < end && index < search.expanded; edge++) {
      const target = search.target(edge)
      if (!search.holds(target, goal) && unmet.add(target)) queue[tail++] = target
    }
  }
  return { unmet, canMeet, everMet, lost }
}

/** Whether waiting brings every situation among `among` to rest: time alone never goes in a circle. */
export function* comesToRest(search: Search, among: Bits, waitKind: number): Generator<undefined, boolean> {
  const { count } = search.store
  const left = new Int32Array(count)
  const backward: number[][] = []
  const done: number[] = []
  let running = 0
  for (let index = 0; index < count; index++) {
    if ((index & round) === round) yield
    if (!among.has(index) || search.isAtRest(index)) continue
    running++
    if (index >= search.expanded) return false
    const end = search.endEdge(index)
    for (let edge = search.firstEdge(index); edge < end; edge++) {
      const target = search.target(edge)
      if (search.kind(edge) !== waitKind || search.isAtRest(target) || !among.has(target)) continue
      left[index]!++
      ;(backward[target] ??= []).push(index)
    }
    if (left[index] === 0) done.push(index)
  }
  let settled = 0
  for (let next = done.pop(); next !== undefined; next = done.pop()) {
    if ((++settled & round) === round) yield
    for (const source of backward[next] ?? []) {
      left[source]!--
      if (left[source] === 0) done.push(source)
    }
  }
  return settled === running
}
