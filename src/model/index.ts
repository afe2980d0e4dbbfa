export {
  diagnostic,
  type Diagnostic,
  diagnosticText,
  type Place,
  placeFrame,
  placeText,
  printable,
  quoted,
} from './diagnostics.ts'
export { besideFile, commonFilesOf, commonJsonSchema, withCommon } from './common.ts'
export { changedValue } from './changed-value.ts'
export { type ChangedLines, changedLines, type Edit, edited } from './edit.ts'
export { finish, mapped } from './slices.ts'
export { isMisspelt, isOneSlip, nearestName } from './nearest.ts'
export { longestText, readSource } from './read-source.ts'
export { join, type Source, type Span, valueSource } from './source.ts'
export type { Blocked, Provided } from './parts.ts'
export type { Condition, Effect, Goal, Requirement, SettingRef, Trigger } from './rules.ts'
export type { Feedback } from './feedback.ts'
export {
  type Channel,
  channelOf,
  channels,
  isExtra,
  levelVersion,
  milliseconds,
  type Moment,
  moments,
  type Reason,
  type Role,
  roles,
} from './vocabulary.ts'
export type {
  HandleDefinition,
  RangeDefinition,
  Setting,
  StateDefinition,
  TransitionDefinition,
  TypeDefinition,
  ZoneDefinition,
} from './types.ts'
export type { Character, Instance, Doorway, Level, Room } from './level.ts'
export { checkShape, isCondition, plainLevelSchema, type Reading, readShape, shaped } from './read.ts'
export { defineInteractable, defineLevel, type WellSpeltLevel, type WellSpeltType } from './define.ts'
export type { LevelInput, TypeInput } from './held.ts'
export { escaped } from './xml.ts'
