import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { entryText, logLines, Play, readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { staged, textOf, twoRooms } from '../levels.ts'

const mill = staged(textOf('examples/levels/tide-mill.level.yaml'))

type Input = { readonly at: number } & (
  | { readonly steer: readonly [number, number] | null }
  | { readonly to: readonly [number, number] }
  | { readonly press: true }
)

const input: fc.Arbitrary<Input> = fc.record({ at: fc.nat(1500) }).chain(({ at }) =>
  fc.oneof(
    fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 })).map((steer) => ({ at, steer })),
    fc.tuple(fc.integer({ min: 0, max: 17 }), fc.integer({ min: 0, max: 8 })).map((to) => ({ at, to })),
    fc.constant({ at, press: true as const }),
    fc.constant({ at, press: true as const }),
  ),
)

function played(inputs: readonly Input[], pass: (play: Play, ms: number) => void): string {
  const play = new Play(mill)
  for (const one of inputs) {
    pass(play, one.at)
    if ('press' in one) play.press(0)
    else if ('to' in one) play.walkTo(0, one.to)
    else play.steer(0, one.steer)
  }
  pass(play, 3000)
  return logLines('mill', play.log)
}

describe('the same inputs at the same times give the same log', () => {
  test('however the time is cut', () => {
    fc.assert(
      fc.property(fc.array(input, { minLength: 3, maxLength: 14 }), (inputs) => {
        const whole = played(inputs, (play, ms) => {
          play.advance(ms)
        })
        const single = played(inputs, (play, ms) => {
          for (let i = 0; i < ms; i++) play.advance(1)
        })
        const odd = played(inputs, (play, ms) => {
          for (let left = ms; left > 0; left -= 7) play.advance(Math.min(7, left))
        })
        expect(single).toBe(whole)
        expect(odd).toBe(whole)
      }),
      { numRuns: 40, seed: 11 },
    )
  })
})

describe('what a character is in agrees with where it stands', () => {
  test('zones that were entered and not left hold it, whatever the walk', () => {
    const stage = staged(
      twoRooms(`types:
  mat:
    states: { up: {}, down: {} }
    transitions:
      - { name: tread, from: up, to: down, trigger: { enter: pad } }
      - { name: lift, from: down, to: up, trigger: { leave: pad } }
    zones: { pad: { radius: 0.9 } }
  rug:
    states: { up: {}, down: {} }
    transitions:
      - { name: tread, from: up, to: down, trigger: { enter: pad } }
      - { name: lift, from: down, to: up, trigger: { leave: pad } }
    zones: { pad: { outline: [[-1, -1], [1, -1], [0, 1]] } }
interactables:
  mat: { type: mat, at: [2.5, 2] }
  rug: { type: rug, at: [3.5, 2.5], turn: 30 }
`),
    )
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: 0.4, max: 4.6, noNaN: true }),
            fc.double({ min: 0.4, max: 3.6, noNaN: true }),
            fc.nat(900),
          ),
          {
            minLength: 2,
            maxLength: 12,
          },
        ),
        (walks) => {
          const play = new Play(stage)
          for (const [x, y, ms] of walks) {
            play.walk(0, [[x, y]])
            play.advance(ms)
            const [px, py] = play.spotOf(0)
            const far = Math.hypot(px - 2.5, py - 2)
            if (Math.abs(far - 0.9) > 0.004) expect(play.stateOf(0)).toBe(far < 0.9 ? 'down' : 'up')
          }
        },
      ),
      { numRuns: 150, seed: 5 },
    )
  })
})

test('a door waits until whoever is in its way has left, and asks again then', () => {
  const play = new Play(
    staged(
      twoRooms(
        'interactables:\n  door: { type: door, in: gap, set: { motion: { over: 0.2 }, closes: { after: 1 }, closed-by: [] } }\n',
      ),
    ),
  )
  const walk = (to: string): void => {
    play.walkTo(0, to)
    play.advanceWhileWalking(0, 60_000)
  }
  walk('door')
  play.press(0)
  play.advance(200)
  walk('gap')
  play.advance(5000)
  expect(play.stateOf(0)).toBe('open')
  expect(play.log.map(entryText)).toContain('door waits until its way is clear (close-by-itself)')
  walk('east')
  expect(play.stateOf(0)).not.toBe('open')
  play.advance(200)
  expect(play.stateOf(0)).toBe('closed')
})

