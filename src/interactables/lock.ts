import type { Condition, Effect, Provided, Setting, TransitionBetween } from '../model/index.ts'

/** The setting that doors and chests share: what they ask for before they open. */
export const lock: Setting = {
  kind: 'group',
  about: 'What it asks for before it opens the first time.',
  fields: {
    item: { kind: 'item', about: 'The item that opens it.' },
    count: { kind: 'count', default: 1, about: 'How many of the item.' },
    then: { kind: 'choice', options: ['keep', 'spend'], default: 'keep', about: 'What becomes of the item.' },
    keyhole: { kind: 'interactable', about: 'A keyhole apart from it, that must be turned.' },
  },
}

/** A lock opens with its item, its keyhole turned, or both, whichever it asks for. */
const guard: Condition = {
  all: [
    { carries: { setting: 'lock.item' }, count: { setting: 'lock.count' } },
    { interactable: { setting: 'lock.keyhole' }, is: 'turned' },
  ],
}

const spends: Provided = { all: ['lock.item', { setting: 'lock.then', is: 'spend' }] }
const spend: Effect[] = [{ spend: { setting: 'lock.item' }, count: { setting: 'lock.count' } }]

/** How whatever has a lock opens the first time: spending what it asks for, or not. */
export const unlock: TransitionBetween<'locked' | 'opening'>[] = [
  {
    name: 'unlock',
    from: 'locked',
    to: 'opening',
    trigger: 'press',
    guard,
    effects: spend,
    if: { all: ['lock', spends] },
  },
  { name: 'unlock', from: 'locked', to: 'opening', trigger: 'press', guard, if: { all: ['lock', { not: spends }] } },
]
