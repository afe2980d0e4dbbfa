import type { Change, Expanded } from '../../interactables/index.ts'
import { departures, type Stage, startsOf } from '../../play/index.ts'
import type { Context, Surroundings } from '../rule.ts'
import { itemsAskedFor } from './items.ts'

/** Levels of a project that could not be used, so that nothing is known of them, by name. */
export function unreadIn({ project, levels }: Pick<Surroundings, 'project' | 'levels'>): string[] {
  return Object.keys(project.levels).filter((name) => !Object.hasOwn(levels, name))
}

/** Why something is not known where some levels could not be used, as far as it hangs on those. */
export function whyUnread(unread: readonly string[]): string {
  return `${unread.join(', ')} could not be read, and may have a say in it`
}

/**
 * Why what a level rules out by itself may be so in its project: other levels give what is asked for in it, players come into it from
 * elsewhere at a place of its own, or nothing is known of some other level. In words, to stand before "and this one was explored by itself";
 * null: nothing elsewhere makes a difference.
 */
export function whatElsewhereDoes(stage: Stage, project: Surroundings): string | null {
  const asked = itemsAskedFor(stage.expanded).flatMap(({ item, isWanted }) => (isWanted ? [item] : []))
  if (areGivenElsewhere(stage.expanded, asked, project)) return 'other levels give what is asked for here'
  if (isEnteredElsewhere(project)) return 'players come in from other levels, or start at another place'
  const unread = unreadIn(project)
  return unread.length > 0 ? `${unread.join(', ')} could not be read` : null
}

/** Whether players come into a level other than where its own start is: by an exit of a level, or because the project starts at a place in it. */
function isEnteredElsewhere({ project, level, levels }: Surroundings): boolean {
  const starts = Object.values(startsOf(project)).filter((start) => start.level === level)
  const isBegunElsewhere = starts.some(({ place }) => place !== undefined) || starts.length === 0
  return (
    isBegunElsewhere || Object.values(levels).some((other) => departures(other).some((exit) => exit.level === level))
  )
}

/** Whether something elsewhere in its project makes a difference to a level that is explored by itself. */
export function isHelpedFromElsewhere({ stage, project }: Pick<Context, 'stage' | 'project'>): boolean {
  return project !== null && whatElsewhereDoes(stage, project) !== null
}

/** Whether players may bring an item, by index, from another level of the project. */
export function canComeFromElsewhere(expanded: Expanded, item: number, project: Surroundings): boolean {
  return unreadIn(project).length > 0 || areGivenElsewhere(expanded, [item], project)
}

/** Whether any of some items, by index, can be brought from another level of the project. */
function areGivenElsewhere({ items }: Expanded, asked: readonly number[], project: Surroundings): boolean {
  const names = new Set(asked.map((item) => items[item]!.name))
  return Object.entries(project.levels).some(([name, other]) => name !== project.level && gives(other, names))
}

/** Whether there are some of these items in a level: somebody has one at the start, or something gives one. */
function gives({ interactables, characters, contents, items }: Expanded, wanted: ReadonlySet<string>): boolean {
  const isWanted = (item: number): boolean => wanted.has(items[item]!.name)
  const isGiven = (change: Change): boolean =>
    (change.kind === 'give' && isWanted(change.item)) ||
    (change.kind === 'take-out' && isWanted(contents[change.content]!.item))
  return (
    characters.some(({ carries }) => carries.some((count, item) => count > 0 && isWanted(item))) ||
    interactables.some(({ transitions }) => transitions.some(({ changes }) => changes.some(isGiven)))
  )
}
