import { levelIn, type NameProblem } from '../interactables/index.ts'
import type { Level } from '../model/index.ts'
import { boxAround, type Boxes, boxOf } from './boxes.ts'
import type { DoorwayPlace } from './doorways.ts'
import { between, edges, hair, inPolygon, meetingShare, nearestShare, type Point, toBorder } from './geometry.ts'

/** A point in the frame in which the level is drawn, and its height above the floor of the storey that it is seen from; metres. */
type Height3 = readonly [number, number, number]

interface Storey {
  /** The level of a project that it belongs to; null where there is only one. */
  readonly level: string | null
  readonly title: string
  readonly floor: number
  readonly drawnAt: Point
}

interface Rooms {
  readonly rooms: readonly { readonly name: string; readonly outline: readonly Point[] }[]
  readonly doorways: readonly DoorwayPlace[]
  readonly near: { readonly rooms: Boxes; readonly doorways: Boxes }
}

/**
 * Storeys that lie over one another, and are drawn side by side. Nobody walks from one to the other, so wherever somebody can
 * stand, all spots less than half its width off are on one storey: a cell is on just one.
 */
export class Storeys {
  readonly #all: readonly Storey[]
  readonly #ground: Rooms
  /** The storey of each room, by index; -1: of none. */
  readonly #ofRoom: readonly number[]

  /** Their titles, or names, by number. */
  get titles(): readonly string[] {
    return this.#all.map(({ title }) => title)
  }

  private constructor(all: readonly Storey[], ground: Rooms, ofRoom: readonly number[]) {
    this.#all = all
    this.#ground = ground
    this.#ofRoom = ofRoom
  }

  /** The storeys of a level; null where it has none. */
  static of({ storeys = {}, rooms }: Level, ground: Rooms): Storeys | null {
    const names = Object.keys(storeys)
    if (names.length === 0) return null
    const all = Object.entries(storeys).map(
      ([name, { title = levelIn(name).name, floor = 0, 'drawn-at': drawnAt }]) => {
        return {
          level: levelIn(name).level,
          title,
          floor,
          drawnAt: (drawnAt as Point | undefined) ?? ([0, 0] as const),
        }
      },
    )
    const ofRoom = ground.rooms.map(({ name }) => names.indexOf(rooms[name]?.storey ?? ''))
    return new Storeys(all, ground, ofRoom)
  }

  /** The number of the storey that a spot is on, or of the nearest room where it is in none; -1: of none. */
  at(p: Point): number {
    const { rooms, doorways, near } = this.#ground
    const box = boxAround(p, 0)
    const room = near.rooms.near(box, hair).find((index) => inPolygon(p, rooms[index]!.outline))
    if (room !== undefined) return this.#ofRoom[room]!
    const doorway = near.doorways.near(box, hair).find((index) => inPolygon(p, doorways[index]!.outline))
    const joined = doorway === undefined ? undefined : doorways[doorway]!.rooms[0]
    if (joined !== undefined) return this.#ofRoom[rooms.findIndex(({ name }) => name === joined)] ?? -1
    const far = rooms.map(({ outline }) => toBorder(p, outline))
    return this.#ofRoom[far.indexOf(Math.min(...far))]!
  }

  /** The other storeys of a level that a storey is in. */
  others(storey: number): number[] {
    const own = this.#all[storey]
    if (!own) return []
    return this.#all.flatMap((other, i) => (i !== storey && other.level === own.level ? [i] : []))
  }

  /** A point of one storey as it is for those who are on another: straight above or below, with its height above their floor. */
  seenFrom(point: Height3, from: number, to: number): Height3 {
    const [own, other] = [this.#all[from]!, this.#all[to]!]
    const [x, y, height] = point
    return [
      x + (other.drawnAt[0] - own.drawnAt[0]),
      y + (other.drawnAt[1] - own.drawnAt[1]),
      height + (own.floor - other.floor),
    ]
  }
}

/** Whether a doorway joins rooms of different storeys. */
export function isBetweenStoreys({ rooms, doorways = {} }: Level): boolean {
  return Object.values(doorways).some(({ joins: [a, b] }) => rooms[a]?.storey !== rooms[b]?.storey)
}

/** Rooms that are drawn over one of another storey. */
export function drawnOver({ rooms }: Level): NameProblem[] {
  const all = Object.entries(rooms)
  return all.flatMap(([name, room], i) => {
    const over = all
      .slice(0, i)
      .find(([, other]) => other.storey !== room.storey && isOver(room.outline, other.outline))
    if (!over) return []
    const storeys = [room.storey ?? null, over[1].storey ?? null]
    const wrong = { is: 'drawn-over', room: over[0], storeys } as const
    return [{ rule: 'bad-value', path: `rooms.${name}.outline`, subject: name, wrong }]
  })
}

/** Metres from a border to a spot that is inside of it. */
const inside = 1e-3

/** Whether two outlines have more than their borders in common: then so has the inner side of some piece of a side of one of them. */
function isOver(one: readonly Point[], other: readonly Point[]): boolean {
  const [a, b] = [boxOf(one), boxOf(other)]
  if ([0, 1].some((axis) => a.from[axis]! > b.to[axis]! || b.from[axis]! > a.to[axis]!)) return false
  return isSideWithin(one, other) || isSideWithin(other, one)
}

function isSideWithin(outline: readonly Point[], other: readonly Point[]): boolean {
  const isIn = (p: Point, polygon: readonly Point[]): boolean => inPolygon(p, polygon) && toBorder(p, polygon) > hair
  return edges(outline).some((side) => {
    const shares = [
      ...edges(other).flatMap((its) => meetingShare(side, its) ?? []),
      ...other.map((p) => nearestShare(p, side)),
    ]
    const cuts = [0, ...shares.sort((a, b) => a - b), 1]
    const across: Point = [side.a[1] - side.b[1], side.b[0] - side.a[0]]
    const scale = inside / Math.hypot(...across)
    return cuts.some((cut, i) => {
      const next = cuts[i + 1]
      if (next === undefined || next - cut < hair) return false
      const [x, y] = between(side.a, side.b, (cut + next) / 2)
      return [scale, -scale].some((off) => {
        const spot: Point = [x + across[0] * off, y + across[1] * off]
        return isIn(spot, outline) && isIn(spot, other)
      })
    })
  })
}
