import { expect, test } from '@jest/globals'
import { type Feature, features, randomLevel } from './levels.ts'
import { Play } from '../../src/play/index.ts'
import { contradicted, counted, playAtRandom, trialOf, wrongIn } from './plays.ts'
import { Random } from './random.ts'
import { surelyWrong, toStandingSpots, unsafe } from './sure.ts'
import { minutely } from './telling.ts'

/** Situations to look up; more with `npm run soak`. */
const wanted = Number(process.env.ZINTEL_SOAK ?? 6000)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** Plays of a level, and inputs of a play. */
const [plays, inputs, sureMoves] = [6, 60, 40]

test(`random plays of random levels stay among what is possible: ${String(wanted)} situations`, () => {
  const seen = { levels: 0, tooLarge: 0, situations: 0, questions: 0, undecided: 0, sureMoves: 0, safe: 0 }
  const having = new Map<Feature, number>(features.map((feature) => [feature, 0]))
  const differences: string[] = []
  const tell = minutely('soak')
  for (let number = seed; seen.situations < wanted; number++) {
    tell({ ...seen, differences })
    const { level, has } = randomLevel(number)
    const trial = trialOf(level)
    if (!trial) {
      seen.tooLarge++
      continue
    }
    seen.levels++
    for (const feature of has) having.set(feature, having.get(feature)! + 1)
    const { all, undecided } = counted(trial.report)
    seen.questions += all
    seen.undecided += undecided
    const random = new Random(number)
    for (let i = 0; i < plays; i++) {
      let wrong: string | null = null
      const play = playAtRandom(trial, random, inputs, (now) => {
        seen.situations++
        wrong = wrongIn(trial, now)
        return wrong
      })
      wrong ??= contradicted(trial, play)
      if (wrong === null) {
        const { wrong: said, tried } = unsafe(trial, play)
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
      if (wrong === null) continue
      differences.push(`level ${String(number)}, play ${String(i)}: ${wrong}`)
      break
    }
    if (differences.length >= 10) break
  }
  console.info(JSON.stringify({ ...seen, ...Object.fromEntries(having) }))
  expect(differences).toEqual([])
}, 36_000_000)
