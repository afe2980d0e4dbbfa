import { type Disc, discOf, isClearWalk } from './clear-walk.ts'
import { clearEnd, eachNear, endsNear, isNear, tries } from './ends.ts'
import type { Point } from './geometry.ts'
import { type Grid, middleOf, standing } from './grid.ts'
import type { Ground } from './ground.ts'
import { Joined, manyCells, touchingCells } from './nodes.ts'
import { Parts } from './parts.ts'
import { differing } from './alternatives.ts'

/** The cells that have one signature for certain and room all over, and how deep inside of their likes they lie. */
export interface Cores {
  /** For each such cell, the first node of all that hang together with it; -1 for the others. */
  readonly at: Int32Array
  /** For each such cell its signature; -1 for the others. */
  readonly signatures: Int32Array
  /** For each such cell, how many steps it is from the border of its core, corners included; 0 for the others. */
  readonly depth: Int32Array
}

/** Joins cells that touch, where both are certain and have the same signature: one walks freely between any two spots of them. */
export function* certainCores({ terrain: { grid }, nodes }: Ground): Generator<undefined, Cores> {
  const signatures = new Int32Array(nodes.cells.length).fill(-1)
  for (let cell = 0; cell < signatures.length; cell++) {
    const own = nodes.cells[cell]
    if (own?.length === 1 && grid.stands[cell] === standing.everywhere) signatures[cell] = own[0]!
  }
  yield
  const joined = new Joined(nodes.count)
  yield* touchingCells(grid, (cell, next) => {
    if (signatures[cell]! >= 0 && signatures[cell] === signatures[next])
      joined.join(nodes.first[cell]!, nodes.first[next]!)
  })
  const at = new Int32Array(signatures.length).fill(-1)
  for (let cell = 0; cell < at.length; cell++) if (signatures[cell]! >= 0) at[cell] = joined.root(nodes.first[cell]!)
  yield
  return { at, signatures, depth: yield* depths(grid, at) }
}

/** What nodes belong to. */
export interface Homes {
  /**
   * For each node the first of all that belong together: to a core, or round a spot. -1: it belongs to none; -2: no spot
   * of its cell has its signature.
   */
  readonly of: Int32Array
  /** For nodes that have one, a spot in their cell that has their signature for certain, and some room round it. */
  readonly spots: ReadonlyMap<number, Point>
  /** For these nodes, the first node of all that one surely comes to from their spot; their own where there is none. */
  readonly fromSpot: ReadonlyMap<number, number>
}

export const [nowhere, homeless] = [-2, -1]

/**
 * What nodes belong to: to the core of their cell; or to one with the same signature to which everybody in the cell who finds
 * things so can surely walk, if need be past spots in between; or to such a spot.
 */
export function* homesOf(ground: Ground, cores: Cores): Generator<undefined, Homes> {
  const { nodes, terrain } = ground
  const homes = new Int32Array(nodes.count).fill(homeless)
  const rest: number[] = []
  /** From each cell to the end of the clear walk of its last node. */
  const offs = new Int32Array(nodes.cells.length)
  for (let node = 0; node < nodes.count; node++) {
    const cell = nodes.cellOf[node]!
    if (node % 256 === 0) yield
    if (cores.at[cell]! >= 0) {
      homes[node] = cores.at[cell]!
      continue
    }
    const signature = nodes.signatureOf(node)
    const isAlike = (one: number): boolean => cores.signatures[one] === signature
    const disc = discOf(terrain.grid, cell)
    // Along a wall or a border the way off it is mostly the same.
    const west = cell + (offs[cell - 1] ?? 0)
    const south = cell + (offs[cell - terrain.grid.columns] ?? 0)
    const isLikely = (one: number): boolean => isAlike(one) && isNear(terrain.grid, cell, one)
    let end = isLikely(west) ? clearEnd(ground, disc, signature, [west]) : -1
    if (end < 0 && south !== west && isLikely(south)) end = clearEnd(ground, disc, signature, [south])
    if (end < 0) end = clearEnd(ground, disc, signature, endsNear(terrain.grid, cell, isAlike, cores.depth))
    if (end >= 0) {
      homes[node] = cores.at[end]!
      offs[cell] = end - cell
    } else rest.push(node)
  }
  const left = new Map<number, Parts>()
  for (const node of rest) {
    yield
    const parts = new Parts(ground, node)
    if (isNeeded(ground, homes, node) || !parts.every(() => false)) left.set(node, parts)
    else homes[node] = nowhere
  }
  return { of: homes, ...(yield* aroundSpots(ground, cores, homes, left)) }
}

