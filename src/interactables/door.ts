import { defineInteractable, type Effect, type Provided } from '../model/index.ts'
import { leading, leads } from './exit.ts'
import { lock, locked, unlock, unlocksOnly } from './lock.ts'

const closing: Provided = { any: ['closes.by-press', 'closes.after', 'closes.when-left', 'closes.by-signal'] }
const closable: Provided = { all: [{ not: 'stays-open' }, closing] }
const relocks: Provided = { all: ['lock', 'closes.locks'] }
const again = (is: string): Provided => ({ setting: 'swing.pressed-again', is })
const reverses: Provided = { all: [closable, again('reverse')] }
const finishes: Provided = { all: [closable, again('finish')] }

const ifLeads = (effect: Effect): Effect => ({ ...effect, if: { all: ['leads', effect.if ?? { all: [] }] } })

const shut = { blocks: ['walk' as const, 'sight' as const], pose: 0 as const, look: 'shut' }
const moving = (to: 0 | 1) => ({
  blocks: ['walk' as const, 'sight' as const],
  motion: {
    to,
    over: { setting: 'swing.over' },
    speed: { setting: 'swing.speed', or: 0 },
    way: { setting: 'swing.way' },
    kind: { setting: 'moves' },
    turn: { setting: 'swing.degrees' },
    slide: { setting: 'slides' },
    ease: { setting: 'swing.ease' },
  },
})

