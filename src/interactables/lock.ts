import type { Condition, Effect, Provided, Setting, StateDefinition, TransitionBetween } from '../model/index.ts'

/** The setting that doors, drawers and chests share: what they ask for before they open. */
export const lock: Setting = {
  kind: 'group',
  about: 'What it asks for before it opens the first time.',
  fields: {
    item: { kind: 'item', about: 'The item that opens it.' },
    count: { kind: 'count', default: 1, about: 'How many of the item.' },
    then: { kind: 'choice', options: ['keep', 'spend'], default: 'keep', about: 'What becomes of the item.' },
    needs: { kind: 'condition', about: 'Any condition: one of several items, several at once, flags, other things.' },
    takes: { kind: 'items', about: 'What is used up when it opens, beside the item.' },
    keyhole: { kind: 'interactable', about: 'A keyhole, or dial lock, apart from it, that must be turned.' },
    signal: { kind: 'signal', about: 'Only this signal opens it; every press is refused.' },
    opens: {
      kind: 'choice',
      options: ['at-once', 'next-press'],
      default: 'at-once',
      about: 'Whether it opens when it is unlocked, or takes a second press.',
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
  { spend: { setting: 'lock.item' }, count: { setting: 'lock.count' }, if: { setting: 'lock.then', is: 'spend' } },
  { spend: { setting: 'lock.takes' } },
]

const byHand: Provided = { all: ['lock', { not: 'lock.signal' }] }
const atOnce: Provided = { setting: 'lock.opens', is: 'at-once' }
const nextPress: Provided = { setting: 'lock.opens', is: 'next-press' }

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
