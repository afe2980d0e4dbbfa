import type { Condition, Effect, Setting } from '../model/index.ts'

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
export const lockGuard: Condition = {
  all: [
    { carries: { setting: 'lock.item' }, count: { setting: 'lock.count' } },
    { interactable: { setting: 'lock.keyhole' }, is: 'turned' },
  ],
}

/** Spends what the lock asks for. */
export const lockSpend: Effect[] = [{ spend: { setting: 'lock.item' }, count: { setting: 'lock.count' } }]