/** A door: fills its doorway except when open; locked where it has a lock. */
export const door = defineInteractable({
  about: 'Fills its doorway except when it is open. Locked where it has a lock.',
  settings: {
    lock,
    opens: {
      kind: 'group',
      default: {},
      about: 'How it is asked to open, once it is not locked.',
      fields: {
        'by-press': { kind: 'yes-no', default: true, about: 'A press opens it.' },
        'by-area': { kind: 'yes-no', default: false, about: 'Walking into its area, on either side, opens it.' },
        'by-touch': { kind: 'yes-no', default: false, about: 'Touching it opens it.' },
        'by-signal': { kind: 'signal', about: 'This signal opens it.' },
      },
    },
    hinge: {
      kind: 'choice',
      options: ['left', 'right'],
      default: 'left',
      about: 'Which side the hinge is on, seen from the first room that the doorway joins.',
    },
    moves: {
      kind: 'choice',
      options: ['turn', 'slide', 'vanish'],
      default: 'turn',
      about: 'Whether it turns about its hinge, slides, or vanishes and comes back.',
    },
    swing: {
      kind: 'group',
      default: {},
      about: 'How it moves.',
      fields: {
        degrees: { kind: 'degrees', default: 90, about: 'How far it turns.' },
        over: { kind: 'seconds', default: 0.8, about: 'Seconds from shut to open.' },
        speed: { kind: 'speed', about: 'Instead of the seconds: degrees, or metres for a slide, a second.' },
        way: {
          kind: 'choice',
          options: ['as-said', 'shorter', 'left', 'right'],
          default: 'as-said',
          about: 'Which way it turns: as the degrees say, the shorter way there, to the left, or to the right.',
        },
        ease: {
          kind: 'choice',
          options: ['steady', 'soft'],
          default: 'steady',
          about: 'Always as fast, or slow at first and at last.',
        },
        'pressed-again': {
          kind: 'choice',
          options: ['ignore', 'reverse', 'finish'],
          default: 'ignore',
          about: 'What a press does while it moves: nothing, turn it back, or turn it back once it has finished.',
        },
      },
    },
    slides: { kind: 'shift', default: [0.9, 0, 0], about: 'How far it slides, in its own frame.' },
    closes: {
      kind: 'group',
      default: {},
      about: 'How it closes.',
      fields: {
        'by-press': { kind: 'yes-no', default: true, about: 'A press closes it.' },
        after: { kind: 'seconds', about: 'It closes by itself so many seconds after it opened.' },
        asked: {
          kind: 'choice',
          options: ['goes-on', 'starts-over'],
          default: 'goes-on',
          about: 'Asked to open again while that time runs: whether it starts over.',
        },
        'when-left': { kind: 'yes-no', default: false, about: 'It closes when everyone has left its area.' },
        'by-signal': { kind: 'signal', about: 'This signal closes it.' },
        locks: { kind: 'yes-no', default: false, about: 'It locks again when it closes.' },
        'in-the-way': {
          kind: 'choice',
          options: ['wait', 'reopen', 'push'],
          default: 'wait',
          about: 'Somebody in its way: it waits, stays open and starts again once they are gone, or pushes them out.',
        },
      },
    },
    leads: { kind: 'group', about: 'Once open, it leads whoever opened it somewhere else.', fields: leads },
    'stays-open': { kind: 'yes-no', default: false, about: 'Once open it never closes.' },
  },
  contradictions: [
    { settings: ['stays-open', 'closes.after'], because: 'it cannot both stay open and close by itself.' },
    { settings: ['stays-open', 'closes.when-left'], because: 'it cannot both stay open and close when it is left.' },
    { settings: ['stays-open', 'closes.by-signal'], because: 'it cannot both stay open and close at a signal.' },
    { settings: ['stays-open', 'closes.locks'], because: 'what never closes cannot lock when it closes.' },
    { settings: ['swing.over', 'swing.speed'], because: 'it cannot be given both a time and a speed.' },
    { settings: ['lock.signal', 'lock.item'], because: 'what only a signal opens asks for no item.' },
    { settings: ['lock.signal', 'lock.keyhole'], because: 'what only a signal opens asks for no keyhole.' },
  ],
  states: {
    locked: { ...shut, ...locked },
    closed: {
      ...shut,
      if: { any: [{ not: 'lock' }, unlocksOnly, { all: [closable, { not: 'closes.locks' }] }] },
    },
    opening: { ...moving(1), look: 'moving open', ignores: { press: again('ignore') } },
    'opening-on': { ...moving(1), look: 'moving open', ignores: { press: true }, if: finishes },
    open: { pose: 1, lasting: true, look: 'open' },
    closing: { ...moving(0), look: 'moving shut', ignores: { press: again('ignore') }, if: closable },
    'closing-on': { ...moving(0), look: 'moving shut', ignores: { press: true }, if: finishes },
  },
  transitions: [
    ...unlock,
    { name: 'open', from: 'closed', to: 'opening', trigger: 'press', if: 'opens.by-press' },
    { name: 'open-by-area', from: 'closed', to: 'opening', trigger: { enter: 'area' }, if: 'opens.by-area' },
    { name: 'open-by-touch', from: 'closed', to: 'opening', trigger: 'touch', if: 'opens.by-touch' },
    {
      name: 'open-by-signal',
      from: 'closed',
      to: 'opening',
      trigger: { signal: { setting: 'opens.by-signal' } },
      if: 'opens.by-signal',
    },
    { name: 'opened', from: 'opening', to: 'open', trigger: 'moved', effects: leading.map(ifLeads) },
    {
      name: 'close',
      from: 'open',
      to: 'closing',
      trigger: 'press',
      if: { all: [closable, 'closes.by-press'] },
    },
    {
      name: 'start-over',
      from: 'open',
      to: 'open',
      trigger: 'press',
      if: {
        all: [closable, 'closes.after', { not: 'closes.by-press' }, { setting: 'closes.asked', is: 'starts-over' }],
      },
    },
    {
      name: 'start-over-by-area',
      from: 'open',
      to: 'open',
      trigger: { enter: 'area' },
      if: { all: [closable, 'closes.after', 'opens.by-area', { setting: 'closes.asked', is: 'starts-over' }] },
    },
    {
      name: 'close-by-itself',
      from: 'open',
      to: 'closing',
      trigger: { after: { setting: 'closes.after' } },
      if: { all: [closable, 'closes.after'] },
    },
    {
      name: 'close-when-left',
      from: 'open',
      to: 'closing',
      trigger: { leave: 'area' },
      guard: { not: { inside: 'area' } },
      if: { all: [closable, 'closes.when-left'] },
    },
    {
      name: 'close-by-signal',
      from: 'open',
      to: 'closing',
      trigger: { signal: { setting: 'closes.by-signal' } },
      if: { all: [closable, 'closes.by-signal'] },
    },
    { name: 'shut-and-lock', from: 'closing', to: 'locked', trigger: 'moved', if: { all: [closable, relocks] } },
    { name: 'shut', from: 'closing', to: 'closed', trigger: 'moved', if: { all: [closable, { not: relocks }] } },
    { name: 'turn-back', from: 'opening', to: 'closing', trigger: 'press', if: reverses },
    { name: 'turn-again', from: 'closing', to: 'opening', trigger: 'press', if: reverses },
    { name: 'then-close', from: 'opening', to: 'opening-on', trigger: 'press', if: finishes },
    { name: 'finish-opening', from: 'opening-on', to: 'closing', trigger: 'moved', if: finishes },
    {
      name: 'then-open',
      from: 'closing',
      to: 'closing-on',
      trigger: 'press',
      if: { all: [finishes, { not: relocks }] },
    },
    { name: 'finish-closing', from: 'closing-on', to: 'opening', trigger: 'moved', if: finishes },
  ],
  'in-the-way': { setting: 'closes.in-the-way' },
  zones: { area: { radius: 1.6 } },
  handle: { 'away-from': { setting: 'hinge' }, inset: 0.1, height: 1 },
})
