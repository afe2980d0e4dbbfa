import type { Lookout } from '../lookout.ts'
import { setsOfGoal } from './goal-sets.ts'
import { possibleKeys } from './possible.ts'
import { SetProof, whyNotBySets } from './set-proof.ts'
import type { SetSearch } from './set-search.ts'

/** What sets tell of a level that is too large to look at every situation of it. */
export interface BySets {
  readonly search: SetSearch
  /** For each row whether it is ever taken. */
  readonly taken: Uint8Array
  /** For each goal asked about, whether it can ever be met, and what came of asking whether it can be lost. */
  readonly goals: ReadonlyMap<number, GoalBySets>
  /** Keys of all that may be seen: what is not among them never is. Null where that was not found out. */
  readonly possible: ReadonlySet<string> | null
}

export interface GoalBySets {
  readonly everMet: boolean
  /** Why it may be lost for good; null where it was proved that it cannot. */
  readonly whyUnsafe: string | null
}

/**
 * Judges goals over all situations, and what may be seen in them. Clocks only run or not, so that what is never possible
 * here never is; the rest may be a matter of timing. Pauses now and then.
 */
export function* judgeBySets(
  search: SetSearch,
  goals: readonly number[],
  lookouts: readonly Lookout[],
): Generator<undefined, BySets> {
  const proof = new SetProof(search)
  const why = search.storms ? 'signals without end stop the play' : whyNotBySets(search)
  const judged = new Map<number, GoalBySets>()
  for (const goal of goals) {
    const sets = yield* setsOfGoal(search, goal)
    if (!sets) continue
    const whyUnsafe = sets.canBeLost
      ? 'there are situations from which it seems to be out of reach, and no play came to one'
      : (why ?? ((yield* proof.isSafe(sets, goal)) ? null : 'sure moves were not found from every situation'))
    judged.set(goal, { everMet: sets.everMet, whyUnsafe })
  }
  const possible = search.storms ? null : yield* possibleKeys(search, lookouts)
  return { search, taken: search.taken, goals: judged, possible }
}
