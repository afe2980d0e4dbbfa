import { finish } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import type { Answer, Evidence, Loss, Progress } from './answers.ts'
import { Coverage, coverRows } from './cover.ts'
import { Backward, goalSets, type GoalSets } from './graph.ts'
import { quietly } from './drive.ts'
import { findLosses } from './losses.ts'
import { SureProof } from './prove.ts'
import { comesToRest } from './rest.ts'
import { CalmRoutes } from './routes.ts'
import { mostGoals, Search, usualBudget } from './search.ts'
import type { Lookout } from './lookout.ts'
import { findSights } from './sights.ts'
import { addJointStorms } from './storms.ts'
import { findStuck } from './stuck.ts'

/** How an exploration may be limited. */
export interface ExploreOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Count ticks from the start, without first looking whether time matters: slower, with the same answers. */
  readonly ticksOnly?: boolean | undefined
  /** Said, instead of the budget, where it was used up: why no more was looked at. */
  readonly stoppedBy?: string | undefined
  /** What else to look out for. */
  readonly lookouts?: readonly Lookout[] | undefined
}

/** Situations between two looks at the clock. */
const slice = 250

const found: Answer = { answer: 'found' }
const absent: Answer = { answer: 'absent' }
const open = (why: string): Answer => ({ answer: 'open', why })

/**
 * Explores a level: every situation that any player could bring about, and what follows from them. It first looks
 * whether the answers are the same however long running things take; only where they are not, it counts ticks.
 * A generator, so that it can be paused or left at each of its yields; they are a few milliseconds apart.
 */
export function* explore(stage: Stage, options: ExploreOptions = {}): Generator<Progress, Evidence> {
  const budget = options.budget ?? usualBudget
  const cover = new Coverage(stage)
  if (options.ticksOnly) return (yield* judged(new Search(stage, 'ticks', budget), cover, null, options)).evidence
  const first = yield* judged(new Search(stage, 'loose', budget), cover, null, options)
  const mayBeTime = first.complete && stage.tables.clocks.length > 0 && isOpen(first.evidence)
  if (!mayBeTime) return first.evidence
  const second = yield* judged(new Search(stage, 'ticks', budget), cover, first.evidence, options)
  if (second.complete) return second.evidence
  // What the first look did not see is not there, however far the second one came.
  const sights = new Map([...first.evidence.sights, ...[...second.evidence.sights].filter(([, { shown }]) => shown)])
  return { ...second.evidence, sights, gap: null, unplayed: second.evidence.gap ?? second.evidence.unplayed }
}

/** Explores to the end, without a pause. */
export function exploreNow(stage: Stage, options: ExploreOptions = {}): Evidence {
  return finish(explore(stage, options))
}

function isOpen(evidence: Evidence): boolean {
  const answers = [...evidence.dead, ...evidence.unreachable, ...evidence.softLocks]
  return answers.some((one) => one?.answer === 'open') || [...evidence.sights.values()].some(({ shown }) => !shown)
}

interface Judged {
  readonly evidence: Evidence
  readonly complete: boolean
}

/** Answers all questions over one search; what an earlier, coarser search has answered is kept. */
function* judged(
  search: Search,
  cover: Coverage,
  before: Evidence | null,
  options: ExploreOptions,
): Generator<Progress, Judged> {
  const { stage } = search
  const progress = (doing: Progress['doing']): Progress => ({
    doing,
    situations: search.store.count,
    budget: search.budget,
  })
  const judging = (): Progress => progress('judging')
  while (!search.advance(slice)) yield progress('exploring')
  yield* quietly(addJointStorms(search), judging)
  const calm = new CalmRoutes(search)
  for (const _ of coverRows(search, cover, calm)) yield progress('replaying')
  const gap = whyIncomplete(search, options)
  const dead = [...search.firstTaken].map((first, row) => {
    const known = before?.dead[row]
    if (known && known.answer !== 'open') return known
    if (cover.rows.has(row)) return absent
    if (first < 0) return gap === null ? found : open(gap)
    return open(whyUnplayed(search))
  })
  const backward = yield* quietly(Backward.of(search), judging)
  const unreachable: Answer[] = []
  const softLocks: (Answer | null)[] = []
  const losses: (readonly Loss[])[] = []
  for (const goal of stage.expanded.goals.keys()) {
    if (goal >= mostGoals) {
      unreachable.push(open(`only the first ${String(mostGoals)} goals are judged`))
      softLocks.push(null)
      losses.push([])
      continue
    }
    const sets = yield* quietly(goalSets(search, backward, goal), judging)
    unreachable.push(
      before?.unreachable[goal]?.answer === 'found'
        ? found
        : yield* quietly(goalAnswer(search, cover, calm, goal, sets, gap), judging),
    )
    const known = before?.softLocks[goal]
    if (known && known.answer !== 'open') {
      softLocks.push(known)
      losses.push(before?.losses[goal] ?? [])
      continue
    }
    // Of a goal that holds at the very start there is nothing to be lost.
    if (search.hasStart && search.holds(0, goal)) {
      softLocks.push(null)
      losses.push([])
      continue
    }
    const judgement = yield* quietly(softLock(search, backward, cover, calm, sets, goal, gap), judging)
    softLocks.push(sets.everMet || gap !== null ? judgement.answer : null)
    losses.push(judgement.losses)
  }
  const known = new Map([...(before?.sights ?? [])].filter(([, { shown }]) => shown))
  const stuck = yield* quietly(findStuck(search, backward), judging)
  const sights = yield* quietly(
    findSights(search, backward, cover, calm, [...(options.lookouts ?? []), stuck.lookout], known),
    judging,
  )
  const counts = {
    situations: search.store.count,
    moves: search.edgeCount,
    patches: stage.space.patches.reduce((sum, { patches }) => sum + patches.length, 0),
    replays: cover.replays,
    bytes: search.bytes + backward.bytes,
    complete: gap === null,
  }
  const evidence: Evidence = {
    dead,
    unreachable,
    atOnce: stage.expanded.goals.map((_, goal) => search.hasStart && search.holds(0, goal)),
    softLocks,
    losses,
    sights,
    untold: stuck.untold,
    moments: cover.moments,
    gap,
    unplayed: whyUnplayed(search),
    fineness: search.fineness,
    counts,
  }
  return { evidence, complete: gap === null }
}

