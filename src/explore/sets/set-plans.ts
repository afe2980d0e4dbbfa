import type { SureMoves } from '../sure.ts'
import { findTrail } from '../sure-search.ts'
import type { TrailMove } from '../trail.ts'
import { spread } from './spread.ts'
import type { SureGraph } from './sure-graph.ts'

/** The most situations that are looked at for each stretch of a plan. */
const mostSituations = 6_000

/** Where a plan begins: registers in which nothing runs, and the patch of the character. */
export interface PlanStart {
  readonly regs: Int32Array
  readonly patch: number
}

/** Sure moves, and where they lead: at rest. */
export interface Plan extends PlanStart {
  readonly moves: readonly TrailMove[]
}

/** By component, sets of situations that are so far from a target, or less; in the order of that number. */
type Ranks = readonly { readonly rank: number; readonly set: number }[][]

/**
 * Finds sure moves that lead to any of a set of situations, however many situations there are: sets that are
 * further and further from it, backwards, and then from the start, each time, moves to one that is nearer.
 */
export class SetPlans {
  readonly #graph: SureGraph
  readonly #sure: SureMoves

  constructor(graph: SureGraph, sure: SureMoves) {
    this.#graph = graph
    this.#sure = sure
  }

  /** Moves from a start to a target, by component; null where there are none, or none were found. Pauses now and then. */
  *to(start: PlanStart, target: Int32Array): Generator<undefined, Plan | null> {
    const ranks = yield* this.#ranks(start, target)
    if (!ranks) return null
    const moves: TrailMove[] = []
    let { regs, patch } = start
    for (let rank = this.#rankOf(ranks, regs, patch); rank > 0;) {
      const below = rank
      const end = yield* findTrail(
        this.#sure,
        regs,
        patch,
        (after, to, _held, _taken, atRest) => {
          const next = atRest ? this.#rankOf(ranks, after, to) : Infinity
          if (next >= below) return false
          rank = next
          regs = after.slice()
          patch = to
          return true
        },
        { situations: mostSituations, patient: true, stopAtRest: false },
      )
      if (typeof end !== 'object') return null
      moves.push(...end.moves)
    }
    return { moves, regs, patch }
  }

  /** The least rank of a situation at rest; infinite: it has none. */
  #rankOf(ranks: Ranks, regs: Int32Array, patch: number): number {
    const own = ranks[this.#graph.componentOf[patch]!]!
    const kept = this.#graph.search.kept(regs)
    // Each set has all in it that is in those before.
    let [low, high] = [0, own.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.#graph.space.contains(own[middle]!.set, kept)) high = middle
      else low = middle + 1
    }
    return own[low]?.rank ?? Infinity
  }

  /**
   * Backwards from the target, component by component: what arrives at one has the next rank, and each larger set that it is closed
   * to there the one after that. So a few moves within the component, or one out of it, lead to a lower rank.
   */
  *#ranks(start: PlanStart, target: Int32Array): Generator<undefined, Ranks | null> {
    const graph = this.#graph
    const { search } = graph
    const { diagrams } = search
    const ranks = Array.from(target, (set) => (set === 0 ? [] : [{ rank: 0, set }]))
    const startsIn = graph.componentOf[start.patch]!
    let rank = 0
    const isKnown = (): boolean => this.#rankOf(ranks, start.regs, start.patch) < Infinity
    const moves = graph.moves(yield* graph.learn(-1))
    if (isKnown()) return ranks
    const all = yield* spread(search, target, moves, {
      way: 'backwards',
      without: 0,
      next: (move, set) => graph.before(move, set),
      onGrown: (component, set) => {
        const own = ranks[component]!
        const found = diagrams.intersection(set, graph.restOn(component))
        own.push({ rank: ++rank, set: diagrams.union(own.at(-1)?.set ?? 0, found) })
      },
      isEnough: (component) => component === startsIn && isKnown(),
    })
    return all && isKnown() ? ranks : null
  }
}
