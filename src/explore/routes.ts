import { Column } from './column.ts'
import type { Predecessors } from './graph.ts'
import type { Inputs } from './inputs.ts'
import { moveKind } from './successors.ts'
import { kindShift, type Search, targetMask } from './search.ts'
import { Bits } from './store.ts'
import type { TrailMove } from './trail.ts'

/** A way through a search: the situations it passes, the first one not included, and the move to each. */
export interface Route {
  readonly nodes: readonly number[]
  readonly moves: readonly TrailMove[]
}

/** What a move costs on a calm way: Play may not be quick enough to walk while something runs, nor come to uncertain ground. */
const costs = { walk: 1, walkInHaste: 7, press: 2, wait: 1 }

/**
 * Ways to situations on which as little as possible is done in haste, or on uncertain ground: those that Play is most likely to follow. They
 * are looked for as far as they are asked for.
 */
export class UnhurriedPaths {
  readonly #search: Search
  readonly #from: number
  readonly #before: Int32Array
  readonly #cost: Int32Array
  readonly #done: Bits
  /** Situations by what it costs to come to them; only the next few costs are ever in use. */
  readonly #buckets: readonly number[][] = Array.from({ length: costs.walkInHaste + 1 }, () => [])
  #waiting = 0
  #now = 0

  /** Of a search that goes on no more, from one of its situations. */
  constructor(search: Search, from = 0) {
    this.#search = search
    this.#from = from
    const { count } = search.store
    this.#before = new Int32Array(count)
    this.#cost = new Int32Array(count)
    this.#done = new Bits(count)
    if (count === 0) return
    this.#buckets[0]!.push(from)
    this.#cost[from] = 1
    this.#waiting = 1
  }

