import { type LogEntry, Play, rowName, type Stage } from '../play/index.ts'
import type { GoalPlans } from './plans.ts'
import { perform, type PlayStep } from './steps.ts'

/** How much time there is to spare on the way to a goal, at the step where there is least. */
export interface Margin {
  readonly goal: string
  /** The steps of the way. */
  readonly steps: readonly PlayStep[]
  /** Milliseconds by which the step may come later, and the way still leads to the goal; null: nothing on it runs out. */
  readonly spare: number | null
  /** The step (from 1 on) before which there is so little time; null where nothing runs out. */
  readonly step: number | null
  /** What comes too soon otherwise, and how long it gave: milliseconds from when it was set going; null where that is not known. */
  readonly by: { readonly interactable: string; readonly transition: string; readonly given: number } | null
}

/** Delays that are tried, in milliseconds, until one is too long. What may come later than the last of them has time enough. */
const delays = [10, 25, 50, 100, 200, 400, 700, 1000, 1500, 2500, 4000, 7000, 12_000, 20_000, 40_000, 60_000]

/**
 * The tightest margin on the way to a goal: of the plans for it, with and without the waits that they can do without, of that with most to
 * spare. It is found by playing: each step is made later and later, and all that follow with it, until the steps do not lead to the goal any
 * more.
 */
export function* marginOf(stage: Stage, { goal, fewest, quickest }: GoalPlans): Generator<undefined, Margin | null> {
  let best: Margin | null = null
  const seen = new Set<string>()
  for (const plan of [fewest, quickest]) {
    if (!plan) continue
    for (const steps of [plan.steps, yield* withoutWaits(stage, goal, plan.steps)]) {
      const key = JSON.stringify(steps)
      if (seen.has(key)) continue
      seen.add(key)
      const margin: Margin = yield* tightest(stage, goal, steps)
      if (best === null || spareOf(margin) > spareOf(best)) best = margin
    }
  }
  return best
}

/** The same steps without the waits after which they lead to the goal all the same. */
function* withoutWaits(
  stage: Stage,
  goal: string,
  steps: readonly PlayStep[],
): Generator<undefined, readonly PlayStep[]> {
  let kept = steps
  for (let i = steps.length - 1; i >= 0; i--) {
    if (steps[i]!.do !== 'wait') continue
    yield
    const fewer = [...kept.slice(0, i), ...kept.slice(i + 1)]
    if (delayed(stage, fewer, 0, 0).goalsMet().includes(goal)) kept = fewer
  }
  return kept
}

function spareOf({ spare }: Margin): number {
  return spare ?? Infinity
}

function* tightest(stage: Stage, goal: string, steps: readonly PlayStep[]): Generator<undefined, Margin> {
  let least: Margin = { goal, steps, spare: null, step: null, by: null }
  const play = new Play(stage)
  for (const [i, step] of steps.entries()) {
    // Where nothing runs, it makes no difference when the next step comes; a longer wait is one for what comes after it.
    if (play.nextDue() !== null && step.do !== 'wait') {
      const spare = yield* spareBefore(stage, goal, steps, i, least.spare ?? Infinity)
      if (spare !== null) least = { goal, steps, spare, step: i + 1, by: cause(stage, steps, i, spare) }
    }
    perform(play, step)
    yield
  }
  return least
}

/** By how much a step can come later, to a millisecond; null where it is as much as at some other, or more. */
function* spareBefore(
  stage: Stage,
  goal: string,
  steps: readonly PlayStep[],
  at: number,
  most: number,
): Generator<undefined, number | null> {
  const works = (ms: number): boolean => delayed(stage, steps, at, ms).goalsMet().includes(goal)
  let [good, bad] = [0, 0]
  for (const ms of delays) {
    yield
    if (good >= most) return null
    if (works(ms)) good = ms
    else {
      bad = ms
      break
    }
  }
  if (bad === 0) return null
  while (bad - good > 1) {
    yield
    const middle = Math.floor((good + bad) / 2)
    if (works(middle)) good = middle
    else bad = middle
  }
  return good < most ? good : null
}

/** A play of some steps, one of which, and all after it, come later. */
function delayed(stage: Stage, steps: readonly PlayStep[], at: number, ms: number): Play {
  const play = new Play(stage)
  for (const [i, step] of steps.entries()) {
    if (i === at && ms > 0) play.advance(ms)
    perform(play, step)
  }
  return play
}

/**
 * What comes too soon where a step comes a little too late: of what runs out by itself, the last before the first thing that somebody does, or
 * fails to do, otherwise than in time.
 */
function cause(stage: Stage, steps: readonly PlayStep[], at: number, spare: number): Margin['by'] {
  const [good, bad] = [delayed(stage, steps, at, spare), delayed(stage, steps, at, spare + 1)]
  const [inTime, late] = [doings(good), doings(bad)]
  const other = late.findIndex(({ text }, i) => inTime[i]?.text !== text)
  const until = late[other]?.at ?? bad.now
  const taken = bad.log.flatMap((entry) => (entry.what === 'transition' && entry.at <= until ? [entry] : []))
  const last = taken.findLast((entry) => isTimed(stage, entry))
  if (!last) return null
  const before = taken.slice(0, taken.indexOf(last)).findLast(({ interactable }) => interactable === last.interactable)
  const { interactable, transition } = last
  return { interactable, transition, given: last.at - (before?.at ?? 0) }
}

/** What characters do, and how it goes, in order. */
function doings(play: Play): { readonly at: number; readonly text: string }[] {
  return play.log.flatMap((entry) => {
    if (entry.what === 'press')
      return [{ at: entry.at, text: `${entry.character} ${entry.outcome} ${entry.interactable ?? ''}` }]
    const isWalk = entry.what === 'arrived' || entry.what === 'stopped' || entry.what === 'no-way'
    return isWalk ? [{ at: entry.at, text: `${entry.character} ${entry.what}` }] : []
  })
}

/** Whether a timer sets a transition off. */
function isTimed({ tables, expanded }: Stage, entry: Extract<LogEntry, { what: 'transition' }>): boolean {
  return tables.rows.some((row) => {
    const { name, states } = expanded.interactables[row.machine]!
    const isIt = name === entry.interactable && rowName(row) === entry.transition
    return (
      isIt &&
      row.transition.when.kind === 'after' &&
      row.transition.from.some((state) => states[state]!.name === entry.from)
    )
  })
}
