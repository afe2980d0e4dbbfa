import { finish } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { roundly } from './account.ts'
import type { Answer, Evidence, Loss, Progress } from './answers.ts'
import { WithoutBystanders } from './bystanders.ts'
import { Coverage, coverRows } from './cover.ts'
import { Predecessors, goalSets, type GoalSets } from './graph.ts'
import { Interrupted, quietly } from './run-in-slices.ts'
import { FarPlans } from './far-plans.ts'
import { Game } from './game.ts'
import { findFarWitnesses } from './far-witnesses.ts'
import { ruledOut, found, Judging, undecided, whyUnplayed } from './judging.ts'
import { comeToLost, findLosses } from './losses.ts'
import { SureProof } from './prove.ts'
import { comesToRest } from './time-cycles.ts'
import { roam } from './roam.ts'
import { UnhurriedPaths } from './routes.ts'
import { mostGoals, Search, usualBudget } from './search.ts'
import type { Observation } from './observation.ts'
import { findWitnesses } from './witnesses.ts'
import { type BySets, judgeBySets } from './sets/by-sets.ts'
import { registerOrder } from './sets/order.ts'
import { SetSearch } from './sets/set-search.ts'
import { moveKind } from './successors.ts'
import { addJointStorms } from './storms.ts'
import { findStuck } from './stuck.ts'

/** How an exploration may be limited. */
export interface ExploreOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Count ticks from the start, without first looking whether time matters: slower, with the same answers. */
  readonly ticksOnly?: boolean | undefined
  /** Whether goals are asked to stay within reach also once they have been met, and where they hold at first. */
  readonly again?: boolean | undefined
  /** Whether walks take the time that they must, where ticks are counted; they do where it is left out. */
  readonly isHurried?: boolean | undefined
  /** Whether only that a goal is lost is wanted, and not when all was still well, nor what would keep it from being lost. */
  readonly isBrief?: boolean | undefined
  /** Whether only goals and `observations` are asked about, not what can be set off, nor where one is stuck. */
  readonly isForGoals?: boolean | undefined
  /**
   * Characters who work against the goals, by index: whatever they do, players must be able to bring a goal about; and it is lost where nobody else
   * can while they do nothing more.
   */
  readonly against?: ReadonlySet<number> | undefined
  /** All situations of the level, where they are known already: then it is not searched again. */
  readonly searched?: Search | undefined
  /** What else to look out for. */
  readonly observations?: readonly Observation[] | undefined
}

/** The most patches, times interactables, of a level of which all situations are found as sets. */
const mostParts = 150_000

/** From so many situations on, all are found as sets as well. */
const manySituations = 30_000

/** From so many on, sets and plays are asked first, and situations looked at one by one only where these leave something undecided. */
const tooMany = 400_000

/** Situations between two looks at the clock. */
const slice = 100

/**
 * Explores a level: every situation that any player could bring about, and what follows from them. It first looks
 * whether the answers are the same however long running things take; only where they are not, it counts ticks.
 * A generator, so that it can be paused or left at each of its yields; they are a few milliseconds apart. Where
 * `Interrupted` is thrown into it, it ends with what it knows.
 */
export function* explore(stage: Stage, options: ExploreOptions = {}): Generator<Progress, Evidence> {
  const budget = options.budget ?? usualBudget
  const begun: Progress = { doing: 'laying out', situations: 0, budget }
  yield begun
  const cover = new Coverage(stage)
  yield begun
  const begins = options.ticksOnly
    ? yield* searchedInTicks(stage, options)
    : { search: options.searched ?? new Search(stage, 'loose', budget), isInterrupted: false }
  const first = new Judging(begins.search, cover, null)
  if (begins.isInterrupted) interrupt(first)
  if (begins.isInterrupted) return first.evidence()
  if (!(yield* judge(first, options)) || options.ticksOnly) return first.evidence()
  const coarse = first.evidence()
  const mayBeTime = coarse.counts.complete && stage.tables.clocks.length > 0 && isOpen(coarse, options)
  if (!mayBeTime) return coarse
  const ticking = yield* searchedInTicks(stage, options)
  const second = new Judging(ticking.search, cover, coarse)
  if (ticking.isInterrupted) return { ...coarse, isInterrupted: true, unplayed: interrupt(second) }
  for (const [goal, by] of first.proofs) second.proofs.set(goal, by)
  yield* judge(second, options)
  const fine = second.evidence()
  if (fine.counts.complete && !fine.isInterrupted) return fine
  // What the first look did not see is not there, however far the second one came.
  const witnesses = new Map([...coarse.witnesses, ...[...fine.witnesses].filter(([, { shown }]) => shown)])
  return { ...fine, witnesses, gap: null, unplayed: fine.gap ?? fine.unplayed }
}

