import type { Evidence, LastSafe, Observation, PlayStep } from '../explore/index.ts'
import type { Expanded, NameProblem } from '../interactables/index.ts'
import type { Edit } from '../model/index.ts'
import type { Watched } from './requirements/watched.ts'
import type { Project, Stage } from '../play/index.ts'

/** How bad a finding is: a player can be stuck, or a name leads nowhere; a player can be misled; or advice. */
export type Severity = 'error' | 'warning' | 'advice'

/** What a rule looks at. */
export interface Context {
  readonly stage: Stage
  readonly evidence: Evidence
  readonly problems: readonly NameProblem[]
  /** What is looked at: a level, several levels that are explored together, or one of these by itself. */
  readonly of: 'level' | 'levels' | 'one-of-levels'
  /** For levels that are explored together, each of them by itself; else empty. */
  readonly parts: readonly Part[]
  /** The project that the level is checked in; null: it is checked alone, or there are several. */
  readonly project: Surroundings | null
  /** For each requirement about an order, a time, or what can still be done, and for each way out: the level with what watches it. */
  readonly watching: ReadonlyMap<string, Watched>
}

/** One of the levels that are checked together, by itself. */
export interface Part {
  /** What the project calls it. */
  readonly name: string
  readonly stage: Stage
}

/** A project, seen from one of its levels. */
export interface Surroundings {
  readonly project: Project
  /** What the level is called in the project. */
  readonly level: string
  /** Its levels by name; those are missing that could not be used. */
  readonly levels: Readonly<Record<string, Expanded>>
  /** Why they cannot be explored together with it, in words, to stand after "because"; left out where nobody has asked for that. */
  readonly because?: string
}

/** What would be granted to see whether another finding follows from this one. */
export type Grant =
  | { readonly grant: 'name'; readonly paths: readonly string[]; readonly name: string }
  | { readonly grant: 'reach'; readonly machine: number }
  /** A way from where each character starts to these patches. */
  | { readonly grant: 'way'; readonly patches: readonly (readonly number[])[] }
  | { readonly grant: 'row'; readonly row: number }
  | { readonly grant: 'state'; readonly machine: number; readonly state: number }
  | { readonly grant: 'harmless'; readonly row: number }
  | { readonly grant: 'states'; readonly machine: number }
  | { readonly grant: 'muted'; readonly row: number }
  /** That a row is never taken. */
  | { readonly grant: 'idle'; readonly row: number }
  | { readonly grant: 'item'; readonly item: number }
  /** That a player may come to any place of a level of the project, at any time, and a play may begin there. */
  | { readonly grant: 'start'; readonly level: string }
  /** That there is time enough for whatever this one lets through. */
  | { readonly grant: 'time'; readonly machine: number }

/** A spot on the plan, with what is to be said of it, such as a distance. */
export interface PlanSpot {
  readonly at: readonly [number, number]
  readonly text: string
}

/** A problem that was found, with what is known of it; its words are made of that. */
export interface Found<Facts extends object = object> {
  /** Its path in the level; null for none. */
  readonly path: string | null
  /** Whether it is about the key that the path ends in even where its value is a plain one. */
  readonly isAboutKey?: boolean
  /** Whether it was found by exploring the level anew, with what watches it: what else would remove it is not known. */
  readonly isWatched?: true
  /** Whether the path is that of what the steps set off. */
  readonly isPlacedBySteps?: boolean
  readonly facts: Facts
  readonly steps: readonly PlayStep[]
  /** Whether fewer steps might do; they are the fewest where it is left out. */
  readonly short?: boolean
  /** Spots on the ground, in metres, that show it, with what is to be said of each. */
  readonly spots?: readonly PlanSpot[]
  /** Of steps that lose a goal: the last moment at which it could still be met. */
  readonly lastSafe?: LastSafe | null
  readonly grant: Grant | null
}

