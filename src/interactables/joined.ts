import type { Level, Source, ZoneDefinition } from '../model/index.ts'
import { valueSource } from '../model/index.ts'
import type {
  Change,
  Check,
  Expanded,
  Joined,
  JoinedPart,
  Placed,
  PlacedTransition,
  PressKind,
  When,
} from './placed.ts'

/** A level of a project, spelt out by itself, as it is joined with the others. */
export interface PartOfProject {
  /** What the project calls it. */
  readonly name: string
  readonly expanded: Expanded
}

/**
 * Stands between the name of a level and a name in it, in names and paths of levels that are joined. No file has it, so that what
 * belongs to which level can always be told.
 */
export const levelMark = '\u2063'

/** A name of a level, or a path in it, as it is in the levels of a project that are joined. */
export function inLevel(level: string, name: string): string {
  return `${level}${levelMark}${name}`
}

/** The level that a name or a path belongs to, where it says so, and the name or path as it is there. */
export function levelIn(name: string): { readonly level: string | null; readonly name: string } {
  const [first] = name.matchAll(marked)
  return { level: first?.[1] ?? null, name: name.replace(marked, '') }
}

/** The levels that are named in a text. */
export function levelsNamed(text: string): string[] {
  return [...new Set([...text.matchAll(marked)].map(([, level]) => level!))]
}

const marked = new RegExp(`([a-z][a-z0-9-]*)${levelMark}`, 'g')

/** A value in all whose texts names and paths are as they are in their own levels. */
export function unmarked<T>(value: T): T {
  if (typeof value === 'string') return levelIn(value).name as T
  if (Array.isArray(value)) return value.map(unmarked) as T
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => [levelIn(key).name, unmarked(one as unknown)]),
  ) as T
}

/** Metres between the grounds of two levels, so that nothing of one is near anything of the other: a power of two, which moves numbers least. */
const apart = 64

/** Why levels cannot be joined: in words, to stand after "because". Null: they can. */
export function whyNotJoined(parts: readonly PartOfProject[]): string | null {
  const [first] = parts
  if (!first) return 'the project has no levels'
  const [person] = first.expanded.characters
  for (const { name, expanded } of parts) {
    if (expanded.characters.length !== 1) return `more than one character acts in ${name}`
    const own = expanded.characters[0]!
    for (const key of ['radius', 'speed', 'hand', 'reach', 'reachOffset', 'carriesMost'] as const) {
      if (own[key] !== person![key])
        return `the ${keyTexts[key]} of the player is not the same in ${first.name} and ${name}`
    }
    if (own.carriesMost !== Infinity) return `what the player can carry in all is limited in ${name}`
    for (const item of expanded.items) {
      const other = parts.find((part) =>
        part.expanded.items.some((one) => one.name === item.name && one.most !== item.most),
      )
      if (other) return `${name} and ${other.name} differ in how many of the ${item.title} can be carried`
    }
  }
  return null
}

const keyTexts = {
  radius: 'radius',
  speed: 'speed',
  hand: 'hand',
  reach: 'reach',
  reachOffset: 'offset of the reach',
  carriesMost: 'load',
} as const

/**
 * The levels of a project as one: their grounds lie side by side, and exits move the player from one to another. Items go by their names; all else
 * belongs to its level. Only levels for which `whyNotJoined` is null can be joined.
 */
export function joinLevels(title: string, parts: readonly PartOfProject[], start: Joined['start']): Expanded {
  const placed = placedParts(parts)
  const items = [
    ...new Map(parts.flatMap(({ expanded }) => expanded.items.map((item) => [item.name, item] as const))).values(),
  ]
  const pressKinds = distinct(parts.flatMap(({ expanded }) => expanded.pressKinds))
  const moved = placed.map((part) => movedPart(part, placed, items, pressKinds))
  const all = <T>(of: (one: Expanded) => readonly T[]): T[] => moved.flatMap(of)
  const first = placed.find(({ name }) => name === start.level)!
  const own = moved[placed.indexOf(first)]!
  const place = own.places.find(({ name }) => name === inLevel(first.name, start.place ?? ''))
  const person = own.characters[0]!
  const level = joinedLevel(title, moved)
  return {
    level,
    source: valueSource(level),
    joined: { title, start, parts: placed },
    interactables: all(({ interactables }) => interactables),
    zones: all(({ zones }) => zones),
    items,
    flags: all(({ flags }) => flags),
    counters: all(({ counters }) => counters),
    signals: all(({ signals }) => signals),
    tags: all(({ tags }) => tags),
    pressKinds,
    wheels: all(({ wheels }) => wheels),
    memories: all(({ memories }) => memories),
    contents: all(({ contents }) => contents),
    places: all(({ places }) => places),
    characters: [place ? { ...person, start: place.at, facing: place.facing ?? person.facing } : person],
    goals: all(({ goals }) => goals),
    requirements: all(({ requirements }) => requirements),
    problems: [],
  }
}

