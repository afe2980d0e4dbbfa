import {
  type Instance,
  type Feedback,
  finish,
  join,
  type Level,
  mapped,
  milliseconds,
  type Requirement,
  type Role,
  type Source,
  valueSource,
} from '../model/index.ts'
import { type Draft, draft, tellBroken } from './draft.ts'
import { type NameKind, Names } from './names.ts'
import type { Expanded, NameProblem, Placed, PlacedCharacter, PlacedRequirement, PlacedTransition } from './placed.ts'
import { madeBy, pathOf, presentRows, type Row, spendingPath } from './present.ts'
import { resolveEffects } from './effects.ts'
import { resolveCheck, resolveTrigger, type Scope, usualPress } from './rows.ts'
import { scaledHandle, scaledPoint, scaledSize, scaledZone } from './scale.ts'
import { placedState } from './states.ts'
import { filledIn, isProvided } from './template.ts'
import { typeChain } from './types.ts'
import { placeCheckpoints, placeContents, placeMemories } from './holding.ts'
import { placeWheels, placeZones } from './zones.ts'

/**
 * Spells a level out: every instance with the states, transitions and zones that its type and settings give it, every name
 * looked up. Names that lead nowhere are in `problems`, and stand-ins take their place: an item that nobody holds, a
 * condition that never holds, a type that does nothing. `granted` maps paths of wrong names to right ones.
 */
export function expandLevel(
  level: Level,
  source: Source = valueSource(level),
  granted: ReadonlyMap<string, string> = new Map(),
): Expanded {
  return finish(expandInSlices(level, source, granted))
}

/** The same with pauses, every few milliseconds. */
export function* expandInSlices(
  level: Level,
  source: Source,
  granted: ReadonlyMap<string, string> = new Map(),
): Generator<undefined, Expanded> {
  const names = new Names(granted)
  const drafts = yield* mapped(Object.entries(level.interactables ?? {}), ([name, instance]) =>
    draft(level, name, instance, names, granted),
  )
  const rows = yield* mapped(drafts, (one) => presentRows(one, names, level))
  const { zones, zonesOf, zoneOfRoom } = placeZones(level, drafts, rows)
  const { wheels, wheelsOf } = placeWheels(drafts)
  const askedZones = new Set<number>()
  const base: Base = {
    ...baseScope(level, drafts, names),
    zonesOf: (interactable) => zonesOf[interactable] ?? {},
    zoneOfRoom,
    wheelsOf: (interactable) => wheelsOf[interactable] ?? [],
    positionsOf: (wheel) => wheels[wheel]!.positions,
    asksZone: (zone) => askedZones.add(zone),
    memories: [...placeMemories(drafts), ...placeCheckpoints(rows)],
    contents: placeContents(drafts, Object.keys(level.items ?? {}), names),
  }
  const interactables = yield* mapped(drafts, (one, index) => place(level, one, index, rows[index] ?? [], base))
  checkUnusedTypes(level, base, granted)
  const goals = Object.entries(level.goals ?? {}).map(([name, goal]) => {
    const path = `goals.${name}`
    const scope: Scope = { ...base, own: -1, subject: name, pathOf: (part) => join(path, part).replace(/\.$/, '') }
    return { name, title: goal.title ?? null, check: resolveCheck(goal, scope, ''), path }
  })
  const requirements = Object.entries(level.requirements ?? {}).map(([name, one]) => {
    const path = `requirements.${name}`
    return placeRequirement(name, one, path, { ...base, own: -1, subject: name, pathOf: (part) => join(path, part) })
  })
  const characters = placeCharacters(level, base)
  checkRooms(level, names)
  checkCounted(level, names)
  names.problems.push(...sharedNames(level))
  return {
    level,
    source,
    interactables,
    zones: zones.map((zone, i) => ({ ...zone, asked: askedZones.has(i) })),
    items: base.items.map((name, i) => {
      const { title = name, shared = false } = level.items?.[name] ?? {}
      return { name, title, most: base.most[i] ?? 1, shared }
    }),
    flags: base.flags.map((name) => ({ name, initial: level.flags?.[name]?.initial ?? false })),
    counters: base.counters.map((name) => {
      const { initial = 0, most } = level.counters?.[name] ?? { most: 1 }
      return { name, initial: Math.min(initial, most), most }
    }),
    signals: base.signals,
    tags: base.tags,
    pressKinds: base.pressKinds,
    wheels,
    memories: base.memories,
    contents: base.contents,
    places: Object.entries(level.places ?? {}).map(([name, { at, height = 0, facing = null }]) => {
      return { name, at, height, facing }
    }),
    characters,
    goals,
    requirements,
    problems: names.told((kind, name) => definedAt(level, kind, name)),
  }
}

