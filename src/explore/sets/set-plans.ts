import type { SureMoves } from '../sure.ts'
import { findTrail } from '../sure-search.ts'
import type { TrailMove } from '../trail.ts'
import { type Move, spread } from './spread.ts'
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

/** What was found of a component when so many sets had grown, or before. */
interface Layer {
  readonly rank: number
  readonly set: number
}

/** Sets of situations in the order in which one leads to the next, the last of them first. */
type Chain = readonly { readonly component: number; readonly set: number }[]

/**
 * Finds sure moves that lead to any of a set of situations, however many situations there are: what sure moves lead to from
 * the start, layer by layer; back from the target, the sets through which they lead to it; and then, from the start, moves
 * from each to one that comes later.
 */
export class SetPlans {
  readonly #graph: SureGraph
  readonly #sure: SureMoves
  /** From where plans began last, as far as was needed. */
  #layers: Layers | null = null

  constructor(graph: SureGraph, sure: SureMoves) {
    this.#graph = graph
    this.#sure = sure
  }

  /** Moves from a start to a target, by component; null where there are none, or none were found. Pauses now and then. */
  *to(start: PlanStart, target: Int32Array): Generator<undefined, Plan | null> {
    if (!this.#layers?.beginAt(start)) {
      this.#layers = new Layers(this.#graph, start, this.#graph.moves(yield* this.#graph.learn(-1)))
    }
    const chain = yield* this.#layers.chainTo(target)
    if (!chain) return null
    const moves: TrailMove[] = []
    let { regs, patch } = start
    for (let rank = this.#rankOf(chain, regs, patch); rank > 0;) {
      const below = rank
      const end = yield* findTrail(
        this.#sure,
        regs,
        patch,
        (after, to, _held, _taken, atRest) => {
          const next = atRest ? this.#rankOf(chain, after, to) : Infinity
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

  /** How far on a situation at rest is in a chain, from its end; infinite: it is not in it. */
  #rankOf(chain: Chain, regs: Int32Array, patch: number): number {
    const at = this.#graph.componentOf[patch]!
    const kept = this.#graph.search.kept(regs)
    const rank = chain.findIndex(({ component, set }) => component === at && this.#graph.space.contains(set, kept))
    return rank < 0 ? Infinity : rank
  }
}

/**
 * What sure moves lead to from a situation at rest, component by component: what arrives at one is a layer, and so is what it is
 * closed to there. It grows only as far as it is asked for.
 */
class Layers {
  readonly #graph: SureGraph
  readonly #start: PlanStart
  readonly #into: Move[][]
  /** By component, each with all in it that is in those before. */
  readonly #layers: Layer[][]
  readonly #growing: Generator<undefined, Int32Array | null>
  #rank = 0
  #isDone = false

  constructor(graph: SureGraph, start: PlanStart, moves: readonly Move[]) {
    const { diagrams } = graph.search
    const kept = graph.search.kept(start.regs)
    this.#graph = graph
    this.#start = start
    this.#into = Array.from(graph.componentOf, () => [])
    for (const move of moves) this.#into[move.to]!.push(move)
    this.#layers = Array.from(graph.componentOf, () => [])
    const from = new Int32Array(graph.componentOf.length)
    from[graph.componentOf[start.patch]!] = graph.space.single(kept)
    this.#growing = spread(graph.search, from, moves, {
      way: 'forwards',
      without: 0,
      next: (move, set) => graph.after(move, set),
      onGrown: (component, set) => {
        const own = this.#layers[component]!
        own.push({ rank: this.#rank++, set: diagrams.union(own.at(-1)?.set ?? 0, set) })
      },
    })
  }

  /** Whether these are what is led to from there. */
  beginAt({ regs, patch }: PlanStart): boolean {
    return patch === this.#start.patch && regs.every((value, register) => value === this.#start.regs[register])
  }

  /** The sets through which sure moves lead from the start to a target, by component; null where they do not. Pauses now and then. */
  *chainTo(target: Int32Array): Generator<undefined, Chain | null> {
    let last = this.#first(target)
    while (!last && !this.#isDone) {
      this.#isDone = this.#growing.next().done === true
      last = this.#first(target)
      yield
    }
    if (!last) return null
    const chain: Found[] = []
    while (last && last.rank > 0) {
      chain.push(last)
      last = this.#fromBefore(last) ?? this.#fromWithin(last, chain)
      yield
    }
    return last && [...chain, last]
  }

  /** From where one move leads into a part of a layer, if that is in a layer before it. */
  #fromBefore({ component, rank, set }: Found): Found | null {
    return this.#nearest(
      this.#into[component]!.map((move) => [move.from, this.#graph.before(move, set)]),
      rank,
    )
  }

  /**
   * What leads into a part of a layer from one before it, by moves within the component, as few as that takes (breadth-first);
   * adds what is between to the chain.
   */
  #fromWithin({ component, rank, set }: Found, chain: Found[]): Found | null {
    const { diagrams } = this.#graph.search
    const moves = this.#into[component]!.filter(({ from }) => from === component)
    const all = this.#layers[component]!.find((layer) => layer.rank === rank)!.set
    let known = set
    for (let last = set; last !== 0;) {
      const before = moves.reduce((sum, move) => diagrams.union(sum, this.#graph.before(move, last)), 0)
      last = diagrams.difference(diagrams.intersection(before, all), known)
      known = diagrams.union(known, last)
      const earlier = this.#nearest([[component, last]], rank)
      if (earlier) return earlier
      chain.push({ component, rank, set: last })
    }
    return null
  }

  #first(target: Int32Array): Found | null {
    return this.#nearest([...target.entries()].filter(([, set]) => set !== 0))
  }

  /** A situation of a set that is not empty: what leads to one is quicker found than what leads to many. */
  #oneOf(set: number): number {
    const { space } = this.#graph
    space.fill(set)
    return space.single(space.noting.from)
  }

  /** Of some sets in components, a situation in the first layer that has any of them, before some rank. */
  #nearest(sets: readonly (readonly [component: number, set: number])[], before = Infinity): Found | null {
    const { diagrams } = this.#graph.search
    let nearest: Found | null = null
    for (const [component, set] of sets) {
      const own = this.#layers[component]!
      const most: number = nearest?.rank ?? before
      let [low, high] = [0, own.length]
      while (low < high) {
        const middle = (low + high) >> 1
        if (own[middle]!.rank >= most || diagrams.meet(own[middle]!.set, set)) high = middle
        else low = middle + 1
      }
      const layer = own[low]
      if (layer && layer.rank < most && diagrams.meet(layer.set, set)) {
        nearest = { component, rank: layer.rank, set: this.#oneOf(diagrams.intersection(layer.set, set)) }
      }
    }
    return nearest
  }
}

/** A situation in a layer. */
interface Found {
  readonly component: number
  readonly rank: number
  readonly set: number
}
