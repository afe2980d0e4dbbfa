import { Play } from '../../src/play/index.ts'
import { contradicted, playAtRandom, type Trial, wrongIn } from './plays.ts'
import type { Random } from './random.ts'
import { surelyWrong, toStandingSpots, unsafe } from './sure.ts'

/** How often a level is played at random. */
export const plays = 6

/** Inputs of a play, and sure moves that are made beside it. */
const [inputs, sureMoves] = [60, 40]

/** What was looked at so far. */
export interface Seen {
  situations: number
  sureMoves: number
  safe: number
}

/**
 * Plays at random once, and asks whether what is said to be safe can still be met from there; then makes sure moves in another play. What
 * was wrong, or null, and the play.
 */
export function playedOnce(
  trial: Trial,
  random: Random,
  seen: Seen,
  pickGoal: () => number,
): { readonly wrong: string | null; readonly play: Play } {
  let wrong: string | null = null
  const play = playAtRandom(trial, random, inputs, (now) => {
    seen.situations++
    wrong = wrongIn(trial, now)
    return wrong
  })
  wrong ??= contradicted(trial, play)
  const goal = pickGoal()
  if (wrong === null) {
    const { wrong: said, tried } = unsafe(trial, play, goal)
    if (tried) seen.safe++
    wrong = said
  }
  if (wrong === null) {
    const fresh = new Play(trial.stage)
    const said = toStandingSpots(trial.stage, fresh)
    if (said === null) {
      seen.sureMoves += sureMoves
      wrong = surelyWrong(trial, fresh, random, sureMoves)
    } else if (said !== 'unsure') wrong = said
  }
  return { wrong, play }
}
