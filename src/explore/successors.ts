import {
  type ClockModel,
  clocksNow,
  isThere,
  leastTicks,
  mostTicksOf,
  Step,
  type StepWatcher,
  type Tables,
  tickLater,
} from '../machine/index.ts'
import type { Patches, Space } from '../space/index.ts'
import { PatchPositions } from './patch-positions.ts'
import type { WalkTimes } from './walk-times.ts'
import { eachDial, eachPress, Inputs } from './inputs.ts'
import { type Way, wayBetween, waysFrom } from './walks.ts'

/** How one situation leads to the next: by walking into a patch beside, by acting on the spot, or by time. */
export const moveKind = { walk: 0, press: 1, wait: 2 } as const

/** Moves that are made free, to see what would follow: rows taken at any time, states entered from anywhere. */
export interface Free {
  readonly rows: readonly number[]
  readonly states: readonly { readonly machine: number; readonly state: number }[]
  /** An item that anybody may come to have at any time; -1: none. */
  readonly item: number
  /** Places of levels that are joined, by index, to which the player may come at any time, as by an exit. */
  readonly places: readonly number[]
  /** A row whose signals are not sent; -1: none. */
  readonly muted: number
  /** An interactable whose clocks rule no walk out for want of time; -1: none. */
  readonly untimed: number
}

/**
 * Called for every move that is possible: `regs` and the patch of the first character after it, and the rows it took.
 * Both are reused; a walk of the first character that sets nothing off gives the very registers that it started from.
 * `what` is, for a wait, the clock that was due (-1: a tick passed); for a press and a walk, see `Inputs`.
 */
export type MoveVisitor = (
  regs: Int32Array,
  patch: number,
  kind: number,
  what: number,
  taken: readonly number[],
) => void

/** The registers of a move that is tried: a copy of those that it starts from, made anew for each move. */
export interface Scratch {
  readonly after: Int32Array
  begin(base: Int32Array): void
}

/** Told of what the step does in a move that is tried, and before that, that another begins. */
export interface MoveWatcher extends StepWatcher {
  begins(): void
}

/**
 * All moves that are possible from a situation. A walk goes into a patch beside and may take no time; a press goes to
 * a candidate; what is due by the clocks happens, in any order; or a tick passes.
 */
