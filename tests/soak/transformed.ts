import type { Level, ZoneDefinition } from '../../src/model/index.ts'

type Point = readonly [number, number]

/** A change of a level that changes no answer; `subject` gives what a subject was called before. */
export interface Transformation {
  readonly name: string
  readonly level: (level: Level) => Level
  readonly subject?: (subject: string) => string
}

/** All points of a level elsewhere, and all angles. `mirrors`: whether left and right change places. */
function placed(level: Level, at: (p: Point) => Point, angle: (degrees: number) => number, mirrors: boolean): Level {
  const map = <T, R>(all: Readonly<Record<string, T>> | undefined, make: (one: T) => R): Record<string, R> =>
    Object.fromEntries(Object.entries(all ?? {}).map(([name, one]) => [name, make(one)]))
  const own = ([x, y]: Point): [number, number] => [mirrors ? -x : x, y]
  const ownZone = (zone: ZoneDefinition): ZoneDefinition => ({
    ...zone,
    ...(zone.outline ? { outline: zone.outline.map((p) => own(p as Point)) } : {}),
    ...(zone.at ? { at: own(zone.at) } : {}),
    ...(zone.turn !== undefined && mirrors ? { turn: -zone.turn } : {}),
    ...(zone.sector && mirrors ? { sector: { ...zone.sector, facing: 180 - (zone.sector.facing ?? 90) } } : {}),
  })
  const outlined = <T extends { outline: readonly Point[] }>(one: T): T => ({ ...one, outline: one.outline.map(at) })
  const types = map(level.types, (type) => ({
    ...type,
    ...(type.zones
      ? {
          zones: map(type.zones, (zone) => ownZone(zone)),
        }
      : {}),
  }))
  return {
    ...level,
    rooms: map(level.rooms, outlined as (room: Level['rooms'][string]) => Level['rooms'][string]),
    doorways: map(level.doorways, (one) => ({
      ...one,
      at: at(one.at) as [number, number],
      ...(one.turn === undefined ? {} : { turn: angle(one.turn) }),
    })),
    obstacles: map(
      level.obstacles,
      outlined as (one: { outline: [number, number][] }) => { outline: [number, number][] },
    ),
    places: map(level.places, (one) => ({
      ...one,
      at: at(one.at) as [number, number],
      ...(one.facing === undefined ? {} : { facing: angle(one.facing) }),
    })),
    types,
    interactables: map(level.interactables, (one) => {
      const range = one.range?.['stands-in']
        ? { range: { ...one.range, 'stands-in': ownZone(one.range['stands-in']) } }
        : {}
      if (!one.at) return mirrors && one.type === 'door' ? { ...one, set: hungOtherwise(one.set) } : one
      const [x, y] = at([one.at[0], one.at[1]])
      // A body lies the same way round after half a turn; what is in its own frame is mirrored in that.
      const turn = mirrors ? -(one.turn ?? 0) : angle(one.turn ?? 0)
      return { ...one, ...range, at: one.at.length === 3 ? [x, y, one.at[2]] : [x, y], turn }
    }),
    characters: map(level.characters, (one) => ({
      ...one,
      start: at(one.start) as [number, number],
      facing: angle(one.facing ?? 90),
    })),
  }
}

/** A door whose hinge is on the other side. */
function hungOtherwise(set: Readonly<Record<string, unknown>> = {}): Record<string, unknown> {
  return { ...set, hinge: set.hinge === 'right' ? 'left' : 'right' }
}

const inTurn = (degrees: number): number => ((degrees % 360) + 360) % 360

const renamed =
  /"(thing-\d+|door-\d+|room-\d+|gap-\d+|corner-room|block|curtain|key|coin|tally|spot|ping|pong|someone|other)(-type)?"/g

function reversed<T extends object>(all: T | undefined): T | undefined {
  return all && (Object.fromEntries(Object.entries(all).reverse()) as T)
}

/** Times twice as long, also where they stand deep inside. */
function slowed(value: unknown, key = ''): unknown {
  const times = ['after', 'hold', 'every', 'over']
  if (typeof value === 'number') return times.includes(key) ? value * 2 : key === 'speed' ? value / 2 : value
  if (Array.isArray(value)) return value.map((one) => slowed(one, key))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, slowed(one, name)]))
}

export const transformations: readonly Transformation[] = [
  {
    name: 'moved',
    level: (level) =>
      placed(
        level,
        ([x, y]) => [x + 7.37, y - 2.91],
        (degrees) => degrees,
        false,
      ),
  },
  {
    name: 'turned',
    level: (level) =>
      placed(
        level,
        ([x, y]) => [-y, x],
        (degrees) => inTurn(degrees + 90),
        false,
      ),
  },
  {
    name: 'mirrored',
    level: (level) =>
      placed(
        level,
        ([x, y]) => [-x, y],
        (degrees) => inTurn(180 - degrees),
        true,
      ),
  },
  {
    name: 'renamed',
    level: (level) => JSON.parse(JSON.stringify(level).replace(renamed, '"n-$1$2"')) as Level,
    subject: (subject) => subject.replaceAll(/(^|[/:. ])n-/g, '$1'),
  },
  {
    name: 'in another order',
    level: (level) => ({
      ...level,
      rooms: reversed(level.rooms)!,
      doorways: reversed(level.doorways),
      obstacles: reversed(level.obstacles),
      items: reversed(level.items),
      flags: reversed(level.flags),
      types: reversed(level.types),
    }),
  },
  { name: 'slowed', level: (level) => ({ ...(slowed(level) as Level), tick: 0.2 }) },
]
