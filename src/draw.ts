/** Drawings of levels, as SVG text. */
export { drawMachine, drawPlan, planFrame } from './library/index.ts'
export { drawNeeds, type PlanFrame, type PlanMark, type PlanOptions, type Track } from './draw/index.ts'
