import type { Play } from '../play/index.ts'
import type { Coverage } from './cover.ts'
import { Inputs } from './inputs.ts'
import { type PlayStep, rehearse, type Rehearsal, runsOf, shortened } from './steps.ts'
import { tidied } from './tidy.ts'
import type { TrailMove } from './trail.ts'

/** How often less than all moves of a way are tried, to leave out what is not needed. */
const mostTries = 240

/** Plays moves until something is shown, however many steps that takes; null where Play goes another way. */
export function* played(
  cover: Coverage,
  moves: readonly TrailMove[],
  isShown: (play: Play) => boolean,
): Generator<undefined, Rehearsal | null> {
  return (yield* rehearsed(cover, [moves], false, isShown)) ?? (yield* rehearsed(cover, [moves], true, isShown))
}

/**
 * The same in few steps: first large parts that follow one another are left out, then each stretch from anywhere, so that a
 * way there and back goes as one, as long as the rest still shows it (compare Zeller and Hildebrandt 2002).
 */
export function* thinned(
  cover: Coverage,
  moves: readonly TrailMove[],
  isShown: (play: Play) => boolean,
): Generator<undefined, readonly PlayStep[] | null> {
  const exact = !(yield* rehearsed(cover, [moves], false, isShown))
  let kept = runsOf(new Inputs(cover.stage.tables), moves)
  let best = yield* rehearsed(cover, kept, exact, isShown)
  if (!best) return null
  let tries = 0
  for (const isClose of [false, true]) {
    for (let size = kept.length >> 1; size > 0; size = isClose ? size - 1 : size >> 1) {
      for (let at = kept.length - size; at > -size && tries < mostTries; at -= isClose ? 1 : size) {
        const fewer = kept.filter((_, i) => i < at || i >= at + size)
        if (fewer.length === kept.length) continue
        tries++
        const rehearsal = yield* rehearsed(cover, fewer, exact, isShown)
        if (!rehearsal) continue
        best = rehearsal
        kept = fewer
      }
    }
  }
  // Last, step by step, so that none of them can be left out.
  return yield* shortened(cover.stage, yield* tidied(cover.stage, best.steps, isShown), isShown)
}

function* rehearsed(
  cover: Coverage,
  runs: readonly (readonly TrailMove[])[],
  exact: boolean,
  isShown: (play: Play) => boolean,
): Generator<undefined, Rehearsal | null> {
  const rehearsal = yield* rehearse(cover.stage, runs.flat(), { direct: !exact, exact, hasWaited: isShown })
  return rehearsal && isShown(rehearsal.play) ? rehearsal : null
}
