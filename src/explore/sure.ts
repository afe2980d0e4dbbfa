import { millisecondClocks, Step, type Tables } from '../machine/index.ts'
import { milliseconds } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { facingTo, type Hop, type HopEvent, isAimedAt, type Patches, type Point, type Sign } from '../space/index.ts'
import { eachDial, eachPress, Inputs } from './inputs.ts'
import { moveKind } from './moves.ts'
import { Packing } from './packing.ts'

/** A sure move: its kind, what is done (for a press, see `Inputs`; else -1), how long it lasts, and what came of it. */
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
  readonly inputs: Inputs
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
    this.inputs = new Inputs(tables)
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
    const keepsPressed = this.#base[this.#tables.at.held(0)] !== 0
    if (keepsPressed) this.#release(patch, visit)
    else this.#acts(patch, visit)
    if (runs) {
      const due = patient ? this.#nextDue(this.#base) : this.#tick
      const ms = Math.max(1, Math.ceil(due / this.#tick)) * this.#tick
      if (this.#travel(patch, ms, [])) visit(this.#after, patch, this.#made(moveKind.wait, -1, ms))
    }
    if (keepsPressed) return
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

  #acts(patch: number, visit: SureVisitor): void {
    const { sign, spot } = this.#patches.patches[patch]!
    eachPress(this.#tables, sign, this.#base, (machine, ask, looking) => {
      if (looking && !this.#isFirst(sign, spot, machine, ask)) return
      if (!this.#act(patch, (step) => step.press(0, machine, ask) === 'accepted')) return
      const kept = this.#after[this.#tables.at.held(0)] !== 0
      visit(this.#after, patch, this.#made(moveKind.press, this.inputs.press(machine, ask, looking, kept), 0))
      if (!kept) return
      const pressAndRelease = (step: Step): boolean => {
        if (step.press(0, machine, ask) !== 'accepted' || step.storm) return false
        this.#look()
        step.release(0)
        return true
      }
      if (!this.#act(patch, pressAndRelease)) return
      visit(this.#after, patch, this.#made(moveKind.press, this.inputs.press(machine, ask, looking, false), 0))
    })
    eachDial(this.#tables, sign, this.#base, (machine) => {
      for (const wheel of this.#tables.expanded.interactables[machine]!.wheels) this.#dial(patch, wheel, visit)
    })
  }

  #dial(patch: number, wheel: number, visit: SureVisitor): void {
    for (const to of this.#tables.wheelValues[wheel]!) {
      if (this.#base[this.#tables.at.wheel(wheel)] === to) continue
      const isDone = this.#act(patch, (step) => {
        step.dial(wheel, to)
        return true
      })
      if (isDone) visit(this.#after, patch, this.#made(moveKind.press, this.inputs.dial(wheel, to), 0))
    }
  }

  #release(patch: number, visit: SureVisitor): void {
    const isDone = this.#act(patch, (step) => {
      step.release(0)
      return true
    })
    if (isDone) visit(this.#after, patch, this.#made(moveKind.press, this.inputs.release, 0))
  }

  /** Does something at once; false where it was not accepted, or signals do not end. */
  #act(patch: number, what: (step: Step) => boolean): boolean {
    this.#begin(patch)
    this.#step.newMoment()
    if (!what(this.#step) || this.#step.storm) return false
    this.#look()
    return true
  }

  /** Whether an interactable is the first to answer when one stands on a spot and looks at it. */
  #isFirst({ candidates }: Sign, spot: Point, machine: number, ask: number): boolean {
    const { states } = this.#tables
    const towards = facingTo(this.stage.space, spot, machine)
    for (const { interactable, hiders } of candidates) {
      if (!states[interactable]![this.#base[interactable]!]!.answers[ask]) continue
      if (hiders.some((hider) => states[hider]![this.#base[hider]!]!.blocksSight)) continue
      if (interactable === machine) return true
      if (isAimedAt(this.stage.space, interactable, spot, towards)) return false
    }
    return false
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
