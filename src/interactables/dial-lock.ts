import { builtInType } from './built-in.ts'

/** A lock with wheels: turned while they stand at its combination. */
export const dialLock = builtInType({
  about: 'A lock with wheels: turned while they stand at its combination. Doors and chests name it in lock.keyhole.',
  settings: {
    combination: { kind: 'digits', needed: true, about: 'Where the wheels must stand, from the first on.' },
    wheels: { kind: 'count', needed: true, about: 'How many wheels it has.' },
    positions: { kind: 'count', default: 10, about: 'How many positions each wheel has, from 0 on.' },
    initial: { kind: 'digits', about: 'Where the wheels stand at first; all at 0 where it is left out.' },
    stays: { kind: 'yes-no', default: false, about: 'Once turned it stays so.' },
    sends: { kind: 'signal', about: 'A signal that is sent when it is turned.' },
    'sends-back': { kind: 'signal', about: 'A signal that is sent when it locks again.' },
  },
  contradictions: [{ settings: ['stays', 'sends-back'], because: 'what stays turned never locks again.' }],
  dial: { wheels: { setting: 'wheels' }, positions: { setting: 'positions' } },
  states: {
    locked: { dials: true, look: 'locked' },
    turned: { dials: true, lasting: true, look: 'turned' },
  },
  transitions: [
    {
      name: 'turn',
      from: 'locked',
      to: 'turned',
      trigger: { becomes: { dial: { setting: 'combination' } } },
      effects: [{ send: { setting: 'sends' } }],
    },
    {
      name: 'lock',
      from: 'turned',
      to: 'locked',
      trigger: { becomes: { not: { dial: { setting: 'combination' } } } },
      effects: [{ send: { setting: 'sends-back' } }],
      if: { not: 'stays' },
    },
  ],
  handle: [0, 0, 1],
})
