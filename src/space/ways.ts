import { nearestStanding } from './closest.ts'
import { distance, type Point, toSegment } from './geometry.ts'
import { cellAt, type Grid, middleOf, standing } from './grid.ts'
import type { Layout } from './layout.ts'
import { isClear } from './legs.ts'

/** A way along the ground: its corners in order, the start not included, and its length in metres. */
export interface Way {
  readonly via: readonly Point[]
  readonly length: number
}

/** What a walk may cross, and what it would rather not. */
export interface WayRules {
  /** Bodies that must be kept clear of. */
  readonly bodies: readonly (readonly Point[])[]
  /** Extra cost of a cell, in tenths of a cell; a cell with -1 is not entered. Null: every cell costs nothing extra. */
  readonly cost: ((cell: number) => number) | null
  readonly radius: number
  /** How much room there must be in the cells that are entered: one of `standing`, above nowhere. */
  readonly room: number
}

/**
 * The shortest way over cells from a spot to the nearest of the cells that `isThere` names, straightened as far as it
 * stays clear; null where there is none. The last corner is the middle of that cell, or `last` where given.
 */
export function findWay(
  layout: Layout,
  grid: Grid,
  from: Point,
  isThere: (cell: number) => boolean,
  rules: WayRules,
  last: Point | null = null,
): Way | null {
  const start = cellAt(grid, from)
  if (start < 0) return null
  const flood = new Flood(grid, start, rules, last ? cellAt(grid, last) : -1)
  for (let cell = flood.next(); cell >= 0; cell = flood.next()) {
    if (!isThere(cell)) continue
    const cells = flood.trail(cell)
    return straightened(layout, [from, ...corners(layout, grid, cells, rules.radius), ...(last ? [last] : [])], rules)
  }
  return null
}

/** What it costs more to enter a cell, in tenths of a cell, by the room in it. */
const risks: readonly number[] = [0, 200, 20, 0]

/**
 * Visits cells from a start in the order of their cost: 10 for a step, 14 for one across a corner, and what is extra.
 * Where it is headed for one cell, what is at least left to it counts too (A*, Hart, Nilsson and Raphael 1968). It works
 * in the scratch of the grid, so a flood ends where the next one begins.
 */
export class Flood {
  readonly #grid: Grid
  readonly #rules: WayRules
  /** The least cost known for each cell; below 0 once it has been visited, for it cannot fall any more. */
  readonly #cost: Int32Array
  readonly #before: Int32Array
  /** What is known of a cell counts only where this holds the number of this flood. */
  readonly #round: Int32Array
  readonly #now: number
  readonly #buckets: (number[] | undefined)[] = []
  readonly #goalColumn: number
  readonly #goalRow: number
  #at = 0
  #waiting = 0

  constructor(grid: Grid, start: number, rules: WayRules, towards = -1) {
    this.#goalColumn = towards < 0 ? -1 : towards % grid.columns
    this.#goalRow = towards < 0 ? -1 : Math.floor(towards / grid.columns)
    this.#grid = grid
    this.#rules = rules
    this.#cost = grid.scratch.cost
    this.#before = grid.scratch.before
    this.#round = grid.scratch.round
    this.#now = ++grid.scratch.rounds
    this.#push(start, 1, -1)
  }

  /** The next cell; -1 when all have been visited. */
  next(): number {
    while (this.#waiting > 0) {
      const bucket = this.#buckets[this.#at]
      const cell = bucket?.pop()
      if (cell === undefined) {
        this.#at++
        continue
      }
      this.#waiting--
      const cost = this.#cost[cell]!
      if (cost < 0) continue
      this.#cost[cell] = -cost
      this.#spread(cell, cost)
      return cell
    }
    return -1
  }

