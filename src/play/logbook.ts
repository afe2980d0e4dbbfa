import type { Check } from '../interactables/index.ts'
import type { ItemChange, CompiledTransition, StepWatcher, WayOut } from '../machine/index.ts'
import type { Point } from '../space/index.ts'
import type { Feedback, Moment } from '../model/index.ts'
import type { Happening, LogEntry } from './log.ts'
import type { Stage } from './stage.ts'
import { type About, reasonsFor, refusalFeedback, Telling, type TellingSave } from './telling.ts'

/** Who sets out for another level, and what that one leaves behind: items by index; null: all. */
export interface Departure {
  readonly actor: number
  readonly level: string
  readonly place: string
  readonly drops: readonly number[] | null
}

/** What there was at a moment. */
interface Mark {
  readonly entries: number
  readonly rows: number
  readonly memory: Telling['memory']
  readonly departure: Departure | null
}

/** A log and what is perceived, as plain values. */
export interface LogbookSave {
  readonly entries: readonly LogEntry[]
  readonly rows: readonly number[]
  readonly moments: readonly string[]
  readonly last: readonly number[]
  readonly departure: Departure | null
  readonly telling: TellingSave
}

/** Keeps the log of a play: what a step changes, and what is perceived of it. */
export class Logbook implements StepWatcher {
  readonly entries: LogEntry[] = []
  /** The numbers of the rows that were taken. */
  readonly rows: number[] = []
  readonly #stage: Stage
  readonly #now: () => number
  /** What is perceived. */
  readonly telling: Telling
  /** Who has set out for another level, and has not been followed there. */
  departure: Departure | null = null
  /**
   * What has happened, whether or not anything tells so: an interactable by its index, a space, and a moment; or `lost`
   * and an item that there was no room for.
   */
  readonly moments = new Set<string>()
  /** Who set each interactable off last, by index; -1: nobody has. */
  readonly #last: number[]

  constructor(stage: Stage, now: () => number, spotOf: (character: number) => Point) {
    this.#stage = stage
    this.#now = now
    this.#last = stage.expanded.interactables.map(() => -1)
    this.telling = new Telling(stage, now, spotOf, (entry) => {
      this.note(entry)
    })
  }

  /** Who set an interactable off last; -1: nobody has. */
  lastOf(machine: number): number {
    return this.#last[machine]!
  }

