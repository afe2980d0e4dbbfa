import { type Cover, type CoverItem, coverLevel as covered, type CoverOptions } from '../cover/index.ts'
import {
  asWalkthrough,
  type Need,
  type Plan as PlayedPlan,
  planGoals as planned,
  type Progress,
  type WrittenWalkthrough,
} from '../explore/index.ts'
import { nearestName, type Reading } from '../model/index.ts'
import {
  type LogEntry,
  readWalkthrough as read,
  runWalkthrough as run,
  type StepResult,
  type Walkthrough,
} from '../play/index.ts'
import { type AnyLevel, expandedOf, LevelError, stageOf } from './prepared.ts'

/** Reads a walkthrough, and looks up its names in a level, or in those of a project. Never throws. */
export function readWalkthrough(
  text: string,
  file: string | null = null,
  ...levels: readonly AnyLevel[]
): Reading<Walkthrough> {
  return read(text, file, ...levels.map(expandedOf))
}

/** What came of a walkthrough that was played. */
export interface WalkthroughResult {
  readonly title: string
  /** Whether every step could be made, and every expectation was met. */
  readonly passed: boolean
  readonly steps: readonly StepResult[]
  readonly log: readonly LogEntry[]
}

/** Plays a walkthrough in a level: all its steps, in order, also after one has failed. Throws a `LevelError` where either cannot be used. */
export function runWalkthrough(level: AnyLevel, walkthrough: Reading<Walkthrough>): WalkthroughResult {
  const { title, passed, steps, log } = run(stageOf(level), ...used(walkthrough))
  return { title, passed, steps, log }
}

function used({ value, source, diagnostics }: Reading<Walkthrough>): [Walkthrough, Reading<Walkthrough>['source']] {
  if (!value) throw new LevelError(diagnostics)
  return [value, source]
}

/** What walkthroughs exercise, and others that exercise more. */
export interface CoverResult {
  readonly cover: Cover
  /** Walkthroughs for what none of those given exercises; empty where they were not asked for, or none was found. */
  readonly filled: readonly WrittenWalkthrough[]
  /** What none exercises even so. */
  readonly left: readonly CoverItem[]
}

/**
 * Plays walkthroughs in a level, and tells which states, transitions, refusals and feedback they exercise of those that are possible; with
 * `fill`, finds few walkthroughs for the rest. A generator that yields every few milliseconds.
 */
export function* coverLevel(
  level: AnyLevel,
  walkthroughs: readonly Reading<Walkthrough>[],
  options: CoverOptions = {},
): Generator<Progress, CoverResult> {
  const given = walkthroughs.map((one) => {
    const [walkthrough, source] = used(one)
    return { walkthrough, source }
  })
  const { cover, filled, left } = yield* covered(stageOf(level), given, options)
  return { cover, filled: filled.map(({ walkthrough }) => walkthrough), left }
}

/** A way to a goal, played. */
export interface Plan {
  readonly walkthrough: WrittenWalkthrough
  /** Whole milliseconds that it takes. */
  readonly ms: number
  /** Whether it was proved that fewer steps do not do. */
  readonly isFewest: boolean
}

/** How a goal can be met. */
export interface GoalPlans {
  readonly goal: string
  /** The plan with the fewest steps; null where none was found. */
  readonly fewest: Plan | null
  /** The quickest plan that was found; null where none was. */
  readonly quickest: Plan | null
  /** What the first plan uses, in the order in which it does, and what each needs; null where that was not found out. */
  readonly needs: readonly Need[] | null
  /** Why there is no plan, or nothing is known of what is needed; null where nothing is missing. */
  readonly why: string | null
}

/**
 * Finds plans for goals, by name: with the fewest steps, and in the shortest time, each played; and what each interactable on the way
 * needs. All goals where none is named; a name that the level does not have throws a `RangeError`. A generator that yields every few
 * milliseconds.
 */
export function* planGoals(
  level: AnyLevel,
  goals: readonly string[] = [],
  options: { readonly budget?: number | undefined } = {},
): Generator<Progress, readonly GoalPlans[]> {
  const stage = stageOf(level)
  const names = stage.expanded.goals.map(({ name }) => name)
  const wanted = goals.map((name) => {
    const goal = names.indexOf(name)
    if (goal >= 0) return goal
    throw new RangeError(
      `There is no goal "${name}". Did you mean "${nearestName(name, names) ?? names.join('", "')}"?`,
    )
  })
  const plans = yield* planned(stage, wanted.length > 0 ? wanted : [...names.keys()], options)
  return plans.map(({ goal, fewest, quickest, needs, why }) => {
    const told = (plan: PlayedPlan | null): Plan | null =>
      plan && {
        walkthrough: asWalkthrough(stage, `The way to ${goal}`, plan.steps, [{ expect: { goal } }]),
        ms: plan.ms,
        isFewest: plan.isFewest,
      }
    return { goal, fewest: told(fewest), quickest: told(quickest), needs, why }
  })
}
