import type { Evidence, LastSafe, Observation, PlayStep } from '../explore/index.ts'
import type { Expanded, NameProblem } from '../interactables/index.ts'
import type { Channel, Moment, Reason } from '../model/index.ts'
import type { Project, Stage } from '../play/index.ts'

/** The rules that are decided so far. Their names are stable. */
export type RuleName =
  | 'unknown-name'
  | 'duplicate-name'
  | 'bad-value'
  | 'blocked-start'
  | 'unlisted-level'
  | 'stale-reference'
  | 'inconsistent-instance'
  | 'inert-interactable'
  | 'no-way-out'
  | 'overlapping-guards'
  | 'unheard-signal'
  | 'unsent-signal'
  | 'unobtainable-item'
  | 'unused-item'
  | 'never-blocks'
  | 'leftover-test-only'
  | 'opposite-flags'
  | 'no-goal'
  | 'goal-already-met'
  | 'out-of-reach'
  | 'unreachable-state'
  | 'dead-transition'
  | 'unreachable-goal'
  | 'soft-lock'
  | 'wasted-item'
  | 'stuck-state'
  | 'signal-storm'
  | 'lost-item'
  | 'locked-again'
  | 'silent-refusal'
  | 'silent-change'
  | 'repeated-feedback'
  | 'stuck-prompt'
  | 'missing-prompt'
  | 'same-look'
  | 'one-channel'
  | 'wrong-item-named'
  | 'unused-feedback'
  | 'stale-acceptance'

/** How bad a finding is: a player can be stuck, or a name leads nowhere; a player can be misled; or advice. */
export type Severity = 'error' | 'warning' | 'advice'

/** What a rule looks at. */
export interface Context {
  readonly stage: Stage
  readonly evidence: Evidence
  readonly problems: readonly NameProblem[]
  /** The project that the level is checked in; null: it is checked alone. */
  readonly project: Surroundings | null
}

/** A project, seen from one of its levels. */
export interface Surroundings {
  readonly project: Project
  /** What the level is called in the project. */
  readonly level: string
  /** All levels, by name. */
  readonly levels: Readonly<Record<string, Expanded>>
}

/** What stands in the way of something that can never be so: what it needs, link by link, down to what is to be changed. */
export interface Obstruction {
  /** From the goal down, such as `sluice-wheel turned`, `crank`, `meal-chest open`, `2 × tally`. */
  readonly chain: readonly string[]
  readonly root: Root
}

/** Where a chain ends, and why. */
export interface Root {
  readonly kind:
    'too-few' | 'none' | 'never-set' | 'never-sent' | 'no-way' | 'shut' | 'no-reach' | 'circle' | 'never-taken'
  /** The path in the level of what is to be changed. */
  readonly path: string
  /** What it is: an item, a flag, a signal, an interactable. */
  readonly name: string
  /** For `too-few`: how many can be had at once, and what gives them. */
  readonly count: number
  readonly from: readonly string[]
}

