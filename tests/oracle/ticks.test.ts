import { expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { type Evidence, exploreNow } from '../../src/explore/index.ts'
import { rules } from '../../src/findings/index.ts'
import { expandLevel, loadLevel } from '../../src/interactables/index.ts'
import { makeStage } from '../../src/play/index.ts'
import { pairs } from './levels.ts'

const runs = Number(process.env.ZINTEL_ORACLE_RUNS ?? 10)

function answers({ dead, unreachable, softLocks, witnesses, gap }: Evidence, keys: readonly string[]): string[] {
  const seen = keys.map((key) => {
    const sight = witnesses.get(key)
    return sight ? (sight.shown ? 'found' : 'undecided') : gap === null ? 'ruled-out' : 'undecided'
  })
  return [...[...dead, ...unreachable, ...softLocks].map((one) => one?.answer ?? 'not asked'), ...seen]
}

test(`looking first whether time matters changes no answer, on ${String(runs)} random levels`, () => {
  let compared = 0
  fc.assert(
    fc.property(pairs, ({ level }) => {
      const reading = loadLevel(level)
      const stage = makeStage(expandLevel(reading.value!, reading.source))
      const observations = rules.flatMap((rule) => rule.observation?.(stage) ?? [])
      const plain = exploreNow(stage, { ticksOnly: true, budget: 60_000, observations })
      if (!plain.counts.complete) return
      const quick = exploreNow(stage, { observations })
      const keys = [...new Set([...plain.witnesses.keys(), ...quick.witnesses.keys()])]
      compared++
      // What the quick way settles, the plain way settles too, and alike; it may also settle more.
      const [one, other] = [answers(quick, keys), answers(plain, keys)]
      for (const [i, answer] of other.entries())
        if (answer !== 'undecided') expect(`${String(i)} ${one[i]!}`).toBe(`${String(i)} ${answer}`)
    }),
    { numRuns: runs, seed: 77 },
  )
  expect(compared).toBeGreaterThan(runs / 2)
}, 900_000)