/** The same levels joined anew, with one of them otherwise. */
export function joinedWith({ title, start, parts }: Joined, name: string, expanded: Expanded): Expanded {
  const all = parts.map((part) => ({ name: part.name, expanded: part.name === name ? expanded : part.expanded }))
  return joinLevels(title, all, start)
}

/** The index of the level of a joined one on whose ground a spot lies; 0 where nothing is joined. */
export function levelAt({ joined }: Pick<Expanded, 'joined'>, [x]: readonly [number, number]): number {
  if (!joined) return 0
  const found = joined.parts.findIndex(({ until }) => x < until)
  return found < 0 ? joined.parts.length - 1 : found
}

/** The index of the level of a joined one that an interactable belongs to; 0 where nothing is joined. */
export function levelOf(expanded: Pick<Expanded, 'joined'>, interactable: number): number {
  return partWith(expanded, 'interactables', interactable)
}

/** A spot as it is in the frame of the level on whose ground it lies. */
export function ownSpot(expanded: Pick<Expanded, 'joined'>, [x, y]: readonly [number, number]): [number, number] {
  const part = expanded.joined?.parts[levelAt(expanded, [x, y])]
  return part ? [x - part.by, y] : [x, y]
}

type Counted = keyof JoinedPart['first']

/** The index of the level of a joined one that has one of its interactables, goals and so on, by its index among all. */
export function partWith({ joined }: Pick<Expanded, 'joined'>, kind: Counted, index: number): number {
  return joined?.parts.findLastIndex(({ first, expanded }) => first[kind] <= index && expanded[kind].length > 0) ?? 0
}

/** Parts with what each is moved by, and where its own things begin among all. */
function placedParts(parts: readonly PartOfProject[]): JoinedPart[] {
  const next: Record<Counted, number> = {
    interactables: 0,
    zones: 0,
    flags: 0,
    counters: 0,
    signals: 0,
    tags: 0,
    wheels: 0,
    memories: 0,
    contents: 0,
    places: 0,
    goals: 0,
    requirements: 0,
  }
  let west = 0
  return parts.map(({ name, expanded }) => {
    const first = { ...next }
    for (const key of Object.keys(next) as Counted[]) next[key] += expanded[key].length
    const xs = groundOf(expanded.level).map(([x]) => x)
    const [least, most] = [Math.min(...xs), Math.max(...xs)]
    const by = apart * Math.ceil((west - least) / apart)
    west = most + by + apart
    return { name, title: expanded.level.title, expanded, first, by, until: most + by + apart / 2 }
  })
}

function groundOf({ rooms, doorways = {} }: Level): (readonly [number, number])[] {
  return [
    ...Object.values(rooms).flatMap(({ outline }) => outline),
    ...Object.values(doorways).flatMap(({ at: [x, y], width, depth }) => {
      const half = width + depth
      return [[x - half, y] as const, [x + half, y] as const]
    }),
  ]
}

function distinct(kinds: readonly PressKind[]): PressKind[] {
  return [...new Map(kinds.map((kind) => [JSON.stringify(kind), kind])).values()]
}

