import { defineInteractable } from '../model/index.ts'

/** An item lying or hanging about: taken once. */
export const pickup = defineInteractable({
  about: 'An item lying or hanging about: taken once.',
  settings: {
    gives: { kind: 'item', needed: true, about: 'The item.' },
    count: { kind: 'count', default: 1, about: 'How many of it.' },
    'taken-by': {
      kind: 'choice',
      options: ['press', 'enter'],
      default: 'press',
      about: 'Whether it is pressed, or taken by walking up to it.',
    },
  },
  states: {
    there: { look: 'there' },
    taken: { lasting: true, look: 'gone' },
  },
  transitions: [
    {
      name: 'take',
      from: 'there',
      to: 'taken',
      trigger: 'press',
      effects: [{ give: { setting: 'gives' }, count: { setting: 'count' } }],
      if: { setting: 'taken-by', is: 'press' },
    },
    {
      name: 'take',
      from: 'there',
      to: 'taken',
      trigger: { enter: 'near' },
      effects: [{ give: { setting: 'gives' }, count: { setting: 'count' } }],
      if: { setting: 'taken-by', is: 'enter' },
    },
  ],
  zones: { near: { radius: 0.5 } },
  handle: [0, 0, 0.8],
})
