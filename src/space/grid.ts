import type { PlacedCharacter } from '../interactables/index.ts'
import { inPolygon, type Point, toSegment } from './geometry.ts'
import type { Layout } from './layout.ts'

/** Whether a character can stand in a cell. */
export const standing = { nowhere: 0, maybe: 1, everywhere: 2 } as const

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

/** Cuts the ground into cells of about `size` metres, never more than a third of the girth. */
export function makeGrid(layout: Layout, character: PlacedCharacter, size: number): Grid {
  const points = [...layout.rooms, ...layout.doorways].flatMap(({ outline }) => outline)
  const left = Math.min(...points.map((p) => p[0]))
  const low = Math.min(...points.map((p) => p[1]))
  const width = Math.max(...points.map((p) => p[0])) - left
  const height = Math.max(...points.map((p) => p[1])) - low
  let side = Math.min(size, character.girth / 3)
  while ((width / side + 1) * (height / side + 1) > mostCells) side *= 2
  const columns = Math.max(1, Math.ceil(width / side))
  const rows = Math.max(1, Math.ceil(height / side))
  const slack = side * Math.SQRT1_2 + 1e-9
  const count = columns * rows
  const array = (): Int32Array => new Int32Array(count)
  const scratch = { cost: array(), before: array(), round: array(), rounds: 0 }
  const grid: Grid = { left, low, size: side, slack, columns, rows, stands: new Uint8Array(count), scratch }
  fillStands(grid, layout, character.girth)
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
export function eachCell(
  grid: Grid,
  box: { readonly from: Point; readonly to: Point },
  margin: number,
  visit: (cell: number) => void,
): void {
  const column = (x: number): number => Math.min(grid.columns - 1, Math.max(0, Math.floor((x - grid.left) / grid.size)))
  const row = (y: number): number => Math.min(grid.rows - 1, Math.max(0, Math.floor((y - grid.low) / grid.size)))
  const [left, right] = [column(box.from[0] - margin), column(box.to[0] + margin)]
  const [low, high] = [row(box.from[1] - margin), row(box.to[1] + margin)]
  for (let y = low; y <= high; y++) for (let x = left; x <= right; x++) visit(y * grid.columns + x)
}

/** The box round some points. */
export function boxOf(points: readonly Point[]): { from: Point; to: Point } {
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  return { from: [Math.min(...xs), Math.min(...ys)], to: [Math.max(...xs), Math.max(...ys)] }
}

function fillStands(grid: Grid, layout: Layout, girth: number): void {
  const { stands } = grid
  for (const { outline } of [...layout.rooms, ...layout.doorways]) {
    eachCell(grid, boxOf(outline), grid.size, (cell) => {
      if (stands[cell] === standing.nowhere && inPolygon(middleOf(grid, cell), outline))
        stands[cell] = standing.everywhere
    })
  }
  for (const outline of layout.solids) {
    eachCell(grid, boxOf(outline), grid.size, (cell) => {
      if (stands[cell] !== standing.nowhere && inPolygon(middleOf(grid, cell), outline)) stands[cell] = standing.nowhere
    })
  }
  const [sure, possible] = [girth / 2 + grid.slack, girth / 2 - grid.slack - 1e-6]
  for (const wall of layout.walls) {
    eachCell(grid, boxOf([wall.a, wall.b]), sure + grid.size, (cell) => {
      if (stands[cell] === standing.nowhere) return
      const gap = toSegment(middleOf(grid, cell), wall)
      if (gap < possible) stands[cell] = standing.nowhere
      else if (gap < sure) stands[cell] = standing.maybe
    })
  }
}
