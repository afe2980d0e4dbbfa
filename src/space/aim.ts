import { cosine, type Point } from './geometry.ts'
import { pointsFor } from './reach.ts'
import type { Space } from './space.ts'

/** The direction from a spot to the handle of an interactable, seen from above; of any length. */
export function facingTo({ layout }: Space, spot: Point, interactable: number): Point {
  const handle = pointsFor(layout, interactable, spot)?.handle ?? layout.figures[interactable]!.handle
  return handle ? [handle[0] - spot[0], handle[1] - spot[1]] : [0, 0]
}

/** Whether a character has to look at an interactable for it to answer. */
export function asksToBeLookedAt(
  { expanded }: Pick<Space, 'expanded'>,
  character: number,
  interactable: number,
): boolean {
  return expanded.interactables[interactable]!.aim !== null || expanded.characters[character]!.probe !== null
}

/**
 * Whether a character on a spot who looks in a direction looks at an interactable plainly enough for it to answer. True
 * where it does not matter, or where one stands on it.
 */
export function isAimedAt(space: Space, character: number, interactable: number, spot: Point, facing: Point): boolean {
  const { aim } = space.expanded.interactables[interactable]!
  const { probe } = space.expanded.characters[character]!
  if (aim === null && probe === null) return true
  const [x, y] = facingTo(space, spot, interactable)
  const length = Math.sqrt(facing[0] * facing[0] + facing[1] * facing[1])
  const lengths = Math.sqrt(x * x + y * y) * length
  if (lengths < 1e-6) return true
  const ahead = x * facing[0] + y * facing[1]
  if (aim !== null && ahead < (cosine(aim) - 1e-9) * lengths) return false
  // Seen from above: not behind, and not too far to the side of where it looks.
  return probe === null || (ahead >= 0 && Math.abs(x * facing[1] - y * facing[0]) <= (probe + 1e-9) * length)
}
