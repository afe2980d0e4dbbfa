import type { Play } from '../play/index.ts'
import type { Shown, Sight } from './answers.ts'
import type { Coverage, StandingStart } from './cover.ts'
import { FreshEye, type Lookout } from './lookout.ts'
import { type OnMade, wander } from './roam.ts'
import type { Search } from './search.ts'
import { replay } from './steps.ts'
import { played, thinned } from './thin.ts'
import type { TrailMove } from './trail.ts'

/** Where something was seen far off: the moves to it, the last of which is what is done there. */
interface Far {
  readonly lookout: Lookout
  readonly moves: readonly TrailMove[]
}

/**
 * Looks out, on a way through all of a level that is too large to look at everything, for what is possible and was not shown
 * yet, and plays what leads to it; adds that to `sights`.
 */
export function* findFarSights(
  search: Search,
  cover: Coverage,
  lookouts: readonly Lookout[],
  possible: ReadonlySet<string>,
  sights: Map<string, Sight>,
): Generator<undefined, void> {
  const wanted = new Set([...possible].filter((key) => !sights.get(key)?.shown))
  const start = wanted.size > 0 ? yield* cover.standingStart() : null
  if (!start) return
  for (const [key, { lookout, moves }] of yield* seenFarOff(search, cover, start, lookouts, wanted)) {
    if (lookout.isKnown?.(key, cover.moments)) {
      sights.set(key, { shown: { steps: [], short: false } })
      continue
    }
    const shown = yield* shownAfter(cover, lookout, key, moves)
    if (shown) sights.set(key, { shown })
    yield
  }
}

/** By its key, the first way found to each thing that is wanted. */
function* seenFarOff(
  search: Search,
  cover: Coverage,
  start: StandingStart,
  lookouts: readonly Lookout[],
  wanted: ReadonlySet<string>,
): Generator<undefined, ReadonlyMap<string, Far>> {
  const found = new Map<string, Far>()
  let way: () => TrailMove[] = () => []
  const eye = new FreshEye(search, cover.sure.packing, lookouts, (lookout, key, { kind, what, patch }) => {
    // What must be out of reach for good cannot be told without everything that is possible.
    if (found.has(key) || (lookout.forGood?.(key) ?? null) !== null || !wanted.has(key)) return
    const last = kind < 0 ? [] : [{ kind, what, patch, ms: -1 }]
    found.set(key, { lookout, moves: [...way(), ...last] })
  })
  const onNew: OnMade = ({ regs, patch, trail }, { moves }) => {
    way = () => [...moves, ...trail()]
    eye.look(regs, patch)
    return found.size === wanted.size
  }
  // What is refused for want of something is seen only by those who come without it.
  for (const isEmptyHanded of [false, true]) {
    if (found.size < wanted.size) yield* wander(cover, start, onNew, isEmptyHanded)
  }
  return found
}

/**
 * Plays moves until something is shown, and gives what is told of it: where it is a fault, few steps, and those that go on to
 * show more. Null where it is not shown, or these show that it is not so.
 */
export function* shownAfter(
  cover: Coverage,
  lookout: Lookout,
  key: string,
  moves: readonly TrailMove[],
): Generator<undefined, Shown | null> {
  const isShown = (play: Play): boolean => lookout.isShown(key, play)
  if (!lookout.isFault(key)) return (yield* played(cover, moves, isShown)) && { steps: [], short: false }
  const steps = yield* thinned(cover, moves, isShown)
  if (!steps) return null
  const more = lookout.goOn ? lookout.goOn(key, replay(cover.stage, steps)) : []
  return more && { steps: [...steps, ...more], short: true }
}
