import { moveKind } from '../successors.ts'
import { clocksRunDown } from '../time-cycles.ts'
import type { SetSearch } from './set-search.ts'
import type { Learned, SureChange, SureGraph } from './sure-graph.ts'
import { toTop } from './to-top.ts'

/** How many trails are looked for to show that a goal is out of danger. */
const mostTrails = 64

/** Why a level is not one whose goals can be proved safe by sets; null where it is. */
export function whyNotBySets({ stage: { tables }, acting }: SetSearch): string | null {
  if (acting > 1) return 'several characters act in it'
  if (tables.canBeHeld.includes(true)) return 'presses in it are kept down'
  if (!clocksRunDown(tables)) return 'something in it may run for ever'
  return null
}

/**
 * Tries to show, for whole sets of situations at once, that from every situation at rest, before the goal was met, sure moves
 * reach the goal: backwards from the goal, over sure moves that come to rest. It is enough to look at situations at rest,
 * since all clocks run down. True where it was shown; it is only for levels of `whyNotBySets`.
 */
export class SetProof {
  readonly #graph: SureGraph
  readonly #search: SetSearch

  constructor(graph: SureGraph) {
    this.#graph = graph
    this.#search = graph.search
  }

  /**
   * Whether the goal is out of danger; false where that was not shown. First as if it had to hold at rest; if that does not
   * do, it may also be met on the way; if that does not do either, and it `isWorthTrails`, whole trails are looked for while
   * something runs. `met`: by place, in what it holds; `unmet`: what is reached before it was met, or more than that.
   * Pauses now and then.
   */
  *isSafe(goal: number, met: Int32Array, unmet: Int32Array, isWorthTrails = false): Generator<undefined, boolean> {
    if (yield* this.#isSafe(-1, met, unmet, 0)) return true
    return yield* this.#isSafe(goal, met, unmet, isWorthTrails ? mostTrails : 0)
  }

  *#isSafe(goal: number, met: Int32Array, unmet: Int32Array, trails: number): Generator<undefined, boolean> {
    const graph = this.#graph
    const learned = [...(yield* graph.learn(goal))]
    const good = graph.byComponent(met)
    for (const one of learned) this.#addMet(one, good)
    if (!(yield* this.#spread(good, graph.into(learned)))) return false
    for (let tried = 0; tried < trails;) {
      // What is not good is tried component by component: what one of them becomes may be what another one lacks.
      let isMore = false
      for (const [patch, bad] of this.#notGood(unmet, good)) {
        if (tried++ >= trails) break
        const trail = yield* graph.learnTrail(bad, patch, good, goal)
        if (!trail) continue
        learned.push(trail)
        this.#addMet(trail, good)
        if (!(yield* this.#spread(good, graph.into(learned)))) return false
        isMore = true
        break
      }
      if (!isMore) break
    }
    for (const _ of this.#notGood(unmet, good)) return false
    return yield* this.#canEscape(unmet, good)
  }

  /** Whoever has met the goal on the way needs nothing more. */
  #addMet({ patch, lifted }: Learned, good: Int32Array): void {
    const { diagrams } = this.#search
    const component = this.#graph.componentOf[patch]!
    for (const { where, isMet } of lifted.changes) {
      if (!isMet) continue
      good[component] = diagrams.union(good[component]!, diagrams.intersection(where, this.#graph.restOn(patch)))
    }
  }

  /** The sure patches on which there is something at rest, before the goal was met, that is not good; and that. */
  *#notGood(unmet: Int32Array, good: Int32Array): Generator<readonly [patch: number, bad: number]> {
    const { diagrams, places, stage } = this.#search
    for (const [patch, { sure }] of stage.space.patches[0]!.patches.entries()) {
      if (!sure) continue
      const place = places[0]!.of[patch]!
      const bad = diagrams.intersection(unmet[place]!, this.#graph.atRest[place]!)
      const there = good[this.#graph.componentOf[patch]!]!
      if (!diagrams.isWithin(bad, there)) yield [patch, diagrams.difference(bad, there)]
    }
  }

  /** Whether whoever is on ground that is not sure can, before the goal was met, walk off it for certain to where all is well. */
  *#canEscape(unmet: Int32Array, good: Int32Array): Generator<undefined, boolean> {
    const { diagrams, places, stage } = this.#search
    const ground = stage.space.patches[0]!
    for (const [patch, { sure }] of ground.patches.entries()) {
      yield
      const place = places[0]!.of[patch]!
      const bad = sure ? 0 : diagrams.intersection(unmet[place]!, this.#graph.atRest[place]!)
      if (bad === 0) continue
      // To one of each of these patches.
      for (const ways of ground.escapes(patch)) {
        let well = 0
        for (const to of ways) {
          if (ground.patches[to]!.sure) well = diagrams.union(well, this.#wellInto(bad, patch, to, good))
        }
        if (!diagrams.isWithin(bad, well)) return false
        yield
      }
    }
    return true
  }

  /**
   * Adds to what is good, by component, all from which sure moves lead to it: what is new in a component is closed under the moves within
   * it and then passed on; the component that got something last is next. False where the nodes are used up.
   */
  *#spread(good: Int32Array, into: readonly (readonly SureChange[])[]): Generator<undefined, boolean> {
    const { diagrams, nodes } = this.#search
    const fresh = good.slice()
    const waiting = [...good.keys()].filter((component) => good[component] !== 0)
    for (let component = waiting.pop(); component !== undefined; component = waiting.pop()) {
      const here = component
      const within = into[here]!.filter(({ from }) => from === here)
      within.sort((a, b) => (b.change.bits[0] ?? 0) - (a.change.bits[0] ?? 0))
      let set = fresh[here]!
      fresh[here] = 0
      for (let before = -1; before !== set;) {
        before = set
        for (const change of within) {
          for (let last = -1; last !== set;) {
            last = set
            set = diagrams.union(set, this.#graph.before(change, set))
          }
        }
        if (diagrams.made > nodes) return false
        yield
      }
      good[here] = diagrams.union(good[here]!, set)
      for (const change of into[here]!) {
        const { from } = change
        const made = from === here ? 0 : diagrams.difference(this.#graph.before(change, set), good[from]!)
        if (made === 0) continue
        good[from] = diagrams.union(good[from]!, made)
        fresh[from] = diagrams.union(fresh[from]!, made)
        toTop(waiting, from)
      }
      yield
    }
    return true
  }

  /** The part of a set from which a walk onto a sure patch leads, whatever comes of it, to rest where all is well. */
  #wellInto(set: number, patch: number, to: number, good: Int32Array): number {
    const { of } = this.#search.places[0]!
    const { diagrams } = this.#search
    const there = good[this.#graph.componentOf[to]!]!
    if (of[to] === of[patch]) return diagrams.intersection(set, there)
    let [can, ill] = [0, 0]
    for (const change of this.#search.walksInto(set, patch, to)) {
      const from = diagrams.intersection(set, change.where)
      can = diagrams.union(can, from)
      const isThere = !change.isStorm && change.to === -2
      const made = isThere ? this.#illAfterWaiting(diagrams.image(from, change.change), of[to]!, there) : 0
      const back = isThere ? diagrams.intersection(diagrams.preimage(made, change.change), from) : from
      ill = diagrams.union(ill, back)
    }
    return diagrams.difference(can, ill)
  }

  /** The part of a set at a place from which waiting may lead to rest elsewhere than in `good`, or away from the place. */
  #illAfterWaiting(set: number, place: number, good: number): number {
    const { diagrams } = this.#search
    const waits = [...this.#search.changesAt(place)].filter(({ change }) => change.kind === moveKind.wait)
    let all = set
    for (let before = -1; before !== all;) {
      before = all
      for (const { change, to } of waits) {
        if (to === place) all = diagrams.union(all, diagrams.image(all, change.change))
      }
    }
    let ill = diagrams.difference(diagrams.intersection(all, this.#graph.rest), good)
    for (const { change, to } of waits) {
      if (to !== place || change.isStorm) ill = diagrams.union(ill, diagrams.intersection(all, change.where))
    }
    for (let before = -1; before !== ill;) {
      before = ill
      for (const { change, to } of waits) {
        if (to !== place) continue
        ill = diagrams.union(ill, diagrams.intersection(diagrams.preimage(ill, change.change), all))
      }
    }
    return diagrams.intersection(set, ill)
  }
}