/** Whether no other node of a cell has the same zones and bodies: what two borders part at one spot is told by way of it. */
function isNeeded({ nodes, signatures }: Ground, homes: Int32Array, node: number): boolean {
  const { zones, bodies } = signatures.all[nodes.signatureOf(node)]!
  const cell = nodes.cellOf[node]!
  const first = nodes.first[cell]!
  return !nodes.cells[cell]!.some((signature, i) => {
    if (first + i === node || homes[first + i] === nowhere) return false
    const other = signatures.all[signature]!
    return differing(other.zones, zones) + differing(other.bodies, bodies) === 0
  })
}

/**
 * Gives nodes a home for which there is no clear walk to a core. Each gets a spot of its own, where there is one; spots, and
 * the middles of core cells, are joined where Play walks straight from one to the other; and a node whose parts all have
 * clear walks to spots that are joined belongs to these. Gives all spots, and where they lead.
 */
function* aroundSpots(
  ground: Ground,
  cores: Cores,
  homes: Int32Array,
  left: ReadonlyMap<number, Parts>,
): Generator<undefined, Omit<Homes, 'of'>> {
  const { nodes, terrain } = ground
  const { grid } = terrain
  const spots = new Map<number, Point>()
  for (const [node, parts] of left) {
    yield
    const spot = parts.spot()
    if (spot) spots.set(node, spot)
  }
  const joined = new Joined(nodes.count)
  /** Spots with the signature of a node near it, by the nodes that stand for them. */
  const near = (node: number): [of: number, spot: Point][] => {
    const signature = nodes.signatureOf(node)
    const cell = nodes.cellOf[node]!
    const ends = endsNear(grid, cell, (one) => cores.signatures[one] === signature, cores.depth)
    const found: [number, Point][] = ends.map((end) => [cores.at[end]!, middleOf(grid, end)])
    const own = spots.get(node)
    if (own) found.push([node, own])
    eachNear(grid, cell, (next) => {
      const other = nodes.find(next, signature)
      const spot = spots.get(other)
      if (spot) found.push([other, spot])
      return found.length >= 3 * tries
    })
    return found
  }
  for (const [node, spot] of spots) {
    yield
    for (const [other, there] of near(node)) {
      if (joined.root(node) === joined.root(other)) continue
      const signature = ground.signatures.all[nodes.signatureOf(node)]!
      if (isClearWalk(terrain, { middle: spot, slack: 0 }, signature, there)) joined.join(node, other)
    }
  }
  for (const [node, parts] of left) {
    yield
    const signature = ground.signatures.all[nodes.signatureOf(node)]!
    const around = near(node)
    for (const home of new Set(around.map(([of]) => joined.root(of)))) {
      const own = around.filter(([of]) => joined.root(of) === home)
      // What one part can walk to, the next one mostly can, too.
      let last = own[0]!
      const isClear = (disc: Disc): boolean => {
        if (isClearWalk(terrain, disc, signature, last[1])) return true
        const found = own.find((one) => one !== last && isClearWalk(terrain, disc, signature, one[1]))
        last = found ?? last
        return found !== undefined
      }
      if (!parts.every(isClear)) continue
      homes[node] = home
      break
    }
  }
  // Cores that spots join are one. It is known by a node that belongs to it: the one whose spot it is need not, all over.
  const firsts = new Map<number, number>()
  for (let node = 0; node < nodes.count; node++) {
    if (homes[node]! < 0) continue
    const root = joined.root(homes[node]!)
    if (!firsts.has(root)) firsts.set(root, node)
    homes[node] = firsts.get(root)!
  }
  return { spots, fromSpot: new Map([...spots.keys()].map((node) => [node, firsts.get(joined.root(node)) ?? node])) }
}

/** For each cell of a core, how many steps it is from the border of it, corners included; 0 for other cells. */
function* depths(grid: Grid, cores: Int32Array): Generator<undefined, Int32Array> {
  const depth = new Int32Array(cores.length)
  let wave: number[] = []
  for (let cell = 0; cell < cores.length; cell++) {
    if (cell % (16 * manyCells) === 0) yield
    if (cores[cell]! < 0 || !isAtBorder(grid, cores, cell)) continue
    depth[cell] = 1
    wave.push(cell)
  }
  for (let level = 2; wave.length > 0; level++) {
    yield
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

function isAtBorder({ columns, rows }: Grid, cores: Int32Array, cell: number): boolean {
  const column = cell % columns
  if (column === 0 || column === columns - 1 || cell < columns || cell >= columns * (rows - 1)) return true
  const own = cores[cell]
  for (let dy = -columns; dy <= columns; dy += columns) {
    if (cores[cell + dy - 1] !== own || cores[cell + dy] !== own || cores[cell + dy + 1] !== own) return true
  }
  return false
}
