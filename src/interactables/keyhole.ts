import { builtInType } from './built-in.ts'

/** A keyhole apart from what it opens: turned for good with its item. */
export const keyhole = builtInType({
  about: 'Apart from what it opens: turned for good with its item. Doors and chests name it in lock.keyhole.',
  settings: {
    item: { kind: 'item', needed: true, about: 'The item that turns it.' },
    count: { kind: 'count', default: 1, about: 'How many of the item.' },
    'item-use': {
      kind: 'choice',
      options: ['keep', 'consume'],
      default: 'keep',
      about: 'Whether the character that turns it keeps the item.',
    },
    sends: { kind: 'signal', about: 'A signal that is sent when it is turned.' },
  },
  states: {
    empty: { look: 'empty' },
    turned: { lasting: true, look: 'turned' },
  },
  transitions: [
    {
      name: 'turn',
      from: 'empty',
      to: 'turned',
      trigger: 'press',
      guard: { carries: { setting: 'item' }, count: { setting: 'count' } },
      effects: [
        { consume: { setting: 'item' }, count: { setting: 'count' }, if: { setting: 'item-use', is: 'consume' } },
        { send: { setting: 'sends' } },
      ],
    },
  ],
  handle: [0, 0, 1],
})
