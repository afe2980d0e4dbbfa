import type { Play } from '../play/index.ts'
import type { Coverage } from './cover.ts'
import { Inputs } from './inputs.ts'
import { whoMoves } from './routes.ts'
import { shortened } from './shorten.ts'
import { type Manner, type PlayedTo, type PlayStep, rehearse, type Rehearsal, runsOf } from './steps.ts'
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
  const inputs = new Inputs(cover.stage.tables)
  const thinning = new Thinning(
    cover,
    exact,
    isShown,
    moves.every(({ kind, what }) => whoMoves(inputs, kind, what) <= 0),
  )
  let kept = runsOf(inputs, moves)
  if (!(yield* thinning.keeps(kept, 0))) return null
  let tries = 0
  for (const isClose of [false, true]) {
    for (let size = kept.length >> 1; size > 0; size = isClose ? size - 1 : size >> 1) {
      for (let at = kept.length - size; at > -size && tries < mostTries; at -= isClose ? 1 : size) {
        const fewer = kept.filter((_, i) => i < at || i >= at + size)
        if (fewer.length === kept.length) continue
        tries++
        if (yield* thinning.keeps(fewer, at)) kept = fewer
      }
    }
  }
  // Last, step by step, so that none of them can be left out.
  return yield* shortened(cover.stage, yield* tidied(cover.stage, thinning.steps, isShown), isShown)
}

/** Tries whether less than before still shows something: from the last press that it has in common with what did. */
class Thinning {
  /** The steps of the last that showed it. */
  steps: readonly PlayStep[] = []
  readonly #cover: Coverage
  readonly #exact: boolean
  readonly #isShown: (play: Play) => boolean
  readonly #isOfOne: boolean
  /** Moments of its play. */
  #moments: readonly PlayedTo[] = []

  constructor(cover: Coverage, exact: boolean, isShown: (play: Play) => boolean, isOfOne: boolean) {
    this.#cover = cover
    this.#exact = exact
    this.#isShown = isShown
    this.#isOfOne = isOfOne
  }

  /** Whether runs of moves, the first `same` of which are as they were, still show it. */
  *keeps(runs: readonly (readonly TrailMove[])[], same: number): Generator<undefined, boolean> {
    const alike = runs.slice(0, Math.max(0, same)).reduce((sum, run) => sum + run.length, 0)
    const common = this.#moments.filter(({ moves }) => moves <= alike)
    const moments = [...common]
    const rehearsal = yield* rehearsed(this.#cover, runs, this.#exact, this.#isShown, {
      from: common.at(-1) ?? null,
      ...(this.#isOfOne && { onPress: (moment: PlayedTo) => void moments.push(moment) }),
    })
    if (!rehearsal) return false
    this.#moments = moments
    this.steps = rehearsal.steps
    return true
  }
}

function* rehearsed(
  cover: Coverage,
  runs: readonly (readonly TrailMove[])[],
  exact: boolean,
  isShown: (play: Play) => boolean,
  more: Pick<Manner, 'from' | 'onPress'> = {},
): Generator<undefined, Rehearsal | null> {
  const manner = { direct: !exact, exact, hasWaited: isShown, ...more }
  const rehearsal = yield* rehearse(cover.stage, runs.flat(), manner)
  return rehearsal && isShown(rehearsal.play) ? rehearsal : null
}
