import type { Loss, Safeguard } from '../../explore/index.ts'
import type { Expanded } from '../../interactables/index.ts'
import type { Condition } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'
import { valueIn } from '../shared/edits.ts'
import type { SmallEdit } from './small-edits.ts'

/** The changes by which a transition that loses a goal asks for what keeps it; empty where there is none to blame, or nothing would. */
export function guardEdits(stage: Stage, loss: Loss | null): SmallEdit[] {
  const { row: index, safeguards } = loss ?? { row: null, safeguards: [] }
  if (index === null) return []
  const row = stage.tables.rows[index]!
  return safeguards.flatMap((safeguard) => {
    const condition = conditionFor(stage.expanded, safeguard)
    const edit = asking(stage, row, condition)
    return edit
      ? [{ edit, size: 2, isName: false, says: `Let it ask for this, too: ${saidOf(stage.expanded, safeguard)}.` }]
      : []
  })
}

function conditionFor({ interactables, items, flags }: Expanded, safeguard: Safeguard): Condition {
  switch (safeguard.kind) {
    case 'item': {
      const carries = items[safeguard.item]!.name
      return safeguard.count > 1 ? { carries, count: safeguard.count } : { carries }
    }
    case 'flag': {
      const flag = flags[safeguard.flag]!.name
      return safeguard.is ? { flag } : { flag, is: false }
    }
    case 'state': {
      const { name, states } = interactables[safeguard.machine]!
      const [first = '', ...more] = safeguard.states.map((state) => states[state]!.name)
      return { interactable: name, is: more.length > 0 ? [first, ...more] : first }
    }
  }
}

function saidOf({ interactables, items, flags }: Expanded, safeguard: Safeguard): string {
  switch (safeguard.kind) {
    case 'item':
      return `${safeguard.count > 1 ? `${String(safeguard.count)} × ` : ''}${items[safeguard.item]!.title} is carried`
    case 'flag':
      return `${flags[safeguard.flag]!.name} is ${safeguard.is ? 'set' : 'not set'}`
    case 'state': {
      const { name, states } = interactables[safeguard.machine]!
      return `${name} is ${safeguard.states.map((state) => states[state]!.name).join(' or ')}`
    }
  }
}

/** The built-in types that ask for a condition of their own under `needs`. */
const needing = ['lever', 'button', 'exit']

/** The change that lets a transition ask for a condition beside what it asks for; null where it cannot be said so. */
function asking(
  stage: Stage,
  { machine, transition: { path } }: Stage['tables']['rows'][number],
  condition: Condition,
): SmallEdit['edit'] | null {
  if (path.startsWith('types.')) return beside(stage, path, 'guard', condition)
  const { path: own, type } = stage.expanded.interactables[machine]!
  if (valueIn(stage, `${own}.set.lock`) !== undefined) return beside(stage, `${own}.set.lock`, 'needs', condition)
  if (!needing.includes(type)) return null
  return valueIn(stage, `${own}.set`) === undefined
    ? { do: 'add', path: own, key: 'set', value: { needs: condition } }
    : beside(stage, `${own}.set`, 'needs', condition)
}

/** A condition beside another one that a part of the level may have under a key. */
function beside(stage: Stage, path: string, key: string, condition: Condition): SmallEdit['edit'] {
  const there = valueIn(stage, `${path}.${key}`)
  if (there === undefined) return { do: 'add', path, key, value: condition }
  const isList = typeof there === 'object' && there !== null && 'all' in there
  return isList
    ? { do: 'append', path: `${path}.${key}.all`, value: condition }
    : { do: 'replace', path: `${path}.${key}`, value: { all: [there, condition] } }
}
