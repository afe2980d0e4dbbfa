import type { When } from '../../interactables/index.ts'
import { type Comes, fillIn, likely, toldAt } from '../shared/edits.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { rowSubject, rowTitle } from '../shared/rows.ts'
import { toldBySuccess } from '../shared/told.ts'
import { looksAlike } from '../shared/looks.ts'
import { ruledOut, found, undecided, type Rule } from '../rule.ts'
import { areSameLook } from './same-look.ts'

/** What is known of a finding of this rule. */
export interface SilentChangeFacts {
  readonly interactable: string
  readonly transition: string
  readonly from: string
  readonly to: string
}

/** A state that changes, and neither is anything told nor does it look any different. */
export const silentChange: Rule<SilentChangeFacts> = {
  name: 'silent-change',
  severity: 'warning',
  ask({ stage, evidence }) {
    const { rows } = stage.tables
    return rows.flatMap((row) => {
      if (!isChange(stage, row)) return []
      const subject = rowSubject(stage, row)
      const from = silentFrom(stage, row)
      const answer = evidence.dead[row.index]!
      if (from < 0 || answer.answer === 'found') return [ruledOut(subject)]
      if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
      const placed = stage.expanded.interactables[row.machine]!
      const facts = {
        interactable: placed.name,
        transition: rowTitle(stage, row),
        from: placed.states[from]!.name,
        to: placed.states[row.to]!.name,
      } as const
      return [found(subject, { path: row.transition.path, facts, steps: [], grant: null })]
    })
  },
  says(facts) {
    return `${facts.interactable} goes from ${facts.from} to ${facts.to} (${facts.transition}), and a player perceives nothing of it: nothing is told, and it looks as before.`
  },
  fix() {
    return 'Add feedback to the transition, or let the two states look different.'
  },
  edit({ stage, path, facts }) {
    const message = `${fillIn} what happens)`
    if (path.startsWith('types.')) return likely({ do: 'add', path, key: 'feedback', value: [{ message }] })
    // Of other changes of a built-in type no moment tells.
    const placed = stage.expanded.interactables.find(({ name }) => name === facts.interactable)
    const moment = momentOf(placed?.transitions.find(({ name }) => name === facts.transition)?.when.kind)
    return moment && likely(toldAt(stage, facts.interactable, moment, message))
  },
}

/** Whether a transition changes the state of something that stands somewhere. */
function isChange({ expanded }: Stage, { machine, to, transition }: CompiledTransition): boolean {
  const placed = expanded.interactables[machine]!
  if (transition.isRefusal || to < 0 || (placed.at === null && placed.doorway === null)) return false
  return transition.from.some((from) => from !== to)
}

/** The first state from which the change is not perceived in any way; -1: there is none. */
function silentFrom(stage: Stage, row: CompiledTransition): number {
  const { machine, to, transition } = row
  const placed = stage.expanded.interactables[machine]!
  const moves = transition.changes.some(({ kind }) => kind === 'move-to' || kind === 'exit-to')
  const told = moves || toldBySuccess(stage, row).length > 0
  if (told) return -1
  return (
    transition.from.find((from) => from !== to && looksAlike(placed, from, to) && !areSameLook(placed, from, to)) ?? -1
  )
}

/** The moment that comes with a change that something sets off; null where none does for certain. */
function momentOf(trigger: When['kind'] | undefined): Comes | null {
  if (trigger === 'press' || trigger === 'hold') return 'accepted'
  return trigger === 'motion-end' ? 'finished' : null
}
