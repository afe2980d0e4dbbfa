import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import { escapesFrom } from './escapes.ts'
import type { Point } from './geometry.ts'
import { cellAt, type Grid, middleOf } from './grid.ts'
import type { Ground } from './ground.ts'
import { certainCores, homeless, type Homes, homesOf, nowhere } from './homes.ts'
import type { Layout } from './layout.ts'
import type { Patch } from './patch.ts'
import { Joined, manyCells, Nodes, touchingCells } from './nodes.ts'
import { differing, type Signature } from './alternatives.ts'
import { signatureAt, signatureCells, Signatures } from './signatures.ts'

/** The ground of one character, cut into patches. */
export interface Patches {
  readonly grid: Grid
  readonly patches: readonly Patch[]
  /** For each patch, those that one may step into from it, ascending: one zone or body apart, or none. */
  readonly beside: readonly (readonly number[])[]
  /** For each cell, the sure patch that it wholly lies in; -1 where it lies in none. */
  readonly sureAt: Int32Array
  /** For each patch its outermost cells of those that lie wholly in it. */
  readonly rims: readonly (readonly number[])[]
  /** For cells that lie wholly in no patch: the firm patches whose standing spots are in them. */
  readonly thinAt: ReadonlyMap<number, readonly number[]>
  /**
   * Too many things meet at one spot to tell all patches apart, or the level is too large for cells that are small
   * enough: what is not found may be there all the same.
   */
  readonly tooCoarse: boolean
  /** The patch of an exact spot; -1 where nobody can stand. */
  readonly patchAt: (p: Point) => number
  /** The patch of a spot in whose cell some signature may be so; -1 where it may not. */
  readonly patchOf: (p: Point, signature: Signature) => number
  /** Spots that hold the parts of a patch together where it is narrow: from each to some other one walks straight. */
  readonly spotsOf: (patch: number) => readonly Point[]
  /** The patches that some spot of a cell may belong to. */
  readonly patchesIn: (cell: number) => readonly number[]
  /**
   * The ways off a patch that is not sure: for each part of it the sure patches into which everybody who stands in that
   * part can walk, crossing one border at the most. Empty for a sure patch; a part that nobody can surely leave has none.
   */
  readonly escapes: (patch: number) => readonly (readonly number[])[]
}

/** Cuts the ground of a character into patches. Yields every few milliseconds. */
export function* cutPatches(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
): Generator<undefined, Patches> {
  const signatures = new Signatures()
  const { cells, facts, sightings, mets, tooCoarse } = yield* signatureCells(
    expanded,
    layout,
    character,
    grid,
    signatures,
  )
  const nodes = yield* Nodes.of(cells)
  const terrain = { layout, character, grid, facts, sightings, mets }
  const ground: Ground = { terrain, signatures, nodes }
  const cores = yield* certainCores(ground)
  const homes = yield* homesOf(ground, cores)
  const joined = yield* joinedNodes(ground, homes)
  const { numbers, count } = yield* numbered(nodes, homes, joined)
  const sureAt = new Int32Array(cores.at.length).fill(-1)
  for (let cell = 0; cell < sureAt.length; cell++) if (cores.at[cell]! >= 0) sureAt[cell] = numbers[cores.at[cell]!]!
  yield
  const patches = yield* describe(ground, homes, numbers, sureAt, cores.depth)
  const thinAt = new Map<number, number[]>()
  for (const { index, spot, firm } of patches) {
    const cell = cellAt(grid, spot)
    if (firm && sureAt[cell] !== index) thinAt.set(cell, [...(thinAt.get(cell) ?? []), index])
  }
  const unsure = new Map<number, number[]>()
  for (const { index, sure } of patches) if (!sure) unsure.set(index, [])
  for (const [node, patch] of numbers.entries()) unsure.get(patch)?.push(node)
  yield
  const beside = yield* neighbours(ground, numbers, patches)
  const patchOf = (p: Point, signature: Signature): number => {
    const cell = cellAt(grid, p)
    const node = cell < 0 ? -1 : nodes.find(cell, signatures.find(signature))
    return node < 0 ? -1 : numbers[node]!
  }
  const known = new Map<number, readonly (readonly number[])[]>()
  return {
    grid,
    patches,
    beside,
    sureAt,
    rims: rimsOf(sureAt, cores.depth, count),
    thinAt,
    // Cells wider than a third of the width of the character could join what a thin wall parts.
    tooCoarse: tooCoarse || grid.size > (2 * character.radius) / 3 + 1e-9,
    patchOf,
    patchAt: (p) => (cellAt(grid, p) < 0 ? -1 : patchOf(p, signatureAt(expanded, layout, character, p))),
    spotsOf: (patch) =>
      [...homes.spots].flatMap(([node, spot]) => (numbers[homes.fromSpot.get(node)!] === patch ? [spot] : [])),
    patchesIn: (cell) =>
      (cells[cell] ?? []).map((_, i) => numbers[nodes.first[cell]! + i]!).filter((patch) => patch >= 0),
    escapes: (patch) => {
      const ways =
        known.get(patch) ??
        escapesFrom({ ...ground, numbers, patches, sureAt, depth: cores.depth, unsure, homes }, patch)
      known.set(patch, ways)
      return ways
    },
  }
}

