import type { Condition, Effect, Provided, Setting, StateDefinition } from '../model/index.ts'
import type { TransitionBetween } from './built-in.ts'

/** The setting that doors, drawers and chests share: what they ask for before they open. */
export const lock: Setting = {
  kind: 'group',
  about: 'What it asks for before it opens the first time.',
  fields: {
    item: { kind: 'item', about: 'The item that opens it.' },
    count: { kind: 'count', default: 1, about: 'How many of the item.' },
    'item-use': {
      kind: 'choice',
      options: ['keep', 'consume'],
      default: 'keep',
      about: 'Whether the character that opens it keeps the item.',
    },
    needs: { kind: 'condition', about: 'Any condition: one of several items, several at once, flags, other things.' },
    consumes: { kind: 'items', about: 'What else is used up when it opens.' },
    keyhole: { kind: 'interactable', about: 'A keyhole, or dial lock, apart from it, that must be turned.' },
    signal: { kind: 'signal', about: 'Only this signal opens it; every press is refused.' },
    unlocking: {
      kind: 'choice',
      options: ['opens', 'unlocks-only'],
      default: 'opens',
      about: 'Whether unlocking opens it too, or a second press is needed.',
    },
  },
}

/** A lock opens with its item, its keyhole turned, and whatever else it needs. */
const guard: Condition = {
  all: [
    { carries: { setting: 'lock.item' }, count: { setting: 'lock.count' } },
    { interactable: { setting: 'lock.keyhole' }, is: 'turned' },
    { all: [{ setting: 'lock.needs' }] },
  ],
}

const effects: Effect[] = [
  {
    consume: { setting: 'lock.item' },
    count: { setting: 'lock.count' },
    if: { setting: 'lock.item-use', is: 'consume' },
  },
  { consume: { setting: 'lock.consumes' } },
]

const byHand: Provided = { all: ['lock', { not: 'lock.signal' }] }
const atOnce: Provided = { setting: 'lock.unlocking', is: 'opens' }
const nextPress: Provided = { setting: 'lock.unlocking', is: 'unlocks-only' }

/** Whether unlocking leads to the closed state, from which it takes a second press. */
export const unlocksOnly: Provided = { all: ['lock', nextPress] }

/** The state of whatever has a lock, before it was opened. */
export const locked: StateDefinition = {
  pose: 0,
  look: 'shut',
  refuses: { press: 'lock.signal' },
  if: 'lock',
}

/** How whatever has a lock opens the first time. */
export const unlock: TransitionBetween<'locked' | 'closed' | 'opening'>[] = [
  { name: 'unlock', from: 'locked', to: 'opening', trigger: 'press', guard, effects, if: { all: [byHand, atOnce] } },
  { name: 'unlock', from: 'locked', to: 'closed', trigger: 'press', guard, effects, if: { all: [byHand, nextPress] } },
  {
    name: 'unlock',
    from: 'locked',
    to: 'opening',
    trigger: { signal: { setting: 'lock.signal' } },
    if: { all: ['lock.signal', atOnce] },
  },
  {
    name: 'unlock',
    from: 'locked',
    to: 'closed',
    trigger: { signal: { setting: 'lock.signal' } },
    if: { all: ['lock.signal', nextPress] },
  },
]
