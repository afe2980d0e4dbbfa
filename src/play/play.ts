import { millisecondClocks, type PressOutcome, Step, unmetParts } from '../machine/index.ts'
import { type Crossing, facingTo, isAimedAt, type Point, signAt } from '../space/index.ts'
import type { LogEntry } from './log.ts'
import { Logbook } from './logbook.ts'
import { poseOf, type Transform, transformOf } from './poses.ts'
import { nearby, unmetNames } from './reasons.ts'
import { type Ongoing, type Stage, startRegisters } from './stage.ts'
import { findTarget } from './targets.ts'
import { type View, viewOf } from './view.ts'
import { type Halt, Walker } from './walker.ts'

/**
 * A play of a level in real positions and time: whole milliseconds from 0. It is moved on by `advance` and by inputs,
 * and keeps a log of all that happened. The same inputs at the same times give the same log, whatever the steps in
 * which time is advanced.
 */
export class Play implements Ongoing {
  readonly stage: Stage
  /** Milliseconds since the play began. */
  now = 0
  /** Why the play can go on no longer; null while it can. */
  ended: 'signal-storm' | null = null
  readonly #log: Logbook
  readonly #step: Step
  readonly #walkers: Walker[]
  readonly #met = new Set<number>()

  constructor(stage: Stage) {
    this.stage = stage
    const { tables, expanded } = stage
    const standing = { isInTheWay: (machine: number): boolean => this.#walkers.some((w) => w.bodies.has(machine)) }
    this.#walkers = expanded.characters.map((_, character) => new Walker(stage, character))
    this.#log = new Logbook(stage, () => this.now)
    this.#step = new Step(tables, startRegisters(stage), millisecondClocks, standing, this.#log)
    this.#step.begin()
    this.#look()
  }

  /** Everything that has happened, in order. */
  get log(): readonly LogEntry[] {
    return this.#log.entries
  }

  /** The numbers of all rows that were taken, in order. */
  get taken(): readonly number[] {
    return this.#log.rows
  }

  /** The registers at this moment: a copy. Clocks hold what remains, in ms, plus 1; 0: off. */
  registers(): Int32Array {
    return this.#step.regs.slice()
  }

  /** Where a character is. */
  spotOf(character: number): Point {
    return this.#walkers[character]!.spotAt(this.now)
  }

  isWalking(character: number): boolean {
    return this.#walkers[character]!.isWalking
  }

  /** The state that an interactable is in, by name. */
  stateOf(interactable: number): string {
    return this.stage.expanded.interactables[interactable]!.states[this.#step.regs[interactable]!]!.name
  }

  /** How far open an interactable is: 0 shut, 1 open; between them while it moves. */
  poseOf(interactable: number): number {
    return poseOf(this.stage.tables, this.#step.regs, interactable)
  }

  /** How the body of an interactable is moved from where it stands when it is shut. */
  transformOf(interactable: number): Transform {
    return transformOf(this.stage.tables, this.#step.regs, interactable)
  }

  isSet(flag: number): boolean {
    return this.#step.regs[this.stage.tables.at.flag(flag)] === 1
  }

  carried(character: number, item: number): number {
    return this.#step.regs[this.stage.tables.at.item(character, item)]!
  }

  countOf(counter: number): number {
    return this.#step.regs[this.stage.tables.at.counter(counter)]!
  }

  /** Where the wheels of the dial of an interactable stand; empty where it has none. */
  wheelsOf(interactable: number): number[] {
    const { wheels } = this.stage.expanded.interactables[interactable]!
    return wheels.map((wheel) => this.#step.regs[this.stage.tables.at.wheel(wheel)]!)
  }

  /** The interactable that a character keeps pressed, by index; -1: none. */
  keptBy(character: number): number {
    return this.#step.regs[this.stage.tables.at.held(character)]! - 1
  }

  /** Which way a character looks, seen from above; of any length. */
  facingOf(character: number): Point {
    return this.#walkers[character]!.facing
  }

  /** The names of goals whose conditions have held, in the order in which they did. */
  goalsMet(): string[] {
    return [...this.#met].map((goal) => this.stage.expanded.goals[goal]!.name)
  }

  /**
   * The interactables that could answer a press of a character, by index, first choice first; `ask` says how it is
   * pressed, as an index into `Expanded.asks`.
   */
  candidates(character: number, ask = 0): number[] {
    return this.within(character).filter((interactable) => {
      if (!this.#step.stateOf(interactable).answers[ask]) return false
      return isAimedAt(this.stage.space, interactable, this.spotOf(character), this.facingOf(character))
    })
  }

  /** The interactables in range, in reach and in sight of a character, first choice first. */
  within(character: number): number[] {
    const { expanded, space } = this.stage
    const sign = signAt(expanded, space.layout, expanded.characters[character]!, this.spotOf(character))
    return sign.candidates
      .filter(({ hiders }) => !hiders.some((hider) => this.#step.stateOf(hider).blocksSight))
      .map(({ interactable }) => interactable)
  }

  /** What a character perceives and could do. */
  view(character: number): View {
    return viewOf(this, character)
  }

  /** The options that an interactable offers in its present state. */
  optionsOf(interactable: number): string[] {
    const { presses } = this.#step.stateOf(interactable)
    const { asks } = this.stage.expanded
    return asks.flatMap(({ option }, ask) => (option !== null && presses[ask]!.length > 0 ? [option] : []))
  }

  /** Whether an interactable ignores a press in its present state, on purpose. */
  isIgnoring(interactable: number): boolean {
    return this.#step.stateOf(interactable).ignoresPress
  }

  /** How long, in ms, until the next thing is due by itself: a motion, a timer; null where nothing runs. */
  nextDue(): number | null {
    const { at } = this.stage.tables
    let least = Infinity
    for (let clock = 0; clock < at.clocks; clock++) {
      const value = this.#step.regs[at.clock(clock)]!
      if (value > 0) least = Math.min(least, value - 1)
    }
    return least === Infinity ? null : least
  }

  /** Lets time pass: a whole number of milliseconds. */
  advance(ms: number): void {
    if (!Number.isInteger(ms) || ms < 0) throw new RangeError(`advance takes whole milliseconds, not ${String(ms)}`)
    const until = this.now + ms
    while (this.ended === null) {
      const next = this.#nextMoment()
      if (next > until) break
      this.#passTime(next - this.now)
      this.#moment()
    }
    if (this.ended === null) this.#passTime(until - this.now)
  }

  /** Lets time pass until a character has stopped walking, for at most so many milliseconds. */
  advanceWhileWalking(character: number, most: number): void {
    const until = this.now + most
    while (this.isWalking(character) && this.now < until && this.ended === null) {
      this.advance(Math.max(0, Math.min(until, this.#nextMoment()) - this.now))
    }
  }

  /** A character walks on in a direction until told otherwise, or stops: null. */
  steer(character: number, towards: readonly [number, number] | null): void {
    if (this.ended !== null) return
    this.release(character)
    const walker = this.#walkers[character]!
    walker.stop(this.now)
    this.#log.note({ what: 'steers', character: this.#nameOf(character), towards })
    const [x, y] = towards ?? [0, 0]
    const length = Math.sqrt(x * x + y * y)
    if (length === 0) return
    const far = 10_000
    const at = walker.spotAt(this.now)
    this.#halted(character, walker.follow(this.now, [[at[0] + (x / length) * far, at[1] + (y / length) * far]]))
  }

  /**
   * A character walks to a spot by the corners in `via`, straight from each to the next; what is in the way stops it.
   * The last corner is the spot.
   */
  walk(character: number, via: readonly Point[]): void {
    if (this.ended !== null) return
    this.release(character)
    const walker = this.#walkers[character]!
    walker.stop(this.now)
    const last = via[via.length - 1]
    if (last) this.#log.note({ what: 'walks', character: this.#nameOf(character), to: rounded(last) })
    this.#halted(character, walker.follow(this.now, via))
  }

  /**
   * A character finds its own way to an interactable (where it would answer a press), a room, a doorway or a spot.
   * False, and logged, where there is none.
   */
  walkTo(character: number, target: string | Point): boolean {
    if (this.ended !== null) return false
    const way = findTarget(this, character, target)
    if (!way) {
      const to = typeof target === 'string' ? target : `[${rounded(target).join(', ')}]`
      this.#walkers[character]!.stop(this.now)
      this.#log.note({ what: 'no-way', character: this.#nameOf(character), to })
      return false
    }
    this.walk(character, way)
    return true
  }

  /**
   * A character presses, in one of the ways of `Expanded.asks`, and lets go at once: the first candidate answers, or
   * nothing does.
   */
  press(character: number, ask = 0): void {
    this.#pressDown(character, ask)
    this.release(character)
  }

  /** A character presses and keeps pressing, until it lets go, walks, or presses again. */
  hold(character: number): void {
    this.#pressDown(character, 0)
  }

  /** A character lets go of what it keeps pressed, if anything. */
  release(character: number): void {
    const machine = this.keptBy(character)
    if (machine < 0 || this.ended !== null) return
    const interactable = this.stage.expanded.interactables[machine]!.name
    this.#guarded(() => {
      this.#log.note({ what: 'releases', character: this.#nameOf(character), interactable })
      this.#step.release(character)
      this.#look()
    })
  }

  /** A character chooses an option from a prompt. Where no prompt near by has it, nothing answers. */
  choose(character: number, option: string): void {
    const ask = this.stage.expanded.asks.findIndex((one) => one.option === option)
    this.#pressDown(character, ask, option)
  }

  /**
   * A character sets a wheel (from 1) of the dial of an interactable to a number. False, and logged, where the dial is
   * not within reach, or cannot be set now.
   */
  dial(character: number, interactable: number, wheel: number, to: number): boolean {
    if (this.ended !== null) return false
    this.release(character)
    const placed = this.stage.expanded.interactables[interactable]!
    const index = placed.wheels[wheel - 1]
    const { positions } = this.stage.expanded.wheels[index ?? -1] ?? { positions: 0 }
    const isThere = this.within(character).includes(interactable) && this.#step.stateOf(interactable).dials
    const outcome = isThere && index !== undefined && to < positions ? 'accepted' : 'unanswered'
    const name = this.#nameOf(character)
    this.#guarded(() => {
      this.#log.note({ what: 'dials', character: name, interactable: placed.name, wheel, to, outcome })
      if (outcome !== 'accepted' || index === undefined) return
      this.#step.dial(index, to)
      this.#look()
    })
    return outcome === 'accepted'
  }

  /** A character turns to look at an interactable, by name, or at a spot. */
  face(character: number, target: string | Point): void {
    if (this.ended !== null) return
    const { interactables } = this.stage.expanded
    const index = interactables.findIndex(({ name }) => name === target)
    const spot = this.spotOf(character)
    const towards =
      typeof target !== 'string'
        ? ([target[0] - spot[0], target[1] - spot[1]] as const)
        : facingTo(this.stage.space, spot, index)
    this.#walkers[character]!.facing = towards
    const text = typeof target === 'string' ? target : `[${rounded(target).join(', ')}]`
    this.#log.note({ what: 'turns', character: this.#nameOf(character), towards: text })
  }

  /** The interactables whose bodies block walking now. */
  blocking(): number[] {
    const { figures } = this.stage.space.layout
    return figures.flatMap((figure, i) => (figure.comesAndGoes && this.#step.stateOf(i).blocksWalk ? [i] : []))
  }

  /** Whether an interactable would answer, or ignore, a press of some kind, or could be dialled, in its present state. */
  isAnswering(interactable: number): boolean {
    const state = this.#step.stateOf(interactable)
    return state.dials || state.presses.some((rows, ask) => rows.length > 0 || (ask === 0 && state.answers[0]!))
  }

  /** Whether a press of some kind on an interactable would be accepted now. */
  wouldAccept(character: number, interactable: number, ask: number): boolean {
    const { presses, holds, releases } = this.#step.stateOf(interactable)
    const rows = presses[ask]!
    if (rows.length === 0) return ask === 0 && holds.length + releases.length > 0
    return rows.some(({ guard }) => guard(this.#step.regs, character))
  }

  /** Whether the body of an interactable blocks sight in its present state. */
  isHiding(interactable: number): boolean {
    return this.#step.stateOf(interactable).blocksSight
  }

  #pressDown(character: number, ask: number, option: string | null = null): void {
    if (this.ended !== null) return
    this.release(character)
    const asked = this.stage.expanded.asks[ask]
    const way = asked?.option ?? option ?? (ask === 0 ? null : (asked?.press ?? null))
    const [first] = asked ? this.candidates(character, ask) : []
    const isChoice = (asked?.option ?? option) !== null
    const isOffered = first !== undefined && (!isChoice || this.#step.stateOf(first).presses[ask]!.length > 0)
    if (!isOffered) {
      const near = nearby(this, character)
      const entry = { what: 'press', character: this.#nameOf(character), outcome: 'unanswered' } as const
      this.#log.note({ ...entry, interactable: null, way, unmet: [], nearby: near })
      return
    }
    this.#guarded(() => {
      this.#pressOn(character, first, ask, way)
    })
  }

  #pressOn(character: number, machine: number, ask: number, way: string | null): void {
    const { expanded, tables } = this.stage
    const placed = expanded.interactables[machine]!
    const [row] = this.#step.stateOf(machine).presses[ask]!
    const unmet = row ? unmetParts(row.transition.guard, tables, this.#step.regs, character) : []
    const name = this.#nameOf(character)
    const entry = { what: 'press', character: name, interactable: placed.name, way, nearby: [] } as const
    const position = this.#log.entries.length
    const outcome: PressOutcome = this.#step.press(character, machine, ask)
    this.#look()
    const isAlways = row?.transition.isRefusal ?? false
    const names = outcome === 'refused' && !isAlways ? unmet.map((part) => unmetNames(this, character, part)) : []
    this.#log.entries.splice(position, 0, { at: this.now, ...entry, outcome, unmet: names })
    if (outcome === 'accepted') this.#log.feedback(machine, 'accepted', placed.feedback.accepted)
    if (outcome === 'refused') {
      this.#log.feedback(machine, 'refused', row?.transition.refused ?? placed.feedback.refused, names)
    }
  }

  /** Runs a part of a moment; a storm of signals in it is undone, and ends the play. */
  #guarded(part: () => void): void {
    const before = this.#step.regs.slice()
    const mark = this.#log.mark()
    this.#step.newMoment()
    part()
    if (!this.#step.storm) return
    this.#step.regs = before
    this.#log.backTo(mark)
    this.#log.note({ what: 'signal-storm' })
    this.ended = 'signal-storm'
  }

  #moment(): void {
    this.#guarded(() => {
      this.#dueClocks()
      for (let character = 0; character < this.#walkers.length; character++) this.#crossings(character)
    })
  }

  #dueClocks(): void {
    const { at } = this.stage.tables
    for (let clock = 0; clock < at.clocks && !this.#step.storm; clock++) {
      if (this.#step.regs[at.clock(clock)] !== 1) continue
      this.#finish(clock)
      clock = -1
    }
  }

  #finish(clock: number): void {
    const { machine, motion } = this.stage.tables.clocks[clock]!
    const placed = this.stage.expanded.interactables[machine]!
    if (motion) this.#log.feedback(machine, 'finished', placed.feedback.finished)
    this.#step.due(clock)
    this.#look()
  }

  #crossings(character: number): void {
    const walker = this.#walkers[character]!
    for (let next = walker.nextCrossing(this.now); next; next = walker.nextCrossing(this.now)) {
      if (next.kind === 'zone') this.#crossZone(character, next)
      else this.#crossBody(character, next)
    }
    this.#halted(character, walker.endLeg(this.now))
  }

  #crossZone(character: number, { index: zone, inside }: Crossing): void {
    const { zones } = this.#walkers[character]!
    if (zones.has(zone) === inside) return
    if (inside) zones.add(zone)
    else zones.delete(zone)
    const { interactable, name } = this.stage.expanded.zones[zone]!
    const owner = this.stage.expanded.interactables[interactable]!.name
    this.#log.note({ what: 'zone', character: this.#nameOf(character), interactable: owner, zone: name, inside })
    this.#step.cross(character, zone, inside)
    this.#look()
  }

  /** A body that blocks stops the character. */
  #crossBody(character: number, { index: machine, inside }: Crossing): void {
    const walker = this.#walkers[character]!
    if (walker.bodies.has(machine) === inside) return
    if (inside && this.#step.stateOf(machine).blocksWalk) {
      walker.stepBack(this.now)
      this.#halted(character, 'stopped')
    } else if (inside) walker.bodies.add(machine)
    else {
      walker.bodies.delete(machine)
      if (this.#walkers.some((other) => other.bodies.has(machine))) return
      this.#step.cleared(machine, character)
      this.#look()
    }
  }

  #halted(character: number, what: Halt | null): void {
    if (what) this.#log.note({ what, character: this.#nameOf(character), spot: rounded(this.spotOf(character)) })
  }

  #nextMoment(): number {
    const due = this.nextDue()
    let next = due === null ? Infinity : this.now + due
    for (const walker of this.#walkers) next = Math.min(next, walker.nextAt)
    return Math.max(next, this.now)
  }

  #passTime(ms: number): void {
    if (ms === 0) return
    const { at } = this.stage.tables
    const { regs } = this.#step
    for (let clock = 0; clock < at.clocks; clock++) {
      const index = at.clock(clock)
      if (regs[index]! > 0) regs[index] = regs[index]! - ms
    }
    this.now += ms
  }

  #look(): void {
    for (const [goal, isMet] of this.stage.tables.goals.entries()) {
      if (this.#met.has(goal) || !isMet(this.#step.regs, 0)) continue
      this.#met.add(goal)
      this.#log.note({ what: 'goal', goal: this.stage.expanded.goals[goal]!.name })
    }
  }

  #nameOf(character: number): string {
    return this.stage.expanded.characters[character]!.name
  }
}

function rounded(p: Point): readonly [number, number] {
  return [Math.round(p[0] * 1000) / 1000, Math.round(p[1] * 1000) / 1000]
}
