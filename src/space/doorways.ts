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

/** A doorway on the ground: its rectangle, and which way leads through it, in degrees. */
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
  const ways = a && b ? waysThrough(at, doorway.depth, a, b, doorway.turn) : [doorway.turn ?? 0]
  if (ways.length === 0) {
    const wrong = { is: 'doorway-apart', rooms: [...doorway.joins] } as const
    problems.push({ rule: 'bad-value', path: `doorways.${name}.at`, subject: name, wrong })
  }
  const turn = ways[0] ?? doorway.turn ?? 0
  return {
    name,
    at,
    outline: rectangle(at, [doorway.depth, doorway.width], turn),
    turn,
    rooms: [...doorway.joins],
  }
}

/**
 * The directions in which a doorway joins two rooms, the likeliest first: only the written one, where there is one; else
 * straight through a wall that it lies in, that of the nearest wall first; else along x or y. One that comes out inside of
 * both rooms goes before one that comes out on their borders.
 */
function waysThrough(
  at: Point,
  depth: number,
  a: readonly Point[],
  b: readonly Point[],
  written: number | undefined,
): number[] {
  const isOut = (turn: number, reaches: (p: Point, room: readonly Point[]) => boolean): boolean => {
    const [x, y] = direction(turn)
    const ends: Point[] = [
      moved(at, [(x * depth) / 2, (y * depth) / 2]),
      moved(at, [(-x * depth) / 2, (-y * depth) / 2]),
    ]
    return [0, 1].some((i) => reaches(ends[i]!, a) && reaches(ends[1 - i]!, b))
  }
  const isDeep = (p: Point, room: readonly Point[]): boolean => inPolygon(p, room) && toBorder(p, room) > hair
  const turns = written === undefined ? [...turnsOfWalls(at, depth, a, b), 0, 90] : [written]
  const deep = turns.filter((turn) => isOut(turn, isDeep))
  return [...deep, ...turns.filter((turn) => isOut(turn, inPolygon))]
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
