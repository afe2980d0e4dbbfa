import type { Placed } from '../interactables/index.ts'
import { join, type Role } from '../model/index.ts'
import { bodyNow } from '../play/index.ts'
import { type LaidOut, distance, type Figure, type Point, toPolygon, turned } from '../space/index.ts'
import { coverage } from './coverage.ts'

/** What every shape says: what it belongs to, and the part of the level that it was made from, such as `rooms.mill`. */
export interface PlanPart {
  readonly name: string
  readonly path: string
}

/** Ground with corners. */
export interface PlanGround extends PlanPart {
  readonly title: string
  readonly outline: readonly Point[]
  /** The storey of a room; null where it has none, and for all else. */
  readonly storey: string | null
}

/** Something that is drawn on a plan, in metres, x east and y north; angles in degrees, counter-clockwise from east. */
export type PlanShape =
  | (PlanGround & { readonly kind: 'room' })
  | (PlanGround & { readonly kind: 'doorway' })
  | (PlanGround & { readonly kind: 'obstacle' })
  /** A piece of wall, from one end to the other. */
  | (PlanPart & { readonly kind: 'wall'; readonly ends: readonly [Point, Point] })
  /** A zone; `outline` of one with corners, else `at` with its radius and, of a ring, the radius of the hole in it, else 0. */
  | (PlanPart & {
      readonly kind: 'zone'
      readonly outline: readonly Point[] | null
      readonly at: Point
      readonly radius: number
      readonly inner: number
    })
  /** How far a range goes on paper, whatever is in the way. */
  | (PlanPart & { readonly kind: 'range'; readonly at: Point; readonly radius: number; readonly until: number })
  /** A body in a state, and what its leaf sweeps over until it comes to stand in `end`; null where it does not move so. */
  | (PlanPart & {
      readonly kind: 'body'
      readonly outline: readonly Point[]
      readonly blocks: boolean
      readonly sweep: readonly Point[] | null
      readonly end: readonly Point[] | null
    })
  | (PlanPart & { readonly kind: 'handle'; readonly at: Point; readonly pressable: boolean })
  | (PlanPart & {
      readonly kind: 'place'
      readonly at: Point
      /** The way that one looks who is moved there; null: as before. */
      readonly facing: number | null
    })
  | (PlanPart & {
      readonly kind: 'start'
      readonly at: Point
      readonly radius: number
      readonly facing: number
      readonly role: Role
    })

/** The shapes of one kind. */
export type ShapeOf<K extends PlanShape['kind']> = Extract<PlanShape, { readonly kind: K }>

/**
 * Everything on the plan of a level, from what lies lowest to what lies on top; bodies as they stand in `states`, by the name of the
 * interactable, or else in their initial states.
 */
export function planShapes(stage: LaidOut, states: Readonly<Record<string, string>> = {}): PlanShape[] {
  const { space, expanded } = stage
  const { level } = expanded
  const { layout } = space
  return [
    ...layout.rooms.map(({ name, outline }): PlanShape => {
      const { title = name, storey = null } = level.rooms[name]!
      return { kind: 'room', name, path: join('rooms', name), title, outline, storey }
    }),
    ...layout.doorways.map(({ name, outline }): PlanShape => {
      return { kind: 'doorway', name, path: join('doorways', name), title: name, outline, storey: null }
    }),
    ...Object.entries(level.obstacles ?? {}).map(([name, { outline }]): PlanShape => {
      const corners = outline.map(([x, y]): Point => [x, y])
      return { kind: 'obstacle', name, path: join('obstacles', name), title: name, outline: corners, storey: null }
    }),
    ...layout.zones.flatMap((zone, i) => zoneShape(stage, zone, i)),
    ...expanded.interactables.flatMap(({ index, name, path, radius, until }): PlanShape[] => {
      const { pressable, rangeFrom } = layout.figures[index]!
      return pressable && rangeFrom
        ? [{ kind: 'range', name, path, at: [rangeFrom[0], rangeFrom[1]], radius, until }]
        : []
    }),
    ...layout.walls.map(({ a, b }): PlanShape => ({ kind: 'wall', name: '', path: '', ends: [a, b] })),
    ...expanded.interactables.flatMap((placed): PlanShape[] => {
      const figure = layout.figures[placed.index]!
      const { body } = figure
      if (!body) return []
      const { name, path } = placed
      const state = placed.states.find((one) => one.name === states[name]) ?? placed.states[placed.initial]!
      return [{ kind: 'body', name, path, outline: body, blocks: state.blocksWalk, ...swing(placed, figure) }]
    }),
    ...expanded.places.map(({ name, at, facing }): PlanShape => {
      return { kind: 'place', name, path: join('places', name), at, facing }
    }),
    ...expanded.interactables.flatMap(({ index, name, path }): PlanShape[] => {
      const { handle, pressable } = layout.figures[index]!
      return handle ? [{ kind: 'handle', name, path, at: [handle[0], handle[1]], pressable }] : []
    }),
    ...expanded.characters.map(({ name, start, radius, facing, role }): PlanShape => {
      return { kind: 'start', name, path: join('characters', name), at: start, radius, facing, role }
    }),
  ]
}