type Base = Omit<Scope, 'subject' | 'pathOf' | 'own'>

function baseScope(
  level: Level,
  drafts: readonly Draft[],
  names: Names,
): Omit<Base, 'zonesOf' | 'zoneOfRoom' | 'wheelsOf' | 'positionsOf' | 'asksZone' | 'memories' | 'contents'> {
  const items = Object.keys(level.items ?? {})
  const most = items.map((item) => {
    const stacks = level.items?.[item]?.stacks ?? false
    return typeof stacks === 'number' ? stacks : stacks ? 99 : 1
  })
  return {
    names,
    items,
    most,
    interactables: drafts.map(({ name }) => name),
    characters: Object.entries(level.characters).map(([name, { role }]) => ({ name, role })),
    statesOf: (interactable) => drafts[interactable]?.states ?? [],
    flags: Object.keys(level.flags ?? {}),
    counters: Object.keys(level.counters ?? {}),
    tags: [...new Set(drafts.flatMap(tagsOf))],
    places: Object.keys(level.places ?? {}),
    signals: [],
    pressKinds: [{ press: usualPress, option: null, chance: null }],
  }
}

function tagsOf({ instance, type }: Draft): string[] {
  return [...(type.tags ?? []), ...(instance.tags ?? [])]
}

function place(level: Level, one: Draft, index: number, rows: readonly Row[], base: Base): Placed {
  const { name, path, instance, type, values, states } = one
  const { names } = base
  const transitions = [...rows.flatMap((row) => transition(one, row, index, base)), ...refusals(one)]
  const initial =
    instance.initial === undefined ? 0 : names.find('state', instance.initial, states, `${path}.initial`, name)
  const doorway = instance.in ?? null
  const inDoorway =
    doorway === null ? -1 : names.find('doorway', doorway, Object.keys(level.doorways ?? {}), `${path}.in`, name)
  const range = { ...type.range, ...instance.range }
  const { scale = 1 } = instance
  const rangeScale = range.scales === false ? 1 : scale
  const from = range.from ?? 'handle'
  const { radius: written = 1.5, until = written } = range
  if (until < written) {
    const at = instance.range?.until === undefined ? `types.${instance.type}` : path
    const wrong = { is: 'ends-too-soon', until, radius: written } as const
    names.tell({ rule: 'bad-value', path: `${at}.range.until`, subject: name, wrong })
  }
  return {
    index,
    name,
    type: instance.type,
    path,
    states: states.map((state) => placedState(one, state)),
    initial: Math.max(0, initial),
    transitions,
    zones: Object.values(base.zonesOf(index)),
    wheels: base.wheelsOf(index),
    memories: Object.fromEntries(
      base.memories.flatMap((memory, i) => (memory.interactable === index ? [[memory.name, i] as const] : [])),
    ),
    contents: base.contents.flatMap((content, i) => (content.interactable === index ? [i] : [])),
    inTheWay: instance['in-the-way'] ?? inTheWayOf(one),
    tags: [...new Set(tagsOf(one))].map((tag) => base.tags.indexOf(tag)),
    doorway: inDoorway < 0 ? null : (Object.keys(level.doorways ?? {})[inDoorway] ?? null),
    at: instance.at ? [instance.at[0], instance.at[1]] : null,
    height: instance.at?.[2] ?? null,
    turn: instance.turn ?? 0,
    size: scaledSize((instance.body ?? type.body)?.size, scale),
    handle: scaledHandle(filledIn(instance.handle ?? type.handle, values, []), scale),
    radius: written * rangeScale,
    until: Math.max(written, until) * rangeScale,
    heights: range.heights ? { from: range.heights.from * rangeScale, to: range.heights.to * rangeScale } : null,
    rangeFrom: Array.isArray(from) ? scaledPoint(from, rangeScale) : from,
    standsIn: range['stands-in'] ? scaledZone(range['stands-in'], rangeScale) : null,
    sight: range.sight ?? true,
    aim: range.aim ?? null,
    priority: instance.priority ?? 0,
    feedback: { ...filledIn(type.feedback, values, []), ...instance.feedback },
    asksFor: asksFor(transitions, base),
  }
}