/** Searches in ticks; anew, where something came to wait that was not taken to. Interrupted, it ends as far as it has come. */
function* searchedInTicks(
  stage: Stage,
  { budget = usualBudget, isHurried }: ExploreOptions,
): Generator<Progress, { readonly search: Search; readonly isInterrupted: boolean }> {
  const waiting = new Set<number>()
  for (;;) {
    const search = new Search(stage, 'ticks', budget, null, null, isHurried, waiting)
    const missed: ReadonlySet<number> = search.walkTimes?.missed ?? new Set()
    try {
      while (missed.size === 0 && !search.advance(slice)) {
        yield { doing: 'exploring', situations: search.store.count, budget }
      }
    } catch (error) {
      if (!(error instanceof Interrupted)) throw error
      return { search, isInterrupted: true }
    }
    if (missed.size === 0) return { search, isInterrupted: false }
    for (const machine of missed) waiting.add(machine)
  }
}

/** Explores to the end, without a pause. */
export function exploreNow(stage: Stage, options: ExploreOptions = {}): Evidence {
  return finish(explore(stage, options))
}

function isOpen(evidence: Evidence, { isForGoals = false }: ExploreOptions): boolean {
  const answers = [...(isForGoals ? [] : evidence.dead), ...evidence.unreachable, ...evidence.softLocks]
  return (
    answers.some((one) => one?.answer === 'undecided' && !one.isByGround) ||
    [...evidence.witnesses.values()].some(({ shown }) => !shown)
  )
}

/** Answers all questions over a search. False where it was interrupted: then what is known until then stands. */
function* judge(judging: Judging, options: ExploreOptions): Generator<Progress, boolean> {
  try {
    yield* judgeAll(judging, options)
    return true
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    interrupt(judging)
    return false
  }
}

/** Notes that a search was interrupted, and says how far it has come. */
function interrupt(judging: Judging): string {
  judging.gap = `the check was interrupted after ${String(judging.search.store.count)} situations`
  judging.isInterrupted = true
  return judging.gap
}

function* judgeAll(judging: Judging, options: ExploreOptions): Generator<Progress, void> {
  const { search } = judging
  const progress = (): Progress => ({ doing: 'exploring', situations: search.store.count, budget: search.budget })
  const sets = yield* searched(search, options.against === undefined)
  judging.sets = sets
  yield* judgeSearch(judging, options, sets)
  const mayEnd = search.isGivenUp && sets !== null && sets.countApart <= search.budget
  if (!mayEnd || !isOpen(judging.evidence(), options)) return
  search.isGivenUp = false
  while (!search.advance(slice)) yield progress()
  judging.startOver()
  yield* judgeSearch(judging, options, sets)
}

/** Searches one by one; and, where they are wanted, as sets, where there is much. Where sets and plays may tell all, the search is given up. */
function* searched(search: Search, wantsSets: boolean): Generator<Progress, SetSearch | null> {
  const { stage } = search
  const progress = (): Progress => ({ doing: 'exploring', situations: search.store.count, budget: search.budget })
  let sets: SetSearch | null = null
  for (;;) {
    const isOver = search.advance(slice)
    const isMuch = isOver ? search.isFull : search.store.count >= manySituations
    if (wantsSets && isMuch && !sets && search.hasStart && isForSets(stage)) {
      sets = new SetSearch(stage, { order: yield* quietly(registerOrder(stage), progress) })
      yield* quietly(sets.run(), progress)
      const mayGiveUp = !isOver && sets.acting === 1 && sets.isComplete
      if (mayGiveUp && sets.countApart > tooMany) search.isGivenUp = true
    }
    if (isOver) return sets
    yield progress()
  }
}

