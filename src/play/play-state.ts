import { clocksNow, drawnFrom, isOffered, millisecondClocks, Step } from '../machine/index.ts'
import { isAimedAt, type Point, signatureAt } from '../space/index.ts'
import type { LogEntry } from './log.ts'
import { type Departure, Logbook, type LogbookSave } from './logbook.ts'
import { People } from './people.ts'
import { bodyNow, poseOf, type Transform, transformOf } from './poses.ts'
import type { Ongoing } from './ongoing.ts'
import { type Stage, startRegisters } from './stage.ts'
import type { Telling } from './telling.ts'
import { type View, viewOf } from './view.ts'
import type { WalkerSave } from './walker.ts'

/** A moment of a play as plain values, good for the same level alone. */
export interface PlaySave {
  readonly now: number
  readonly ended: 'signal-storm' | null
  readonly regs: readonly number[]
  readonly met: readonly number[]
  readonly walkers: readonly WalkerSave[]
  readonly book: LogbookSave
}

/** A moment of a play, and all that can be asked of it: nothing here changes anything. */
export abstract class PlayState implements Ongoing {
  readonly stage: Stage
  /** Milliseconds since the play began. */
  now = 0
  /** Why the play can go on no longer; null while it can. */
  ended: 'signal-storm' | null = null
  protected readonly book: Logbook
  protected readonly step: Step
  protected readonly people: People
  /** The goals whose conditions have held, by index. */
  protected readonly met = new Set<number>()

  protected constructor(stage: Stage, regs: Int32Array = startRegisters(stage)) {
    this.stage = stage
    this.people = new People(
      stage,
      () => this.now,
      () => this.blocking(),
    )
    this.book = new Logbook(
      stage,
      () => this.now,
      (character) => this.spotOf(character),
    )
    this.step = new Step(stage.tables, regs, millisecondClocks, this.people, this.book)
  }

  /** What is perceived. */
  get telling(): Telling {
    return this.book.telling
  }

  /** Who has set out for another level; null: nobody. A play by itself goes on as if that one had come back at once. */
  get departure(): Departure | null {
    return this.book.departure
  }

  /** Everything that has happened, in order. */
  get log(): readonly LogEntry[] {
    return this.book.entries
  }

  /** What has happened, whether or not anything tells so: an interactable by its index, a space, and a moment. */
  get moments(): ReadonlySet<string> {
    return this.book.moments
  }

  /** The numbers of all rows that were taken, in order. */
  get taken(): readonly number[] {
    return this.book.rows
  }

  /** The registers at this moment: an instance. Clocks hold what remains, in ms, plus 1; 0: off. */
  registers(): Int32Array {
    return this.step.regs.slice()
  }

  /** Everything that is so at this moment. */
  save(): PlaySave {
    return {
      now: this.now,
      ended: this.ended,
      regs: [...this.step.regs],
      met: [...this.met],
      walkers: this.people.walkers.map((walker) => walker.save()),
      book: this.book.save(),
    }
  }

  /** Where a character is. */
  spotOf(character: number): Point {
    return this.people.walkers[character]!.spotAt(this.now)
  }

  isWalking(character: number): boolean {
    return this.people.walkers[character]!.isWalking
  }

  /** The state that an interactable is in, by name. */
  stateOf(interactable: number): string {
    return this.stage.expanded.interactables[interactable]!.states[this.step.regs[interactable]!]!.name
  }

  /** How an interactable looks, in words; null where its state does not say. */
  lookOf(interactable: number): string | null {
    return this.stage.expanded.interactables[interactable]!.states[this.step.regs[interactable]!]!.look
  }

  /** The zones that a character is in, by their numbers. */
  zonesOf(character: number): number[] {
    return [...this.people.walkers[character]!.zones].sort((a, b) => a - b)
  }

  /** How far open an interactable is: 0 shut, 1 open; between them while it moves. */
  poseOf(interactable: number): number {
    return poseOf(this.stage.tables, this.step.regs, interactable)
  }

  /** How the body of an interactable is moved from where it stands when it is shut. */
  transformOf(interactable: number): Transform {
    return transformOf(this.stage.tables, this.step.regs, interactable)
  }

  /** The corners of the body of an interactable in the level's frame, as it stands now; null: it has none, or is gone. */
  bodyOf(interactable: number): readonly Point[] | null {
    return bodyNow(this.stage.space.layout.figures[interactable]!, this.transformOf(interactable))
  }

  isSet(flag: number): boolean {
    return this.step.regs[this.stage.tables.at.flag(flag)] === 1
  }

  carried(character: number, item: number): number {
    return this.step.regs[this.stage.tables.at.item(character, item)]!
  }

  countOf(counter: number): number {
    return this.step.regs[this.stage.tables.at.counter(counter)]!
  }

