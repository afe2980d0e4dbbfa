import { expect, test } from '@jest/globals'
import { checkNow } from '../../src/findings/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import {
  type LevelPlay,
  prepareLevel,
  type PreparedLevel,
  readWalkthrough,
  runWalkthrough,
  startPlay,
} from '../../src/library/index.ts'
import { twoRooms } from '../levels.ts'

/** A chest within arm's reach of the start, with a key or two candles in it, and a door for the key. */
function withChest(settings: string): string {
  return twoRooms(`items: { brass-key: { title: key }, candle: { title: candle, stacks: 2 } }
interactables:
  sea-chest:
    type: chest
    at: [1.5, 1.25]
    set: { gives: [{ item: brass-key }, { item: candle, count: 2 }], by-chance: true${settings} }
    feedback: { refused: [{ sound: dull }] }
  gap-door:
    type: door
    in: gap
    set: { lock: { item: brass-key } }
    feedback: { refused: [{ message: "It wants the {item}." }] }
goals: { through: { interactable: gap-door, is: open } }
`)
}

const forAll = prepareLevel(readLevel(withChest('')))
const forEach = prepareLevel(readLevel(withChest(', for: each')))

function opened(level: PreparedLevel, seed: number, chance: string | null = null): LevelPlay {
  const play = startPlay(level, seed)
  play.press('sam', null, chance)
  play.advance(600)
  return play
}

test('chance draws one of what is in a chest: the same for the same seed, each of them in time', () => {
  const drawn = Array.from({ length: 200 }, (_, seed) => opened(forAll, seed).carried('sam'))
  const keys = drawn.filter((carried) => JSON.stringify(carried) === '{"brass-key":1}').length
  const candles = drawn.filter((carried) => JSON.stringify(carried) === '{"candle":2}').length
  expect(keys + candles).toBe(200)
  // Of 200 fair draws, fewer than 70 of a kind would come about once in 100,000 times.
  expect(Math.min(keys, candles)).toBeGreaterThan(70)
  expect(Array.from({ length: 200 }, (_, seed) => opened(forAll, seed).carried('sam'))).toEqual(drawn)
})

test('what a guard keeps back is not drawn while something else can be; where nothing can, the press is refused', () => {
  const urn = (noise: string): PreparedLevel =>
    prepareLevel(
      readLevel(
        twoRooms(`items: { pearl: { title: pearl } }
flags: { night: {} }
types:
  urn:
    states: { full: { look: full }, drawn: { lasting: true, look: drawn } }
    transitions:
      - { name: pearl, from: full, to: drawn, trigger: { chance: pearl }, effects: [{ give: pearl }], guard: { flag: night } }
      - { name: noise, from: full, to: drawn, trigger: { chance: noise }, feedback: [{ sound: boom }]${noise} }
    handle: [0, 0, 1]
interactables: { urn: { type: urn, at: [1.5, 1.4], feedback: { refused: [{ sound: dull }] } } }
goals: { heard: { interactable: urn, is: drawn } }
`),
      ),
    )
  const [one, none] = [urn(''), urn(', guard: { flag: night }')]
  const outcomes = (level: PreparedLevel): (string | null)[] =>
    Array.from({ length: 40 }, (_, seed) => {
      const play = startPlay(level, seed)
      play.press('sam')
      const press = play.log.find((entry) => entry.what === 'press')
      return press?.what === 'press' ? `${press.outcome} ${press.chance ?? ''}` : null
    })
  expect(new Set(outcomes(one))).toEqual(new Set(['accepted noise']))
  expect(new Set(outcomes(none))).toEqual(new Set(['refused pearl']))
})

test('what it draws can be said; what it cannot draw is told by its name', () => {
  expect(opened(forAll, 0, 'brass-key').carried('sam')).toEqual({ 'brass-key': 1 })
  expect(opened(forAll, 0, 'candle').carried('sam')).toEqual({ candle: 2 })
  expect(() => opened(forAll, 0, 'candel')).toThrow(
    'There is nothing for which chance draws "candel". Did you mean "candle"?',
  )
  expect(opened(forAll, 0, 'candle').log.map((entry) => (entry.what === 'press' ? entry.chance : null))).toContain(
    'candle',
  )
})

test('each finds a chest for each full, and has a draw of its own', () => {
  const play = opened(forEach, 3, 'candle')
  expect(play.carried('sam')).toEqual({ candle: 2 })
  play.press('sam', null, 'brass-key')
  expect(play.log.at(-1)).toMatchObject({ what: 'feedback', text: 'dull' })
  expect(play.carried('sam')).toEqual({ candle: 2 })
})

test('a walkthrough says what chance draws, and fails where it cannot', () => {
  const run = (steps: string): (string | null)[] => {
    const walkthrough = readWalkthrough(`walkthrough: 1\ntitle: Luck\nsteps:\n${steps}`, null, forAll)
    return runWalkthrough(forAll, walkthrough).steps.map(({ failure }) => failure)
  }
  expect(
    run('  - { press: sea-chest, chance: brass-key }\n  - { wait: 1 }\n  - expect: { carries: brass-key }\n'),
  ).toEqual([null, null, null])
  expect(run('  - { press: sea-chest, chance: pearl }\n')).toEqual([
    'there is nothing in the level for which chance draws pearl',
  ])
  expect(run('  - { walk-to: gap-door }\n  - { press: gap-door, chance: candle }\n')[1]).toBe(
    'gap-door: chance cannot draw candle here and now',
  )
})

test('every outcome is possible, none is sure: bad luck loses the goal, and the draw is what is named', () => {
  const { value, source } = readLevel(withChest(''))
  const { findings, questions } = checkNow(value!, source)
  const [loss] = findings
  expect(loss).toMatchObject({ rule: 'soft-lock', subject: 'through' })
  expect(loss!.message).toContain(
    'Where chance draws candle from sea-chest, the goal through can never be met any more',
  )
  expect(loss!.steps.map(({ text }) => text).join(' ')).toContain('Chance draws candle.')
  expect(questions.filter(({ answer }) => answer === 'undecided')).toEqual([])
})
