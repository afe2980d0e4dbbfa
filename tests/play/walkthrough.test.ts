import { describe, expect, test } from '@jest/globals'
import { stringify } from 'yaml'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { Journey, makeStage, readProject, readWalkthrough, runWalkthrough, type Stage } from '../../src/play/index.ts'
import { staged, twoRooms } from '../levels.ts'

const level = twoRooms(`items: { key: { title: key }, coin: { stacks: 5 } }
flags: { up: {} }
counters: { count: { most: 5 } }
places: { far: { at: [8, 3], facing: 0 } }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key } }, feedback: { refused: [{ sound: thud }] } }
  lever: { type: lever, at: [1.5, 2.7, 1], set: { sends: pulled } }
  mat: { type: pressure-plate, at: [3.5, 2] }
  chest: { type: chest, at: [3.5, 3.6], turn: 180, set: { gives: [{ item: coin, count: 3 }], hands-over: what-fits } }
`)

/** What is wrong with steps, in a word or two each. */
function told(...steps: unknown[]): string[] {
  const { expanded } = staged(level)
  const text = stringify({ walkthrough: 1, title: 'wrong', steps })
  return readWalkthrough(text, null, expanded).diagnostics.map(({ message, expected, nearest }) => {
    return [message, expected, nearest].filter((part) => part !== null && part !== '').join(' | ')
  })
}

/** What fails when steps are played: null for those that go well. */
function played(...steps: unknown[]): (string | null)[] {
  const stage = staged(level)
  const reading = readWalkthrough(stringify({ walkthrough: 1, title: 'played', steps }), null, stage.expanded)
  expect(reading.diagnostics).toEqual([])
  return runWalkthrough(stage, reading.value!, reading.source).steps.map(({ failure }) => failure)
}

describe('a walkthrough that cannot be played is told', () => {
  test('names that lead nowhere, with the nearest', () => {
    expect(told({ 'walk-to': 'dor' }, { press: 'levr' }, { as: 'sma' }, { give: 'kee' }, { set: 'upp' })).toEqual([
      'There is no interactable, room or doorway "dor" in the level. | door',
      'There is no interactable "levr" in the level. | lever',
      'There is no character "sma" in the level. | sam',
      'There is no item "kee" in the level. | key',
      'There is no flag or counter "upp" in the level. | up',
    ])
    expect(told({ 'walk-to': 'mat/neer' }, { put: 'door', into: 'opn' }, { expect: { inside: 'wset' } })).toEqual([
      'There is no interactable, room or doorway "mat/neer" in the level. | mat/near',
      'There is no state "opn" in the level. | open',
      'There is no room or doorway "wset" in the level. | west',
    ])
  })

  test('keys that do not belong together', () => {
    expect(told({ put: 'door' })[0]).toContain('put and into beside each other')
    expect(told({ wait: 1, count: 2 })[0]).toContain('give or remove beside it')
    expect(told({ set: 'up', to: [1] })[0]).toContain('true, false or a number')
    expect(told({ press: 'door', wait: 1 })[0]).toContain('exactly one of as, give')
    expect(told({ expect: { looks: 'door' } })[0]).toContain('looks and like beside each other')
    expect(told({ expect: { contains: 'coin' } })[0]).toContain('of beside contains or dial')
    expect(told({ expect: { message: 'x', pitch: 1 } })[0]).toContain('sound beside it')
    expect(told({ expect: { flag: 'up', centre: [1, 2] } })[0]).toContain('pose beside it')
    expect(told({ expect: {} })[0]).toContain('exactly one of pose, interactable')
  })
})

