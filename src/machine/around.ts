import type { Change, Check } from '../interactables/index.ts'
import type { CompiledTransition } from './tables.ts'

/** Who stands where: asked before a body comes to block, and told when somebody is moved. */
export interface Standing {
  /** Whether any character is in the way of a machine's body. */
  isInTheWay(machine: number): boolean
  /** Moves a character to one of `Expanded.places`, at once; null, and not moved, where nobody can stand there. */
  move(actor: number, place: number): Moved | null
  /** A character goes to another level: what it leaves behind here; null where it counts as back at once. */
  leave(actor: number): Moved | null
  /** A character goes back to where it starts, since nobody is in its level any more: what it leaves, and comes into. */
  goHome(actor: number): Moved
  /**
   * Pushes everybody out of the way of a machine's body, at once; null, and nobody is pushed, where there is no spot for
   * one of them.
   */
  push(machine: number): readonly Pushed[] | null
}

/** Who was pushed, and what that one has left and come into. */
export type Pushed = Moved & { readonly actor: number }

/** What a character that was moved has left and come into. */
export interface Moved {
  /** Zones, by their numbers. */
  readonly left: readonly number[]
  readonly entered: readonly number[]
  /** The bodies whose way is clear now. */
  readonly cleared: readonly number[]
}

/** An item was given, or lost. */
export interface ItemChange {
  readonly actor: number
  readonly item: number
  readonly before: number
  readonly after: number
  /** How many it would be if there were room for them. */
  readonly wanted: number
  readonly consumed: boolean
}

/** A way out of a level, to a place in another one. */
export type WayOut = Omit<Extract<Change, { kind: 'exit-to' }>, 'kind'>

/**
 * Told of everything that a step changes, as it changes. For a character and the machine that gave or took; the row is
 * null where nothing in the level did it, but the tester.
 */
export interface StepWatcher {
  taken(row: CompiledTransition, from: number, to: number, actor: number): void
  waits(row: CompiledTransition): void
  /** Somebody crossed the border of a zone, has kept something pressed for long enough or let go of it, or a signal came, but this did not hold. */
  notTaken(row: CompiledTransition, actor: number, unmet: readonly Check[]): void
  item(change: ItemChange, row: CompiledTransition | null): void
  flag(flag: number, to: boolean, row: CompiledTransition | null): void
  counter(counter: number, before: number, after: number, row: CompiledTransition | null): void
  /** So much of an item is left in the machine. */
  content(content: number, left: number, row: CompiledTransition | null): void
  /** A character was moved to a place, or could not be, since nobody can stand there. */
  moved(actor: number, place: number, isDone: boolean, row: CompiledTransition | null): void
  /** A character sets out for another level. For Explore it comes back at once. */
  leaves(actor: number, to: WayOut, row: CompiledTransition | null): void
  /** A character was pushed out of the way of a machine's body. */
  pushed(actor: number, machine: number): void
  /** A character lets go of a machine that it kept pressed. */
  letsGo(actor: number, machine: number): void
  /** A character that was moved has come into a zone by that, or out of it. */
  crossed(actor: number, zone: number, inside: boolean): void
  /** To one machine, to all that bear a tag, or (where both are null) to all. */
  sent(signal: number, to: number | null, tag: number | null, row: CompiledTransition | null): void
  /** A signal was offered: which machines took a transition by it. */
  heard(signal: number, by: readonly number[]): void
}
