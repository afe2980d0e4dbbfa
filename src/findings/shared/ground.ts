import type { Stage } from '../../play/index.ts'
import { boxOf, eachCell, type Grid, inPolygon, middleOf, type Point } from '../../space/index.ts'

/** The cells whose middle is within an outline, ascending. */
export function cellsIn(grid: Grid, outline: readonly Point[]): number[] {
  const box = boxOf(outline)
  const cells: number[] = []
  eachCell(grid, box, 0, (cell) => {
    const [x, y] = middleOf(grid, cell)
    const isNear = x > box.from[0] && x < box.to[0] && y > box.from[1] && y < box.to[1]
    if (isNear && inPolygon([x, y], outline)) cells.push(cell)
  })
  return cells
}

/** For each character the patches within some outlines. */
export function patchesWithin({ expanded, space }: Stage, outlines: readonly (readonly Point[])[]): number[][] {
  return expanded.characters.map((_, who) => {
    const { grid, patchesIn } = space.patches[who]!
    const cells = outlines.flatMap((outline) => cellsIn(grid, outline))
    return [...new Set(cells.flatMap((cell) => patchesIn(cell)))]
  })
}

/** A spot to whole centimetres. */
export function inCentimetres([x, y]: Point): readonly [number, number] {
  return [Math.round(x * 100) / 100, Math.round(y * 100) / 100]
}

/** A spot as messages name it: `[1.20, 3.45]`. */
export function spotText([x, y]: Point): string {
  return `[${x.toFixed(2)}, ${y.toFixed(2)}]`
}