function* judgeSearch(judging: Judging, options: ExploreOptions, sets: SetSearch | null): Generator<Progress, void> {
  const { search, cover, before } = judging
  const { stage } = search
  const progress = (doing: Progress['doing']): Progress => ({
    doing,
    situations: search.store.count,
    budget: search.budget,
  })
  const telling = (): Progress => progress('judging')
  judging.gap = whyIncomplete(search, sets)
  yield* quietly(addJointStorms(search), telling)
  const calm = new UnhurriedPaths(search)
  if (search.isFull && sets?.isComplete) yield* quietly(roam(cover, sets.taken), () => progress('replaying'))
  if (!options.isForGoals) for (const _ of coverRows(search, cover, calm)) yield progress('replaying')
  const { gap } = judging
  let plans: FarPlans | null = null
  if (search.isFull && sets?.isComplete) {
    const again = options.again === true
    const asked = [...stage.expanded.goals.keys()].slice(0, mostGoals)
    const goals = again ? asked : asked.filter((goal) => !search.holds(0, goal))
    judging.bySets = yield* quietly(judgeBySets(sets, goals, options.observations ?? [], again), telling)
    if (judging.bySets.graph) plans = new FarPlans(cover, judging.bySets.graph, options.isBrief === true)
    if (plans) yield* quietly(playFar(judging, judging.bySets, plans), () => progress('replaying'))
  }
  const backward = yield* quietly(Predecessors.of(search), telling)
  const { against } = options
  const isHelp = (edge: number): boolean => !against?.has(actorOf(search, edge))
  const helping = against ? yield* quietly(Predecessors.of(search, isHelp), telling) : backward
  judging.bytes = backward.bytes + (sets?.diagrams.bytes ?? 0)
  for (const goal of stage.expanded.goals.keys()) {
    if (goal >= mostGoals) {
      judging.unreachable.push(undecided(`only the first ${String(mostGoals)} goals are judged`))
      judging.softLocks.push(null)
      judging.losses.push([])
      continue
    }
    const sets = yield* quietly(goalSets(search, helping, goal, { again: options.again === true }), telling)
    judging.unreachable.push(
      before?.unreachable[goal]?.answer === 'found'
        ? found
        : yield* quietly(goalAnswer(search, cover, calm, goal, sets, judging), telling),
    )
    const known = before?.softLocks[goal]
    // Of a goal that holds at the very start there is nothing to be lost.
    const isMetAtOnce = options.again !== true && search.hasStart && search.holds(0, goal)
    if (isMetAtOnce || (known && (known.answer !== 'undecided' || known.isByGround))) {
      judging.softLocks.push(isMetAtOnce ? null : known!)
      judging.losses.push(before?.losses[goal] ?? [])
      continue
    }
    const judgement = yield* quietly(softLock(search, backward, cover, calm, sets, goal, judging, options), telling)
    const isTold = sets.everMet || gap !== null || stage.expanded.goals[goal]!.asksIn !== undefined
    judging.softLocks.push(isTold ? judgement.answer : null)
    judging.losses.push(judgement.losses)
  }
  const stuck = options.isForGoals
    ? null
    : yield* quietly(findStuck(search, backward, cover.rows, new Map(), judging.bySets?.search ?? null), telling)
  const observations = [...(options.observations ?? []), ...(stuck ? [stuck.observation] : [])]
  yield* quietly(findWitnesses(search, backward, cover, calm, observations, judging.witnesses), telling)
  judging.untold = stuck?.untold ?? new Map<string, string>()
  const { bySets, witnesses } = judging
  if (!bySets?.possible) return
  const possible = new Set([...bySets.possible.keys, ...(stuck?.possible ?? [])])
  judging.possible = possible
  yield* quietly(findFarWitnesses(search, cover, observations, possible, witnesses), telling)
  if (plans) yield* quietly(plans.showPresses(search, observations, bySets.possible.presses, witnesses), telling)
}

/** Plays what sets tell is possible, and was not played yet. */
function* playFar({ farLosses }: Judging, { taken, goals }: BySets, plans: FarPlans): Generator<undefined, void> {
  yield* plans.playRows(taken)
  for (const [goal, { everMet, met, lost }] of goals) {
    if (everMet) yield* plans.playGoal(goal, met)
    if (lost) farLosses.set(goal, yield* plans.losses(goal, lost))
  }
}

/** Why the situations found may not be all; null where they are. */
function whyIncomplete(search: Search, sets: SetSearch | null): string | null {
  if (!search.hasStart) return 'a character cannot stand where it starts'
  if (search.stage.space.patches.some(({ tooCoarse }) => tooCoarse)) {
    return 'the ground is too large, or too much meets at one spot, to be told apart at this resolution'
  }
  if (search.isGivenUp && sets) {
    return `there are ${roundly(sets.countApart)} situations or more, too many to look at one by one`
  }
  if (!search.isComplete) {
    return `the budget of ${String(search.budget)} situations was used up (--budget takes more), with ${String(search.store.count - search.expanded)} of them still to look at`
  }
  return null
}

/** Whether a level is not so large that finding out what happens at each place takes longer than anybody waits. */
function isForSets({ space, expanded }: Stage): boolean {
  // What is too coarse may allow more than its patches tell.
  if (space.patches.some(({ tooCoarse }) => tooCoarse)) return false
  return space.patches[0]!.patches.length * expanded.interactables.length <= mostParts
}

