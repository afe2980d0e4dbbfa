import { describe, expect, test } from '@jest/globals'
import { readLevel } from '../../src/interactables/index.ts'
import { type LevelPlay, startPlay } from '../../src/library/index.ts'
import { textOf, twoRooms } from '../levels.ts'

const mill = readLevel(textOf('examples/levels/tide-mill.level.yaml'))

/** Lets a play go on until a character stands. */
function untilStanding(play: LevelPlay, character: string, step: number): void {
  for (let i = 0; i < 100_000 && play.character(character).walking; i++) play.advance(step)
}

test('a level is played by names: walk, press, carry, states, feedback', () => {
  const play = startPlay(mill)
  const heard: string[] = []
  const stop = play.on('feedback', ({ channel, text }) => heard.push(`${channel} ${text}`))
  expect(play.walkTo('keeper', 'mill-door')).toBe(true)
  untilStanding(play, 'keeper', 1000 / 60)
  expect(play.view('keeper').prompts[0]!.text).toBe('Open the mill door')
  play.press('keeper')
  expect(play.state('mill-door')).toBe('locked')
  expect(heard).toEqual(['sound latch-rattle', 'message Locked. The sluice key would fit.'])
  stop()
  play.walkTo('keeper', 'key-hook')
  untilStanding(play, 'keeper', 16)
  play.press('keeper')
  expect(play.carried('keeper')).toEqual({ 'sluice-key': 1 })
  expect(play.interactable('key-hook')).toMatchObject({ state: 'taken', look: 'gone' })
  expect(heard).toHaveLength(2)
})

describe('time', () => {
  test('may come in fractions: the log is the same however it is cut', () => {
    const logs = [1, 1000 / 60, 1000 / 144, 0.1, 7.3, 1000].map((step) => {
      const play = startPlay(mill)
      play.walkTo('keeper', 'key-hook')
      for (let passed = 0; passed < 5000 - 1e-9; passed += step) play.advance(Math.min(step, 5000 - passed))
      expect(play.time).toBe(5000)
      return JSON.stringify(play.log)
    })
    expect(new Set(logs).size).toBe(1)
  })

  test('goes forward only', () => {
    expect(() => {
      startPlay(mill).advance(-1)
    }).toThrow(RangeError)
    expect(() => {
      startPlay(mill).advance(NaN)
    }).toThrow(RangeError)
  })
})

test('what changed since the last look is listed, and no more', () => {
  const play = startPlay(mill)
  expect(play.changes()).toEqual({ level: null, interactables: [], characters: [], entries: [] })
  play.walkTo('keeper', 'quay-tally')
  play.advance(100)
  const moving = play.changes()
  expect(moving.characters.map(({ name, walking }) => [name, walking])).toEqual([['keeper', true]])
  expect(moving.interactables).toEqual([])
  untilStanding(play, 'keeper', 50)
  play.changes()
  play.press('keeper')
  const taken = play.changes()
  expect(taken.interactables.map(({ name, state }) => [name, state])).toEqual([['quay-tally', 'taken']])
  expect(taken.characters).toEqual([])
  expect(taken.entries.map(({ what }) => what)).toContain('item')
  expect(play.changes().entries).toEqual([])
})

test('listeners are told each entry once, in order, also of what listeners do', () => {
  const play = startPlay(mill)
  const all: string[] = []
  play.on('any', ({ what }) => all.push(what))
  play.on('arrived', ({ character }) => {
    play.press(character)
  })
  play.walkTo('keeper', 'key-hook')
  play.advance(20_000)
  expect(all).toEqual(play.log.map(({ what }) => what))
  expect(play.state('key-hook')).toBe('taken')
})

test('a name that is not there throws, with the nearest; so does a level that cannot be played, with all reasons', () => {
  const play = startPlay(mill)
  expect(() => play.state('mil-door')).toThrow('There is no interactable "mil-door". Did you mean "mill-door"?')
  expect(() => {
    play.press('kiper')
  }).toThrow('There is no character "kiper". Did you mean "keeper"?')
  expect(() => startPlay(readLevel('zintel: 1\n'))).toThrow(/lacks "title"[^]*lacks "rooms"/)
  const lost = twoRooms(
    'interactables:\n  hook: { type: pickup, at: [1, 1], set: { gives: kay } }\nitems: { key: {} }\n',
  )
  expect(() => startPlay(readLevel(lost))).toThrow(
    expect.objectContaining({ name: 'LevelError', diagnostics: [expect.objectContaining({ nearest: 'key' })] }),
  )
})

test('dials, options, popups, flags and counters have names too', () => {
  const play = startPlay(
    readLevel(
      twoRooms(`flags: { up: {} }
counters: { pulls: { most: 5, initial: 2 } }
types:
  box:
    states: { shut: {}, read: { lasting: true } }
    transitions:
      - { name: read, from: shut, to: read, trigger: { option: Read it }, effects: [{ set: up }, { add: pulls }], feedback: [{ popup: All well }] }
    handle: [0, 0, 1]
interactables:
  box: { type: box, at: [1.5, 2.5] }
  safe: { type: dial-lock, at: [1.5, 1.5], set: { combination: [2], wheels: 1 } }
`),
    ),
  )
  expect(play.view('sam').options).toEqual(['Read it'])
  play.choose('sam', 'Read it')
  expect([play.state('box'), play.flag('up'), play.counter('pulls')]).toEqual(['read', true, 3])
  expect(play.view('sam').popup).toBe('All well')
  expect(play.dial('sam', 'safe', 1, 2)).toBe(false)
  play.dismiss('sam')
  expect(play.dial('sam', 'safe', 1, 2)).toBe(true)
  expect(play.state('safe')).toBe('turned')
})

test('a level in which a name leads nowhere is played if one says so: what asks for it never holds', () => {
  const text = twoRooms(`items: { key: { title: key } }
interactables:
  hatch: { type: chest, at: [1.5, 1.25], set: { lock: { item: kee }, gives: [{ item: key }] } }
`)
  expect(() => startPlay(readLevel(text))).toThrow('There is no item "kee". Did you mean "key"?')
  const play = startPlay(readLevel(text), 0, true)
  play.press('sam')
  play.advance(1000)
  expect(play.state('hatch')).toBe('locked')
  expect(play.log.at(-1)).toMatchObject({ what: 'press', outcome: 'refused' })
})

test('a play is helped on from outside, by names, and the log says that it was', () => {
  const play = startPlay(
    readLevel(
      twoRooms(`items: { key: { title: key, stacks: 3 } }
flags: { up: {} }
counters: { pulls: { most: 5 } }
interactables:
  gate: { type: door, in: gap, set: { lock: { item: key } } }
`),
    ),
  )
  const before = play.log.length
  play.help('sam', { give: 'key', count: 2 })
  play.help('sam', { remove: 'key' })
  play.help('sam', { set: 'up' })
  play.help('sam', { set: 'pulls', to: 4 })
  play.help('sam', { put: 'gate', into: 'open' })
  expect([play.carried('sam'), play.flag('up'), play.counter('pulls')]).toEqual([{ key: 1 }, true, 4])
  expect(play.state('gate')).toBe('open')
  play.help('sam', { set: 'up', to: false })
  expect(play.flag('up')).toBe(false)
  expect(play.log.slice(before).some((entry) => JSON.stringify(entry).includes('test-only'))).toBe(true)
  expect(() => {
    play.help('sam', { put: 'gate', into: 'opened' })
  }).toThrow('gate has no state "opened". Did you mean "open"?')
  expect(() => {
    play.help('sam', { give: 'kee' })
  }).toThrow('There is no item "kee". Did you mean "key"?')
})