function inTheWayOf({ type, values }: Draft): Placed['inTheWay'] {
  const said = filledIn(type['in-the-way'], values, [])
  return said === 'reopen' || said === 'push' ? said : 'wait'
}

/** Who may set a row off: as the row says, or the instance, or else players. */
function rolesOf(one: Draft, row: Row): readonly Role[] {
  return [row.definition.who ?? one.instance.who ?? 'player'].flat()
}

/** The first item that a press can be refused for, which `{item}` stands for where the refusal does not say more. */
function asksFor(transitions: readonly PlacedTransition[], base: Base): Placed['asksFor'] {
  for (const { guard } of transitions) {
    const checks = guard.kind === 'all' || guard.kind === 'any' ? guard.checks : [guard]
    for (const check of checks) {
      if (check.kind === 'carries') return { item: base.items[check.item] ?? '', count: check.count }
    }
  }
  return null
}

function transition(one: Draft, row: Row, own: number, base: Base): PlacedTransition[] {
  const { definition } = row
  const made = madeBy(one, row)
  const scope: Scope = { ...base, own, subject: one.name, pathOf: (part) => pathOf(one, row, part, made) }
  const when = resolveTrigger(definition.trigger, base.zonesOf(own), scope)
  if (!when) return []
  const all = Object.keys(one.type.states ?? {})
  const to =
    definition.to === undefined
      ? null
      : base.names.find('state', definition.to, all, join(row.path ?? one.path, 'to'), one.name)
  const lost = to !== null && to < 0
  const guard = resolveCheck(definition.guard, scope, 'guard')
  return [
    {
      name: definition.name ?? null,
      from: [definition.from].flat().map((state) => one.states.indexOf(state)),
      to: to === null || lost ? null : one.states.indexOf(all[to] ?? ''),
      when,
      roles: rolesOf(one, row),
      guard: lost ? { kind: 'never', name: definition.to ?? '' } : guard,
      changes: resolveEffects(row.effects, scope),
      feedback: definition.feedback ?? [],
      refused: definition.refused ?? null,
      restarts: definition.restarts ?? true,
      isRefusal: false,
      spends: spendingPath(one, row, made),
      path: made,
    },
  ]
}

/** A state that refuses every press has a transition for it that is never taken. */
function refusals(one: Draft): PlacedTransition[] {
  return one.states.flatMap((state, index) => {
    const refuses = one.type.states?.[state]?.refuses?.press
    if (refuses === undefined || (refuses !== true && !isProvided(refuses, one.values, []))) return []
    return [
      {
        name: null,
        from: [index],
        to: null,
        when: { kind: 'press', pressKind: 0, every: 0, offered: null },
        roles: [one.instance.who ?? 'player'].flat(),
        guard: { kind: 'never', name: '' },
        changes: [],
        feedback: [],
        refused: null,
        restarts: false,
        isRefusal: true,
        spends: null,
        path: one.chain.states[state] ?? one.path,
      },
    ]
  })
}

function placeRequirement(name: string, one: Requirement, path: string, scope: Scope): PlacedRequirement {
  const { title = null, within } = one
  const conditions = (['never', 'before', 'always', 'can-still', 'when', 'then'] as const).flatMap((part) => {
    const condition = one[part]
    return condition ? [{ part, check: resolveCheck(condition, scope, part) }] : []
  })
  const kind = one.before ? 'before' : one.when ? 'within' : one.never ? 'never' : one.always ? 'always' : 'can-still'
  const against = one.against ?? null
  return { name, title, kind, conditions, against, ms: within === undefined ? null : milliseconds(within), path }
}

function placeCharacters(level: Level, base: Base): PlacedCharacter[] {
  return Object.entries(level.characters).map(([name, character]) => {
    const carries = base.items.map(() => 0)
    for (const [item, count] of Object.entries(character.carries ?? {})) {
      const path = `characters.${name}.carries.${item}`
      const index = base.names.find('item', item, base.items, path, name)
      if (index >= 0) carries[index] = Math.min(count, base.most[index] ?? 1)
    }
    const { start, radius, speed, hand, reach } = character
    const { role, facing = 90, 'carries-most': carriesMost = Infinity } = character
    const { 'reach-offset': reachOffset = 0, probe = null } = character
    return { name, role, start, facing, radius, speed, hand, reach, reachOffset, probe, carries, carriesMost }
  })
}

