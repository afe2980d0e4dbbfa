import type { Play } from '../play/index.ts'
import type { Loss, Witness } from './answers.ts'
import type { Coverage, StandingStart } from './cover.ts'
import type { LastSafe } from './last-safe.ts'
import { shownAfter } from './far-witnesses.ts'
import { Eye, type Observation } from './observation.ts'
import { isAtRest, loosen, moveKind } from './successors.ts'
import type { Search } from './search.ts'
import type { SetsOfGoal } from './sets/goal-sets.ts'
import { pressesThatShow } from './sets/possible.ts'
import { type PlanStart, SetPlans } from './sets/set-plans.ts'
import type { SureGraph } from './sets/sure-graph.ts'
import { type PlayStep, rehearse, replay } from './steps.ts'
import { played, thinned } from './thin.ts'
import { findTrail, type IsFound } from './sure-search.ts'
import type { TrailMove } from './trail.ts'

/** The most situations that are looked at for the last moves of a plan. */
const mostSituations = 6_000

/** The most transitions with which one goal is lost that are played. */
const mostLosses = 6

/** From so many of the last moments Play is tried to be brought to the goal. */
const mostMoments = 4

/** So long is waited, in ms, until nothing runs. */
const longestWait = 120_000

/** Plays what sets tell is possible, in levels with too many situations to look at each: by plans over sets. */
export class FarPlans {
  readonly #cover: Coverage
  readonly #graph: SureGraph
  readonly #plans: SetPlans
  readonly #isBrief: boolean

  constructor(cover: Coverage, graph: SureGraph, isBrief: boolean) {
    this.#isBrief = isBrief
    this.#cover = cover
    this.#graph = graph
    this.#plans = new SetPlans(graph, cover.far)
  }

