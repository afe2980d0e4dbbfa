import { defineInteractable } from '../model/index.ts'
import { lock, locked, unlock, unlocksOnly } from './lock.ts'

/** A chest: opens once, gives what is in it to whoever opened it, and stays open. */
export const chest = defineInteractable({
  about: 'Opens once, gives what is in it to whoever opened it, and stays open. Nobody walks through it.',
  settings: {
    lock,
    gives: { kind: 'items', about: 'What is in it.' },
    lid: {
      kind: 'group',
      default: {},
      about: 'How the lid moves.',
      fields: { over: { kind: 'seconds', default: 0.6, about: 'Seconds from shut to open.' } },
    },
  },
  contradictions: [
    { settings: ['lock.signal', 'lock.item'], because: 'what only a signal opens asks for no item.' },
    { settings: ['lock.signal', 'lock.keyhole'], because: 'what only a signal opens asks for no keyhole.' },
  ],
  states: {
    locked: { ...locked, blocks: ['walk'] },
    closed: { blocks: ['walk'], pose: 0, look: 'shut', if: { any: [{ not: 'lock' }, unlocksOnly] } },
    opening: {
      blocks: ['walk'],
      motion: { to: 1, over: { setting: 'lid.over' } },
      look: 'the lid rises',
      ignores: { press: true },
    },
    open: { blocks: ['walk'], pose: 1, lasting: true, look: 'open' },
  },
  transitions: [
    ...unlock,
    { name: 'open', from: 'closed', to: 'opening', trigger: 'press' },
    { name: 'opened', from: 'opening', to: 'open', trigger: 'moved', effects: [{ give: { setting: 'gives' } }] },
  ],
  body: { size: [0.8, 0.5] },
  handle: [0, 0, 0.8],
})
