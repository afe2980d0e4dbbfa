import {
  type Copy,
  type Effect,
  join,
  type Level,
  milliseconds,
  type Source,
  type StateDefinition,
  type TypeDefinition,
  valueSource,
} from '../model/index.ts'
import { Names } from './names.ts'
import type {
  Expanded,
  NameProblem,
  Placed,
  PlacedCharacter,
  PlacedState,
  PlacedTransition,
  Wheel,
  ZoneOf,
} from './placed.ts'
import { resolveCheck, resolveEffects, resolveTrigger, type Scope, zoneAsked } from './rows.ts'
import { settingAt, settingValues } from './settings.ts'
import { filledIn, isProvided } from './template.ts'
import { builtInTypes, type TypeChain, typeChain } from './types.ts'

type Values = Readonly<Record<string, unknown>>

/**
 * Spells a level out: every copy with the states, transitions and zones that its type and settings give it, every name
 * looked up. Names that lead nowhere are in `problems`, and stand-ins take their place: an item that nobody holds, a
 * condition that never holds, a type that does nothing. `granted` maps paths of wrong names to right ones.
 */
export function expandLevel(
  level: Level,
  source: Source = valueSource(level),
  granted: ReadonlyMap<string, string> = new Map(),
): Expanded {
  const names = new Names(granted)
  const drafts = Object.entries(level.interactables ?? {}).map(([name, copy]) =>
    draft(level, name, copy, names, granted),
  )
  const rows = drafts.map((one) => presentRows(one, names))
  const { zones, zonesOf } = placeZones(level, drafts, rows)
  const { wheels, wheelsOf } = placeWheels(drafts)
  const askedZones = new Set<number>()
  const base: Base = {
    ...baseScope(level, drafts, names),
    zonesOf: (interactable) => zonesOf[interactable] ?? {},
    wheelsOf: (interactable) => wheelsOf[interactable] ?? [],
    asksZone: (zone) => askedZones.add(zone),
  }
  const interactables = drafts.map((one, index) => place(level, one, index, rows[index] ?? [], base))
  checkUnusedTypes(level, base, granted)
  const goals = Object.entries(level.goals ?? {}).map(([name, goal]) => {
    const path = `goals.${name}`
    const scope: Scope = { ...base, own: -1, subject: name, pathOf: (part) => join(path, part).replace(/\.$/, '') }
    return { name, title: goal.title ?? null, check: resolveCheck(goal, scope, ''), path }
  })
  const characters = placeCharacters(level, base)
  checkRooms(level, names)
  names.problems.push(...sharedNames(level))
  return {
    level,
    source,
    interactables,
    zones: zones.map((zone, i) => ({ ...zone, asked: askedZones.has(i) })),
    items: base.items.map((name, i) => ({ name, title: level.items?.[name]?.title ?? name, most: base.most[i] ?? 1 })),
    flags: base.flags.map((name) => ({ name, starts: level.flags?.[name]?.starts ?? false })),
    counters: base.counters.map((name) => {
      const { starts = 0, most } = level.counters?.[name] ?? { most: 1 }
      return { name, starts: Math.min(starts, most), most }
    }),
    signals: base.signals,
    tags: base.tags,
    asks: base.asks,
    wheels,
    characters,
    goals,
    problems: names.problems,
  }
}

/** A copy with its type found and its settings filled in, before names of others are looked up. */
interface Draft {
  readonly name: string
  readonly path: string
  readonly copy: Copy
  readonly chain: TypeChain
  readonly type: TypeDefinition
  readonly values: Values
  readonly states: readonly string[]
}

function draft(level: Level, name: string, copy: Copy, names: Names, granted: ReadonlyMap<string, string>): Draft {
  const path = `interactables.${name}`
  const wanted = granted.get(`${path}.type`) ?? copy.type
  const chain = typeChain(level, wanted, granted)
  if (!chain.type) names.find('type', wanted, typeNames(level), `${path}.type`, name)
  tellBroken(chain, level, name, names)
  const type = chain.type ?? {}
  const values = settingValues(type, copy.set ?? {})
  const states = Object.entries(type.states ?? {}).filter(([, state]) => isProvided(state.if, values, []))
  const known = states.map(([state]) => state)
  return { name, path, copy, chain, type, values, states: known.length === 0 ? ['there'] : known }
}

