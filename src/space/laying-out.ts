import type { Expanded, NameProblem, Placed, PlacedCharacter } from '../interactables/index.ts'
import { join, type Level, mapped, type ZoneDefinition } from '../model/index.ts'
import { type Box, boxAround, Boxes, BoxesOfThings, boxOf } from './boxes.ts'
import { nearestWritten } from './closest.ts'
import { type DoorwayPlace, placeDoorway } from './doorways.ts'
import {
  crossesItself,
  direction,
  edges,
  hair,
  moved,
  outside,
  type Point,
  rectangle,
  type Segment,
  turned,
} from './geometry.ts'
import {
  canStand,
  type Figure,
  type Grounds,
  type Layout,
  type Nearby,
  onGround,
  type Points,
  type Shape,
  type Standable,
} from './layout.ts'
import { handlesOf } from './reach.ts'
import { drawnOver, isBetweenStoreys, Storeys } from './storeys.ts'
import { zoneBox } from './zone-shapes.ts'

/** Puts a level on the ground. Places that cannot be meant are told in `problems`. */
export function* layOut(expanded: Expanded): Generator<undefined, Layout> {
  const { level } = expanded
  const problems: NameProblem[] = []
  const rooms = Object.entries(level.rooms).map(([name, room]) => ({ name, outline: room.outline }))
  const doorways = yield* mapped(Object.keys(level.doorways ?? {}), (name) => placeDoorway(level, name, problems))
  const doorwayOf = new Map(doorways.map((doorway) => [doorway.name, doorway]))
  const near = { rooms: boxesOf(rooms, outlined), doorways: boxesOf(doorways, outlined) }
  const over = level.storeys ? drawnOver(level) : []
  // Where one could walk from one storey to another, a cell might be on both: then nothing is pressed through floors, besides what is told.
  const storeys = over.length > 0 || isBetweenStoreys(level) ? null : Storeys.of(level, { rooms, doorways, near })
  const figures = yield* mapped(expanded.interactables, (placed) => figure(placed, level, doorwayOf, storeys))
  const obstacles = Object.values(level.obstacles ?? {})
  const walkable = (blocks: readonly string[] | undefined): boolean => blocks !== undefined && !blocks.includes('walk')
  const seeable = (blocks: readonly string[] | undefined): boolean => blocks !== undefined && !blocks.includes('sight')
  const fixed = expanded.interactables.flatMap((placed, i) => {
    const body = figures[i]?.body
    return body && placed.states.every((state) => state.blocksWalk) ? [body] : []
  })
  const solids = [...obstacles.filter((o) => !walkable(o.blocks)).map((o) => o.outline as Point[]), ...fixed]
  const roomWalls = yield* wallsOf(rooms, doorways)
  const ground: Grounds = {
    rooms,
    doorways,
    solids,
    walls: [...roomWalls, ...solids.flatMap(edges)],
    screens: [...roomWalls, ...obstacles.filter((o) => !seeable(o.blocks)).flatMap((o) => edges(o.outline as Point[]))],
    figures,
    storeys,
    zones: expanded.zones.map(({ shape, interactable }) => {
      const owner = expanded.interactables[interactable]
      const frame = owner ? frameOf(owner, level, doorwayOf) : null
      return zoneShape(shape, frame?.at ?? [0, 0], frame?.turn ?? 0, figures[interactable]?.body ?? null)
    }),
  }
  const placed = { ...ground, near: { ...nearby(ground), ...near } }
  const starts = expanded.characters.map(({ start, radius }) => nearestWritten(placed, start, radius))
  problems.push(
    ...outlineProblems(level),
    ...over,
    ...expanded.characters.flatMap((character, i) => startProblem(character, placed, starts[i] ?? null)),
    ...placeProblems(expanded, placed),
  )
  return { ...placed, starts: starts.map((start, i) => start ?? expanded.characters[i]!.start), problems }
}

function boxesOf<T>(all: readonly T[], box: (one: T) => Box | null): Boxes {
  return new Boxes(all.map(box))
}

function outlined({ outline }: { readonly outline: readonly Point[] }): Box {
  return boxOf(outline)
}

