import type { Play, Stage } from '../play/index.ts'
import type { Shown, Sight } from './answers.ts'
import type { Coverage, StandingStart } from './cover.ts'
import { Inputs } from './inputs.ts'
import { Eye, type Lookout } from './lookout.ts'
import { type OnMade, wander } from './roam.ts'
import type { Search } from './search.ts'
import { type PlayStep, rehearse, type Rehearsal, replay, runsOf } from './steps.ts'
import { Store } from './store.ts'
import { tidied } from './tidy.ts'
import type { TrailMove } from './trail.ts'

/** How often less than all moves of a way are tried, to leave out what is not needed. */
const mostTries = 240

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
    const isShown = (play: Play): boolean => lookout.isShown(key, play)
    const way = yield* playedTo(cover, moves, isShown, lookout.isFault(key))
    const shown = way && shownBy(cover.stage, lookout, key, lookout.isFault(key) ? way.steps : [])
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
  const { at } = search.stage.tables
  const { packing } = cover.sure
  const seen = new Store(packing.words, packing.patchMask)
  const packed = new Int32Array(packing.words)
  const found = new Map<string, Far>()
  let way: () => TrailMove[] = () => []
  const eye = new Eye(search, lookouts, (lookout, key, { kind, what, patch }) => {
    // What must be out of reach for good cannot be told without everything that is possible.
    if (found.has(key) || (lookout.forGood?.(key) ?? null) !== null || !wanted.has(key)) return
    const last = kind < 0 ? [] : [{ kind, what, patch, ms: -1 }]
    found.set(key, { lookout, moves: [...way(), ...last] })
  })
  const loose = new Int32Array(at.size)
  const onNew: OnMade = ({ regs, patch, trail }, { moves }) => {
    packing.pack(regs, patch, packed, 0)
    const before = seen.count
    if (seen.add(packed) < before) return false
    loose.set(regs)
    for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) if (loose[i]! > 0) loose[i] = 1
    way = () => [...moves, ...trail()]
    eye.look(loose, patch)
    return found.size === wanted.size
  }
  // What is refused for want of something is seen only by those who come without it.
  for (const isEmptyHanded of [false, true]) {
    if (found.size < wanted.size) yield* wander(cover, start, onNew, isEmptyHanded)
  }
  return found
}

/** Plays moves until something is shown; where the steps are told, what is not needed for it is left out. */
function* playedTo(
  cover: Coverage,
  moves: readonly TrailMove[],
  isShown: (play: Play) => boolean,
  isTold: boolean,
): Generator<undefined, Rehearsal | null> {
  const { stage } = cover
  const runs = runsOf(new Inputs(stage.tables), moves)
  const play = function* (some: readonly TrailMove[][], exact: boolean): Generator<undefined, Rehearsal | null> {
    const manner = { direct: !exact, exact, hasWaited: isShown }
    const rehearsal = yield* rehearse(stage, some.flat(), manner)
    return rehearsal && isShown(rehearsal.play) ? rehearsal : null
  }
  const direct = yield* play(runs, false)
  if (!direct || !isTold) return direct ?? (yield* play(runs, true))
  let best = direct
  let kept = runs
  let tries = 0
  // First large parts that follow one another, then each stretch from anywhere: a way there and back goes as one.
  for (const isClose of [false, true]) {
    for (let size = kept.length >> 1; size > 0; size = isClose ? size - 1 : size >> 1) {
      for (let at = kept.length - size; at > -size && tries < mostTries; at -= isClose ? 1 : size) {
        const fewer = kept.filter((_, i) => i < at || i >= at + size)
        if (fewer.length === kept.length) continue
        const rehearsal = yield* play(fewer, false)
        tries++
        if (!rehearsal) continue
        best = rehearsal
        kept = fewer
      }
    }
  }
  const steps = yield* tidied(stage, best.steps, isShown)
  return { play: best.play, steps }
}

/** What is told of it: the steps, and those that go on to show more. Null where these show that it is not so. */
function shownBy(stage: Stage, lookout: Lookout, key: string, steps: readonly PlayStep[]): Shown | null {
  const more = lookout.goOn ? lookout.goOn(key, replay(stage, steps)) : []
  return more && { steps: [...steps, ...more], short: true }
}
