import type { Condition, Effect, Provided } from '../model/index.ts'
import { builtInType } from './built-in.ts'

const once: Provided = { setting: 'for', is: 'each' }
const effects: Effect[] = [
  { send: { setting: 'sends' } },
  { add: { setting: 'counts' } },
  { remember: 'pressed', if: once },
]
const works: Condition[] = [{ all: [{ setting: 'needs' }] }]
const notYet: Condition = { not: { remembers: 'pressed' } }

/** A button: in while it is pressed. */
export const button = builtInType({
  about: 'Sends a signal when it is pressed, or let go of, or so often while it is kept pressed.',
  settings: {
    sends: { kind: 'signal', about: 'The signal.' },
    counts: { kind: 'counter', about: 'A counter that goes up by one.' },
    needs: { kind: 'condition', about: 'What must be so before it works.' },
    for: {
      kind: 'choice',
      options: ['all', 'each'],
      default: 'all',
      about: 'Whether anybody can press it again and again, or each character once, for itself.',
    },
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
  contradictions: [
    { settings: ['for', 'every'], because: 'what each can press once does not act again while it is kept pressed.' },
  ],
  remembers: ['pressed'],
  transitions: [
    {
      name: 'push',
      from: 'up',
      trigger: 'press',
      guard: { all: works },
      effects,
      if: { all: [{ not: 'every' }, { not: once }, { setting: 'acts', is: 'on-press' }] },
    },
    {
      name: 'push',
      from: 'up',
      trigger: 'press',
      guard: { all: [notYet, ...works] },
      effects,
      if: { all: [once, { setting: 'acts', is: 'on-press' }] },
    },
    {
      name: 'push',
      from: 'up',
      trigger: { press: 'use', every: { setting: 'every' } },
      guard: { all: works },
      effects,
      if: { all: ['every', { setting: 'acts', is: 'on-press' }] },
    },
    {
      name: 'push-in',
      from: 'up',
      to: 'in',
      trigger: 'press',
      guard: { all: works },
      if: { all: [{ not: once }, { setting: 'acts', is: 'on-release' }] },
    },
    {
      name: 'push-in',
      from: 'up',
      to: 'in',
      trigger: 'press',
      guard: { all: [notYet, ...works] },
      if: { all: [once, { setting: 'acts', is: 'on-release' }] },
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