/** A question that a rule asks about one subject, with its answer. */
export interface Asked<Facts extends object = object> {
  readonly subject: string
  readonly answer: 'found' | 'ruled-out' | 'undecided'
  /** For an undecided one: why; for one that was ruled out: what that does not hold for, if anything. */
  readonly why: string | null
  /** For a found one: at least one. */
  readonly found: readonly Found<Facts>[]
}

/** A rule: what it is called, how bad it is, what it asks, and what it says of what it finds. */
export interface Rule<Facts extends object = object> {
  /** Its name, which stays. */
  readonly name: string
  readonly severity: Severity
  /** Whether it is about a goal that a player cannot meet, or not any more: that comes first. */
  readonly isAboutGoals?: true
  /** Whether what it finds is rather a sign of something wrong than the cause of it. */
  readonly isSign?: true
  /** Whether it asks about what others look out for: feedback is judged over all moments that can happen. */
  readonly asksOthers?: true
  /**
   * Whether it asks of each level of a project by itself, because it looks at what is written and where things stand; else, where the levels are
   * explored together, of all of them together.
   */
  readonly isByLevel?: true
  /** Whether it asks of them together, and also of each by itself. */
  readonly asksBoth?: true
  /** What exploring must look out for. */
  observation?(stage: Stage): Observation
  ask(context: Context): readonly Asked<Facts>[]
  /** The same with pauses, where it takes long in large levels. */
  askInSlices?(context: Context): Generator<undefined, readonly Asked<Facts>[]>
  /** What happens to the player, or what is wrong in the file, in a sentence. */
  says(facts: Facts): string
  /** What to do about it, in a sentence. */
  fix(facts: Facts): string
  /** The same as a change of the file, for a finding at some path; null where it cannot be said so. */
  edit?(found: { readonly stage: Stage; readonly path: string; readonly facts: Facts }): Proposal | null
  /** Which instances say what, for an instance that differs from its siblings. */
  table?(facts: Facts): readonly { readonly value: string | null; readonly instances: readonly string[] }[]
  /** The goal that can never be met, and whether it is known what stands in its way; null where it can, from some start. */
  unmet?(facts: Facts): { readonly goal: string; readonly isExplained: boolean } | null
  /** The type of which an instance is missing, where it is that; null where it is not. */
  lostType?(facts: Facts): string | null
  /** The goal that can be lost, and the transition that loses it; null for the transition where none is to blame. */
  losing?(facts: Facts): { readonly goal: string; readonly subject: string | null }
}

/** Whether a rule asks anything of what is looked at: of several levels together, or one by one; both for requirements. */
export function isAskedOf({ isByLevel, asksBoth }: Rule, { of }: Context): boolean {
  return of === 'level' || asksBoth === true || (of === 'one-of-levels') === (isByLevel === true)
}

/** A change of the file that does something about a finding. */
export interface Proposal {
  readonly edit: Edit
  /** Whether it can be made without asking anybody: `zintel check --fix` makes it. */
  readonly isAutomatic: boolean
}

/** A question that was answered with no; `but`: what that does not hold for, where there is something. */
export function ruledOut(subject: string, but: string | null = null): Asked<never> {
  return { subject, answer: 'ruled-out', why: but, found: [] }
}

/** A question that could not be settled. */
export function undecided(subject: string, why: string): Asked<never> {
  return { subject, answer: 'undecided', why, found: [] }
}

/** A question that was answered with yes. */
export function found<Facts extends object>(subject: string, ...all: readonly Found<Facts>[]): Asked<Facts> {
  return { subject, answer: 'found', why: null, found: all }
}

/** The answer to a question by what was looked out for: found where a play has shown it, ruled out where it never is. */
export function witnessed<Facts extends object>(
  { evidence }: Pick<Context, 'evidence'>,
  subject: string,
  keys: readonly string[],
  tell: (key: string) => Omit<Found<Facts>, 'steps' | 'short'>,
): Asked<Facts> {
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
