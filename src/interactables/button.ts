import type { Effect } from '../model/index.ts'
import { builtInType } from './built-in.ts'

const effects: Effect[] = [{ send: { setting: 'sends' } }, { add: { setting: 'counts' } }]

/** A button: in while it is pressed. */
export const button = builtInType({
  about: 'Sends a signal when it is pressed, or let go of, or so often while it is kept pressed.',
  settings: {
    sends: { kind: 'signal', about: 'The signal.' },
    counts: { kind: 'counter', about: 'A counter that goes up by one.' },
    needs: { kind: 'condition', about: 'What must be so before it works.' },
    acts: {
      kind: 'choice',
      options: ['on-press', 'on-release'],
      default: 'on-press',
      about: 'Whether it acts when it is pressed or when it is let go of.',
    },
    every: { kind: 'seconds', about: 'Kept pressed it acts again so often.' },
  },
  states: {
    up: { lasting: true, look: 'up' },
    in: { look: 'in', if: { setting: 'acts', is: 'on-release' } },
  },
  transitions: [
    {
      name: 'push',
      from: 'up',
      trigger: 'press',
      guard: { all: [{ setting: 'needs' }] },
      effects,
      if: { all: [{ not: 'every' }, { setting: 'acts', is: 'on-press' }] },
    },
    {
      name: 'push',
      from: 'up',
      trigger: { press: 'use', every: { setting: 'every' } },
      guard: { all: [{ setting: 'needs' }] },
      effects,
      if: { all: ['every', { setting: 'acts', is: 'on-press' }] },
    },
    {
      name: 'push-in',
      from: 'up',
      to: 'in',
      trigger: 'press',
      guard: { all: [{ setting: 'needs' }] },
      if: { setting: 'acts', is: 'on-release' },
    },
    {
      name: 'let-go',
      from: 'in',
      to: 'up',
      trigger: 'release',
      effects,
      if: { setting: 'acts', is: 'on-release' },
    },
  ],
  handle: [0, 0, 1],
})
