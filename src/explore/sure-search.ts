import FlatQueue from 'flatqueue'
import { isAtRest, loosen } from './successors.ts'
import { Bits, Store } from './store.ts'
import type { SureMoves } from './sure.ts'
import type { TrailMove } from './trail.ts'

/** What a trail was looking for: asked for each situation that a sure move leads to. */
export type IsFound = (
  regs: Int32Array,
  patch: number,
  held: number,
  taken: readonly number[],
  atRest: boolean,
) => boolean

/** How a search for a trail ended. */
export type TrailEnd = { readonly moves: readonly TrailMove[] } | 'none' | 'gave-up'

/** How far trails are looked for. */
export interface TrailLimits {
  readonly situations: number
  /** Whether waiting goes on to what falls due next, and not tick by tick. */
  readonly patient: boolean
  /** Whether situations at rest, other than the first, are not gone on from. */
  readonly stopAtRest: boolean
  /** Whether walks may go on past a patch (no): see `Space.strides`. */
  readonly strides?: boolean
  /** The most situations that are gone on from of those that differ only in how long things still run; else all. */
  readonly alike?: number
}

/** Looks, breadth first, for sure moves that lead from one situation to what `isFound` names. */
export function* findTrail(
  sure: SureMoves,
  regs: Int32Array,
  patch: number,
  isFound: IsFound,
  limits: TrailLimits,
): Generator<undefined, TrailEnd> {
  const { packing, stage } = sure
  const store = new Store(packing.words, packing.patchMask)
  const key = new Int32Array(packing.words)
  const from: { readonly before: number; readonly move: TrailMove | null }[] = []
  const stops = new Bits(limits.situations + 64)
  const { alike = Infinity } = limits
  const kinds = new Store(packing.words, packing.patchMask)
  const ofKind: number[] = []
  /** Whether there are enough that differ from this only in how long things still run. */
  const isPlenty = (after: Int32Array, on: number): boolean => {
    if (alike === Infinity) return false
    packing.pack(loosen(stage.tables, after.slice()), on, key, 0)
    const kind = kinds.add(key)
    ofKind[kind] = (ofKind[kind] ?? 0) + 1
    return ofKind[kind] > alike
  }
  const add = (after: Int32Array, on: number, before: number, move: TrailMove | null): boolean => {
    packing.pack(after, on, key, 0)
    const index = store.add(key)
    if (index < from.length) return false
    from.push({ before, move })
    return true
  }
  add(regs, patch, -1, null)
  const here = new Int32Array(regs.length)
  let found: { before: number; move: TrailMove } | null = null
  for (let index = 0; index < store.count && !found; index++) {
    if (store.count > limits.situations) return 'gave-up'
    if (index % 64 === 63) yield
    if (index > 0 && stops.has(index)) continue
    store.read(index, key)
    const on = packing.unpack(key, 0, here)
    sure.each(
      here,
      on,
      limits.patient,
      (after, to, { kind, what, patch: there, ms, held, taken }) => {
        if (found) return
        const move = { kind, what, patch: there, ms }
        const atRest = isAtRest(stage.tables, after)
        if (isFound(after, to, held, taken, atRest)) found = { before: index, move }
        else if (
          !isPlenty(after, to) &&
          add(after, to, index, move) &&
          atRest &&
          limits.stopAtRest &&
          from.length - 1 < limits.situations + 64
        ) {
          stops.add(from.length - 1)
        }
      },
      limits.strides,
    )
  }
  if (!found) return 'none'
  return { moves: traced(from, found) }
}

/**
 * The sure moves that lead in the shortest time to what `isFound` names (Dijkstra 1959). Null where none do, or none are
 * found among so many situations.
 */
