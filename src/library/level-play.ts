import type { PressKind } from '../interactables/index.ts'
import { nearestName, type Reading } from '../model/index.ts'
import {
  Journey,
  type JourneySave,
  type LogEntry,
  Play,
  type PlaySave,
  type Project,
  type View,
} from '../play/index.ts'
import type { Point } from '../space/index.ts'
import { type AnyLevel, LevelError, type PreparedLevel, prepareLevel, readingOf, stageOf } from './prepared.ts'
import type { CharacterNow, EntryOf, Help, InteractableNow, PlayChanges, PlayEvent, SavedPlay } from './now.ts'
import { projectProblems } from './project.ts'

/** How much more than a whole millisecond sums of fractions may come to, without being it. */
const hair = 1e-6

/**
 * A play in names: what games and pages use. Times are milliseconds, fractions too; positions are metres, x east and y north. A name
 * that the level does not have throws a `RangeError` that says which is nearest.
 */
export class LevelPlay {
  #play: Play
  readonly #levels: Readonly<Record<string, PreparedLevel>>
  readonly #journey: Journey | null
  readonly #alone: PreparedLevel | null
  readonly #seed: number
  readonly #listeners = new Map<PlayEvent, Set<(entry: LogEntry) => void>>()
  /** Milliseconds that were let pass, fractions included. */
  #passed = 0
  /** How many log entries listeners have been told. */
  #told = 0
  #isTelling = false
  #before: Seen
  #of: string | null = null

  /**
   * Made by `startPlay` and `startProject`.
   * @internal
   */
  constructor(
    begun:
      | { readonly level: PreparedLevel }
      | { readonly journey: Journey; readonly levels: Readonly<Record<string, PreparedLevel>> },
    seed: number,
  ) {
    this.#seed = seed
    this.#journey = 'journey' in begun ? begun.journey : null
    this.#levels = 'journey' in begun ? begun.levels : {}
    this.#alone = 'level' in begun ? begun.level : null
    this.#play = 'journey' in begun ? begun.journey.play : new Play(stageOf(begun.level))
    this.#before = this.#seen()
  }

  /** The level that is played; of a project, the one that one is in. */
  get level(): PreparedLevel {
    return this.#alone ?? this.#levels[this.#journey!.level]!
  }

