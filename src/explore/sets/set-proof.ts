import { moveKind } from '../moves.ts'
import { clocksRunDown } from '../rest.ts'
import { type SurePart, SureMoves } from '../sure.ts'
import type { BitChange } from './diagrams.ts'
import { LiftedPart, LiftingSpace, type Outcome } from './lifting.ts'
import { NotingRegisters } from './noting.ts'
import { roomsOf, type SurePartAt, surePartsOf } from './sure-parts.ts'
import { type SetSearch, whatChanged } from './set-search.ts'

/** What is known of a sure move of the character on a patch. */
interface Learned {
  readonly patch: number
  readonly lifted: LiftedPart
}

/** Why a level is not one whose goals can be proved safe by sets; null where it is. */
export function whyNotBySets({ stage }: SetSearch): string | null {
  const { tables, expanded } = stage
  if (expanded.characters.length > 1) return 'several characters act in it'
  if (tables.canBeHeld.includes(true)) return 'presses in it are kept down'
  if (!clocksRunDown(tables)) return 'something in it may run for ever'
  return null
}

/**
 * Tries to show, for whole sets of situations at once, that from every situation at rest, before the goal was met, sure moves
 * reach the goal: backwards from the goal, over sure moves that come to rest. It is enough to look at situations at rest,
 * since all clocks run down. True where it was shown; it is only for levels of `whyNotBySets`.
 */
export class SetProof {
  readonly #search: SetSearch
  readonly #noting: NotingRegisters
  readonly #space: LiftingSpace
  readonly #sure: SureMoves
  /** The set of all assignments in which nothing runs. */
  readonly #rest: number
  /** By place, what was found at rest there. */
  readonly #atRest: Int32Array
  readonly #parts: readonly SurePartAt[]
  /** By patch, the first of its room: from everywhere in a room the same is good. */
  readonly #roomOf: Int32Array
  /** By the goal that is looked at, and -1 for none, what all sure moves do. */
  readonly #learned = new Map<number, readonly Learned[]>()

