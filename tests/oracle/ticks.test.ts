import { expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { type Evidence, exploreNow } from '../../src/explore/index.ts'
import { expandLevel, loadLevel } from '../../src/interactables/index.ts'
import { makeStage } from '../../src/play/index.ts'
import { pairs } from './levels.ts'

const runs = Number(process.env.ZINTEL_ORACLE_RUNS ?? 40)

function answers({ dead, unreachable, softLocks, refused }: Evidence): string[] {
  return [...dead, ...unreachable, ...softLocks, ...refused].map((one) => one?.answer ?? 'not asked')
}

test(`looking first whether time matters changes no answer, on ${String(runs)} random levels`, () => {
  let compared = 0
  fc.assert(
    fc.property(pairs, ({ level }) => {
      const reading = loadLevel(level)
      const stage = makeStage(expandLevel(reading.value!, reading.source))
      const plain = exploreNow(stage, { ticksOnly: true, budget: 60_000 })
      if (!plain.counts.complete) return
      const quick = exploreNow(stage)
      compared++
      // What the quick way settles, the plain way settles too, and alike; it may also settle more.
      const [one, other] = [answers(quick), answers(plain)]
      for (const [i, answer] of other.entries())
        if (answer !== 'open') expect(`${String(i)} ${one[i]!}`).toBe(`${String(i)} ${answer}`)
    }),
    { numRuns: runs, seed: 77 },
  )
  expect(compared).toBeGreaterThan(runs / 2)
}, 900_000)
