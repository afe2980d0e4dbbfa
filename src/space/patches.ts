import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import { type Border, type Disc, discOf, isClearWalk, type Terrain } from './clear-walk.ts'
import { type Point, toSegment } from './geometry.ts'
import { cellAt, type Grid, middleOf, standing } from './grid.ts'
import { type Layout, touching } from './layout.ts'
import { walkLeg } from './legs.ts'
import { Joined, Nodes, touchingCells } from './nodes.ts'
import { type CloseLook, mayHave, type Sign, signAt, signCells, signKey, Signs, signWithin } from './signs.ts'

/** A connected piece of ground whose spots are all alike. */
export interface Patch {
  readonly index: number
  readonly sign: Sign
  /** Whether its standing spot is in it for certain. Otherwise it may not even be there. */
  readonly firm: boolean
  /** Whether, besides, everybody in it can for certain walk to the standing spot without crossing a border. */
  readonly sure: boolean
  /** Where one stands in it: the middle of the cell farthest from its border, or else some spot. */
  readonly spot: Point
  /** How many cells have a part in it. */
  readonly cells: number
}

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
  /** The patch of a spot in whose cell some sign may be so; -1 where it may not. */
  readonly patchOf: (p: Point, sign: Sign) => number
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
  const signs = new Signs()
  const { cells, facts, sightings, tooCoarse } = yield* signCells(expanded, layout, character, grid, signs)
  const nodes = new Nodes(cells)
  yield
  const terrain = { layout, character, grid, facts, sightings }
  const ground: Ground = { terrain, signs, nodes }
  const cores = yield* certainCores(ground)
  const homes = yield* homesOf(ground, cores)
  const joined = yield* joinedNodes(ground, homes)
  const { numbers, count } = numbered(nodes, homes, joined)
  const sureAt = Int32Array.from(cores.at, (node) => (node < 0 ? -1 : numbers[joined.root(node)]!))
  yield
  const patches = describe(ground, homes, numbers, sureAt, cores.depth)
  const thinAt = new Map<number, number[]>()
  for (const { index, spot, firm } of patches) {
    const cell = cellAt(grid, spot)
    if (firm && sureAt[cell] !== index) thinAt.set(cell, [...(thinAt.get(cell) ?? []), index])
  }
  const beside = yield* neighbours(ground, numbers, patches)
  const patchOf = (p: Point, sign: Sign): number => {
    const cell = cellAt(grid, p)
    const node = cell < 0 ? -1 : nodes.find(cell, signs.find(sign))
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
    // Cells wider than a third of the girth could join what a thin wall parts.
    tooCoarse: tooCoarse || grid.size > character.girth / 3 + 1e-9,
    patchOf,
    patchAt: (p) => (cellAt(grid, p) < 0 ? -1 : patchOf(p, signAt(expanded, layout, character, p))),
    patchesIn: (cell) => (cells[cell] ?? []).map((_, i) => numbers[nodes.first[cell]! + i]!).filter((patch) => patch >= 0),
    escapes: (patch) => {
      const ways = known.get(patch) ?? escapesFrom({ ...ground, numbers, patches, sureAt, depth: cores.depth }, patch)
      known.set(patch, ways)
      return ways
    },
  }
}

/** What patches are made of: cells, the signs that their spots may have, and what is near them. */
interface Ground {
  readonly terrain: Terrain & CloseLook
  readonly signs: Signs
  readonly nodes: Nodes
}

/** The cells that have one sign for certain and room all over, and how deep inside of their likes they lie. */
interface Cores {
  /** For each such cell, the first node of all that hang together with it; -1 for the others. */
  readonly at: Int32Array
  /** For each such cell, how many steps it is from the border of its core, corners included; 0 for the others. */
  readonly depth: Int32Array
}

/** Joins cells that touch, where both are certain and have the same sign: one walks freely between any two spots of them. */
function* certainCores({ terrain: { grid }, nodes }: Ground): Generator<undefined, Cores> {
  const signAtCell = Int32Array.from(nodes.cells, (own, cell) =>
    own?.length === 1 && grid.stands[cell] === standing.everywhere ? own[0]! : -1,
  )
  yield
  const joined = new Joined(nodes.count)
  yield* touchingCells(grid, (cell, next) => {
    if (signAtCell[cell]! >= 0 && signAtCell[cell] === signAtCell[next])
      joined.join(nodes.first[cell]!, nodes.first[next]!)
  })
  const at = signAtCell.map((sign, cell) => (sign < 0 ? -1 : joined.root(nodes.first[cell]!)))
  yield
  return { at, depth: depths(grid, at) }
}

