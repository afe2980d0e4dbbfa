import { type Placed, typeChain } from '../interactables/index.ts'
import { join, type TypeDefinition, type ZoneDefinition } from '../model/index.ts'
import { direction, distance, type Figure, type LaidOut, moved, type Point, turned } from '../space/index.ts'
import { angleOf, fromOwn, type GripFrame, type GripPart, type PlanDrag, rounded, toOwn } from './dragged.ts'

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
  { path, radius, until }: Placed,
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
    ...(until > radius
      ? [
          {
            path,
            says: 'where the range ends',
            at: [x, y + until] as const,
            beside: null,
            drag: {
              is: 'distance' as const,
              path: `${path}.range.until`,
              from: [x, y] as const,
              metre: frame.scale,
              side: null,
            },
          },
        ]
      : []),
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
