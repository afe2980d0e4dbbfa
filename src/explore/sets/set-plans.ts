import type { SureMoves } from '../sure.ts'
import { findTrail } from '../sure-search.ts'
import type { TrailMove } from '../trail.ts'
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

/** By component, sets of situations that are so many sure moves away from a target, or fewer; in the order of that number. */
type Ranks = readonly { readonly rank: number; readonly set: number }[][]

/**
 * Finds sure moves that lead to any of a set of situations, however many situations there are: the sets from which it takes
 * one sure move more each, backwards from the target, and then from the start, each time, moves to one that is nearer.
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
    for (let rank = this.#rankOf(ranks, regs, patch, Infinity); rank > 0;) {
      const below = rank
      const end = yield* findTrail(
        this.#sure,
        regs,
        patch,
        (after, to, _held, _taken, atRest) => {
          if (!atRest || this.#rankOf(ranks, after, to, below) === Infinity) return false
          rank = this.#rankOf(ranks, after, to, below)
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

  /** The least rank below a limit of a situation at rest; infinite: it has none. */
  #rankOf(ranks: Ranks, regs: Int32Array, patch: number, limit: number): number {
    const kept = this.#graph.search.kept(regs)
    for (const { rank, set } of ranks[this.#graph.componentOf[patch]!]!) {
      if (rank >= limit) break
      if (this.#graph.space.contains(set, kept)) return rank
    }
    return Infinity
  }

  *#ranks(start: PlanStart, target: Int32Array): Generator<undefined, Ranks | null> {
    const graph = this.#graph
    const { diagrams, nodes } = graph.search
    const into = graph.into(yield* graph.learn(-1))
    const known = target.slice()
    const ranks = Array.from(known, (set) => (set === 0 ? [] : [{ rank: 0, set }]))
    let fresh = new Map([...known.entries()].filter(([, set]) => set !== 0))
    for (let rank = 1; fresh.size > 0; rank++) {
      if (this.#rankOf(ranks, start.regs, start.patch, Infinity) < Infinity) return ranks
      const made = new Map<number, number>()
      for (const [component, set] of fresh) {
        for (const change of into[component]!) {
          const before = diagrams.difference(graph.before(change, set), known[change.from]!)
          if (before !== 0) made.set(change.from, diagrams.union(made.get(change.from) ?? 0, before))
        }
        if (diagrams.made > nodes) return null
        yield
      }
      for (const [component, set] of made) {
        known[component] = diagrams.union(known[component]!, set)
        ranks[component]!.push({ rank, set: known[component] })
      }
      fresh = made
    }
    return null
  }
}