/** An `extends` that leads nowhere, or back to where it came from. */
function tellBroken({ broken }: TypeChain, level: Level, subject: string, names: Names): void {
  if (!broken) return
  const all = typeNames(level)
  if (!all.includes(broken.name)) names.find('type', broken.name, all, broken.path, subject)
  else names.tell({ rule: 'bad-value', path: broken.path, subject, wrong: { is: 'extends-circle', type: broken.name } })
}

function typeNames(level: Level): string[] {
  return [...Object.keys(level.types ?? {}), ...Object.keys(builtInTypes)]
}

type Base = Omit<Scope, 'subject' | 'pathOf' | 'own'>

function baseScope(
  level: Level,
  drafts: readonly Draft[],
  names: Names,
): Omit<Base, 'zonesOf' | 'wheelsOf' | 'asksZone'> {
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
    statesOf: (interactable) => drafts[interactable]?.states ?? [],
    flags: Object.keys(level.flags ?? {}),
    counters: Object.keys(level.counters ?? {}),
    tags: [...new Set(drafts.flatMap(tagsOf))],
    signals: [],
    asks: [{ press: 'use', option: null }],
  }
}

function tagsOf({ copy, type }: Draft): string[] {
  return [...(type.tags ?? []), ...(copy.tags ?? [])]
}