/** A part with its names, its indices and its ground as they are among all. */
function movedPart(
  part: JoinedPart,
  parts: readonly JoinedPart[],
  items: Expanded['items'],
  pressKinds: readonly PressKind[],
): Expanded {
  const { name: own, expanded, first, by } = part
  const named = (name: string): string => inLevel(own, name)
  const itemOf = expanded.items.map(({ name }) => items.findIndex((one) => one.name === name))
  const kindOf = expanded.pressKinds.map((kind) =>
    pressKinds.findIndex((one) => JSON.stringify(one) === JSON.stringify(kind)),
  )
  const at = ([x, y]: readonly [number, number]): [number, number] => [x + by, y]
  const item = (index: number): number => (index < 0 ? index : itemOf[index]!)

  const check = (one: Check): Check => {
    switch (one.kind) {
      case 'carries':
        return { ...one, item: item(one.item), path: one.path === '' ? '' : named(one.path) }
      case 'room':
        return { ...one, item: item(one.item) }
      case 'state':
        return { ...one, interactable: one.interactable + first.interactables }
      case 'remembers':
        return { ...one, memory: one.memory + first.memories }
      case 'contains':
        return { ...one, content: one.content + first.contents }
      case 'empty':
      case 'fits':
        return { ...one, contents: one.contents.map((content) => content + first.contents) }
      case 'flag':
        return { ...one, flag: one.flag + first.flags }
      case 'counter':
        return { ...one, counter: one.counter + first.counters }
      case 'inside':
        return { ...one, zone: one.zone + first.zones, item: item(one.item) }
      case 'dial':
        return { ...one, wheel: one.wheel + first.wheels }
      case 'all':
      case 'any':
        return { ...one, checks: one.checks.map(check) }
      case 'not':
        return { ...one, check: check(one.check) }
      case 'role':
      case 'never':
        return one
    }
  }

  const change = (one: Change): Change[] => {
    switch (one.kind) {
      case 'give':
      case 'remove':
      case 'consume':
        return [{ ...one, item: item(one.item) }]
      case 'take-out':
      case 'put-in':
        return [{ ...one, content: one.content + first.contents }]
      case 'remember':
        return [{ ...one, memory: one.memory + first.memories }]
      case 'move-to': {
        const checkpoints = one.checkpoints?.map(({ memory, place }) => ({
          memory: memory + first.memories,
          place: place + first.places,
        }))
        return [{ ...one, place: one.place + first.places, ...(checkpoints ? { checkpoints } : {}) }]
      }
      case 'exit-to': {
        const paths = { level: named(one.paths.level), place: named(one.paths.place) }
        const to = parts.find(({ name }) => name === one.level)
        const place = to?.expanded.places.findIndex(({ name }) => name === one.place) ?? -1
        const drops = one.drops?.map(item) ?? itemOf
        if (!to || place < 0) return [{ ...one, drops, paths }]
        return [
          ...drops.map((dropped): Change => ({ kind: 'remove', item: dropped, count: items[dropped]!.most })),
          {
            kind: 'move-to',
            place: place + to.first.places,
            exit: { level: one.level, place: one.place, drops, paths },
          },
        ]
      }
      case 'set':
        return [{ ...one, flag: one.flag + first.flags }]
      case 'count':
        return [{ ...one, counter: one.counter + first.counters }]
      case 'send':
        return [
          {
            ...one,
            signal: one.signal + first.signals,
            interactable: one.interactable === null ? null : one.interactable + first.interactables,
            tag: one.tag === null ? null : one.tag + first.tags,
            path: named(one.path),
          },
        ]
    }
  }

  const when = (one: When): When => {
    switch (one.kind) {
      case 'press':
        return { ...one, pressKind: kindOf[one.pressKind]!, offered: one.offered && check(one.offered) }
      case 'becomes':
        return { ...one, check: check(one.check) }
      case 'enter':
      case 'leave':
        return { ...one, zone: one.zone + first.zones }
      case 'signal':
        return { ...one, signal: one.signal + first.signals, path: named(one.path) }
      default:
        return one
    }
  }

  const transition = (one: PlacedTransition): PlacedTransition => ({
    ...one,
    when: when(one.when),
    guard: check(one.guard),
    changes: one.changes.flatMap(change),
    spends: one.spends === null ? null : named(one.spends),
    path: named(one.path),
  })

  const isOwnType = (type: string): boolean => expanded.level.types?.[type] !== undefined
  const placed = (one: Placed): Placed => ({
    ...one,
    index: one.index + first.interactables,
    name: named(one.name),
    type: isOwnType(one.type) ? named(one.type) : one.type,
    path: named(one.path),
    states: one.states.map((state) => ({ ...state, path: named(state.path) })),
    transitions: one.transitions.map(transition),
    zones: one.zones.map((zone) => zone + first.zones),
    wheels: one.wheels.map((wheel) => wheel + first.wheels),
    memories: Object.fromEntries(Object.entries(one.memories).map(([name, memory]) => [name, memory + first.memories])),
    contents: one.contents.map((content) => content + first.contents),
    tags: one.tags.map((tag) => tag + first.tags),
    doorway: one.doorway === null ? null : named(one.doorway),
    at: one.at && at(one.at),
  })

  return {
    ...expanded,
    level: movedLevel(expanded.level, named, at, isOwnType),
    interactables: expanded.interactables.map(placed),
    zones: expanded.zones.map((zone) =>
      zone.interactable < 0
        ? { ...zone, name: named(zone.name), shape: movedRoom(zone.shape, at) }
        : { ...zone, interactable: zone.interactable + first.interactables },
    ),
    flags: expanded.flags.map((flag) => ({ ...flag, name: named(flag.name) })),
    counters: expanded.counters.map((counter) => ({ ...counter, name: named(counter.name) })),
    signals: expanded.signals.map(named),
    tags: expanded.tags.map(named),
    wheels: expanded.wheels.map((wheel) => ({ ...wheel, interactable: wheel.interactable + first.interactables })),
    memories: expanded.memories.map((memory) => ({
      ...memory,
      interactable: memory.interactable + first.interactables,
      ...(memory.checkpoint === undefined ? {} : { checkpoint: named(memory.checkpoint) }),
    })),
    contents: expanded.contents.map((content) => ({
      ...content,
      interactable: content.interactable + first.interactables,
      item: item(content.item),
    })),
    places: expanded.places.map((place) => ({ ...place, name: named(place.name), at: at(place.at) })),
    characters: expanded.characters.map((one) => ({
      ...one,
      start: at(one.start),
      carries: items.map(({ name }) => one.carries[expanded.items.findIndex((own) => own.name === name)] ?? 0),
    })),
    goals: expanded.goals.map((goal) => ({
      ...goal,
      name: named(goal.name),
      check: check(goal.check),
      path: named(goal.path),
    })),
    requirements: expanded.requirements.map((one) => ({
      ...one,
      name: named(one.name),
      conditions: one.conditions.map(({ part: of, check: own }) => ({ part: of, check: check(own) })),
      path: named(one.path),
    })),
    problems: [],
  }
}

