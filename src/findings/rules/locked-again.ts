import type { Placed } from '../../interactables/index.ts'
import { departures } from '../../play/index.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule } from '../rule.ts'

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
    const { stage, project } = context
    if (!project || !isLeftAndEntered(context)) return []
    return stage.expanded.interactables.flatMap((placed) => askOne(context, placed))
  },
  says(facts) {
    return `${facts.interactable} is ${facts.state} again whenever a player comes back to this level, and the ${facts.item} was used up on it.`
  },
  fix() {
    return 'Let the project remember it (except), or keep the item.'
  },
}

function askOne({ stage, evidence, project }: Context, placed: Placed): Asked<LockedAgainFacts>[] {
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
    const isForgotten = !isRemembered(project!, placed.name)
    const comesAgain = expanded.interactables.some(
      (other) =>
        !isRemembered(project!, other.name) &&
        other.transitions.some(({ changes }) =>
          changes.some((change) => change.kind === 'give' && expanded.items[change.item] === item),
        ),
    )
    const answer = evidence.dead[row.index]!
    if (!isForgotten || comesAgain || answer.answer === 'found') return ruledOut(subject)
    if (answer.answer === 'undecided') return undecided(subject, answer.why)
    const state = placed.states[placed.initial]!.name
    const facts = { interactable: placed.name, item: item?.title ?? '', state } as const
    return found(subject, { path: row.transition.spends ?? row.transition.path, facts, steps: [], grant: null })
  })
}

/** Whether a level is as it was left when one returns, as far as an interactable goes. */
function isRemembered({ project, level }: NonNullable<Context['project']>, interactable: string): boolean {
  const { remembers = 'everything', except = [] } = project.levels[level]!
  return (remembers === 'everything') !== except.includes(interactable)
}

/** Whether one can leave the level, and come to it from another. */
function isLeftAndEntered({ project }: Context): boolean {
  const exits = Object.entries(project!.levels).flatMap(([from, level]) =>
    departures(level).map((exit) => ({ from, to: exit.level })),
  )
  const { level } = project!
  return exits.some(({ from }) => from === level) && exits.some(({ from, to }) => from !== level && to === level)
}