  /** The calmest way to a situation. */
  *to(index: number): Generator<undefined, Route> {
    if (!this.#done.has(index)) yield* this.#settle((node) => node === index)
    return routeOver(this.#search, this.#edgesTo(index))
  }

  /** The calmest way to a situation, and on by an edge from it. */
  *through(index: number, edge: number): Generator<undefined, Route> {
    if (!this.#done.has(index)) yield* this.#settle((node) => node === index)
    return routeOver(this.#search, [...this.#edgesTo(index), edge])
  }

  /** The calmest way to the first situation of some kind; null where there is none. To be asked for before anything else. */
  *toFirst(isWanted: (index: number) => boolean): Generator<undefined, Route | null> {
    const index = yield* this.#settle(isWanted)
    return index < 0 ? null : routeOver(this.#search, this.#edgesTo(index))
  }

  #edgesTo(index: number): number[] {
    const edges: number[] = []
    for (let at = index; at !== this.#from; at = this.#before[at]!) edges.push(this.#calmest(this.#before[at]!, at))
    return edges.reverse()
  }

  #calmest(from: number, to: number): number {
    const search = this.#search
    const end = search.endEdge(from)
    let best = -1
    for (let edge = search.firstEdge(from); edge < end; edge++) {
      if (search.target(edge) !== to) continue
      if (best < 0 || this.#price(from, edge) < this.#price(from, best)) best = edge
    }
    return best
  }

  #price(from: number, edge: number): number {
    const kind = this.#search.kind(edge)
    if (kind === moveKind.walk) {
      return this.#search.isAtRest(from) && this.#isOntoSure(edge) ? costs.walk : costs.walkInHaste
    }
    return kind === moveKind.press ? costs.press : costs.wait
  }

  /** Whether a walk leads onto ground where it is certain what is so. */
  #isOntoSure(edge: number): boolean {
    const { moves, stage } = this.#search
    const { actor, to } = moves.inputs.readWalk(this.#search.input(edge))
    return stage.space.patches[actor]!.patches[to]!.sure
  }

  /**
   * Dial's algorithm (1969), as far as the way to one situation, which it gives; -1 where there is none. Costs are kept plus 1; 0 is
   * none yet.
   */
  *#settle(isWanted: (node: number) => boolean): Generator<undefined, number> {
    const buckets = this.#buckets
    let visited = 0
    for (; this.#waiting > 0; this.#now++) {
      const bucket = buckets[this.#now % buckets.length]!
      while (bucket.length > 0) {
        const node = bucket.pop()!
        this.#waiting--
        if (this.#cost[node]! !== this.#now + 1 || !this.#done.add(node)) continue
        if (++visited % 4096 === 0) yield
        this.#goOn(node)
        if (isWanted(node)) return node
      }
    }
    return -1
  }

  #goOn(node: number): void {
    const search = this.#search
    const cost = this.#cost
    const end = search.endEdge(node)
    for (let edge = search.firstEdge(node); edge < end; edge++) {
      const target = search.target(edge)
      const price = this.#price(node, edge)
      const known = cost[target]!
      if (known !== 0 && this.#now + price + 1 >= known) continue
      cost[target] = this.#now + price + 1
      this.#before[target] = node
      this.#buckets[(this.#now + price) % this.#buckets.length]!.push(target)
      this.#waiting++
    }
  }
}

/** The moves along edges that follow one another. */
export function routeOver(search: Search, edges: readonly number[]): Route {
  const regs = new Int32Array(search.stage.tables.at.size)
  const nodes = edges.map((edge) => search.target(edge))
  const moves = edges.map((edge, i) => {
    const kind = search.kind(edge)
    const what = search.input(edge)
    const actor = whoMoves(search.moves.inputs, kind, what)
    const patch = search.read(nodes[i]!, regs)
    return { kind, what, patch: search.placeOf(actor, regs, patch), ms: -1 }
  })
  return { nodes, moves }
}

/** Who makes a move; for a wait, the first character. */
export function whoMoves(inputs: Inputs, kind: number, what: number): number {
  if (kind === moveKind.walk) return inputs.readWalk(what).actor
  return kind === moveKind.press ? inputs.read(what).actor : 0
}

/**
 * How many steps each situation takes at the least. Walks that follow one another are one step, and so are waits: a
 * breadth-first search with free moves (after Dial 1969) over situations and the kind of the last move.
 */
export class FewestSteps {
  readonly #search: Search
  readonly #backward: Predecessors
  /** Three a situation, by the kind of the last move: the steps, plus 1; 0: not reached so. */
  readonly #steps: Int32Array

  readonly #among: Bits | null

  private constructor(search: Search, backward: Predecessors, among: Bits | null) {
    this.#search = search
    this.#backward = backward
    this.#among = among
    this.#steps = new Int32Array(3 * search.store.count)
  }

  /** Counts the steps to all situations of a search; with `among`, on ways that pass only these. */
  static *of(search: Search, backward: Predecessors, among: Bits | null): Generator<undefined, FewestSteps> {
    const fewest = new FewestSteps(search, backward, among)
    if (search.store.count > 0) yield* fewest.#run()
    return fewest
  }

  /** The fewest steps to a situation; Infinity where none lead there. */
  to(index: number): number {
    const steps = [0, 1, 2].map((last) => this.#steps[3 * index + last]!).filter((one) => one > 0)
    return Math.min(...steps) - 1
  }

  /** The fewest steps to a situation followed by a move of some kind. */
  through(index: number, kind: number): number {
    return this.#best(index, kind)[0]
  }

  /** A way to a situation, and on by an edge from it (null: it ends there), in the fewest steps. */
  route(index: number, edge: number | null): Route {
    const edges: number[] = edge === null ? [] : [edge]
    const kind = edge === null ? -1 : this.#search.kind(edge)
    for (let at = this.#best(index, kind)[1]; at !== atStart;) at = this.#stepBack(at, edges)
    return routeOver(this.#search, edges.reverse())
  }

  /** The fewest steps to a situation and a move of some kind from it, and after which kind of move it is come to so. */
  #best(index: number, kind: number): [steps: number, at: number] {
    let best: [number, number] = [Infinity, -1]
    for (let last = 0; last < 3; last++) {
      const steps = this.#steps[3 * index + last]!
      const cost = steps + (last === kind && kind !== moveKind.press ? 0 : 1)
      if (steps > 0 && cost < best[0]) best = [cost, 3 * index + last]
    }
    return [best[0] - 1, best[1]]
  }

  /** Adds the edges of the last step on the way to `at`, last first, and gives what it set out from. */
  #stepBack(at: number, edges: number[]): number {
    const kind = at % 3
    const step = this.#steps[at]!
    const last = (at - kind) / 3
    /** For each situation of the step the edge that leads on from it; -1 for the last. */
    const after = new Map([[last, -1]])
    for (const node of after.keys()) {
      const end = this.#backward.end(node)
      for (let i = this.#backward.first(node); i < end; i++) {
        const source = this.#backward.source(i)
        const edge = this.#search.edgeBetween(source, node, kind)
        if (edge < 0) continue
        for (let before = 0; before < 3; before++) {
          if (this.#steps[3 * source + before] !== step - 1) continue
          const passed = [edge]
          for (let on = after.get(node)!; on >= 0; on = after.get(this.#search.target(on))!) passed.push(on)
          edges.push(...passed.reverse())
          return 3 * source + before
        }
        const isSameStep = kind !== moveKind.press && this.#steps[3 * source + kind] === step
        if (isSameStep && !after.has(source)) after.set(source, edge)
      }
    }
    throw new Error(`nothing leads to situation ${String(last)}`)
  }

  *#run(): Generator<undefined, void> {
    const search = this.#search
    const steps = this.#steps
    const among = this.#among
    const edges = search.edges.data
    const edgeStarts = search.edgeStarts.data
    let wave = new Column()
    let ahead = new Column()
    let visited = 0
    wave.push(atStart)
    steps[atStart] = 1
    for (let now = 1; wave.length > 0; now++) {
      while (wave.length > 0) {
        const at = wave.pop()
        if (steps[at] !== now) continue
        if (++visited % 4096 === 0) yield
        const last = at % 3
        const node = (at - last) / 3
        if (node >= search.expanded || (among && !among.has(node))) continue
        const end = edgeStarts[node + 1]!
        for (let edge = edgeStarts[node]!; edge < end; edge++) {
          const kind = edges[edge]! >>> kindShift
          const next = 3 * (edges[edge]! & targetMask) + kind
          const free = kind === last && kind !== moveKind.press
          const cost = free ? now : now + 1
          const known = steps[next]!
          if (known !== 0 && known <= cost) continue
          steps[next] = cost
          if (free) wave.push(next)
          else ahead.push(next)
        }
      }
      ;[wave, ahead] = [ahead, wave]
    }
  }
}

/** At the start, the last move counts as a press: nothing goes on from it for free. */
const atStart = moveKind.press
