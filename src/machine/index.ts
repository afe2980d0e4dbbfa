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
export {
  type Moved,
  mostEvents,
  type PressOutcome,
  type Pushed,
  type Standing,
  Step,
  type StepWatcher,
} from './step.ts'
export { compile, initialRegisters, type Row, type StateTable, type Tables } from './tables.ts'
