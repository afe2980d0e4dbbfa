import { describe, expect, test } from '@jest/globals'
import { answerTo, checked, textOf } from '../levels.ts'

const level = textOf('tests/verdicts/levels/blinking-lamp.level.yaml')

/** What is said of the goal, with some lines of the level put otherwise. */
function answer(...changes: readonly (readonly [was: string, becomes: string])[]): string {
  let text = level
  for (const [was, becomes] of changes) {
    expect(text).toContain(was)
    text = text.replace(was, becomes)
  }
  return answerTo(checked(text), 'soft-lock', 'pulled')
}

const running = 'undecided: something runs for ever, so that the level never comes to rest'
const down = 'trigger: { after: 1 } }\n      - { name: up'
const sends = `trigger: { after: 1 }, effects: [{ send: dark }] }\n      - { name: up`
const lever = 'lever:\n    { type: lever, at: [1, 3, 1], set: { stays: true }'

describe('what runs for ever hinders no proof', () => {
  test('where it has no say: a lamp that blinks, two that make each other blink, one that counts for itself', () => {
    expect(answer()).toBe('ruled-out')
    const other = `  echo:
    states: { on: { look: lit }, off: { look: dark } }
    transitions: [{ name: flip, from: on, to: off, trigger: { signal: dark } }, { name: back, from: off, to: on, trigger: { after: 0.5 } }]
interactables:
  second: { type: echo, at: [3, 1] }
`
    expect(answer([down, sends], ['interactables:\n', other])).toBe('ruled-out')
    const counts = 'trigger: { after: 1 }, effects: [{ add: blinks, by: 1 }] }\n      - { name: up'
    expect(answer([down, counts], ['types:\n', 'counters: { blinks: { most: 3 } }\ntypes:\n'])).toBe('ruled-out')
  })

  test('but it does where the goal, or something else, asks about it', () => {
    const goal = 'goals: { pulled: { interactable: lever, is: on } }'
    const both = 'goals: { pulled: { all: [{ interactable: lever, is: on }, { interactable: lamp, is: on }] } }'
    expect(answer([goal, both])).toBe(running)
    expect(answer([lever, `${lever.slice(0, -1)}, needs: { interactable: lamp, is: on } }`])).toBe(running)
    expect(
      answer(
        [down, sends],
        [
          'interactables:\n',
          `  gong:
    states: { still: { look: still }, rung: { look: swinging } }
    transitions: [{ name: ring, from: still, to: rung, trigger: { signal: dark } }, { name: hush, from: rung, to: still, trigger: press }]
interactables:
  gong: { type: gong, at: [3, 1] }
`,
        ],
      ),
    ).toBe(running)
  })

  test('and where it swallows a press, since whatever hangs behind it is then not asked', () => {
    const swallows = ['off: { look: dark }', 'off: { look: dark, ignores: { press: true } }'] as const
    const within = [
      'lamp: { type: blinker, at: [3, 3] }',
      'lamp: { type: blinker, at: [1, 3.2, 1], handle: [0, 0, 1] }',
    ] as const
    expect(answer(swallows, within)).not.toBe('ruled-out')
  })

  test('and where it answers a press, is in the way, or puts up a popup', () => {
    expect(
      answer([
        down,
        `trigger: { after: 1 } }\n      - { name: knock, from: on, to: off, trigger: press }\n      - { name: up`,
      ]),
    ).toBe(running)
    expect(
      answer(
        ['on: { look: lit }', 'on: { look: lit, blocks: [walk] }'],
        ['transitions:', 'body: { size: [0.5, 0.5] }\n    transitions:'],
      ),
    ).toBe(running)
    expect(answer([down, `trigger: { after: 1 }, feedback: [{ popup: Dark }] }\n      - { name: up`])).toBe(running)
  })

  test('what can be lost is found all the same', () => {
    const trap = `  trap:
    states: { set: { look: set }, sprung: { lasting: true, look: sprung } }
    transitions: [{ name: spring, from: set, to: sprung, trigger: press }]
interactables:
  trap: { type: trap, at: [3, 1, 1] }
`
    const goal = 'goals: { pulled: { interactable: lever, is: on } }'
    const both = 'goals: { pulled: { all: [{ interactable: lever, is: on }, { interactable: trap, is: set }] } }'
    expect(answer(['interactables:\n', trap], [goal, both])).toBe('found')
  })
})
