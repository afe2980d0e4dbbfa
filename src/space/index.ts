export { between, direction, distance, inPolygon, moved, type Point, type Segment, turned } from './geometry.ts'
export { nearestStanding } from './closest.ts'
export { cellAt, type Grid, middleOf } from './grid.ts'
export type { DoorwayPlace } from './doorways.ts'
export { canStand, type Figure, type Layout, type Shape } from './layout.ts'
export { facingTo, isAimedAt } from './aim.ts'
export { type Crossing, type Leg, spotOn, walkLeg } from './legs.ts'
export type { Patch } from './patch.ts'
export type { Patches } from './patches.ts'
export { patchesPushedTo, pushedTo } from './push.ts'
export { fromHand, handlesNear, nearness, type Nearness } from './reach.ts'
export { type Signature } from './alternatives.ts'
export { signatureAt } from './signatures.ts'
export {
  type Hop,
  type HopEvent,
  makeSpace,
  type Space,
  surroundings,
  timedHop,
  usualResolution,
  wayTo,
  wayToSpot,
} from './space.ts'
export type { Way } from './ways.ts'
