import { expect, test } from '@jest/globals'
import { Replays } from '../../src/explore/replays.ts'
import { type PlayStep, replay } from '../../src/explore/steps.ts'
import { exploreNow } from '../../src/explore/index.ts'
import { rules } from '../../src/findings/index.ts'
import { expandLevel, loadLevel } from '../../src/interactables/index.ts'
import { makeStage, type Stage } from '../../src/play/index.ts'
import { staged, textOf } from '../levels.ts'
import { randomLevel } from '../soak/levels.ts'
import { Random } from '../soak/random.ts'

/** The longest lists of steps of all that is shown in a level. */
function stepsIn(stage: Stage): (readonly PlayStep[])[] {
  const observations = rules.flatMap((rule) => rule.observation?.(stage) ?? [])
  const { witnesses, losses } = exploreNow(stage, { budget: 1000, observations })
  const all = [
    ...[...witnesses.values()].flatMap(({ shown }) => (shown ? [shown.steps] : [])),
    ...losses.flat().map(({ steps }) => steps),
  ]
  return all.sort((a, b) => b.length - a.length).slice(0, 12)
}

test('steps that begin as others did come to what they come to from the start', () => {
  const random = new Random(31)
  const stages = [staged(textOf('examples/levels/tide-mill-draft.level.yaml'))]
  for (let number = 4400; stages.length < 6; number++) {
    const { value, source } = loadLevel(randomLevel(number).level)
    stages.push(makeStage(expandLevel(value!, source)))
  }
  const seen = { lists: 0, steps: 0 }
  for (const stage of stages) {
    const replays = new Replays(stage)
    for (const whole of stepsIn(stage)) {
      // As they are shortened: some left out, from the end, some of them for good.
      let steps = whole
      for (let at = whole.length - 1; at >= 0; at -= 1 + random.below(2)) {
        const fewer = steps.filter((_, i) => i !== at)
        const [one, other] = [replays.of(fewer), replay(stage, fewer)]
        expect([one.now, one.ended, one.log, one.taken]).toEqual([other.now, other.ended, other.log, other.taken])
        expect(one.save()).toEqual(other.save())
        seen.lists++
        seen.steps += fewer.length
        if (random.below(2) === 0) steps = fewer
      }
    }
  }
  expect(seen.steps).toBeGreaterThan(100)
}, 120_000)
