import { expect, test } from '@jest/globals'
import { Play } from '../../src/play/index.ts'
import { loadLevel } from '../../src/interactables/index.ts'
import { trialOf } from './plays.ts'
import { randomLevel } from './levels.ts'
import { Random } from './random.ts'
import { surelyWrong, toStandingSpots } from './sure.ts'

test('who is moved twice at once walks to the standing spot once, as Play does', () => {
  const blink = (first: number, then: number, effects: object[]) => ({
    states: { a: {}, b: {} },
    transitions: [
      { name: 'tick', from: 'a', to: 'b', trigger: { after: first } },
      { name: 'tock', from: 'b', to: 'a', trigger: { after: then }, effects },
    ],
  })
  const spot = { 'move-to': 'spot' }
  const { value } = loadLevel({
    zintel: 1,
    title: 'Moved twice',
    rooms: {
      hall: {
        outline: [
          [0, 0],
          [2.3, 0],
          [2.3, 2],
          [0, 2],
        ],
      },
    },
    places: { spot: { at: [0.6, 0.9] } },
    types: { slow: blink(0.999, 0.3, [spot]), quick: blink(0.1, 1, [spot, spot]) },
    interactables: {
      slow: { type: 'slow', at: [1, 1] },
      lever: { type: 'lever', at: [1.7, 1.9, 0.4], range: { radius: 0.8 } },
      quick: { type: 'quick', at: [1.2, 1.2] },
    },
    characters: { sam: { role: 'player', start: [1.8, 0.6], radius: 0.3, speed: 3, hand: 1.2, reach: 1.4 } },
    goals: { pulled: { interactable: 'lever', is: 'on' } },
  })
  const trial = trialOf(value!)!
  let tried = 0
  for (let seed = 0; seed < 40; seed++) {
    const play = new Play(trial.stage)
    if (toStandingSpots(trial.stage, play) !== null) continue
    tried++
    expect([seed, surelyWrong(trial, play, new Random(seed), 12)]).toEqual([seed, null])
  }
  expect(tried).toBeGreaterThan(10)
})

test('who is moved again on the way there waits until that walk would have ended, and walks anew', () => {
  // Somebody is put on a spot again and again here, sooner than one walks from there to the standing spot.
  const trial = trialOf(randomLevel(8100624).level)!
  for (let seed = 0; seed < 12; seed++) {
    const play = new Play(trial.stage)
    expect(toStandingSpots(trial.stage, play)).toBeNull()
    expect([seed, surelyWrong(trial, play, new Random(seed), 40)]).toEqual([seed, null])
  }
})
