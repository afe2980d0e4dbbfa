export {
  between,
  direction,
  distance,
  inPolygon,
  moved,
  type Point,
  type Segment,
  toPolygon,
  turned,
} from './geometry.ts'
export { nearestStanding } from './closest.ts'
export { boxOf } from './boxes.ts'
export { cellAt, eachCell, type Grid, middleOf, standing } from './grid.ts'
export type { DoorwayPlace } from './doorways.ts'
export { canStand, type Figure, type Layout, type Shape } from './layout.ts'
export { asksToBeLookedAt, facingTo, isAimedAt } from './aim.ts'
export { type Crossing, type Leg, spotOn, walkLeg } from './legs.ts'
export type { Patch } from './patch.ts'
export type { Patches } from './patches.ts'
export { isRoomBeside, patchesPushedTo, pushedTo } from './push.ts'
export {
  acrossReach,
  pointsFor,
  farthestReach,
  fromHand,
  fromReach,
  handlesNear,
  metresTo,
  handlesWithin,
  nearness,
  isStillInRange,
  nearnessFrom,
  type Nearness,
  screensBetween,
} from './reach.ts'
export { isSameGround } from './same-ground.ts'
export { type Candidate, type Signature } from './alternatives.ts'
export { signatureAt } from './signatures.ts'
export { type Hop, type HopEvent, timedHop } from './hops.ts'
export { type LaidOut, laidOut, makeSpace, type Space, usualResolution, wayTo, wayToSpot } from './space.ts'
export { surroundings } from './surroundings.ts'
export type { Way } from './ways.ts'
