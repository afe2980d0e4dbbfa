/** Drawings of levels, as SVG text. */
export { coveredGround, drawMachine, drawPlan, planFrame, planGrips, planShapes } from './library/index.ts'
export {
  draggedTo,
  drawNeeds,
  type GripFrame,
  type GripPart,
  type PlacedLabel,
  placeLabels,
  type PlanChange,
  type PlanDrag,
  type PlanFrame,
  type PlanGrip,
  type PlanLabel,
  type PlanMark,
  type PlanOptions,
  type PlanGround,
  type PlanPart,
  type PlanShape,
  shapesOnStorey,
  type Track,
} from './draw/index.ts'
export type { HandleDefinition, ZoneDefinition } from './model/index.ts'
