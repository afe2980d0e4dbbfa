import type { Placed } from '../../interactables/index.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule } from '../rule.ts'
import { unreadIn, whyUnread } from '../shared/elsewhere.ts'
import { forgottenIn, isLeftAndEntered } from '../shared/remembered.ts'

/** What is known of a finding of this rule. */
export interface LockedAgainFacts {
  readonly interactable: string
  readonly item: string
  readonly state: string
}

/** Something that is locked again when one comes back to a level that is not remembered, after its key was used up. */
export const lockedAgain: Rule<LockedAgainFacts> = {
  name: 'locked-again',
  severity: 'warning',
  isByLevel: true,
  ask(context) {
    if (!context.project || !isLeftAndEntered(context.project)) return []
    const forgotten = forgottenIn(context)?.interactables ?? []
    return context.stage.expanded.interactables.flatMap((placed) => askOne(context, placed, forgotten))
  },
  says(facts) {
    return `${facts.interactable} is ${facts.state} again whenever a player comes back to this level, and the ${facts.item} was used up on it.`
  },
  fix() {
    return 'Let the project remember it (except), or keep the item.'
  },
}

function askOne(
  { stage, evidence, project }: Context,
  placed: Placed,
  forgotten: readonly number[],
): Asked<LockedAgainFacts>[] {
  const { expanded, tables } = stage
  const spending = tables.rows.filter(
    (row) =>
      row.machine === placed.index &&
      row.transition.from.includes(placed.initial) &&
      row.to >= 0 &&
      row.to !== placed.initial &&
      row.transition.changes.some(({ kind }) => kind === 'consume'),
  )
  return spending.map((row) => {
    const spent = row.transition.changes.find((change) => change.kind === 'consume')!
    const item = spent.kind === 'consume' ? expanded.items[spent.item]! : null
    const subject = `${placed.name}/${item?.name ?? ''}`
    const isForgotten = forgotten.includes(placed.index)
    const comesAgain = expanded.interactables.some(
      (other) =>
        forgotten.includes(other.index) &&
        other.transitions.some(({ changes }) =>
          changes.some((change) => change.kind === 'give' && expanded.items[change.item] === item),
        ),
    )
    const answer = evidence.dead[row.index]!
    if (!isForgotten || comesAgain || answer.answer === 'found') return ruledOut(subject)
    if (answer.answer === 'undecided') return undecided(subject, answer.why)
    const unread = project ? unreadIn(project) : []
    if (unread.length > 0) return undecided(subject, whyUnread(unread))
    const state = placed.states[placed.initial]!.name
    const facts = { interactable: placed.name, item: item?.title ?? '', state } as const
    return found(subject, { path: row.transition.spends ?? row.transition.path, facts, steps: [], grant: null })
  })
}
