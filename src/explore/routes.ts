import { moveKind } from './moves.ts'
import type { Search } from './search.ts'
import { Bits } from './store.ts'
import type { TrailMove } from './trail.ts'

/** A way through a search: the situations it passes, the first one not included, and the move to each. */
export interface Route {
  readonly nodes: readonly number[]
  readonly moves: readonly TrailMove[]
}

/** What a move costs on a calm way: walking while something runs is what Play may not be quick enough for. */
const costs = { walk: 1, walkInHaste: 7, press: 2, wait: 1 }

/** Ways to situations on which as little as possible is done in haste: those that Play is most likely to follow. */
export class CalmRoutes {
  readonly #search: Search
  readonly #before: Int32Array

  private constructor(search: Search) {
    this.#search = search
    this.#before = new Int32Array(search.store.count).fill(-1)
  }

  /** Finds the calmest ways to all situations of a search. */
  static *of(search: Search): Generator<undefined, CalmRoutes> {
    const routes = new CalmRoutes(search)
    yield* routes.#run()
    return routes
  }

  /** The calmest way to a situation. */
  to(index: number): Route {
    return routeOver(this.#search, this.#nodesTo(index))
  }

  /** The calmest way to a situation, and on to one that a move leads to from it. */
  through(index: number, next: number): Route {
    return routeOver(this.#search, [...this.#nodesTo(index), next])
  }

  #nodesTo(index: number): number[] {
    const nodes: number[] = []
    for (let at = index; at > 0; at = this.#before[at]!) nodes.push(at)
    return nodes.reverse()
  }

  /** Dial's algorithm (1969): buckets by cost, of which only the next few are ever in use. */
  *#run(): Generator<undefined, void> {
    const search = this.#search
    const { count } = search.store
    const cost = new Int32Array(count).fill(2_000_000_000)
    const done = new Bits(count)
    const buckets: number[][] = Array.from({ length: costs.walkInHaste + 1 }, () => [])
    let waiting = count > 0 ? 1 : 0
    let visited = 0
    if (waiting > 0) {
      buckets[0]!.push(0)
      cost[0] = 0
    }
    for (let now = 0; waiting > 0; now++) {
      const bucket = buckets[now % buckets.length]!
      for (let node = bucket.pop(); node !== undefined; node = bucket.pop()) {
        waiting--
        if (cost[node]! !== now || !done.add(node)) continue
        if (++visited % 4096 === 0) yield
        const end = search.endEdge(node)
        const walk = search.isAtRest(node) ? costs.walk : costs.walkInHaste
        for (let edge = search.firstEdge(node); edge < end; edge++) {
          const target = search.target(edge)
          const kind = search.kind(edge)
          const price = kind === moveKind.walk ? walk : kind === moveKind.press ? costs.press : costs.wait
          if (now + price >= cost[target]!) continue
          cost[target] = now + price
          this.#before[target] = node
          buckets[(now + price) % buckets.length]!.push(target)
          waiting++
        }
      }
    }
  }
}

/** The moves along situations that follow one another from the start. */
export function routeOver(search: Search, nodes: readonly number[]): Route {
  const regs = new Int32Array(search.stage.tables.at.size)
  let before = 0
  const moves = nodes.map((node) => {
    const kind = edgeKind(search, before, node)
    const what = kind === moveKind.press ? search.moves.answering(regs, search.read(before, regs)) : -1
    before = node
    return { kind, what, patch: search.patchOf(node), ms: -1 }
  })
  return { nodes, moves }
}

/** The kind of the move from one situation to another that it leads to. */
export function edgeKind(search: Search, from: number, to: number): number {
  const end = search.endEdge(from)
  for (let edge = search.firstEdge(from); edge < end; edge++) if (search.target(edge) === to) return search.kind(edge)
  throw new Error(`no move leads from situation ${String(from)} to ${String(to)}`)
}

/**
 * How many steps each situation takes at the least. Walks that follow one another are one step, and so are waits: a
 * breadth-first search with free moves (after Dial 1969) over situations and the kind of the last move.
 */
export class FewestSteps {
  readonly #search: Search
  /** Three a situation, by the kind of the last move: the steps, plus 1; 0: not reached so. */
  readonly #steps: Int32Array
  readonly #before: Int32Array

  private constructor(search: Search) {
    this.#search = search
    this.#steps = new Int32Array(3 * search.store.count)
    this.#before = new Int32Array(3 * search.store.count).fill(-1)
  }

  /** Counts the steps to all situations of a search. */
  static *of(search: Search): Generator<undefined, FewestSteps> {
    const fewest = new FewestSteps(search)
    if (search.store.count > 0) yield* fewest.#run()
    return fewest
  }

  /** The fewest steps to a situation. */
  to(index: number): number {
    const [steps] = this.#best(index)
    return steps - 1
  }

  /** The fewest steps to a situation followed by a move of some kind. */
  through(index: number, kind: number): number {
    const steps = [0, 1, 2].flatMap((last) => {
      const known = this.#steps[3 * index + last]!
      return known === 0 ? [] : [known + (last === kind && kind !== moveKind.press ? 0 : 1)]
    })
    return Math.min(...steps) - 1
  }

  /** A way to a situation, and on by a move of some kind to another, in the fewest steps. */
  route(index: number, next: number | null): Route {
    const kind = next === null ? -1 : edgeKind(this.#search, index, next)
    let at = this.#best(index, kind)[1]
    const nodes: number[] = next === null ? [] : [next]
    for (; at >= 0; at = this.#before[at]!) {
      const node = (at - (at % 3)) / 3
      if (node > 0 && nodes[nodes.length - 1] !== node) nodes.push(node)
    }
    return routeOver(this.#search, nodes.reverse())
  }

  #best(index: number, kind = -1): [steps: number, at: number] {
    let best: [number, number] = [Infinity, -1]
    for (let last = 0; last < 3; last++) {
      const steps = this.#steps[3 * index + last]!
      const cost = steps + (last === kind && kind !== moveKind.press ? 0 : 1)
      if (steps > 0 && cost < best[0]) best = [cost, 3 * index + last]
    }
    return [best[0] - 1, best[1]]
  }

  *#run(): Generator<undefined, void> {
    const search = this.#search
    const steps = this.#steps
    // At the start, the last move counts as a press: nothing goes on from it for free.
    let wave: number[] = [moveKind.press]
    let visited = 0
    steps[moveKind.press] = 1
    for (let now = 1; wave.length > 0; now++) {
      const ahead: number[] = []
      while (wave.length > 0) {
        const at = wave.pop()!
        if (steps[at] !== now) continue
        if (++visited % 4096 === 0) yield
        const last = at % 3
        const node = (at - last) / 3
        if (node >= search.expanded) continue
        const end = search.endEdge(node)
        for (let edge = search.firstEdge(node); edge < end; edge++) {
          const kind = search.kind(edge)
          const next = 3 * search.target(edge) + kind
          const free = kind === last && kind !== moveKind.press
          const cost = free ? now : now + 1
          if (steps[next] !== 0 && steps[next]! <= cost) continue
          steps[next] = cost
          this.#before[next] = at
          if (free) wave.push(next)
          else ahead.push(next)
        }
      }
      wave = ahead
    }
  }
}
