import { expect, test } from '@jest/globals'
import { Search } from '../../src/explore/index.ts'
import { findAll } from '../../src/findings/find-all.ts'
import { expandLevel, loadLevel, readLevel } from '../../src/interactables/index.ts'
import { finish, type Level } from '../../src/model/index.ts'
import { makeStage } from '../../src/play/index.ts'
import { textOf } from '../levels.ts'
import { randomLevel } from '../soak/levels.ts'

/** What is found in a level, and all answers; with a search that was made before, or without one. */
function answers(level: Level, isSearched: boolean): { readonly found: string[]; readonly all: string[] } | null {
  const reading = loadLevel(level)
  const expanded = expandLevel(reading.value!, reading.source)
  const search = new Search(makeStage(expanded), 'loose', 20_000)
  while (!search.advance(5000));
  if (!search.isComplete) return null
  const { found, questions } = finish(
    findAll(expanded, isSearched ? { isBrief: true, searched: search } : { budget: 200_000 }, null),
  )
  return {
    found: found.map(({ rule, subject }) => `${rule.name} ${subject}`),
    all: questions.map(({ rule, subject, answer }) => `${rule} ${subject} ${answer}`),
  }
}

test('in brief, over a search that was made before, the same is found as anew: in the draft of the tide mill, and in random levels', () => {
  const draft = readLevel(textOf('examples/levels/tide-mill-draft.level.yaml')).value!
  const levels = [draft, ...Array.from({ length: 12 }, (_, i) => randomLevel(300 + i).level)]
  let looked = 0
  for (const level of levels) {
    const anew = answers(level, false)
    if (!anew) continue
    looked++
    expect(answers(level, true)).toEqual(anew)
  }
  expect(looked).toBeGreaterThan(6)
}, 120_000)