  note(entry: Happening): void {
    this.entries.push({ at: this.#now(), ...entry })
  }

  save(): LogbookSave {
    return {
      entries: [...this.entries],
      rows: [...this.rows],
      moments: [...this.moments],
      last: [...this.#last],
      departure: this.departure,
      telling: this.telling.save(),
    }
  }

  restore({ entries, rows, moments, last, departure, telling }: LogbookSave): void {
    this.entries.splice(0, Infinity, ...entries)
    this.rows.splice(0, Infinity, ...rows)
    this.moments.clear()
    for (const moment of moments) this.moments.add(moment)
    this.#last.splice(0, Infinity, ...last)
    this.departure = departure
    this.telling.restore(telling)
  }

  /** A mark to go back to. */
  mark(): Mark {
    return {
      entries: this.entries.length,
      rows: this.rows.length,
      memory: this.telling.memory,
      departure: this.departure,
    }
  }

  /** Forgets all that came after a mark. */
  backTo(mark: Mark): void {
    this.telling.memory = mark.memory
    this.departure = mark.departure
    this.entries.length = mark.entries
    this.rows.length = mark.rows
  }

  /** Something happened to an interactable: that is kept in mind, and told. */
  tell(
    machine: number,
    moment: Moment | 'transition',
    entries: readonly Feedback[] | undefined,
    actor: number,
    about: About | null = null,
  ): void {
    this.moments.add(`${String(machine)} ${moment}`)
    this.telling.tell(machine, moment, entries, actor, about)
  }

  taken(row: CompiledTransition, from: number, to: number, actor: number): void {
    this.rows.push(row.index)
    const placed = this.#stage.expanded.interactables[row.machine]!
    this.note({
      what: 'transition',
      interactable: placed.name,
      transition: rowName(row),
      from: placed.states[from]!.name,
      to: placed.states[to]!.name,
      by: this.#personName(actor),
    })
    const { kind } = row.transition.when
    this.#last[row.machine] = actor
    if (kind === 'enter' || kind === 'leave') {
      this.tell(row.machine, 'accepted', placed.feedback.accepted, actor)
    }
    this.tell(row.machine, 'transition', row.transition.feedback, actor)
    if (from !== to && placed.states[to]!.motion) {
      this.tell(row.machine, 'started', placed.feedback.started, actor)
    }
  }

  letsGo(actor: number, machine: number): void {
    this.note({ what: 'releases', character: this.#personName(actor), interactable: this.#name(machine) })
  }

  waits(row: CompiledTransition): void {
    const reopens = this.#stage.expanded.interactables[row.machine]!.inTheWay === 'reopen'
    this.note({ what: 'waits', interactable: this.#name(row.machine), transition: rowName(row), reopens })
  }

  notTaken({ machine, place, transition }: CompiledTransition, actor: number, unmet: readonly Check[]): void {
    const { items, interactables } = this.#stage.expanded
    const placed = interactables[machine]!
    const { kind } = transition.when
    const isSaid = kind === 'hold' || transition.refused !== null
    this.moments.add(`${String(machine)} held-back ${String(place)}`)
    const room = unmet.find((part) => part.kind === 'room')
    // Where the transition does not say what is told: coming into a zone asks for nothing; only that there is no room for what lies there is told.
    if (!isSaid && !(room && (kind === 'enter' || kind === 'leave'))) return
    if (!isSaid && !placed.feedback['too-full']) {
      this.moments.add(`${String(machine)} too-full`)
      return
    }
    const { moment, entries } = refusalFeedback(placed, transition, reasonsFor(transition, unmet))
    const part = unmet.find(({ kind }) => kind === 'carries') ?? room
    const about = part && 'item' in part ? { item: items[part.item]!.name, count: Math.max(1, countOf(part)) } : null
    this.tell(machine, moment, entries, actor, about)
  }

  item({ actor, item, before, after, wanted, consumed }: ItemChange, row: CompiledTransition | null): void {
    const { name } = this.#stage.expanded.items[item]!
    const by = this.#source(row)
    this.note({ what: 'item', character: this.#personName(actor), item: name, before, after, by, consumed })
    if (!row) return
    const { feedback } = this.#stage.expanded.interactables[row.machine]!
    const about = (count: number): About => ({ item: name, count: Math.abs(count) })
    const tell = (moment: Moment, count: number): void => {
      this.tell(row.machine, moment, feedback[moment], actor, about(count))
    }
    if (after > before) tell('gained', after - before)
    if (after < before) tell('consumed', before - after)
    if (wanted > after) tell('too-full', wanted - after)
    const isLost = wanted > after && row.transition.changes.some(({ kind }) => kind === 'give')
    if (isLost) this.moments.add(`${String(row.machine)} lost ${name}`)
  }

  flag(flag: number, is: boolean, row: CompiledTransition | null): void {
    this.note({ what: 'flag', flag: this.#stage.expanded.flags[flag]!.name, is, by: this.#source(row) })
  }

  counter(counter: number, before: number, after: number, row: CompiledTransition | null): void {
    const { name } = this.#stage.expanded.counters[counter]!
    this.note({ what: 'counter', counter: name, before, after, by: this.#source(row) })
  }

  content(content: number, left: number, row: CompiledTransition | null): void {
    const { contents, items } = this.#stage.expanded
    const { name } = items[contents[content]!.item]!
    this.note({ what: 'contents', interactable: this.#source(row), item: name, left })
  }

  moved(actor: number, place: number, isDone: boolean, row: CompiledTransition | null): void {
    const { name, height } = this.#stage.expanded.places[place]!
    const by = this.#source(row)
    this.note({ what: 'moved', character: this.#personName(actor), place: name, height, by, done: isDone })
  }

  leaves(actor: number, { level, place, drops }: WayOut, row: CompiledTransition | null): void {
    this.departure ??= { actor, level, place, drops }
    this.note({ what: 'leaves', character: this.#personName(actor), level, place, by: this.#source(row) })
  }

  pushed(actor: number, machine: number): void {
    this.note({ what: 'pushed', character: this.#personName(actor), by: this.#name(machine) })
  }

  crossed(actor: number, zone: number, inside: boolean): void {
    const { interactable, name } = this.#stage.expanded.zones[zone]!
    const owner = interactable < 0 ? null : this.#name(interactable)
    this.note({ what: 'zone', character: this.#personName(actor), interactable: owner, zone: name, inside })
  }

  sent(signal: number, to: number | null, tag: number | null, row: CompiledTransition | null): void {
    const { signals, tags } = this.#stage.expanded
    this.note({
      what: 'signal',
      signal: signals[signal]!,
      to: to === null ? null : this.#name(to),
      tag: tag === null ? null : tags[tag]!,
      by: this.#source(row),
    })
  }

  heard(signal: number, by: readonly number[]): void {
    const name = this.#stage.expanded.signals[signal]!
    this.note({ what: 'heard', signal: name, by: by.map((machine) => this.#name(machine)) })
  }

  /** What did something: an interactable, or a test-only step. */
  #source(row: CompiledTransition | null): string {
    return row ? this.#name(row.machine) : 'a test-only step'
  }

  #name(machine: number): string {
    return this.#stage.expanded.interactables[machine]!.name
  }

  #personName(character: number): string {
    return this.#stage.expanded.characters[character]!.name
  }
}

function countOf(part: Check): number {
  return 'count' in part ? part.count : 1
}

/** What a transition is called: its own name, or its place in the table. */
export function rowName(row: CompiledTransition): string {
  return row.transition.name ?? `transition ${String(row.place + 1)}`
}
