import { begunAt, otherStarts, type Stage } from '../play/index.ts'
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
  /** The same from the usual start alone, where there are several. */
  readonly goalsAtFirst: readonly boolean[]
  /** For each goal the rows with which it can be lost; -1: without a transition to blame. */
  readonly losing: readonly ReadonlySet<number>[]
  /** The keys of what was looked out for and is possible. */
  readonly witnesses: ReadonlySet<string>
  /** How many situations there are. */
  readonly situations: number
}

/** What is asked of a level that is a little otherwise. */
export interface WhatIf {
  /** The level: that which was explored, or one that is laid out otherwise. */
  readonly stage: Stage
  /** The moves that are made free. */
  readonly free: Free | null
  /** A transition that can be taken back; null: none. */
  readonly undone: number | null
  readonly observations: readonly Observation[]
  /** Whether machines that are stuck are looked for. */
  readonly wantsStuck: boolean
}

/** Tells what would be possible; searches what all questions have in common only once. */
export class WhatIfs {
  readonly #stage: Stage
  readonly #fineness: Evidence['fineness']
  readonly #budget: number
  /** By start; null for the usual one. */
  readonly #plain = new Map<string | null, Search>()

  constructor(stage: Stage, fineness: Evidence['fineness'], budget: number) {
    this.#stage = stage
    this.#fineness = fineness
    this.#budget = budget
  }

  /** The search of the level as it is, from its usual start, where it was made and came to its end; null: it was not, or did not. */
  get plain(): Search | null {
    return this.#plain.get(null) ?? null
  }

  /** What would be possible, from any start. Null where the budget is not enough to tell. Pauses now and then. */
  *possible({ stage, free, undone, observations, wantsStuck }: WhatIf): Generator<undefined, Possible | null> {
    const all: Possible[] = []
    for (const start of [null, ...otherStarts(stage)]) {
      const search = yield* this.#searched(stage, start, free)
      if (!search) return null
      all.push(yield* possibleIn(search, undone, observations, wantsStuck))
    }
    return fromAny(all)
  }

  *#searched(whole: Stage, start: string | null, free: Free | null): Generator<undefined, Search | null> {
    const stage = start === null ? whole : begunAt(whole, start)
    if (whole !== this.#stage || (free && (free.muted >= 0 || free.untimed >= 0)))
      return yield* this.#complete(stage, free, null)
    const plain = this.#plain.get(start) ?? (yield* this.#complete(stage, null, null))
    if (plain) this.#plain.set(start, plain)
    return free && plain ? yield* this.#complete(stage, free, plain) : plain
  }

  *#complete(stage: Stage, free: Free | null, before: Search | null): Generator<undefined, Search | null> {
    const waiting = new Set<number>()
    for (;;) {
      const search = new Search(stage, this.#fineness, this.#budget, free, before, true, waiting)
      const missed: ReadonlySet<number> = search.walkTimes?.missed ?? new Set()
      while (missed.size === 0 && !search.advance(250)) yield
      if (missed.size === 0) return search.isComplete ? search : null
      for (const machine of missed) waiting.add(machine)
    }
  }
}

/** What is possible from any of several starts. */
function fromAny(all: readonly Possible[]): Possible {
  const [usual] = all
  if (all.length === 1) return usual!
  return {
    rows: usual!.rows.map((_, row) => all.some(({ rows }) => rows[row])),
    goalsAtFirst: usual!.goals,
    goals: usual!.goals.map((_, goal) => all.some(({ goals }) => goals[goal])),
    losing: usual!.losing.map((_, goal) => new Set(all.flatMap(({ losing }) => [...losing[goal]!]))),
    witnesses: new Set(all.flatMap(({ witnesses }) => [...witnesses])),
    situations: all.reduce((sum, { situations }) => sum + situations, 0),
  }
}

function* possibleIn(
  search: Search,
  undone: number | null,
  observations: readonly Observation[],
  wantsStuck: boolean,
): Generator<undefined, Possible> {
  const { stage } = search
  const backward = yield* Predecessors.of(search)
  const back = undone === null ? new Map<number, number[]>() : yield* takenBack(search, undone)
  const goals: boolean[] = []
  const losing: ReadonlySet<number>[] = []
  for (const goal of stage.expanded.goals.keys()) {
    const sets = yield* goalSets(search, backward, goal, { undone: back })
    goals.push(sets.everMet)
    losing.push(new Set(sets.everMet && sets.lost > 0 ? (yield* losingMoves(search, sets, null)).keys() : []))
    yield
  }
  const stuck = wantsStuck ? [(yield* findStuck(search, backward, new Set(), back)).observation] : []
  const witnesses = new Set((yield* lookOut(search, backward, [...observations, ...stuck], 1, back)).keys())
  const rows = [...search.firstTaken].map((first) => first >= 0)
  return { rows, goals, goalsAtFirst: goals, losing, witnesses, situations: search.expanded }
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
