import { looseClocks } from '../../machine/index.ts'
import { finish } from '../../model/index.ts'
import { levelOfPatch, type Stage, startRegisters } from '../../play/index.ts'
import { keptIn, type Passive, passiveOf, withoutPassive } from '../passive.ts'
import { Successors } from '../successors.ts'
import { type BitChange, Diagrams } from './diagrams.ts'
import { BitLayout } from './layout.ts'
import { Arrivals, Closing } from './closing.ts'
import { LiftingSpace } from './lifting.ts'
import { LiftedLook } from './lifted-look.ts'
import { NotingRegisters } from './noting.ts'
import { type RegisterOrder, registerOrder } from './order.ts'
import { PlaceMoves } from './place-moves.ts'
import { type Places, placesApart, placesOf } from './places.ts'
import { toBottom, toTop } from './to-top.ts'

/** How a search by sets may be limited. */
export interface SetSearchOptions {
  /** The most nodes that diagrams may have. */
  readonly nodes?: number
  /** Keeps patches apart between which nothing notices a walk: slower, with the same answers. */
  readonly apart?: boolean
  /** See `registerOrder`, which can pause; else it is found here. */
  readonly order?: RegisterOrder
  /** Whether characters who can only be in the way are kept apart, patch by patch: slower, with fewer situations. */
  readonly company?: boolean
}

/** Where nobody says otherwise; where several characters act, more would take minutes, and seldom be enough. */
const usualNodes = 10_000_000
const usualNodesTogether = 1_500_000

/** The same once all was found, to judge it. */
const nodesToJudge = 12_000_000

/**
 * All situations that any player could bring about, as a set for each place of the first character. Works through the
 * places: what is new at one is closed under all that can happen there, and what is new to its neighbours is passed on,
 * until nothing is new anywhere (saturation of a place at a time; compare Ciardo, Lüttgen and Siminiceanu 2001). Clocks
 * only run or not: what runs may be due at any moment.
 */
export class SetSearch {
  /** The level that is searched: without those who are passive. */
  readonly stage: Stage
  /** The characters of which only that is kept of which bodies they are in the way. */
  readonly passive: Passive | null
  /** How many characters act, the first among them. */
  readonly acting: number
  readonly places: readonly Places[]
  readonly diagrams: Diagrams
  readonly space: LiftingSpace
  /** What can be done, or happen, at each place. */
  readonly moves: PlaceMoves
  /** By place of the first character, the set of all situations found there. */
  readonly reached: Int32Array
  /** For each row whether it is ever taken. */
  readonly taken: Uint8Array
  /** Whether signals without end stop the play somewhere. */
  storms = false
  isComplete = false
  readonly #nodes: number
  readonly #whole: Stage
  readonly #start: number
  /** See `countApart`; null: not all was found yet. */
  #countApart: number | null = null
  /** See `standings`, by the registers and the most of them. */
  readonly #standings = new Map<string, Int32Array[] | null>()
  #anywhere = -1
  readonly #startPlace: number

  constructor(whole: Stage, options: SetSearchOptions = {}) {
    this.passive = options.company ? null : passiveOf(whole)
    this.#whole = whole
    const stage = this.passive ? withoutPassive(whole, this.passive) : whole
    const { tables, space } = stage
    this.stage = stage
    this.acting = space.patches.length - (this.passive?.characters.size ?? 0)
    this.#nodes = options.nodes ?? (this.acting > 1 ? usualNodesTogether : usualNodes)
    this.places = space.patches.map(options.apart ? placesApart : placesOf)
    const order = options.order ?? finish(registerOrder(stage))
    const layout = new BitLayout(tables, this.places, { kind: 'loose' }, order, this.passive)
    this.diagrams = new Diagrams(layout.bits)
    this.taken = new Uint8Array(tables.rows.length)
    const count = this.places[0]!.patches.length
    this.reached = new Int32Array(count)
    const starts = whole.space.patches.map(({ patchAt }, character) => patchAt(space.layout.starts[character]!))
    let regs = startRegisters(whole)
    for (let character = 1; character < starts.length; character++) {
      regs[tables.at.place(character)] = starts[character]!
    }
    regs = this.kept(regs)
    const start = new Successors(tables, space, looseClocks, false).begin(regs, starts[0]!)
    this.space = new LiftingSpace(this.diagrams, layout, new NotingRegisters(tables.at.size), regs)
    this.moves = new PlaceMoves(stage, this.space, this.places, this.passive)
    this.#start = this.space.single(regs)
    this.#startPlace = this.places[0]!.of[start]!
  }

