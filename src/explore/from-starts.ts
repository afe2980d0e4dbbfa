import { begunAt, otherStarts, type Stage } from '../play/index.ts'
import type { Answer, Counts, Evidence, Loss, Progress, Shown, Witness } from './answers.ts'
import { explore, type ExploreOptions } from './explore.ts'
import type { PlayStep } from './steps.ts'

/**
 * Explores a level, or levels that are joined: those from each of their starts. What can be done from one of these can be done, and what can
 * be lost after one of them can be lost; never is only what never is from any. `searched` is of the usual start.
 */
export function* exploreFromStarts(stage: Stage, options: ExploreOptions = {}): Generator<Progress, Evidence> {
  const usual = yield* explore(stage, options)
  const others = otherStarts(stage)
  if (others.length === 0) return usual
  const all = [usual]
  for (const start of others) {
    if (all.some(({ isInterrupted }) => isInterrupted)) break
    const evidence = yield* explore(begunAt(stage, start), { ...options, searched: undefined })
    all.push(begunBy(start, evidence))
  }
  const missed = others.length + 1 - all.length
  const starts = stage.expanded.joined!.starts.map(({ name }) => name)
  return together(all, starts, missed > 0 ? usual.unplayed : null)
}

/** Evidence of a play that begins at a start: the steps say so first. */
function begunBy(start: string, evidence: Evidence): Evidence {
  const begin: PlayStep = { who: 0, do: 'start', at: start }
  const shownFrom = <T extends Shown>(one: T): T => ({
    ...one,
    steps: [begin, ...one.steps],
    ...(one.lostAfter === undefined ? {} : { lostAfter: one.lostAfter + 1 }),
  })
  const lossFrom = (loss: Loss): Loss => {
    const { lastSafe } = loss
    return { ...shownFrom(loss), lastSafe: lastSafe && { ...lastSafe, after: lastSafe.after + 1 } }
  }
  const witnessFrom = ({ shown }: Witness): Witness => ({ shown: shown && shownFrom(shown) })
  return {
    ...evidence,
    losses: evidence.losses.map((all) => all.map(lossFrom)),
    witnesses: new Map([...evidence.witnesses].map(([key, one]) => [key, witnessFrom(one)])),
  }
}

/** What is known of plays that begin at any of some starts. `unknown`: why nothing is known of others; null: these are all. */
function together(all: readonly Evidence[], starts: readonly string[], unknown: string | null): Evidence {
  const [usual] = all
  const never = (of: (one: Evidence) => readonly Answer[]): Answer[] =>
    of(usual!).map((_, index) =>
      anywhere(
        all.map((one) => of(one)[index]!),
        unknown,
      ),
    )
  const witnesses = new Map<string, Witness>()
  for (const { witnesses: own } of all) {
    for (const [key, one] of own) if (!witnesses.get(key)?.shown) witnesses.set(key, one)
  }
  const gap = all.find((one) => one.gap !== null)?.gap ?? unknown
  const isTold = all.every(({ possible, gap: own }) => possible !== null || own === null) && unknown === null
  return {
    dead: never(({ dead }) => dead),
    unreachable: never(({ unreachable }) => unreachable),
    atOnce: usual!.atOnce.map((_, goal) => all.every(({ atOnce }) => atOnce[goal])),
    softLocks: usual!.softLocks.map((_, goal) =>
      lostAnywhere(
        all.map(({ softLocks }) => softLocks[goal]!),
        unknown,
      ),
    ),
    losses: usual!.losses.map((_, goal) => byRow(all.flatMap(({ losses }) => losses[goal]!))),
    witnesses,
    untold: new Map(all.flatMap(({ untold }) => [...untold])),
    moments: new Set(all.flatMap(({ moments }) => [...moments])),
    // Where all was explored from a start, what was seen is all that is possible from it.
    possible:
      gap === null || !isTold ? null : new Set(all.flatMap((one) => [...(one.possible ?? one.witnesses.keys())])),
    gap,
    unplayed: all.find((one) => one.gap !== null)?.unplayed ?? usual!.unplayed,
    tooLate: usual!.tooLate.filter(({ machine }) =>
      all.every((one) => one.tooLate.some((own) => own.machine === machine)),
    ),
    isInterrupted: all.some(({ isInterrupted }) => isInterrupted),
    fineness: all.some(({ fineness }) => fineness === 'ticks') ? 'ticks' : 'loose',
    counts: inAll(all.map(({ counts }) => counts)),
    account: all.flatMap(({ account }, i) => [`From the start ${starts[i]!}:`, ...account]),
    byStart: all.map((evidence, i) => ({ start: starts[i]!, evidence })),
  }
}

/** Whether something never is, from several starts: only what never is from any of them. */
function anywhere(answers: readonly Answer[], unknown: string | null): Answer {
  const known =
    answers.find(({ answer }) => answer === 'ruled-out') ?? answers.find(({ answer }) => answer === 'undecided')
  return known ?? (unknown === null ? answers[0]! : { answer: 'undecided', why: unknown })
}

/** Whether a goal can be lost, from several starts: if it can from one. */
function lostAnywhere(answers: readonly (Answer | null)[], unknown: string | null): Answer | null {
  const are = (wanted: Answer['answer']): Answer | undefined =>
    answers.find((one) => one?.answer === wanted) ?? undefined
  const known = are('found') ?? are('undecided')
  if (known) return known
  return unknown === null ? (are('ruled-out') ?? null) : { answer: 'undecided', why: unknown }
}

/** Ways to lose a goal, one for each transition that does it: the first that was found. */
function byRow(losses: readonly Loss[]): Loss[] {
  const first = new Map<number | null, Loss>()
  for (const loss of losses) if (!first.has(loss.row)) first.set(loss.row, loss)
  return [...first.values()].sort((a, b) => (a.row ?? Infinity) - (b.row ?? Infinity))
}

function inAll(counts: readonly Counts[]): Counts {
  const sum = (of: (one: Counts) => number): number => counts.reduce((all, one) => all + of(one), 0)
  return {
    situations: sum(({ situations }) => situations),
    moves: sum(({ moves }) => moves),
    patches: counts[0]!.patches,
    replays: sum(({ replays }) => replays),
    bytes: Math.max(...counts.map(({ bytes }) => bytes)),
    complete: counts.every(({ complete }) => complete),
  }
}