function nearby({ solids, walls, screens, figures, zones }: Grounds): Omit<Nearby, 'rooms' | 'doorways'> {
  const bodyOf = ({ body }: Figure): Box | null => body && boxOf(body)
  return {
    walls: boxesOf(walls, ({ a, b }) => boxOf([a, b])),
    screens: boxesOf(screens, ({ a, b }) => boxOf([a, b])),
    zones: boxesOf(zones, zoneBox),
    bodies: boxesOf(figures, (figure) => (figure.comesAndGoes ? bodyOf(figure) : null)),
    hiders: boxesOf(figures, (figure) => (figure.hides ? bodyOf(figure) : null)),
    handles: new BoxesOfThings(
      figures.flatMap((figure, thing) =>
        figure.pressable
          ? handlesOf(figure).map((handle) => ({ thing, box: boxAround([handle[0], handle[1]], 0) }))
          : [],
      ),
    ),
    solids: boxesOf(solids, boxOf),
  }
}

/** The edges of rooms but for where a doorway opens them, and the sides of doorways. */
function* wallsOf(rooms: Layout['rooms'], doorways: readonly DoorwayPlace[]): Generator<undefined, Segment[]> {
  const walls: Segment[] = []
  const openings = new Map<string, (readonly Point[])[]>(rooms.map(({ name }) => [name, []]))
  for (const doorway of doorways) for (const room of doorway.rooms) openings.get(room)?.push(doorway.outline)
  const outlines = new Map(rooms.map(({ name, outline }) => [name, outline]))
  for (const room of rooms) {
    yield
    for (const edge of edges(room.outline)) walls.push(...outside(edge, openings.get(room.name)!))
  }
  for (const doorway of doorways) {
    yield
    const joined = doorway.rooms.flatMap((room) => [outlines.get(room) ?? []])
    for (const edge of edges(doorway.outline)) walls.push(...outside(edge, joined))
  }
  return walls
}

/** Doorways by name. */
type Doorways = ReadonlyMap<string, DoorwayPlace>

function figure(placed: Placed, level: Level, doorways: Doorways, storeys: Storeys | null): Figure {
  const frame = frameOf(placed, level, doorways)
  const blocking = placed.states.filter((state) => state.blocksWalk).length
  const pressable =
    placed.transitions.some(({ when }) => when.kind === 'press' || when.kind === 'hold' || when.kind === 'release') ||
    placed.states.some((state) => state.ignoresPress || state.dials)
  const hides = placed.states.some((state) => state.blocksSight)
  if (!frame) {
    return {
      body: null,
      turn: 0,
      pivot: null,
      handle: null,
      rangeFrom: null,
      storey: -1,
      elsewhere: new Map(),
      standsIn: null,
      comesAndGoes: false,
      hides: false,
      pressable,
    }
  }
  const { at, turn, size } = frame
  const body = size ? rectangle(at, size, turn) : null
  const handle = handlePoint(placed, at, turn, size)
  const from = placed.rangeFrom
  const rangeFrom =
    from === 'handle'
      ? handle
      : from === 'centre'
        ? ([...at, handle[2]] as const)
        : ([...moved(turned([from[0], from[1]], turn), at), from[2]] as const)
  const comesAndGoes = body !== null && blocking > 0 && blocking < placed.states.length
  const pivot = pivotPoint(placed, at, turn, size)
  const standsIn = placed.standsIn === null ? null : zoneShape(placed.standsIn, at, turn, body)
  const storey = storeys ? storeys.at(at) : -1
  const others = storeys && pressable && !placed.sight ? storeys.others(storey) : []
  const elsewhere = new Map(
    others.map((other): [number, Points] => [
      other,
      {
        handle: storeys!.seenFrom(handle, storey, other),
        rangeFrom: storeys!.seenFrom(rangeFrom, storey, other),
      },
    ]),
  )
  return {
    body,
    turn,
    pivot,
    handle,
    rangeFrom,
    storey,
    elsewhere,
    standsIn,
    comesAndGoes,
    hides: hides && body !== null,
    pressable,
  }
}

/** A frame: its own y leads through a doorway, its own x across. */
function frameOf(
  placed: Placed,
  level: Level,
  doorways: Doorways,
): { at: Point; turn: number; size: Point | null } | null {
  if (placed.doorway !== null) {
    const doorway = doorways.get(placed.doorway)
    const written = level.doorways?.[placed.doorway]
    if (!doorway || !written) return null
    return { at: doorway.at, turn: doorway.turn - 90 + placed.turn, size: [written.width, written.depth] }
  }
  return placed.at ? { at: placed.at, turn: placed.turn, size: placed.size } : null
}

