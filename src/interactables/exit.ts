import { defineInteractable, type Effect, type Provided } from '../model/index.ts'

/** Leading somewhere else, as doors and exits do: to a place in this level, or in another. */
export const leading: Effect[] = [
  { move: { setting: 'leads.to' }, if: { not: 'leads.level' } },
  {
    leave: { level: { setting: 'leads.level' }, place: { setting: 'leads.to' }, drops: { setting: 'leads.drops' } },
    if: { all: ['leads.level', 'leads.drops'] },
  },
  {
    leave: { level: { setting: 'leads.level' }, place: { setting: 'leads.to' } },
    if: { all: ['leads.level', { not: 'leads.drops' }] },
  },
]

/** The settings of what leads somewhere else. */
export const leads = {
  to: { kind: 'place', needed: true, about: 'The place: of this level, or of the one that is named.' },
  level: { kind: 'level', about: 'The level, by its name in the project; this one if left out.' },
  drops: { kind: 'item-names', about: 'The items that are left behind.' },
} as const

const by = (is: string): Provided => ({ setting: 'taken-by', is })
const guard = { all: [{ setting: 'needs' }] }

/** An exit: leads whoever presses it, or walks into it, to a place in this or another level. */
export const exit = defineInteractable({
  about: 'Leads whoever takes it to a place, in this level or in another of the project.',
  settings: {
    leads: { kind: 'group', needed: true, about: 'Where it leads.', fields: leads },
    'taken-by': {
      kind: 'choice',
      options: ['press', 'enter'],
      default: 'press',
      about: 'Whether it is pressed, or taken by walking into it.',
    },
    needs: { kind: 'condition', about: 'What must be so before it can be taken.' },
  },
  states: { ready: { lasting: true } },
  transitions: [
    { name: 'leave', from: 'ready', trigger: 'press', guard, effects: leading, if: by('press') },
    { name: 'leave', from: 'ready', trigger: { enter: 'way' }, guard, effects: leading, if: by('enter') },
  ],
  zones: { way: { radius: 0.5 } },
  handle: [0, 0, 1],
})
