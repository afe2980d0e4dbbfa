import type { TooLate } from './walk-times.ts'
import type { LastSafe } from './last-safe.ts'
import type { Safeguard } from './safeguards.ts'
import type { PlayStep } from './steps.ts'

/** One of the three answers that every question has. `why` says what kept an undecided one from being settled. */
export type Answer =
  | { readonly answer: 'found' }
  | { readonly answer: 'ruled-out' }
  | {
      readonly answer: 'undecided'
      readonly why: string
      /** Whether it is only the ground that leaves it undecided: then it is of no use to look at time more closely. */
      readonly isByGround?: boolean
    }

/** Steps that show something, played and checked. */
export interface Shown {
  readonly steps: readonly PlayStep[]
  /** Whether fewer steps might do; none of these can be left out. Else they are the fewest. */
  readonly short: boolean
  /** Of what must be out of reach for good: after so many of these steps it is; left out where that is not known. */
  readonly lostAfter?: number
}

/** What came of looking out for something that seems possible. */
export interface Witness {
  /** Steps that show it; null where Play could not be brought to it. */
  readonly shown: Shown | null
}

/** A way for a player to lose a goal. */
export interface Loss extends Shown {
  /** The transition with which the goal is lost, by its number; null where none is to blame. */
  readonly row: number | null
  /** The last of its moments at which the goal could still be met; null where no play from there was found. */
  readonly lastSafe: LastSafe | null
  /** What the transition could ask for so that the goal stays within reach: worth trying; empty where nothing was found, or nothing was looked for. */
  readonly safeguards: readonly Safeguard[]
}

/** Everything that exploring a level found out. */
export interface Evidence {
  /** For each row of the tables: found where it can never be taken. */
  readonly dead: readonly Answer[]
  /** For each goal: found where it can never be met. */
  readonly unreachable: readonly Answer[]
  /** For each goal whether it holds before anybody has done anything. */
  readonly atOnce: readonly boolean[]
  /** For each goal: found where it can be lost; null where it can never be met anyway. */
  readonly softLocks: readonly (Answer | null)[]
  /** For each goal, how it can be lost: by losing transition, in file order. */
  readonly losses: readonly (readonly Loss[])[]
  /** What was looked out for and seems possible, by its key; what is not in here never is, as far as was explored. */
  readonly witnesses: ReadonlyMap<string, Witness>
  /** Keys of which it could not be told whether they are possible, with the reason. */
  readonly untold: ReadonlyMap<string, string>
  /** What plays have shown to happen: an interactable by its index, a space, and a moment. */
  readonly moments: ReadonlySet<string>
  /**
   * Where not everything was explored: keys of all that may be possible, as far as sets tell; what is not among them never
   * is. Null where sets tell nothing.
   */
  readonly possible: ReadonlySet<string> | null
  /** Why not everything was explored; null where it was. */
  readonly gap: string | null
  /** Why something that seems possible could not be played. */
  readonly unplayed: string
  /** Bodies past which nobody ever comes, since they let through for too short a time; only where ticks were counted. */
  readonly tooLate: readonly TooLate[]
  /** Whether exploring was interrupted; `gap` says how far it had come. */
  readonly isInterrupted: boolean
  /** How closely running things had to be told apart. */
  readonly fineness: 'loose' | 'ticks'
  readonly counts: Counts
  /** How it was explored, in sentences. */
  readonly account: readonly string[]
  /** Of levels that are joined and have several starts: what is known of plays from each of these, the usual one first; else empty. */
  readonly byStart: readonly { readonly start: string; readonly evidence: Evidence }[]
}

/** How much was explored. */
export interface Counts {
  /** Situations that differ in anything that decides what can happen next. */
  readonly situations: number
  /** Moves between them. */
  readonly moves: number
  readonly patches: number
  /** Plays that were played to check what is claimed. */
  readonly replays: number
  /** Bytes that situations and moves took up. */
  readonly bytes: number
  /** Whether every situation was found. */
  readonly complete: boolean
}

/** How far an exploration has come. */
export interface Progress {
  readonly doing: 'laying out' | 'exploring' | 'replaying' | 'judging' | 'grouping' | 'trying fixes'
  readonly situations: number
  /** The most situations that will be looked at. */
  readonly budget: number
}
