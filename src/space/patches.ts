import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import type { Point } from './geometry.ts'
import { cellAt, type Grid, middleOf, standing } from './grid.ts'
import { canStand, type Layout } from './layout.ts'
import { walkLeg } from './legs.ts'
import { type Sign, signAt, signCells, signKey, Signs, signWithin } from './signs.ts'
import { findWay } from './ways.ts'

/** A connected piece of ground whose spots are all alike. */
export interface Patch {
  readonly index: number
  readonly sign: Sign
  /**
   * Whether it is there for certain, with a spot to stand on, and all of it that is certain hangs together. Otherwise
   * it may not even be there.
   */
  readonly sure: boolean
  /** Where one stands in it: of a sure patch the middle of the cell farthest from its border. */
  readonly spot: Point
  /** How many cells have a part in it. */
  readonly cells: number
}

/** The ground of one character, cut into patches. */
export interface Patches {
  readonly grid: Grid
  readonly patches: readonly Patch[]
  /** For each patch, those that one can step into from it, ascending: one zone or body apart, or none. */
  readonly beside: readonly (readonly number[])[]
  /** For each cell, the sure patch that it wholly lies in; -1 where it lies in none. */
  readonly sureAt: Int32Array
  /** For each patch its outermost cells of those that lie wholly in it. */
  readonly rims: readonly (readonly number[])[]
  /** For cells that lie wholly in no patch: the sure patches whose standing spots are in them. */
  readonly thinAt: ReadonlyMap<number, readonly number[]>
  /**
   * Too many things meet at one spot to tell all patches apart, or the level is too large for cells that are small
   * enough: what is not found may be there all the same.
   */
  readonly tooCoarse: boolean
  /** The patch of an exact spot; -1 where nobody can stand. */
  readonly patchAt: (p: Point) => number
}

/** Cuts the ground of a character into patches. Yields every few milliseconds. */
export function* cutPatches(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
): Generator<undefined, Patches> {
  const signs = new Signs()
  const { cells, tooCoarse } = yield* signCells(expanded, layout, character, grid, signs)
  const nodes = new Nodes(cells)
  yield
  yield* joinAlike(grid, nodes)
  const numbers = nodes.number()
  const sureAt = Int32Array.from(cells, (own, cell) =>
    own?.length === 1 && grid.stands[cell] === standing.everywhere ? numbers[nodes.first[cell]!]! : -1,
  )
  yield
  const depth = depths(grid, sureAt)
  yield
  const described = describe(grid, nodes, numbers, sureAt, depth, signs)
  yield
  const thin = yield* thinSpots(expanded, layout, character, grid, nodes, numbers, described)
  yield
  const torn = yield* tornPatches(layout, character, grid, nodes, numbers, sureAt, described)
  yield
  const patches = described.map((patch) => ({
    ...patch,
    spot: thin.get(patch.index) ?? patch.spot,
    sure: (patch.sure || thin.has(patch.index)) && !torn.has(patch.index),
  }))
  const thinAt = new Map<number, number[]>()
  for (const [patch, spot] of thin) thinAt.set(cellAt(grid, spot), [...(thinAt.get(cellAt(grid, spot)) ?? []), patch])
  const beside = neighbours(nodes, numbers, patches)
  const patchAt = (p: Point): number => {
    const cell = cellAt(grid, p)
    const own = cell < 0 ? null : cells[cell]
    if (!own) return -1
    const number = signs.find(signAt(expanded, layout, character, p))
    const at = own.indexOf(number)
    return at < 0 ? -1 : numbers[nodes.first[cell]! + at]!
  }
  // Cells wider than a third of the girth could join what a thin wall parts.
  const isTooWide = grid.size > character.girth / 3 + 1e-9
  const rims = rimsOf(sureAt, depth, patches.length)
  return { grid, patches, beside, sureAt, rims, thinAt, tooCoarse: tooCoarse || isTooWide, patchAt }
}

/** Pairs of a cell and a sign that its spots may have, numbered cell by cell, and joined into patches. */
class Nodes {
  readonly cells: readonly (readonly number[] | null)[]
  /** The first node of each cell. */
  readonly first: Int32Array
  readonly count: number
  readonly #parent: Int32Array

  constructor(cells: readonly (readonly number[] | null)[]) {
    this.cells = cells
    this.first = new Int32Array(cells.length)
    let count = 0
    for (const [cell, own] of cells.entries()) {
      this.first[cell] = count
      count += own?.length ?? 0
    }
    this.count = count
    this.#parent = Int32Array.from({ length: count }, (_, i) => i)
  }

  root(node: number): number {
    const parent = this.#parent
    let at = node
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]!]!
      at = parent[at]!
    }
    return at
  }

  join(one: number, other: number): void {
    const [a, b] = [this.root(one), this.root(other)]
    if (a < b) this.#parent[b] = a
    else this.#parent[a] = b
  }

  /** The number of the patch of each node, counted in the order of cells. */
  number(): Int32Array {
    const numbers = new Int32Array(this.count).fill(-1)
    let next = 0
    for (let node = 0; node < this.count; node++) {
      const root = this.root(node)
      if (numbers[root] === -1) numbers[root] = next++
      numbers[node] = numbers[root]!
    }
    return numbers
  }
}

