import { millisecondClocks, Step, type Tables } from '../machine/index.ts'
import { milliseconds } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { type Hop, type HopEvent, type Patches } from '../space/index.ts'
import { moveKind } from './moves.ts'
import { Packing } from './packing.ts'

/** A sure move: its kind, the interactable that a press goes to or -1, how long it lasts, and what came of it. */
export interface SureMove {
  readonly kind: number
  readonly what: number
  readonly ms: number
  /** The goals that held on the way, a bit each. */
  readonly held: number
  /** The rows that were taken on the way. Reused. */
  readonly taken: readonly number[]
}

/** Called for every sure move, with what it leads to (reused). */
export type SureVisitor = (regs: Int32Array, patch: number, move: SureMove) => void

/**
 * Moves that Play makes for certain: from standing spot to standing spot in the time that Play needs, a press, and
 * waiting. Clocks count milliseconds; while anything runs every move lasts whole ticks.
 */
export class SureMoves {
  readonly stage: Stage
  readonly packing: Packing
  readonly #tick: number
  readonly #tables: Tables
  readonly #patches: Patches
  readonly #step: Step
  readonly #base: Int32Array
  readonly #after: Int32Array
  readonly #bodies = new Set<number>()
  readonly #taken: number[] = []
  #held = 0

  constructor(stage: Stage) {
    const { tables } = stage
    this.stage = stage
    this.#tables = tables
    this.#tick = milliseconds(stage.expanded.level.tick ?? 0.1)
    this.#patches = stage.space.patches[0]!
    this.packing = new Packing(tables, this.#patches.patches.length, { kind: 'ms' })
    this.#base = new Int32Array(tables.at.size)
    this.#after = new Int32Array(tables.at.size)
    const standing = { isInTheWay: (machine: number): boolean => this.#bodies.has(machine) }
    this.#step = new Step(tables, this.#after, millisecondClocks, standing)
  }

  /** The walks from the standing spot of a sure patch to those near by. */
  hops(patch: number): readonly Hop[] {
    return this.stage.space.hops(0, patch)
  }

  /** Whether a walk between neighbouring sure patches crosses just what tells them apart. */
  isPlainHop(from: number, to: number): boolean {
    const hop = this.hops(from).find((one) => one.to === to)
    if (!hop) return false
    const [a, b] = [this.#patches.patches[from]!.sign, this.#patches.patches[to]!.sign]
    const zones = differing(a.zones, b.zones)
    const bodies = differing(a.bodies, b.bodies)
    return hop.events.length === zones + bodies && zones + bodies <= 1
  }

  /** Calls `visit` for each sure move. With `patient`, waits only last until the next thing is due; else one tick. */
  each(regs: Int32Array, patch: number, patient: boolean, visit: SureVisitor): void {
    if (!this.#patches.patches[patch]!.sure) return
    this.#base.set(regs)
    const runs = this.#nextDue(this.#base) < Infinity
    this.#press(patch, visit)
    if (runs) {
      const due = patient ? this.#nextDue(this.#base) : this.#tick
      const ms = Math.max(1, Math.ceil(due / this.#tick)) * this.#tick
      if (this.#travel(patch, ms, [])) visit(this.#after, patch, this.#made(moveKind.wait, -1, ms))
    }
    for (const hop of this.hops(patch)) {
      const ms = this.lasting(hop)
      if (this.#travel(patch, ms, hop.events)) visit(this.#after, hop.to, this.#made(moveKind.walk, -1, ms))
    }
  }

  /** How long a walk lasts, in ms: whole ticks. */
  lasting(hop: Hop): number {
    return Math.ceil(hop.ms / this.#tick) * this.#tick
  }

  /** Walks from the start to the standing spot of its patch, in `regs`; false where that cannot be done for certain. */
  setOut(regs: Int32Array, patch: number, hop: Hop): boolean {
    this.#base.set(regs)
    if (!this.#travel(patch, this.lasting(hop), hop.events)) return false
    regs.set(this.#after)
    return true
  }

  #made(kind: number, what: number, ms: number): SureMove {
    return { kind, what, ms, held: this.#held, taken: this.#taken }
  }

  #press(patch: number, visit: SureVisitor): void {
    const machine = this.#answering(patch)
    if (machine < 0) return
    this.#begin(patch)
    this.#step.newMoment()
    if (this.#step.press(0, machine) !== 'accepted' || this.#step.storm) return
    this.#look()
    visit(this.#after, patch, this.#made(moveKind.press, machine, 0))
  }

  #answering(patch: number): number {
    const { states } = this.#tables
    for (const { interactable, hiders } of this.#patches.patches[patch]!.sign.candidates) {
      const state = states[interactable]![this.#base[interactable]!]!
      if (state.press.length === 0 && !state.ignoresPress) continue
      if (!hiders.some((hider) => states[hider]![this.#base[hider]!]!.blocksSight)) return interactable
    }
    return -1
  }

  /** Lets time pass while walking past `events`; false where a body is in the way, or signals do not end. */
  #travel(patch: number, total: number, events: readonly HopEvent[]): boolean {
    this.#begin(patch)
    let now = 0
    let at = 0
    for (;;) {
      const next = Math.min(now + this.#nextDue(this.#after), events[at]?.ms ?? Infinity)
      if (next > total) break
      this.#pass(next - now)
      now = next
      this.#step.newMoment()
      if (!this.#dueNow()) return false
      for (let event = events[at]; event && event.ms <= now; event = events[++at]) if (!this.#cross(event)) return false
    }
    this.#pass(total - now)
    return true
  }

  #dueNow(): boolean {
    const { at } = this.#tables
    for (let clock = 0; clock < at.clocks; clock++) {
      if (this.#after[at.clock(clock)] !== 1) continue
      this.#step.due(clock)
      if (this.#step.storm) return false
      this.#look()
      clock = -1
    }
    return true
  }

  #cross(event: HopEvent): boolean {
    if (event.kind === 'zone') this.#step.cross(0, event.index, event.inside)
    else if (event.inside) {
      if (this.#step.stateOf(event.index).blocksWalk) return false
      this.#bodies.add(event.index)
      return true
    } else {
      this.#bodies.delete(event.index)
      this.#step.cleared(event.index, 0)
    }
    if (this.#step.storm) return false
    this.#look()
    return true
  }

  #begin(patch: number): void {
    this.#after.set(this.#base)
    this.#held = 0
    this.#taken.length = 0
    this.#bodies.clear()
    for (const body of this.#patches.patches[patch]!.sign.bodies) this.#bodies.add(body)
  }

  #look(): void {
    for (const row of this.#step.taken) this.#taken.push(row)
    const { goals } = this.#tables
    for (let goal = 0; goal < goals.length && goal < 31; goal++)
      if (goals[goal]!(this.#after, 0)) this.#held |= 1 << goal
  }

  #pass(ms: number): void {
    if (ms === 0) return
    const { at } = this.#tables
    for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) if (this.#after[i]! > 0) this.#after[i]! -= ms
  }

  #nextDue(regs: Int32Array): number {
    const { at } = this.#tables
    let least = Infinity
    for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) {
      const value = regs[i]!
      if (value > 0 && value - 1 < least) least = value - 1
    }
    return least
  }
}

function differing(one: readonly number[], other: readonly number[]): number {
  return one.filter((x) => !other.includes(x)).length + other.filter((x) => !one.includes(x)).length
}