  constructor(search: SetSearch) {
    const { stage } = search
    const { tables } = stage
    this.#search = search
    const noting = new NotingRegisters(tables.at.size)
    this.#noting = noting
    search.space.fill(search.start.set)
    const base = search.space.noting.from.slice()
    const isClock = (register: number): boolean => register >= tables.at.firstClock
    this.#space = new LiftingSpace(search.diagrams, search.space.layout, noting, base, isClock)
    this.#sure = new SureMoves(stage, false, {
      base: noting.base,
      after: noting.after,
      begin: () => {
        noting.begin()
      },
    })
    this.#sure.mayHaveChanged = whatChanged(stage, noting)
    let rest = 1
    for (let clock = 0; clock < tables.at.clocks; clock++) {
      const register = tables.at.clock(clock)
      rest = search.diagrams.intersection(rest, search.space.standing(register, 0))
    }
    this.#rest = rest
    this.#atRest = search.reached.map((set) => search.diagrams.intersection(set, rest))
    this.#roomOf = roomsOf(stage.space)
    const isReached = (patch: number): boolean => this.#atRest[search.places[0]!.of[patch]!] !== 0
    this.#parts = [...surePartsOf(stage, this.#roomOf, isReached)]
  }

  /**
   * Whether the goal is out of danger; false where that was not shown. First as if it had to hold at rest; if that does not
   * do, it may also be met on the way. `met`: by place, in what it holds; `unmet`: what is reached before it was met, or
   * more than that. Pauses now and then.
   */
  *isSafe(goal: number, met: Int32Array, unmet: Int32Array): Generator<undefined, boolean> {
    return (yield* this.#isSafe(-1, met, unmet)) || (yield* this.#isSafe(goal, met, unmet))
  }

  *#isSafe(goal: number, met: Int32Array, unmet: Int32Array): Generator<undefined, boolean> {
    const learned = yield* this.#learn(goal)
    const { diagrams, places, stage } = this.#search
    const ground = stage.space.patches[0]!
    const [own] = places
    const rooms = this.#roomOf
    const good = new Int32Array(rooms.length)
    for (const [patch, place] of own!.of.entries()) {
      const room = rooms[patch]!
      good[room] = diagrams.union(good[room]!, diagrams.intersection(met[place]!, this.#atRest[place]!))
    }
    const into: { readonly from: number; readonly change: BitChange }[][] = Array.from(good, () => [])
    for (const { patch, lifted } of learned) {
      for (const { to, change, where, taken } of lifted.changes) {
        const room = rooms[patch]!
        if (taken.length > 0) {
          const before = diagrams.intersection(where, this.#atRest[own!.of[patch]!]!)
          good[room] = diagrams.union(good[room]!, before)
        } else into[to === -1 ? room : rooms[to]!]!.push({ from: room, change })
      }
    }
    const waiting = new Set([...good.keys()].filter((room) => good[room] !== 0))
    for (const room of waiting) {
      waiting.delete(room)
      for (const { from, change } of into[room]!) {
        const before = diagrams.intersection(diagrams.preimage(good[room]!, change), this.#atRest[own!.of[from]!]!)
        const more = diagrams.union(good[from]!, before)
        if (more === good[from]) continue
        good[from] = more
        waiting.add(from)
      }
      if (diagrams.made > this.#search.nodes) return false
      yield
    }
    return ground.patches.every(({ sure }, patch) => {
      const place = own!.of[patch]!
      const bad = diagrams.intersection(unmet[place]!, this.#atRest[place]!)
      if (bad === 0) return true
      if (sure) return diagrams.isWithin(bad, good[rooms[patch]!]!)
      // Off ground that is not sure it can walk for certain, to one of each of these patches.
      return ground.escapes(patch).every((ways) => {
        let well = 0
        for (const to of ways)
          if (ground.patches[to]!.sure) well = diagrams.union(well, this.#wellInto(bad, patch, to, good))
        return diagrams.isWithin(bad, well)
      })
    })
  }

  /** The part of a set from which a walk onto a sure patch leads, whatever comes of it, to rest where all is well. */
  #wellInto(set: number, patch: number, to: number, good: Int32Array): number {
    const { of } = this.#search.places[0]!
    const { diagrams } = this.#search
    const there = good[this.#roomOf[to]!]!
    if (of[to] === of[patch]) return diagrams.intersection(set, there)
    let [can, ill] = [0, 0]
    for (const change of this.#search.walksInto(set, patch, to)) {
      const from = diagrams.intersection(set, change.where)
      can = diagrams.union(can, from)
      const isThere = !change.isStorm && change.to === -2
      const made = isThere ? this.#illAfterWaiting(diagrams.image(from, change.change), of[to]!, there) : 0
      const back = isThere ? diagrams.intersection(diagrams.preimage(made, change.change), from) : from
      ill = diagrams.union(ill, back)
    }
    return diagrams.difference(can, ill)
  }

  /** The part of a set at a place from which waiting may lead to rest elsewhere than in `good`, or away from the place. */
  #illAfterWaiting(set: number, place: number, good: number): number {
    const { diagrams } = this.#search
    const waits = [...this.#search.changesAt(place)].filter(({ change }) => change.kind === moveKind.wait)
    let all = set
    for (let before = -1; before !== all;) {
      before = all
      for (const { change, to } of waits) {
        if (to === place) all = diagrams.union(all, diagrams.image(all, change.change))
      }
    }
    let ill = diagrams.difference(diagrams.intersection(all, this.#rest), good)
    for (const { change, to } of waits) {
      if (to !== place || change.isStorm) ill = diagrams.union(ill, diagrams.intersection(all, change.where))
    }
    for (let before = -1; before !== ill;) {
      before = ill
      for (const { change, to } of waits) {
        if (to !== place) continue
        ill = diagrams.union(ill, diagrams.intersection(diagrams.preimage(ill, change.change), all))
      }
    }
    return diagrams.intersection(set, ill)
  }

  /** Finds all that sure moves do, from everything that was found at rest, with a goal looked at on the way (-1: none). */
  *#learn(goal: number): Generator<undefined, readonly Learned[]> {
    const known = this.#learned.get(goal)
    if (known) return known
    const { of } = this.#search.places[0]!
    const nowhere: ReadonlySet<number> = new Set()
    const learned: Learned[] = []
    for (const { patch, part } of this.#parts) {
      const lifted = new LiftedPart(this.#space)
      this.#sure.lookedAt = goal
      lifted.learn(this.#atRest[of[patch]!]!, nowhere, () => this.#runOf(part, patch))
      learned.push({ patch, lifted })
      yield
    }
    this.#learned.set(goal, learned)
    return learned
  }

  #runOf(part: SurePart, patch: number): readonly Outcome[] {
    const outcomes: Outcome[] = []
    this.#sure.toRest(part, patch, (_regs, on, { kind, what, held }) => {
      const writes: [number, number][] = []
      for (const register of this.#noting.written) {
        if (this.#space.has(register) && this.#noting.mayDiffer(register)) {
          writes.push([register, this.#noting.valueOf(register)])
        }
      }
      // Whoever has met the goal on the way needs nothing more: where that leads does not matter.
      const taken = held === 0 ? [] : [0]
      outcomes.push({ writes, to: on, kind, what, taken, isStorm: false })
    })
    return outcomes
  }
}