describe('what is expected', () => {
  test('says what was so instead', () => {
    expect(
      played(
        { expect: { interactable: 'door', is: 'open' } },
        { expect: { looks: 'lever', like: 'on' } },
        { expect: { carries: 'coin', count: 2 } },
        { expect: { contains: 'coin', of: 'chest' } },
        { expect: { flag: 'up' } },
        { expect: { counter: 'count', is: 2 } },
        { expect: { inside: 'east' } },
        { expect: { spot: [2, 2] } },
        { expect: { facing: 0 } },
        { expect: { prompt: 'Open' } },
        { expect: { popup: 'Boom' } },
        { expect: { icon: 'purse' } },
        { expect: { highlight: 'door' } },
        { expect: { signal: 'pulled' } },
        { expect: { sound: 'thud' } },
        { expect: { refused: 'door' } },
        { expect: { 'held-back': true } },
        { expect: { 'pointer-free': true } },
      ),
    ).toEqual([
      'door is locked',
      'lever looks off',
      'carries 0 coin',
      'chest contains 3 coin',
      'flag up is not set',
      'counter count is 0',
      'stands at 1.50, 2.00',
      'stands at 1.50, 2.00',
      'looks towards 0.00, 1.00',
      'prompts: none',
      'popup: none',
      'icons: none',
      'highlight: none',
      'signals: none',
      'nothing was perceived',
      'nothing was pressed',
      'no popup kept anybody from anything',
      'the pointer is not free',
    ])
  })

  test('may come within a time, and must not come for one', () => {
    expect(
      played(
        { give: 'key' },
        { 'walk-to': 'door' },
        { press: 'door' },
        { expect: { interactable: 'door', is: 'open', within: 0.8 } },
        { expect: { not: { interactable: 'door', is: 'closed' }, for: 30 } },
        { expect: { not: { interactable: 'door', is: 'open' }, for: 1 } },
      ),
    ).toEqual([null, null, null, null, null, 'it was so at 31.775 s'])
  })

  test('aids do what nothing in the level does, and set off what hangs on it', () => {
    expect(
      played(
        { give: 'coin', count: 9 },
        { expect: { carries: 'coin', count: 5 } },
        { remove: 'coin', count: 2 },
        { expect: { not: { carries: 'coin', count: 4 } } },
        { set: 'count', to: 9 },
        { expect: { counter: 'count', is: 5 } },
        { set: 'up' },
        { expect: { flag: 'up' } },
        { set: 'up', to: false },
        { expect: { flag: 'up', is: false } },
        { put: 'door', into: 'open' },
        { expect: { interactable: 'door', is: 'open' } },
        { set: 'up', to: 3 },
        'dismiss',
      ),
    ).toEqual([...Array<null>(12).fill(null), 'there is no counter up', 'there is no popup to dismiss'])
  })
})

describe('a project', () => {
  const island = twoRooms(`items: { shell: { stacks: 3 }, rope: {} }
interactables:
  boat: { type: exit, at: [1.5, 2.7], set: { exit-to: { place: pier, level: town, drops: [shell] } } }
  heap: { type: pickup, at: [1.5, 1.3, 1], set: { gives: shell } }
  lever: { type: lever, at: [2.6, 2, 1], set: { falls-back: 5 } }
  clock: { type: lever, at: [0.4, 2, 1], set: { stays: true } }
`)
  const town = twoRooms(`items: { rope: {} }
places: { pier: { at: [7, 2], facing: 180 } }
interactables:
  way: { type: exit, at: [7, 2.7], set: { exit-to: { place: dock, level: island } } }
  coil: { type: pickup, at: [7, 1.3, 1], set: { gives: rope } }
`)
  const stages = (): Record<string, Stage> => ({ island: withDock(), town: staged(town) })

  function withDock(): Stage {
    const { value, source } = readLevel(island.replace('items:', 'places: { dock: { at: [2, 2] } }\nitems:'))
    return makeStage(expandLevel(value!, source))
  }

  function journey(more = ''): Journey {
    const text = `project: 1\ntitle: p\nstart: island\nlevels:\n  island: { file: a${more} }\n  town: { file: b }\n`
    return new Journey(readProject(text, null).value!, stages())
  }

  test('time stands still where nobody is, and what is carried goes along by its name', () => {
    const trip = journey()
    trip.play.walk(0, [[2, 2]])
    trip.advance(1000)
    trip.play.press(0)
    expect(trip.play.stateOf(2)).toBe('on')
    trip.play.testOnly(0, { kind: 'give', item: 0, count: 2 })
    trip.play.testOnly(0, { kind: 'give', item: 1, count: 1 })
    trip.play.walkTo(0, 'boat')
    trip.advance(1000)
    trip.play.press(0)
    trip.advance(60_000)
    expect([trip.level, trip.play.now, trip.play.view(0).carries]).toEqual(['town', 62_000, { rope: 1 }])
    trip.play.walkTo(0, 'way')
    trip.advance(1000)
    trip.play.press(0)
    trip.advance(0)
    expect([trip.level, trip.play.view(0).carries]).toEqual(['island', { rope: 1 }])
    expect(trip.play.spotOf(0)).toEqual([2, 2])
    // The lever had some seconds left before it falls back, and has them still.
    expect(trip.play.stateOf(2)).toBe('on')
    trip.advance(5000)
    expect(trip.play.stateOf(2)).toBe('off')
  })

  test('forgets what it is told to forget, and only that', () => {
    const trip = journey(', remembers: nothing, except: [clock]')
    trip.play.testOnly(0, { kind: 'give', item: 1, count: 1 })
    trip.play.put(0, 2, 1)
    trip.play.put(0, 3, 1)
    trip.play.press(0)
    trip.follow()
    expect(trip.level).toBe('town')
    trip.play.press(0)
    trip.follow()
    expect([trip.play.stateOf(2), trip.play.stateOf(3)]).toEqual(['off', 'on'])
  })
})
