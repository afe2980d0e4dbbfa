import type { Change, Expanded } from '../../interactables/index.ts'
import { type Asked, type Context, found, ruledOut, type Surroundings, undecided } from '../rule.ts'
import { carriedIn } from './obstruction.ts'
import { rowSubject } from './rows.ts'

/** What is known of a way out that can be lost. */
export interface WayOutFacts {
  /** The transition after which there is none; null where none is to blame. */
  readonly by: string | null
}

/**
 * Whether a way out that is watched can be lost. Where a goal is lost, too, nothing is asked: that is told, with its cause. So it is
 * where there never is a way, and where another level may give what opens one.
 */
export function askWayOut(context: Context, key: string, subject: string): Asked<WayOutFacts>[] {
  const { evidence, watching } = context
  const watched = watching.get(key)
  if (!watched) return evidence.isInterrupted ? [undecided(subject, 'the check was interrupted')] : []
  const isLost = evidence.softLocks.some((answer) => answer?.answer === 'found')
  const goal = watched.stage.expanded.goals.findIndex(({ name }) => name === key)
  const { unreachable, softLocks, losses, gap } = watched.evidence
  if (isLost || unreachable[goal]?.answer === 'found' || isHelpedFromElsewhere(context)) return []
  const answer = softLocks[goal]
  if (answer?.answer === 'ruled-out') return [ruledOut(subject)]
  if (answer?.answer !== 'found') {
    const open = [answer, unreachable[goal]].find((known) => known?.answer === 'undecided')
    return [undecided(subject, open?.answer === 'undecided' ? open.why : (gap ?? evidence.unplayed))]
  }
  const all = losses[goal]!.map(({ row, steps, short, lastSafe }) => {
    const taken = row === null ? null : watched.stage.tables.rows[row]!
    const by = taken && rowSubject(watched.stage, taken)
    return {
      path: taken?.transition.path ?? null,
      facts: { by },
      steps,
      short,
      lastSafe,
      isWatched: true as const,
      grant: null,
    }
  })
  return [found(subject, ...all)]
}

/** Whether something in the level asks for an item that players can bring from another level: with it, there may be a way. */
export function isHelpedFromElsewhere({ stage, project }: Pick<Context, 'stage' | 'project'>): boolean {
  const { tables, expanded } = stage
  const asked = tables.rows.flatMap(({ transition }) => carriedIn(transition.guard))
  return project !== null && areGivenElsewhere(expanded, asked, project)
}

/** Whether any of some items, by index, can be brought from another level of the project. */
export function areGivenElsewhere({ items }: Expanded, asked: readonly number[], project: Surroundings): boolean {
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

/** Whether a way out that is watched can be lost. */
export function isWayOutLost(context: Context, key: string): boolean {
  return askWayOut(context, key, key).some(({ answer }) => answer === 'found')
}
