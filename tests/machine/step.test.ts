import { expect, test } from '@jest/globals'
import { entryText, Play } from '../../src/play/index.ts'
import { staged, twoRooms } from '../levels.ts'

/** What happens on one press, in short. */
function pressed(more: string, presses = 1): string[] {
  const play = new Play(staged(twoRooms(more)))
  play.walkTo(0, 'it')
  play.advanceWhileWalking(0, 60_000)
  const since = play.log.length
  for (let i = 0; i < presses; i++) play.press(0)
  return play.log.slice(since).map(entryText)
}

test('events wait first in, first out, and go to machines in file order', () => {
  const log = pressed(`types:
  button:
    states: { up: {} }
    transitions:
      - { name: push, from: up, trigger: press, effects: [{ send: one }, { send: two }] }
  echo:
    states: { a: {}, b: {}, c: {} }
    transitions:
      - { name: first, from: a, to: b, trigger: { signal: one }, effects: [{ send: three }] }
      - { name: second, from: b, to: c, trigger: { signal: two } }
      - { name: third, from: c, to: a, trigger: { signal: three } }
interactables:
  it: { type: button, at: [2, 0.4, 1] }
  left: { type: echo, at: [1, 3] }
  right: { type: echo, at: [2, 3] }
`)
  expect(log.filter((line) => line.includes('->') || line.includes('heard'))).toEqual([
    'left: a -> b (first)',
    'right: a -> b (first)',
    'signal one is heard by left, right',
    'left: b -> c (second)',
    'right: b -> c (second)',
    'signal two is heard by left, right',
    'left: c -> a (third)',
    'right: c -> a (third)',
    'signal three is heard by left, right',
    'signal three is heard by nobody',
  ])
})

test('the first transition in the table whose guard holds now is taken, and only one for each event', () => {
  const log = pressed(`flags: { up: {} }
types:
  button:
    states: { a: {}, b: {} }
    transitions:
      - { name: never, from: a, to: b, trigger: press, guard: { flag: up } }
      - { name: set, from: a, to: b, trigger: press, effects: [{ set: up }] }
      - { name: again, from: b, to: a, trigger: press, guard: { flag: up } }
interactables:
  it: { type: button, at: [2, 0.4, 1] }
`)
  expect(log).toContain('it: a -> b (set)')
  expect(log).not.toContain('it: b -> a (again)')
})

test('a signal to one interactable is heard by no other', () => {
  const log = pressed(`types:
  button:
    states: { up: {} }
    transitions:
      - { from: up, trigger: press, effects: [{ send: ping, to: right }] }
  echo:
    states: { a: {}, b: {} }
    transitions: [{ name: hear, from: a, to: b, trigger: { signal: ping } }]
interactables:
  it: { type: button, at: [2, 0.4, 1] }
  left: { type: echo, at: [1, 3] }
  right: { type: echo, at: [2, 3] }
`)
  expect(log).toContain('right: a -> b (hear)')
  expect(log).not.toContain('left: a -> b (hear)')
})

test('signals without end are undone, and end the play', () => {
  const play = new Play(
    staged(
      twoRooms(`items: { coin: { stacks: 9 } }
types:
  mad:
    states: { a: {} }
    transitions:
      - { from: a, trigger: press, effects: [{ give: coin }, { send: round }] }
      - { from: a, trigger: { signal: round }, effects: [{ send: round }] }
interactables:
  it: { type: mad, at: [2, 0.4, 1] }
`),
    ),
  )
  play.walkTo(0, 'it')
  play.advanceWhileWalking(0, 60_000)
  play.press(0)
  expect(play.ended).toBe('signal-storm')
  expect(play.carried(0, 0)).toBe(0)
  expect(play.log[play.log.length - 1]?.what).toBe('signal-storm')
})

const timers = `flags: { ready: {} }
types:
  kettle:
    states: { cold: {}, warm: {}, hot: {} }
    transitions:
      - { name: heat, from: cold, to: warm, trigger: press }
      - { name: stir, from: warm, trigger: press }
      - { name: boil, from: warm, to: hot, trigger: { after: 1 } }
      - { name: cool, from: hot, to: cold, trigger: { after: 0.5 }, guard: { flag: ready } }
interactables:
  it: { type: kettle, at: [2, 0.4, 1] }
`

test('a transition back to the same state restarts its timers, and a guard that is false when due loses them', () => {
  const play = new Play(staged(twoRooms(timers)))
  play.walkTo(0, 'it')
  play.advanceWhileWalking(0, 60_000)
  play.press(0)
  play.advance(600)
  play.press(0)
  play.advance(600)
  expect(play.stateOf(0)).toBe('warm')
  play.advance(399)
  expect(play.stateOf(0)).toBe('warm')
  play.advance(1)
  expect(play.stateOf(0)).toBe('hot')
  play.advance(60_000)
  expect(play.stateOf(0)).toBe('hot')
})

test('a motion that is sent back keeps its share of the way', () => {
  const play = new Play(
    staged(
      twoRooms(
        'interactables:\n  it: { type: door, in: gap, set: { motion: { over: 1, press-while-moving: reverse } } }\n',
      ),
    ),
  )
  play.walkTo(0, 'it')
  play.advanceWhileWalking(0, 60_000)
  play.press(0)
  play.advance(300)
  expect(play.poseOf(0)).toBeCloseTo(0.3)
  play.press(0)
  expect(play.stateOf(0)).toBe('closing')
  expect(play.nextDue()).toBe(300)
  play.advance(100)
  play.press(0)
  expect(play.nextDue()).toBe(800)
  play.advance(800)
  expect(play.stateOf(0)).toBe('open')
})

test('items stop at what one can carry, and never fall below nothing', () => {
  const log = pressed(
    `items: { coin: { stacks: 3 } }
types:
  till:
    states: { a: {}, b: {}, c: {} }
    transitions:
      - { from: a, to: b, trigger: press, effects: [{ give: coin, count: 5 }] }
      - { from: b, to: c, trigger: press, effects: [{ consume: coin, count: 9 }] }
interactables:
  it: { type: till, at: [2, 0.4, 1] }
`,
    2,
  )
  expect(log).toContain('sam gets 3 coin from it')
  expect(log).toContain('sam uses up 3 coin on it')
})
