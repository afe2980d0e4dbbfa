import type { Blocked } from '../model/index.ts'
import type { LogEntry, Transform } from '../play/index.ts'
import type { Point } from '../space/index.ts'

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
  /** The corners of its body as it stands now, in the frame of the level, in metres; null where it has none, or is gone. */
  readonly body: readonly Point[] | null
  /** What its body blocks now; empty where it has none, or nothing is blocked. */
  readonly blocks: readonly Blocked[]
  /** What the hand must reach: metres east, north and up; null where it stands nowhere. */
  readonly handle: readonly [number, number, number] | null
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
  /** The level that was come to, by its name in the project: everything in it is listed. Null where it is the same as before. */
  readonly level: string | null
  /** The interactables whose state or pose is not what it was. */
  readonly interactables: readonly InteractableNow[]
  /** The characters that have moved, turned, set out or stopped. */
  readonly characters: readonly CharacterNow[]
  /** What was added to the log. */
  readonly entries: readonly LogEntry[]
}

/** What can be listened to: one kind of log entry, or `any`. */
export type PlayEvent = LogEntry['what'] | 'any'

/** The log entries that a kind of event is. */
export type EntryOf<E extends PlayEvent> = E extends 'any' ? LogEntry : Extract<LogEntry, { readonly what: E }>

/** A moment of a play, as a plain value that can be kept as JSON. Only `restore` knows what is in it. */
export interface SavedPlay {
  readonly 'zintel-save': 1
  /** What tells levels apart: it can be restored in the same level, or the same project, alone. */
  readonly of: string
  readonly passed: number
  readonly play: unknown
}

/** What helps a character on from outside, for trying things out. */
export type Help =
  /** Items, one where no count is given. */
  | { readonly give: string; readonly count?: number | undefined }
  | { readonly remove: string; readonly count?: number | undefined }
  /** A flag, which is set where nothing else is said; or a counter, to a number. */
  | { readonly set: string; readonly to?: boolean | number | undefined }
  /** An interactable, and the state that it comes into. */
  | { readonly put: string; readonly into: string }
