import type { Stage } from '../../play/index.ts'
import { type Grid, inPolygon, middleOf, type Point } from '../../space/index.ts'

/** The cells whose middle is within an outline. */
export function* cellsIn(grid: Grid, outline: readonly Point[]): Generator<number, void> {
  const [xs, ys] = [outline.map(([x]) => x), outline.map(([, y]) => y)]
  const [left, right, bottom, top] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  for (let cell = 0; cell < grid.stands.length; cell++) {
    const middle = middleOf(grid, cell)
    const isNear = middle[0] > left && middle[0] < right && middle[1] > bottom && middle[1] < top
    if (isNear && inPolygon(middle, outline)) yield cell
  }
}

/** For each character the patches within some outlines. */
export function patchesWithin({ expanded, space }: Stage, outlines: readonly (readonly Point[])[]): number[][] {
  return expanded.characters.map((_, who) => {
    const { grid, patchesIn } = space.patches[who]!
    const cells = outlines.flatMap((outline) => [...cellsIn(grid, outline)])
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
