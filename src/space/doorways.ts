import type { NameProblem } from '../interactables/index.ts'
import type { Level } from '../model/index.ts'
import {
  degreesOf,
  direction,
  distance,
  edges,
  hair,
  inPolygon,
  moved,
  type Point,
  rectangle,
  toBorder,
  toSegment,
} from './geometry.ts'

/** A doorway on the ground: its rectangle, and which way leads through it, from its first room to its second, in degrees. */
export interface DoorwayPlace {
  readonly name: string
  readonly at: Point
  readonly outline: readonly Point[]
  readonly turn: number
  readonly rooms: readonly string[]
}

/** Puts a doorway on the ground. Where it joins its rooms in no direction, `problems` says so. */
export function placeDoorway(level: Level, name: string, problems: NameProblem[]): DoorwayPlace {
  const doorway = level.doorways?.[name]
  if (!doorway) throw new Error(`there is no doorway ${name}`)
  const at = doorway.at as Point
  const [a, b] = doorway.joins.map((room) => level.rooms[room]?.outline as Point[] | undefined)
  const turns = a && b && doorway.turn === undefined ? bothWays([...turnsOfWalls(at, doorway.depth, a, b), 0, 90]) : []
  const ways = a && b ? waysThrough(at, doorway.depth, a, b, doorway.turn ?? null, turns) : []
  if (a && b && ways.length === 0) {
    const wrong = { is: 'doorway-apart', rooms: [...doorway.joins] } as const
    problems.push({ rule: 'bad-value', path: `doorways.${name}.at`, subject: name, wrong })
  }
  // Also where it leads nowhere its hinge has to be on some side, however the level lies.
  const turn = ways[0] ?? doorway.turn ?? (a && b ? towards(turns, a, b) : 0)
  return {
    name,
    at,
    outline: rectangle(at, [doorway.depth, doorway.width], turn),
    turn,
    rooms: [...doorway.joins],
  }
}

/**
 * The directions in which a doorway leads from one room to another, the likeliest first: only the written one, where there is
 * one; else, of `turns`, straight through a wall that it lies in, that of the nearest wall first; else along x or y. One that comes out inside
 * of both rooms goes before one that comes out on their borders.
 */
function waysThrough(
  at: Point,
  depth: number,
  a: readonly Point[],
  b: readonly Point[],
  written: number | null,
  turns: readonly number[],
): number[] {
  const leads = (turn: number, reaches: (p: Point, room: readonly Point[]) => boolean): boolean => {
    const [x, y] = direction(turn)
    const from = moved(at, [(-x * depth) / 2, (-y * depth) / 2])
    return reaches(from, a) && reaches(moved(at, [(x * depth) / 2, (y * depth) / 2]), b)
  }
  const isDeep = (p: Point, room: readonly Point[]): boolean => inPolygon(p, room) && toBorder(p, room) > hair
  const tried = written === null ? turns : bothWays([written])
  const leading = (reaches: (p: Point, room: readonly Point[]) => boolean): number[] =>
    tried.filter((turn) => leads(turn, reaches))
  const found = [...leading(isDeep), ...leading(inPolygon)]
  // A written one leads that way, whichever room it sets out from.
  return written !== null && found.length > 0 ? [written] : found
}

/** Directions, each there and back. */
function bothWays(turns: readonly number[]): number[] {
  return turns.flatMap((turn) => [turn, turn > 0 ? turn - 180 : turn + 180])
}

/** Of some directions the one that points most from the middle of one room to that of another. */
function towards(turns: readonly number[], a: readonly Point[], b: readonly Point[]): number {
  const middle = (room: readonly Point[]): Point => [
    room.reduce((sum, [x]) => sum + x, 0) / room.length,
    room.reduce((sum, [, y]) => sum + y, 0) / room.length,
  ]
  const [from, to] = [middle(a), middle(b)]
  const pointing = (turn: number): number => {
    const [x, y] = direction(turn)
    return x * (to[0] - from[0]) + y * (to[1] - from[1])
  }
  return turns.reduce((best, turn) => (pointing(turn) > pointing(best) + hair ? turn : best))
}

/** Straight through the walls that a doorway lies in; of walls that are as near, by direction. */
function turnsOfWalls(at: Point, depth: number, a: readonly Point[], b: readonly Point[]): number[] {
  const walls = [...edges(a), ...edges(b)].flatMap((wall) => {
    const gap = toSegment(at, wall)
    if (gap > depth / 2 + hair || distance(wall.a, wall.b) <= hair) return []
    const across: Point = [wall.a[1] - wall.b[1], wall.b[0] - wall.a[0]]
    return [{ gap, turn: degreesOf(across) }]
  })
  walls.sort((one, other) => (Math.abs(one.gap - other.gap) > hair ? one.gap - other.gap : one.turn - other.turn))
  return [...new Set(walls.map(({ turn }) => turn))]
}
