import { type Level, type Source, valueSource } from '../model/index.ts'
import { characterIn, othersIn, playerOf } from './joined-characters.ts'
import { inLevel, levelIn } from './level-names.ts'
import { movedPart } from './moved-part.ts'
import type { Beginning, Expanded, Forgotten, Joined, JoinedPart, PressKind, Remembered } from './placed.ts'

/** A level of a project, spelt out by itself, as it is joined with the others. */
export interface PartOfProject {
  /** What the project calls it. */
  readonly name: string
  readonly expanded: Expanded
  /** Everything is as it was left, where it is left out. */
  readonly remembered?: Remembered | undefined
}

/** What of a level begins anew when one comes back to it: its flags and counters do with the interactables that are no exceptions. */
export function forgottenOf(
  { interactables, flags, counters, characters }: Expanded,
  { remembers = 'everything', except = [] }: Remembered,
): Forgotten {
  const isEmptied = remembers === 'nothing'
  return {
    interactables: interactables.flatMap(({ index, name }) => (except.includes(name) === isEmptied ? [] : [index])),
    flags: isEmptied ? [...flags.keys()] : [],
    counters: isEmptied ? [...counters.keys()] : [],
    characters: isEmptied ? othersIn(characters) : [],
  }
}

/** By the index of the level, what begins anew of those that are joined; null: nothing does. */
export function forgottenByLevel({ joined }: Pick<Expanded, 'joined'>): (Forgotten | null)[] {
  return (joined?.parts ?? []).map(({ expanded, remembered, first }) => {
    const { interactables, flags, counters, characters } = forgottenOf(expanded, remembered)
    if (interactables.length + flags.length + counters.length === 0) return null
    return {
      interactables: interactables.map((index) => index + first.interactables),
      flags: flags.map((flag) => flag + first.flags),
      counters: counters.map((counter) => counter + first.counters),
      characters: characters.map((who) => characterIn(expanded, first, who)),
    }
  })
}

/** Metres between the grounds of two levels, so that nothing of one is near anything of the other: a power of two, which moves numbers least. */
const apart = 64

/** Why levels cannot be joined: in words, to stand after "because". Null: they can. */
export function whyNotJoined(parts: readonly PartOfProject[]): string | null {
  const [first] = parts
  if (!first) return 'the project has no levels'
  const person = playerOf(first.expanded)
  const isAnybodyElse = parts.some(({ expanded }) => expanded.characters.length > 1)
  for (const { name, expanded } of parts) {
    if (expanded.characters.length - othersIn(expanded.characters).length !== 1)
      return `there are several players in ${name}`
    const own = playerOf(expanded)
    const leaver = expanded.characters.find(({ role }) => role !== 'player' && mayLeave(expanded, role))
    if (leaver) return `${leaver.name}, who is no player, can leave ${name}`
    if (isAnybodyElse && expanded.items.some(({ shared }) => shared))
      return `characters share what they carry in ${name}`
    for (const key of ['radius', 'speed', 'hand', 'reach', 'reachOffset', 'probe', 'carriesMost'] as const) {
      if (own[key] !== person[key])
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

/** Whether something takes characters of a role to another level, or whoever set it off before. */
function mayLeave({ interactables }: Expanded, role: Expanded['characters'][number]['role']): boolean {
  return interactables.some(({ transitions }) =>
    transitions.some(
      ({ when, roles, changes }) =>
        changes.some(({ kind }) => kind === 'exit-to') &&
        (roles.includes(role) || !['press', 'hold', 'release', 'enter', 'leave'].includes(when.kind)),
    ),
  )
}

const keyTexts = {
  radius: 'radius',
  speed: 'speed',
  hand: 'hand',
  reach: 'reach',
  reachOffset: 'offset of the reach',
  probe: 'probe',
  carriesMost: 'load',
} as const

/**
 * The levels of a project as one: their grounds lie side by side, and exits move the player from one to another. Items go by their names; all else
 * belongs to its level. Only levels for which `whyNotJoined` is null can be joined; there is one start, or there are several.
 */
export function joinLevels(title: string, parts: readonly PartOfProject[], starts: readonly Beginning[]): Expanded {
  const placed = placedParts(parts)
  const items = [
    ...new Map(parts.flatMap(({ expanded }) => expanded.items.map((item) => [item.name, item] as const))).values(),
  ]
  const pressKinds = distinct(parts.flatMap(({ expanded }) => expanded.pressKinds))
  const moved = placed.map((part) => movedPart(part, placed, items, pressKinds))
  const all = <T>(of: (one: Expanded) => readonly T[]): T[] => moved.flatMap(of)
  const level = joinedLevel(title, moved)
  const joined: Expanded = {
    level,
    source: valueSource(level),
    joined: { title, starts, parts: placed },
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
    characters: [playerOf(moved[0]!), ...all(({ characters }) => characters.filter(({ role }) => role !== 'player'))],
    goals: all(({ goals }) => goals),
    requirements: all(({ requirements }) => requirements),
    problems: [],
  }
  return { ...joined, characters: startingAt(joined, starts[0]!.name) }
}

/** The characters of levels that are joined, with the player where a play begins. */
export function startingAt(
  { joined, places, characters, items }: Pick<Expanded, 'joined' | 'places' | 'characters' | 'items'>,
  start: string,
): Expanded['characters'] {
  const { level, place } = joined!.starts.find(({ name }) => name === start)!
  const there = places.find(({ name }) => name === inLevel(level, place ?? ''))
  const { expanded, by } = joined!.parts.find(({ name }) => name === level)!
  const { start: at, facing, carries: own } = playerOf(expanded)
  const carries = items.map(({ name }) => own[expanded.items.findIndex((item) => item.name === name)] ?? 0)
  return characters.map((one, who) => {
    if (who > 0) return one
    if (there) return { ...one, carries, start: there.at, facing: there.facing ?? facing }
    return { ...one, carries, start: [at[0] + by, at[1]], facing }
  })
}

/** The same levels joined anew, with one of them otherwise. */
export function joinedWith({ title, starts, parts }: Joined, name: string, expanded: Expanded): Expanded {
  const all = parts.map((part) => ({ ...part, expanded: part.name === name ? expanded : part.expanded }))
  return joinLevels(title, all, starts)
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

type Counted = Exclude<keyof JoinedPart['first'], 'others'>

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
  let others = 1
  let west = 0
  return parts.map(({ name, expanded, remembered = {} }) => {
    const first = { ...next, others }
    for (const key of Object.keys(next) as Counted[]) next[key] += expanded[key].length
    others += othersIn(expanded.characters).length
    const xs = groundOf(expanded.level).map(([x]) => x)
    const [least, most] = [Math.min(...xs), Math.max(...xs)]
    const by = apart * Math.ceil((west - least) / apart)
    west = most + by + apart
    return { name, title: expanded.level.title, expanded, remembered, first, by, until: most + by + apart / 2 }
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
    ...(levels.some((level) => level.storeys) ? { storeys: all('storeys') } : {}),
    doorways: all('doorways'),
    obstacles: all('obstacles'),
    items: all('items'),
    flags: all('flags'),
    counters: all('counters'),
    places: all('places'),
    types: all('types'),
    interactables: all('interactables'),
    characters: all('characters'),
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
