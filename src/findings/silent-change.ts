import type { CompiledTransition } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import { rowSubject, rowTitle } from './dead-transition.ts'
import { looksAlike } from './looks.ts'
import { ruledOut, found, undecided, type Rule } from './rule.ts'
import { areSameLook } from './same-look.ts'

/** A state that changes, and neither is anything told nor does it look any different. */
export const silentChange: Rule = {
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
        rule: 'silent-change',
        interactable: placed.name,
        transition: rowTitle(stage, row),
        from: placed.states[from]!.name,
        to: placed.states[row.to]!.name,
      } as const
      return [found(subject, { path: row.transition.path, facts, steps: [], grant: null })]
    })
  },
}

/** Whether a transition changes the state of something that stands somewhere. */
function isChange({ expanded }: Stage, { machine, to, transition }: CompiledTransition): boolean {
  const placed = expanded.interactables[machine]!
  if (transition.isRefusal || to < 0 || (placed.at === null && placed.doorway === null)) return false
  return transition.from.some((from) => from !== to)
}

/** The first state from which the change is not perceived in any way; -1: there is none. */
function silentFrom({ expanded }: Stage, { machine, to, transition }: CompiledTransition): number {
  const placed = expanded.interactables[machine]!
  const { accepted, finished, gained, consumed } = placed.feedback
  const isAsked = ['press', 'hold', 'release', 'enter', 'leave'].includes(transition.when.kind)
  const ends = transition.when.kind === 'motion-end' && (finished ?? []).length > 0
  const gives =
    transition.changes.some(({ kind }) => kind === 'give' || kind === 'take-out') && (gained ?? []).length > 0
  const takes =
    transition.changes.some(({ kind }) => kind === 'consume' || kind === 'remove') && (consumed ?? []).length > 0
  const moves = transition.changes.some(({ kind }) => kind === 'move-to' || kind === 'exit-to')
  const told =
    transition.feedback.length > 0 || (isAsked && (accepted ?? []).length > 0) || ends || gives || takes || moves
  if (told) return -1
  return (
    transition.from.find((from) => from !== to && looksAlike(placed, from, to) && !areSameLook(placed, from, to)) ?? -1
  )
}