function* goalAnswer(
  search: Search,
  cover: Coverage,
  calm: UnhurriedPaths,
  goal: number,
  sets: GoalSets,
  { gap, bySets }: Judging,
): Generator<undefined, Answer> {
  const { name } = search.stage.expanded.goals[goal]!
  if (cover.goals.has(name)) return ruledOut
  if (!sets.everMet) return gap === null || bySets?.goals.get(goal)?.everMet === false ? found : undecided(gap)
  const at = firstHolding(search, goal)
  yield* cover.play(search, yield* calm.to(at), false, (play) => play.goalsMet().includes(name))
  const bit = 1 << goal
  if (!cover.goals.has(name)) {
    yield* cover.seek(
      (_regs, _patch, held) => (held & bit) !== 0,
      (play) => play.goalsMet().includes(name),
    )
  }
  return cover.goals.has(name) ? ruledOut : undecided(whyUnplayed(search))
}

/** Who makes a move; -1: the clocks do. */
function actorOf(search: Search, edge: number): number {
  const kind = search.kind(edge)
  if (kind === moveKind.wait) return -1
  const { inputs } = search.moves
  const code = search.input(edge)
  return (kind === moveKind.walk ? inputs.readWalk(code) : inputs.read(code)).actor
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
  backward: Predecessors,
  cover: Coverage,
  calm: UnhurriedPaths,
  sets: GoalSets,
  goal: number,
  judging: Judging,
  { isBrief = false, against }: ExploreOptions,
): Generator<undefined, { answer: Answer; losses: readonly Loss[] }> {
  const { gap, bySets, farLosses } = judging
  const known = bySets?.goals.get(goal)
  const far = farLosses.get(goal) ?? []
  if (gap !== null && far.length > 0) return { answer: found, losses: far }
  const { name } = search.stage.expanded.goals[goal]!
  if (gap !== null && known?.everMet && known.whyUnsafe === null) {
    judging.proofs.set(name, 'sets')
    return { answer: ruledOut, losses: [] }
  }
  // Where it is asked in one level alone, and nobody ever comes there, there is nothing to be lost.
  const isAsked = search.stage.expanded.goals[goal]!.asksIn !== undefined
  if (isAsked && gap === null && !sets.everMet && sets.lost === 0) return { answer: ruledOut, losses: [] }
  if (!sets.everMet && !isAsked) return { answer: undecided(gap ?? 'the goal is never met'), losses: [] }
  if (isAsked && sets.lost > 0 && !sets.canMeet.has(0) && !sets.asked.has(0)) {
    const loss = yield* comeToLost(search, sets, cover, calm)
    return loss ? { answer: found, losses: [loss] } : { answer: undecided(whyUnplayed(search)), losses: [] }
  }
  // What cannot be brought about at the start, where it is asked about, is not lost by any move.
  if ((isAsked || against) && sets.asked.has(0) && !sets.canMeet.has(0)) return { answer: found, losses: [] }
  if (sets.lost > 0) {
    const { found: losses, unplayed } = yield* findLosses(search, backward, sets, cover, calm, isBrief)
    if (losses.length > 0) return { answer: found, losses }
    const why = unplayed > 0 ? whyUnplayed(search) : 'what is lost could not be played'
    return { answer: undecided(why), losses: [] }
  }
  if (gap !== null) {
    const why = known?.whyUnsafe ? `; ${known.whyUnsafe}` : ''
    return { answer: undecided(gap + why), losses: [] }
  }
  if (search.storms.length > 0) return { answer: undecided('signals without end stop the play'), losses: [] }
  if (against) {
    const { characters } = search.stage.expanded
    const plays = (who: number): boolean => characters[who]!.role === 'player' && !against.has(who)
    const proof = yield* new Game(search, cover, goal, plays).run()
    if (!proof.proved)
      return { answer: { answer: 'undecided', why: proof.why, isByGround: proof.isByGround }, losses: [] }
    judging.proofs.set(name, 'game')
    return { answer: ruledOut, losses: [] }
  }
  if (!(yield* comesToRest(search, sets.unmet))) {
    if (sets.again)
      return { answer: undecided('something runs for ever, so that the level never comes to rest'), losses: [] }
    judging.withoutBystanders ??= { done: yield* WithoutBystanders.of(search) }
    const { done } = judging.withoutBystanders
    const proof = done && (yield* done.proof(goal))
    if (proof?.proved) {
      judging.proofs.set(name, 'bystanders')
      return { answer: ruledOut, losses: [] }
    }
    return { answer: undecided('something runs for ever, so that the level never comes to rest'), losses: [] }
  }
  const proof = yield* new SureProof(search, backward, cover.reliable, sets, goal).run()
  if (proof.proved) {
    judging.proofs.set(name, 'search')
    return { answer: ruledOut, losses: [] }
  }
  return { answer: { answer: 'undecided', why: proof.why, isByGround: proof.isByGround }, losses: [] }
}