/** What a finding is about, in data; its words are made of this. */
export type Facts =
  | { readonly rule: NameProblem['rule']; readonly problem: NameProblem }
  | { readonly rule: 'no-goal' }
  | {
      readonly rule: 'out-of-reach'
      readonly interactable: string
      /** The spot that comes nearest to reaching it; null where nobody can stand anywhere, or it stands nowhere. */
      readonly nearest: {
        /** Where it is, in metres. */
        readonly at: readonly [number, number]
        /** Metres from the hand there to the handle, or to where the range is measured from; and the most that would do. */
        readonly distance: number
        readonly limit: number
        readonly why: 'out-of-range' | 'out-of-reach' | 'behind-a-wall'
      } | null
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
  | { readonly rule: 'goal-already-met'; readonly goal: string; readonly title: string | null }
  | {
      readonly rule: 'unreachable-goal'
      readonly goal: string
      readonly title: string | null
      /** What stands in its way; null where that is not known. */
      readonly obstruction: Obstruction | null
    }
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
      readonly reasons: readonly Reason[]
      /** The items that are missing, by title. */
      readonly items: readonly string[]
      /** Whether there is a message that is still to be written. */
      readonly isBlank: boolean
      /** Why it goes untold. */
      readonly hush: 'never' | 'once' | 'pause' | 'within'
    }
  | {
      readonly rule: 'unlisted-level'
      readonly interactable: string
      readonly level: string
      readonly nearest: string | null
    }
  | {
      readonly rule: 'stale-reference'
      readonly interactable: string
      readonly type: string
      /** The other instance, which points at the same. */
      readonly original: string
      readonly target: string
      /** What nothing points at. */
      readonly free: string
    }
  | {
      readonly rule: 'inconsistent-instance'
      readonly type: string
      /** The setting, or another part of an instance, by its path in it. */
      readonly part: string
      /** What instances say there, by how many say it, most first; null: nothing. */
      readonly sides: readonly { readonly value: string | null; readonly instances: readonly string[] }[]
      /** The instances that differ from the rest; empty where it is the type that does. */
      readonly odd: readonly string[]
      /** What the type says, where it is the odd one; null where it is not. */
      readonly definition: string | null
    }
  | { readonly rule: 'inert-interactable' | 'leftover-test-only'; readonly interactable: string }
  | { readonly rule: 'no-way-out' | 'stuck-state'; readonly interactable: string; readonly state: string }
  | {
      readonly rule: 'overlapping-guards'
      readonly interactable: string
      readonly state: string
      readonly first: string
      readonly second: string
    }
  | {
      readonly rule: 'unheard-signal'
      readonly interactable: string
      readonly signal: string
      readonly nearest: string | null
    }
  | {
      readonly rule: 'unsent-signal'
      readonly interactable: string
      readonly signal: string
      readonly nearest: string | null
      /** Who sends it to something else: to a tag that this one does not have, or to another interactable. */
      readonly elsewhere: { readonly by: string; readonly to: string; readonly isTag: boolean } | null
    }
  | {
      readonly rule: 'unobtainable-item'
      readonly item: string
      readonly title: string
      readonly askedBy: readonly string[]
    }
  | {
      readonly rule: 'unused-item'
      readonly item: string
      readonly title: string
      readonly givenBy: readonly string[]
    }
  | { readonly rule: 'never-blocks'; readonly interactable: string; readonly doorway: string }
  | { readonly rule: 'opposite-flags'; readonly flags: readonly [string, string]; readonly both: boolean }
  | {
      readonly rule: 'signal-storm'
      readonly interactable: string | null
      readonly transition: string | null
      readonly signals: readonly string[]
    }
  | {
      readonly rule: 'lost-item'
      readonly interactable: string
      readonly item: string
      /** The level where it is asked for, where leaving drops it; null: there is no room for it where it is given. */
      readonly level: string | null
    }
  | {
      readonly rule: 'locked-again'
      readonly interactable: string
      readonly item: string
      readonly state: string
    }
  | {
      readonly rule: 'silent-change'
      readonly interactable: string
      readonly transition: string
      readonly from: string
      readonly to: string
    }
  | {
      readonly rule: 'repeated-feedback'
      readonly interactable: string
      readonly transition: string
      readonly channel: Channel
      readonly text: string
      /** In ms. */
      readonly every: number
    }
  | {
      readonly rule: 'stuck-prompt' | 'missing-prompt'
      readonly interactable: string
      readonly state: string
      readonly prompt: string | null
    }
  | {
      readonly rule: 'same-look'
      readonly interactable: string
      readonly states: readonly [string, string]
      readonly look: string
    }
  | {
      readonly rule: 'one-channel'
      readonly interactable: string
      readonly moment: Moment
      readonly channels: readonly Channel[]
    }
  | {
      readonly rule: 'wrong-item-named'
      readonly interactable: string
      readonly message: string
      /** The item that the message names, and the one that is missing, or that there is no room for. */
      readonly names: string
      readonly about: string
      readonly isMissing: boolean
    }
  | {
      readonly rule: 'unused-feedback'
      readonly interactable: string
      readonly moment: Moment
      readonly channel: Channel
      readonly text: string
    }
  | { readonly rule: 'stale-acceptance'; readonly accepted: string; readonly of: string | null }