/** Why the situations found may not be all; null where they are. */
function whyIncomplete(search: Search, options: ExploreOptions): string | null {
  if (!search.hasStart) return 'a character cannot stand where it starts'
  if (search.stage.space.patches.some(({ tooCoarse }) => tooCoarse)) {
    return 'the ground is too large, or too much meets at one spot, to be told apart at this resolution'
  }
  if (!search.isComplete) {
    if (options.stoppedBy !== undefined) return options.stoppedBy
    return `the budget of ${String(search.budget)} situations was used up (--budget takes more), with ${String(search.store.count - search.expanded)} of them still to look at`
  }
  return null
}

function whyUnplayed(search: Search): string {
  return search.fineness === 'loose' && search.stage.tables.clocks.length > 0
    ? 'it depends on timing'
    : 'it is possible only if timing or aim that is not certain allows it'
}

function* goalAnswer(
  search: Search,
  cover: Coverage,
  calm: CalmRoutes,
  goal: number,
  sets: GoalSets,
  gap: string | null,
): Generator<undefined, Answer> {
  const { name } = search.stage.expanded.goals[goal]!
  if (cover.goals.has(name)) return absent
  if (!sets.everMet) return gap === null ? found : open(gap)
  const at = firstHolding(search, goal)
  yield* cover.play(search, yield* calm.to(at), false, (play) => play.goalsMet().includes(name))
  const bit = 1 << goal
  if (!cover.goals.has(name)) {
    yield* cover.seek(
      (_regs, _patch, held) => (held & bit) !== 0,
      (play) => play.goalsMet().includes(name),
    )
  }
  return cover.goals.has(name) ? absent : open(whyUnplayed(search))
}

/** The first situation in which a goal holds, if there is one at rest, that one. */
function firstHolding(search: Search, goal: number): number {
  let first = -1
  for (let index = 0; index < search.store.count; index++) {
    if (!search.holds(index, goal)) continue
    if (search.isAtRest(index)) return index
    if (first < 0) first = index
  }
  return first
}

function* softLock(
  search: Search,
  backward: Backward,
  cover: Coverage,
  calm: CalmRoutes,
  sets: GoalSets,
  goal: number,
  gap: string | null,
): Generator<undefined, { answer: Answer; losses: readonly Loss[] }> {
  if (!sets.everMet) return { answer: open(gap ?? 'the goal is never met'), losses: [] }
  if (sets.lost > 0) {
    const { found: losses, unplayed } = yield* findLosses(search, backward, sets, cover, calm)
    if (losses.length > 0) return { answer: found, losses }
    const why = unplayed > 0 ? whyUnplayed(search) : 'what is lost could not be played'
    return { answer: open(why), losses: [] }
  }
  if (gap !== null) return { answer: open(gap), losses: [] }
  if (search.storms.length > 0) return { answer: open('signals without end stop the play'), losses: [] }
  if (!(yield* comesToRest(search, sets.unmet))) {
    return { answer: open('something runs for ever, so that the level never comes to rest'), losses: [] }
  }
  const proof = yield* new SureProof(search, backward, cover.reliable, sets, goal).run()
  return { answer: proof.proved ? absent : open(proof.why), losses: [] }
}
