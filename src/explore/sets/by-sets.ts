import type { Observation } from '../observation.ts'
import { metIn, type SetsOfGoal, setsOfGoal } from './goal-sets.ts'
import { type PossibleKeys, possibleKeys } from './possible.ts'
import { SetProof, whyNotBySets } from './set-proof.ts'
import type { SetSearch } from './set-search.ts'
import { SureGraph } from './sure-graph.ts'

/** What sets tell of a level that is too large to look at every situation of it. */
export interface BySets {
  readonly search: SetSearch
  /** For each row whether it is ever taken. */
  readonly taken: Uint8Array
  /** For each goal asked about, whether it can ever be met, and what came of asking whether it can be lost. */
  readonly goals: ReadonlyMap<number, GoalBySets>
  /** All that may be seen. Null where that was not found out. */
  readonly possible: PossibleKeys | null
  /** The sure moves of the level; null where it is not one for that: see `whyNotBySets`. */
  readonly graph: SureGraph | null
}

export interface GoalBySets {
  readonly everMet: boolean
  /** Why it may be lost for good; null where it was proved that it cannot. */
  readonly whyUnsafe: string | null
  /** By place, in what it holds. */
  readonly met: Int32Array
  /** Where it may be lost, from which situations; else null. */
  readonly lost: SetsOfGoal | null
}

/**
 * Judges goals over all situations, and what may be seen in them. Clocks only run or not, so that what is never possible
 * here never is; the rest may be a matter of timing. With `again`, goals are asked to stay within reach also once they have been met.
 * Pauses now and then.
 */
export function* judgeBySets(
  search: SetSearch,
  goals: readonly number[],
  observations: readonly Observation[],
  again: boolean,
): Generator<undefined, BySets> {
  const why = search.storms ? 'signals without end stop the play' : whyNotBySets(search)
  const graph = why === null ? new SureGraph(search) : null
  const proof = graph && new SetProof(graph)
  const judged = new Map<number, GoalBySets>()
  for (const goal of goals) {
    judged.set(goal, yield* judgeGoal(search, proof, goal, why, again))
  }
  const possible = search.storms ? null : yield* possibleKeys(search, observations)
  return { search, taken: search.taken, goals: judged, possible, graph }
}

/** Whether sure moves lead to a goal from everywhere, which is quickly told; only else is it asked where it may be lost. */
function* judgeGoal(
  search: SetSearch,
  proof: SetProof | null,
  goal: number,
  why: string | null,
  again: boolean,
): Generator<undefined, GoalBySets> {
  const met = metIn(search, goal)
  const everMet = met.some((set) => set !== 0)
  const told = { everMet, met, lost: null }
  if (everMet && proof && (yield* proof.isSafeAtRest(met))) return { ...told, whyUnsafe: null }
  const sets = yield* setsOfGoal(search, goal, again, everMet && proof ? proof.byPlace : null)
  if (!sets) return { ...told, whyUnsafe: 'there is too much to tell whether it can be lost' }
  if (sets.canBeLost) {
    const whyUnsafe = 'there are situations from which it seems to be out of reach, and no play came to one'
    return { ...told, whyUnsafe, lost: sets }
  }
  const isSafe = proof && (yield* proof.isSafe(goal, met, sets.asked, true))
  return { ...told, whyUnsafe: isSafe ? null : (why ?? 'sure moves were not found from every situation') }
}
