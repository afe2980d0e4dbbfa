export { builtInTypes } from './types.ts'
export { expandLevel } from './expand.ts'
export { loadLevel, readLevel } from './load.ts'
export type {
  Change,
  Check,
  Expanded,
  NameProblem,
  Placed,
  PlacedCharacter,
  PlacedState,
  PlacedTransition,
  When,
  WrongValue,
  ZoneOf,
} from './placed.ts'