function place(level: Level, one: Draft, index: number, rows: readonly Row[], base: Base): Placed {
  const { name, path, copy, type, values, states } = one
  const { names } = base
  const transitions = [...rows.flatMap((row) => transition(one, row, index, base)), ...refusals(one)]
  const starts = copy.starts === undefined ? 0 : names.find('state', copy.starts, states, `${path}.starts`, name)
  const doorway = copy.in ?? null
  const inDoorway =
    doorway === null ? -1 : names.find('doorway', doorway, Object.keys(level.doorways ?? {}), `${path}.in`, name)
  const range = { ...type.range, ...copy.range }
  return {
    index,
    name,
    type: copy.type,
    path,
    states: states.map((state) => placedState(one, state)),
    initial: Math.max(0, starts),
    transitions,
    zones: Object.values(base.zonesOf(index)),
    wheels: base.wheelsOf(index),
    tags: [...new Set(tagsOf(one))].map((tag) => base.tags.indexOf(tag)),
    doorway: inDoorway < 0 ? null : (Object.keys(level.doorways ?? {})[inDoorway] ?? null),
    at: copy.at ? [copy.at[0], copy.at[1]] : null,
    height: copy.at?.[2] ?? null,
    turn: copy.turn ?? 0,
    size: (copy.body ?? type.body)?.size ?? null,
    handle: filledIn(copy.handle ?? type.handle, values, []) ?? null,
    radius: range.radius ?? 1.5,
    rangeFrom: range.from ?? 'handle',
    sight: range.sight ?? true,
    aim: range.aim ?? null,
    priority: copy.priority ?? 0,
    feedback: { ...filledIn(type.feedback, values, []), ...copy.feedback },
    asksFor: asksFor(transitions, base),
  }
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

function placedState(one: Draft, name: string): PlacedState {
  const definition: StateDefinition = one.type.states?.[name] ?? {}
  const motion = filledIn(definition.motion, one.values, [])
  const ignores = definition.ignores?.press
  return {
    name,
    blocksWalk: definition.blocks?.includes('walk') ?? false,
    blocksSight: definition.blocks?.includes('sight') ?? false,
    look: definition.look ?? null,
    lasting: definition.lasting ?? false,
    pose: definition.pose ?? null,
    motion: motion ? placedMotion(motion) : null,
    dials: definition.dials ?? false,
    ignoresPress: ignores === true || (ignores !== undefined && isProvided(ignores, one.values, [])),
    path: one.chain.states[name] ?? one.path,
  }
}

function placedMotion(motion: NonNullable<StateDefinition['motion']>): NonNullable<PlacedState['motion']> {
  const turn = typeof motion.turn === 'number' ? motion.turn : 0
  const slide = Array.isArray(motion.slide) ? motion.slide : ([0, 0, 0] as const)
  const kind = motion.kind ?? (motion.slide !== undefined ? 'slide' : motion.turn !== undefined ? 'turn' : 'vanish')
  return {
    to: motion.to ?? 1,
    over: milliseconds(Number(motion.over)),
    kind: typeof kind === 'string' ? kind : 'vanish',
    turn,
    slide,
    isSoft: motion.ease === 'soft',
  }
}

interface Row {
  readonly definition: NonNullable<TypeDefinition['transitions']>[number]
  /** Its own path in the level; null for a built-in type's row. */
  readonly path: string | null
  /** The settings that say whether it is there, and those that its parts are taken from. */
  readonly hangsOn: readonly string[]
  readonly asked: readonly string[]
  /** The effects that are there, each with its place in the row. */
  readonly effects: readonly { readonly effect: Effect; readonly at: number }[]
}

/** The rows of a type that are there in a copy: as its settings say, and between states that are there. */
function presentRows(one: Draft, names: Names): Row[] {
  const all = Object.keys(one.type.states ?? {})
  return (one.type.transitions ?? []).flatMap((row, i) => {
    const hangsOn: string[] = []
    const asked: string[] = []
    const path = one.chain.rows[i] ?? null
    if (!isProvided(row.if, one.values, hangsOn)) return []
    const definition = filledIn(row, one.values, asked)
    if (!definition) return []
    const effects = (row.effects ?? []).flatMap((effect, at) => {
      if (!isProvided(effect.if, one.values, [])) return []
      const filled = filledIn(effect, one.values, [])
      return filled ? [{ effect: filled, at }] : []
    })
    const listed = [row.from].flat()
    for (const [at, from] of listed.entries()) {
      const part = Array.isArray(row.from) ? `from.${String(at)}` : 'from'
      names.find('state', from, all, join(path ?? one.path, part), one.name)
    }
    const from = listed.map((state) => rename(names, 'state', state, all, join(path ?? one.path, 'from')))
    const present = from.filter((state) => one.states.includes(state))
    if (present.length === 0) return []
    const known = row.to === undefined || all.includes(row.to)
    if (known && row.to !== undefined && !one.states.includes(row.to)) return []
    return [{ definition: { ...definition, from: present }, path, hangsOn, asked, effects }]
  })
}

function rename(names: Names, kind: 'state', name: string, all: readonly string[], path: string): string {
  if (all.includes(name)) return name
  return all[names.find(kind, name, all, path, '')] ?? name
}

/** The zones that something asks about, whoever's they are; a zone that nothing asks about leaves no trace. */
function placeZones(
  level: Level,
  drafts: readonly Draft[],
  rows: readonly (readonly Row[])[],
): { zones: Omit<ZoneOf, 'asked'>[]; zonesOf: Record<string, number>[] } {
  const inside = insideNames([rows.flat().map(({ definition }) => definition), level.goals ?? {}])
  const zones: Omit<ZoneOf, 'asked'>[] = []
  const zonesOf = drafts.map((one, interactable) => {
    const asked = new Set((rows[interactable] ?? []).map(({ definition }) => zoneAsked(definition)))
    const placed: Record<string, number> = {}
    for (const [name, shape] of Object.entries({ ...one.type.zones, ...one.copy.zones })) {
      if (!asked.has(name) && !inside.has(name)) continue
      placed[name] = zones.push({ interactable, name, shape }) - 1
    }
    if (asked.has('touch')) placed.touch = zones.push({ interactable, name: 'touch', shape: 'skin' }) - 1
    return placed
  })
  return { zones, zonesOf }
}

/** The names of all zones that conditions in some value ask about. */
function insideNames(value: unknown): Set<string> {
  if (typeof value !== 'object' || value === null) return new Set()
  const names = new Set<string>()
  for (const [key, part] of Object.entries(value)) {
    if (key === 'inside' && typeof part === 'string') names.add(part)
    for (const name of insideNames(part)) names.add(name)
  }
  return names
}

/** The wheels of all dials. */
function placeWheels(drafts: readonly Draft[]): { wheels: Wheel[]; wheelsOf: number[][] } {
  const wheels: Wheel[] = []
  const wheelsOf = drafts.map(({ type, values }, interactable) => {
    const dial = filledIn(type.dial, values, [])
    if (!dial) return []
    const positions = Number(dial.positions ?? 10)
    const starts = Array.isArray(dial.starts) ? dial.starts : []
    return Array.from({ length: Number(dial.wheels) }, (_, i) => {
      return wheels.push({ interactable, positions, starts: Math.min(starts[i] ?? 0, positions - 1) }) - 1
    })
  })
  return { wheels, wheelsOf }
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
      guard: lost ? { kind: 'never', name: definition.to ?? '' } : guard,
      changes: resolveEffects(row.effects, scope),
      feedback: definition.feedback ?? [],
      refused: definition.refused ?? null,
      restarts: definition.restarts ?? true,
      isRefusal: false,
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
        when: { kind: 'press', ask: 0, every: 0 },
        guard: { kind: 'never', name: '' },
        changes: [],
        feedback: [],
        refused: null,
        restarts: false,
        isRefusal: true,
        path: one.chain.states[state] ?? one.path,
      },
    ]
  })
}

