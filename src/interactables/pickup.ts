import { defineInteractable, type Effect, type Provided } from '../model/index.ts'

const by = (is: string): Provided => ({ setting: 'taken-by', is })
const effects: Effect[] = [{ give: { setting: 'gives' }, count: { setting: 'count' } }]
const guard = { 'room-for': { setting: 'gives' }, count: { setting: 'count' } }

/** An item lying or hanging about: taken once, or again after a time. */
export const pickup = defineInteractable({
  about: 'An item lying or hanging about: taken once, or again after a time, by whoever has room for it.',
  settings: {
    gives: { kind: 'item', needed: true, about: 'The item.' },
    count: { kind: 'count', default: 1, about: 'How many of it.' },
    'taken-by': {
      kind: 'choice',
      options: ['press', 'enter', 'touch'],
      default: 'press',
      about: 'Whether it is pressed, or taken by walking near it, or by touching it.',
    },
    'comes-back': { kind: 'seconds', about: 'It is there again so many seconds after it was taken.' },
  },
  states: {
    there: { look: 'there' },
    taken: { lasting: true, look: 'gone' },
  },
  transitions: [
    { name: 'take', from: 'there', to: 'taken', trigger: 'press', guard, effects, if: by('press') },
    { name: 'take', from: 'there', to: 'taken', trigger: { enter: 'near' }, guard, effects, if: by('enter') },
    { name: 'take', from: 'there', to: 'taken', trigger: 'touch', guard, effects, if: by('touch') },
    {
      name: 'come-back',
      from: 'taken',
      to: 'there',
      trigger: { after: { setting: 'comes-back' } },
      if: 'comes-back',
    },
  ],
  zones: { near: { radius: 0.5 } },
  handle: [0, 0, 0.8],
})
