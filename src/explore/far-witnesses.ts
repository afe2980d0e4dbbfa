import type { Play } from '../play/index.ts'
import type { Shown, Witness } from './answers.ts'
import type { Coverage, StandingStart } from './cover.ts'
import { FreshEye, type Observation } from './observation.ts'
import { type OnMade, wander } from './roam.ts'
import type { Search } from './search.ts'
import { replay } from './steps.ts'
import { played, thinned } from './thin.ts'
import type { TrailMove } from './trail.ts'

/** Where something was seen far off: the moves to it, the last of which is what is done there. */
interface Far {
  readonly observation: Observation
  readonly moves: readonly TrailMove[]
}

/**
 * Looks out, on a way through all of a level that is too large to look at everything, for what is possible and was not shown
 * yet, and plays what leads to it; adds that to `witnesses`.
 */
export function* findFarWitnesses(
  search: Search,
  cover: Coverage,
  observations: readonly Observation[],
  possible: ReadonlySet<string>,
  witnesses: Map<string, Witness>,
): Generator<undefined, void> {
  const wanted = new Set([...possible].filter((key) => !witnesses.get(key)?.shown))
  const start = wanted.size > 0 ? yield* cover.standingStart() : null
  if (!start) return
  for (const [key, { observation, moves }] of yield* seenFarOff(search, cover, start, observations, wanted)) {
    if (observation.isKnown?.(key, cover.moments)) {
      witnesses.set(key, { shown: { steps: [], short: false } })
      continue
    }
    const shown = yield* shownAfter(cover, observation, key, moves)
    if (shown) witnesses.set(key, { shown })
    yield
  }
}

/** By its key, the first way found to each thing that is wanted. */
function* seenFarOff(
  search: Search,
  cover: Coverage,
  start: StandingStart,
  observations: readonly Observation[],
  wanted: ReadonlySet<string>,
): Generator<undefined, ReadonlyMap<string, Far>> {
  const found = new Map<string, Far>()
  let way: () => TrailMove[] = () => []
  const eye = new FreshEye(search, cover.sure.packing, observations, (observation, key, { kind, what, patch }) => {
    // What must be out of reach for good cannot be told without everything that is possible.
    if (found.has(key) || (observation.forGood?.(key) ?? null) !== null || !wanted.has(key)) return
    const last = kind < 0 ? [] : [{ kind, what, patch, ms: -1 }]
    found.set(key, { observation, moves: [...way(), ...last] })
  })
  const onNew: OnMade = ({ regs, patch, trail }, { moves }) => {
    way = () => [...moves, ...trail()]
    eye.look(regs, patch)
    return found.size === wanted.size
  }
  // What is refused for want of something is seen only by those who come without it.
  for (const isEmptyHanded of [false, true]) {
    if (found.size < wanted.size) yield* wander(cover, start, onNew, { isEmptyHanded })
  }
  return found
}

/**
 * Plays moves until something is shown, and gives what is told of it: where it is a fault, few steps, and those that go on to
 * show more. Null where it is not shown, or these show that it is not so.
 */
export function* shownAfter(
  cover: Coverage,
  observation: Observation,
  key: string,
  moves: readonly TrailMove[],
): Generator<undefined, Shown | null> {
  const isShown = (play: Play): boolean => observation.isShown(key, play)
  if (!observation.isFault(key)) return (yield* played(cover, moves, isShown)) && { steps: [], short: false }
  const steps = yield* thinned(cover, moves, isShown)
  if (!steps) return null
  const more = observation.goOn ? observation.goOn(key, replay(cover.stage, steps)) : []
  return more && { steps: [...steps, ...more], short: true }
}
