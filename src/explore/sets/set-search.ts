import { addAsked, looseClocks } from '../../machine/index.ts'
import { finish } from '../../model/index.ts'
import { type Stage, startRegisters } from '../../play/index.ts'
import type { Signature } from '../../space/index.ts'
import { keptIn, type Passive, passiveOf, withoutPassive } from '../passive.ts'
import { Successors, type MoveVisitor, type MoveWatcher, type Part, type Scratch } from '../successors.ts'
import type { Way } from '../walks.ts'
import { type BitChange, Diagrams } from './diagrams.ts'
import { BitLayout } from './layout.ts'
import { Arrivals, Closing } from './closing.ts'
import { type LiftedChange, LiftedPart, LiftingSpace, type Outcome, type Run, type Surroundings } from './lifting.ts'
import { LiftedLook } from './lifted-look.ts'
import { NotingRegisters } from './noting.ts'
import { type RegisterOrder, registerOrder } from './order.ts'
import { type Places, placesApart, placesOf } from './places.ts'
import { toTop } from './to-top.ts'

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

/** A part of the moves that can be made at a place of the first character, and where it leads that character. */
export interface PartAt {
  readonly part: LiftedPart
  /** The place that it leads to where its outcome says so. */
  readonly there: number
  readonly run: Run
  /** What the part does, on which patch; parts with the same key do alike. */
  readonly key: string
  readonly made: Part
  readonly patch: number
}

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
  /** By place of the first character, the set of all situations found there. */
  readonly reached: Int32Array
  /** For each row whether it is ever taken. */
  readonly taken: Uint8Array
  /** Whether signals without end stop the play somewhere. */
  storms = false
  isComplete = false
  readonly #nodes: number
  #isWalking = false
  /** By place of the first character, the bodies in whose way it is there. */
  readonly #around: (ReadonlySet<number> | undefined)[] = []
  /** What came of the run that is being made. */
  #outcomes: Outcome[] = []
  readonly #scratch: Scratch
  readonly #moves: Successors
  readonly #noting: NotingRegisters
  readonly #parts = new Map<string, LiftedPart>()
  readonly #partsAt: (readonly PartAt[] | undefined)[]
  /** Whether anything moves people to places, or pushes them. */
  readonly #movesPeople: boolean
  readonly #whole: Stage
  readonly #start: number
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
    this.#noting = new NotingRegisters(tables.at.size)
    const scratch = {
      after: this.#noting.after,
      begin: () => {
        this.#noting.begin()
      },
    }
    this.#scratch = scratch
    this.#moves = this.movesAnew(null)
    this.#moves.onAsked = (machine) => {
      if (!this.#isWalking) this.#noting.note(tables.at.size + machine)
    }
    this.#moves.onStorm = (kind, what, row) => {
      this.#outcomes.push({ writes: [], to: -1, kind, what, taken: [row], isStorm: true })
    }
    const { interactables } = stage.expanded
    this.#movesPeople = tables.movesPeople || interactables.some(({ inTheWay }) => inTheWay === 'push')
    this.taken = new Uint8Array(tables.rows.length)
    const count = this.places[0]!.patches.length
    this.reached = new Int32Array(count)
    this.#partsAt = Array.from({ length: count })
    const starts = whole.space.patches.map(({ patchAt }, character) => patchAt(space.layout.starts[character]!))
    let regs = startRegisters(whole)
    for (let character = 1; character < starts.length; character++) {
      regs[tables.at.place(character)] = starts[character]!
    }
    regs = this.kept(regs)
    const start = new Successors(tables, space, looseClocks, false).begin(regs, starts[0]!)
    this.space = new LiftingSpace(this.diagrams, layout, this.#noting, regs)
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
    const { patches } = this.places[0]!
    return this.reached.reduce((sum, set, place) => sum + this.diagrams.size(set) * patches[place]!.length, 0)
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
      for (const { change, to } of this.changesAt(place)) {
        if (to === place || change.isStorm) continue
        const made = diagrams.difference(diagrams.image(closing.set, change.change), reached[to]!)
        if (made === 0) continue
        arrivals[to]!.add(diagrams, made, place, change.change)
        // What was found last is followed first: doors in a row are then gone through once, and not once for each of them.
        toTop(waiting, to)
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
      for (const { change } of this.changesAt(place)) {
        const { taken, isStorm, where } = change
        if (isStorm ? this.storms : taken.every((row) => this.taken[row] === 1)) continue
        if (!this.diagrams.meet(set, where)) continue
        if (isStorm) this.storms = true
        else for (const row of taken) this.taken[row] = 1
      }
    }
  }

  /** All that can be done, or happen, while the first character is at a place. */
  partsAt(place: number): readonly PartAt[] {
    return (this.#partsAt[place] ??= [...this.#list(place)])
  }

  *#list(place: number): Generator<PartAt> {
    const { tables, space } = this.stage
    const [own] = this.places
    const patches = own!.patches[place]!
    const { signature } = space.patches[0]!.patches[patches[0]!]!
    // Where people are moved, outcomes name places, and are not shared between them.
    const here = this.#movesPeople ? `@${String(place)}` : ''
    const lifted = (key: string, made: Part, patch: number, put: Put | null, there: number): PartAt => {
      const part = this.#parts.get(key) ?? new LiftedPart(this.space)
      this.#parts.set(key, part)
      return { key, part, there, run: () => this.#runOf(made, patch, put, there), made, patch }
    }
    for (let clock = 0; clock < tables.at.clocks; clock++) {
      yield lifted(`due ${String(clock)} ${here}`, { do: 'due', clock }, patches[0]!, null, -1)
    }
    for (const machine of this.passive?.bodies ?? []) {
      yield lifted(`pass ${String(machine)} ${here}`, { do: 'pass', machine }, patches[0]!, null, -1)
    }
    for (let actor = 0; actor < tables.at.characters; actor++) {
      if (this.passive?.characters.has(actor)) continue
      if (tables.canBeHeld.includes(true)) {
        yield lifted(`release ${String(actor)} ${here}`, { do: 'release', actor }, patches[0]!, null, -1)
      }
      const grounds = space.patches[actor]!
      const groups = actor === 0 ? [patches] : this.places[actor]!.patches
      for (const group of groups) {
        for (const patch of group) {
          const put = actor === 0 ? null : { register: tables.at.place(actor), patch, group: group[0]! }
          const on = actor === 0 ? patch : patches[0]!
          const { candidates } = grounds.patches[patch]!.signature
          for (const [i, { interactable: machine }] of candidates.entries()) {
            const nearer = JSON.stringify(candidates.slice(0, i + 1))
            const key = `act ${String(actor)} ${put ? String(group[0]!) : ''} ${here} ${nearer}`
            yield lifted(key, { do: 'act', actor, machine }, on, put, -1)
          }
          for (const [way, one] of this.#moves.waysFrom(actor, patch).entries()) {
            const to = this.places[actor]!.of[one.to]!
            if (to === this.places[actor]!.of[patch]) continue
            const ground =
              actor === 0
                ? groundKey(signature, grounds.patches[one.to]!.signature)
                : `${String(patch)} ${String(one.to)}`
            const key = `walk ${String(actor)} ${here} ${ground} ${wayKey(one)}`
            yield lifted(key, { do: 'walk', actor, way }, on, put, actor === 0 ? to : -1)
          }
        }
      }
    }
  }

  /** Runs a part from the registers that are noted, with somebody else put on a patch of its place. */
  #runOf(part: Part, patch: number, put: Put | null, there: number): readonly Outcome[] {
    // Where the first character walks, its place is in the key of the part.
    this.#isWalking = part.do === 'walk' && put === null
    const { from } = this.#noting
    if (put) {
      // Whoever is not at that place does not do that.
      const at = this.#noting.base[put.register]!
      if (at !== put.group) return []
      from[put.register] = put.patch
    }
    const outcomes = this.#outcomesOf(patch, there, (visit) => {
      this.#moves.eachOf(part, this.#noting.base, patch, visit)
    })
    if (put) from[put.register] = put.group
    return outcomes
  }

  #outcomesOf(patch: number, there: number, make: (visit: MoveVisitor) => void): readonly Outcome[] {
    const outcomes = (this.#outcomes = [] as Outcome[])
    const { of } = this.places[0]!
    make((_regs, after, kind, what, taken) => {
      const writes: [number, number][] = []
      for (const register of this.#noting.written) {
        if (this.space.has(register) && this.#noting.mayDiffer(register)) {
          writes.push([register, this.#noting.valueOf(register)])
        }
      }
      const at = of[after]!
      const to = at === of[patch] ? -1 : at === there ? -2 : at
      if (writes.length === 0 && to === -1 && taken.length === 0) return
      outcomes.push({ writes, to, kind, what, taken: [...taken], isStorm: false })
    })
    return outcomes
  }

  /** All that a walk of the first character from a patch onto another may lead to from a set, though that may not be beside it. */
  walksInto(set: number, patch: number, to: number): readonly LiftedChange[] {
    const key = `into ${String(patch)} ${String(to)}`
    const part = this.#parts.get(key) ?? new LiftedPart(this.space)
    this.#parts.set(key, part)
    part.learn(set, this.aroundOf(this.places[0]!.of[patch]!), () => {
      this.#isWalking = true
      return this.#outcomesOf(patch, this.places[0]!.of[to]!, (visit) => {
        this.#moves.into(this.#noting.base, patch, 0, to, visit)
      })
    })
    return part.changes
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
    const found = new Map<string, Int32Array>()
    const split = (set: number, i: number): void => {
      if (set === 0 || found.size > most) return
      const register = wanted[i]
      if (register === undefined) {
        this.space.fill(set)
        const { from } = this.space.noting
        const key = wanted.map((one) => from[one]).join()
        if (!found.has(key)) found.set(key, from.slice())
        return
      }
      for (let rest = set; rest !== 0;) {
        const own = this.space.standing(register, this.space.codeIn(rest, register))
        split(this.diagrams.intersection(rest, own), i + 1)
        rest = this.diagrams.difference(rest, own)
      }
    }
    split(this.anywhere, 0)
    if (found.size > most) return null
    yield
    return [...found.values()]
  }

  /** The moves of this search in the registers that note what is read, told to somebody who watches what they do. */
  movesAnew(watcher: MoveWatcher | null): Successors {
    const { tables, space } = this.stage
    const moves = new Successors(tables, space, looseClocks, false, null, watcher, this.#scratch)
    moves.mayHaveChanged = whatChanged(this.stage, this.#noting)
    return moves
  }

  /** The registers of the start, as a set, and its place. */
  get start(): { readonly set: number; readonly place: number } {
    return { set: this.#start, place: this.#startPlace }
  }

  /** The bodies in whose way the first character is at a place. */
  aroundOf(place: number): Surroundings {
    const patch = this.places[0]!.patches[place]![0]!
    return (this.#around[place] ??= new Set(this.stage.space.patches[0]!.patches[patch]!.signature.bodies))
  }

  /** All changes that can happen at a place, with where they lead. */
  *changesAt(place: number): Generator<{ readonly change: LiftedChange; readonly to: number }> {
    const around = this.aroundOf(place)
    for (const { part, there } of this.partsAt(place)) {
      for (const change of part.changesAt(around)) {
        yield { change, to: change.to === -1 ? place : change.to === -2 ? there : change.to }
      }
    }
  }
}

/** Another character than the first on a patch; its register names its place by the first patch of that. */
interface Put {
  readonly register: number
  readonly patch: number
  readonly group: number
}

/** What has a say in a walk of the first character beside what it crosses: whose way it stands in before and after. */
function groundKey(from: Signature, to: Signature): string {
  return `${from.zones.join()}/${from.bodies.join()} ${to.zones.join()}/${to.bodies.join()}`
}

function wayKey({ bodies, crossed, cleared }: Way): string {
  const borders = crossed.map(({ zone, inside }) => `${inside ? '+' : '-'}${String(zone)}`)
  return `${bodies.join()}/${borders.join()}/${cleared.join()}`
}

/** Whether a condition that is waited for mentions anything that the move has written: else it stands as before. */
export function whatChanged(
  { tables: { awaited, at, expanded } }: Stage,
  noting: NotingRegisters,
): (index: number) => boolean {
  const asked = awaited.map(({ row }) => {
    const registers = new Set<number>()
    const { when } = row.transition
    if (when.kind === 'becomes') addAsked(when.check, at, expanded, registers)
    return [...registers]
  })
  return (index) => asked[index]!.some((register) => noting.written.has(register))
}
