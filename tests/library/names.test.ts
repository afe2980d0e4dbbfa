import { expect, test } from '@jest/globals'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { builtInTypes } from '../../src/interactables/index.ts'
import { checkNow } from '../../src/library/index.ts'
import { defineInteractable, defineLevel } from '../../src/model/index.ts'
import { project } from '../levels.ts'

// Types are tests here: `npm test` compiles them, and each line below a `@ts-expect-error` has to fail to compile.

const ground = {
  title: 'A hall',
  rooms: {
    hall: {
      outline: [
        [0, 0],
        [6, 0],
        [6, 4],
        [0, 4],
      ],
    },
    yard: {
      outline: [
        [6.3, 0],
        [12, 0],
        [12, 4],
        [6.3, 4],
      ],
    },
  },
  doorways: { gap: { joins: ['hall', 'yard'], at: [6.15, 2], width: 1.4, depth: 0.3 } },
  characters: { sam: { role: 'player', start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } },
  items: { key: {}, coin: { stacks: 9 } },
  flags: { lit: {} },
  counters: { rings: { most: 3 } },
  places: { niche: { at: [2, 3] } },
} as const

const gong = defineInteractable({
  settings: { mallet: { kind: 'item', needed: true }, tone: { kind: 'choice', options: ['low', 'high'] } },
  zones: { near: { radius: 1 } },
  states: { still: { look: 'still' }, ringing: { lasting: true } },
  transitions: [
    { name: 'strike', from: 'still', to: 'ringing', trigger: 'press', guard: { carries: { setting: 'mallet' } } },
    { name: 'hum', from: 'ringing', trigger: { enter: 'near' }, feedback: [{ sound: 'hum' }] },
  ],
})

const own = { ...ground, types: { gong } } as const

test('a level whose names are all there compiles, loads and is checked', () => {
  const level = defineLevel({
    ...own,
    'x-note': 'keys like this one are the writer’s own',
    interactables: {
      hook: { type: 'pickup', at: [1, 3.5, 1], set: { gives: 'key', 'taken-by': ['press'] } },
      door: {
        type: 'door',
        in: 'gap',
        initial: 'locked',
        set: {
          lock: { item: 'key', 'item-use': 'consume' },
          closes: { after: 4 },
          'opened-by': ['press', { signal: 'in' }],
        },
        feedback: { refused: [{ message: 'Locked.', because: 'carries' }], accepted: [{ sound: 'click' }] },
      },
      lever: {
        type: 'lever',
        at: [7, 0.4, 1],
        who: ['player', 'companion'],
        set: {
          needs: { all: [{ interactable: 'door', is: ['open', 'closing'] }, { not: { flag: 'lit' } }] },
          sets: 'lit',
        },
      },
      bell: { type: 'gong', at: [9, 3.6, 1], initial: 'still', set: { mallet: 'coin', tone: 'low' } },
    },
    goals: { in: { interactable: 'door', is: 'open' }, all: { all: [{ flag: 'lit' }, { carries: 'coin', count: 2 }] } },
  })
  expect(level.zintel).toBe(1)
  expect(checkNow(level).findings.map(({ rule, subject }) => `${rule} ${subject}`)).toEqual(
    expect.arrayContaining(['unobtainable-item coin']),
  )
})

test('rows that are put together elsewhere do as well', () => {
  const rows = [{ from: 'shut', to: 'open', trigger: 'press' }] as const
  const flap = defineInteractable({
    states: { shut: {}, open: {} },
    transitions: [...rows, { from: 'open', to: 'shut', trigger: 'press' }],
  })
  const half = defineInteractable({
    extends: 'flap',
    states: { half: {} },
    transitions: [{ from: 'half', to: 'half', trigger: 'touch' }],
  })
  const level = defineLevel({
    ...ground,
    types: { flap, half },
    interactables: { one: { type: 'half', at: [1, 1], initial: 'open' } },
    goals: { done: { interactable: 'one', is: 'half' } },
  })
  expect(Object.keys(level.types!)).toEqual(['flap', 'half'])
})