/** What nodes belong to. */
interface Homes {
  /**
   * For each node the node that stands for all that belong together: of those that belong to a core its first, of those
   * round a spot the one whose spot it is. -1: it belongs to none; -2: no spot of its cell has its sign.
   */
  readonly of: Int32Array
  /** For nodes that have one, a spot in their cell that has their sign for certain, and some room round it. */
  readonly spots: ReadonlyMap<number, Point>
}

const [nowhere, homeless] = [-2, -1]

/**
 * What nodes belong to: to the core of their cell; or to one with the same sign to which everybody in the cell who finds
 * things so can surely walk, if need be past spots in between; or to such a spot.
 */
function* homesOf(ground: Ground, cores: Cores): Generator<undefined, Homes> {
  const { nodes, terrain } = ground
  const homes = new Int32Array(nodes.count).fill(homeless)
  const rest: number[] = []
  for (let node = 0; node < nodes.count; node++) {
    const cell = nodes.cellOf[node]!
    if (cores.at[cell]! >= 0) {
      homes[node] = cores.at[cell]!
      continue
    }
    if (node % 64 === 0) yield
    const sign = nodes.signOf(node)
    const ends = endsNear(terrain.grid, cell, isCoreOf(ground, cores, sign), cores.depth)
    const end = clearEnd(ground, discOf(terrain.grid, cell), sign, ends)
    if (end >= 0) homes[node] = cores.at[end]!
    else rest.push(node)
  }
  const left: number[] = []
  for (const node of rest) {
    yield
    if (isNeeded(ground, homes, node) || !eachPart(ground, node, mostHalvings, () => false)) left.push(node)
    else homes[node] = nowhere
  }
  return { of: homes, spots: yield* aroundSpots(ground, cores, homes, left) }
}

function isCoreOf({ nodes }: Ground, cores: Cores, sign: number): (cell: number) => boolean {
  return (cell) => cores.at[cell]! >= 0 && nodes.signOf(cores.at[cell]!) === sign
}

/** Whether no other node of a cell has the same zones and bodies: what two borders part at one spot is told by way of it. */
function isNeeded({ nodes, signs }: Ground, homes: Int32Array, node: number): boolean {
  const { zones, bodies } = signs.all[nodes.signOf(node)]!
  const cell = nodes.cellOf[node]!
  const first = nodes.first[cell]!
  return !nodes.cells[cell]!.some((sign, i) => {
    if (first + i === node || homes[first + i] === nowhere) return false
    const other = signs.all[sign]!
    return differing(other.zones, zones) + differing(other.bodies, bodies) === 0
  })
}

/**
 * Gives nodes a home for which there is no clear walk to a core. Each gets a spot of its own, where there is one; spots, and
 * the middles of core cells, are joined where Play walks straight from one to the other; and a node whose parts all have
 * clear walks to spots that are joined belongs to these. Gives all spots.
 */
