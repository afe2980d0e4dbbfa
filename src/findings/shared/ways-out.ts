import { type Asked, type Context, found, ruledOut, undecided } from '../rule.ts'
import { isHelpedFromElsewhere } from './elsewhere.ts'
import { rowSubject } from './rows.ts'

/** What is known of a way out that can be lost. */
export interface WayOutFacts {
  /** The transition after which there is none; null where none is to blame. */
  readonly by: string | null
}

/**
 * Whether a way out that is watched can be lost. Where a goal is lost, too, nothing is asked: that is told, with its cause. So it is
 * where there never is a way, and where what other levels do makes a difference.
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

/** Whether a way out that is watched can be lost. */
export function isWayOutLost(context: Context, key: string): boolean {
  return askWayOut(context, key, key).some(({ answer }) => answer === 'found')
}
