import { expect, test } from '@jest/globals'
import { trialOf } from './plays.ts'
import { Random } from './random.ts'
import { playedOnce, plays } from './rounds.ts'
import { stackedLevel } from './storeys.ts'
import { minutely } from './telling.ts'

/** Situations to look up; more with `npm run soak`. */
const wanted = Number(process.env.ZINTEL_SOAK ?? 1500)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

test(`random plays of random storeys stay among what is possible: ${String(wanted)} situations`, () => {
  const seen = { levels: 0, tooLarge: 0, situations: 0, through: 0, moved: 0, sureMoves: 0, safe: 0 }
  const differences: string[] = []
  const tell = minutely('soak of storeys')
  for (let number = seed; seen.situations < wanted; number++) {
    tell({ ...seen, differences })
    const level = stackedLevel(number)
    if (!level) continue
    const trial = trialOf(level)
    if (!trial) {
      seen.tooLarge++
      continue
    }
    const { storeys, figures } = trial.stage.space.layout
    // Rooms that are drawn over one another: that is told, and nothing is pressed through floors.
    if (!storeys) continue
    seen.levels++
    for (const { patches } of trial.stage.space.patches) {
      for (const { spot, signature } of patches) {
        const on = storeys.at(spot)
        if (signature.candidates.some((one) => figures[one.interactable]!.storey !== on)) seen.through++
      }
    }
    const random = new Random(number)
    for (let i = 0; i < plays; i++) {
      const { wrong, play } = playedOnce(trial, random, seen, () => 0)
      seen.moved += play.log.filter(({ what }) => what === 'moved').length
      if (wrong === null) continue
      differences.push(`level ${String(number)}, play ${String(i)}: ${wrong}`)
      break
    }
    if (differences.length >= 10) break
  }
  console.info(JSON.stringify(seen))
  expect(differences).toEqual([])
  expect(seen.through).toBeGreaterThan(seen.levels)
  expect(seen.moved).toBeGreaterThan(seen.levels)
}, 36_000_000)