function* aroundSpots(
  ground: Ground,
  cores: Cores,
  homes: Int32Array,
  left: readonly number[],
): Generator<undefined, Map<number, Point>> {
  const { nodes, terrain } = ground
  const { grid } = terrain
  const spots = new Map<number, Point>()
  for (const node of left) {
    yield
    const spot = spotOf(ground, node)
    if (spot) spots.set(node, spot)
  }
  const joined = new Joined(nodes.count)
  /** Spots with the sign of a node near it, by the nodes that stand for them. */
  const near = (node: number): [of: number, spot: Point][] => {
    const sign = nodes.signOf(node)
    const cell = nodes.cellOf[node]!
    const ends = endsNear(grid, cell, isCoreOf(ground, cores, sign), cores.depth)
    const found: [number, Point][] = ends.map((end) => [cores.at[end]!, middleOf(grid, end)])
    const own = spots.get(node)
    if (own) found.push([node, own])
    eachNear(grid, cell, (next) => {
      const other = nodes.find(next, sign)
      const spot = spots.get(other)
      if (spot && found.length < 3 * tries) found.push([other, spot])
    })
    return found
  }
  for (const [node, spot] of spots) {
    yield
    for (const [other, there] of near(node)) {
      if (joined.root(node) !== joined.root(other) && isPlainLeg(terrain, spot, there)) joined.join(node, other)
    }
  }
  for (const node of left) {
    yield
    const sign = ground.signs.all[nodes.signOf(node)]!
    const around = near(node)
    for (const home of new Set(around.map(([of]) => joined.root(of)))) {
      const own = around.filter(([of]) => joined.root(of) === home)
      const isClear = (disc: Disc): boolean => own.some(([, spot]) => isClearWalk(terrain, disc, sign, spot))
      if (!eachPart(ground, node, mostHalvings, isClear)) continue
      homes[node] = home
      break
    }
  }
  // Cores that spots join are one.
  for (let node = 0; node < nodes.count; node++) if (homes[node]! >= 0) homes[node] = joined.root(homes[node]!)
  return spots
}

/** How closely a cell is looked at for a spot: into how many parts along each side. */
const looks = [2, 4, 8]

/** A spot in the cell of a node that has its sign for certain, and some room round it; null where none was found. */
function spotOf({ nodes, signs, terrain }: Ground, node: number): Point | null {
  const { grid } = terrain
  const cell = nodes.cellOf[node]!
  const key = signKey(signs.all[nodes.signOf(node)]!)
  for (const parts of looks) {
    const slack = grid.slack / parts
    const spot = closeSpots(grid, cell, parts).find((p) => {
      if (!hasRoom(terrain, cell, p, slack)) return false
      const there = signWithin(terrain, cell, p, slack)
      return there !== null && signKey(there) === key
    })
    if (spot) return spot
  }
  return null
}

/** Whether Play walks straight from one spot to another without coming to a wall or crossing a border. */
function isPlainLeg({ layout, character }: Terrain, from: Point, to: Point): boolean {
  const leg = walkLeg(layout, from, to, character.girth, character.speed)
  return !leg.walled && leg.crossings.length === 0
}

/** How many cells off one looks for an end of a clear walk, and how many ends are tried. */
const [farthest, tries] = [4, 5]

/** Cells round another, by the distance between their middles; nearest first. */
const around: readonly (readonly [dx: number, dy: number])[] = Array.from(
  { length: (2 * farthest + 1) ** 2 },
  (_, i): readonly [number, number] => [
    (i % (2 * farthest + 1)) - farthest,
    Math.floor(i / (2 * farthest + 1)) - farthest,
  ],
)
  .filter(([dx, dy]) => dx !== 0 || dy !== 0)
  .sort((a, b) => a[0] * a[0] + a[1] * a[1] - (b[0] * b[0] + b[1] * b[1]) || a[1] - b[1] || a[0] - b[0])

/** Visits the cells near another, nearest first. */
function eachNear({ columns, rows }: Grid, cell: number, visit: (next: number) => void): void {
  const column = cell % columns
  const row = (cell - column) / columns
  for (const [dx, dy] of around) {
    const [x, y] = [column + dx, row + dy]
    if (x >= 0 && y >= 0 && x < columns && y < rows) visit(y * columns + x)
  }
}

/** Cells near another in which a clear walk may well end: those deepest inside, of them the nearest. */
function endsNear(grid: Grid, cell: number, isAlike: (cell: number) => boolean, depth: Int32Array): number[] {
  const best: number[] = []
  eachNear(grid, cell, (next) => {
    if (!isAlike(next)) return
    let at = best.length
    while (at > 0 && depth[best[at - 1]!]! < depth[next]!) at--
    if (at >= tries) return
    best.splice(at, 0, next)
    if (best.length > tries) best.pop()
  })
  return best
}

/** The first of some cells to whose middle a walk is clear from everywhere in a disc where a sign is so; -1: none. */
function clearEnd(
  { terrain, signs }: Ground,
  disc: Disc,
  sign: number,
  ends: readonly number[],
  crossed: Border | null = null,
): number {
  for (const end of ends) {
    if (isClearWalk(terrain, disc, signs.all[sign]!, middleOf(terrain.grid, end), crossed)) return end
  }
  return -1
}

