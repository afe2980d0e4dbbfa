import { moveKind } from './moves.ts'
import type { Search } from './search.ts'
import type { TrailMove } from './trail.ts'

/** A way through a search: the situations it passes, the first one not included, and the move to each. */
export interface Route {
  readonly nodes: readonly number[]
  readonly moves: readonly TrailMove[]
}

/** The way by which a situation was first found. */
export function firstRoute(search: Search, index: number): Route {
  const nodes: number[] = []
  for (let at = index; at > 0; at = search.parents.at(at)) nodes.push(at)
  return routeOver(search, nodes.reverse())
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

  constructor(search: Search) {
    this.#search = search
    this.#steps = new Int32Array(3 * search.store.count)
    this.#before = new Int32Array(3 * search.store.count).fill(-1)
    if (search.store.count > 0) this.#run()
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

  #run(): void {
    const search = this.#search
    const steps = this.#steps
    // At the start, the last move counts as a press: nothing goes on from it for free.
    let wave: number[] = [moveKind.press]
    steps[moveKind.press] = 1
    for (let now = 1; wave.length > 0; now++) {
      const ahead: number[] = []
      while (wave.length > 0) {
        const at = wave.pop()!
        if (steps[at] !== now) continue
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
