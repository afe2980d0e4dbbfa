import { type Placed, typeChain } from '../interactables/index.ts'
import { type HandleDefinition, join, type TypeDefinition, type ZoneDefinition } from '../model/index.ts'
import { direction, distance, type Figure, type LaidOut, moved, type Point, turned } from '../space/index.ts'

/** A frame on the ground: where its middle is, degrees that it is turned by, and how many metres one of its own is. */
export interface GripFrame {
  readonly at: Point
  readonly turn: number
  readonly scale: number
}

/** A part of a zone that is dragged. */
export type GripPart = 'radius' | 'middle' | 'size' | 'turn' | 'arc' | 'width' | 'from' | 'to' | number

/** What a grip changes, and how. */
export type PlanDrag =
  /** A spot in a frame, with a height where one is written. */
  | { readonly is: 'spot'; readonly path: string; readonly frame: GripFrame; readonly height: number | null }
  /** How far it is from a spot, in metres of so many; `side`: along this way only, to both sides. */
  | {
      readonly is: 'distance'
      readonly path: string
      readonly from: Point
      readonly metre: number
      readonly side: number | null
    }
  /** Which way it is seen from a spot, in degrees from `zero`. */
  | { readonly is: 'direction'; readonly path: string; readonly from: Point; readonly zero: number }
  | {
      readonly is: 'zone'
      readonly path: string
      readonly frame: GripFrame
      readonly zone: ZoneDefinition
      readonly part: GripPart
    }
  /** How far a leaf turns about its hinge: at so many places, and what says another way there. */
  | {
      readonly is: 'swing'
      readonly paths: readonly string[]
      readonly ways: readonly string[]
      readonly hinge: Point
      readonly shut: number
    }
  | { readonly is: 'slide'; readonly paths: readonly string[]; readonly frame: GripFrame; readonly height: number }
  | { readonly is: 'hinge'; readonly path: string; readonly frame: GripFrame }
  /** How far a handle is from the end of a body that is `half` as long, at its left or its right end. */
  | {
      readonly is: 'inset'
      readonly path: string
      readonly frame: GripFrame
      readonly half: number
      readonly end: 'left' | 'right'
      readonly handle: HandleDefinition
    }

/** Something on a plan that can be dragged, and what the text says then. */
export interface PlanGrip {
  /** The part of the level that it belongs to, such as `interactables.mill-door`. */
  readonly path: string
  /** What it changes, in a few words. */
  readonly says: string
  /** Where it is, in metres. */
  readonly at: Point
  /** Degrees: which way it is drawn beside its spot, where something else is at the spot itself; null: it is drawn there. */
  readonly beside: number | null
  readonly drag: PlanDrag
}

/** A value that a part of a level comes to have; undefined: none. */
export interface PlanChange {
  readonly path: string
  readonly value: unknown
}

const ground: GripFrame = { at: [0, 0], turn: 0, scale: 1 }
/** Metres between something and the grip that turns it. */
const armsLength = 0.6

/** Everything on the plan of a level that can be dragged, besides the things themselves. */
export function gripsOf(stage: LaidOut): PlanGrip[] {
  const { expanded, space } = stage
  const { level } = expanded
  const corners = (
    section: string,
    all: Readonly<Record<string, { readonly outline: readonly (readonly number[])[] }>>,
  ) =>
    Object.entries(all).flatMap(([name, { outline }]) =>
      outline.map(([x = 0, y = 0], i): PlanGrip => {
        const path = join(section, name)
        const drag: PlanDrag = { is: 'spot', path: `${path}.outline.${String(i)}`, frame: ground, height: null }
        return { path, says: 'corner', at: [x, y], beside: null, drag }
      }),
    )
  const turning = (path: string, at: Point, facing: number, off: number): PlanGrip => {
    const [x, y] = direction(facing)
    const drag: PlanDrag = { is: 'direction', path: `${path}.facing`, from: at, zero: 0 }
    return { path, says: 'which way it looks', at: moved(at, [x * off, y * off]), beside: null, drag }
  }
  return [
    ...corners('rooms', level.rooms),
    ...corners('obstacles', level.obstacles ?? {}),
    ...space.layout.doorways.map(({ name, at, turn }): PlanGrip => {
      const path = join('doorways', name)
      const half = (level.doorways?.[name]?.width ?? 1) / 2
      const [x, y] = direction(turn + 90)
      const drag: PlanDrag = { is: 'distance', path: `${path}.width`, from: at, metre: 0.5, side: turn + 90 }
      return { path, says: 'width', at: moved(at, [x * half, y * half]), beside: null, drag }
    }),
    ...expanded.interactables.flatMap((placed) => gripsOfOne(stage, placed)),
    ...expanded.places.map(({ name, at, facing }) => turning(join('places', name), at, facing ?? 90, armsLength)),
    ...expanded.characters.map(({ name, start, facing, radius }) =>
      turning(join('characters', name), start, facing, radius + armsLength / 2),
    ),
  ]
}

