export { drawPlan, planFrame, type PlanFrame, type PlanOptions } from './plan.ts'
