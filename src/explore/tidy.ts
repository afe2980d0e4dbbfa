import type { Play, Stage } from '../play/index.ts'
import { type Point, wayToSpot } from '../space/index.ts'
import { Replays } from './replays.ts'
import { type PlayStep, rounded } from './steps.ts'

/**
 * Puts walks and waits that follow one another together, as far as that still does what is wanted and takes no longer: one
 * walk, or a walk, a wait and a walk. Yields after each try.
 */
export function* tidied(
  stage: Stage,
  steps: readonly PlayStep[],
  isDone: (play: Play) => boolean,
): Generator<undefined, readonly PlayStep[]> {
  const replays = new Replays(stage)
  let kept = steps
  for (let start = 0; start < kept.length; start++) {
    const end = runEnd(kept, start)
    if (end - start < 2) continue
    const [before, run, after] = [kept.slice(0, start), kept.slice(start, end), kept.slice(end)]
    const { now } = replays.of(kept)
    for (const shorter of [inOneWalk, inTwoWalks]) {
      yield
      const put = shorter(replays, before, run)
      if (!put || put.length >= run.length) continue
      const play = replays.of([...before, ...put, ...after])
      if (!isDone(play) || play.now > now) continue
      kept = [...before, ...put, ...after]
      break
    }
  }
  return kept
}

/** Where a run of walks of one character, and waits, ends. */
function runEnd(steps: readonly PlayStep[], start: number): number {
  const first = steps[start]!
  if (first.do !== 'walk-to') return start
  const end = steps.findIndex(
    (step, i) => i > start && !(step.do === 'wait' || (step.do === 'walk-to' && step.who === first.who)),
  )
  return end < 0 ? steps.length : end
}

function inOneWalk(replays: Replays, before: readonly PlayStep[], run: readonly PlayStep[]): PlayStep[] | null {
  const walk = directly(replays.of(before), run)
  return walk && [walk]
}

/** Straight to where the last wait is, and on from there once it is over. */
function inTwoWalks(replays: Replays, before: readonly PlayStep[], run: readonly PlayStep[]): PlayStep[] | null {
  const wait = run.findLastIndex((step) => step.do === 'wait')
  if (wait < 0) return null
  const until = replays.of([...before, ...run.slice(0, wait + 1)]).now
  const first = directly(replays.of(before), run.slice(0, wait))
  if (!first) return null
  const ms = until - replays.of([...before, first]).now
  const rest: PlayStep[] = ms > 0 ? [first, { who: 0, do: 'wait', ms }] : [first]
  if (wait === run.length - 1) return rest
  const last = directly(replays.of([...before, ...rest]), run.slice(wait + 1))
  return last && [...rest, last]
}

/** One walk to where some walks lead; null where there is no way just then. */
function directly(play: Play, run: readonly PlayStep[]): PlayStep | null {
  const last = run.findLast((step) => step.do === 'walk-to')
  const end = last?.via.at(-1)
  if (!last || !end) return null
  const spot: Point = [end[0], end[1]]
  const way = wayToSpot(play.stage.space, last.who, play.spotOf(last.who), spot, play.blocking())
  return way && { ...last, via: way.via.map(rounded) }
}
