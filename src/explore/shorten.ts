import type { Play, Stage } from '../play/index.ts'
import { Replays } from './replays.ts'
import type { PlayStep } from './steps.ts'

/**
 * Leaves out steps after the first `fixed`, as long as the rest still does what is wanted, until none can be left out. Yields
 * after each try.
 */
export function* shortened(
  stage: Stage,
  steps: readonly PlayStep[],
  isDone: (play: Play) => boolean,
  fixed = 0,
): Generator<undefined, PlayStep[]> {
  const replays = new Replays(stage)
  let kept = [...steps]
  // What was needed before may not be after others are left out: again, until nothing has changed.
  for (let before = -1; before !== kept.length;) {
    before = kept.length
    for (let i = kept.length - 1; i >= fixed; i--) {
      yield
      const fewer = kept.filter((_, at) => at !== i)
      if (isDone(replays.of(fewer))) kept = fewer
    }
  }
  return kept
}

/** Puts what one character does together, as far as that still does what is wanted: fewer changes of who acts. */
export function* grouped(
  stage: Stage,
  steps: readonly PlayStep[],
  isDone: (play: Play) => boolean,
): Generator<undefined, readonly PlayStep[]> {
  if (stage.expanded.characters.length === 1) return steps
  const replays = new Replays(stage)
  let kept = steps
  for (let i = 2; i < kept.length; i++) {
    const step = kept[i]!
    if (step.do === 'wait' || kept[i - 1]!.who === step.who) continue
    const before = kept.slice(0, i).findLastIndex((one) => one.who === step.who)
    if (before < 0 || kept.slice(before + 1, i).some((one) => one.do === 'wait')) continue
    yield
    const moved = [...kept.slice(0, before + 1), step, ...kept.slice(before + 1, i), ...kept.slice(i + 1)]
    if (isDone(replays.of(moved))) kept = moved
  }
  return kept
}