  /** The cells from the start to a visited cell. */
  trail(cell: number): number[] {
    const cells: number[] = []
    for (let at = cell; at >= 0; at = this.#before[at]!) cells.push(at)
    return cells.reverse()
  }

  #spread(cell: number, cost: number): void {
    const { columns, rows, stands } = this.#grid
    const { cost: extraCost, room } = this.#rules
    const column = cell % columns
    const row = (cell - column) / columns
    for (let dy = row > 0 ? -1 : 0; dy <= 1 && row + dy < rows; dy++) {
      for (let dx = column > 0 ? -1 : 0; dx <= 1 && column + dx < columns; dx++) {
        const next = cell + dy * columns + dx
        if (stands[next]! < room || (this.#round[next] === this.#now && this.#cost[next]! < 0)) continue
        const extra = extraCost ? extraCost(next) : 0
        if (extra < 0) continue
        const risk = risks[stands[next]!]!
        this.#push(next, cost + (dx !== 0 && dy !== 0 ? 14 : 10) + extra + risk, cell)
      }
    }
  }

  #push(cell: number, cost: number, before: number): void {
    if (this.#round[cell] === this.#now && this.#cost[cell]! <= cost) return
    this.#round[cell] = this.#now
    this.#cost[cell] = cost
    this.#before[cell] = before
    const rank = cost + this.#left(cell)
    while (this.#buckets.length <= rank) this.#buckets.push(undefined)
    const bucket = this.#buckets[rank]
    if (bucket) bucket.push(cell)
    else this.#buckets[rank] = [cell]
    this.#waiting++
  }

  /** The least that a way from a cell to the goal can cost. */
  #left(cell: number): number {
    if (this.#goalColumn < 0) return 0
    const column = cell % this.#grid.columns
    const dx = Math.abs(column - this.#goalColumn)
    const dy = Math.abs((cell - column) / this.#grid.columns - this.#goalRow)
    return dx > dy ? 10 * dx + 4 * dy : 10 * dy + 4 * dx
  }
}

/** Where a trail passes the cells at which it turns, those in whose middle nobody can stand, and its last cell. */
export function corners(layout: Layout, grid: Grid, cells: readonly number[], radius: number): Point[] {
  const isTight = (cell: number): boolean => grid.stands[cell] === standing.maybe
  const kept = cells.filter((cell, i) => {
    const before = cells[i - 1]
    const after = cells[i + 1]
    if (i === 0) return false
    return after === undefined || before === undefined || after - cell !== cell - before || isTight(cell)
  })
  return kept.flatMap((cell) => (isTight(cell) ? roomiest(layout, grid, cell, radius) : [middleOf(grid, cell)]))
}

/** Spots are spread over a cell in so many rows and columns. */
const across = 8

/**
 * Where somebody passes a cell in whose middle nobody can stand, as in a lane that is hardly wider than the character: the spot with
 * the most room of those spread over the cell, else the one nearest to its middle; empty where there is none in it.
 */
function roomiest(layout: Layout, grid: Grid, cell: number, radius: number): Point[] {
  const walls = (grid.walls[cell] ?? []).map((wall) => layout.walls[wall]!)
  const middle = middleOf(grid, cell)
  let best: Point | null = null
  let most = radius
  for (let i = 0; i < across ** 2; i++) {
    const off = (at: number): number => ((at + 0.5) / across - 0.5) * grid.size
    const spot: Point = [middle[0] + off(i % across), middle[1] + off(Math.floor(i / across))]
    const room = Math.min(...walls.map((wall) => toSegment(spot, wall)))
    if (room > most) [best, most] = [spot, room]
  }
  if (best) return [best]
  const nearest = nearestStanding(layout, middle, radius, 0)
  return nearest && cellAt(grid, nearest) === cell ? [nearest] : []
}

/** Leaves out corners that are not needed. */
export function straightened(
  layout: Layout,
  points: readonly Point[],
  rules: Pick<WayRules, 'bodies' | 'radius'>,
  /** Whether one may go straight from one point to another, besides. */
  isFree: (from: Point, to: Point) => boolean = () => true,
): Way {
  const via: Point[] = []
  let length = 0
  for (let at = 0; at < points.length - 1;) {
    let next = points.length - 1
    const isStraight = (): boolean =>
      isClear(layout, points[at]!, points[next]!, rules.radius, rules.bodies) && isFree(points[at]!, points[next]!)
    while (next > at + 1 && !isStraight()) next--
    via.push(points[next]!)
    length += distance(points[at]!, points[next]!)
    at = next
  }
  return { via, length }
}
