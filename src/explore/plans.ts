import type { Play, Stage } from '../play/index.ts'
import type { Progress } from './answers.ts'
import { Coverage } from './cover.ts'
import { quietly } from './run-in-slices.ts'
import { Predecessors } from './graph.ts'
import { neededOn, type Need } from './needs.ts'
import { UnhurriedPaths, FewestSteps } from './routes.ts'
import { mostGoals, Search } from './search.ts'
import { grouped, shortened } from './shorten.ts'
import { type PlayStep, replay } from './steps.ts'
import { tidied } from './tidy.ts'

/** Steps from the start that meet a goal; played. */
export interface Plan {
  readonly steps: readonly PlayStep[]
  /** Whole milliseconds that they take. */
  readonly ms: number
  /**
   * Whether it was proved that fewer steps do not do. What has to come to its end first counts as a wait, though one might
   * walk about meanwhile.
   */
  readonly isFewest: boolean
}

/** How a goal can be met. */
export interface GoalPlans {
  readonly goal: string
  /** The plan with the fewest steps; null where none was found. */
  readonly fewest: Plan | null
  /** The quickest plan that was found: of those from one standing spot to the next. Null where none was found. */
  readonly quickest: Plan | null
  /** What the first plan uses, in the order in which it does, and what each needs; null where that was not found out. */
  readonly needs: readonly Need[] | null
  /** Why there is no plan, or nothing is known of what is needed; null where nothing is missing. */
  readonly why: string | null
}

/** How many situations are looked at where nobody says otherwise. */
const usualBudget = 300_000

/** Of so many situations in which a goal holds the way there is tried. */
const tries = 8

/**
 * Finds plans for goals: with the fewest steps, and in the shortest time, each played; and what each interactable on the way
 * needs. A generator that yields every few milliseconds.
 */
export function* planGoals(
  stage: Stage,
  goals: readonly number[],
  options: { readonly budget?: number | undefined } = {},
): Generator<Progress, GoalPlans[]> {
  const budget = options.budget ?? usualBudget
  const search = new Search(stage, 'loose', budget)
  const progress = (doing: Progress['doing']): Progress => ({ doing, situations: search.store.count, budget })
  yield progress('exploring')
  while (!search.advance(100)) yield progress('exploring')
  const planning = (): Progress => progress('replaying')
  const cover = new Coverage(stage)
  const plans: GoalPlans[] = []
  for (const goal of goals) plans.push(yield* quietly(plansFor(search, cover, goal), planning))
  return plans
}

function* plansFor(search: Search, cover: Coverage, goal: number): Generator<undefined, GoalPlans> {
  const { name } = search.stage.expanded.goals[goal]!
  const none = (why: string): GoalPlans => ({ goal: name, fewest: null, quickest: null, needs: null, why })
  if (!search.hasStart) return none('a character cannot stand where it starts')
  if (goal >= mostGoals) return none(`only the first ${String(mostGoals)} goals are looked at`)
  const few = yield* fewest(search, cover, goal)
  const quick = yield* quickest(search.stage, cover, goal)
  const best = few ?? quick
  if (!best) return none(whyNone(search, goal))
  const isQuicker = quick !== null && quick.ms < best.ms
  const needs = search.isComplete ? yield* neededOn(search, goal, best.steps) : null
  const why = needs ? null : 'there are too many situations to find out what is needed; --budget takes more'
  return { goal: name, fewest: best, quickest: isQuicker ? quick : best, needs, why }
}

function whyNone(search: Search, goal: number): string {
  for (let index = 0; index < search.store.count; index++) {
    if (search.holds(index, goal)) return 'it is possible only if timing or aim that is not certain allows it'
  }
  return search.isComplete
    ? 'it cannot be met, whatever a player does'
    : `it was not met in the first ${String(search.store.count)} situations; --budget takes more`
}

/** The plan with the fewest steps that Play follows; else one that sure moves lead to. */
function* fewest(search: Search, cover: Coverage, goal: number): Generator<undefined, Plan | null> {
  const { stage } = search
  const isDone = meets(stage, goal)
  const backward = yield* Predecessors.of(search)
  const counted = yield* FewestSteps.of(search, backward, null)
  const ends: { index: number; steps: number }[] = []
  for (let index = 0; index < search.store.count; index++) {
    if (search.holds(index, goal)) ends.push({ index, steps: index === 0 ? 0 : counted.to(index) })
  }
  ends.sort((a, b) => a.steps - b.steps || a.index - b.index)
  const least = search.isComplete ? (ends[0]?.steps ?? Infinity) : -1
  for (const { index } of ends.slice(0, tries)) {
    if (index === 0) return planOf(stage, [], least)
    const rehearsal = yield* cover.play(search, counted.route(index, null), true, isDone)
    if (rehearsal) return planOf(stage, rehearsal.steps, least)
  }
  const calm = new UnhurriedPaths(search)
  for (const { index } of ends.slice(0, tries)) {
    const rehearsal = yield* cover.play(search, yield* calm.to(index), true, isDone)
    if (rehearsal) return planOf(stage, yield* without(stage, rehearsal.steps, isDone), least)
  }
  const bit = 1 << goal
  const rehearsal = yield* cover.seek((_regs, _patch, held) => (held & bit) !== 0, isDone)
  return rehearsal && planOf(stage, rehearsal.steps, least)
}

/** The quickest plan over sure moves, without what is not needed. */
function* quickest(stage: Stage, cover: Coverage, goal: number): Generator<undefined, Plan | null> {
  const isDone = meets(stage, goal)
  const steps = yield* cover.hurry(goal, isDone)
  if (!steps) return null
  const needed = yield* without(stage, yield* tidied(stage, steps, isDone), isDone)
  return planOf(stage, yield* tidied(stage, needed, isDone), -1)
}

/** Without the steps that are not needed, and with what one character does together. */
function* without(
  stage: Stage,
  steps: readonly PlayStep[],
  isDone: (play: Play) => boolean,
): Generator<undefined, readonly PlayStep[]> {
  return yield* grouped(stage, yield* shortened(stage, steps, isDone), isDone)
}

function meets({ expanded }: Stage, goal: number): (play: Play) => boolean {
  const { name } = expanded.goals[goal]!
  return (play) => play.goalsMet().includes(name)
}

/** `least`: no fewer steps do; -1: that is not known. */
function planOf(stage: Stage, steps: readonly PlayStep[], least: number): Plan {
  return { steps, ms: replay(stage, steps).now, isFewest: steps.length <= least }
}
