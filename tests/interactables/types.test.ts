import { describe, expect, test } from '@jest/globals'
import { expandLevel, loadLevel, readLevel, readLevelValue } from '../../src/interactables/index.ts'
import { defineInteractable, defineLevel, type Level } from '../../src/model/index.ts'
import { Play } from '../../src/play/index.ts'
import { checked, inShort, staged, twoRooms } from '../levels.ts'

function states(set: string): string[] {
  const reading = readLevel(
    twoRooms(`items: { key: {} }\ninteractables:\n  door: { type: door, in: gap, set: ${set} }\n`),
  )
  return expandLevel(reading.value!).interactables[0]!.states.map(({ name }) => name)
}

test('a setting that is not used leaves no trace', () => {
  expect(states('{}')).toEqual(['closed', 'opening', 'open', 'closing'])
  expect(states('{ stays-open: true }')).toEqual(['closed', 'opening', 'open'])
  expect(states('{ lock: { item: key } }')).toEqual(['locked', 'closed', 'opening', 'open', 'closing'])
  expect(states('{ lock: { item: key }, stays-open: true }')).toEqual(['locked', 'opening', 'open'])
  expect(states('{ lock: { item: key }, closes: { locks: true } }')).toEqual(['locked', 'opening', 'open', 'closing'])
})

test('an extending type replaces in place and adds at the end', () => {
  const reading = readLevel(
    twoRooms(`types:
  hatch:
    extends: door
    states: { open: { blocks: [sight], pose: 1, lasting: true }, jammed: {} }
    transitions:
      - { name: open, from: closed, to: opening, trigger: { signal: heave } }
      - { name: jam, from: opening, to: jammed, trigger: { signal: jolt } }
interactables:
  hatch: { type: hatch, in: gap }
`),
  )
  const [hatch] = expandLevel(reading.value!).interactables
  expect(hatch!.states.map(({ name }) => name)).toEqual(['closed', 'opening', 'open', 'closing', 'jammed'])
  expect(hatch!.states[2]!.blocksSight).toBe(true)
  const rows = hatch!.transitions.map(({ name, when }) => `${name ?? ''} ${when.kind}`)
  expect(rows[0]).toBe('open signal')
  expect(rows[rows.length - 1]).toBe('jam signal')
})

test('types that extend one another in a circle do nothing, and are told', () => {
  const reading = readLevel(
    twoRooms(`types:
  hen: { extends: egg, states: { a: {} } }
  egg: { extends: hen, states: { b: {} } }
interactables:
  it: { type: hen, at: [1, 1] }
`),
  )
  const { problems } = expandLevel(reading.value!)
  expect(problems.map(({ path }) => path)).toContain('types.egg.extends')
})

test('names that lead nowhere are told once each, and stand-ins take their place', () => {
  const reading = readLevel(
    twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gapp, set: { lock: { item: keey } } }
  hook: { type: pickup, at: [1, 1], set: { gives: kay } }
  gong: { type: going, at: [1, 2] }
goals:
  win: { interactable: door, is: opened }
`),
  )
  const { problems, interactables } = expandLevel(reading.value!)
  expect(
    problems.map((one) => (one.rule === 'unknown-name' ? `${one.path}: ${one.name} -> ${String(one.nearest)}` : '')),
  ).toMatchInlineSnapshot(`
[
  "interactables.gong.type: going -> null",
  "interactables.door.set.lock.item: keey -> key",
  "interactables.door.in: gapp -> gap",
  "interactables.hook.set.gives: kay -> key",
  "goals.win.is: opened -> open",
]
`)
  expect(interactables[2]!.transitions).toEqual([])
})

test('a level made in TypeScript is the plain value that a file gives', () => {
  const gong = defineInteractable({
    states: { still: {}, ringing: {} },
    transitions: [{ from: 'still', to: 'ringing', trigger: 'press' }],
  })
  // @ts-expect-error: there is no such state
  defineInteractable({ states: { still: {} }, transitions: [{ from: 'still', to: 'ringging', trigger: 'press' }] })
  const level = defineLevel({
    title: 'Made here',
    rooms: {
      hall: {
        outline: [
          [0, 0],
          [4, 0],
          [4, 4],
          [0, 4],
        ],
      },
    },
    types: { gong },
    interactables: { gong: { type: 'gong', at: [2, 2] } },
    characters: { sam: { role: 'player', start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } },
  })
  const reading = loadLevel(level)
  expect(reading.diagnostics).toEqual([])
  expect(reading.value).toEqual(level)
  expect(readLevelValue(level).value).toEqual(level)
  const broken = { ...level, characters: {} }
  const nowhere = { file: null, line: null, column: null }
  expect(readLevelValue(broken).diagnostics[0]?.place).toEqual({ ...nowhere, path: 'characters' })
  expect(loadLevel({} as Level).diagnostics[0]).toMatchObject({ message: 'This is not a level.' })
})

test('names that stand for two things are told', () => {
  const reading = readLevel(twoRooms('interactables:\n  gap: { type: door, in: gap }\n'))
  expect(expandLevel(reading.value!).problems).toMatchObject([{ rule: 'duplicate-name', other: 'doorways.gap' }])
})

describe('a chest that is full for each player', () => {
  const text = twoRooms(`items: { coin: { title: coin } }
interactables:
  chest: { type: chest, at: [2, 3.5], turn: 180, set: { gives: [{ item: coin }], for: each }, feedback: { refused: [{ message: "You have had yours." }] } }
goals: { coin: { carries: coin } }
`).replace(
    'reach: 0.9 }',
    'reach: 0.9 }\n  pat: { role: player, start: [2.6, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }',
  )

  test('gives to the one that opens it, and to another that presses it then; to none twice', () => {
    const play = new Play(staged(text))
    play.walk(0, [[1.8, 2.9]])
    play.walk(1, [[2.2, 2.9]])
    play.advance(2000)
    play.press(0)
    play.advance(1000)
    expect([play.carried(0, 0), play.carried(1, 0)]).toEqual([1, 0])
    play.press(1)
    expect([play.carried(0, 0), play.carried(1, 0)]).toEqual([1, 1])
    play.press(1)
    expect(play.log.at(-1)).toMatchObject({ what: 'feedback', text: 'You have had yours.' })
  })

  test('is checked for each of them', () => {
    expect(inShort(checked(text))).toEqual([])
  })

  test('hands over at once, whatever hands-over says', () => {
    for (const way of ['what-fits', 'by-choice']) {
      const play = new Play(staged(text.replace('for: each', `for: each, hands-over: ${way}`)))
      play.walk(0, [[1.8, 2.9]])
      play.advance(2000)
      play.press(0)
      play.advance(1000)
      expect([play.carried(0, 0), play.stateOf(0)]).toEqual([1, 'open'])
    }
  })
})

test('a pickup sends its signal and sets its flag when it is taken', () => {
  const play = new Play(
    staged(
      twoRooms(`items: { key: { title: key } }
flags: { robbed: {} }
interactables:
  hook: { type: pickup, at: [1.5, 2.6, 1], set: { gives: key, sends: taken, sets: robbed } }
  lamp: { type: lamp, at: [3, 3.8, 2], set: { lit-by: taken } }
`),
    ),
  )
  play.press(0)
  expect([play.isSet(0), play.stateOf(1)]).toEqual([true, 'lit'])
})
