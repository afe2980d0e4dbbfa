import { clocksNow, millisecondClocks, Step, type Tables } from '../machine/index.ts'
import { milliseconds } from '../model/index.ts'
import { levelOfPatch, type Stage } from '../play/index.ts'
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
  /** Whether a level may be left while something runs there: what is known of that afterwards is that it does. */
  isLoose = true
  /** Whether the move has come to another level, and ended there at once: what runs there may be due at any moment from then on. */
  hasArrived = false
  /** Where levels are joined, the level of each patch of the first character; else null. */
  readonly #levels: readonly number[] | null
  /** The level that the move has led to so far, by its index. */
  #level = 0
  /** Whether something runs that went on when a level was come to: then nobody knows when it is due. */
  #isThawing = false
  /** Whether something that ran stood still since a level was left: also one that was come back to at the same moment. */
  #hasStoodStill = false
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
    const { patches } = this.#grounds[0]!
    this.#levels = stage.expanded.joined ? patches.map((_, patch) => levelOfPatch(stage, patch)) : null
    const pause = (): number => {
      if (!this.isLoose) this.standing.isUnsure = true
      this.#hasStoodStill = true
      return 1
    }
    this.step = new Step(tables, this.regs, { ...millisecondClocks, pause }, this.standing)
  }

  /** Another move is tried, from the situation in `base`, with the first character on a patch. */
  begin(base: Int32Array, patch: number): void {
    if (this.#scratch) this.#scratch.begin(base)
    else this.regs.set(base)
    this.held = 0
    this.#settled = 0
    this.#isThawing = false
    this.#hasStoodStill = false
    this.hasArrived = false
    this.taken.length = 0
    this.standing.begin(patch)
    this.#level = this.#levelNow()
  }

  /** The level in which the first character stands by now, by its index. */
  #levelNow(): number {
    return this.#levels === null ? 0 : this.#levels[this.standing.patchOf(0)]!
  }

  /** Whether the move has come to another level, or back to the same one. */
  #hasGoneOn(): boolean {
    return this.#levelNow() !== this.#level || this.#hasStoodStill
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
      if (!this.#hasGoneOn()) continue
      if (!this.#goesOnThere()) return -1
      if (this.hasArrived) break
    }
    this.standing.walker = -1
    if (this.hasArrived) return this.settle(total)
    this.#pass(total - now)
    if (to !== null && !this.standing.isMoved(walker)) this.standing.put(walker, to)
    return this.settle(total)
  }

  /**
   * A character that was moved to a place walks to the standing spot there; how long all has lasted then, or -1. On the way
   * somebody may be moved again: only so often.
   */
  settle(lasted: number): number {
    let all = lasted
    if (this.#hasGoneOn() && !this.#goesOnThere()) return -1
    while (this.standing.moved.length > 0) {
      const { actor, spot } = this.standing.moved.pop()!
      if (++this.#settled > mostPlaces) return -1
      // On ground that is not certain nobody has a standing spot.
      if (!this.#grounds[actor]!.patches[this.standing.patchOf(actor)]!.firm) continue
      const hop = this.standing.settling(actor, spot)
      if (!hop) return -1
      // What runs there may be due at any moment of a walk past something.
      if ((this.#isThawing || this.hasArrived) && hop.events.length > 0) return -1
      if (this.hasArrived) continue
      const more = this.travel(actor, this.lasting(hop), hop.events)
      if (more < 0) return -1
      all += more
    }
    if (!this.#isThawing) return all
    this.#isThawing = false
    const waited = this.untilRest()
    return waited < 0 ? -1 : all + waited
  }

  /**
   * What ran in a level when it was left goes on when somebody comes back; when it is due, nobody knows. Where it is one clock, and nothing else
   * runs there, nor is anything crossed until then, what comes of it is the same whenever that is: it is taken to be due as late as it may,
   * and all is waited for. Else the move is not certain. In registers that note what they read, the move ends on arrival, and what runs
   * there is not asked for: see `hasArrived`.
   */
  #goesOnThere(): boolean {
    // Once more into another level, nobody knows what was due in between.
    if (this.hasArrived || this.#isThawing) return false
    this.#level = this.#levelNow()
    this.#hasStoodStill = false
    if (this.#scratch) {
      this.hasArrived = true
      return true
    }
    const running = this.#tables.clocksIn[this.#level]!.filter((clock) => this.regs[clock] !== 0)
    const [only] = running
    if (only === undefined) return true
    const over = this.#longestOf(only)
    if (running.length > 1 || over === null) return false
    this.regs[only] = over + 1
    this.#isThawing = true
    return true
  }

  /** How long a clock runs in the state that its machine is in, in ms; null where it does not. */
  #longestOf(register: number): number | null {
    const clock = register - this.#tables.at.firstClock
    const { motion, timers } = this.step.stateOf(this.#tables.clocks[clock]!.machine)
    if (motion?.clock === clock) return motion.over
    return timers.find((timer) => timer.clock === clock)?.after ?? null
  }

  /** What is due at this time counts as one moment; each crossing as one of its own. */
  #dueNow(): boolean {
    const { firstClock } = this.#tables.at
    const next = (): number | undefined => clocksNow(this.#tables, this.regs).find((clock) => this.regs[clock] === 1)
    this.step.newMoment()
    for (let due = next(); due !== undefined; due = next()) {
      this.step.due(due - firstClock)
      if (this.step.storm) return false
      this.look()
      if (this.#hasGoneOn()) return true
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
    for (const clock of clocksNow(this.#tables, this.regs)) if (this.regs[clock]! > 0) this.regs[clock]! -= ms
  }

  /** In how many ms something falls due in `regs`; infinity where nothing runs. */
  nextDue(regs = this.regs): number {
    let least = Infinity
    for (const clock of clocksNow(this.#tables, regs)) {
      const value = regs[clock]!
      if (value > 0 && value - 1 < least) least = value - 1
    }
    return least
  }

  /** Waits, for whole ticks, until something falls due; how long, in ms, or -1 where nothing is, or something is not certain. */
  untilNext(): number {
    const due = this.nextDue()
    return due < Infinity ? this.travel(-1, Math.max(1, Math.ceil(due / this.tick)) * this.tick, []) : -1
  }

  /** Waits until nothing runs any more; how long, in ms, or -1 where that takes too long, or something is not certain. */
  untilRest(): number {
    let all = 0
    for (let waits = 0; waits < mostWaits; waits++) {
      if (this.nextDue() === Infinity) return this.standing.isUnsure ? -1 : all
      const waited = this.untilNext()
      if (waited < 0) return -1
      all += waited
    }
    return -1
  }

  /** How long a walk lasts, in ms: whole ticks. */
  lasting(hop: Hop): number {
    return Math.ceil(hop.ms / this.tick) * this.tick
  }
}