function gripsOfOne({ expanded, space }: LaidOut, placed: Placed): PlanGrip[] {
  const { level } = expanded
  const { path, name } = placed
  const figure = space.layout.figures[placed.index]!
  const instance = level.interactables?.[name]
  const type = typeChain(level, placed.type).type
  const at = middleOf(figure)
  if (!instance || !type || !at) return []
  const scale = instance.scale ?? 1
  const range = { ...type.range, ...instance.range }
  const frame: GripFrame = { at, turn: figure.turn, scale }
  const inRange: GripFrame = { ...frame, scale: range.scales === false ? 1 : scale }
  const zones = { ...type.zones, ...instance.zones }
  const shown = new Set(placed.zones.map((zone) => expanded.zones[zone]!.name))
  return [
    ...(figure.pressable && figure.rangeFrom
      ? [
          ...rangeGrips(placed, figure.rangeFrom, inRange),
          ...(range['stands-in']
            ? zoneGrips(path, 'where one stands', `${path}.range.stands-in`, range['stands-in'], inRange)
            : []),
          ...handleGrip(placed, figure, frame, instance.handle ?? type.handle),
        ]
      : []),
    ...Object.entries(zones).flatMap(([zone, shape]) =>
      shown.has(zone) ? zoneGrips(path, zone, `${path}.zones.${zone}`, shape, frame) : [],
    ),
    ...(placed.doorway === null ? standingGrips(placed, figure, frame) : []),
    ...poseGrips(placed, figure, frame, type),
    ...(instance.handle === undefined ? hingeGrip(placed, figure, frame, type) : []),
  ]
}

/** The place of an interactable, which its frame goes out from. */
function middleOf({ body, pivot }: Figure): Point | null {
  const [a, , c] = body ?? []
  return a && c ? [(a[0] + c[0]) / 2, (a[1] + c[1]) / 2] : pivot
}

function rangeGrips(
  { path, radius }: Placed,
  [x, y, z]: readonly [number, number, number],
  frame: GripFrame,
): PlanGrip[] {
  const height = rounded(z / frame.scale)
  return [
    {
      path,
      says: 'range',
      at: [x + radius, y],
      beside: null,
      drag: { is: 'distance', path: `${path}.range.radius`, from: [x, y], metre: frame.scale, side: null },
    },
    {
      path,
      says: 'what the range is measured from',
      at: [x, y],
      beside: outwards(frame.at, [x, y], 60) ?? 225,
      drag: { is: 'spot', path: `${path}.range.from`, frame, height },
    },
  ]
}

function handleGrip(
  { path }: Placed,
  { handle, body }: Figure,
  frame: GripFrame,
  written: TypeDefinition['handle'],
): PlanGrip[] {
  if (!handle) return []
  const at: Point = [handle[0], handle[1]]
  const grip = (drag: PlanDrag): PlanGrip => ({
    path,
    says: 'handle',
    at,
    beside: outwards(frame.at, at, 0) ?? 45,
    drag,
  })
  if (!written || Array.isArray(written))
    return [
      grip({ is: 'spot', path: `${path}.handle`, frame, height: written?.[2] ?? rounded(handle[2] / frame.scale) }),
    ]
  const half = body ? distance(body[0]!, body[1]!) / 2 : 0
  const end = toOwn(frame, at)[0] > 0 ? 'right' : 'left'
  return half > 0 ? [grip({ is: 'inset', path: `${path}.handle`, frame, half, end, handle: written })] : []
}

/** The way from a middle to a spot, and some degrees more; null where they are the same. */
function outwards(middle: Point, spot: Point, more: number): number | null {
  return distance(middle, spot) < 0.01 ? null : angleOf([spot[0] - middle[0], spot[1] - middle[1]]) + more
}

function standingGrips({ path, at }: Placed, { body, turn }: Figure, frame: GripFrame): PlanGrip[] {
  if (!at) return []
  const deep = body ? distance(body[1]!, body[2]!) / 2 : 0
  const [x, y] = direction(turn + 90)
  const far = deep + armsLength
  const corner = body?.[3]
  return [
    {
      path,
      says: 'turn',
      at: moved(at, [x * far, y * far]),
      beside: null,
      drag: { is: 'direction', path: `${path}.turn`, from: at, zero: 90 },
    },
    ...(corner
      ? [
          {
            path,
            says: 'scale',
            at: corner,
            beside: null,
            drag: {
              is: 'distance' as const,
              path: `${path}.scale`,
              from: at,
              metre: distance(at, corner) / frame.scale,
              side: null,
            },
          },
        ]
      : []),
  ]
}

