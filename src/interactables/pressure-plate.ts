import { builtInType } from './built-in.ts'

/** A plate on the floor: down while somebody stands on it. */
export const pressurePlate = builtInType({
  about: 'A plate on the floor: down while somebody stands on it, or for good.',
  settings: {
    sends: { kind: 'signal', about: 'A signal that is sent when it goes down.' },
    'sends-back': { kind: 'signal', about: 'A signal that is sent when it comes up.' },
    stays: { kind: 'yes-no', default: false, about: 'Once down it stays down.' },
  },
  contradictions: [{ settings: ['stays', 'sends-back'], because: 'what stays down never comes up.' }],
  states: {
    up: { lasting: true, look: 'up' },
    down: { lasting: true, look: 'down' },
  },
  transitions: [
    { name: 'step-on', from: 'up', to: 'down', trigger: { enter: 'near' }, effects: [{ send: { setting: 'sends' } }] },
    {
      name: 'step-off',
      from: 'down',
      to: 'up',
      trigger: { leave: 'near' },
      guard: { not: { inside: 'near' } },
      effects: [{ send: { setting: 'sends-back' } }],
      if: { not: 'stays' },
    },
  ],
  zones: { near: { radius: 0.5 } },
})
