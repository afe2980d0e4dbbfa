import { type Expanded, expandLevel, loadLevel } from '../interactables/index.ts'
import { type Diagnostic, diagnosticText, type Level, nearestName, type Reading } from '../model/index.ts'
import type { Point } from '../space/index.ts'
import type { LogEntry } from './log.ts'
import { Play } from './play.ts'
import type { Transform } from './poses.ts'
import { makeStage } from './stage.ts'
import type { View } from './view.ts'

/** A level that cannot be played: `diagnostics` has every reason with its place. */
export class LevelError extends Error {
  readonly diagnostics: readonly Diagnostic[]

  constructor(diagnostics: readonly Diagnostic[]) {
    super(diagnostics.map(diagnosticText).join('\n'))
    this.name = 'LevelError'
    this.diagnostics = diagnostics
  }
}

/** How an interactable stands at a moment. */
export interface InteractableNow {
  readonly name: string
  readonly state: string
  /** How its state looks, in words; null where the state does not say. */
  readonly look: string | null
  /** How far open it is: 0 shut, 1 open. */
  readonly pose: number
  /** How its body is moved from where it stands when it is shut. */
  readonly transform: Transform
}

/** Where a character is at a moment. */
export interface CharacterNow {
  readonly name: string
  /** Metres east and north. */
  readonly position: Point
  /** Which way it looks, seen from above; of any length. */
  readonly facing: Point
  readonly walking: boolean
}

/** What changed between two moments, for an engine to draw. */
export interface PlayChanges {
  /** The interactables whose state or pose is not what it was. */
  readonly interactables: readonly InteractableNow[]
  /** The characters that have moved, turned, set out or stopped. */
  readonly characters: readonly CharacterNow[]
  /** What was added to the log. */
  readonly entries: readonly LogEntry[]
}

/** What can be listened to: one kind of log entry, or `any`. */
export type PlayEvent = LogEntry['what'] | 'any'

type EntryOf<E extends PlayEvent> = E extends 'any' ? LogEntry : Extract<LogEntry, { readonly what: E }>

/** How much more than a whole millisecond sums of fractions may come to, without being it. */
const hair = 1e-6

/**
 * A play in names: what games and pages use. Times are milliseconds, fractions too; positions are metres, x east and y north. A name
 * that the level does not have throws a `RangeError` that says which is nearest.
 */
export class LevelPlay {
  readonly #play: Play
  readonly #listeners = new Map<PlayEvent, Set<(entry: LogEntry) => void>>()
  /** Milliseconds that were let pass, fractions included. */
  #passed = 0
  /** How many log entries listeners have been told. */
  #told = 0
  #isTelling = false
  #before: { interactables: string[]; characters: string[]; entries: number }

  constructor(play: Play) {
    this.#play = play
    this.#before = { interactables: [], characters: [], entries: 0 }
    this.changes()
  }

  /** Whole milliseconds since the play began. */
  get time(): number {
    return this.#play.now
  }

  /** Why the play can go on no longer; null while it can. */
  get ended(): 'signal-storm' | null {
    return this.#play.ended
  }

  /** Everything that has happened, in order. */
  get log(): readonly LogEntry[] {
    return this.#play.log
  }

  /** The names of all interactables, in file order. */
  get interactables(): string[] {
    return this.#names('interactables')
  }

  /** The names of all characters, in file order. */
  get characters(): string[] {
    return this.#names('characters')
  }

