import type { Point } from '../space/index.ts'
import { type AnyLevel, drawnOf } from './prepared.ts'

/** Where a spot of a level really lies, which is drawn beside others. */
export interface RealSpot {
  /** The storey that it is on; null: on none. */
  readonly storey: string | null
  /** Metres east, north and up, with storeys over one another. */
  readonly at: readonly [number, number, number]
}

/**
 * Where a spot of a level really lies: for an engine in which storeys lie over one another, as they are not drawn in the file. A spot outside
 * of all rooms counts to the nearest. On no storey, it lies where it is drawn, on the ground.
 */
export function liesAt(level: AnyLevel, [x, y]: Point): RealSpot {
  const { expanded, space } = drawnOf(level)
  const all = Object.entries(expanded.level.storeys ?? {})
  const found = all[space.layout.storeys?.at([x, y]) ?? -1]
  if (!found) return { storey: null, at: [x, y, 0] }
  const [storey, { floor = 0, 'drawn-at': [dx, dy] = [0, 0] }] = found
  return { storey, at: [x - dx, y - dy, floor] }
}
