import { expect, test } from '@jest/globals'
import { Play } from '../../src/play/index.ts'
import { contradicted, playAtRandom, trialOfProject, wrongIn } from './plays.ts'
import { randomProject } from './projects.ts'
import { Random } from './random.ts'
import { surelyWrong, toStandingSpots, unsafe } from './sure.ts'
import { minutely } from './telling.ts'

/** Situations to look up; more with `npm run soak`. */
const wanted = Number(process.env.ZINTEL_SOAK ?? 1500)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** Plays of a project, and inputs of a play. */
const [plays, inputs, sureMoves] = [6, 60, 40]

test(`random plays of random projects stay among what is possible: ${String(wanted)} situations`, () => {
  const seen = { projects: 0, tooLarge: 0, situations: 0, left: 0, sureMoves: 0, safe: 0 }
  const differences: string[] = []
  const tell = minutely('soak of projects')
  for (let number = seed; seen.situations < wanted; number++) {
    tell({ ...seen, differences })
    const trial = trialOfProject(randomProject(number))
    if (!trial) {
      seen.tooLarge++
      continue
    }
    seen.projects++
    const random = new Random(number)
    for (let i = 0; i < plays; i++) {
      let wrong: string | null = null
      const play = playAtRandom(trial, random, inputs, (now) => {
        seen.situations++
        wrong = wrongIn(trial, now)
        return wrong
      })
      seen.left += play.log.filter(({ what }) => what === 'leaves').length
      wrong ??= contradicted(trial, play)
      const goal = random.below(trial.stage.expanded.goals.length)
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
