import { defineInteractable } from '../model/index.ts'
import { lock, locked, unlock, unlocksOnly } from './lock.ts'

const moving = (to: 0 | 1) => ({
  to,
  over: { setting: 'over' },
  kind: { setting: 'moves' },
  turn: { setting: 'degrees' },
  slide: { setting: 'slides' },
})

/** A drawer or cupboard: opens and closes, and gives once what is in it. */
export const drawer = defineInteractable({
  about: 'A drawer or a cupboard: slides or turns open and shut, and gives once what is in it. It fills no doorway.',
  settings: {
    lock,
    gives: { kind: 'items', about: 'What is in it.' },
    moves: { kind: 'choice', options: ['slide', 'turn'], default: 'slide', about: 'Whether it slides or turns.' },
    slides: { kind: 'shift', default: [0, -0.35, 0], about: 'How far it slides, in its own frame.' },
    degrees: { kind: 'degrees', default: 90, about: 'How far it turns.' },
    over: { kind: 'seconds', default: 0.4, about: 'Seconds from shut to open.' },
    closes: { kind: 'yes-no', default: true, about: 'A press closes it again; one that gives something stays open.' },
  },
  states: {
    locked: { ...locked },
    closed: {
      pose: 0,
      look: 'shut',
      if: { any: [{ not: 'lock' }, unlocksOnly, { all: ['closes', { not: 'gives' }] }] },
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
      if: { all: ['closes', { not: 'gives' }] },
    },
    empty: { pose: 1, lasting: true, look: 'open and empty', if: 'gives' },
  },
  transitions: [
    ...unlock,
    { name: 'open', from: 'closed', to: 'opening', trigger: 'press' },
    { name: 'opened', from: 'opening', to: 'open', trigger: 'moved' },
    {
      name: 'take',
      from: 'open',
      to: 'empty',
      trigger: 'press',
      effects: [{ give: { setting: 'gives' } }],
      if: 'gives',
    },
    { name: 'close', from: 'open', to: 'closing', trigger: 'press', if: { all: ['closes', { not: 'gives' }] } },
    { name: 'shut', from: 'closing', to: 'closed', trigger: 'moved', if: { all: ['closes', { not: 'gives' }] } },
  ],
  body: { size: [0.6, 0.5] },
  handle: [0, -0.2, 0.8],
})
