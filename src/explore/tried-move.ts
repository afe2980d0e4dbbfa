import { millisecondClocks, Step, type Tables } from '../machine/index.ts'
import { milliseconds } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import type { Hop, HopEvent, Patches } from '../space/index.ts'
import { SpotPositions } from './spot-positions.ts'
import type { Scratch } from './successors.ts'

/** How many times something may fall due before a move is no longer said to come to rest. */
const mostWaits = 64

/** How often a single move may move somebody to another place before it counts as sure no more. */
const mostPlaces = 3

/**
 * A sure move that is being tried: where it has led to so far, in registers and positions, and how time passes in it.
 * Clocks count milliseconds; while anything runs every move lasts whole ticks.
 */
export class TriedMove {
  /** What the move has led to so far. */
  readonly regs: Int32Array
  readonly standing: SpotPositions
  readonly step: Step
  /** In ms. */
  readonly tick: number
  /** The rows that were taken so far. */
  readonly taken: number[] = []
  /** The goals that held so far, a bit each. */
  held = 0
  /** Whether all goals are looked at, or just one of them; -1: none, which is so in registers that are noted. */
  lookedAt: 'all' | number
  readonly #tables: Tables
  /** By character. */
  readonly #grounds: readonly Patches[]
  readonly #scratch: Scratch | null
  /** How many times somebody was moved. */
  #settled = 0

  /** `actors`: the characters that make moves. With `scratch`, the move is made in registers that note what they read. */
  constructor(stage: Stage, actors: readonly number[], scratch: Scratch | null) {
    const { tables } = stage
    this.#tables = tables
    this.#grounds = stage.space.patches
    this.tick = milliseconds(stage.expanded.level.tick ?? 0.1)
    this.#scratch = scratch
    this.lookedAt = scratch === null ? 'all' : -1
    this.regs = scratch?.after ?? new Int32Array(tables.at.size)
    this.standing = new SpotPositions(stage, this.regs, actors)
    this.step = new Step(tables, this.regs, millisecondClocks, this.standing)
  }

  /** Another move is tried, from the situation in `base`, with the first character on a patch. */
  begin(base: Int32Array, patch: number): void {
    if (this.#scratch) this.#scratch.begin(base)
    else this.regs.set(base)
    this.held = 0
    this.#settled = 0
    this.taken.length = 0
    this.standing.begin(patch)
  }

  /**
   * Lets time pass while a character walks past `events`, to the patch `to`. How long it all lasted, in ms; -1 where a
   * body is in the way, or signals do not end.
   */
  travel(walker: number, total: number, events: readonly HopEvent[], to: number | null = null): number {
    let now = 0
    let at = 0
    this.standing.walker = walker
    for (;;) {
      const isMoved = this.standing.isMoved(walker)
      const next = Math.min(now + this.nextDue(), isMoved ? Infinity : (events[at]?.ms ?? Infinity))
      if (next > total) break
      this.#pass(next - now)
      now = next
      if (!this.#dueNow()) return -1
      for (let event = events[at]; event && event.ms <= now; event = events[++at]) {
        if (this.standing.isMoved(walker)) break
        if (!this.#cross(walker, event)) return -1
      }
    }
    this.#pass(total - now)
    this.standing.walker = -1
    if (to !== null && !this.standing.isMoved(walker)) this.standing.put(walker, to)
    return this.settle(total)
  }

  /**
   * A character that was moved to a place walks to the standing spot there; how long all has lasted then, or -1. On the way
   * somebody may be moved again: only so often.
   */
  settle(lasted: number): number {
    let all = lasted
    while (this.standing.moved.length > 0) {
      const { actor, spot } = this.standing.moved.pop()!
      if (++this.#settled > mostPlaces) return -1
      // On ground that is not certain nobody has a standing spot.
      if (!this.#grounds[actor]!.patches[this.standing.patchOf(actor)]!.firm) continue
      const hop = this.standing.settling(actor, spot)
      if (!hop) return -1
      const more = this.travel(actor, this.lasting(hop), hop.events)
      if (more < 0) return -1
      all += more
    }
    return all
  }

  /** What is due at this time counts as one moment; each crossing as one of its own. */
  #dueNow(): boolean {
    const { at } = this.#tables
    this.step.newMoment()
    for (let clock = 0; clock < at.clocks; clock++) {
      if (this.regs[at.clock(clock)] !== 1) continue
      this.step.due(clock)
      if (this.step.storm) return false
      this.look()
      clock = -1
    }
    return true
  }

  #cross(actor: number, event: HopEvent): boolean {
    const bodies = this.standing.bodies[actor]!
    this.step.newMoment()
    if (event.kind === 'zone') {
      if (event.inside) this.standing.zones[actor]!.add(event.index)
      else this.standing.zones[actor]!.delete(event.index)
      this.step.cross(actor, event.index, event.inside)
    } else if (event.inside) {
      if (this.step.stateOf(event.index).blocksWalk) return false
      bodies.add(event.index)
      return true
    } else {
      bodies.delete(event.index)
      if (this.standing.isInTheWay(event.index)) return true
      this.step.cleared(event.index)
    }
    if (this.step.storm) return false
    this.look()
    return true
  }

  /** Notes what the step has just done: the rows that were taken, and the goals that hold. */
  look(): void {
    for (const row of this.step.taken) this.taken.push(row)
    const { goals } = this.#tables
    for (let goal = 0; goal < goals.length && goal < 31; goal++) {
      if ((this.lookedAt === 'all' || this.lookedAt === goal) && goals[goal]!(this.regs, 0)) this.held |= 1 << goal
    }
  }

  #pass(ms: number): void {
    if (ms === 0) return
    const { at } = this.#tables
    for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) if (this.regs[i]! > 0) this.regs[i]! -= ms
  }

  /** In how many ms something falls due in `regs`; infinity where nothing runs. */
  nextDue(regs = this.regs): number {
    const { at } = this.#tables
    let least = Infinity
    for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) {
      const value = regs[i]!
      if (value > 0 && value - 1 < least) least = value - 1
    }
    return least
  }

  /** Waits, for whole ticks, until something falls due; false where nothing is, or something is not certain. */
  waitsForNext(): boolean {
    const due = this.nextDue()
    return due < Infinity && this.travel(-1, Math.max(1, Math.ceil(due / this.tick)) * this.tick, []) >= 0
  }

  /** Waits until nothing runs any more; false where that takes too long, or something is not certain. */
  comesToRest(): boolean {
    for (let waits = 0; waits < mostWaits; waits++) {
      if (this.nextDue() === Infinity) return !this.standing.isUnsure
      if (!this.waitsForNext()) return false
    }
    return false
  }

  /** How long a walk lasts, in ms: whole ticks. */
  lasting(hop: Hop): number {
    return Math.ceil(hop.ms / this.tick) * this.tick
  }
}
