import { expect, test } from '@jest/globals'
import { type Feature, features, randomLevel } from './levels.ts'
import { counted, trialOf } from './plays.ts'
import { Random } from './random.ts'
import { playedOnce, plays } from './rounds.ts'
import { minutely } from './telling.ts'

/** Situations to look up; more with `npm run soak`. */
const wanted = Number(process.env.ZINTEL_SOAK ?? 6000)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

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
      const { wrong } = playedOnce(trial, random, seen, () => 0)
      if (wrong === null) continue
      differences.push(`level ${String(number)}, play ${String(i)}: ${wrong}`)
      break
    }
    if (differences.length >= 10) break
  }
  console.info(JSON.stringify({ ...seen, ...Object.fromEntries(having) }))
  expect(differences).toEqual([])
}, 36_000_000)