/** How far the leaf goes: written in a setting of the instance, or in the states of a type of the level's own. */
function poseGrips(placed: Placed, figure: Figure, frame: GripFrame, type: TypeDefinition): PlanGrip[] {
  const motion = placed.states.find((state) => state.motion?.to === 1)?.motion
  const { body, pivot } = figure
  if (!motion || motion.kind === 'vanish' || !body || !pivot) return []
  const key = motion.kind === 'turn' ? 'degrees' : 'offset'
  const paths = writtenAt(placed, type, key)
  if (paths.length === 0) return []
  const { path } = placed
  if (motion.kind === 'slide') {
    const [x, y, z] = motion.slide
    const drag: PlanDrag = { is: 'slide', paths, frame, height: rounded(z / frame.scale) }
    return [{ path, says: 'how far it slides', at: moved(frame.at, turned([x, y], figure.turn)), beside: null, drag }]
  }
  const tip = body.reduce((best, p) => (distance(p, pivot) > distance(best, pivot) ? p : best))
  const arm: Point = [tip[0] - pivot[0], tip[1] - pivot[1]]
  const shut = angleOf(arm)
  const ways = writtenAt(placed, type, 'direction')
  const drag: PlanDrag = { is: 'swing', paths, ways, hinge: pivot, shut }
  return [{ path, says: 'how far it opens', at: moved(pivot, turned(arm, motion.turn)), beside: null, drag }]
}

/** Where a part of the motions of an interactable is written. */
function writtenAt(
  { path, states }: Placed,
  { states: own = {} }: TypeDefinition,
  key: 'degrees' | 'offset' | 'direction',
): string[] {
  const all = states.flatMap(({ name, path: state, motion }) => {
    const value = motion ? own[name]?.motion?.[key] : undefined
    if (typeof value === 'object' && 'setting' in value) return [`${path}.set.${value.setting}`]
    return value === undefined || !state.startsWith('types.') ? [] : [`${state}.motion.${key}`]
  })
  return [...new Set(all)]
}

/** The hinge, where a setting says which side it is on. */
function hingeGrip({ path }: Placed, { pivot }: Figure, frame: GripFrame, { handle }: TypeDefinition): PlanGrip[] {
  if (!handle || Array.isArray(handle) || !pivot) return []
  const side = handle['away-from']
  if (typeof side === 'string') return []
  const drag: PlanDrag = { is: 'hinge', path: `${path}.set.${side.setting}`, frame }
  return [{ path, says: 'hinge', at: pivot, beside: null, drag }]
}

function zoneGrips(path: string, says: string, at: string, zone: ZoneDefinition, frame: GripFrame): PlanGrip[] {
  const { radius, box, sector, ring, outline } = zone
  const middle: Point = [zone.at?.[0] ?? 0, zone.at?.[1] ?? 0]
  const grip = (part: GripPart, own: Point, what: string, beside: number | null = null): PlanGrip => ({
    path,
    says: `${says}: ${what}`,
    at: fromOwn(frame, moved(middle, own)),
    beside,
    drag: { is: 'zone', path: at, frame, zone, part },
  })
  if (outline) return outline.map(([x, y], i) => grip(i, [x - middle[0], y - middle[1]], 'corner'))
  const place = grip('middle', [0, 0], 'place', 315)
  if (radius !== undefined) return [grip('radius', [-radius, 0], 'radius'), place]
  if (ring) return [grip('from', [-ring.from, 0], 'from'), grip('to', [-ring.to, 0], 'to'), place]
  if (box) {
    const own = (p: Point): Point => turned(p, zone.turn ?? 0)
    return [
      grip('size', own([box[0] / 2, box[1] / 2]), 'size'),
      grip('turn', own([0, box[1] / 2 + armsLength / frame.scale]), 'turn'),
      place,
    ]
  }
  if (!sector) return []
  const { radius: far, degrees, facing = 90 } = sector
  const [x, y] = direction(facing)
  const [u, v] = direction(facing + degrees / 2)
  return [grip('arc', [x * far, y * far], 'how far'), grip('width', [u * far, v * far], 'how wide'), place]
}

/**
 * What a level says once a grip is dragged to a spot, in metres: lengths in steps of so many metres, as they are written in the frame that
 * they belong to; angles to 5 degrees.
 */
