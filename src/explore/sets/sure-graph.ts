import { type SurePart, SureMoves } from '../sure.ts'
import { findTrail, type IsFound } from '../sure-search.ts'
import { LiftedPart, LiftingSpace, type Outcome } from './lifting.ts'
import { NotingRegisters } from './noting.ts'
import { levelOfPatch } from '../../play/index.ts'
import { componentsOf, type SurePartAt, surePartsOf } from './sure-parts.ts'
import { whatChanged } from './place-moves.ts'
import type { SetSearch } from './set-search.ts'
import type { Move } from './spread.ts'

const nowhere: ReadonlySet<number> = new Set()

/** How trails are looked for: first from one thing that falls due to the next, then tick by tick. */
const closely = [
  { situations: 4_000, patient: true, stopAtRest: true, alike: 3, strides: true },
  { situations: 6_000, patient: false, stopAtRest: true },
]

/** What is known of a sure move of the character on a patch. */
export interface Learned {
  readonly patch: number
  readonly lifted: LiftedPart
}

/**
 * The sure moves of a level with one character, from all situations at rest that were found, each until all is at rest
 * again: for whole sets of situations at once. Components are patches that are as good as one another: see `componentsOf`.
 */
export class SureGraph {
  readonly search: SetSearch
  /** By place, the set of all assignments in which nothing runs of what time passes for there. */
  readonly resting: Int32Array
  /** By place, what was found at rest there. */
  readonly atRest: Int32Array
  /** By patch, the first of its component. */
  readonly componentOf: Int32Array
  readonly space: LiftingSpace
  readonly #noting: NotingRegisters
  readonly #sure: SureMoves
  /** The same, in registers that are not noted. */
  readonly #plain: SureMoves
  /** The level in which the moves begin that are being looked at: nothing runs there. */
  #level = 0
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
    const clocks = tables.clocksIn.map((registers) => new Set(registers))
    const isResting = (register: number): boolean => clocks[this.#level]!.has(register)
    this.space = new LiftingSpace(search.diagrams, search.space.layout, noting, base, isResting)
    const scratch = {
      base: noting.base,
      after: noting.after,
      begin: () => {
        noting.begin()
      },
    }
    this.#sure = new SureMoves(stage, { scratch, passive: search.passive })
    this.#plain = new SureMoves(stage, { passive: search.passive })
    this.#sure.mayHaveChanged = whatChanged(stage, noting)
    const { diagrams } = search
    const resting = tables.clocksIn.map((own) =>
      own.reduce((rest, clock) => diagrams.intersection(rest, search.space.standing(clock, 0)), 1),
    )
    this.resting = Int32Array.from(search.places[0]!.patches, ([patch]) => resting[levelOfPatch(stage, patch!)]!)
    this.atRest = search.reached.map((set, place) => diagrams.intersection(set, this.resting[place]!))
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

  /** All sure moves that were learned, from component to component. */
  moves(learned: readonly Learned[]): Move[] {
    return learned.flatMap(({ patch, lifted }) => {
      const from = this.componentOf[patch]!
      return lifted.changes.map(({ to, change }) => ({ from, to: to === -1 ? from : this.componentOf[to]!, change }))
    })
  }

  /** What is at rest of that to which a sure move leads from a set. */
  after({ to, change }: Move, set: number): number {
    const { diagrams, stage } = this.search
    const image = diagrams.image(set, change)
    return stage.expanded.joined ? diagrams.intersection(image, this.restingOn(to)) : image
  }

  /** The set of all assignments in which nothing runs of what time passes for on a patch. */
  restingOn(patch: number): number {
    return this.resting[this.search.places[0]!.of[patch]!]!
  }

  /** What leads by a sure move into a set. */
  before({ from, change }: Move, set: number): number {
    const { diagrams } = this.search
    return diagrams.intersection(diagrams.preimage(set, change), this.restOn(from))
  }

  /** Finds all that sure moves do, from everything that was found at rest, with a goal looked at on the way (-1: none). */
  *learn(goal: number): Generator<undefined, readonly Learned[]> {
    const known = this.#learned.get(goal)
    if (known) return known
    const learned: Learned[] = []
    this.#parts ??= yield* this.#list()
    for (const at of this.#parts) {
      learned.push(this.#learnPart(at, this.restOn(at.patch), goal))
      yield
    }
    this.#learned.set(goal, learned)
    return learned
  }

  /**
   * Looks, from one situation of a set that is not empty, with the character on a patch, for a trail of sure moves to rest
   * in what is good, by component, or past where a goal holds. What it does, for all situations of which it does the
   * same; null where none was found among so many situations. Pauses now and then.
   */
  *learnTrail(set: number, patch: number, good: Int32Array, goal: number): Generator<undefined, Learned | null> {
    this.space.fill(set)
    const regs = this.space.noting.from.slice()
    const bit = goal < 31 ? 1 << goal : 0
    const isFound: IsFound = (after, on, held, _taken, isAtRest) => {
      return (held & bit) !== 0 || (isAtRest && this.space.contains(good[this.componentOf[on]!]!, after))
    }
    for (const limits of closely) {
      const end = yield* findTrail(this.#plain, regs, patch, isFound, limits)
      if (end === 'none' || end === 'gave-up') continue
      return this.#learnPart({ patch, part: { do: 'follow', moves: end.moves } }, this.space.single(regs), goal)
    }
    return null
  }

  #learnPart({ patch, part }: SurePartAt, from: number, goal: number): Learned {
    const lifted = new LiftedPart(this.space)
    this.#sure.lookedAt = goal
    this.#level = levelOfPatch(this.search.stage, patch)
    lifted.learn(from, nowhere, () => this.#runOf(part, patch))
    return { patch, lifted }
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
      const isArrival = this.#sure.hasArrived
      const writes: [number, number][] = []
      for (const register of this.#noting.written) {
        if (this.space.has(register) && this.#noting.mayDiffer(register)) {
          writes.push([register, this.#noting.valueOf(register)])
        }
      }
      outcomes.push({ writes, to: on, kind, what, taken: [...taken], isStorm: false, isMet: held !== 0, isArrival })
    })
    return outcomes
  }
}