  /** Lets time pass. The log is the same however the time is cut; a negative number throws a `RangeError`. */
  advance(ms: number): void {
    if (!(ms >= 0)) throw new RangeError(`advance takes milliseconds from 0 on, not ${String(ms)}`)
    this.#passed += ms
    const whole = Math.floor(this.#passed + hair) - this.#play.now
    this.#do((play) => {
      play.advance(Math.max(0, whole))
    })
  }

  /** A character presses, and lets go at once. */
  press(character: string): void {
    this.#do((play) => {
      play.press(this.#character(character))
    })
  }

  /** A character presses and keeps pressing, until `release`, or until it sets off. */
  hold(character: string): void {
    this.#do((play) => {
      play.hold(this.#character(character))
    })
  }

  /** A character lets go of what it keeps pressed, if anything. */
  release(character: string): void {
    this.#do((play) => {
      play.release(this.#character(character))
    })
  }

  /** A character chooses an option from the prompt that it sees. */
  choose(character: string, option: string): void {
    this.#do((play) => {
      play.choose(this.#character(character), option)
    })
  }

  /** A character sets a wheel (from 1) of a dial. False, and logged, where it cannot. */
  dial(character: string, interactable: string, wheel: number, to: number): boolean {
    return this.#do((play) => play.dial(this.#character(character), this.#interactable(interactable), wheel, to))
  }

  /** A character dismisses the popup before it, if there is one. */
  dismiss(character: string): void {
    this.#do((play) => {
      play.dismiss(this.#character(character))
    })
  }

  /** A character walks on in a direction until told otherwise, or stops: null. Length does not matter. */
  steer(character: string, towards: Point | null): void {
    this.#do((play) => {
      play.steer(this.#character(character), towards)
    })
  }

  /**
   * A character finds its way to an interactable (where it would answer a press), a room, a doorway, a zone such as `mill-door/near`, or
   * a spot. False, and logged, where there is none.
   */
  walkTo(character: string, target: string | Point): boolean {
    return this.#do((play) => play.walkTo(this.#character(character), target))
  }

  /** A character turns to look at an interactable, or at a spot. */
  face(character: string, target: string | Point): void {
    if (typeof target === 'string') this.#interactable(target)
    this.#do((play) => {
      play.face(this.#character(character), target)
    })
  }

  /** The state of an interactable. */
  state(interactable: string): string {
    return this.#play.stateOf(this.#interactable(interactable))
  }

  /** How an interactable stands. */
  interactable(name: string): InteractableNow {
    return this.#interactableNow(this.#interactable(name))
  }

  /** Where a character is. */
  character(name: string): CharacterNow {
    return this.#characterNow(this.#character(name))
  }

  /** What a character perceives and could do: prompts, the popup, options, icons, what it carries. */
  view(character: string): View {
    return this.#play.view(this.#character(character))
  }

  /** How many of each item a character carries; what it does not carry is left out. */
  carried(character: string): Readonly<Record<string, number>> {
    return this.view(character).carries
  }

  /** Whether a flag is set. */
  flag(name: string): boolean {
    return this.#play.isSet(this.#find('flags', name))
  }

  /** What a counter stands at. */
  counter(name: string): number {
    return this.#play.countOf(this.#find('counters', name))
  }

  /** The goals whose conditions have been met, in the order in which they were. */
  goalsMet(): string[] {
    return this.#play.goalsMet()
  }

  /**
   * Calls a listener for each log entry of a kind, or for `any`, as soon as the input or the time that made it is done. Gives a
   * function that ends that.
   */
  on<E extends PlayEvent>(event: E, listener: (entry: EntryOf<E>) => void): () => void {
    const own = this.#listeners.get(event) ?? new Set()
    this.#listeners.set(event, own)
    // A listener of a kind is only told entries of that kind.
    const told = listener as (entry: LogEntry) => void
    own.add(told)
    return () => {
      own.delete(told)
    }
  }

  /** What changed since this was asked last, or since the play began. */
  changes(): PlayChanges {
    const { interactables, characters } = this.#play.stage.expanded
    const things = interactables.map((_, index) => this.#interactableNow(index))
    const people = characters.map((_, index) => this.#characterNow(index))
    const before = this.#before
    const now = {
      interactables: things.map((one) => JSON.stringify(one)),
      characters: people.map((one) => JSON.stringify(one)),
      entries: this.log.length,
    }
    this.#before = now
    return {
      interactables: things.filter((_, i) => now.interactables[i] !== before.interactables[i]),
      characters: people.filter((_, i) => now.characters[i] !== before.characters[i]),
      entries: this.log.slice(before.entries),
    }
  }

  /** Does something, and tells listeners what came of it. */
  #do<T>(what: (play: Play) => T): T {
    const result = what(this.#play)
    // What a listener does in turn is told after what it was told of.
    if (this.#isTelling) return result
    this.#isTelling = true
    while (this.#told < this.log.length) {
      const entry = this.log[this.#told++]!
      for (const event of [entry.what, 'any'] as const) {
        for (const listener of [...(this.#listeners.get(event) ?? [])]) listener(entry)
      }
    }
    this.#isTelling = false
    return result
  }

  #interactableNow(index: number): InteractableNow {
    const play = this.#play
    const { name } = play.stage.expanded.interactables[index]!
    const [state, look] = [play.stateOf(index), play.lookOf(index)]
    return { name, state, look, pose: play.poseOf(index), transform: play.transformOf(index) }
  }

  #characterNow(index: number): CharacterNow {
    const play = this.#play
    const { name } = play.stage.expanded.characters[index]!
    const [position, facing] = [play.spotOf(index), play.facingOf(index)]
    return { name, position, facing, walking: play.isWalking(index) }
  }

  #interactable(name: string): number {
    return this.#find('interactables', name)
  }

  #character(name: string): number {
    return this.#find('characters', name)
  }

  #names(kind: NamedKind): string[] {
    return this.#play.stage.expanded[kind].map((one) => one.name)
  }

  #find(kind: NamedKind, name: string): number {
    const names = this.#names(kind)
    const index = names.indexOf(name)
    if (index >= 0) return index
    const nearest = nearestName(name, names)
    const help = nearest === null ? `There are: ${names.join(', ')}.` : `Did you mean "${nearest}"?`
    throw new RangeError(`There is no ${kind.slice(0, -1)} "${name}". ${help}`)
  }
}

type NamedKind = 'interactables' | 'characters' | 'flags' | 'counters'

/**
 * Begins a play of a level: a value made with `defineLevel`, or what `readLevel` of `zintel/yaml` has read. What happens by
 * itself at the very start has happened then. Throws a `LevelError` with every reason where the level cannot be used, or where a name
 * in it leads nowhere.
 */
export function startPlay(level: Level | Reading<Level>): LevelPlay {
  const reading = 'diagnostics' in level ? level : loadLevel(level)
  if (!reading.value) throw new LevelError(reading.diagnostics)
  const expanded = expandLevel(reading.value, reading.source)
  const lost = lostNames(expanded)
  if (lost.length > 0) throw new LevelError(lost)
  return new LevelPlay(new Play(makeStage(expanded)))
}

function lostNames({ problems, source }: Expanded): Diagnostic[] {
  return problems.flatMap((problem): Diagnostic[] => {
    if (problem.rule !== 'unknown-name') return []
    const message = `There is no ${problem.kind} "${problem.name}".`
    const place = source.place(problem.path)
    return [{ code: 'wrong-shape', place, message, found: null, expected: null, nearest: problem.nearest }]
  })
}
