import { type SurePart, SureMoves } from '../sure.ts'
import type { BitChange } from './diagrams.ts'
import { LiftedPart, LiftingSpace, type Outcome } from './lifting.ts'
import { NotingRegisters } from './noting.ts'
import { componentsOf, type SurePartAt, surePartsOf } from './sure-parts.ts'
import { type SetSearch, whatChanged } from './set-search.ts'

/** What is known of a sure move of the character on a patch. */
export interface Learned {
  readonly patch: number
  readonly lifted: LiftedPart
}

/** A sure move from one component to another, or within one. */
export interface SureChange {
  readonly from: number
  readonly change: BitChange
}

/**
 * The sure moves of a level with one character, from all situations at rest that were found, each until all is at rest
 * again: for whole sets of situations at once. Components are patches that are as good as one another: see `componentsOf`.
 */
export class SureGraph {
  readonly search: SetSearch
  /** The set of all assignments in which nothing runs. */
  readonly rest: number
  /** By place, what was found at rest there. */
  readonly atRest: Int32Array
  /** By patch, the first of its component. */
  readonly componentOf: Int32Array
  readonly space: LiftingSpace
  readonly #noting: NotingRegisters
  readonly #sure: SureMoves
  #parts: readonly SurePartAt[] | null = null
  /** By the goal that is looked at, and -1 for none, what all sure moves do. */
  readonly #learned = new Map<number, readonly Learned[]>()

  constructor(search: SetSearch) {
    const { stage } = search
    const { tables } = stage
    this.search = search
    const noting = new NotingRegisters(tables.at.size)
    this.#noting = noting
    search.space.fill(search.start.set)
    const base = search.space.noting.from.slice()
    const isClock = (register: number): boolean => register >= tables.at.firstClock
    this.space = new LiftingSpace(search.diagrams, search.space.layout, noting, base, isClock)
    const scratch = {
      base: noting.base,
      after: noting.after,
      begin: () => {
        noting.begin()
      },
    }
    this.#sure = new SureMoves(stage, false, scratch, search.passive)
    this.#sure.mayHaveChanged = whatChanged(stage, noting)
    let rest = 1
    for (let clock = 0; clock < tables.at.clocks; clock++) {
      const register = tables.at.clock(clock)
      rest = search.diagrams.intersection(rest, search.space.standing(register, 0))
    }
    this.rest = rest
    this.atRest = search.reached.map((set) => search.diagrams.intersection(set, rest))
    this.componentOf = componentsOf(stage.space)
  }

  /** What was found at rest with the character on a patch. */
  restOn(patch: number): number {
    return this.atRest[this.search.places[0]!.of[patch]!]!
  }

  /** By component, the part of sets by place that is at rest. */
  byComponent(byPlace: Int32Array): Int32Array {
    const { diagrams, places } = this.search
    const components = new Int32Array(this.componentOf.length)
    for (const [patch, place] of places[0]!.of.entries()) {
      const component = this.componentOf[patch]!
      components[component] = diagrams.union(
        components[component]!,
        diagrams.intersection(byPlace[place]!, this.atRest[place]!),
      )
    }
    return components
  }

  /** By the component that they lead to, all sure moves that were learned. */
  into(learned: readonly Learned[]): SureChange[][] {
    const into: SureChange[][] = Array.from(this.componentOf, () => [])
    for (const { patch, lifted } of learned) {
      const component = this.componentOf[patch]!
      for (const { to, change } of lifted.changes)
        into[to === -1 ? component : this.componentOf[to]!]!.push({ from: component, change })
    }
    return into
  }

  /** What leads by a sure move into a set. */
  before({ from, change }: SureChange, set: number): number {
    const { diagrams } = this.search
    return diagrams.intersection(diagrams.preimage(set, change), this.restOn(from))
  }

  /** Finds all that sure moves do, from everything that was found at rest, with a goal looked at on the way (-1: none). */
  *learn(goal: number): Generator<undefined, readonly Learned[]> {
    const known = this.#learned.get(goal)
    if (known) return known
    const nowhere: ReadonlySet<number> = new Set()
    const learned: Learned[] = []
    this.#parts ??= yield* this.#list()
    for (const { patch, part } of this.#parts) {
      const lifted = new LiftedPart(this.space)
      this.#sure.lookedAt = goal
      lifted.learn(this.restOn(patch), nowhere, () => this.#runOf(part, patch))
      learned.push({ patch, lifted })
      yield
    }
    this.#learned.set(goal, learned)
    return learned
  }

  *#list(): Generator<undefined, SurePartAt[]> {
    const parts: SurePartAt[] = []
    for (const part of surePartsOf(this.search.stage, this.componentOf, (patch) => this.restOn(patch) !== 0)) {
      if (part) parts.push(part)
      else yield
    }
    return parts
  }

  #runOf(part: SurePart, patch: number): readonly Outcome[] {
    const outcomes: Outcome[] = []
    this.#sure.toRest(part, patch, (_regs, on, { kind, what, held, taken }) => {
      const writes: [number, number][] = []
      for (const register of this.#noting.written) {
        if (this.space.has(register) && this.#noting.mayDiffer(register)) {
          writes.push([register, this.#noting.valueOf(register)])
        }
      }
      outcomes.push({ writes, to: on, kind, what, taken: [...taken], isStorm: false, isMet: held !== 0 })
    })
    return outcomes
  }
}