  /** What the level is called in its project; null where there is no project. */
  get levelName(): string | null {
    return this.#journey?.level ?? null
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
      if (this.#journey) this.#journey.advance(Math.max(0, whole))
      else play.advance(Math.max(0, whole))
    })
  }

  /**
   * A character presses, and lets go at once; `way`: another way to press than the usual one, such as `kick`. Where chance decides
   * a usual press, `chance` says what it draws; it draws by the seed of the play where that is left out.
   */
  press(character: string, way: string | null = null, chance: string | null = null): void {
    this.#do((play) => {
      const kind = chance !== null ? this.#chance(chance) : way !== null ? this.#way(way) : 0
      play.press(this.#character(character), kind, this.#seed)
    })
  }

  /** A character presses and keeps pressing, until `release`, or until it sets off. */
  hold(character: string): void {
    this.#do((play) => {
      play.hold(this.#character(character), this.#seed)
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

  /**
   * Helps a character on from outside, for trying things out: gives it items or takes them away, sets a flag or a counter, or puts an interactable
   * into a state. The log marks it as test-only.
   */
  help(character: string, help: Help): void {
    this.#do((play) => {
      const who = this.#character(character)
      if ('put' in help) {
        const interactable = this.#interactable(help.put)
        const states = play.stage.expanded.interactables[interactable]!.states.map(({ name }) => name)
        const state = states.indexOf(help.into)
        if (state < 0) throw new RangeError(`${help.put} has no state "${help.into}". ${helpFor(help.into, states)}`)
        play.put(who, interactable, state)
      } else if (!('set' in help)) {
        const kind = 'give' in help ? 'give' : 'remove'
        const item = this.#find('items', 'give' in help ? help.give : help.remove)
        play.testOnly(who, { kind, item, count: help.count ?? 1 })
      } else if (typeof help.to === 'number') {
        play.testOnly(who, { kind: 'count', counter: this.#find('counters', help.set), to: help.to, by: 0 })
      } else play.testOnly(who, { kind: 'set', flag: this.#find('flags', help.set), to: help.to ?? true })
    })
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

  /**
   * A character walks by the corners of a way, straight from each to the next, as the steps of findings have it; what is in the way
   * stops it.
   */
  walkAlong(character: string, corners: readonly Point[]): void {
    this.#do((play) => {
      play.walk(this.#character(character), corners)
    })
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

  /** The moment as it is: log, times and all that goes on are in it. */
  save(): SavedPlay {
    return {
      'zintel-save': 1,
      of: this.#mark(),
      passed: this.#passed,
      play: this.#journey ? this.#journey.save() : this.#play.save(),
    }
  }

  /**
   * Puts everything as it was when it was saved; listeners stay, and are told nothing of it. Throws a `RangeError`, and changes nothing,
   * where it was not saved in this level or project.
   */
  restore(saved: SavedPlay): void {
    const { of, passed, play } = saved as Partial<SavedPlay>
    if (saved['zintel-save'] !== 1 || typeof passed !== 'number' || !play)
      throw new RangeError('This is not a saved play.')
    if (of !== this.#mark())
      throw new RangeError('This play was saved in another level, or before the level was changed.')
    const before = this.save()
    try {
      this.#put(play as PlaySave | JourneySave)
    } catch {
      this.#put(before.play as PlaySave | JourneySave)
      throw new RangeError('This saved play is damaged.')
    }
    this.#passed = passed
    this.#told = this.log.length
    this.#before = { ...this.#before, entries: this.log.length }
  }

  #put(play: PlaySave | JourneySave): void {
    if (this.#journey && 'play' in play) {
      this.#journey.restore(play)
      this.#play = this.#journey.play
    } else if (!('play' in play)) this.#play.restore(play)
  }

  /** What tells the level, or all levels of the project, apart from others. */
  #mark(): string {
    const all = this.#alone ? [this.#alone] : Object.values(this.#levels)
    return (this.#of ??= hashOf(JSON.stringify(all.map((level) => readingOf(level).value))))
  }

  /** What changed since this was asked last, or since the play began. */
  changes(): PlayChanges {
    const before = this.#before
    const now = (this.#before = this.#seen())
    const isElsewhere = now.level !== before.level
    const isOther = (a: object | undefined, b: object): boolean =>
      isElsewhere || JSON.stringify(a) !== JSON.stringify(b)
    return {
      level: isElsewhere ? now.level : null,
      interactables: now.interactables.filter((one, i) => isOther(before.interactables[i], one)),
      characters: now.characters.filter((one, i) => isOther(before.characters[i], one)),
      entries: this.log.slice(before.entries),
    }
  }

  #seen(): Seen {
    return {
      level: this.levelName,
      interactables: this.#play.stage.expanded.interactables.map((_, index) => this.#interactableNow(index)),
      characters: this.#play.stage.expanded.characters.map((_, index) => this.#characterNow(index)),
      entries: this.log.length,
    }
  }

  /** Does something, and tells listeners what came of it. */
  #do<T>(what: (play: Play) => T): T {
    const result = what(this.#play)
    if (this.#journey) {
      while (this.#journey.follow());
      this.#play = this.#journey.play
    }
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
    const { name, states } = play.stage.expanded.interactables[index]!
    const state = play.stateOf(index)
    const { blocksWalk, blocksSight, blocksCamera } = states.find((one) => one.name === state)!
    return {
      name,
      state,
      look: play.lookOf(index),
      pose: play.poseOf(index),
      transform: play.transformOf(index),
      body: play.bodyOf(index),
      blocks: [
        ...(blocksWalk ? (['walk'] as const) : []),
        ...(blocksSight ? (['sight'] as const) : []),
        ...(blocksCamera ? (['camera'] as const) : []),
      ],
      handle: play.stage.space.layout.figures[index]!.handle,
    }
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

  #way(way: string): number {
    const { pressKinds } = this.#play.stage.expanded
    const found = pressKinds.findIndex((one, i) => i > 0 && isOther(one) && one.press === way)
    if (found >= 0) return found
    const all = pressKinds.flatMap((one, i) => (i > 0 && isOther(one) ? [one.press] : []))
    throw new RangeError(`There is no way to press "${way}". ${helpFor(way, all)}`)
  }

  #chance(drawn: string): number {
    const { pressKinds } = this.#play.stage.expanded
    const found = pressKinds.findIndex(({ chance }) => chance === drawn)
    if (found >= 0) return found
    const all = pressKinds.flatMap(({ chance }) => (chance === null ? [] : [chance]))
    throw new RangeError(`There is nothing for which chance draws "${drawn}". ${helpFor(drawn, all)}`)
  }

  #names(kind: NamedKind): string[] {
    return this.#play.stage.expanded[kind].map((one) => one.name)
  }

  #find(kind: NamedKind, name: string): number {
    const names = this.#names(kind)
    const index = names.indexOf(name)
    if (index >= 0) return index
    throw new RangeError(`There is no ${kind.slice(0, -1)} "${name}". ${helpFor(name, names)}`)
  }
}

/** Whether a way to press is another than the usual one, by a name of its own. */
function isOther({ option, chance }: PressKind): boolean {
  return option === null && chance === null
}

/** What everything looked like when changes were asked for. */
interface Seen {
  readonly level: string | null
  readonly interactables: readonly InteractableNow[]
  readonly characters: readonly CharacterNow[]
  readonly entries: number
}

function helpFor(name: string, names: readonly string[]): string {
  const nearest = nearestName(name, names)
  if (nearest !== null) return `Did you mean "${nearest}"?`
  return names.length === 0 ? 'There are none.' : `There are: ${names.join(', ')}.`
}

/** A short number for a long text (FNV-1a, 32 bits, with its length). */
function hashOf(text: string): string {
  let hash = 0x811c9dc5
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  return `${(hash >>> 0).toString(16)}-${String(text.length)}`
}

type NamedKind = 'interactables' | 'characters' | 'flags' | 'counters' | 'items'

/**
 * Begins a play of a level. What happens by itself at the very start has happened then. Throws a `LevelError` with every reason where the
 * level cannot be used, or where a name in it leads nowhere. `seed`, a whole number: what chance draws by; the same seed and the same
 * inputs are the same play. `allowsUnknownNames`: a level in which names lead nowhere is played as it is, as a check does; what asks for one of
 * them never holds.
 */
export function startPlay(level: AnyLevel, seed = 0, allowsUnknownNames = false): LevelPlay {
  return new LevelPlay({ level: allowsUnknownNames ? prepareLevel(level) : playable(level) }, seed)
}

/**
 * Begins a play of a project: characters are followed through exits, and each level is kept as the project says. `levels`: its levels
 * by their names in it; `start`: one of its starts, the usual one where it is left out; `seed`: as for `startPlay`. Throws a `LevelError` as `startPlay` does,
 * and where a level is missing; a `RangeError` for a start that it does not have.
 */
export function startProject(
  project: Reading<Project>,
  levels: Readonly<Record<string, AnyLevel>>,
  start: string | null = null,
  seed = 0,
): LevelPlay {
  if (!project.value) throw new LevelError(project.diagnostics)
  const prepared = Object.fromEntries(Object.entries(levels).map(([name, level]) => [name, playable(level)]))
  const problems = projectProblems(project, prepared)
  if (problems.length > 0) throw new LevelError(problems)
  const stages = Object.fromEntries(Object.entries(prepared).map(([name, level]) => [name, stageOf(level)]))
  return new LevelPlay({ journey: new Journey(project.value, stages, start), levels: prepared }, seed)
}

function playable(level: AnyLevel): PreparedLevel {
  const prepared = prepareLevel(level)
  if (prepared.diagnostics.length > 0) throw new LevelError(prepared.diagnostics)
  return prepared
}
