import type { Edit } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'
import type { Proposal } from '../rule.ts'

/** An edit that can be made without asking. */
export const sure = (edit: Edit): Proposal => ({ edit, isAutomatic: true })

/** An edit that may be meant. */
export const likely = (edit: Edit): Proposal => ({ edit, isAutomatic: false })

/** So begins a message that is still to be written: nobody is told anything by it. */
export const fillIn = '(say here:'

/** Moments that come with a change. */
export type Comes = 'accepted' | 'finished'

/** A message at a moment of an instance, beside what is told there already. */
export function toldAt(stage: Stage, interactable: string, moment: 'refused' | Comes, message: string): Edit {
  const path = `interactables.${interactable}.feedback`
  const isThere = stage.expanded.level.interactables?.[interactable]?.feedback?.[moment] !== undefined
  return isThere
    ? { do: 'append', path: `${path}.${moment}`, value: { message } }
    : { do: 'add', path, key: moment, value: [{ message }] }
}

/** What the level says at a path; undefined for nothing. */
export function valueIn({ expanded }: Stage, path: string): unknown {
  let at: unknown = expanded.level
  for (const key of path.split('.')) {
    if (typeof at !== 'object' || at === null) return undefined
    at = (at as Record<string, unknown>)[key]
  }
  return at
}