/** Between so many cells others get their turn. */
const manyCells = 4096

/** Joins neighbouring cells, corners included, where they share a sign. */
function* joinAlike(grid: Grid, nodes: Nodes): Generator<undefined, void> {
  const { columns } = grid
  for (let cell = 0; cell < nodes.cells.length; cell++) {
    if (cell % manyCells === 0) yield
    if (!nodes.cells[cell]) continue
    const column = cell % columns
    const isLast = column + 1 === columns
    if (!isLast) joinCells(nodes, cell, cell + 1)
    if (column > 0) joinCells(nodes, cell, cell + columns - 1)
    joinCells(nodes, cell, cell + columns)
    if (!isLast) joinCells(nodes, cell, cell + columns + 1)
  }
}

function joinCells(nodes: Nodes, cell: number, next: number): void {
  const own = nodes.cells[cell]!
  const other = nodes.cells[next]
  if (!other) return
  for (let i = 0; i < own.length; i++) {
    const j = other.indexOf(own[i]!)
    if (j >= 0) nodes.join(nodes.first[cell]! + i, nodes.first[next]! + j)
  }
}

function describe(
  grid: Grid,
  nodes: Nodes,
  numbers: Int32Array,
  sureAt: Int32Array,
  depth: Int32Array,
  signs: Signs,
): Patch[] {
  const best: { sign: number; cell: number; depth: number; cells: number }[] = []
  for (let cell = 0; cell < nodes.cells.length; cell++) {
    const own = nodes.cells[cell]
    if (!own) continue
    for (let i = 0; i < own.length; i++) {
      const patch = numbers[nodes.first[cell]! + i]!
      const before = (best[patch] ??= { sign: own[i]!, cell, depth: -1, cells: 0 })
      before.cells++
      const deep = sureAt[cell] === patch ? depth[cell]! : 0
      if (deep <= before.depth) continue
      before.cell = cell
      before.depth = deep
    }
  }
  return best.map(({ sign, cell, depth: deep, cells }, index) => ({
    index,
    sign: signs.all[sign]!,
    sure: deep > 0,
    spot: middleOf(grid, cell),
    cells,
  }))
}

/** How closely the cells of a thin patch are looked at: into how many parts along each side, and how many of them. */
const looks = [
  { parts: 2, cells: 300 },
  { parts: 4, cells: 100 },
  { parts: 8, cells: 40 },
] as const

/** Standing spots in patches that no cell lies wholly in, found by looking at their cells closely. */
function* thinSpots(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
  nodes: Nodes,
  numbers: Int32Array,
  patches: readonly Patch[],
): Generator<undefined, Map<number, Point>> {
  const cellsOf = new Map<number, number[]>(patches.filter(({ sure }) => !sure).map(({ index }) => [index, []]))
  for (let cell = 0; cell < nodes.cells.length && cellsOf.size > 0; cell++) {
    const own = nodes.cells[cell]
    for (let i = 0; own && i < own.length; i++) {
      const cells = cellsOf.get(numbers[nodes.first[cell]! + i]!)
      if (cells && cells.length < looks[0].cells) cells.push(cell)
    }
  }
  const spots = new Map<number, Point>()
  for (const [patch, cells] of cellsOf) {
    yield
    const key = signKey(patches[patch]!.sign)
    const isGood = (p: Point, slack: number): boolean => {
      if (!canStand(layout, p, character.girth + 2 * slack)) return false
      const sign = signWithin(expanded, layout, character, p, slack)
      return sign !== null && signKey(sign) === key
    }
    for (const look of looks) {
      yield
      const slack = grid.slack / look.parts
      const near = cells.slice(0, look.cells).flatMap((cell) => closeSpots(grid, cell, look.parts))
      const spot = near.find((p) => isGood(p, slack))
      if (!spot) continue
      spots.set(patch, spot)
      break
    }
  }
  return spots
}

function closeSpots(grid: Grid, cell: number, parts: number): Point[] {
  const [x, y] = middleOf(grid, cell)
  const offsets = Array.from({ length: parts }, (_, i) => ((i + 0.5) / parts - 0.5) * grid.size)
  return offsets.flatMap((dy) => offsets.map((dx): Point => [x + dx, y + dy]))
}

/** Patches of which some cells cannot be walked to from the standing spot without leaving the patch. */
function* tornPatches(
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
  nodes: Nodes,
  numbers: Int32Array,
  sureAt: Int32Array,
  patches: readonly Patch[],
): Generator<undefined, Set<number>> {
  const torn = new Set<number>()
  const reached = new Uint8Array(sureAt.length)
  for (const { index, sure, spot } of patches) if (sure) spread(grid, sureAt, cellAt(grid, spot), index, reached)
  for (let cell = 0; cell < sureAt.length; cell++) {
    const patch = sureAt[cell]!
    if (patch < 0 || reached[cell] === 1 || torn.has(patch)) continue
    spread(grid, sureAt, cell, patch, reached)
    yield
    if (!isWithinPatch(layout, character, grid, nodes, numbers, cell, patches[patch]!)) torn.add(patch)
  }
  return torn
}