export class Successors {
  readonly #tables: Tables
  /** By character. */
  readonly #grounds: readonly Patches[]
  readonly #ways: readonly (readonly (readonly Way[])[])[]
  readonly #counts: boolean
  readonly #free: Free | null
  readonly #step: Step
  /** The registers that moves are tried from; the caller's own. */
  #base: Int32Array = new Int32Array(0)
  readonly #scratch: Scratch
  readonly #after: Int32Array
  readonly #crowd: PatchPositions
  /** The patch of the first character, and whose moves are being tried. */
  #here = 0
  #actor = 0
  #visit: MoveVisitor = () => undefined
  readonly #onPress = (machine: number, pressKind: number, looking: boolean): void => {
    this.#press(machine, pressKind, looking)
  }
  readonly #onDial = (machine: number): void => {
    for (const wheel of this.#tables.expanded.interactables[machine]!.wheels) this.#dial(wheel)
  }
  readonly inputs: Inputs
  /** For each clock the most events that it has set off when it was due. */
  readonly dueEvents: Int32Array
  readonly #watcher: MoveWatcher | null
  readonly #times: WalkTimes | null
  /**
   * Told where a move sets off signals without end, with the first transition that comes again; that move leads nowhere.
   * The kind is -1 at the very start.
   */
  onStorm: (kind: number, what: number, row: number) => void = () => undefined

  constructor(
    tables: Tables,
    space: Space,
    clocks: ClockModel,
    counts: boolean,
    free: Free | null = null,
    watcher: MoveWatcher | null = null,
    scratch: Scratch = plainScratch(tables.at.size),
    times: WalkTimes | null = null,
  ) {
    this.#times = times
    this.#watcher = watcher
    this.#scratch = scratch
    this.#free = free
    this.inputs = new Inputs(tables)
    this.dueEvents = new Int32Array(tables.at.clocks)
    this.#tables = tables
    const { patches: grounds } = space
    this.#grounds = grounds
    this.#counts = counts
    this.#after = scratch.after
    this.#ways = grounds.map((ground) => ground.patches.map((_, patch) => waysFrom(ground, patch)))
    this.#crowd = new PatchPositions(tables, space, this.#after)
    this.#step = new Step(tables, this.#after, clocks, this.#crowd, watcher)
    this.#step.muted = free?.muted ?? -1
  }

  /** Starts what runs at the very start, in `regs`; the patch of the first character then. */
  begin(regs: Int32Array, patch: number): number {
    this.#base = regs
    this.#begin(patch)
    this.#step.begin()
    this.#ended(-1, -1)
    regs.set(this.#after)
    return this.#crowd.patch
  }

  /** Calls `visit` for each move from `regs` on `patch`: walks by patch, then presses, then what the clocks do. */
  each(regs: Int32Array, patch: number, visit: MoveVisitor): void {
    this.#base = regs
    this.#here = patch
    this.#visit = visit
    for (this.#actor = 0; this.#actor < this.#grounds.length; this.#actor++) {
      if (!isThere(this.#tables, regs, this.#actor)) continue
      // A character that keeps something pressed stands still: walking lets go first.
      if (regs[this.#tables.at.held(this.#actor)] !== 0) this.#release()
      else {
        this.#walks(visit)
        this.#acts()
      }
    }
    this.#waits(patch, visit)
    if (this.#free) this.#frees(this.#free, patch, visit)
  }

  /** Calls `visit` for those moves of `each` alone that are made free. */
  eachFree(regs: Int32Array, patch: number, visit: MoveVisitor): void {
    this.#base = regs
    this.#here = patch
    this.#actor = this.#grounds.length
    if (this.#free) this.#frees(this.#free, patch, visit)
  }

  /** Calls `visit` for each move of one kind: those of `each` that `part` names. */
  eachOf(part: Part, regs: Int32Array, patch: number, visit: MoveVisitor): void {
    this.#base = regs
    this.#here = patch
    this.#visit = visit
    if (part.do === 'due') {
      this.#actor = 0
      this.#due(part.clock, patch)
      return
    }
    if (part.do === 'pass') {
      this.#actor = 0
      this.#pass(part.machine)
      return
    }
    this.#actor = part.actor
    const isHolding = regs[this.#tables.at.held(part.actor)] !== 0
    if (part.do === 'release') {
      if (isHolding) this.#release()
    } else if (isHolding) return
    else if (part.do === 'walk') this.#walk(this.#ways[part.actor]![this.#own()]![part.way]!)
    else {
      const { signature } = this.#grounds[part.actor]!.patches[this.#own()]!
      const last = signature.candidates.findIndex(({ interactable }) => interactable === part.machine)
      const nearer = { ...signature, candidates: signature.candidates.slice(0, last + 1) }
      eachPress(this.#tables, nearer, regs, part.actor, (machine, pressKind, looking) => {
        if (machine === part.machine) this.#press(machine, pressKind, looking)
      })
      eachDial(this.#tables, nearer, regs, part.actor, (machine) => {
        if (machine === part.machine) this.#onDial(machine)
      })
    }
  }

  /** The walks that lead out of a patch, as `eachOf` numbers them. */
  waysFrom(actor: number, patch: number): readonly Way[] {
    return this.#ways[actor]![patch]!
  }

  /** Told where a move asks whether the first character is in the way of a body. */
  set onAsked(told: (machine: number) => void) {
    this.#crowd.onAsked = told
  }

  /** Conditions are looked at again only where this says so; null: always. */
  set mayHaveChanged(test: ((awaited: number) => boolean) | null) {
    this.#step.mayHaveChanged = test
  }

  /** How many events the move has set off that is being visited. */
  get events(): number {
    return this.#step.events
  }

  /** Where the character stands whose moves are being tried. */
  #own(): number {
    return this.#actor === 0 ? this.#here : this.#base[this.#tables.at.place(this.#actor)]!
  }

  #walks(visit: MoveVisitor): void {
    const actor = this.#actor
    const ways = this.#ways[actor]![this.#own()]!
    for (let i = 0; i < ways.length; i++) {
      const way = ways[i]!
      if (this.#times?.isTooSoon(this.#base, way.to)) continue
      if (way.plain && actor === 0 && !this.#isBlocked(way.bodies)) {
        visit(this.#base, way.to, moveKind.walk, this.inputs.walk(0, way.to), nothingTaken)
      } else this.#walk(way)
    }
  }

  #walk(way: Way): void {
    if (this.#isBlocked(way.bodies)) return
    const what = this.inputs.walk(this.#actor, way.to)
    do {
      this.#begin(this.#here)
      this.#crowd.put(this.#actor, way.to)
      if (way.plain) this.#found(moveKind.walk, what, nothingTaken)
      else if (this.#cross(way, what)) this.#found(moveKind.walk, what, this.#step.taken)
    } while (this.#crowd.goesOtherwise())
  }

  /** Some passive character comes into the way of a body that does not bar it, or the last one leaves it. */
  #pass(machine: number): void {
    const register = this.#tables.at.barred(machine)
    const what = this.inputs.walk(0, 0)
    const isIn = this.#base[register] === 1
    if (!isIn && this.#isBlocked([machine])) return
    do {
      this.#begin(this.#here)
      this.#after[register] = isIn ? 0 : 1
      if (!isIn || this.#crowd.isInTheWay(machine)) this.#found(moveKind.walk, what, nothingTaken)
      else {
        this.#step.cleared(machine)
        if (this.#ended(moveKind.walk, what)) this.#found(moveKind.walk, what, this.#step.taken)
      }
    } while (this.#crowd.goesOtherwise())
  }

  /** Calls `visit` for all that a walk of one character onto a patch may lead to, though it may not be beside its own. */
  into(regs: Int32Array, patch: number, actor: number, to: number, visit: MoveVisitor): void {
    this.#base = regs
    this.#here = patch
    this.#visit = visit
    this.#actor = actor
    const { patches } = this.#grounds[actor]!
    this.#walk(wayBetween(patches[this.#own()]!.signature, patches[to]!.signature, to))
  }

  #isBlocked(bodies: readonly number[]): boolean {
    const { states } = this.#tables
    for (const body of bodies) if (states[body]![this.#base[body]!]!.blocksWalk) return true
    return false
  }

  /** Crosses what tells two patches apart; all rows that this takes are then in `taken` of the step. */
  #cross({ crossed, cleared }: Way, what: number): boolean {
    const [only] = crossed
    if (only && crossed.length === 1 && cleared.length === 0) {
      this.#step.cross(this.#actor, only.zone, only.inside)
      return this.#ended(moveKind.walk, what)
    }
    const taken: number[] = []
    const ahead = this.#crowd.ahead
    ahead.push(...crossed)
    for (let next = ahead.shift(); next; next = ahead.shift()) {
      this.#step.cross(this.#actor, next.zone, next.inside)
      taken.push(...this.#step.taken)
    }
    for (const body of cleared) {
      if (this.#crowd.isInTheWay(body)) continue
      this.#step.cleared(body)
      taken.push(...this.#step.taken)
    }
    this.#step.taken.length = 0
    this.#step.taken.push(...taken)
    return this.#ended(moveKind.walk, what)
  }

  /** Presses, letting go, and dials: everything that is done on the spot. */
  #acts(): void {
    const { signature } = this.#grounds[this.#actor]!.patches[this.#own()]!
    eachPress(this.#tables, signature, this.#base, this.#actor, this.#onPress)
    eachDial(this.#tables, signature, this.#base, this.#actor, this.#onDial)
  }

  #press(machine: number, pressKind: number, looking: boolean): void {
    do {
      this.#pressOnce(machine, pressKind, looking)
    } while (this.#crowd.goesOtherwise())
  }

  #pressOnce(machine: number, pressKind: number, looking: boolean): void {
    const actor = this.#actor
    this.#begin(this.#here)
    const outcome = this.#step.press(actor, machine, pressKind)
    const kept = this.#after[this.#tables.at.held(actor)] !== 0
    const what = this.inputs.press(actor, machine, pressKind, looking, kept)
    if (outcome !== 'accepted' || !this.#ended(moveKind.press, what)) return
    this.#found(moveKind.press, what, this.#step.taken)
    if (!kept) return
    const taken = [...this.#step.taken]
    const short = this.inputs.press(actor, machine, pressKind, looking, false)
    this.#step.release(actor)
    if (!this.#ended(moveKind.press, short)) return
    taken.push(...this.#step.taken)
    this.#found(moveKind.press, short, taken)
  }

  #release(): void {
    do {
      this.#begin(this.#here)
      this.#step.release(this.#actor)
      this.#act(this.inputs.release(this.#actor))
    } while (this.#crowd.goesOtherwise())
  }

  #dial(wheel: number): void {
    for (const to of this.#tables.wheelValues[wheel]!) {
      if (this.#base[this.#tables.at.wheel(wheel)] === to) continue
      do {
        this.#begin(this.#here)
        this.#step.dial(wheel, to)
        this.#act(this.inputs.dial(this.#actor, wheel, to))
      } while (this.#crowd.goesOtherwise())
    }
  }

  /** Something was done on the spot. */
  #act(what: number): void {
    if (this.#ended(moveKind.press, what)) this.#found(moveKind.press, what, this.#step.taken)
  }

  #found(kind: number, what: number, taken: readonly number[]): void {
    this.#visit(this.#after, this.#crowd.patch, kind, what, taken)
  }

  #waits(patch: number, visit: MoveVisitor): void {
    const { firstClock } = this.#tables.at
    const clocks = clocksNow(this.#tables, this.#base)
    let runs = false
    let mustBeDue = false
    for (const i of clocks) {
      const value = this.#base[i]!
      if (value === 0) continue
      runs = true
      if (this.#counts && mostTicksOf(value) === 0) mustBeDue = true
      if (this.#counts && leastTicks(value) > 0) continue
      this.#fallsDue(i - firstClock, patch)
    }
    if (!runs || mustBeDue || !this.#counts) return
    this.#begin(patch)
    for (const i of clocks) if (this.#after[i] !== 0) this.#after[i] = tickLater(this.#after[i]!)
    visit(this.#after, patch, moveKind.wait, -1, nothingTaken)
  }

  /** A clock may be due: it runs, and it may be time. */
  #due(clock: number, patch: number): void {
    const value = this.#base[this.#tables.at.clock(clock)]!
    if (value !== 0 && !(this.#counts && leastTicks(value) > 0)) this.#fallsDue(clock, patch)
  }

  #fallsDue(clock: number, patch: number): void {
    do {
      this.#begin(patch)
      this.#step.due(clock)
      this.dueEvents[clock] = Math.max(this.dueEvents[clock]!, this.#step.events)
      if (this.#ended(moveKind.wait, clock)) this.#found(moveKind.wait, clock, this.#step.taken)
    } while (this.#crowd.goesOtherwise())
  }

  #frees(free: Free, patch: number, visit: MoveVisitor): void {
    for (const index of free.rows) {
      const row = this.#tables.rows[index]!
      if (!row.transition.from.includes(this.#base[row.machine]!)) continue
      this.#begin(patch)
      this.#step.grant(row)
      if (!this.#step.storm) visit(this.#after, this.#crowd.patch, moveKind.press, row.machine, this.#step.taken)
    }
    for (let actor = 0; free.item >= 0 && actor < this.#grounds.length; actor++) {
      this.#begin(patch)
      this.#step.testOnly({ kind: 'give', item: free.item, count: this.#tables.expanded.items[free.item]!.most }, actor)
      visit(this.#after, this.#crowd.patch, moveKind.press, -1, this.#step.taken)
    }
    for (const place of free.places) {
      this.#begin(patch)
      this.#step.testOnly({ kind: 'move-to', place, exit: fromNowhere }, 0)
      if (!this.#step.storm) visit(this.#after, this.#crowd.patch, moveKind.press, -1, this.#step.taken)
    }
    for (const { machine, state } of free.states) {
      if (this.#base[machine] === state) continue
      this.#begin(patch)
      this.#step.put(machine, state)
      visit(this.#after, this.#crowd.patch, moveKind.press, machine, this.#step.taken)
    }
  }

  #begin(patch: number): void {
    this.#scratch.begin(this.#base)
    this.#crowd.actor = this.#actor
    this.#crowd.begin(patch)
    this.#step.newMoment()
    this.#watcher?.begins()
  }

  /** Whether what was set off has come to an end. */
  #ended(kind: number, what: number): boolean {
    if (!this.#step.storm) return true
    const { taken } = this.#step
    this.onStorm(kind, what, taken.find((row, i) => taken.indexOf(row) < i) ?? taken[0] ?? -1)
    return false
  }
}

const nothingTaken: readonly number[] = []

/** An exit that stands nowhere, and drops nothing. */
const fromNowhere = { level: '', place: '', drops: [], paths: { level: '', place: '' } }

function plainScratch(size: number): Scratch {
  const after = new Int32Array(size)
  return {
    after,
    begin: (base) => {
      after.set(base)
    },
  }
}

/** One kind of move: one way of a character out of its patch, all that it can do to one interactable, or one clock. */
export type Part =
  | { readonly do: 'walk'; readonly actor: number; readonly way: number }
  | { readonly do: 'act'; readonly actor: number; readonly machine: number }
  | { readonly do: 'release'; readonly actor: number }
  | { readonly do: 'due'; readonly clock: number }
  /** Some passive character comes into the way of a body, or leaves it; see `Passive`. */
  | { readonly do: 'pass'; readonly machine: number }

/** Lets clocks stand as a search without ticks has them: each runs, or does not. */
export function loosen({ at }: Tables, regs: Int32Array): Int32Array {
  for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) if (regs[i]! > 0) regs[i] = 1
  return regs
}

/** Whether nothing runs: no timer and no motion that anything asks about, of the level that the play goes on in. */
export function isAtRest(tables: Tables, regs: Int32Array): boolean {
  for (const clock of clocksNow(tables, regs)) if (regs[clock] !== 0) return false
  return true
}
