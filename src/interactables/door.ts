import { defineInteractable } from '../model/index.ts'
import { lock, unlock } from './lock.ts'

const closable = {
  all: [{ not: 'stays-open' }, { any: ['closes.by-press', 'closes.after'] }],
}
const byPress = { all: [{ not: 'stays-open' }, 'closes.by-press'] }
const byItself = { all: [{ not: 'stays-open' }, 'closes.after'] }
const relocks = { all: ['lock', 'closes.locks'] }
const reverses = { setting: 'swing.pressed-again', is: 'reverse' }
const ignoring = { setting: 'swing.pressed-again', is: 'ignore' }

/** A door: fills its doorway except when open; locked where it has a lock. */
export const door = defineInteractable({
  about: 'Fills its doorway except when it is open. Locked where it has a lock.',
  settings: {
    lock,
    hinge: { kind: 'choice', options: ['left', 'right'], default: 'left', about: 'Which side the hinge is on.' },
    swing: {
      kind: 'group',
      default: {},
      about: 'How it moves.',
      fields: {
        degrees: { kind: 'degrees', default: 90, about: 'How far it turns.' },
        over: { kind: 'seconds', default: 0.8, about: 'Seconds from shut to open.' },
        'pressed-again': {
          kind: 'choice',
          options: ['ignore', 'reverse'],
          default: 'ignore',
          about: 'What a press does while it moves.',
        },
      },
    },
    closes: {
      kind: 'group',
      default: {},
      about: 'How it closes.',
      fields: {
        'by-press': { kind: 'yes-no', default: true, about: 'A press closes it.' },
        after: { kind: 'seconds', about: 'It closes by itself so many seconds after it opened.' },
        locks: { kind: 'yes-no', default: false, about: 'It locks again when it closes.' },
      },
    },
    'stays-open': { kind: 'yes-no', default: false, about: 'Once open it never closes.' },
  },
  states: {
    locked: { blocks: ['walk', 'sight'], pose: 0, look: 'shut', if: 'lock' },
    closed: {
      blocks: ['walk', 'sight'],
      pose: 0,
      look: 'shut',
      if: { any: [{ not: 'lock' }, { all: [closable, { not: 'closes.locks' }] }] },
    },
    opening: {
      blocks: ['walk', 'sight'],
      motion: { to: 1, over: { setting: 'swing.over' }, turn: { setting: 'swing.degrees' } },
      look: 'turning open',
      ignores: { press: ignoring },
    },
    open: { pose: 1, lasting: true, look: 'open' },
    closing: {
      blocks: ['walk', 'sight'],
      motion: { to: 0, over: { setting: 'swing.over' }, turn: { setting: 'swing.degrees' } },
      look: 'turning shut',
      ignores: { press: ignoring },
      if: closable,
    },
  },
  transitions: [
    ...unlock,
    { name: 'open', from: 'closed', to: 'opening', trigger: 'press' },
    { name: 'opened', from: 'opening', to: 'open', trigger: 'moved' },
    { name: 'close', from: 'open', to: 'closing', trigger: 'press', if: byPress },
    {
      name: 'close-by-itself',
      from: 'open',
      to: 'closing',
      trigger: { after: { setting: 'closes.after' } },
      if: byItself,
    },
    { name: 'shut-and-lock', from: 'closing', to: 'locked', trigger: 'moved', if: { all: [closable, relocks] } },
    { name: 'shut', from: 'closing', to: 'closed', trigger: 'moved', if: { all: [closable, { not: relocks }] } },
    { name: 'turn-back', from: 'opening', to: 'closing', trigger: 'press', if: { all: [closable, reverses] } },
    { name: 'turn-again', from: 'closing', to: 'opening', trigger: 'press', if: { all: [closable, reverses] } },
  ],
  handle: { 'away-from': { setting: 'hinge' }, inset: 0.1, height: 1 },
})