/** Marks the cells that hang together with a cell and lie wholly in its patch. */
function spread({ columns, rows }: Grid, sureAt: Int32Array, start: number, patch: number, reached: Uint8Array): void {
  const queue = [start]
  reached[start] = 1
  for (let cell = queue.pop(); cell !== undefined; cell = queue.pop()) {
    const column = cell % columns
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const next = cell + dy * columns + dx
        if (column + dx < 0 || column + dx >= columns || next < 0 || next >= columns * rows) continue
        if (reached[next] === 1 || sureAt[next] !== patch) continue
        reached[next] = 1
        queue.push(next)
      }
    }
  }
}

/** Whether one can walk from a cell to the standing spot of its patch without crossing a border. */
function isWithinPatch(
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
  nodes: Nodes,
  numbers: Int32Array,
  cell: number,
  patch: Patch,
): boolean {
  const isIn = (at: number): boolean =>
    (nodes.cells[at] ?? []).some((_, i) => numbers[nodes.first[at]! + i] === patch.index)
  const from = middleOf(grid, cell)
  const there = cellAt(grid, patch.spot)
  const rules = { bodies: [], girth: character.girth, risky: false, cost: (at: number) => (isIn(at) ? 0 : -1) }
  const way = findWay(layout, grid, from, (at) => at === there, rules, patch.spot)
  if (!way) return false
  return way.via.every((to, i) => {
    const leg = walkLeg(layout, way.via[i - 1] ?? from, to, character.girth, character.speed)
    return !leg.walled && leg.crossings.length === 0
  })
}

/** For each sure cell, how many steps it is from the border of its patch, corners included; 0 for other cells. */
function depths(grid: Grid, sureAt: Int32Array): Int32Array {
  const depth = new Int32Array(sureAt.length)
  let wave: number[] = []
  for (let cell = 0; cell < sureAt.length; cell++) {
    if (sureAt[cell]! < 0 || !isAtBorder(grid, sureAt, cell)) continue
    depth[cell] = 1
    wave.push(cell)
  }
  for (let level = 2; wave.length > 0; level++) {
    const ahead: number[] = []
    for (const cell of wave) {
      // A cell that has no depth yet is not at a border: its neighbours are all inside the grid, as this one's are.
      for (let dy = -grid.columns; dy <= grid.columns; dy += grid.columns) {
        for (let next = cell + dy - 1; next <= cell + dy + 1; next++) {
          if (depth[next] !== 0 || !(sureAt[next]! >= 0)) continue
          depth[next] = level
          ahead.push(next)
        }
      }
    }
    wave = ahead
  }
  return depth
}

function rimsOf(sureAt: Int32Array, depth: Int32Array, count: number): number[][] {
  const rims: number[][] = Array.from({ length: count }, () => [])
  for (let cell = 0; cell < depth.length; cell++) if (depth[cell] === 1) rims[sureAt[cell]!]!.push(cell)
  return rims
}

function isAtBorder({ columns, rows }: Grid, sureAt: Int32Array, cell: number): boolean {
  const column = cell % columns
  if (column === 0 || column === columns - 1 || cell < columns || cell >= columns * (rows - 1)) return true
  const own = sureAt[cell]
  for (let dy = -columns; dy <= columns; dy += columns) {
    if (sureAt[cell + dy - 1] !== own || sureAt[cell + dy] !== own || sureAt[cell + dy + 1] !== own) return true
  }
  return false
}

/**
 * Patches that share an uncertain cell touch. Where they differ in more than one zone or body, the patches between
 * them are there too, so that every step changes at most one.
 */
function neighbours(nodes: Nodes, numbers: Int32Array, patches: readonly Patch[]): number[][] {
  const beside = patches.map(() => new Set<number>())
  for (let cell = 0; cell < nodes.cells.length; cell++) {
    const own = nodes.cells[cell]
    if (!own || own.length < 2) continue
    for (let i = 0; i < own.length; i++) {
      const one = numbers[nodes.first[cell]! + i]!
      for (let j = i + 1; j < own.length; j++) {
        const other = numbers[nodes.first[cell]! + j]!
        if (one === other || beside[one]!.has(other)) continue
        if (!oneApart(patches[one]!.sign, patches[other]!.sign)) continue
        beside[one]!.add(other)
        beside[other]!.add(one)
      }
    }
  }
  return beside.map((set) => [...set].sort((a, b) => a - b))
}

function oneApart(one: Sign, other: Sign): boolean {
  const apart = differing(one.zones, other.zones) + differing(one.bodies, other.bodies)
  return apart <= 1
}

function differing(one: readonly number[], other: readonly number[]): number {
  return one.filter((x) => !other.includes(x)).length + other.filter((x) => !one.includes(x)).length
}