/** As far as this from a room something still belongs to it: in its walls, or in a doorway of them; metres. */
const wallsDepth = 0.5

/**
 * Of what is on a plan, what is on one storey: its rooms, and what stands in them or in their walls; ranges and zones go with what they belong
 * to. Empty where no room is on such a storey.
 */
export function shapesOnStorey(shapes: readonly PlanShape[], storey: string): PlanShape[] {
  const rooms = shapes.filter((one): one is ShapeOf<'room'> => one.kind === 'room' && one.storey === storey)
  const isNear = (p: Point): boolean => rooms.some(({ outline }) => toPolygon(p, outline) < wallsDepth)
  const paths = new Set(rooms.map(({ path }) => path))
  for (const one of shapes) {
    if (one.kind === 'room' || one.kind === 'wall' || one.kind === 'zone' || one.kind === 'range') continue
    if (isNear('at' in one ? one.at : middle(one.outline))) paths.add(one.path)
  }
  return shapes.filter((one) => (one.kind === 'wall' ? isNear(middle(one.ends)) : paths.has(one.path)))
}

function middle(points: readonly Point[]): Point {
  const sum = (axis: 0 | 1): number => points.reduce((all, p) => all + p[axis], 0) / points.length
  return [sum(0), sum(1)]
}

/**
 * What the range of an interactable really covers: where the first player can stand and a press goes to it, with all that may hide it out of
 * the way. Outlines in metres, holes among them (even-odd); empty where nothing is pressed, or it can be pressed from nowhere.
 */
export function coveredBy(stage: LaidOut, placed: Placed): Point[][] {
  const person = stage.expanded.characters.find(({ role }) => role === 'player') ?? stage.expanded.characters[0]!
  if (!stage.space.layout.figures[placed.index]!.pressable) return []
  return coverage(stage, placed, person).map(straightened)
}

/** A closed line without the spots that lie straight between their neighbours. */
function straightened(outline: readonly Point[]): Point[] {
  const kept: Point[] = []
  for (const [i, p] of outline.entries()) {
    const [before, after] = [kept.at(-1) ?? outline.at(-1)!, outline[(i + 1) % outline.length]!]
    const along = distance(before, after)
    const off = (p[0] - before[0]) * (after[1] - before[1]) - (p[1] - before[1]) * (after[0] - before[0])
    if (along > 0 && Math.abs(off) / along > 0.0005) kept.push(p)
  }
  return kept
}

function zoneShape(
  { expanded }: LaidOut,
  zone: LaidOut['space']['layout']['zones'][number],
  index: number,
): PlanShape[] {
  // A character that touches a body is at the body, which is drawn already.
  if (zone.kind === 'skin') return []
  const { interactable, name: zoneOwn } = expanded.zones[index]!
  const owner = expanded.interactables[interactable]
  const named = owner
    ? { name: `${owner.name}/${zoneOwn}`, path: owner.path }
    : { name: zoneOwn, path: join('rooms', zoneOwn) }
  if (zone.kind === 'polygon')
    return [{ kind: 'zone', ...named, outline: zone.outline, at: zone.outline[0] ?? [0, 0], radius: 0, inner: 0 }]
  const inner = zone.kind === 'ring' ? zone.inner : 0
  return [{ kind: 'zone', ...named, outline: null, at: zone.at, radius: zone.radius, inner }]
}

/** What a leaf sweeps over on its way, and where it comes to stand. */
function swing(
  { states }: Placed,
  figure: Figure,
): { readonly sweep: readonly Point[] | null; readonly end: readonly Point[] | null } {
  const motion = states.find((state) => state.motion?.to === 1)?.motion
  const { body, pivot } = figure
  if (!motion || motion.kind === 'vanish' || !body || !pivot) return { sweep: null, end: null }
  const end = bodyNow(figure, {
    turn: motion.kind === 'turn' ? motion.turn : 0,
    shift: motion.kind === 'slide' ? motion.slide : [0, 0, 0],
    there: 1,
  })
  if (!end || motion.kind === 'slide') return { sweep: null, end }
  const far = body.reduce((best, p) => (distance(p, pivot) > distance(best, pivot) ? p : best))
  const count = Math.max(2, Math.ceil(Math.abs(motion.turn) / 5))
  const arc = Array.from({ length: count + 1 }, (_, i): Point => {
    const [x, y] = turned([far[0] - pivot[0], far[1] - pivot[1]], (motion.turn * i) / count)
    return [pivot[0] + x, pivot[1] + y]
  })
  return { sweep: [pivot, ...arc], end }
}