test('walls and shut doors stop whoever walks into them', () => {
  const play = new Play(staged(twoRooms('interactables:\n  door: { type: door, in: gap }\n')))
  play.steer(0, [1, 0])
  play.advance(5000)
  expect(play.isWalking(0)).toBe(false)
  // The leaf begins at 5.0 m, and the radius is 0.3 m.
  expect(play.spotOf(0)[0]).toBeGreaterThan(4.69)
  expect(play.spotOf(0)[0]).toBeLessThanOrEqual(4.7 + 1e-6)
  play.steer(0, [0, 1])
  play.advance(5000)
  expect(play.spotOf(0)[1]).toBeCloseTo(3.7, 1)
})

test('a press that nothing answers names what is near by, and why', () => {
  const play = new Play(
    staged(
      twoRooms(`items: { key: {} }
interactables:
  near: { type: pickup, at: [4, 2, 1], set: { gives: key } }
  behind: { type: pickup, at: [1.5, -0.3, 1], range: { radius: 3 }, set: { gives: key } }
`),
    ),
  )
  play.walk(0, [[1.5, 0.4]])
  play.advanceWhileWalking(0, 60_000)
  play.press(0)
  expect(play.log.map(entryText).pop()).toBe(
    'sam presses: nothing answers (behind, 0.73 m off: behind a wall; near, 2.98 m off: its range ends at 1.50 m)',
  )
})

test('of several in range the nearest answers, or the one with the higher priority', () => {
  const level = (priority: number): string =>
    twoRooms(`items: { key: {}, coin: {} }
interactables:
  far: { type: pickup, at: [2.6, 0.4, 1], priority: ${String(priority)}, set: { gives: key } }
  near: { type: pickup, at: [2, 0.4, 1], set: { gives: coin } }
`)
  for (const [priority, wanted] of [
    [0, 'near'],
    [1, 'far'],
  ] as const) {
    const play = new Play(staged(level(priority)))
    play.walk(0, [[2.1, 0.9]])
    play.advanceWhileWalking(0, 60_000)
    expect(play.view(0).candidates[0]).toBe(wanted)
  }
})

describe('a walkthrough is reported like a test', () => {
  const wrong = `walkthrough: 1
title: Not so
steps:
  - walk-to: mill-door
  - press: mill-door
  - expect: { interactable: mill-door, is: open, within: 1 }
  - expect: { refused: mill-door, because: { carries: tally } }
  - expect: { sound: bell }
  - expect: { not: { sound: latch-rattle } }
  - expect: { carries: sluice-key }
  - expect: { prompt: Push }
  - press: key-hook
`
  test('with the place of the failing line, and what was true instead', () => {
    const reading = readWalkthrough(wrong, 'wrong.yaml', mill.expanded)
    const result = runWalkthrough(mill, reading.value!, reading.source)
    expect(result.passed).toBe(false)
    const failures = result.steps.filter((step) => step.failure !== null)
    expect(failures.map(({ place, failure }) => `${String(place.line)}: ${String(failure)}`)).toMatchInlineSnapshot(`
     [
       "6: mill-door is locked",
       "7: keeper presses mill-door: refused (carries 0 of 1 sluice-key)",
       "8: sound "latch-rattle" from mill-door; message "Locked. The sluice key would fit."",
       "9: it was so at 3.285 s",
       "10: carries 0 sluice-key",
       "11: prompts: "Open the mill door"",
       "12: keeper presses mill-door: refused (carries 0 of 1 sluice-key)",
     ]
    `)
  })

  test('names that are not in the level are told before anything is played', () => {
    const text = wrong.replace('walk-to: mill-door', 'walk-to: mill-dor').replace('is: open', 'is: opened')
    const reading = readWalkthrough(text, 'wrong.yaml', mill.expanded)
    expect(reading.diagnostics.map(({ nearest }) => nearest)).toEqual(['mill-door', 'open'])
  })

  test('the demo’s walkthroughs go as expected', () => {
    for (const name of ['wrong-way', 'right-way']) {
      const reading = readWalkthrough(textOf(`examples/levels/tide-mill.${name}.walkthrough.yaml`), name, mill.expanded)
      const result = runWalkthrough(mill, reading.value!, reading.source)
      expect(result.steps.filter((step) => step.failure !== null)).toEqual([])
    }
  })
})
