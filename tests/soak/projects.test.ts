import { expect, test } from '@jest/globals'
import { trialOfProject } from './plays.ts'
import { randomProject } from './projects.ts'
import { Random } from './random.ts'
import { playedOnce, plays } from './rounds.ts'
import { minutely } from './telling.ts'

/** Situations to look up; more with `npm run soak`. */
const wanted = Number(process.env.ZINTEL_SOAK ?? 1500)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

test(`random plays of random projects stay among what is possible: ${String(wanted)} situations`, () => {
  const seen = { projects: 0, tooLarge: 0, situations: 0, left: 0, sureMoves: 0, safe: 0 }
  const differences: string[] = []
  const tell = minutely('soak of projects')
  for (let number = seed; seen.situations < wanted; number++) {
    tell({ ...seen, differences })
    const random = new Random(number)
    const trial = trialOfProject(randomProject(number), random)
    if (!trial) {
      seen.tooLarge++
      continue
    }
    seen.projects++
    for (let i = 0; i < plays; i++) {
      const { wrong, play } = playedOnce(trial, random, seen, () => random.below(trial.stage.expanded.goals.length))
      seen.left += play.log.filter(({ what }) => what === 'leaves').length
      if (wrong === null) continue
      differences.push(`project ${String(number)}, play ${String(i)}: ${wrong}`)
      break
    }
    if (differences.length >= 10) break
  }
  console.info(JSON.stringify(seen))
  expect(differences).toEqual([])
  expect(seen.left).toBeGreaterThan(seen.projects)
}, 36_000_000)