/** Joins nodes that have the same home; and those that have none, where they touch and have the same sign. */
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
function numbered(nodes: Nodes, { of: homes }: Homes, joined: Joined): { numbers: Int32Array; count: number } {
  const numbers = new Int32Array(nodes.count).fill(-1)
  let count = 0
  for (let node = 0; node < nodes.count; node++) {
    if (homes[node] === nowhere) continue
    const root = joined.root(node)
    if (numbers[root] === -1) numbers[root] = count++
    numbers[node] = numbers[root]!
  }
  return { numbers, count }
}

function describe(
  { nodes, signs, terrain: { grid } }: Ground,
  { of: homes, spots }: Homes,
  numbers: Int32Array,
  sureAt: Int32Array,
  depth: Int32Array,
): Patch[] {
  const best: { node: number; deep: number; cells: number }[] = []
  for (let node = 0; node < nodes.count; node++) {
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
    return { index, sign: signs.all[nodes.signOf(node)]!, firm: deep > 0, sure: deep > 0 && homes[node]! >= 0, spot, cells }
  })
}

function closeSpots(grid: Grid, cell: number, parts: number): Point[] {
  const [x, y] = middleOf(grid, cell)
  const offsets = Array.from({ length: parts }, (_, i) => ((i + 0.5) / parts - 0.5) * grid.size)
  return offsets.flatMap((dy) => offsets.map((dx): Point => [x + dx, y + dy]))
}

/** How often the parts of a cell are halved to look closely. */
const mostHalvings = 3

/**
 * Whether something is so of a cell, or else of all parts of it in which the sign of a node may be so for somebody; parts
 * of which it is not are looked at closer, halved at most so often.
 */
function eachPart(ground: Ground, node: number, most: number, isSo: (disc: Disc) => boolean): boolean {
  const { terrain, signs, nodes } = ground
  const { grid } = terrain
  const cell = nodes.cellOf[node]!
  const sign = signs.all[nodes.signOf(node)]!
  const look = (middle: Point, size: number, halvings: number): boolean => {
    const slack = (grid.slack * size) / grid.size
    if (halvings > 0) {
      if (!hasRoom(terrain, cell, middle, -slack)) return true
      if (!mayHave(terrain, cell, middle, slack, sign)) return true
    }
    if (isSo({ middle, slack })) return true
    if (halvings === most) return false
    const quarter = size / 4
    for (const dy of [-quarter, quarter])
      for (const dx of [-quarter, quarter])
        if (!look([middle[0] + dx, middle[1] + dy], size / 2, halvings + 1)) return false
    return true
  }
  return look(middleOf(grid, cell), grid.size, 0)
}

/**
 * Whether there is room for a character at a spot in a cell, and so much more all round, in metres. Of a spot of the cell
 * no wall parts its middle, which is on the ground: it would be too near for anybody to stand.
 */
function hasRoom({ layout, character, grid }: Terrain, cell: number, p: Point, more: number): boolean {
  const room = character.girth / 2 - touching + more
  return (grid.walls[cell] ?? []).every((wall) => toSegment(p, layout.walls[wall]!) >= room)
}

/** A ground that has been cut. */
interface Cut extends Ground {
  /** The patch of each node. */
  readonly numbers: Int32Array
  readonly patches: readonly Patch[]
  readonly sureAt: Int32Array
  readonly depth: Int32Array
}

/** See `Patches.escapes`. */
function escapesFrom(cut: Cut, patch: number): (readonly number[])[] {
  const { nodes, numbers, patches, terrain } = cut
  if (patches[patch]!.sure) return []
  const smallest = terrain.grid.slack / 2 ** mostHalvings + 1e-12
  const ways = new Map<string, readonly number[]>()
  for (let node = 0; node < nodes.count; node++) {
    if (numbers[node] !== patch) continue
    const targets = surePatchesNear(cut, node)
    // Each part of the cell may be left to another side.
    eachPart(cut, node, mostHalvings, (disc) => {
      const clear = targets.filter((to) => isClearInto(cut, disc, node, to))
      if (clear.length === 0 && disc.slack > smallest) return false
      ways.set(clear.join(), clear)
      return true
    })
  }
  return [...ways.values()]
}

