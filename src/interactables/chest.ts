import type { Provided } from '../model/index.ts'
import { builtInType } from './built-in.ts'
import { lock, locked, unlock, unlocksOnly } from './lock.ts'

const hands = (is: string): Provided => ({ setting: 'hands-over', is })
const forEach: Provided = { setting: 'for', is: 'each' }
const forAll: Provided = { not: forEach }
const atOnce: Provided = { any: [hands('all-at-once'), forEach] }
const byChance: Provided = 'by-chance'
const keeps: Provided = { all: [{ any: [hands('what-fits'), hands('by-choice')] }, forAll] }

/** A chest: opens once, gives what is in it to the character that opened it, and stays open. */
export const chest = builtInType({
  about: 'Opens once, gives what is in it to the character that opened it, and stays open. Nobody walks through it.',
  settings: {
    lock,
    gives: { kind: 'items', about: 'What is in it.' },
    'hands-over': {
      kind: 'choice',
      options: ['all-at-once', 'what-fits', 'by-choice'],
      default: 'all-at-once',
      about:
        'Everything, and what there is no room for is lost; what there is room for, keeping the rest; or by choice.',
    },
    'by-chance': {
      kind: 'yes-no',
      default: false,
      about: 'One of what it gives is in it, and chance draws which when it is opened; otherwise everything is.',
    },
    for: {
      kind: 'choice',
      options: ['all', 'each'],
      default: 'all',
      about: 'What is in it is there once; or once for each, who finds it full and gets everything at once.',
    },
    motion: {
      kind: 'group',
      default: {},
      about: 'How its lid moves.',
      fields: { over: { kind: 'seconds', default: 0.6, about: 'Seconds from shut to open.' } },
    },
  },
  contradictions: [
    { settings: ['lock.signal', 'lock.item'], because: 'what only a signal opens asks for no item.' },
    { settings: ['lock.signal', 'lock.keyhole'], because: 'what only a signal opens asks for no keyhole.' },
  ],
  remembers: ['took'],
  states: {
    locked: { ...locked, blocks: ['walk'] },
    closed: { blocks: ['walk'], pose: 0, look: 'shut', if: { any: [{ not: 'lock' }, unlocksOnly] } },
    opening: {
      blocks: ['walk'],
      motion: { to: 1, over: { setting: 'motion.over' } },
      look: 'the lid rises',
      ignores: { press: true },
    },
    open: { blocks: ['walk'], pose: 1, lasting: true, look: 'open' },
    empty: { blocks: ['walk'], pose: 1, lasting: true, look: 'open and empty', if: { all: ['gives', keeps] } },
  },
  transitions: [
    ...unlock,
    { name: 'open', from: 'closed', to: 'opening', trigger: 'press', if: { not: byChance } },
    {
      name: 'open',
      from: 'closed',
      to: 'opening',
      'for-each': 'gives',
      trigger: { chance: { setting: 'each.item' } },
      effects: [{ 'put-in': { setting: 'each.item' }, count: { setting: 'each.count' } }],
      if: byChance,
    },
    {
      name: 'opened',
      from: 'opening',
      to: 'open',
      trigger: 'motion-end',
      effects: [
        { give: { setting: 'gives' }, if: { all: [{ not: byChance }, atOnce] } },
        { 'take-out': true, if: { any: [{ all: [hands('what-fits'), forAll] }, { all: [byChance, atOnce] }] } },
        { remember: 'took', if: forEach },
      ],
    },
    {
      name: 'take-own',
      from: 'open',
      trigger: 'press',
      guard: { not: { remembers: 'took' } },
      effects: [{ give: { setting: 'gives' } }, { remember: 'took' }],
      if: { all: ['gives', forEach, { not: byChance }] },
    },
    {
      name: 'take-own',
      from: 'open',
      'for-each': 'gives',
      trigger: { chance: { setting: 'each.item' } },
      guard: { not: { remembers: 'took' } },
      effects: [{ give: { setting: 'each.item' }, count: { setting: 'each.count' } }, { remember: 'took' }],
      if: { all: [forEach, byChance] },
    },
    {
      name: 'take-rest',
      from: 'open',
      trigger: 'press',
      guard: { 'something-fits': true },
      effects: [{ 'take-out': true }],
      if: { all: ['gives', hands('what-fits'), forAll] },
    },
    {
      name: 'take',
      from: 'open',
      'for-each': 'gives',
      trigger: { option: 'Take the {item}', offered: { contains: { setting: 'each.item' } } },
      guard: { 'room-for': { setting: 'each.item' } },
      effects: [{ 'take-out': { setting: 'each.item' }, count: { setting: 'each.count' } }],
      if: { all: ['gives', hands('by-choice'), forAll] },
    },
    {
      name: 'emptied',
      from: 'open',
      to: 'empty',
      trigger: { becomes: { empty: true } },
      if: { all: ['gives', keeps] },
    },
  ],
  contains: { items: { setting: 'gives' }, if: { any: [keeps, byChance] }, empty: byChance },
  body: { size: [0.8, 0.5] },
  handle: [0, 0, 0.8],
})
