/** Drawings of levels, as SVG text. */
export { drawMachine, drawPlan, planFrame } from './library/index.ts'
export { drawNeeds, type PlanFrame, type PlanOptions } from './draw/index.ts'
