import type { Effect } from '../model/index.ts'
import { builtInType } from './built-in.ts'

/** Going somewhere else, as exits and some doors have it: to a place in this level, or in another. */
export const exiting: Effect[] = [
  { 'move-to': { setting: 'exit-to.place' }, if: { not: 'exit-to.level' } },
  {
    'exit-to': {
      level: { setting: 'exit-to.level' },
      place: { setting: 'exit-to.place' },
      drops: { setting: 'exit-to.drops' },
    },
    if: { all: ['exit-to.level', 'exit-to.drops'] },
  },
  {
    'exit-to': { level: { setting: 'exit-to.level' }, place: { setting: 'exit-to.place' } },
    if: { all: ['exit-to.level', { not: 'exit-to.drops' }] },
  },
]

/** The settings of what takes people somewhere else. */
export const exitSettings = {
  place: { kind: 'place', needed: true, about: 'The place: of this level, or of the one that is named.' },
  level: { kind: 'level', about: 'The level, by its name in the project; this one if left out.' },
  drops: { kind: 'item-names', about: 'The items that are left behind.' },
} as const

const guard = { all: [{ setting: 'needs' }] }

/** An exit: leads a character that presses it, or walks into it, to a place in this or another level. */
export const exit = builtInType({
  about: 'Leads a character that takes it to a place, in this level or in another of the project.',
  settings: {
    'exit-to': { kind: 'group', needed: true, about: 'Where it leads.', fields: exitSettings },
    'taken-by': {
      kind: 'triggers',
      options: ['press', 'enter'],
      default: ['press'],
      about: 'How it is taken: by a press, by walking into it, or both.',
    },
    needs: { kind: 'condition', about: 'What must be so before it can be taken.' },
  },
  states: { ready: { lasting: true } },
  transitions: [
    { name: 'leave', from: 'ready', trigger: 'press', guard, effects: exiting, if: 'taken-by.press' },
    { name: 'leave', from: 'ready', trigger: { enter: 'near' }, guard, effects: exiting, if: 'taken-by.enter' },
  ],
  zones: { near: { radius: 0.5 } },
  handle: [0, 0, 1],
})
