import { cosine, type Point } from './geometry.ts'
import { pointsFor } from './reach.ts'
import type { Space } from './space.ts'

/** The direction from a spot to the handle of an interactable, seen from above; of any length. */
export function facingTo({ layout }: Space, spot: Point, interactable: number): Point {
  const handle = pointsFor(layout, interactable, spot)?.handle ?? layout.figures[interactable]!.handle
  return handle ? [handle[0] - spot[0], handle[1] - spot[1]] : [0, 0]
}

/**
 * Whether somebody on a spot who looks in a direction looks at an interactable plainly enough for it to answer. True
 * where it does not matter, or where one stands on it.
 */
export function isAimedAt(space: Space, interactable: number, spot: Point, facing: Point): boolean {
  const { aim } = space.expanded.interactables[interactable]!
  if (aim === null) return true
  const [x, y] = facingTo(space, spot, interactable)
  const lengths = Math.sqrt((x * x + y * y) * (facing[0] * facing[0] + facing[1] * facing[1]))
  return lengths < 1e-6 || x * facing[0] + y * facing[1] >= (cosine(aim) - 1e-9) * lengths
}