/** Joins nodes that have the same home; and those that have none, where they touch and have the same signature. */
function* joinedNodes({ terrain: { grid }, nodes }: Ground, { of: homes }: Homes): Generator<undefined, Joined> {
  const joined = new Joined(nodes.count)
  for (let node = 0; node < nodes.count; node++) if (homes[node]! >= 0) joined.join(node, homes[node]!)
  yield
  yield* touchingCells(grid, (cell, next) => {
    const own = nodes.cells[cell]
    const others = nodes.cells[next]
    if (!own || !others) return
    for (let i = 0; i < own.length; i++) {
      const node = nodes.first[cell]! + i
      if (homes[node] !== homeless) continue
      const other = nodes.find(next, own[i]!)
      if (other >= 0 && homes[other] === homeless) joined.join(node, other)
    }
  })
  return joined
}

/** Numbers sets of nodes in the order of their first cells; by node, -1 where no spot is as it says. */
function* numbered(
  nodes: Nodes,
  { of: homes }: Homes,
  joined: Joined,
): Generator<undefined, { numbers: Int32Array; count: number }> {
  const numbers = new Int32Array(nodes.count).fill(-1)
  let count = 0
  for (let node = 0; node < nodes.count; node++) {
    if (node % (16 * manyCells) === 0) yield
    if (homes[node] === nowhere) continue
    const root = joined.root(node)
    if (numbers[root] === -1) numbers[root] = count++
    numbers[node] = numbers[root]!
  }
  return { numbers, count }
}

function* describe(
  { nodes, signatures, terrain: { grid } }: Ground,
  { of: homes, spots }: Homes,
  numbers: Int32Array,
  sureAt: Int32Array,
  depth: Int32Array,
): Generator<undefined, Patch[]> {
  const best: { node: number; deep: number; cells: number }[] = []
  for (let node = 0; node < nodes.count; node++) {
    if (node % (16 * manyCells) === 0) yield
    const patch = numbers[node]!
    if (patch < 0) continue
    const cell = nodes.cellOf[node]!
    // The deepest cell; else the first with a spot; else the first.
    const deep = sureAt[cell] === patch ? depth[cell]! + 1 : spots.has(node) ? 1 : 0
    const before = best[patch]
    if (!before) best[patch] = { node, deep, cells: 1 }
    else {
      before.cells++
      if (deep > before.deep) Object.assign(before, { node, deep })
    }
  }
  return best.map(({ node, deep, cells }, index): Patch => {
    const middle = middleOf(grid, nodes.cellOf[node]!)
    const spot = deep === 1 ? spots.get(node)! : middle
    return {
      index,
      signature: signatures.all[nodes.signatureOf(node)]!,
      firm: deep > 0,
      sure: deep > 0 && homes[node]! >= 0,
      spot,
      cells,
    }
  })
}

function rimsOf(sureAt: Int32Array, depth: Int32Array, count: number): number[][] {
  const rims: number[][] = Array.from({ length: count }, () => [])
  for (let cell = 0; cell < depth.length; cell++) if (depth[cell] === 1) rims[sureAt[cell]!]!.push(cell)
  return rims
}

/**
 * The patches beside each other, from the ground: those that have parts in one cell, and those that have parts in cells
 * that touch.
 *
 * A character that walks from one cell into the next passes a spot that both have, so some signature of the one is a signature of the other
 * too. In every cell all combinations of what is uncertain in it have their nodes. So each walk can be told as steps
 * that change at most one zone or body within one cell, and steps between nodes of the same signature in two cells.
 * Where two cells share no signature, which then cannot be, all that they may be is beside all the same.
 */
function* neighbours(
  { terrain: { grid }, nodes }: Ground,
  numbers: Int32Array,
  patches: readonly Patch[],
): Generator<undefined, number[][]> {
  const beside = patches.map(() => new Set<number>())
  const add = (one: number, other: number): void => {
    if (one < 0 || other < 0 || one === other || beside[one]!.has(other)) return
    beside[one]!.add(other)
    beside[other]!.add(one)
  }
  for (let cell = 0; cell < nodes.cells.length; cell++) {
    if (cell % (16 * manyCells) === 0) yield
    const own = nodes.cells[cell]
    if (!own || own.length < 2) continue
    const first = nodes.first[cell]!
    for (let i = 0; i < own.length; i++) {
      const one = numbers[first + i]!
      if (one < 0) continue
      for (let j = i + 1; j < own.length; j++) {
        const other = numbers[first + j]!
        if (other >= 0 && oneApart(patches[one]!.signature, patches[other]!.signature)) add(one, other)
      }
    }
  }
  yield
  yield* touchingCells(grid, (cell, next) => {
    const own = nodes.cells[cell]
    const others = nodes.cells[next]
    if (!own || !others) return
    const [first, second] = [nodes.first[cell]!, nodes.first[next]!]
    if (own.length === 1 && others.length === 1 && numbers[first] === numbers[second]) return
    let isShared = false
    for (let i = 0; i < own.length; i++) {
      const j = others.indexOf(own[i]!)
      if (j < 0) continue
      isShared = true
      add(numbers[first + i]!, numbers[second + j]!)
    }
    if (isShared) return
    for (let i = 0; i < own.length; i++)
      for (let j = 0; j < others.length; j++) add(numbers[first + i]!, numbers[second + j]!)
  })
  return beside.map((set) => [...set].sort((a, b) => a - b))
}

function oneApart(one: Signature, other: Signature): boolean {
  return differing(one.zones, other.zones) + differing(one.bodies, other.bodies) <= 1
}