  /** Where the wheels of the dial of an interactable stand; empty where it has none. */
  wheelsOf(interactable: number): number[] {
    const { wheels } = this.stage.expanded.interactables[interactable]!
    return wheels.map((wheel) => this.step.regs[this.stage.tables.at.wheel(wheel)]!)
  }

  /** Whether a character could set the wheels of the dial of an interactable now, were it within reach. */
  canDial(character: number, interactable: number): boolean {
    return this.stage.expanded.characters[character]!.role === 'player' && this.step.stateOf(interactable).dials
  }

  /** The interactable that a character keeps pressed, by index; -1: none. */
  keptBy(character: number): number {
    return this.step.regs[this.stage.tables.at.held(character)]! - 1
  }

  /** Which way a character looks, seen from above; of any length. */
  facingOf(character: number): Point {
    return this.people.walkers[character]!.facing
  }

  /** The names of goals whose conditions have held, in the order in which they did. */
  goalsMet(): string[] {
    return [...this.met].map((goal) => this.stage.expanded.goals[goal]!.name)
  }

  /** The goals whose conditions have held, by index, in the order in which they did. */
  goalsMetByIndex(): number[] {
    return [...this.met]
  }

  /**
   * The interactables that could answer a press of a character, by index, first choice first; `ask` says how it is
   * pressed, as an index into `Expanded.pressKinds`.
   */
  candidates(character: number, pressKind = 0): number[] {
    return this.within(character).filter((interactable) => {
      if (!this.step.stateOf(interactable).answers[character]![pressKind]) return false
      return isAimedAt(this.stage.space, character, interactable, this.spotOf(character), this.facingOf(character))
    })
  }

  /** The interactables in range, in reach and in sight of a character, first choice first. */
  within(character: number): number[] {
    const { expanded, space } = this.stage
    const signature = signatureAt(expanded, space.layout, expanded.characters[character]!, this.spotOf(character))
    return signature.candidates
      .filter(({ interactable, hiders, lingers }) => {
        if (lingers && !this.people.walkers[character]!.isHeldBy(interactable, this.now)) return false
        return !hiders.some((hider) => this.step.stateOf(hider).blocksSight)
      })
      .map(({ interactable }) => interactable)
  }

  /** What a character perceives and could do. */
  view(character: number): View {
    return viewOf(this, character)
  }

  /** The options that an interactable offers a character in its present state. */
  optionsOf(interactable: number, character: number): string[] {
    const { presses } = this.step.stateOf(interactable)
    const { pressKinds } = this.stage.expanded
    return pressKinds.flatMap(({ option }, pressKind) =>
      option !== null && presses[pressKind]!.some((row) => isOffered(row, this.step.regs, character)) ? [option] : [],
    )
  }

  /** How much of an item is left in an interactable. */
  leftIn(interactable: number, item: number): number {
    const { contents } = this.stage.expanded.interactables[interactable]!
    const content = contents.find((index) => this.stage.expanded.contents[index]!.item === item)
    return content === undefined ? 0 : this.step.regs[this.stage.tables.at.content(content)]!
  }

  /** Whether an interactable ignores a press in its present state, on purpose. */
  isIgnoring(interactable: number): boolean {
    return this.step.stateOf(interactable).ignoresPress
  }

  /** How long, in ms, until the next thing is due by itself: a motion, a timer; null where nothing runs. */
  nextDue(): number | null {
    let least = Infinity
    for (const clock of clocksNow(this.stage.tables, this.step.regs)) {
      const value = this.step.regs[clock]!
      if (value > 0) least = Math.min(least, value - 1)
    }
    return least === Infinity ? null : least
  }

  /** The interactables whose bodies block walking now. */
  blocking(): number[] {
    const { figures } = this.stage.space.layout
    return figures.flatMap((figure, i) => (figure.comesAndGoes && this.step.stateOf(i).blocksWalk ? [i] : []))
  }

  /**
   * Whether an interactable would answer, or ignore, a press of some kind by a character, or could be dial, in its
   * present state.
   */
  isAnswering(interactable: number, character: number): boolean {
    const { dials, answers } = this.step.stateOf(interactable)
    return dials || answers[character]!.includes(true)
  }

  /** Whether a press of some kind on an interactable would be accepted now. */
  wouldAccept(character: number, interactable: number, pressKind: number): boolean {
    const { presses, holds, releases } = this.step.stateOf(interactable)
    const drawn = pressKind === 0 ? drawnFrom(this.step.stateOf(interactable), this.step.regs, character) : []
    const rows = presses[drawn[0] ?? pressKind]!.filter((row) => isOffered(row, this.step.regs, character))
    if (rows.length === 0) return pressKind === 0 && holds.length + releases.length > 0
    return rows.some(({ guard }) => guard(this.step.regs, character))
  }

  /** Whether the body of an interactable blocks sight in its present state. */
  isHiding(interactable: number): boolean {
    return this.step.stateOf(interactable).blocksSight
  }
}