  /** The most nodes that diagrams may have now: more once all was found, and it is judged. */
  get nodes(): number {
    return this.isComplete ? Math.max(this.#nodes, nodesToJudge) : this.#nodes
  }

  /** How many situations were found; with patches kept together, each place counts once. */
  get count(): number {
    return this.reached.reduce((sum, set) => sum + this.diagrams.size(set), 0)
  }

  /** The same with each patch of the first character counted. */
  get countApart(): number {
    if (this.#countApart !== null) return this.#countApart
    const { patches } = this.places[0]!
    const known = new Map<number, number>()
    const count = this.reached.reduce(
      (sum, set, place) => sum + this.diagrams.size(set, known) * patches[place]!.length,
      0,
    )
    if (this.isComplete) this.#countApart = count
    return count
  }

  /** Whether a situation, in registers as they are kept, is among those found. */
  has(regs: Int32Array, patch: number): boolean {
    return this.space.contains(this.reached[this.places[0]!.of[patch]!]!, regs)
  }

  /** Registers as they are kept: of those who are passive only of which bodies they are in the way. */
  kept(regs: Int32Array): Int32Array {
    return this.passive ? keptIn(this.#whole, this.passive, regs) : regs
  }

  /** Searches until nothing is new, or the nodes are used up. Pauses now and then. */
  *run(): Generator<undefined, void> {
    const { diagrams, reached } = this
    const arrivals = Array.from({ length: reached.length }, () => new Arrivals(diagrams.bits))
    arrivals[this.#startPlace]!.set = this.#start
    const waiting = [this.#startPlace]
    const levels = this.places[0]!.patches.map(([patch]) => levelOfPatch(this.stage, patch!))
    /** By place, the changes under which what was found there is closed. */
    const closedUnder: ReadonlySet<BitChange>[] = Array.from(reached, () => new Set())
    for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
      const arrived = arrivals[place]!
      arrivals[place] = new Arrivals(diagrams.bits)
      arrived.set = diagrams.difference(arrived.set, reached[place]!)
      if (arrived.set === 0) continue
      const closing = new Closing(this, place, arrived, closedUnder)
      if (!(yield* closing.run())) return
      closedUnder[place] = closing.under
      reached[place] = diagrams.union(reached[place]!, closing.set)
      for (const { change, to } of this.moves.changesAt(place)) {
        if (to === place || change.isStorm) continue
        const made = diagrams.difference(diagrams.image(closing.set, change.change), reached[to]!)
        if (made === 0) continue
        arrivals[to]!.add(diagrams, made, place, change.change)
        // What was found last is followed first: doors in a row are then gone through once, and not once for each of them.
        if (levels[to] === levels[place]) toTop(waiting, to)
        else toBottom(waiting, to)
      }
      yield
      if (diagrams.made > this.nodes) return
    }
    this.isComplete = true
    yield* this.#noteTaken()
  }

  /** Which transitions are taken, and whether there are storms, of all changes that happen somewhere. */
  *#noteTaken(): Generator<undefined, void> {
    for (const [place, set] of this.reached.entries()) {
      if (set === 0) continue
      yield
      for (const { change } of this.moves.changesAt(place)) {
        const { taken, isStorm, where } = change
        if (isStorm ? this.storms : taken.every((row) => this.taken[row] === 1)) continue
        if (!this.diagrams.meet(set, where)) continue
        if (isStorm) this.storms = true
        else for (const row of taken) this.taken[row] = 1
      }
    }
  }

  /** What was found at all places together. */
  get anywhere(): number {
    if (this.#anywhere < 0) this.#anywhere = this.reached.reduce((all, set) => this.diagrams.union(all, set), 0)
    return this.#anywhere
  }

  /** All assignments that agree, in what a test reads, with a situation that was found and in which it holds. */
  holding(test: (regs: Int32Array) => boolean): number {
    const look = new LiftedLook<boolean>(this.space)
    let holding = 0
    look.each(this.anywhere, test, (holds, told) => {
      if (holds) holding = this.diagrams.union(holding, told)
    })
    return holding
  }

  /**
   * One situation for each way in which some registers stand anywhere; null where there are more than `most`. Pauses now
   * and then.
   */
  *standings(registers: readonly number[], most: number): Generator<undefined, Int32Array[] | null> {
    const wanted = registers.filter((register) => this.space.layout.has(register))
    const known = this.#standings.get(`${wanted.join()} ${String(most)}`)
    if (known !== undefined) return known
    const { diagrams, space } = this
    const bits = space.bitsOf(wanted)
    const all: Int32Array[] = []
    for (let rest = diagrams.projected(this.anywhere, (bit) => bits.has(bit)); rest !== 0 && all.length <= most;) {
      const own = wanted.reduce(
        (set, register) => diagrams.intersection(set, space.standing(register, space.codeIn(rest, register))),
        1,
      )
      space.fillWithin(this.anywhere, own)
      all.push(space.noting.from.slice())
      rest = diagrams.difference(rest, own)
    }
    const found = all.length > most ? null : all
    if (this.isComplete) this.#standings.set(`${wanted.join()} ${String(most)}`, found)
    yield
    return found
  }

  /** The registers of the start, as a set, and its place. */
  get start(): { readonly set: number; readonly place: number } {
    return { set: this.#start, place: this.#startPlace }
  }
}
