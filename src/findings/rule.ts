import type { Evidence, PlayStep } from '../explore/index.ts'
import type { NameProblem } from '../interactables/index.ts'
import type { Stage } from '../play/index.ts'

/** The rules that are decided so far. Their names are stable. */
export type RuleName =
  | 'unknown-name'
  | 'duplicate-name'
  | 'bad-value'
  | 'no-goal'
  | 'out-of-reach'
  | 'unreachable-state'
  | 'dead-transition'
  | 'unreachable-goal'
  | 'soft-lock'
  | 'wasted-item'
  | 'silent-refusal'

/** How bad a finding is: a player can be stuck, or a name leads nowhere; a player can be misled; or advice. */
export type Severity = 'error' | 'warning' | 'advice'

/** What a rule looks at. */
export interface Context {
  readonly stage: Stage
  readonly evidence: Evidence
  readonly problems: readonly NameProblem[]
}

/** What a finding is about, in data; its words are made of this. */
export type Facts =
  | { readonly rule: 'unknown-name' | 'duplicate-name' | 'bad-value'; readonly problem: NameProblem }
  | { readonly rule: 'no-goal' }
  | {
      readonly rule: 'out-of-reach'
      readonly interactable: string
      /** The spot that comes nearest to reaching it; null where nobody can stand anywhere, or it stands nowhere. */
      readonly nearest: { readonly distance: number; readonly why: string; readonly limit: number } | null
    }
  | { readonly rule: 'unreachable-state'; readonly interactable: string; readonly state: string }
  | {
      readonly rule: 'dead-transition'
      readonly interactable: string
      readonly transition: string
      readonly from: readonly string[]
      readonly to: string
      readonly trigger: string
    }
  | { readonly rule: 'unreachable-goal'; readonly goal: string; readonly title: string | null }
  | {
      readonly rule: 'soft-lock' | 'wasted-item'
      readonly goal: string
      readonly title: string | null
      readonly interactable: string | null
      readonly transition: string | null
      /** What it spends. */
      readonly items: readonly string[]
    }
  | {
      readonly rule: 'silent-refusal'
      readonly interactable: string
      readonly transition: string
      readonly state: string
    }

/** What would be granted to see whether another finding follows from this one. */
export type Grant =
  | { readonly grant: 'name'; readonly path: string; readonly name: string }
  | { readonly grant: 'reach'; readonly machine: number }
  | { readonly grant: 'row'; readonly row: number }
  | { readonly grant: 'state'; readonly machine: number; readonly state: number }
  | { readonly grant: 'harmless'; readonly row: number }

/** A problem that was found. */
export interface Found {
  /** Its path in the level; null for none. */
  readonly path: string | null
  readonly facts: Facts
  readonly steps: readonly PlayStep[]
  /** Whether fewer steps might do; they are the fewest where it is left out. */
  readonly short?: boolean
  readonly grant: Grant | null
}

/** A question that a rule asks about one subject, with its answer. */
export interface Asked {
  readonly subject: string
  readonly answer: 'found' | 'absent' | 'open'
  /** For an open answer: why. */
  readonly why: string | null
  /** For a found one: at least one. */
  readonly found: readonly Found[]
}

/** A rule: what it is called, how bad it is, and what it asks. */
export interface Rule {
  readonly name: RuleName
  readonly severity: Severity
  ask(context: Context): readonly Asked[]
}

/** A question that was answered with no. */
export function absent(subject: string): Asked {
  return { subject, answer: 'absent', why: null, found: [] }
}

/** A question that could not be settled. */
export function open(subject: string, why: string): Asked {
  return { subject, answer: 'open', why, found: [] }
}

/** A question that was answered with yes. */
export function found(subject: string, ...all: readonly Found[]): Asked {
  return { subject, answer: 'found', why: null, found: all }
}
