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
export { type ChangedLines, changedLines, type Edit, edited } from './edit.ts'
export { finish, mapped } from './slices.ts'
export { nearestName } from './nearest.ts'
export { join, longestText, readSource, type Source, type Span, valueSource } from './source.ts'
export { milliseconds, type Provided, type Role, roles } from './parts.ts'
export { condition, type Condition, type Effect, type Goal, type SettingRef, type Trigger } from './rules.ts'
export { type Channel, channelOf, channels, type Feedback, type Moment, moments, type Reason } from './feedback.ts'
export type {
  HandleDefinition,
  RangeDefinition,
  Setting,
  StateDefinition,
  TransitionDefinition,
  TypeDefinition,
  ZoneDefinition,
} from './types.ts'
export {
  type Character,
  type Instance,
  type Doorway,
  isExtra,
  type Level,
  levelSchema,
  levelVersion,
  type Room,
} from './level.ts'
export { checkShape, plainLevelSchema, type Reading, readShape, shaped } from './read.ts'
export {
  defineInteractable,
  defineLevel,
  type InteractableType,
  type LevelInput,
  type TransitionBetween,
} from './define.ts'
export { escaped } from './xml.ts'
