import { moveKind } from '../moves.ts'
import { clocksRunDown } from '../rest.ts'
import { type SurePart, SureMoves } from '../sure.ts'
import type { BitChange } from './diagrams.ts'
import { LiftedPart, LiftingSpace, type Outcome } from './lifting.ts'
import { NotingRegisters } from './noting.ts'
import { Passings } from './passing.ts'
import { type SetSearch, whatChanged } from './set-search.ts'

/** A sure move of the character on a patch. */
interface SurePartAt {
  readonly patch: number
  readonly part: SurePart
}

/** What is known of sure moves, where some goal is looked at on the way, or none. */
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
    this.#parts = this.#list()
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
    const good = Int32Array.from(own!.of, (place) => diagrams.intersection(met[place]!, this.#atRest[place]!))
    const into: { readonly from: number; readonly change: BitChange }[][] = Array.from(good, () => [])
    for (const { patch, lifted } of learned) {
      for (const { to, change, where, taken } of lifted.changes) {
        if (taken.length > 0) {
          const before = diagrams.intersection(where, this.#atRest[own!.of[patch]!]!)
          good[patch] = diagrams.union(good[patch]!, before)
        } else into[to === -1 ? patch : to]!.push({ from: patch, change })
      }
    }
    const waiting = new Set([...good.keys()].filter((patch) => good[patch] !== 0))
    for (const patch of waiting) {
      waiting.delete(patch)
      for (const { from, change } of into[patch]!) {
        const before = diagrams.intersection(diagrams.preimage(good[patch]!, change), this.#atRest[own!.of[from]!]!)
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
      if (sure) return diagrams.difference(bad, good[patch]!) === 0
      // Off ground that is not sure it can walk for certain, to one of each of these patches.
      return ground.escapes(patch).every((ways) => {
        let well = 0
        for (const to of ways)
          if (ground.patches[to]!.sure) well = diagrams.union(well, this.#wellInto(bad, patch, to, good))
        return diagrams.difference(bad, well) === 0
      })
    })
  }

  /** The part of a set from which a walk onto a sure patch leads, whatever comes of it, to rest where all is well. */
  #wellInto(set: number, patch: number, to: number, good: Int32Array): number {
    const { of } = this.#search.places[0]!
    const { diagrams } = this.#search
    if (of[to] === of[patch]) return diagrams.intersection(set, good[to]!)
    let [can, ill] = [0, 0]
    for (const change of this.#search.walksInto(set, patch, to)) {
      const from = diagrams.intersection(set, change.where)
      can = diagrams.union(can, from)
      const isThere = !change.isStorm && change.to === -2
      const made = isThere ? this.#illAfterWaiting(diagrams.image(from, change.change), of[to]!, good[to]!) : 0
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

  #list(): SurePartAt[] {
    const { space } = this.#search.stage
    const { patches } = space.patches[0]!
    const passings = new Passings(this.#search.stage)
    return patches.flatMap(({ firm, sign }, patch): SurePartAt[] => {
      if (!firm || this.#atRest[this.#search.places[0]!.of[patch]!] === 0) return []
      const parts: SurePart[] = [
        ...sign.candidates.map(({ interactable }) => ({ do: 'act', actor: 0, machine: interactable }) as const),
        ...space.hops(0, patch).map((hop) => ({ do: 'walk', actor: 0, hop }) as const),
        ...passings.from(patch),
      ]
      return parts.map((part) => ({ patch, part }))
    })
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