/** What would be granted to see whether another finding follows from this one. */
export type Grant =
  | { readonly grant: 'name'; readonly paths: readonly string[]; readonly name: string }
  | { readonly grant: 'reach'; readonly machine: number }
  | { readonly grant: 'row'; readonly row: number }
  | { readonly grant: 'state'; readonly machine: number; readonly state: number }
  | { readonly grant: 'harmless'; readonly row: number }
  | { readonly grant: 'states'; readonly machine: number }
  | { readonly grant: 'muted'; readonly row: number }
  | { readonly grant: 'item'; readonly item: number }

/** A problem that was found. */
export interface Found {
  /** Its path in the level; null for none. */
  readonly path: string | null
  /** Whether it is about the key that the path ends in even where its value is a plain one. */
  readonly isAboutKey?: boolean
  /** Whether the path is that of what the steps set off. */
  readonly isPlacedBySteps?: boolean
  readonly facts: Facts
  readonly steps: readonly PlayStep[]
  /** Whether fewer steps might do; they are the fewest where it is left out. */
  readonly short?: boolean
  /** Of steps that lose a goal: the last moment at which it could still be met. */
  readonly lastSafe?: LastSafe | null
  readonly grant: Grant | null
}

/** A question that a rule asks about one subject, with its answer. */
export interface Asked {
  readonly subject: string
  readonly answer: 'found' | 'ruled-out' | 'undecided'
  /** For an undecided one: why. */
  readonly why: string | null
  /** For a found one: at least one. */
  readonly found: readonly Found[]
}

/** A rule: what it is called, how bad it is, and what it asks. */
export interface Rule {
  readonly name: RuleName
  readonly severity: Severity
  /** What exploring must look out for. */
  observation?(stage: Stage): Observation
  ask(context: Context): readonly Asked[]
  /** The same with pauses, where it takes long in large levels. */
  askInSlices?(context: Context): Generator<undefined, readonly Asked[]>
}

/** A question that was answered with no. */
export function ruledOut(subject: string): Asked {
  return { subject, answer: 'ruled-out', why: null, found: [] }
}

/** A question that could not be settled. */
export function undecided(subject: string, why: string): Asked {
  return { subject, answer: 'undecided', why, found: [] }
}

/** A question that was answered with yes. */
export function found(subject: string, ...all: readonly Found[]): Asked {
  return { subject, answer: 'found', why: null, found: all }
}

/** The answer to a question by what was looked out for: found where a play has shown it, ruled out where it never is. */
export function witnessed(
  { evidence }: Pick<Context, 'evidence'>,
  subject: string,
  keys: readonly string[],
  tell: (key: string) => Omit<Found, 'steps' | 'short'>,
): Asked {
  const seen = keys.flatMap((key) => {
    const sight = evidence.witnesses.get(key)
    return sight ? [{ key, shown: sight.shown }] : []
  })
  const shown = seen.flatMap(({ key, shown: one }) => (one ? [{ ...tell(key), ...one }] : []))
  if (shown.length > 0) return found(subject, ...shown)
  if (seen.length > 0) return undecided(subject, evidence.gap ?? evidence.unplayed)
  return isRuledOut(evidence, keys) ? ruledOut(subject) : undecided(subject, evidence.gap ?? evidence.unplayed)
}

/** Whether nothing of what these keys name was seen, and nothing of it ever can be. */
export function isRuledOut({ gap, possible }: Evidence, keys: readonly string[]): boolean {
  return gap === null || (possible !== null && !keys.some((key) => possible.has(key)))
}

/** The keys of what was seen, or may be, that begin so, in the order in which they were found. */
export function keysOf({ evidence }: Pick<Context, 'evidence'>, start: string): string[] {
  const keys = new Set([...evidence.witnesses.keys(), ...(evidence.possible ?? [])])
  return [...keys].filter((key) => key.startsWith(start))
}
