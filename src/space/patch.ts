import type { Point } from './geometry.ts'
import type { Signature } from './alternatives.ts'

/** A connected piece of ground whose spots are all alike. */
export interface Patch {
  readonly index: number
  readonly signature: Signature
  /** Whether its standing spot is in it for certain. Otherwise it may not even be there. */
  readonly firm: boolean
  /** Whether, besides, everybody in it can for certain walk to the standing spot without crossing a border. */
  readonly sure: boolean
  /** Where one stands in it: the middle of the cell farthest from its border, or else some spot. */
  readonly spot: Point
  /** How many cells have a part in it. */
  readonly cells: number
}
