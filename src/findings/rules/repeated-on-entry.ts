import type { Feedback } from '../../model/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { rowSubject } from '../shared/rows.ts'
import { found, type Rule, ruledOut, undecided } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface RepeatedOnEntryFacts {
  readonly interactable: string
  readonly zone: string
  readonly text: string
  readonly isPopup: boolean
}

/** Words that come each time that somebody walks by. */
export const repeatedOnEntry: Rule<RepeatedOnEntryFacts> = {
  name: 'repeated-on-entry',
  severity: 'advice',
  ask({ stage, evidence }) {
    const { interactables, zones } = stage.expanded
    return stage.tables.rows.flatMap((row) => {
      const { when, changes } = row.transition
      if (when.kind !== 'enter' && when.kind !== 'leave') return []
      // A character that falls, or is moved, has not just walked by.
      if (changes.some(({ kind }) => kind === 'move-to' || kind === 'exit-to')) return []
      const subject = rowSubject(stage, row)
      const { name, feedback } = interactables[row.machine]!
      const entry = [...row.transition.feedback, ...(feedback.accepted ?? [])].find(comesEachTime)
      const answer = evidence.dead[row.index]!
      if (!entry || answer.answer === 'found' || !isTakenAgain(stage, row)) return [ruledOut(subject)]
      if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
      const facts = {
        interactable: name,
        zone: zones[when.zone]!.name,
        text: String(entry.message ?? entry.popup),
        isPopup: entry.popup !== undefined,
      }
      return [found(subject, { path: row.transition.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, zone, text, isPopup }) {
    return `${interactable} says "${text}" each time that somebody walks across the border of ${zone}${isPopup ? ', and each time it must be dismissed' : ''}.`
  },
  fix() {
    return 'Say once: true or pause: 60 in that entry.'
  },
}

function comesEachTime({ message, popup, once, pause }: Feedback): boolean {
  return (message !== undefined || popup !== undefined) && !once && pause === undefined
}

/** Whether a transition that is taken can be taken again: it stays in its state, or leads back by itself or on walking. */
function isTakenAgain({ tables }: Stage, row: CompiledTransition): boolean {
  const byItself = tables.rowsOf[row.machine]!.filter(({ transition: { when } }) =>
    ['enter', 'leave', 'after', 'motion-end'].includes(when.kind),
  )
  const seen = new Set(row.transition.from.map((from) => (row.to < 0 ? from : row.to)))
  for (const state of seen) {
    for (const one of byItself) if (one.transition.from.includes(state)) seen.add(one.to < 0 ? state : one.to)
  }
  return row.transition.from.some((from) => seen.has(from))
}
