import {
  drawMachine as machine,
  coveredBy,
  drawPlan as plan,
  gripsOf,
  planFrame as frame,
  type PlanFrame,
  type PlanGrip,
  type PlanOptions,
  type PlanShape,
  planShapes as shapes,
} from '../draw/index.ts'
import type { Expanded, Placed } from '../interactables/index.ts'
import { nearestName } from '../model/index.ts'
import type { Point } from '../space/index.ts'
import { type AnyLevel, expandedOf, drawnOf } from './prepared.ts'

/** The plan of a level to scale, as SVG. */
export function drawPlan(level: AnyLevel, options: PlanOptions = {}): string {
  return plan(drawnOf(level), options)
}

/** Where the plan of a level puts things; `scale`: pixels a metre, chosen to fit 1200 × 720 where it is left out. */
export function planFrame(level: AnyLevel, scale?: number): PlanFrame {
  return frame(drawnOf(level), scale)
}

/**
 * The states and transitions of an interactable, as SVG; `lit`: the state to show as the one that it is in. A name that the level does not
 * have throws a `RangeError`.
 */
export function drawMachine(level: AnyLevel, interactable: string, lit: string | null = null): string {
  const expanded = expandedOf(level)
  return machine(expanded, placedOf(expanded, interactable), lit)
}

/**
 * Everything on the plan of a level, in metres, from what lies lowest to what lies on top, for a page that draws it itself; bodies as they
 * stand in `states`, by the name of the interactable, or else in their initial states.
 */
export function planShapes(level: AnyLevel, states: Readonly<Record<string, string>> = {}): PlanShape[] {
  return shapes(drawnOf(level), states)
}

/**
 * Everything on the plan of a level that can be dragged, besides the things themselves: corners, ranges, zones, handles, leaves, hinges. What
 * the text says after that comes of `draggedTo`.
 */
export function planGrips(level: AnyLevel): PlanGrip[] {
  return gripsOf(drawnOf(level))
}

/**
 * What the range of an interactable really covers: outlines in metres, holes among them (even-odd), of where the first player can stand and a
 * press goes to it, with all that may hide it out of the way. Empty where there is no such spot. A name that the level does not
 * have throws a `RangeError`.
 */
export function coveredGround(level: AnyLevel, interactable: string): Point[][] {
  const drawn = drawnOf(level)
  return coveredBy(drawn, placedOf(drawn.expanded, interactable))
}

function placedOf(expanded: Expanded, interactable: string): Placed {
  const names = expanded.interactables.map(({ name }) => name)
  const placed = expanded.interactables[names.indexOf(interactable)]
  if (placed) return placed
  const nearest = nearestName(interactable, names)
  throw new RangeError(
    `There is no interactable "${interactable}".${nearest === null ? '' : ` Did you mean "${nearest}"?`}`,
  )
}
