import type { NameProblem } from '../interactables/index.ts'
import { boxAround, type Boxes, type BoxesOfThings } from './boxes.ts'
import type { DoorwayPlace } from './doorways.ts'
import type { Storeys } from './storeys.ts'
import { hair, inPolygon, type Point, type Segment, toSegment } from './geometry.ts'

/** A zone on the ground. */
export type Shape =
  | { readonly kind: 'circle'; readonly at: Point; readonly radius: number }
  /** Not nearer than `inner`, and not farther off than `radius`. */
  | { readonly kind: 'ring'; readonly at: Point; readonly inner: number; readonly radius: number }
  | { readonly kind: 'polygon'; readonly outline: readonly Point[] }
  /** Wherever a character's side comes within a hand's breadth of a body. */
  | { readonly kind: 'skin'; readonly body: readonly Point[] }

/** What of an interactable is in reach or not, in the level's frame, with heights above the floor; metres. */
export interface Points {
  /** What the hand must reach. */
  readonly handle: readonly [number, number, number]
  /** What the range is measured from. */
  readonly rangeFrom: readonly [number, number, number]
}

/** Where an interactable stands. Points are in the level's frame, in metres. */
export interface Figure {
  /** The polygon of its body; null: it has none. */
  readonly body: readonly Point[] | null
  /** Degrees that it is turned by, as it stands. */
  readonly turn: number
  /** What its body turns about: its hinge, or its place; null: it stands nowhere. */
  readonly pivot: Point | null
  /** What the hand must reach; null: it stands nowhere. */
  readonly handle: readonly [number, number, number] | null
  /** What the range is measured from; null: it stands nowhere. */
  readonly rangeFrom: readonly [number, number, number] | null
  /** The number of the storey that it is on; -1: it is on none. */
  readonly storey: number
  /** For those on other storeys, by number: where its handle is, and what its range is measured from. Only where its range does not heed floors. */
  readonly elsewhere: ReadonlyMap<number, Points>
  /** Where a character must stand, besides, for a press to go to it; null: anywhere. */
  readonly standsIn: Shape | null
  /** Its body blocks walking in some states and not in others. */
  readonly comesAndGoes: boolean
  /** Its body blocks sight in some states at least. */
  readonly hides: boolean
  /** Some state of it answers, or ignores, a press. */
  readonly pressable: boolean
}

/** A level on the ground: what never changes in a play. */
export interface Layout {
  readonly rooms: readonly { readonly name: string; readonly outline: readonly Point[] }[]
  readonly doorways: readonly DoorwayPlace[]
  /** Polygons that cannot be walked: obstacles, and bodies that block in every state. */
  readonly solids: readonly (readonly Point[])[]
  /** Everything that a character's side must stay clear of, but for bodies that come and go. */
  readonly walls: readonly Segment[]
  /** Everything that hides what is behind it, but for bodies. */
  readonly screens: readonly Segment[]
  /** By the index of the interactable. */
  readonly figures: readonly Figure[]
  /** Null where the level has none. */
  readonly storeys: Storeys | null
  /** By the index of the zone. */
  readonly zones: readonly Shape[]
  readonly problems: readonly NameProblem[]
  /** Where each character starts, by index: where the level says, or else at the nearest spot where it can stand. */
  readonly starts: readonly Point[]
  readonly near: Nearby
}

/** Everything on the ground by its place: what is near a spot is found without looking at all of it. */
export interface Nearby {
  readonly walls: Boxes
  readonly screens: Boxes
  /** A skin without the width of the character that touches it. */
  readonly zones: Boxes
  /** Bodies that come and go. */
  readonly bodies: Boxes
  /** Bodies that block sight in some state. */
  readonly hiders: Boxes
  /** Handles of what can be pressed in some state, also as they are for those on other storeys. */
  readonly handles: BoxesOfThings
  readonly rooms: Boxes
  readonly doorways: Boxes
  readonly solids: Boxes
}

/** Outlines and figures, and nothing yet of where they are near. */
export type Grounds = Omit<Layout, 'near' | 'starts' | 'problems'>

/** All that is needed to tell where somebody can stand. */
export type Standable = Grounds & Pick<Layout, 'near'>

/** What a character's side may come into a wall by, in metres, and still stand. */
export const touching = 1e-6

/** Whether a character of some radius can stand at a point, bodies that come and go left out of account. */
export function canStand(layout: Standable, p: Point, radius: number): boolean {
  if (!onGround(layout, p)) return false
  const near = layout.near.walls.near(boxAround(p, radius), 0)
  return near.every((wall) => toSegment(p, layout.walls[wall]!) >= radius - touching)
}

/** Whether a point is in a room or a doorway and not in an obstacle. */
export function onGround({ rooms, doorways, solids, near }: Standable, p: Point): boolean {
  const box = boxAround(p, 0)
  const isIn = (outline: readonly Point[]): boolean => inPolygon(p, outline)
  const isOn =
    near.rooms.near(box, hair).some((i) => isIn(rooms[i]!.outline)) ||
    near.doorways.near(box, hair).some((i) => isIn(doorways[i]!.outline))
  return isOn && !near.solids.near(box, hair).some((i) => isIn(solids[i]!))
}
