import type { PlacedCharacter } from '../interactables/index.ts'
import { type Box, boxOf } from './boxes.ts'
import { inPolygon, type Point, type Segment, toSegment } from './geometry.ts'
import { type Layout, touching } from './layout.ts'
import { isCloserThan } from './squares.ts'

/** Whether a character can stand in a cell; `middle`: in its middle at least. */
export const standing = { nowhere: 0, maybe: 1, middle: 2, everywhere: 3 } as const

/**
 * The ground cut into square cells, row by row from the south-west. A cell stands for every spot in it: `slack` is the
 * distance from its middle to its corners.
 */
export interface Grid {
  readonly left: number
  readonly low: number
  /** Metres along the side of a cell. */
  readonly size: number
  readonly slack: number
  readonly columns: number
  readonly rows: number
  /** One of `standing` for each cell, bodies that come and go left out of account. */
  readonly stands: Uint8Array
  /** For each cell the walls that some spot in it is too near to, ascending; none: undefined. */
  readonly walls: readonly (readonly number[] | undefined)[]
  /** Room for one flood at a time; see `Flood`. */
  readonly scratch: {
    readonly cost: Int32Array
    readonly before: Int32Array
    readonly round: Int32Array
    rounds: number
  }
}

/** The most cells that a grid has; larger levels get larger cells. */
export const mostCells = 4_000_000

/** Cuts the ground into cells of about `size` metres, never more than a third of the width of the character. */
export function* makeGrid(
  layout: Layout,
  character: PlacedCharacter,
  size: number,
  isOwn: (room: string) => boolean,
): Generator<undefined, Grid> {
  const ground = [...layout.rooms, ...layout.doorways].filter(({ name }) => isOwn(name))
  const { from, to } = boxOf(ground.flatMap(({ outline }) => outline))
  const [left, low] = from
  const [width, height] = [to[0] - left, to[1] - low]
  let side = Math.min(size, (2 * character.radius) / 3)
  while ((width / side + 1) * (height / side + 1) > mostCells) side *= 2
  const columns = Math.max(1, Math.ceil(width / side))
  const rows = Math.max(1, Math.ceil(height / side))
  const slack = side * Math.SQRT1_2 + 1e-9
  const count = columns * rows
  const array = (): Int32Array => new Int32Array(count)
  const scratch = { cost: array(), before: array(), round: array(), rounds: 0 }
  const [stands, walls] = [new Uint8Array(count), new Array<number[] | undefined>(count).fill(undefined)]
  const grid: Grid = { left, low, size: side, slack, columns, rows, stands, walls, scratch }
  yield* fillStands(grid, walls, layout, character.radius)
  return grid
}

/** The middle of a cell. */
export function middleOf(grid: Grid, cell: number): Point {
  const column = cell % grid.columns
  const row = (cell - column) / grid.columns
  return [grid.left + (column + 0.5) * grid.size, grid.low + (row + 0.5) * grid.size]
}

/** The cell that a point is in; -1 outside the grid. */
export function cellAt(grid: Grid, p: Point): number {
  const column = Math.floor((p[0] - grid.left) / grid.size)
  const row = Math.floor((p[1] - grid.low) / grid.size)
  if (column < 0 || row < 0 || column >= grid.columns || row >= grid.rows) return -1
  return row * grid.columns + column
}

/** Calls `visit` with every cell whose middle is in a box, widened by `margin` metres. */
export function eachCell(grid: Grid, box: Box, margin: number, visit: (cell: number) => void): void {
  const column = (x: number): number => Math.min(grid.columns - 1, Math.max(0, Math.floor((x - grid.left) / grid.size)))
  const row = (y: number): number => Math.min(grid.rows - 1, Math.max(0, Math.floor((y - grid.low) / grid.size)))
  const [left, right] = [column(box.from[0] - margin), column(box.to[0] + margin)]
  const [low, high] = [row(box.from[1] - margin), row(box.to[1] + margin)]
  for (let y = low; y <= high; y++) for (let x = left; x <= right; x++) visit(y * grid.columns + x)
}

function* fillStands(
  grid: Grid,
  walls: (number[] | undefined)[],
  layout: Layout,
  radius: number,
): Generator<undefined, void> {
  const { stands } = grid
  for (const { outline } of [...layout.rooms, ...layout.doorways]) {
    yield
    eachCell(grid, boxOf(outline), grid.size, (cell) => {
      if (stands[cell] === standing.nowhere && inPolygon(middleOf(grid, cell), outline))
        stands[cell] = standing.everywhere
    })
  }
  for (const outline of layout.solids) {
    yield
    eachCell(grid, boxOf(outline), grid.size, (cell) => {
      if (stands[cell] !== standing.nowhere && inPolygon(middleOf(grid, cell), outline)) stands[cell] = standing.nowhere
    })
  }
  const room = radius - touching
  const [sure, possible] = [radius + grid.slack, room - grid.slack]
  for (const [index, wall] of layout.walls.entries()) {
    yield
    eachCell(grid, boxOf([wall.a, wall.b]), sure + grid.size, (cell) => {
      const gap = toSegment(middleOf(grid, cell), wall)
      if (gap >= sure) return
      const known = walls[cell]
      if (known) known.push(index)
      else walls[cell] = [index]
      const here = gap < possible ? standing.nowhere : gap < room ? standing.maybe : standing.middle
      if (stands[cell]! > here) stands[cell] = here
    })
  }
  let looked = 0
  // Between two walls, or in a corner of the cell, there may be no room at all.
  for (const [cell, own] of walls.entries()) {
    if (cell % 16_384 === 0) yield
    if (!own || stands[cell] !== standing.maybe) continue
    if (++looked % 512 === 0) yield
    const near = own.map((index) => layout.walls[index]!)
    if (!hasRoom(near, room, middleOf(grid, cell), grid.size, grid.slack)) {
      stands[cell] = standing.nowhere
    }
  }
}

/** Parts of a cell smaller than this share of it are not halved any more. */
const smallestPart = 1 / 8

/** Whether some spot in a square may be so far from all of some walls; parts of the square are looked at closer. */
function hasRoom(
  walls: readonly Segment[],
  room: number,
  middle: Point,
  size: number,
  slack: number,
  part = 1,
): boolean {
  if (walls.some((wall) => isCloserThan(middle, slack, wall, room))) return false
  if (part <= smallestPart) return true
  const off = size / 4
  return [-off, off].some((dy) =>
    [-off, off].some((dx) => hasRoom(walls, room, [middle[0] + dx, middle[1] + dy], size / 2, slack / 2, part / 2)),
  )
}
