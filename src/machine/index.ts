export { drawnFrom, drawOne, isOffered } from './chance.ts'
export { addAsked } from './asked.ts'
export {
  type ClockModel,
  leastTicks,
  looseClocks,
  millisecondClocks,
  mostTicks,
  mostTicksOf,
  tickClocks,
  tickLater,
} from './clocks.ts'
export { compileGuard, type Guard, unmetParts } from './guards.ts'
export { Registers } from './registers.ts'
export type { ItemChange, Moved, Pushed, Standing, StepWatcher, WayOut } from './around.ts'
export { mostEvents, type PressOutcome, Step } from './step.ts'
export {
  asksItems,
  clocksNow,
  compile,
  compileInSlices,
  forget,
  initialRegisters,
  type CompiledTransition,
  isActed,
  isThere,
  type StateTable,
  type Tables,
} from './tables.ts'
