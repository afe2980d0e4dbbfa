/** Drawings of levels, as SVG text. */
export { coveredGround, drawMachine, drawPlan, planFrame, planShapes } from './library/index.ts'
export {
  drawNeeds,
  type PlanFrame,
  type PlanMark,
  type PlanOptions,
  type PlanPart,
  type PlanShape,
  type Track,
} from './draw/index.ts'
