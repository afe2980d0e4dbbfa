import { moveKind } from '../successors.ts'
import { clocksRunDown } from '../time-cycles.ts'
import type { BitChange } from './diagrams.ts'
import { closedUnder } from './rounds.ts'
import type { SetSearch } from './set-search.ts'
import { type Move, spread } from './spread.ts'
import type { Learned, SureGraph } from './sure-graph.ts'

/** How many trails are looked for to show that a goal is out of danger. */
const mostTrails = 64

/** Why a level is not one whose goals can be proved safe by sets; null where it is. */
export function whyNotBySets({ stage: { tables }, acting }: SetSearch): string | null {
  if (acting > 1) return 'several characters act in it'
  if (tables.canBeHeld.includes(true)) return 'presses in it are kept down'
  if (!clocksRunDown(tables)) return 'something in it may run for ever'
  return null
}

interface Waits {
  readonly here: readonly BitChange[]
  readonly away: readonly number[]
}

/**
 * Tries to show, for whole sets of situations at once, that from every situation at rest, before the goal was met, sure moves
 * reach the goal: backwards from the goal, over sure moves that come to rest. It is enough to look at situations at rest,
 * since all clocks run down. True where it was shown; it is only for levels of `whyNotBySets`.
 */
export class SetProof {
  readonly #graph: SureGraph
  readonly #search: SetSearch
  /** By component, what the last goal can be met from for certain, as far as that was found. */
  #good: Int32Array | null = null
  readonly #waits = new Map<number, Waits>()
  /** By place, what is good there and what is looked at: from where waiting may lead to what is not. */
  readonly #ill = new Map<string, number | null>()

  constructor(graph: SureGraph) {
    this.#graph = graph
    this.#search = graph.search
  }

  /**
   * Whether the goal is out of danger, as if it had to hold at rest, which is quickly told; false where that was not shown. `met`:
   * by place, in what it holds. Pauses now and then.
   */
  isSafeAtRest(met: Int32Array): Generator<undefined, boolean> {
    return this.#isSafe(-1, met, this.#search.reached, 0)
  }

  /**
   * Whether the goal is out of danger, where it may also be met on the way; false where that was not shown. Where it
   * `isWorthTrails`, whole trails are looked for while something runs. `unmet`: what is reached before it was met, or more than
   * that. Pauses now and then.
   */
  isSafe(goal: number, met: Int32Array, unmet: Int32Array, isWorthTrails = false): Generator<undefined, boolean> {
    return this.#isSafe(goal, met, unmet, isWorthTrails ? mostTrails : 0)
  }

