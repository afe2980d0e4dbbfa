import { type Forgotten, forgottenOf } from '../../interactables/index.ts'
import { departures } from '../../play/index.ts'
import type { Context } from '../rule.ts'
import { unreadIn } from './elsewhere.ts'

type InProject = Pick<Context, 'stage' | 'project'>

/** What of a level is put back as it is at first when one leaves it; null where there is nothing, or one cannot leave it and come back from another one. */
export function forgottenIn({ stage, project }: InProject): Forgotten | null {
  if (!project || !isLeftAndEntered(project)) return null
  const forgotten = forgottenOf(stage.expanded, project.project.levels[project.level]!)
  const { interactables, flags, counters } = forgotten
  return interactables.length + flags.length + counters.length > 0 ? forgotten : null
}

/** Whether an interactable, of a level by itself or of several that are joined, is put back as it is at first when one leaves its level. */
export function beginsAnew(context: InProject, interactable: number): boolean {
  const { forgotten, levelOf, rows } = context.stage.tables
  const level = levelOf[interactable]!
  const isLeft = (): boolean =>
    rows.some(
      ({ machine, transition }) =>
        levelOf[machine] === level && transition.changes.some((change) => change.kind === 'move-to' && change.exit),
    )
  if (forgotten[level]?.interactables.includes(interactable)) return isLeft()
  return forgottenIn(context)?.interactables.includes(interactable) ?? false
}

/** Whether one can leave the level, and come to it from another, as far as those are known; from one that could not be read, one may. */
export function isLeftAndEntered(project: NonNullable<Context['project']>): boolean {
  const { levels, level } = project
  const exits = Object.entries(levels).flatMap(([from, own]) =>
    departures(own).map((exit) => ({ from, to: exit.level })),
  )
  const isEntered = unreadIn(project).length > 0 || exits.some(({ from, to }) => from !== level && to === level)
  return isEntered && exits.some(({ from }) => from === level)
}
