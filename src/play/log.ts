import type { Channel, Moment, Role } from '../model/index.ts'

/** Why an interactable near by did not answer a press. */
export interface NotAsked {
  readonly interactable: string
  /** Metres from the hand to its handle. */
  readonly distance: number
  readonly why:
    | 'out-of-range'
    | 'out-of-reach'
    | 'at-another-height'
    | 'stands-elsewhere'
    | 'behind-a-wall'
    | 'hidden'
    | 'not-now'
    | 'not-for-it'
  /** For `out-of-range` and `out-of-reach`: the limit, in metres. */
  readonly limit: number | null
  /** For `hidden`: whose body is in the line of sight. */
  readonly behind: string | null
  /** For `not-now`: the state, which has no transition for a press. For `not-for-it`: the role that may not. */
  readonly state: string | null
}

/** A condition that did not hold, in names. */
export type Unmet =
  | { readonly carries: string; readonly count: number; readonly has: number }
  | { readonly interactable: string; readonly is: readonly string[]; readonly state: string }
  | { readonly flag: string; readonly is: boolean }
  | { readonly 'room-for': string; readonly count: number; readonly has: number; readonly most: number }
  | { readonly counter: string; readonly least: number; readonly most: number; readonly is: number }
  | { readonly inside: string; readonly carrying: string | null }
  | { readonly dial: string }
  | { readonly acts: readonly Role[]; readonly role: Role }
  | { readonly remembers: string; readonly of: string }
  | { readonly contains: string; readonly of: string; readonly count: number; readonly has: number }
  | { readonly empty: string }
  /** There is no room for anything that is left in it. */
  | { readonly 'room-in': string }
  | { readonly not: Unmet }
  | { readonly unknown: string }

/** One thing that happened in a play. */
export type Happening =
  | { readonly what: 'walks'; readonly character: string; readonly to: readonly [number, number] }
  | { readonly what: 'steers'; readonly character: string; readonly towards: readonly [number, number] | null }
  | { readonly what: 'arrived' | 'stopped'; readonly character: string; readonly spot: readonly [number, number] }
  | { readonly what: 'no-way'; readonly character: string; readonly to: string }
  | {
      readonly what: 'press'
      readonly character: string
      readonly outcome: 'accepted' | 'refused' | 'ignored' | 'unanswered'
      readonly interactable: string | null
      /** The kind of press where it is not the usual one, or the text of the option that was chosen. */
      readonly way: string | null
      /** What chance drew, where it decided; else null. */
      readonly chance: string | null
      readonly unmet: readonly Unmet[]
      readonly nearby: readonly NotAsked[]
    }
  | {
      readonly what: 'transition'
      readonly interactable: string
      readonly transition: string
      readonly from: string
      readonly to: string
      readonly by: string
    }
  | { readonly what: 'releases'; readonly character: string; readonly interactable: string }
  | {
      readonly what: 'dials'
      readonly character: string
      readonly interactable: string
      /** Wheels count from 1. */
      readonly wheel: number
      readonly to: number
      readonly outcome: 'accepted' | 'unanswered'
    }
  | { readonly what: 'turns'; readonly character: string; readonly towards: string }
  | {
      readonly what: 'waits'
      readonly interactable: string
      readonly transition: string
      /** It does not wait to do it: it stays, and its state starts again. */
      readonly reopens: boolean
    }
  | {
      readonly what: 'feedback'
      readonly interactable: string
      readonly moment: Moment | 'transition'
      readonly channel: Channel
      readonly text: string
      /** Who perceives it. */
      readonly to: readonly string[]
      /** How long it lasts, in ms; null: it is over at once, or stays. */
      readonly lasts: number | null
      /** For a sound: how high, and by what share that may differ; null: as it is, not at all. */
      readonly pitch: number | null
      readonly varies: number | null
    }
  /** Something that nothing in the level does: the tester helps it on. */
  | { readonly what: 'test-only'; readonly character: string; readonly text: string }
  | { readonly what: 'dismisses'; readonly character: string; readonly interactable: string; readonly text: string }
  /** A popup is up: nothing else can be done before it is dismissed. */
  | { readonly what: 'held-back'; readonly character: string; readonly from: string; readonly by: string }
  | {
      readonly what: 'item'
      readonly character: string
      readonly item: string
      readonly before: number
      readonly after: number
      readonly by: string
      readonly consumed: boolean
    }
  | { readonly what: 'flag'; readonly flag: string; readonly is: boolean; readonly by: string }
  | {
      readonly what: 'counter'
      readonly counter: string
      readonly before: number
      readonly after: number
      readonly by: string
    }
  | {
      readonly what: 'signal'
      readonly signal: string
      /** The one that it is for, or the tag; both null: it is for all. */
      readonly to: string | null
      readonly tag: string | null
      readonly by: string
    }
  | {
      readonly what: 'contents'
      readonly interactable: string
      readonly item: string
      /** How many are left in it. */
      readonly left: number
    }
  | {
      readonly what: 'moved'
      readonly character: string
      readonly place: string
      /** Metres above the ground. */
      readonly height: number
      readonly by: string
      /** False: nobody can stand there, so it stays where it is. */
      readonly done: boolean
    }
  | {
      readonly what: 'leaves'
      readonly character: string
      readonly level: string
      readonly place: string
      readonly by: string
    }
  /** A character has come from another level. */
  | { readonly what: 'arrives'; readonly character: string; readonly level: string; readonly place: string }
  | { readonly what: 'pushed'; readonly character: string; readonly by: string }
  | { readonly what: 'heard'; readonly signal: string; readonly by: readonly string[] }
  | {
      readonly what: 'zone'
      readonly character: string
      /** What the zone belongs to; null: it is a room. */
      readonly interactable: string | null
      readonly zone: string
      readonly inside: boolean
    }
  | { readonly what: 'goal'; readonly goal: string }
  | { readonly what: 'signal-storm' }

/** One thing that happened in a play, and when: in whole milliseconds since it began. */
export type LogEntry = { readonly at: number } & Happening

/** The version of logs written as JSON Lines. */
export const logVersion = 1

/** A log as JSON Lines: a line that says what it is, then a line for each entry. */
export function logLines(level: string, log: readonly LogEntry[]): string {
  const head = { 'zintel-log': logVersion, level, milliseconds: true }
  return [head, ...log].map((entry) => `${JSON.stringify(entry)}\n`).join('')
}
