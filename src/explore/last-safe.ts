import { type Coverage, situationOf } from './cover.ts'
import type { GoalSets } from './graph.ts'
import type { Play } from '../play/index.ts'
import { UnhurriedPaths } from './routes.ts'
import type { Search } from './search.ts'
import { shortened } from './shorten.ts'
import { type PlayStep, type Rehearsal, replay } from './steps.ts'

/** The last moment of a play that loses a goal at which it could still be met. */
export interface LastSafe {
  /** After so many of its steps; 0: at the start. */
  readonly after: number
  /** Steps from there on with which the goal is met; played. */
  readonly steps: readonly PlayStep[]
}

/** By the calmest way of the search, from where some steps end; null where Play does not follow them. */
function* alongSearch(
  search: Search,
  sets: GoalSets,
  cover: Coverage,
  steps: readonly PlayStep[],
  isMet: (play: Play) => boolean,
): Generator<undefined, Rehearsal | null> {
  const start = cover.standingAfter(steps)
  const index = start ? situationOf(search, replay(search.stage, start.before)) : -1
  const calm = new UnhurriedPaths(search, Math.max(index, 0))
  const route = index < 0 ? null : yield* calm.toFirst((one) => search.holds(one, sets.goal))
  if (!start || !route) return null
  const rehearsal = yield* cover.play(search, route, true, isMet, start.before)
  return rehearsal && { ...rehearsal, steps: yield* shortened(search.stage, rehearsal.steps, isMet, steps.length) }
}

/** From so many of the last moments Play is tried to be brought to the goal. */
const tries = 4

/**
 * Finds the last moment of the steps that lose a goal from which it can still be met: from there on it is played. Null where
 * no play was found. Yields now and then.
 */
export function* lastSafeMoment(
  search: Search,
  sets: GoalSets,
  cover: Coverage,
  losing: readonly PlayStep[],
): Generator<undefined, LastSafe | null> {
  const { name } = search.stage.expanded.goals[sets.goal]!
  const bit = 1 << sets.goal
  let tried = 0
  for (let after = losing.length - 1; after >= 0 && tried < tries; after--) {
    yield
    const before = losing.slice(0, after)
    const index = situationOf(search, replay(search.stage, before))
    if (index >= 0 && !sets.canMeet.has(index)) continue
    tried++
    const holds = search.stage.tables.goals[sets.goal]!
    const isMet = (play: Play): boolean => (sets.again ? holds(play.registers(), 0) : play.goalsMet().includes(name))
    const here = yield* cover.seekFrom(before, (_regs, _patch, held) => (held & bit) !== 0, isMet)
    const rehearsal = here ?? (yield* alongSearch(search, sets, cover, before, isMet))
    if (rehearsal) return { after, steps: rehearsal.steps.slice(after) }
  }
  return null
}
