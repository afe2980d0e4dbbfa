export { builtInTypes, typeChain } from './types.ts'
export { levelJsonSchema } from './schema.ts'
export { exampleInstance, type SettingLine, type TypeSheet, takes, typeSheet } from './described.ts'
export { expandInSlices, expandLevel } from './expand.ts'
export {
  forgottenByLevel,
  forgottenOf,
  joinedWith,
  joinLevels,
  startingAt,
  levelAt,
  levelOf,
  ownPlace,
  ownSpot,
  type PartOfProject,
  partWith,
  whyNotJoined,
} from './joined.ts'
export { characterIn, levelOfCharacter, levelOfZone } from './joined-characters.ts'
export { inLevel, levelIn, levelMark, levelsNamed, unmarked } from './level-names.ts'
export { loadLevel, readLevel, readLevelValue } from './load.ts'
export type {
  Change,
  Check,
  Expanded,
  Forgotten,
  Joined,
  JoinedPart,
  PressKind,
  NameProblem,
  Placed,
  PlacedCharacter,
  PlacedMotion,
  PlacedRequirement,
  PlacedState,
  PlacedTransition,
  Remembered,
  When,
  WrongValue,
  ZoneOf,
} from './placed.ts'
export { isBuiltIn, type Settled, settledSettings, settling } from './settled.ts'
export { askedByPlans, changeText, checkText, triggerText, zoneName } from './words.ts'
export { type Change as InstanceChange, type Listed, listInstances } from './siblings.ts'
