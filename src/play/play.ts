import { type Change, changeText, type Check } from '../interactables/index.ts'
import { clocksNow, drawnFrom, drawOne, isOffered, type PressOutcome, unmetParts } from '../machine/index.ts'
import { type Crossing, facingTo, type Point } from '../space/index.ts'
import type { LogEntry, Unmet } from './log.ts'
import { type PlaySave, PlayState } from './play-state.ts'
import { nearby, unmetNames } from './reasons.ts'
import type { Stage } from './stage.ts'
import { findTarget } from './targets.ts'
import { type About, reasonsFor, refusalFeedback } from './telling.ts'
import type { Halt } from './walker.ts'

/** How a play begins. */
export interface Opening {
  /** Whether it stands still as soon as somebody leaves for another level; else that one counts as back at once. */
  readonly stopsOnLeaving?: boolean
  readonly arrival?: Arrival | null
}

/** Somebody who comes from another level. */
export interface Arrival {
  /** By index. */
  readonly character: number
  /** The level that it comes to, by its name in the project. */
  readonly level: string
  /** Where to: an index into `Expanded.places`. */
  readonly place: number
  /** How many of each item, by index. */
  readonly carries: readonly number[]
  /** Milliseconds at which the play goes on. */
  readonly from: number
  /** What has happened before, elsewhere. */
  readonly log: readonly LogEntry[]
  /** The goals that were met here before, by index. */
  readonly met: readonly number[]
  /** The registers of the level to which somebody returns, and the machines that begin anew there; null where nobody has been there. */
  readonly remembered: { readonly regs: Int32Array; readonly begins: readonly number[] } | null
}

/**
 * A play of a level in real positions and time: whole milliseconds from 0. It is moved on by `advance` and by inputs,
 * and keeps a log of all that happened. The same inputs at the same times give the same log, whatever the steps in
 * which time is advanced.
 */
export class Play extends PlayState {
  readonly #stopsOnLeaving: boolean

  /** Begins a play: what happens by itself at the very start has happened then, or before, where one returns. */
  constructor(stage: Stage, { stopsOnLeaving = false, arrival = null }: Opening = {}) {
    super(stage, arrival?.remembered?.regs.slice())
    this.#stopsOnLeaving = stopsOnLeaving
    this.people.leavesForGood = stopsOnLeaving
    if (arrival) {
      this.now = arrival.from
      this.book.entries.push(...arrival.log)
      for (const goal of arrival.met) this.met.add(goal)
    }
    if (arrival) this.#isElsewhere(arrival)
    this.step.begin(arrival?.remembered?.begins)
    if (arrival) this.#arrive(arrival)
    this.#look()
  }

  /** Puts everything as it was when it was saved, in a play of the same level. */
  restore({ now, ended, regs, met, walkers, book }: PlaySave): void {
    this.now = now
    this.ended = ended
    this.step.regs = Int32Array.from(regs)
    this.met.clear()
    for (const goal of met) this.met.add(goal)
    for (const [character, walker] of this.people.walkers.entries()) walker.restore(walkers[character]!)
    this.book.restore(book)
  }