export function draggedTo(drag: PlanDrag, to: Point, step = 0.001): PlanChange[] {
  const written = ([x, y]: Point): [number, number] => [inSteps(x, step), inSteps(y, step)]
  switch (drag.is) {
    case 'spot': {
      const [x, y] = written(toOwn(drag.frame, to))
      return [{ path: drag.path, value: drag.height === null ? [x, y] : [x, y, drag.height] }]
    }
    case 'distance': {
      const off: Point = [to[0] - drag.from[0], to[1] - drag.from[1]]
      const along = drag.side === null ? distance(to, drag.from) : Math.abs(turned(off, -drag.side)[0])
      return [{ path: drag.path, value: least(along / drag.metre, step) }]
    }
    case 'direction':
      return [{ path: drag.path, value: fives(angleOf([to[0] - drag.from[0], to[1] - drag.from[1]]) - drag.zero) }]
    case 'zone':
      return [{ path: drag.path, value: zoneTo(drag.zone, drag.part, toOwn(drag.frame, to), step) }]
    case 'swing': {
      const round = fives(angleOf([to[0] - drag.hinge[0], to[1] - drag.hinge[1]]) - drag.shut)
      const degrees = round > 180 ? round - 360 : round
      return [
        ...drag.paths.map((path) => ({ path, value: degrees === 0 ? 5 : degrees })),
        ...drag.ways.map((path) => ({ path, value: undefined })),
      ]
    }
    case 'slide': {
      const [x, y] = written(toOwn(drag.frame, to))
      return drag.paths.map((path) => ({ path, value: [x, y, drag.height] }))
    }
    case 'hinge':
      return [{ path: drag.path, value: toOwn(drag.frame, to)[0] < 0 ? 'left' : 'right' }]
    case 'inset': {
      const { frame, half, end } = drag
      const x = toOwn(frame, to)[0] * frame.scale
      const inset = Math.min(half, Math.max(0, end === 'right' ? half - x : half + x))
      return [{ path: drag.path, value: { ...drag.handle, inset: inSteps(inset / frame.scale, step) } }]
    }
  }
}

function zoneTo(zone: ZoneDefinition, part: GripPart, to: Point, step: number): ZoneDefinition {
  const spot: [number, number] = [inSteps(to[0], step), inSteps(to[1], step)]
  const { sector, ring, outline } = zone
  const off: Point = [to[0] - (zone.at?.[0] ?? 0), to[1] - (zone.at?.[1] ?? 0)]
  const far = least(Math.hypot(off[0], off[1]), step)
  switch (part) {
    case 'radius':
      return { ...zone, radius: far }
    case 'middle':
      return { ...zone, at: spot }
    case 'size': {
      const [x, y] = turned(off, -(zone.turn ?? 0))
      return { ...zone, box: [least(2 * Math.abs(x), step), least(2 * Math.abs(y), step)] }
    }
    case 'turn':
      return { ...zone, turn: fives(angleOf(off) - 90) }
    case 'arc':
      return sector ? { ...zone, sector: { ...sector, radius: far, facing: fives(angleOf(off)) } } : zone
    case 'width': {
      if (!sector) return zone
      const aside = fives(angleOf(off) - (sector.facing ?? 90))
      const degrees = Math.min(355, Math.max(5, 2 * Math.min(aside, 360 - aside)))
      return { ...zone, sector: { ...sector, degrees } }
    }
    case 'from':
      return ring ? { ...zone, ring: { ...ring, from: Math.min(far, rounded(ring.to - 0.01)) } } : zone
    case 'to':
      return ring ? { ...zone, ring: { ...ring, to: Math.max(far, rounded(ring.from + 0.01)) } } : zone
    default:
      return { ...zone, outline: (outline ?? []).map((p, i) => (i === part ? spot : p)) }
  }
}

function fromOwn({ at, turn, scale }: GripFrame, [x, y]: Point): Point {
  return moved(at, turned([x * scale, y * scale], turn))
}

function toOwn({ at, turn, scale }: GripFrame, [x, y]: Point): Point {
  const [u, v] = turned([x - at[0], y - at[1]], -turn)
  return [u / scale, v / scale]
}

function angleOf([x, y]: Point): number {
  return (Math.atan2(y, x) * 180) / Math.PI
}

/** Degrees from 0 to 355, in fives. */
function fives(degrees: number): number {
  return (((Math.round(degrees / 5) * 5) % 360) + 360) % 360
}

/** In steps of so many metres, and to the millimetre. */
function inSteps(metres: number, step: number): number {
  return rounded(Math.round(metres / step) * step)
}

function rounded(metres: number): number {
  return Math.round(metres * 1000) / 1000 + 0
}

/** A length in steps that is never nothing. */
function least(metres: number, step: number): number {
  return Math.max(0.05, inSteps(metres, step))
}
