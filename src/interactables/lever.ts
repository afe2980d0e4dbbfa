import type { Effect } from '../model/index.ts'
import { builtInType } from './built-in.ts'

const on: Effect[] = [{ send: { setting: 'sends' } }, { set: { setting: 'sets' } }]
const off: Effect[] = [{ send: { setting: 'sends-back' } }, { set: { setting: 'sets' }, to: false }]

/** A lever: pulled, and pulled back; or kept pulled for a time. */
export const lever = builtInType({
  about: 'Pulled by a press, and pulled back by another, unless it stays or falls back by itself.',
  settings: {
    sends: { kind: 'signal', about: 'A signal that is sent when it is pulled.' },
    'sends-back': { kind: 'signal', about: 'A signal that is sent when it goes back.' },
    sets: { kind: 'flag', about: 'A flag that is set while it is on.' },
    needs: { kind: 'condition', about: 'What must be so before it can be pulled.' },
    hold: { kind: 'seconds', about: 'It must be kept pressed for so long.' },
    stays: { kind: 'yes-no', default: false, about: 'Once pulled it stays.' },
    'falls-back': { kind: 'seconds', about: 'It goes back by itself after so many seconds.' },
  },
  contradictions: [{ settings: ['stays', 'falls-back'], because: 'it cannot both stay and fall back.' }],
  states: {
    off: { lasting: true, look: 'off' },
    on: { lasting: true, look: 'on' },
  },
  transitions: [
    {
      name: 'pull',
      from: 'off',
      to: 'on',
      trigger: 'press',
      guard: { all: [{ setting: 'needs' }] },
      effects: on,
      if: { not: 'hold' },
    },
    {
      name: 'pull',
      from: 'off',
      to: 'on',
      trigger: { hold: { setting: 'hold' } },
      guard: { all: [{ setting: 'needs' }] },
      effects: on,
      if: 'hold',
    },
    {
      name: 'pull-back',
      from: 'on',
      to: 'off',
      trigger: 'press',
      effects: off,
      if: { all: [{ not: 'stays' }, { not: 'falls-back' }] },
    },
    {
      name: 'fall-back',
      from: 'on',
      to: 'off',
      trigger: { after: { setting: 'falls-back' } },
      effects: off,
      if: 'falls-back',
    },
  ],
  handle: [0, 0, 1],
})
