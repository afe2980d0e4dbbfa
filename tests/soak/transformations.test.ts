import { expect, test } from '@jest/globals'
import { checkNow, type Question } from '../../src/findings/index.ts'
import { loadLevel } from '../../src/interactables/index.ts'
import type { Level } from '../../src/model/index.ts'
import { randomLevel } from './levels.ts'
import { minutely } from './telling.ts'
import { transformations } from './transformed.ts'

const wanted = Number(process.env.ZINTEL_TRANSFORMED ?? 5)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** Situations that are looked at in a level; larger ones are passed over. */
const budget = 20_000

function questionsOf(level: Level): readonly Question[] {
  const reading = loadLevel(level)
  if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics))
  return checkNow(reading.value, reading.source, { budget, grouping: false }).questions
}

test(`no answer changes where a level is moved, turned, mirrored, renamed, reordered or slowed: ${String(wanted)} levels`, () => {
  const seen = { levels: 0, compared: 0, oneSided: 0 }
  const differences: string[] = []
  const tell = minutely('transformations')
  for (let number = seed; seen.levels < wanted; number++) {
    tell({ ...seen, differences })
    const { level } = randomLevel(number)
    const before = questionsOf(level)
    if (before.some(({ why }) => why?.includes('budget') ?? false)) continue
    seen.levels++
    for (const { name, level: changed, subject } of transformations) {
      const after = questionsOf(changed(level))
      const answers = new Map(after.map((one) => [`${one.rule} ${subject?.(one.subject) ?? one.subject}`, one.answer]))
      for (const one of before) {
        const other = answers.get(`${one.rule} ${one.subject}`)
        seen.compared++
        if (other === one.answer) continue
        if (one.answer === 'undecided' || other === 'undecided') seen.oneSided++
        else
          differences.push(
            `level ${String(number)} ${name}: ${one.rule} ${one.subject} ${one.answer}, then ${String(other)}`,
          )
      }
    }
    if (differences.length > 20) break
  }
  console.info(JSON.stringify(seen))
  expect(differences).toEqual([])
  expect(seen.oneSided).toBeLessThanOrEqual(seen.compared / 100)
}, 36_000_000)