  /** By place, from where the goal that was asked for last can be met for certain, as far as that was found. */
  get byPlace(): Int32Array {
    const { diagrams, reached, places } = this.#search
    const byPlace = new Int32Array(reached.length)
    for (const [patch, place] of places[0]!.of.entries()) {
      const good = this.#good?.[this.#graph.componentOf[patch]!] ?? 0
      byPlace[place] = diagrams.union(byPlace[place]!, diagrams.intersection(good, this.#graph.restOn(patch)))
    }
    return byPlace
  }

  *#isSafe(goal: number, met: Int32Array, unmet: Int32Array, trails: number): Generator<undefined, boolean> {
    const graph = this.#graph
    const learned = [...(yield* graph.learn(goal))]
    const start = graph.byComponent(met)
    this.#good = start
    for (const one of learned) this.#addMet(one, start)
    let good = yield* this.#spread(start, learned)
    for (let tried = 0; good !== null && tried < trails;) {
      // What is not good is tried component by component: what one of them becomes may be what another one lacks.
      let isMore = false
      for (const [patch, bad] of this.#notGood(unmet, good)) {
        if (tried++ >= trails) break
        const trail = yield* graph.learnTrail(bad, patch, good, goal)
        if (!trail) continue
        learned.push(trail)
        this.#addMet(trail, good)
        good = yield* this.#spread(good, learned)
        isMore = true
        break
      }
      if (!isMore) break
    }
    good = yield* this.#withArrivals(good, learned)
    if (good === null) return false
    this.#good = good
    for (const _ of this.#notGood(unmet, good)) return false
    return yield* this.#canEscape(unmet, good)
  }

  /**
   * With all from which the character comes to another level, whatever runs there then, and once it has waited for that, in whatever order,
   * is where all is well; and all from which that can be come to, and so on. Null where the nodes are used up.
   */
  *#withArrivals(good: Int32Array | null, learned: readonly Learned[]): Generator<undefined, Int32Array | null> {
    const { diagrams, places } = this.#search
    const graph = this.#graph
    const arriving = learned.filter(({ lifted }) => lifted.changes.some(({ isArrival }) => isArrival))
    let all = good
    for (let isMore = true; isMore && all !== null;) {
      isMore = false
      const before: Int32Array = all.slice()
      for (const { patch, lifted } of arriving) {
        const component = graph.componentOf[patch]!
        for (const { isArrival, isStorm, where, change, to } of lifted.changes) {
          const bad = diagrams.difference(diagrams.intersection(graph.restOn(patch), where), all[component]!)
          if (!isArrival || isStorm || bad === 0) continue
          const led = diagrams.image(bad, change)
          const there = all[graph.componentOf[to]!]!
          const ill = yield* this.#illAfterWaiting(led, places[0]!.of[to]!, there)
          const well = diagrams.difference(bad, diagrams.preimage(ill, change))
          if (well === 0) continue
          all[component] = diagrams.union(all[component]!, well)
          isMore = true
        }
      }
      if (isMore) all = yield* this.#spread(all, learned, before)
    }
    return all
  }

  /** A character that has met the goal on the way needs nothing more. */
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

  /** Whether a character that is on ground that is not sure can, before the goal was met, walk off it for certain to where all is well. */
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
          if (ground.patches[to]!.sure) well = diagrams.union(well, yield* this.#wellInto(bad, patch, to, good))
        }
        if (!diagrams.isWithin(bad, well)) return false
        yield
      }
    }
    return true
  }

  /** All from which sure moves lead to what is good, by component; `known`: the part of it that was spread before. Null where the nodes are used up. */
  *#spread(good: Int32Array, learned: readonly Learned[], known?: Int32Array): Generator<undefined, Int32Array | null> {
    const graph = this.#graph
    const next = (move: Move, set: number): number => graph.before(move, set)
    return yield* spread(this.#search, good, graph.moves(learned), {
      way: 'backwards',
      without: 0,
      next,
      spread: known,
    })
  }

  /** The part of a set from which a walk onto a sure patch leads, whatever comes of it, to rest where all is well. */
  *#wellInto(set: number, patch: number, to: number, good: Int32Array): Generator<undefined, number> {
    const { of } = this.#search.places[0]!
    const { diagrams } = this.#search
    const there = good[this.#graph.componentOf[to]!]!
    if (of[to] === of[patch]) return diagrams.intersection(set, there)
    let [can, ill] = [0, 0]
    for (const change of this.#search.moves.into(set, patch, to)) {
      const from = diagrams.intersection(set, change.where)
      can = diagrams.union(can, from)
      const isThere = !change.isStorm && change.to === -2
      const made = isThere ? yield* this.#illAfterWaiting(diagrams.image(from, change.change), of[to]!, there) : 0
      const back = isThere ? diagrams.intersection(diagrams.preimage(made, change.change), from) : from
      ill = diagrams.union(ill, back)
    }
    return diagrams.difference(can, ill)
  }

  /** What may fall due at a place: the changes there, and where it leads away from the place, or never ends. */
  #waitsAt(place: number): Waits {
    const known = this.#waits.get(place)
    if (known) return known
    const waits = { here: [] as BitChange[], away: [] as number[] }
    for (const { change, to } of this.#search.moves.changesAt(place)) {
      if (change.kind !== moveKind.wait) continue
      if (to !== place || change.isStorm) waits.away.push(change.where)
      else if (change.change.bits.length > 0) waits.here.push(change.change)
    }
    this.#waits.set(place, waits)
    return waits
  }

  /** The part of a set at a place from which waiting may lead to rest elsewhere than in `good`, or away from the place. */
  *#illAfterWaiting(set: number, place: number, good: number): Generator<undefined, number> {
    const { diagrams } = this.#search
    // Where nothing runs, nothing falls due.
    const rest = this.#graph.resting[place]!
    if (diagrams.isWithin(set, rest)) return diagrams.difference(set, good)
    const ill = yield* this.#illAt(place, good, diagrams.union(this.#search.reached[place]!, set))
    return ill === null ? set : diagrams.intersection(set, ill)
  }

  /**
   * All at a place from which waiting may lead to rest elsewhere than in `good`, or away from the place, of what is come to from `all`: a set
   * that holds all that waiting leads to from it. Null where the nodes are used up.
   */
  *#illAt(place: number, good: number, all: number): Generator<undefined, number | null> {
    const { diagrams, nodes } = this.#search
    const key = `${String(place)} ${String(good)} ${String(all)}`
    const known = this.#ill.get(key)
    if (known !== undefined) return known
    const { here, away } = this.#waitsAt(place)
    let ill = diagrams.difference(diagrams.intersection(all, this.#graph.resting[place]!), good)
    for (const where of away) ill = diagrams.union(ill, diagrams.intersection(all, where))
    const led = yield* closedUnder(diagrams, here, 'backwards', ill, { nodes })
    this.#ill.set(key, led)
    return led
  }
}