  /** Plays the transitions that may be taken, and were not played yet. */
  *playRows(taken: Uint8Array): Generator<undefined, void> {
    const { rows } = this.#cover
    const wanted = [...taken.keys()].filter((row) => taken[row] === 1 && !rows.has(row))
    const start = wanted.length > 0 ? yield* this.#start() : null
    if (!start) return
    const learned = yield* this.#graph.learn(-1)
    for (const row of wanted) {
      if (rows.has(row)) continue
      const target = new Int32Array(this.#graph.componentOf.length)
      for (const { patch, lifted } of learned) {
        for (const change of lifted.changes) {
          if (change.taken.includes(row)) this.#add(target, this.#graph.componentOf[patch]!, patch, change.where)
        }
      }
      const moves = yield* this.#movesTo(start, target, (_regs, _patch, _held, all) => all.includes(row))
      if (moves) this.#cover.played(yield* played(this.#cover, moves, (play) => play.taken.includes(row)))
      yield
    }
  }

  /** Plays a goal that may be met, if it was not met in any play yet. */
  *playGoal(goal: number, met: Int32Array): Generator<undefined, void> {
    const { name } = this.#cover.stage.expanded.goals[goal]!
    const start = this.#cover.goals.has(name) ? null : yield* this.#start()
    const moves = start && (yield* this.#movesToGoal(start, goal, met))
    if (moves) this.#cover.played(yield* played(this.#cover, moves, (play) => play.goalsMet().includes(name)))
  }

  /** Plays presses that show something and were not played yet; adds that to `witnesses`. */
  *showPresses(
    search: Search,
    observations: readonly Observation[],
    presses: ReadonlyMap<string, number>,
    witnesses: Map<string, Witness>,
  ): Generator<undefined, void> {
    const wanted = [...presses].filter(([key]) => !witnesses.get(key)?.shown)
    const start = wanted.length > 0 ? yield* this.#start() : null
    if (!start) return
    for (const [key, interactable] of wanted) {
      // What must be out of reach for good cannot be told without everything that is possible.
      for (const observation of observations.filter(
        ({ onPress, forGood }) => onPress && (forGood?.(key) ?? null) === null,
      )) {
        const shows = yield* pressesThatShow(this.#graph.search, observation, key, interactable)
        const target = new Int32Array(this.#graph.componentOf.length)
        for (const { patch, set } of shows) this.#add(target, this.#graph.componentOf[patch]!, patch, set)
        const plan = yield* this.#plans.to(start, target)
        const last = plan && this.#lastMoves(search, observation, key, plan, shows)
        if (!last) continue
        // That it is possible is all that need be known of it.
        if (observation.isKnown?.(key, this.#cover.moments)) {
          witnesses.set(key, { shown: { steps: [], short: false } })
          break
        }
        const moves = [...start.moves, ...plan.moves, ...last]
        const shown = yield* shownAfter(this.#cover, observation, key, moves)
        if (shown) witnesses.set(key, { shown })
        break
      }
      yield
    }
  }

  /** From where a plan leads, the walk to one of the patches, and what is done there that shows something. */
  #lastMoves(
    search: Search,
    observation: Observation,
    key: string,
    { regs, patch: on }: PlanStart,
    patches: readonly { readonly patch: number }[],
  ): TrailMove[] | null {
    const { componentOf } = this.#graph
    for (const { patch } of patches) {
      if (componentOf[patch] !== componentOf[on]) continue
      let last: TrailMove[] | null = null
      const eye = new Eye(search, [observation], (_lookout, seen, { kind, what }) => {
        if (seen !== key || last) return
        const walk = { kind: moveKind.walk, what: search.moves.inputs.walk(0, patch), patch, ms: -1 }
        last = kind < 0 ? [walk] : [walk, { kind, what, patch, ms: -1 }]
      })
      eye.look(regs, patch)
      if (last) return last
    }
    return null
  }

  /** Ways to lose a goal, one for each transition with which it is lost, as far as they were found and played. */
  *losses(goal: number, sets: SetsOfGoal): Generator<undefined, Loss[]> {
    const start = yield* this.#start()
    if (!start) return []
    const losses: Loss[] = []
    for (const [row, target] of yield* this.#losingTargets(sets)) {
      if (losses.length >= mostLosses) break
      const moves = yield* this.#movesTo(start, target, (regs, patch, _held, taken) => {
        return (row < 0 || taken.includes(row)) && this.#isLost(sets, regs, patch)
      })
      if (!moves) continue
      const isDone = (play: Play): boolean => (row < 0 || play.taken.includes(row)) && this.#isLostIn(sets, goal, play)
      const steps = yield* thinned(this.#cover, moves, isDone)
      if (!steps) continue
      const lastSafe = this.#isBrief ? null : yield* this.#lastSafe(goal, sets, steps)
      losses.push({ row: row < 0 ? null : row, steps, short: true, lastSafe, safeguards: [] })
    }
    return losses
  }

  /** By the first transition that a losing move takes (-1: none), from where it can be made: what is at rest there, by component. */
  *#losingTargets(sets: SetsOfGoal): Generator<undefined, ReadonlyMap<number, Int32Array>> {
    const { search, atRest, componentOf } = this.#graph
    const { diagrams, places } = search
    const targets = new Map<number, Int32Array>()
    for (const [place, canMeet] of sets.canMeet.entries()) {
      // Asked about again, it may also be lost from where it holds.
      const may = sets.again ? canMeet : diagrams.intersection(sets.unmet[place]!, canMeet)
      const from = diagrams.intersection(may, atRest[place]!)
      if (from === 0) continue
      yield
      for (const { change, to } of search.moves.changesAt(place)) {
        if (change.isStorm || !diagrams.meet(from, change.where)) continue
        const lost = diagrams.intersection(diagrams.image(from, change.change), sets.doomed[to]!)
        if (lost === 0) continue
        const before = diagrams.intersection(diagrams.preimage(lost, change.change), from)
        const row = change.taken[0] ?? -1
        const target = targets.get(row) ?? new Int32Array(componentOf.length)
        targets.set(row, target)
        for (const patch of places[0]!.patches[place]!) this.#add(target, componentOf[patch]!, patch, before)
      }
    }
    return new Map([...targets].sort((a, b) => a[0] - b[0]))
  }

  /** Adds to the target of a component the part of a set that is at rest on a patch. */
  #add(target: Int32Array, component: number, patch: number, set: number): void {
    const { diagrams } = this.#graph.search
    target[component] = diagrams.union(target[component]!, diagrams.intersection(set, this.#graph.restOn(patch)))
  }

  /** Moves to a target, and on from there to what is wanted. */
  *#movesTo(
    start: StandingStart,
    target: Int32Array,
    isFound: IsFound,
  ): Generator<undefined, readonly TrailMove[] | null> {
    const { far } = this.#cover
    const plan = yield* this.#plans.to(start, target)
    if (!plan) return null
    const limits = { situations: mostSituations, patient: true, stopAtRest: false }
    const end = yield* findTrail(far, plan.regs, plan.patch, isFound, limits)
    return typeof end === 'object' ? [...start.moves, ...plan.moves, ...end.moves] : null
  }

  *#movesToGoal(
    start: StandingStart,
    goal: number,
    met: Int32Array,
  ): Generator<undefined, readonly TrailMove[] | null> {
    const graph = this.#graph
    const target = graph.byComponent(met)
    const atRest = yield* this.#plans.to(start, target)
    if (atRest) return [...start.moves, ...atRest.moves]
    for (const { patch, lifted } of yield* graph.learn(goal)) {
      for (const { where, isMet } of lifted.changes)
        if (isMet) this.#add(target, graph.componentOf[patch]!, patch, where)
    }
    return yield* this.#movesTo(start, target, (_regs, _patch, held) => (held & (1 << goal)) !== 0)
  }

  /** The start, where nothing runs; null where something does. */
  *#start(): Generator<undefined, StandingStart | null> {
    const start = yield* this.#cover.standingStart()
    return start && isAtRest(this.#cover.stage.tables, start.regs) ? start : null
  }

  /** Whether a goal is out of reach over all moves that are possible. */
  #isLost(sets: SetsOfGoal, regs: Int32Array, patch: number): boolean {
    const { search } = this.#graph
    const loose = loosen(this.#cover.stage.tables, search.kept(regs).slice())
    const place = search.places[0]!.of[patch]
    if (place === undefined || !search.has(loose, patch)) return false
    return search.space.contains(sets.doomed[place]!, loose)
  }

  #isLostIn(sets: SetsOfGoal, goal: number, play: Play): boolean {
    const { stage } = this.#cover
    const patch = stage.space.patches[0]!.patchAt(play.spotOf(0))
    const { name } = stage.expanded.goals[goal]!
    const regs = play.registers()
    for (const [who, { patchAt }] of stage.space.patches.entries())
      if (who > 0) regs[stage.tables.at.place(who)] = patchAt(play.spotOf(who))
    const isOver = !sets.again && play.goalsMet().includes(name)
    return play.ended === null && !isOver && this.#isLost(sets, regs, patch)
  }

  /** See `LastSafe`; the way on from there is a plan, too. */
  *#lastSafe(goal: number, sets: SetsOfGoal, losing: readonly PlayStep[]): Generator<undefined, LastSafe | null> {
    const { stage } = this.#cover
    const { name } = stage.expanded.goals[goal]!
    const holds = stage.tables.goals[goal]!
    const isMet = (play: Play): boolean => (sets.again ? holds(play.registers(), 0) : play.goalsMet().includes(name))
    let tried = 0
    for (let after = losing.length - 1; after >= 0 && tried < mostMoments; after--) {
      yield
      const before = [...losing.slice(0, after), ...untilRest(replay(stage, losing.slice(0, after)))]
      if (this.#isLostIn(sets, goal, replay(stage, before))) continue
      tried++
      const start = this.#cover.standingAfter(before)
      if (!start || !isAtRest(stage.tables, start.regs)) continue
      const moves = yield* this.#movesToGoal(start, goal, sets.met)
      if (!moves) continue
      for (const direct of [true, false]) {
        const manner = { direct, exact: !direct, hasWaited: () => true }
        const rehearsal = yield* rehearse(stage, moves, manner, start.before)
        if (rehearsal && isMet(rehearsal.play)) return { after, steps: rehearsal.steps.slice(after) }
      }
    }
    return null
  }
}

/** The wait until nothing runs any more in a play, which is moved on; none where nothing does, or it would take too long. */
function untilRest(play: Play): PlayStep[] {
  const since = play.now
  for (let due = play.nextDue(); due !== null && play.now - since < longestWait; due = play.nextDue()) play.advance(due)
  return play.now > since ? [{ who: 0, do: 'wait', ms: play.now - since }] : []
}
