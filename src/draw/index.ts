export { drawMachine } from './machine.ts'
export { drawPlan, planFrame, type PlanFrame, type PlanOptions } from './plan.ts'
export { drawNeeds } from './needs.ts'