/** None of these is run: they only have to fail to compile. */
export const misspelt = {
  // prettier-ignore
  builtIn: [
    // @ts-expect-error state
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap' }, lever: { type: 'lever', at: [1, 1], set: { needs: { interactable: 'door', is: 'opne' } } } } }),
    // @ts-expect-error initial state
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', initial: 'lockd' } } }),
    // @ts-expect-error the state of a goal
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap' } }, goals: { in: { interactable: 'door', is: 'opne' } } }),
    // @ts-expect-error the interactable of a goal
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap' } }, goals: { in: { interactable: 'dor', is: 'open' } } }),
    // @ts-expect-error type
    () => defineLevel({ ...ground, interactables: { door: { type: 'dor', in: 'gap' } } }),
    // @ts-expect-error setting
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', set: { lok: { item: 'key' } } } } }),
    // @ts-expect-error setting in a group
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', set: { lock: { itm: 'key' } } } } }),
    // @ts-expect-error what a setting takes
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', set: { lock: { item: 'key', 'item-use': 'kepe' } } } } }),
    // @ts-expect-error item
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', set: { lock: { item: 'kee' } } } } }),
    // @ts-expect-error trigger
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', set: { 'opened-by': ['pres'] } } } }),
    // @ts-expect-error role
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', who: 'plyer' } } }),
    // @ts-expect-error moment
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', feedback: { acepted: [{ sound: 'click' }] } } } }),
    // @ts-expect-error key
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gap', rang: { radius: 2 } } } }),
    // @ts-expect-error doorway
    () => defineLevel({ ...ground, interactables: { door: { type: 'door', in: 'gapp' } } }),
  ],
  // prettier-ignore
  own: [
    // @ts-expect-error state
    () => defineInteractable({ states: { still: {}, ringing: {} }, transitions: [{ from: 'stil', to: 'ringing', trigger: 'press' }] }),
    // @ts-expect-error state, in a type that is written into the level
    () => defineLevel({ ...ground, types: { gong: { states: { still: {}, ringing: {} }, transitions: [{ from: 'still', to: 'ringging', trigger: 'press' }] } } }),
    // @ts-expect-error initial state
    () => defineLevel({ ...own, interactables: { bell: { type: 'gong', at: [1, 1], initial: 'stil', set: { mallet: 'key' } } } }),
    // @ts-expect-error the state of a goal
    () => defineLevel({ ...own, interactables: { bell: { type: 'gong', at: [1, 1] } }, goals: { rung: { interactable: 'bell', is: 'ringin' } } }),
    // @ts-expect-error the interactable of a goal
    () => defineLevel({ ...own, interactables: { bell: { type: 'gong', at: [1, 1] } }, goals: { rung: { any: [{ interactable: 'bel', is: 'ringing' }] } } }),
    // @ts-expect-error type
    () => defineLevel({ ...own, interactables: { bell: { type: 'gonk', at: [1, 1] } } }),
    // @ts-expect-error setting
    () => defineLevel({ ...own, interactables: { bell: { type: 'gong', at: [1, 1], set: { malet: 'key' } } } }),
    // @ts-expect-error item, in a setting
    () => defineLevel({ ...own, interactables: { bell: { type: 'gong', at: [1, 1], set: { mallet: 'kee' } } } }),
    // @ts-expect-error item, in a type that the level has
    () => defineLevel({ ...ground, types: { box: { states: { shut: {}, open: {} }, transitions: [{ from: 'shut', to: 'open', trigger: 'press', guard: { carries: 'kee' } }] } } }),
    // @ts-expect-error trigger
    () => defineInteractable({ states: { still: {}, ringing: {} }, transitions: [{ from: 'still', to: 'ringing', trigger: 'pres' }] }),
    // @ts-expect-error the zone of a trigger
    () => defineInteractable({ zones: { near: { radius: 1 } }, states: { still: {}, ringing: {} }, transitions: [{ from: 'still', to: 'ringing', trigger: { enter: 'neer' } }] }),
    // @ts-expect-error role
    () => defineInteractable({ states: { still: {}, ringing: {} }, transitions: [{ from: 'still', to: 'ringing', trigger: 'press', who: 'plyer' }] }),
    // @ts-expect-error moment
    () => defineInteractable({ states: { still: {} }, feedback: { acepted: [{ sound: 'click' }] } }),
    // @ts-expect-error key
    () => defineInteractable({ states: { still: {}, ringing: {} }, transitions: [{ from: 'still', two: 'ringing', trigger: 'press' }] }),
    // @ts-expect-error key of a state
    () => defineInteractable({ states: { still: { loook: 'still' } } }),
  ],
}

test('what the built-in types have is what the compiler is told', async () => {
  const { builtInShapes } = (await import(join(project, 'scripts/built-ins.mjs'))) as {
    builtInShapes: (types: typeof builtInTypes) => string
  }
  const plain = (text: string): string => text.replace(/[\s']/g, '')
  expect(plain(readFileSync(`${project}src/model/built-ins.ts`, 'utf8'))).toBe(plain(builtInShapes(builtInTypes)))
})