/** The line that made a row: its own; for a built-in type the last setting that it hangs on and the copy gives. */
function madeBy(one: Draft, row: Row): string {
  if (row.path !== null) return row.path
  const isGiven = (path: string): boolean => settingAt(one.copy.set ?? {}, path) !== undefined
  const last = row.hangsOn.filter(isGiven).at(-1) ?? row.asked.find(isGiven)
  return last === undefined ? one.path : `${one.path}.set.${last}`
}

/** Where a part of a row was written: the setting that it was taken from, where the copy gives that, or its own line. */
function pathOf(one: Draft, row: Row, part: string, made: string): string {
  const template = partOf(templateRow(one, row), part.split('.'))
  if (template !== null) {
    const given = settingAt(one.copy.set ?? {}, template.setting)
    if (given !== undefined) return join(`${one.path}.set.${template.setting}`, template.rest).replace(/\.$/, '')
  }
  return row.path === null ? made : join(row.path, part)
}

function templateRow(one: Draft, row: Row): unknown {
  const at = row.path === null ? -1 : one.chain.rows.indexOf(row.path)
  if (at >= 0) return one.type.transitions?.[at]
  return one.type.transitions?.find(
    (candidate, i) =>
      one.chain.rows[i] === null && candidate.name === row.definition.name && isProvided(candidate.if, one.values, []),
  )
}

function partOf(template: unknown, keys: readonly string[]): { setting: string; rest: string } | null {
  let at = template
  for (const [i, key] of keys.entries()) {
    if (typeof at !== 'object' || at === null) return null
    at = (at as Record<string, unknown>)[key]
    const setting = (at as { setting?: unknown } | undefined)?.setting
    if (typeof setting === 'string') return { setting, rest: keys.slice(i + 1).join('.') }
  }
  return null
}

function placeCharacters(level: Level, base: Base): PlacedCharacter[] {
  return Object.entries(level.characters).map(([name, character]) => {
    const carries = base.items.map(() => 0)
    for (const [item, count] of Object.entries(character.carries ?? {})) {
      const path = `characters.${name}.carries.${item}`
      const index = base.names.find('item', item, base.items, path, name)
      if (index >= 0) carries[index] = Math.min(count, base.most[index] ?? 1)
    }
    const { start, girth, speed, hand, reach } = character
    return { name, start, facing: character.facing ?? 90, girth, speed, hand, reach, carries }
  })
}

function checkRooms(level: Level, names: Names): void {
  const rooms = Object.keys(level.rooms)
  for (const [name, doorway] of Object.entries(level.doorways ?? {})) {
    for (const [i, room] of doorway.joins.entries()) {
      names.find('room', room, rooms, `doorways.${name}.joins.${String(i)}`, name)
    }
  }
}

/** Types that no copy uses still have their rows' states and zones looked up. */
function checkUnusedTypes(level: Level, base: Base, granted: ReadonlyMap<string, string>): void {
  const used = new Set(Object.values(level.interactables ?? {}).map((copy) => copy.type))
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
