import type { Effect, Provided } from '../model/index.ts'
import { builtInType } from './built-in.ts'
import { exitSettings, exiting } from './exit.ts'
import { motionSettings, moving } from './motion.ts'
import { lock, locked, unlock, unlocksOnly } from './lock.ts'

const closing: Provided = { any: ['closed-by.press', 'closes.after', 'closed-by.leave', 'closed-by.signal'] }
const closable: Provided = { all: [{ not: 'stays-open' }, closing] }
const relocks: Provided = { all: ['lock', 'closes.locks'] }
const again = (is: string): Provided => ({ setting: 'motion.press-while-moving', is })
const reverses: Provided = { all: [closable, again('reverse')] }
const finishes: Provided = { all: [closable, again('finish')] }

const ifExit = (effect: Effect): Effect => ({ ...effect, if: { all: ['exit-to', effect.if ?? { all: [] }] } })

const barring = { blocks: ['walk' as const, 'sight' as const, 'camera' as const] }
const shut = { ...barring, pose: 0 as const, look: 'shut' }
/** A door: fills its doorway except when open; locked where it has a lock. */
export const door = builtInType({
  about: 'Fills its doorway except when it is open. Locked where it has a lock.',
  settings: {
    lock,
    'opened-by': {
      kind: 'triggers',
      options: ['press', 'enter', 'touch', 'signal'],
      default: ['press'],
      about: 'What opens it, once it is not locked: a press, walking near it on either side, touching it, a signal.',
    },
    hinge: {
      kind: 'choice',
      options: ['left', 'right'],
      default: 'left',
      about: 'Which side the hinge is on, seen from the first room that the doorway joins.',
    },
    motion: motionSettings({ kinds: ['turn', 'slide', 'vanish'], over: 0.8, offset: [0.9, 0, 0], isReversible: true }),
    'closed-by': {
      kind: 'triggers',
      options: ['press', 'leave', 'signal'],
      default: ['press'],
      about: 'What closes it: a press, everyone having left the ground near it, a signal.',
    },
    closes: {
      kind: 'group',
      default: {},
      about: 'How else it closes, and what then.',
      fields: {
        after: { kind: 'seconds', about: 'It closes by itself so many seconds after it opened.' },
        'when-asked-again': {
          kind: 'choice',
          options: ['keep-timer', 'restart-timer'],
          default: 'keep-timer',
          about: 'Asked to open again while that time runs: whether the time starts again.',
        },
        locks: { kind: 'yes-no', default: false, about: 'It locks again when it closes.' },
        'in-the-way': {
          kind: 'choice',
          options: ['wait', 'reopen', 'push'],
          default: 'wait',
          about: 'Somebody in its way: it waits, stays open and starts again once they are gone, or pushes them out.',
        },
      },
    },
    'exit-to': {
      kind: 'group',
      about: 'Once open, it takes the character that opened it somewhere else.',
      fields: exitSettings,
    },
    'stays-open': { kind: 'yes-no', default: false, about: 'Once open it never closes.' },
  },
  contradictions: [
    { settings: ['stays-open', 'closes.after'], because: 'it cannot both stay open and close by itself.' },
    { settings: ['stays-open', 'closed-by.leave'], because: 'it cannot both stay open and close when it is left.' },
    { settings: ['stays-open', 'closed-by.signal'], because: 'it cannot both stay open and close at a signal.' },
    { settings: ['stays-open', 'closes.locks'], because: 'what never closes cannot lock when it closes.' },
    { settings: ['motion.over', 'motion.speed'], because: 'it cannot be given both a time and a speed.' },
    { settings: ['lock.signal', 'lock.item'], because: 'what only a signal opens asks for no item.' },
    { settings: ['lock.signal', 'lock.keyhole'], because: 'what only a signal opens asks for no keyhole.' },
  ],
  states: {
    locked: { ...shut, ...locked },
    closed: {
      ...shut,
      if: { any: [{ not: 'lock' }, unlocksOnly, { all: [closable, { not: 'closes.locks' }] }] },
    },
    opening: { ...barring, motion: moving(1), look: 'moving open', ignores: { press: again('ignore') } },
    'opening-on': { ...barring, motion: moving(1), look: 'moving open', ignores: { press: true }, if: finishes },
    open: { pose: 1, lasting: true, look: 'open' },
    closing: { ...barring, motion: moving(0), look: 'moving shut', ignores: { press: again('ignore') }, if: closable },
    'closing-on': { ...barring, motion: moving(0), look: 'moving shut', ignores: { press: true }, if: finishes },
  },
  transitions: [
    ...unlock,
    { name: 'open', from: 'closed', to: 'opening', trigger: 'press', if: 'opened-by.press' },
    { name: 'open-on-enter', from: 'closed', to: 'opening', trigger: { enter: 'near' }, if: 'opened-by.enter' },
    { name: 'open-on-touch', from: 'closed', to: 'opening', trigger: 'touch', if: 'opened-by.touch' },
    {
      name: 'open-on-signal',
      from: 'closed',
      to: 'opening',
      trigger: { signal: { setting: 'opened-by.signal' } },
      if: 'opened-by.signal',
    },
    { name: 'opened', from: 'opening', to: 'open', trigger: 'motion-end', effects: exiting.map(ifExit) },
    {
      name: 'close',
      from: 'open',
      to: 'closing',
      trigger: 'press',
      if: { all: [closable, 'closed-by.press'] },
    },
    {
      name: 'restart-timer',
      from: 'open',
      to: 'open',
      trigger: 'press',
      if: {
        all: [
          closable,
          'closes.after',
          { not: 'closed-by.press' },
          { setting: 'closes.when-asked-again', is: 'restart-timer' },
        ],
      },
    },
    {
      name: 'restart-timer-on-enter',
      from: 'open',
      to: 'open',
      trigger: { enter: 'near' },
      if: {
        all: [closable, 'closes.after', 'opened-by.enter', { setting: 'closes.when-asked-again', is: 'restart-timer' }],
      },
    },
    {
      name: 'close-by-itself',
      from: 'open',
      to: 'closing',
      trigger: { after: { setting: 'closes.after' } },
      if: { all: [closable, 'closes.after'] },
    },
    {
      name: 'close-on-leave',
      from: 'open',
      to: 'closing',
      trigger: { leave: 'near' },
      guard: { not: { inside: 'near' } },
      if: { all: [closable, 'closed-by.leave'] },
    },
    {
      name: 'close-on-signal',
      from: 'open',
      to: 'closing',
      trigger: { signal: { setting: 'closed-by.signal' } },
      if: { all: [closable, 'closed-by.signal'] },
    },
    { name: 'shut-and-lock', from: 'closing', to: 'locked', trigger: 'motion-end', if: { all: [closable, relocks] } },
    { name: 'shut', from: 'closing', to: 'closed', trigger: 'motion-end', if: { all: [closable, { not: relocks }] } },
    { name: 'turn-back', from: 'opening', to: 'closing', trigger: 'press', if: reverses },
    { name: 'turn-again', from: 'closing', to: 'opening', trigger: 'press', if: reverses },
    { name: 'then-close', from: 'opening', to: 'opening-on', trigger: 'press', if: finishes },
    { name: 'finish-opening', from: 'opening-on', to: 'closing', trigger: 'motion-end', if: finishes },
    {
      name: 'then-open',
      from: 'closing',
      to: 'closing-on',
      trigger: 'press',
      if: { all: [finishes, { not: relocks }] },
    },
    { name: 'finish-closing', from: 'closing-on', to: 'opening', trigger: 'motion-end', if: finishes },
  ],
  'in-the-way': { setting: 'closes.in-the-way' },
  zones: { near: { radius: 1.6 } },
  handle: { 'away-from': { setting: 'hinge' }, inset: 0.1, height: 1 },
})
