import type { Row, StepWatcher } from '../machine/index.ts'
import type { Feedback, Moment } from '../model/index.ts'
import type { Happening, LogEntry } from './log.ts'
import type { Stage } from './stage.ts'

/** Keeps the log of a play: what a step changes, and what is perceived of it. */
export class Logbook implements StepWatcher {
  readonly entries: LogEntry[] = []
  /** The numbers of the rows that were taken. */
  readonly rows: number[] = []
  readonly #stage: Stage
  readonly #now: () => number

  constructor(stage: Stage, now: () => number) {
    this.#stage = stage
    this.#now = now
  }

  note(entry: Happening): void {
    this.entries.push({ at: this.#now(), ...entry })
  }

  /** A mark to go back to. */
  mark(): { readonly entries: number; readonly rows: number } {
    return { entries: this.entries.length, rows: this.rows.length }
  }

  /** Forgets all that came after a mark. */
  backTo(mark: { readonly entries: number; readonly rows: number }): void {
    this.entries.length = mark.entries
    this.rows.length = mark.rows
  }

  taken(row: Row, from: number, to: number, actor: number): void {
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
    if (kind === 'enter' || kind === 'leave') this.feedback(row.machine, 'accepted', placed.feedback.accepted)
    this.feedback(row.machine, 'transition', row.transition.feedback)
    if (from !== to && placed.states[to]!.motion) this.feedback(row.machine, 'started', placed.feedback.started)
  }

  waits(row: Row): void {
    this.note({ what: 'waits', interactable: this.#name(row.machine), transition: rowName(row) })
  }

  item(actor: number, item: number, before: number, after: number, row: Row, spent: boolean): void {
    const { name } = this.#stage.expanded.items[item]!
    const by = this.#name(row.machine)
    this.note({ what: 'item', character: this.#personName(actor), item: name, before, after, by, spent })
  }

  flag(flag: number, is: boolean, row: Row): void {
    this.note({ what: 'flag', flag: this.#stage.expanded.flags[flag]!.name, is, by: this.#name(row.machine) })
  }

  counter(counter: number, before: number, after: number, row: Row): void {
    const { name } = this.#stage.expanded.counters[counter]!
    this.note({ what: 'counter', counter: name, before, after, by: this.#name(row.machine) })
  }

  sent(signal: number, to: number | null, tag: number | null, row: Row): void {
    const { signals, tags } = this.#stage.expanded
    this.note({
      what: 'signal',
      signal: signals[signal]!,
      to: to === null ? null : this.#name(to),
      tag: tag === null ? null : tags[tag]!,
      by: this.#name(row.machine),
    })
  }

  heard(signal: number, by: readonly number[]): void {
    const name = this.#stage.expanded.signals[signal]!
    this.note({ what: 'heard', signal: name, by: by.map((machine) => this.#name(machine)) })
  }

  /** What is perceived of a moment of an interactable; `unmet` is what was missing. */
  feedback(
    machine: number,
    moment: Moment | 'transition',
    entries: readonly Feedback[] | undefined,
    unmet: readonly object[] = [],
  ): void {
    for (const { sound, message } of entries ?? []) {
      const channel = sound === undefined ? 'message' : 'sound'
      const text = sound ?? filledText(this.#stage, message ?? '', machine, unmet)
      if (text !== '') this.note({ what: 'feedback', interactable: this.#name(machine), moment, channel, text })
    }
  }

  #name(machine: number): string {
    return this.#stage.expanded.interactables[machine]!.name
  }

  #personName(character: number): string {
    return this.#stage.expanded.characters[character]!.name
  }
}

/** A text with `{item}` and `{count}` filled in: by what was missing, or by what the interactable asks for. */
export function filledText({ expanded }: Stage, text: string, machine: number, unmet: readonly object[]): string {
  const { interactables, items } = expanded
  const missing = unmet.find((part): part is { carries: string; count: number } => 'carries' in part)
  const asks = missing ? { item: missing.carries, count: missing.count } : interactables[machine]?.asksFor
  if (!asks) return text
  const title = items.find(({ name }) => name === asks.item)?.title ?? asks.item
  return text.replaceAll('{item}', title).replaceAll('{count}', String(asks.count))
}

/** What a transition is called: its own name, or its place in the table. */
export function rowName(row: Row): string {
  return row.transition.name ?? `transition ${String(row.place + 1)}`
}
