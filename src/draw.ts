/** Drawings of levels, as SVG text. */
export { coveredGround, drawMachine, drawPlan, planFrame, planShapes } from './library/index.ts'
export {
  drawNeeds,
  type PlacedLabel,
  placeLabels,
  type PlanFrame,
  type PlanLabel,
  type PlanMark,
  type PlanOptions,
  type PlanGround,
  type PlanPart,
  type PlanShape,
  type Track,
} from './draw/index.ts'