/** The hinge is at the end of the body that the handle is away from. */
function pivotPoint({ handle }: Placed, at: Point, turn: number, size: Point | null): Point {
  if (handle === null || Array.isArray(handle)) return at
  const half = (size?.[0] ?? 0) / 2
  return moved(turned([handle['away-from'] === 'left' ? -half : half, 0], turn), at)
}

function handlePoint(placed: Placed, at: Point, turn: number, size: Point | null): readonly [number, number, number] {
  const { handle, height } = placed
  if (handle === null) return [at[0], at[1], height ?? 1]
  if (Array.isArray(handle)) {
    const [x, y] = moved(turned([handle[0], handle[1]], turn), at)
    return [x, y, height ?? handle[2]]
  }
  const half = (size?.[0] ?? 0) / 2
  const inset = Math.min(handle.inset ?? 0.1, half)
  const x = handle['away-from'] === 'left' ? half - inset : inset - half
  const [wx, wy] = moved(turned([x, 0], turn), at)
  return [wx, wy, height ?? handle.height ?? 1]
}

/** A zone on the ground, of something at some place that is turned by so many degrees. */
function zoneShape(shape: ZoneDefinition | 'skin', place: Point, turn: number, body: readonly Point[] | null): Shape {
  if (shape === 'skin') return { kind: 'skin', body: body ?? rectangle(place, [0.02, 0.02], 0) }
  if (shape.outline) {
    return { kind: 'polygon', outline: (shape.outline as Point[]).map((p) => moved(turned(p, turn), place)) }
  }
  const at = shape.at ? moved(turned([shape.at[0], shape.at[1]], turn), place) : place
  if (shape.box) {
    return { kind: 'polygon', outline: rectangle(at, [shape.box[0], shape.box[1]], turn + (shape.turn ?? 0)) }
  }
  if (shape.ring) return { kind: 'ring', at, inner: shape.ring.from, radius: shape.ring.to }
  if (shape.sector) {
    const { radius, degrees, facing = 90 } = shape.sector
    return { kind: 'polygon', outline: sectorOf(at, radius, degrees, turn + facing) }
  }
  return { kind: 'circle', at, radius: shape.radius ?? 1 }
}

/** A slice of a circle as a polygon, with a corner on its arc every five degrees or oftener; counter-clockwise. */
function sectorOf(at: Point, radius: number, degrees: number, facing: number): Point[] {
  const steps = Math.ceil(degrees / 5)
  const arc = Array.from({ length: steps + 1 }, (_, i): Point => {
    const [x, y] = direction(facing - degrees / 2 + (degrees * i) / steps)
    return moved(at, [x * radius, y * radius])
  })
  return [at, ...arc]
}

function outlineProblems(level: Level): NameProblem[] {
  const groups = { rooms: level.rooms, obstacles: level.obstacles ?? {} }
  return Object.entries(groups).flatMap(([group, all]) =>
    Object.entries(all).flatMap(([name, { outline }]) => {
      if (!crossesItself(outline as Point[]) && area(outline as Point[]) > hair) return []
      const path = join(`${group}.${name}`, 'outline')
      return [{ rule: 'bad-value' as const, path, subject: name, wrong: { is: 'outline-crossed' as const } }]
    }),
  )
}

function area(outline: readonly Point[]): number {
  let twice = 0
  for (const { a, b } of edges(outline)) twice += a[0] * b[1] - b[0] * a[1]
  return Math.abs(twice) / 2
}

/** A place where nobody who can be moved there can stand. */
function placeProblems({ places, characters }: Expanded, layout: Standable): NameProblem[] {
  return places.flatMap(({ name, at }) => {
    const [radius] = characters.map((character) => character.radius).sort((a, b) => a - b)
    if (radius === undefined || canStand(layout, at, radius)) return []
    return [
      { rule: 'bad-value' as const, path: `places.${name}.at`, subject: name, wrong: { is: 'place-closed' as const } },
    ]
  })
}

/** Somebody who cannot stand where it starts: it starts at the nearest spot where it can. */
function startProblem(
  { name, start, radius }: PlacedCharacter,
  layout: Standable,
  nearest: Point | null,
): NameProblem[] {
  if (canStand(layout, start, radius)) return []
  const where = onGround(layout, start) ? 'near-wall' : 'outside'
  return [{ rule: 'blocked-start', path: `characters.${name}.start`, subject: name, where, nearest }]
}
