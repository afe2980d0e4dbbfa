import { Play, type PlaySave, type Stage } from '../play/index.ts'
import { perform, type PlayStep } from './steps.ts'

/** After so many steps what a play has come to is kept. */
const apart = 4

/**
 * Plays lists of steps one after the other, each from the last moment kept that it has in common with the list before, instead of
 * from the start: where the same steps are gone through again and again with one of them left out, most of them need not be made.
 */
export class Replays {
  readonly #stage: Stage
  readonly #kept: { readonly after: number; readonly save: PlaySave }[] = []
  #last: readonly PlayStep[] = []

  constructor(stage: Stage) {
    this.#stage = stage
  }

  /** A play of its own in which these steps were made. */
  of(steps: readonly PlayStep[]): Play {
    let common = 0
    while (common < steps.length && steps[common] === this.#last[common]) common++
    while ((this.#kept.at(-1)?.after ?? 0) > common) this.#kept.pop()
    const from = this.#kept.at(-1)
    const play = new Play(this.#stage)
    if (from) play.restore(from.save)
    for (let at = from?.after ?? 0; at < steps.length; at++) {
      perform(play, steps[at]!)
      if ((at + 1) % apart === 0) this.#kept.push({ after: at + 1, save: play.save() })
    }
    this.#last = steps
    return play
  }
}
