import {
  drawMachine as machine,
  drawPlan as plan,
  planFrame as frame,
  type PlanFrame,
  type PlanOptions,
} from '../draw/index.ts'
import { nearestName } from '../model/index.ts'
import { type AnyLevel, expandedOf, stageOf } from './prepared.ts'

/** The plan of a level to scale, as SVG. */
export function drawPlan(level: AnyLevel, options: PlanOptions = {}): string {
  return plan(stageOf(level), options)
}

/** Where the plan of a level puts things; `scale`: pixels a metre, chosen to fit 1200 × 720 where it is left out. */
export function planFrame(level: AnyLevel, scale?: number): PlanFrame {
  return frame(stageOf(level), scale)
}

/** The states and transitions of an interactable, as SVG. A name that the level does not have throws a `RangeError`. */
export function drawMachine(level: AnyLevel, interactable: string): string {
  const expanded = expandedOf(level)
  const names = expanded.interactables.map(({ name }) => name)
  const placed = expanded.interactables[names.indexOf(interactable)]
  if (placed) return machine(expanded, placed)
  const nearest = nearestName(interactable, names)
  throw new RangeError(
    `There is no interactable "${interactable}".${nearest === null ? '' : ` Did you mean "${nearest}"?`}`,
  )
}
