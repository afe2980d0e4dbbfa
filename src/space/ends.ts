import { type Border, type Disc, isClearWalk } from './clear-walk.ts'
import { type Grid, middleOf } from './grid.ts'
import type { Ground } from './ground.ts'

/** How many cells off one looks for an end of a clear walk, and how many ends are tried. */
const farthest = 4
export const tries = 5

/** How many cells off one looks for a way off uncertain ground: out of the lane between two things against a wall. */
const farOff = 12

type Offset = readonly [dx: number, dy: number]

/** Cells round another, by the distance between their middles; nearest first. */
function ring(most: number): readonly Offset[] {
  const across = 2 * most + 1
  return Array.from({ length: across ** 2 }, (_, i): Offset => [(i % across) - most, Math.floor(i / across) - most])
    .filter(([dx, dy]) => dx !== 0 || dy !== 0)
    .sort((a, b) => a[0] * a[0] + a[1] * a[1] - (b[0] * b[0] + b[1] * b[1]) || a[1] - b[1] || a[0] - b[0])
}

const near = ring(farthest)
const far = ring(farOff)

/** Whether a cell is one of those near another. */
export function isNear({ columns }: Grid, cell: number, next: number): boolean {
  return Math.abs((next % columns) - (cell % columns)) <= farthest
}

/** Told of a cell; whether that is enough, and no more need be visited. */
type Visit = (next: number) => boolean

/** Visits the cells near another, nearest first. */
export function eachNear(grid: Grid, cell: number, visit: Visit): void {
  eachAround(grid, cell, near, visit)
}

/** Visits all cells that may be the end of a way off uncertain ground, nearest first. */
export function eachFar(grid: Grid, cell: number, visit: Visit): void {
  eachAround(grid, cell, far, visit)
}

function eachAround({ columns, rows }: Grid, cell: number, offsets: readonly Offset[], visit: Visit): void {
  const column = cell % columns
  const row = (cell - column) / columns
  for (const [dx, dy] of offsets) {
    const [x, y] = [column + dx, row + dy]
    if (x >= 0 && y >= 0 && x < columns && y < rows && visit(y * columns + x)) return
  }
}

/** So many steps from the border of its core a cell is deep inside. */
const deep = 2

/** Cells near another in which a clear walk may well end: those deep inside first, where that is known, then the nearest. */
export function endsNear(
  grid: Grid,
  cell: number,
  isAlike: (cell: number) => boolean,
  depth: Int32Array | null,
  each: typeof eachNear = eachNear,
): number[] {
  const best: number[] = []
  const deepest = depth ? deep : 0
  const depthOf = (one: number): number => Math.min(depth?.[one] ?? 0, deep)
  each(grid, cell, (next) => {
    if (!isAlike(next)) return false
    let at = best.length
    while (at > 0 && depthOf(best[at - 1]!) < depthOf(next)) at--
    if (at >= tries) return false
    best.splice(at, 0, next)
    if (best.length > tries) best.pop()
    // Among those that are as deep the nearer one stays.
    return best.length === tries && depthOf(best[tries - 1]!) === deepest
  })
  return best
}

/** The first of some cells to whose middle a walk is clear from everywhere in a disc where a signature is so; -1: none. */
export function clearEnd(
  { terrain, signatures }: Ground,
  disc: Disc,
  signature: number,
  ends: readonly number[],
  crossed: Border | null = null,
): number {
  for (const end of ends) {
    if (isClearWalk(terrain, disc, signatures.all[signature]!, middleOf(terrain.grid, end), crossed)) return end
  }
  return -1
}
