export {
  draggedTo,
  type GripFrame,
  type GripPart,
  gripsOf,
  type PlanChange,
  type PlanDrag,
  type PlanGrip,
} from './grips.ts'
export { type PlacedLabel, placeLabels, type PlanLabel } from './labels.ts'
export { drawMachine } from './machine.ts'
export { drawPlan, type PlanMark, type PlanOptions } from './plan.ts'
export { planFrame, type PlanFrame } from './plan-frame.ts'
export type { Track } from './plan-things.ts'
export { drawNeeds } from './needs.ts'
export { coveredBy, type PlanGround, type PlanPart, type PlanShape, planShapes, shapesOnStorey } from './shapes.ts'
