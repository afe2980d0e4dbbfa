import type { Provided } from '../model/index.ts'
import { builtInType } from './built-in.ts'
import { lock, locked, unlock, unlocksOnly } from './lock.ts'
import { motionSettings, moving } from './motion.ts'

const closable: Provided = { all: ['closed-by.press', { not: 'gives' }] }

/** A drawer or cupboard: opens and closes, and gives once what is in it. */
export const drawer = builtInType({
  about: 'A drawer or a cupboard: slides or turns open and shut, and gives once what is in it. It fills no doorway.',
  settings: {
    lock,
    gives: { kind: 'items', about: 'What is in it.' },
    motion: motionSettings({ kinds: ['slide', 'turn'], over: 0.4, offset: [0, -0.35, 0], isReversible: false }),
    'closed-by': {
      kind: 'triggers',
      options: ['press'],
      default: ['press'],
      about: 'What closes it again; one that gives something stays open.',
    },
  },
  states: {
    locked: { ...locked },
    closed: {
      pose: 0,
      look: 'shut',
      if: { any: [{ not: 'lock' }, unlocksOnly, closable] },
    },
    opening: {
      motion: moving(1),
      look: 'coming open',
      ignores: { press: true },
    },
    open: { pose: 1, lasting: true, look: 'open' },
    closing: {
      motion: moving(0),
      look: 'going shut',
      ignores: { press: true },
      if: closable,
    },
    empty: { pose: 1, lasting: true, look: 'open and empty', if: 'gives' },
  },
  transitions: [
    ...unlock,
    { name: 'open', from: 'closed', to: 'opening', trigger: 'press' },
    { name: 'opened', from: 'opening', to: 'open', trigger: 'motion-end' },
    {
      name: 'take',
      from: 'open',
      to: 'empty',
      trigger: 'press',
      effects: [{ give: { setting: 'gives' } }],
      if: 'gives',
    },
    { name: 'close', from: 'open', to: 'closing', trigger: 'press', if: closable },
    { name: 'shut', from: 'closing', to: 'closed', trigger: 'motion-end', if: closable },
  ],
  body: { size: [0.6, 0.5] },
  handle: [0, -0.2, 0.8],
})
