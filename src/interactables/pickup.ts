import type { Effect, Provided } from '../model/index.ts'
import { builtInType } from './built-in.ts'

const by = (trigger: string): Provided => `taken-by.${trigger}`
const once: Provided = { setting: 'for', is: 'each' }
const effects: Effect[] = [
  { give: { setting: 'gives' }, count: { setting: 'count' } },
  { remember: 'took', if: once },
  { send: { setting: 'sends' } },
  { set: { setting: 'sets' } },
]
const fillsUp: Provided = { setting: 'when-full', is: 'fills-up' }
const room = { 'room-for': { setting: 'gives' }, count: { setting: 'count' } }
const someRoom = { 'room-for': { setting: 'gives' } }
const notYet = { not: { remembers: 'took' } }

/** The ways to take it: for all to see, or each for itself; all of it, or what there is room for. */
const takes = (['press', 'enter', 'touch'] as const).flatMap((way) => {
  const trigger = way === 'enter' ? { enter: 'near' } : way
  const shared = { from: 'available' as const, trigger, effects }
  return [
    {
      ...shared,
      name: 'take',
      to: 'taken' as const,
      guard: room,
      if: { all: [by(way), { not: once }, { not: fillsUp }] },
    },
    { ...shared, name: 'take', to: 'taken' as const, guard: someRoom, if: { all: [by(way), { not: once }, fillsUp] } },
    { ...shared, name: 'take', guard: { all: [notYet, room] }, if: { all: [by(way), once, { not: fillsUp }] } },
    { ...shared, name: 'take', guard: { all: [notYet, someRoom] }, if: { all: [by(way), once, fillsUp] } },
  ]
})

/** An item lying or hanging about: taken once, or again after a time. */
export const pickup = builtInType({
  about: 'An item lying or hanging about: taken once, or again after a time, by a character that has room for it.',
  settings: {
    gives: { kind: 'item', needed: true, about: 'The item.' },
    count: { kind: 'count', default: 1, about: 'How many of it.' },
    'taken-by': {
      kind: 'triggers',
      options: ['press', 'enter', 'touch'],
      default: ['press'],
      about: 'How it is taken: by a press, by walking near it, by touching it.',
    },
    for: {
      kind: 'choice',
      options: ['all', 'each'],
      default: 'all',
      about: 'Taken by one it is gone for all; or each can take it once, for itself.',
    },
    'when-full': {
      kind: 'choice',
      options: ['refuses', 'fills-up'],
      default: 'refuses',
      about: 'Where there is no room for all of it: nothing is taken, or as many as there is room for.',
    },
    sends: { kind: 'signal', about: 'A signal that is sent when it is taken.' },
    sets: { kind: 'flag', about: 'A flag that is set when it is taken.' },
    'comes-back': { kind: 'seconds', about: 'It can be taken again so many seconds after it was taken.' },
  },
  contradictions: [
    { settings: ['for', 'comes-back'], because: 'what each takes once is never gone, and cannot come back.' },
  ],
  remembers: ['took'],
  states: {
    available: { lasting: true, look: 'there' },
    taken: { lasting: true, look: 'gone', if: { not: once } },
  },
  transitions: [
    ...takes,
    {
      name: 'come-back',
      from: 'taken',
      to: 'available',
      trigger: { after: { setting: 'comes-back' } },
      if: 'comes-back',
    },
  ],
  zones: { near: { radius: 0.5 } },
  handle: [0, 0, 0.8],
})
