import { type ClockModel, leastTicks, mostTicksOf, Step, type Tables, tickLater } from '../machine/index.ts'
import type { Patches } from '../space/index.ts'
import { eachDial, eachPress, Inputs } from './inputs.ts'

/** How one situation leads to the next: by walking into a patch beside, by acting on the spot, or by time. */
export const moveKind = { walk: 0, press: 1, wait: 2 } as const

/** Moves that are made free, to see what would follow: rows taken at any time, states entered from anywhere. */
export interface Free {
  readonly rows: readonly number[]
  readonly states: readonly { readonly machine: number; readonly state: number }[]
}

/**
 * Called for every move that is possible: `regs` and the patch after it, and the rows it took. Both are reused;
 * a walk that sets nothing off gives the very registers that it started from. `what` is, for a wait, the clock that was
 * due (-1: a tick passed); for a press, see `Inputs`; for a walk, the patch.
 */
export type MoveVisitor = (
  regs: Int32Array,
  patch: number,
  kind: number,
  what: number,
  taken: readonly number[],
) => void

/**
 * All moves that are possible from a situation. A walk goes into a patch beside and may take no time; a press goes to
 * a candidate; what is due by the clocks happens, in any order; or a tick passes.
 */
export class Moves {
  readonly #tables: Tables
  readonly #patches: Patches
  readonly #ways: readonly (readonly Way[])[]
  readonly #counts: boolean
  readonly #free: Free | null
  readonly #step: Step
  /** The registers that moves are tried from; the caller's own. */
  #base: Int32Array = new Int32Array(0)
  readonly #after: Int32Array
  readonly #onBody: readonly ReadonlySet<number>[]
  #patch = 0
  /** Where, and for whom, moves are being tried. */
  #here = 0
  #visit: MoveVisitor = () => undefined
  readonly #onPress = (machine: number, ask: number, looking: boolean): void => {
    this.#press(machine, ask, looking)
  }
  readonly #onDial = (machine: number): void => {
    for (const wheel of this.#tables.expanded.interactables[machine]!.wheels) this.#dial(wheel)
  }
  readonly inputs: Inputs
  /** Set where a move set off signals without end; that move leads nowhere. */
  sawStorm = false

  constructor(tables: Tables, patches: Patches, clocks: ClockModel, counts: boolean, free: Free | null = null) {
    this.#free = free
    this.inputs = new Inputs(tables)
    this.#tables = tables
    this.#patches = patches
    this.#counts = counts
    this.#after = new Int32Array(tables.at.size)
    this.#ways = patches.patches.map((_, patch) => waysFrom(patches, patch))
    this.#onBody = patches.patches.map((patch) => new Set(patch.sign.bodies))
    const standing = { isInTheWay: (machine: number): boolean => this.#onBody[this.#patch]!.has(machine) }
    this.#step = new Step(tables, this.#after, clocks, standing)
  }

  /** Calls `visit` for each move from `regs` on `patch`: walks by patch, then presses, then what the clocks do. */
  each(regs: Int32Array, patch: number, visit: MoveVisitor): void {
    this.#base = regs
    this.#here = patch
    this.#visit = visit
    // Whoever keeps something pressed stands still: walking lets go first.
    if (regs[this.#tables.at.held(0)] !== 0) this.#release(patch, visit)
    else {
      this.#walks(regs, patch, visit)
      this.#acts(patch)
    }
    this.#waits(patch, visit)
    if (this.#free) this.#frees(this.#free, patch, visit)
  }

  #walks(regs: Int32Array, patch: number, visit: MoveVisitor): void {
    const ways = this.#ways[patch]!
    for (let i = 0; i < ways.length; i++) {
      const way = ways[i]!
      if (way.bodies.length > 0 && this.#isBlocked(way.bodies)) continue
      if (way.plain) {
        visit(regs, way.to, moveKind.walk, way.to, nothingTaken)
        continue
      }
      this.#begin(way.to)
      if (this.#cross(way)) visit(this.#after, way.to, moveKind.walk, way.to, this.#step.taken)
    }
  }

  #isBlocked(bodies: readonly number[]): boolean {
    const { states } = this.#tables
    for (const body of bodies) if (states[body]![this.#base[body]!]!.blocksWalk) return true
    return false
  }

  #cross({ entered, left, cleared }: Way): boolean {
    for (const zone of entered) this.#step.cross(0, zone, true)
    for (const zone of left) this.#step.cross(0, zone, false)
    for (const body of cleared) this.#step.cleared(body, 0)
    return this.#ended()
  }

  /** Presses, letting go, and dials: everything that is done on the spot. */
  #acts(patch: number): void {
    const { sign } = this.#patches.patches[patch]!
    eachPress(this.#tables, sign, this.#base, this.#onPress)
    eachDial(this.#tables, sign, this.#base, this.#onDial)
  }

  #press(machine: number, ask: number, looking: boolean): void {
    const patch = this.#here
    const visit = this.#visit
    this.#begin(patch)
    if (this.#step.press(0, machine, ask) !== 'accepted' || !this.#ended()) return
    const kept = this.#after[this.#tables.at.held(0)] !== 0
    visit(this.#after, patch, moveKind.press, this.inputs.press(machine, ask, looking, kept), this.#step.taken)
    if (!kept) return
    const taken = [...this.#step.taken]
    this.#step.release(0)
    if (!this.#ended()) return
    taken.push(...this.#step.taken)
    visit(this.#after, patch, moveKind.press, this.inputs.press(machine, ask, looking, false), taken)
  }

  #release(patch: number, visit: MoveVisitor): void {
    this.#begin(patch)
    this.#step.release(0)
    if (this.#ended()) visit(this.#after, patch, moveKind.press, this.inputs.release, this.#step.taken)
  }

  #dial(wheel: number): void {
    const patch = this.#here
    const visit = this.#visit
    for (const to of this.#tables.wheelValues[wheel]!) {
      if (this.#base[this.#tables.at.wheel(wheel)] === to) continue
      this.#begin(patch)
      this.#step.dial(wheel, to)
      if (this.#ended()) visit(this.#after, patch, moveKind.press, this.inputs.dial(wheel, to), this.#step.taken)
    }
  }

  #waits(patch: number, visit: MoveVisitor): void {
    const { at } = this.#tables
    const last = at.firstClock + at.clocks
    let runs = false
    let mustBeDue = false
    for (let i = at.firstClock; i < last; i++) {
      const value = this.#base[i]!
      if (value === 0) continue
      runs = true
      if (this.#counts && mostTicksOf(value) === 0) mustBeDue = true
      if (this.#counts && leastTicks(value) > 0) continue
      this.#begin(patch)
      this.#step.due(i - at.firstClock)
      if (this.#ended()) visit(this.#after, patch, moveKind.wait, i - at.firstClock, this.#step.taken)
    }
    if (!runs || mustBeDue || !this.#counts) return
    this.#begin(patch)
    for (let i = at.firstClock; i < last; i++) if (this.#after[i] !== 0) this.#after[i] = tickLater(this.#after[i]!)
    visit(this.#after, patch, moveKind.wait, -1, nothingTaken)
  }

  #frees(free: Free, patch: number, visit: MoveVisitor): void {
    for (const index of free.rows) {
      const row = this.#tables.rows[index]!
      if (!row.transition.from.includes(this.#base[row.machine]!)) continue
      this.#begin(patch)
      this.#step.grant(row)
      if (this.#ended()) visit(this.#after, patch, moveKind.press, row.machine, this.#step.taken)
    }
    for (const { machine, state } of free.states) {
      if (this.#base[machine] === state) continue
      this.#begin(patch)
      this.#step.put(machine, state)
      visit(this.#after, patch, moveKind.press, machine, this.#step.taken)
    }
  }

  #begin(patch: number): void {
    this.#after.set(this.#base)
    this.#patch = patch
    this.#step.newMoment()
  }

  #ended(): boolean {
    if (!this.#step.storm) return true
    this.sawStorm = true
    return false
  }
}

const nothingTaken: readonly number[] = []

/** A walk from one patch into another beside it. */
interface Way {
  readonly to: number
  /** The bodies whose ground it leads onto: none of them may block. */
  readonly bodies: readonly number[]
  readonly entered: readonly number[]
  readonly left: readonly number[]
  /** The bodies whose ground it leaves. */
  readonly cleared: readonly number[]
  /** Whether nothing can notice it. */
  readonly plain: boolean
}

function waysFrom({ patches, beside }: Patches, patch: number): Way[] {
  const from = patches[patch]!.sign
  return beside[patch]!.map((to) => {
    const { zones, bodies } = patches[to]!.sign
    const entered = zones.filter((zone) => !from.zones.includes(zone))
    const left = from.zones.filter((zone) => !zones.includes(zone))
    const cleared = from.bodies.filter((body) => !bodies.includes(body))
    return { to, bodies, entered, left, cleared, plain: entered.length + left.length + cleared.length === 0 }
  })
}

/** Whether nothing runs: no timer and no motion that anything asks about. */
export function isAtRest(tables: Tables, regs: Int32Array): boolean {
  const { at } = tables
  for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) if (regs[i] !== 0) return false
  return true
}
