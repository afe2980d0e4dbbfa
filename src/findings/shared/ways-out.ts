import { inLevel, levelIn } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import { type Asked, type Context, found, ruledOut, undecided } from '../rule.ts'
import { isHelpedFromElsewhere } from './elsewhere.ts'
import { rowSubject } from './rows.ts'

/** What is known of a way out that can be lost. */
export interface WayOutFacts {
  /** The transition after which there is none; null where none is to blame. */
  readonly by: string | null
}

/**
 * Whether a way out that is watched can be lost. Where a goal of its level is lost, too, nothing is asked: that is told, with its cause; nor is what loses a
 * goal of another level told again. Nothing is asked either where there never is a way, and where what other levels do makes a difference.
 */
export function askWayOut(context: Context, key: string, subject: string): Asked<WayOutFacts>[] {
  const { evidence, watching } = context
  const watched = watching.get(key)
  if (!watched) {
    if (evidence.isInterrupted) return [undecided(subject, 'the check was interrupted')]
    return context.of === 'levels' && evidence.gap !== null ? [undecided(subject, evidence.gap)] : []
  }
  const { of, project } = context
  const isHelped = of === 'level' && isHelpedFromElsewhere(context)
  const name = of === 'one-of-levels' ? inLevel(project!.level, key) : key
  const goal = watched.stage.expanded.goals.findIndex((one) => one.name === name)
  const { unreachable, softLocks, losses, gap } = watched.evidence
  if (isGoalLost(context, watched.stage, name) || unreachable[goal]?.answer === 'found' || isHelped) return []
  const answer = softLocks[goal]
  if (answer?.answer === 'ruled-out') return [ruledOut(subject)]
  if (answer?.answer !== 'found') {
    const open = [answer, unreachable[goal]].find((known) => known?.answer === 'undecided')
    return [undecided(subject, open?.answer === 'undecided' ? open.why : (gap ?? evidence.unplayed))]
  }
  const blamed = new Set(evidence.losses.flat().map(({ row }) => row))
  const own = losses[goal]!.filter(({ row }) => !blamed.has(row))
  const all = own.map(({ row, steps, short, lastSafe }) => {
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
  return all.length > 0 ? [found(subject, ...all)] : []
}

/** Whether a goal can be lost: any, or of levels that are explored together, one of the level that a way out is of. */
function isGoalLost({ evidence: { softLocks } }: Context, { expanded: { joined } }: Stage, way: string): boolean {
  const home = joined?.parts.find(({ name }) => name === levelIn(way).level)
  const own = home ? softLocks.slice(home.first.goals, home.first.goals + home.expanded.goals.length) : softLocks
  return own.some((answer) => answer?.answer === 'found')
}

/** Whether a way out that is watched can be lost. */
export function isWayOutLost(context: Context, key: string): boolean {
  return askWayOut(context, key, key).some(({ answer }) => answer === 'found')
}