/** Items that icons count: in what instances and types tell, and in what transitions do. */
function checkCounted(level: Level, names: Names): void {
  const items = Object.keys(level.items ?? {})
  const check = (entries: readonly Feedback[] | undefined, path: string, subject: string): void => {
    for (const [i, { counts }] of (entries ?? []).entries()) {
      if (counts !== undefined) names.find('item', counts, items, `${path}.${String(i)}.counts`, subject)
    }
  }
  const groups: Readonly<Record<string, Readonly<Record<string, Pick<Instance, 'feedback'>>>>> = {
    interactables: level.interactables ?? {},
    types: level.types ?? {},
  }
  for (const [group, all] of Object.entries(groups)) {
    for (const [name, one] of Object.entries(all)) {
      const feedback: Readonly<Record<string, readonly Feedback[]>> = one.feedback ?? {}
      for (const [moment, entries] of Object.entries(feedback)) {
        check(entries, `${group}.${name}.feedback.${moment}`, name)
      }
    }
  }
  for (const [name, { transitions }] of Object.entries(level.types ?? {})) {
    for (const [i, { feedback, refused }] of (transitions ?? []).entries()) {
      check(feedback, `types.${name}.transitions.${String(i)}.feedback`, name)
      check(refused, `types.${name}.transitions.${String(i)}.refused`, name)
    }
  }
}

function checkRooms(level: Level, names: Names): void {
  const rooms = Object.keys(level.rooms)
  const storeys = Object.keys(level.storeys ?? {})
  for (const [name, { storey }] of Object.entries(level.rooms)) {
    if (storey !== undefined) names.find('storey', storey, storeys, `rooms.${name}.storey`, name)
  }
  for (const [name, doorway] of Object.entries(level.doorways ?? {})) {
    for (const [i, room] of doorway.joins.entries()) {
      names.find('room', room, rooms, `doorways.${name}.joins.${String(i)}`, name)
    }
    const joined = doorway.joins.map((room) => level.rooms[room]?.storey ?? null)
    if (joined[0] === joined[1] || doorway.joins.some((room) => !level.rooms[room])) continue
    const wrong = { is: 'between-storeys', rooms: [...doorway.joins], storeys: joined } as const
    names.tell({ rule: 'bad-value', path: `doorways.${name}.joins`, subject: name, wrong })
  }
}

/** Types that no instance uses still have their rows' states and zones looked up. */
function checkUnusedTypes(level: Level, base: Base, granted: ReadonlyMap<string, string>): void {
  const used = new Set(Object.values(level.interactables ?? {}).map((instance) => instance.type))
  for (const name of Object.keys(level.types ?? {})) {
    if (used.has(name)) continue
    const chain = typeChain(level, name, granted)
    tellBroken(chain, level, name, base.names)
    const states = Object.keys(chain.type?.states ?? {})
    for (const [i, row] of (chain.type?.transitions ?? []).entries()) {
      const path = chain.rows[i]
      if (path === undefined || path === null) continue
      const listed = Array.isArray(row.from)
        ? row.from.map((from, at) => ({ state: from, part: `from.${String(at)}` }))
        : [{ state: row.from, part: 'from' }]
      if (row.to !== undefined) listed.push({ state: row.to, part: 'to' })
      for (const { state, part } of listed) base.names.find('state', state, states, join(path, part), name)
    }
  }
}

/** A step such as "walk to mill" must mean one thing: places and interactables share their names. */
function sharedNames(level: Level): NameProblem[] {
  const groups: Readonly<Record<string, object>> = {
    rooms: level.rooms,
    doorways: level.doorways ?? {},
    interactables: level.interactables ?? {},
  }
  const first = new Map<string, string>()
  const problems: NameProblem[] = []
  for (const [group, all] of Object.entries(groups)) {
    for (const name of Object.keys(all)) {
      const before = first.get(name)
      const path = `${group}.${name}`
      if (before === undefined) first.set(name, path)
      else {
        problems.push({ rule: 'duplicate-name', path, subject: name, other: before })
      }
    }
  }
  return problems
}

/** Where in the file things of a kind are defined. */
const sections: Partial<Record<NameKind, 'items' | 'flags' | 'counters' | 'places' | 'storeys' | 'types'>> = {
  item: 'items',
  flag: 'flags',
  counter: 'counters',
  place: 'places',
  storey: 'storeys',
  type: 'types',
}

function definedAt(level: Level, kind: NameKind, name: string): string | null {
  const section = sections[kind]
  return section && level[section] && Object.hasOwn(level[section], name) ? `${section}.${name}` : null
}