/** The zone of a room, which is given in the frame of its level. */
function movedRoom(
  shape: ZoneDefinition | 'skin',
  at: (p: readonly [number, number]) => [number, number],
): ZoneDefinition | 'skin' {
  if (shape === 'skin' || !shape.outline) return shape
  return { ...shape, outline: shape.outline.map((p) => at(p)) }
}

/** A level as it was written, with its names and its ground as they are among all; what is within its parts is as it was. */
function movedLevel(
  level: Level,
  named: (name: string) => string,
  at: (p: readonly [number, number]) => [number, number],
  isOwnType: (type: string) => boolean,
): Level {
  const each = <T>(all: Readonly<Record<string, T>> | undefined, change: (one: T) => T): Record<string, T> =>
    Object.fromEntries(Object.entries(all ?? {}).map(([name, one]) => [named(name), change(one)]))
  const outlined = <T extends { readonly outline: readonly (readonly [number, number])[] }>(one: T): T => ({
    ...one,
    outline: one.outline.map((p) => at(p)),
  })
  const same = <T>(one: T): T => one
  return {
    ...level,
    rooms: each(level.rooms, outlined),
    doorways: each(level.doorways, (doorway) => ({
      ...doorway,
      joins: [named(doorway.joins[0]), named(doorway.joins[1])],
      at: at(doorway.at),
    })),
    obstacles: each(level.obstacles, outlined),
    flags: each(level.flags, same),
    counters: each(level.counters, same),
    places: each(level.places, (place) => ({ ...place, at: at(place.at) })),
    types: each(level.types, same),
    interactables: each(level.interactables, (one) => (isOwnType(one.type) ? { ...one, type: named(one.type) } : one)),
    goals: each(level.goals, same),
    requirements: each(level.requirements, same),
  }
}

/** The finest of the levels says how finely the ground is sampled and time is told apart. */
function joinedLevel(title: string, moved: readonly Expanded[]): Level {
  const levels = moved.map(({ level }) => level)
  const least = (key: 'resolution' | 'tick'): number => Math.min(...levels.map((level) => level[key] ?? 0.1))
  const all = <K extends keyof Level>(key: K): Level[K] =>
    Object.assign({}, ...levels.map((level) => level[key] ?? {})) as Level[K]
  return {
    zintel: 1,
    title,
    rooms: all('rooms'),
    doorways: all('doorways'),
    obstacles: all('obstacles'),
    items: all('items'),
    flags: all('flags'),
    counters: all('counters'),
    places: all('places'),
    types: all('types'),
    interactables: all('interactables'),
    characters: levels[0]!.characters,
    goals: all('goals'),
    requirements: all('requirements'),
    resolution: least('resolution'),
    tick: least('tick'),
  }
}

/** The source of the level that a path belongs to, and the path in it. */
export function ownPlace(
  { joined, source }: Pick<Expanded, 'joined' | 'source'>,
  path: string,
): { readonly source: Source; readonly path: string; readonly level: string | null } {
  if (!joined) return { source, path, level: null }
  const { level, name } = levelIn(path)
  const part = joined.parts.find((one) => one.name === level) ?? homeOf(joined, name)
  return { source: part.expanded.source, path: name, level: part.name }
}

/** What belongs to no level alone, such as an item, is told where it is written first. */
function homeOf({ parts }: Joined, path: string): JoinedPart {
  return parts.find(({ expanded }) => isWritten(expanded.level, path)) ?? parts[0]!
}

function isWritten(level: Level, path: string): boolean {
  let at: unknown = level
  for (const key of path.split('.')) {
    if (typeof at !== 'object' || at === null || !(key in at)) return false
    at = (at as Record<string, unknown>)[key]
  }
  return true
}