/** The sure patches near a node that are one border apart from it, at the most. */
function surePatchesNear({ terrain, nodes, numbers, sureAt, patches }: Cut, node: number): number[] {
  const { sign } = patches[numbers[node]!]!
  const found = new Set<number>()
  eachNear(terrain.grid, nodes.cellOf[node]!, (next) => {
    const to = sureAt[next]!
    if (to >= 0 && leavable(sign, patches[to]!.sign) !== undefined) found.add(to)
  })
  return [...found]
}

/** The border between two signs that somebody who leaves one for the other crosses; undefined where that cannot be told. */
function leavable(from: Sign, to: Sign): Border | null | undefined {
  const zones = [...only(from.zones, to.zones), ...only(to.zones, from.zones)]
  const left = only(from.bodies, to.bodies)
  if (only(to.bodies, from.bodies).length > 0 || zones.length + left.length > 1) return undefined
  if (zones[0] !== undefined) return { kind: 'zone', index: zones[0] }
  return left[0] === undefined ? null : { kind: 'body', index: left[0] }
}

function isClearInto(cut: Cut, disc: Disc, node: number, to: number): boolean {
  const { terrain, nodes, numbers, sureAt, depth, patches } = cut
  const crossed = leavable(patches[numbers[node]!]!.sign, patches[to]!.sign)
  const ends = endsNear(terrain.grid, nodes.cellOf[node]!, (next) => sureAt[next] === to, depth)
  return clearEnd(cut, disc, nodes.signOf(node), ends, crossed) >= 0
}

/** For each cell of a core, how many steps it is from the border of it, corners included; 0 for other cells. */
function depths(grid: Grid, cores: Int32Array): Int32Array {
  const depth = new Int32Array(cores.length)
  let wave: number[] = []
  for (let cell = 0; cell < cores.length; cell++) {
    if (cores[cell]! < 0 || !isAtBorder(grid, cores, cell)) continue
    depth[cell] = 1
    wave.push(cell)
  }
  for (let level = 2; wave.length > 0; level++) {
    const ahead: number[] = []
    for (const cell of wave) {
      // A cell that has no depth yet is not at a border: its neighbours are all inside the grid, as this one's are.
      for (let dy = -grid.columns; dy <= grid.columns; dy += grid.columns) {
        for (let next = cell + dy - 1; next <= cell + dy + 1; next++) {
          if (depth[next] !== 0 || !(cores[next]! >= 0)) continue
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

function isAtBorder({ columns, rows }: Grid, cores: Int32Array, cell: number): boolean {
  const column = cell % columns
  if (column === 0 || column === columns - 1 || cell < columns || cell >= columns * (rows - 1)) return true
  const own = cores[cell]
  for (let dy = -columns; dy <= columns; dy += columns) {
    if (cores[cell + dy - 1] !== own || cores[cell + dy] !== own || cores[cell + dy + 1] !== own) return true
  }
  return false
}

/**
 * The patches beside each other, from the ground: those that have parts in one cell, and those that have parts in cells
 * that touch.
 *
 * Whoever walks from one cell into the next passes a spot that both have, so some sign of the one is a sign of the other
 * too. In every cell all combinations of what is uncertain in it have their nodes. So each walk can be told as steps
 * that change at most one zone or body within one cell, and steps between nodes of the same sign in two cells.
 * Where two cells share no sign, which then cannot be, all that they may be is beside all the same.
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
    const own = nodes.cells[cell]
    if (!own || own.length < 2) continue
    const first = nodes.first[cell]!
    for (let i = 0; i < own.length; i++) {
      const one = numbers[first + i]!
      if (one < 0) continue
      for (let j = i + 1; j < own.length; j++) {
        const other = numbers[first + j]!
        if (other >= 0 && oneApart(patches[one]!.sign, patches[other]!.sign)) add(one, other)
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

function oneApart(one: Sign, other: Sign): boolean {
  return differing(one.zones, other.zones) + differing(one.bodies, other.bodies) <= 1
}

/** How many are in one of two lists only. */
export function differing(one: readonly number[], other: readonly number[]): number {
  return only(one, other).length + only(other, one).length
}

function only(one: readonly number[], other: readonly number[]): number[] {
  return one.filter((x) => !other.includes(x))
}