export function* quickestTrail(
  sure: SureMoves,
  regs: Int32Array,
  patch: number,
  isFound: IsFound,
  situations: number,
): Generator<undefined, readonly TrailMove[] | null> {
  const { packing, stage } = sure
  const store = new Store(packing.words, packing.patchMask)
  const key = new Int32Array(packing.words)
  interface Node {
    readonly situation: number
    readonly ms: number
    readonly before: number
    readonly move: TrailMove | null
    readonly isFound: boolean
  }
  const nodes: Node[] = []
  const queue = new FlatQueue()
  const add = (after: Int32Array, on: number, node: Omit<Node, 'situation'>): void => {
    packing.pack(after, on, key, 0)
    queue.push(nodes.push({ ...node, situation: store.add(key) }) - 1, node.ms)
  }
  add(regs, patch, { ms: 0, before: -1, move: null, isFound: false })
  const done = new Set<number>()
  const here = new Int32Array(regs.length)
  for (let at = queue.pop(); at !== undefined && done.size < situations; at = queue.pop()) {
    const from = at
    const node = nodes[from]!
    if (node.isFound) return traced(nodes, { before: node.before, move: node.move! })
    if (done.has(node.situation)) continue
    done.add(node.situation)
    if (done.size % 16 === 0) yield
    store.read(node.situation, key)
    const on = packing.unpack(key, 0, here)
    sure.each(here, on, true, (after, to, { kind, what, patch: there, ms, held, taken }) => {
      const isEnd = isFound(after, to, held, taken, isAtRest(stage.tables, after))
      add(after, to, { ms: node.ms + ms, before: from, move: { kind, what, patch: there, ms }, isFound: isEnd })
    })
  }
  return null
}

/** A sure move that was made, with what it led to (reused), and the trail that it ends. */
export interface Made {
  readonly regs: Int32Array
  readonly patch: number
  readonly held: number
  readonly taken: readonly number[]
  /** Whether anything stands otherwise there than it ever did before. */
  readonly isNew: boolean
  readonly trail: () => TrailMove[]
}

/**
 * Makes sure moves from one situation on, breadth first, and goes on only from what is novel: where anything stands
 * otherwise than it ever did before (with `pairs`: than it ever did while the first character was on that patch). So it comes
 * to far places of large levels, though not to all (novelty search: Lipovetzky and Geffner 2012). Ends where `isEnough`
 * says so of a move.
 */
export function* novelTrails(
  sure: SureMoves,
  regs: Int32Array,
  patch: number,
  limits: { readonly situations: number; readonly pairs: boolean },
  isEnough: (made: Made) => boolean,
): Generator<undefined, void> {
  const isNovel = noveltyOf(sure.stage.tables.at.firstClock, limits.pairs)
  interface Node {
    readonly regs: Int32Array
    readonly patch: number
    readonly before: number
    readonly move: TrailMove | null
  }
  const nodes: Node[] = [{ regs: regs.slice(), patch, before: -1, move: null }]
  isNovel(regs, patch)
  let isOver = false
  for (let index = 0; index < nodes.length && index < limits.situations && !isOver; index++) {
    yield
    const node = nodes[index]!
    sure.each(node.regs, node.patch, true, (after, to, { kind, what, patch: there, ms, held, taken }) => {
      if (isOver) return
      const move = { kind, what, patch: there, ms }
      const trail = (): TrailMove[] => traced(nodes, { before: index, move })
      const isNew = isNovel(after, to)
      isOver = isEnough({ regs: after, patch: to, held, taken, isNew, trail })
      if (isNew) nodes.push({ regs: after.slice(), patch: to, before: index, move })
    })
  }
}

/** Values of a register above this count as one. */
const mostValues = 256

/**
 * Tells of situations whether anything stands otherwise in them than in all that were asked about before; with `pairs`, than
 * in those with the first character on the same patch. Of `registers`, the first ones.
 */
function noveltyOf(registers: number, pairs: boolean): (regs: Int32Array, patch: number) => boolean {
  const byPatch = new Map<number, Uint8Array>()
  const patches = new Set<number>()
  return (regs, patch) => {
    let isNew = patches.size < patches.add(patch).size
    const context = pairs ? patch : 0
    let seen = byPatch.get(context)
    if (!seen) byPatch.set(context, (seen = new Uint8Array(registers * mostValues)))
    for (let register = 0; register < registers; register++) {
      const place = register * mostValues + Math.min(regs[register]!, mostValues - 1)
      if (seen[place] === 0) {
        seen[place] = 1
        isNew = true
      }
    }
    return isNew
  }
}

function traced(
  from: readonly { readonly before: number; readonly move: TrailMove | null }[],
  last: { readonly before: number; readonly move: TrailMove },
): TrailMove[] {
  const moves = [last.move]
  for (let at = last.before; at > 0; at = from[at]!.before) {
    const { move } = from[at]!
    if (move) moves.push(move)
  }
  return moves.reverse()
}
