import { builtInType } from './built-in.ts'

/** A checkpoint: a character that walks into it comes back to its place after a fall. */
export const checkpoint = builtInType({
  about: 'A character that walks into it comes back to its place after a fall, until it walks into another one.',
  settings: {
    place: { kind: 'place', needed: true, about: 'Where the character comes back to.' },
    needs: { kind: 'condition', about: 'What must be so before it counts.' },
  },
  states: { ready: { lasting: true } },
  transitions: [
    {
      name: 'pass',
      from: 'ready',
      trigger: { enter: 'near' },
      guard: { all: [{ setting: 'needs' }] },
      effects: [{ checkpoint: { setting: 'place' } }],
    },
  ],
  zones: { near: { radius: 1 } },
})

/** A pit: a character that walks into it falls, and comes back to its last checkpoint. */
export const pit = builtInType({
  about: 'A character that walks into it falls, and comes back to its last checkpoint.',
  settings: {
    'back-to': { kind: 'place', needed: true, about: 'Where a character comes back to that has passed no checkpoint.' },
    loses: { kind: 'items', about: 'The items that are lost in the fall; all are kept if left out.' },
  },
  states: { ready: { lasting: true } },
  transitions: [
    {
      name: 'fall',
      from: 'ready',
      trigger: { enter: 'near' },
      effects: [{ remove: { setting: 'loses' } }, { 'back-to-checkpoint': { setting: 'back-to' } }],
    },
  ],
  zones: { near: { radius: 0.5 } },
})