  /** A character that comes from another level is not here yet, with what it brings. */
  #isElsewhere({ character, carries }: Arrival): void {
    const { at } = this.stage.tables
    const { regs } = this.step
    for (const [item, count] of carries.entries()) regs[at.item(character, item)] = count
    for (const zone of at.askedZones) regs[at.inside(character, zone)] = 0
    this.people.takeOff(character)
  }

  /** A character comes from another level: it is put on a place, and whatever it stands in there notices that. */
  #arrive({ character, place, level }: Arrival): void {
    const { name } = this.stage.expanded.places[place]!
    this.#guarded(() => {
      this.book.note({ what: 'arrives', character: this.#nameOf(character), level, place: name })
      this.step.arrive(character, place)
    })
  }

  /** Whether somebody has left, who is to be followed before anything else happens. */
  get #isOver(): boolean {
    return this.#stopsOnLeaving && this.departure !== null
  }

  /** Everybody but the one who has left goes back to where they start, with what follows: nobody is in the level any more. */
  sendHome(): void {
    const { departure } = this
    if (!departure || this.ended !== null) return
    this.#guarded(() => {
      this.step.sendHome([...this.people.walkers.keys()].filter((who) => who !== departure.actor))
      this.#look()
    })
  }

  /** Lets time pass: a whole number of milliseconds. */
  advance(ms: number): void {
    if (!Number.isInteger(ms) || ms < 0) throw new RangeError(`advance takes whole milliseconds, not ${String(ms)}`)
    const until = this.now + ms
    while (this.ended === null && !this.#isOver) {
      const next = this.#nextMoment()
      if (next > until) break
      this.#passTime(next - this.now)
      this.#moment()
    }
    if (this.ended === null && !this.#isOver) this.#passTime(until - this.now)
  }

  /** Lets time pass until a character has stopped walking, for at most so many milliseconds. */
  advanceWhileWalking(character: number, most: number): void {
    const until = this.now + most
    while (this.isWalking(character) && this.now < until && this.ended === null && !this.#isOver) {
      this.advance(Math.max(0, Math.min(until, this.#nextMoment()) - this.now))
    }
  }

  /** Changes something for a character that nothing in the level changed: for tests only, and logged so. */
  testOnly(character: number, change: Change): void {
    if (this.ended !== null) return
    this.#guarded(() => {
      const text = changeText(this.stage.expanded, change)
      this.book.note({ what: 'test-only', character: this.#nameOf(character), text })
      this.step.testOnly(change, character)
      this.#look()
    })
  }

  /** Puts an interactable into a state, by index: for tests only. */
  put(character: number, interactable: number, state: number): void {
    if (this.ended !== null) return
    const { name, states } = this.stage.expanded.interactables[interactable]!
    this.#guarded(() => {
      const text = `puts ${name} into ${states[state]!.name}`
      this.book.note({ what: 'test-only', character: this.#nameOf(character), text })
      this.step.put(interactable, state)
      this.#look()
    })
  }

  /** A character dismisses the notice that is before it, if there is one. */
  dismiss(character: number): void {
    const popup = this.telling.popupOf(character)
    if (!popup || this.ended !== null) return
    this.telling.dismiss(character)
    this.book.note({ what: 'dismisses', character: this.#nameOf(character), ...popup })
  }

  /** Whether a popup keeps a character from doing something; logged. */
  #isHeldBack(character: number, from: string): boolean {
    const popup = this.telling.popupOf(character)
    if (popup) this.book.note({ what: 'held-back', character: this.#nameOf(character), from, by: popup.interactable })
    return popup !== null
  }

  /** A character walks on in a direction until told otherwise, or stops: null. */
  steer(character: number, towards: readonly [number, number] | null): void {
    if (this.ended !== null || (towards !== null && this.#isHeldBack(character, 'walking'))) return
    this.release(character)
    const walker = this.people.walkers[character]!
    walker.stop(this.now)
    this.book.note({ what: 'steers', character: this.#nameOf(character), towards })
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
    if (this.ended !== null || this.#isHeldBack(character, 'walking')) return
    this.release(character)
    const walker = this.people.walkers[character]!
    walker.stop(this.now)
    const last = via[via.length - 1]
    if (last) this.book.note({ what: 'walks', character: this.#nameOf(character), to: rounded(last) })
    this.#halted(character, walker.follow(this.now, via))
  }

  /**
   * A character finds its own way to an interactable (where it would answer a press), a room, a doorway or a spot.
   * False, and logged, where there is none.
   */
  walkTo(character: number, target: string | Point): boolean {
    if (this.ended !== null || this.#isHeldBack(character, 'walking')) return false
    const way = findTarget(this, character, target)
    if (!way) {
      const to = typeof target === 'string' ? target : `[${rounded(target).join(', ')}]`
      this.people.walkers[character]!.stop(this.now)
      this.book.note({ what: 'no-way', character: this.#nameOf(character), to })
      return false
    }
    this.walk(character, way)
    return true
  }

  /**
   * A character presses, in one of the ways of `Expanded.pressKinds`, and lets go at once: the first candidate answers, or
   * nothing does. Where chance decides a usual press, `seed` and the moment say what it draws.
   */
  press(character: number, pressKind = 0, seed = 0): void {
    this.#pressDown(character, pressKind, { seed })
    this.release(character)
  }

  /**
   * A character presses and keeps pressing, until it lets go, sets off, or presses again. While it does it stands still:
   * a walk ends where a hold begins.
   */
  hold(character: number, seed = 0): void {
    this.#pressDown(character, 0, { seed })
    const walker = this.people.walkers[character]!
    if (this.keptBy(character) >= 0 && walker.isWalking) {
      walker.stop(this.now)
      this.#halted(character, 'stopped')
    }
  }

  /** A character lets go of what it keeps pressed, if anything. */
  release(character: number): void {
    const machine = this.keptBy(character)
    if (machine < 0 || this.ended !== null) return
    this.#guarded(() => {
      this.step.release(character)
      this.#look()
    })
  }

  /** A character chooses an option from a prompt. Where no prompt near by has it, nothing answers. */
  choose(character: number, option: string): void {
    const pressKind = this.stage.expanded.pressKinds.findIndex((one) => one.option === option)
    this.#pressDown(character, pressKind, { option })
  }

  /**
   * A character sets a wheel (from 1) of the dial of an interactable to a number. False, and logged, where the dial is
   * not within reach, or cannot be set now.
   */
  dial(character: number, interactable: number, wheel: number, to: number): boolean {
    if (this.ended !== null || this.#isHeldBack(character, 'setting a wheel')) return false
    this.release(character)
    const placed = this.stage.expanded.interactables[interactable]!
    const index = placed.wheels[wheel - 1]
    const { positions } = this.stage.expanded.wheels[index ?? -1] ?? { positions: 0 }
    const isThere = this.canDial(character, interactable) && this.within(character).includes(interactable)
    const outcome = isThere && index !== undefined && to < positions ? 'accepted' : 'unanswered'
    const name = this.#nameOf(character)
    this.#guarded(() => {
      this.book.note({ what: 'dials', character: name, interactable: placed.name, wheel, to, outcome })
      if (outcome !== 'accepted' || index === undefined) return
      this.book.moments.add(`${String(interactable)} focused`)
      this.step.dial(index, to)
      this.#look()
    })
    return outcome === 'accepted'
  }

  /** A character turns to look at an interactable, by name, or at a spot. */
  face(character: number, target: string | Point): void {
    if (this.ended !== null || this.#isHeldBack(character, 'turning')) return
    const { interactables } = this.stage.expanded
    const index = interactables.findIndex(({ name }) => name === target)
    const spot = this.spotOf(character)
    const towards =
      typeof target !== 'string'
        ? ([target[0] - spot[0], target[1] - spot[1]] as const)
        : facingTo(this.stage.space, spot, index)
    this.people.walkers[character]!.facing = towards
    const text = typeof target === 'string' ? target : `[${rounded(target).join(', ')}]`
    this.book.note({ what: 'turns', character: this.#nameOf(character), towards: text })
  }

  #pressDown(
    character: number,
    pressKind: number,
    { option = null, seed = 0 }: { option?: string | null; seed?: number },
  ): void {
    if (this.ended !== null || this.#isHeldBack(character, 'pressing')) return
    this.release(character)
    const asked = this.stage.expanded.pressKinds[pressKind]
    const isUsual = asked?.press === this.stage.expanded.pressKinds[0]!.press
    const way = asked?.option ?? option ?? (isUsual ? null : (asked?.press ?? null))
    const [first] = asked ? this.candidates(character, pressKind) : []
    const isChoice = (asked?.option ?? option) !== null
    const isOffered =
      first !== undefined && (!isChoice || this.optionsOf(first, character).includes(asked?.option ?? ''))
    if (!isOffered) {
      const near = nearby(this, character)
      const entry = { what: 'press', character: this.#nameOf(character), outcome: 'unanswered' } as const
      this.book.note({ ...entry, interactable: null, way, chance: null, unmet: [], nearby: near })
      return
    }
    this.#guarded(() => {
      this.#pressOn(character, first, this.#drawn(character, first, pressKind, seed), way)
    })
  }

  /** The way to press that chance draws of a usual press, the one asked for if it can; as it is where chance has no part in it. */
  #drawn(character: number, machine: number, pressKind: number, seed: number): number {
    if (pressKind > 0 && this.stage.expanded.pressKinds[pressKind]!.chance === null) return pressKind
    const drawn = drawnFrom(this.step.stateOf(machine), this.step.regs, character)
    if (drawn.includes(pressKind)) return pressKind
    return drawn[drawOne(drawn.length, seed, [this.now, machine, character, ...this.step.regs])] ?? 0
  }

  #pressOn(character: number, machine: number, pressKind: number, way: string | null): void {
    const { expanded, tables } = this.stage
    const placed = expanded.interactables[machine]!
    const row = this.step.stateOf(machine).presses[pressKind]!.find((one) => isOffered(one, this.step.regs, character))
    const unmet = row ? unmetParts(row.transition.guard, tables, this.step.regs, character) : []
    const name = this.#nameOf(character)
    const { chance } = expanded.pressKinds[pressKind]!
    const entry = { what: 'press', character: name, interactable: placed.name, way, chance, nearby: [] } as const
    this.book.moments.add(`${String(machine)} focused`)
    const position = this.book.entries.length
    const outcome: PressOutcome = this.step.press(character, machine, pressKind)
    this.#look()
    const isAlways = row?.transition.isRefusal ?? false
    const names = outcome === 'refused' && !isAlways ? unmet.map((part) => unmetNames(this, character, part)) : []
    this.book.entries.splice(position, 0, { at: this.now, ...entry, outcome, unmet: names })
    if (outcome === 'accepted') this.book.tell(machine, 'accepted', placed.feedback.accepted, character)
    if (outcome === 'refused' && row) {
      const { moment, entries } = refusalFeedback(placed, row.transition, reasonsFor(row.transition, unmet))
      const about = this.#aboutRefusal(names, unmet)
      this.book.tell(machine, moment, entries, character, about)
    }
  }

  /** The item that a refusal is about: one that is missing, or that there is no room for. */
  #aboutRefusal(names: readonly Unmet[], unmet: readonly Check[]): About | null {
    for (const part of names) {
      if ('carries' in part) return { item: part.carries, count: part.count }
      if ('room-for' in part) return { item: part['room-for'], count: part.count }
    }
    const { contents, items } = this.stage.expanded
    const full = unmet.find((part) => part.kind === 'fits')
    const left = full?.contents.find((content) => this.step.regs[this.stage.tables.at.content(content)]! > 0)
    if (left === undefined) return null
    const count = this.step.regs[this.stage.tables.at.content(left)]!
    return { item: items[contents[left]!.item]!.name, count }
  }

  /** Runs a part of a moment; a storm of signals in it is undone, and ends the play. */
  #guarded(part: () => void): void {
    const before = this.step.regs.slice()
    const mark = this.book.mark()
    this.step.newMoment()
    part()
    if (!this.step.storm) return
    this.step.regs = before
    this.book.backTo(mark)
    this.book.note({ what: 'signal-storm' })
    this.ended = 'signal-storm'
  }

  /** What is due at this time: clocks, all together, then what characters cross, each by itself. */
  #moment(): void {
    this.#guarded(() => {
      this.#dueClocks()
    })
    const isOver = (): boolean => this.ended !== null || this.#isOver
    for (let character = 0; character < this.people.walkers.length && !isOver(); character++) {
      this.#crossings(character)
    }
  }

  #dueClocks(): void {
    const { tables } = this.stage
    const isDue = (clock: number): boolean => this.step.regs[clock] === 1
    for (let due = clocksNow(tables, this.step.regs).find(isDue); due !== undefined && !this.step.storm;) {
      this.#finish(due - tables.at.firstClock)
      due = clocksNow(tables, this.step.regs).find(isDue)
    }
  }

  #finish(clock: number): void {
    const { machine, motion } = this.stage.tables.clocks[clock]!
    const placed = this.stage.expanded.interactables[machine]!
    if (motion) this.book.tell(machine, 'finished', placed.feedback.finished, this.book.lastOf(machine))
    this.step.due(clock)
    this.#look()
  }

  #crossings(character: number): void {
    const walker = this.people.walkers[character]!
    for (let next = walker.nextCrossing(this.now); next; next = walker.nextCrossing(this.now)) {
      const crossing = next
      this.#guarded(() => {
        if (crossing.kind === 'zone') this.#crossZone(character, crossing)
        else this.#crossBody(character, crossing)
      })
      if (this.ended !== null) return
    }
    this.#halted(character, walker.endLeg(this.now))
  }

  #crossZone(character: number, { index: zone, inside }: Crossing): void {
    const { zones } = this.people.walkers[character]!
    if (zones.has(zone) === inside) return
    if (inside) zones.add(zone)
    else zones.delete(zone)
    this.book.crossed(character, zone, inside)
    this.step.cross(character, zone, inside)
    this.#look()
  }

  /** A body that blocks stops the character. */
  #crossBody(character: number, crossing: Crossing): void {
    const { index: machine, inside } = crossing
    const walker = this.people.walkers[character]!
    if (walker.bodies.has(machine) === inside) return
    if (inside && this.step.stateOf(machine).blocksWalk) {
      walker.standBefore(crossing)
      this.#halted(character, 'stopped')
    } else if (inside) walker.bodies.add(machine)
    else {
      walker.bodies.delete(machine)
      if (this.people.isInTheWay(machine)) return
      this.step.cleared(machine)
      this.#look()
    }
  }

  #halted(character: number, what: Halt | null): void {
    if (what) this.book.note({ what, character: this.#nameOf(character), spot: rounded(this.spotOf(character)) })
  }

  #nextMoment(): number {
    const due = this.nextDue()
    let next = due === null ? Infinity : this.now + due
    for (const walker of this.people.walkers) next = Math.min(next, walker.nextAt)
    return Math.max(next, this.now)
  }

  #passTime(ms: number): void {
    if (ms === 0) return
    const { regs } = this.step
    for (const clock of clocksNow(this.stage.tables, regs)) if (regs[clock]! > 0) regs[clock]! -= ms
    this.now += ms
  }

  #look(): void {
    for (const [goal, isMet] of this.stage.tables.goals.entries()) {
      if (this.met.has(goal) || !isMet(this.step.regs, 0)) continue
      this.met.add(goal)
      this.book.note({ what: 'goal', goal: this.stage.expanded.goals[goal]!.name })
    }
  }

  #nameOf(character: number): string {
    return this.stage.expanded.characters[character]!.name
  }
}

function rounded(p: Point): readonly [number, number] {
  return [Math.round(p[0] * 1000) / 1000, Math.round(p[1] * 1000) / 1000]
}
