import type { Level, ZoneDefinition } from '../model/index.ts'
import { characterIn } from './joined-characters.ts'
import { inLevel } from './level-names.ts'
import type { Change, Check, Expanded, JoinedPart, Placed, PlacedTransition, PressKind, When } from './placed.ts'

/** A part with its names, its indices and its ground as they are among all. */
export function movedPart(
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
        return {
          ...one,
          zone: one.zone + first.zones,
          item: item(one.item),
          who: one.who?.map((who) => characterIn(expanded, first, who)) ?? null,
        }
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
          ...drops.map((dropped): Change => ({
            kind: 'remove',
            item: dropped,
            count: items[dropped]!.most,
            isDropped: true,
          })),
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
      name: one.role === 'player' ? one.name : named(one.name),
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
    rooms: each(level.rooms, (room) => ({
      ...outlined(room),
      ...(room.storey === undefined ? {} : { storey: named(room.storey) }),
    })),
    ...(level.storeys
      ? { storeys: each(level.storeys, (one) => ({ ...one, 'drawn-at': at(one['drawn-at'] ?? [0, 0]) })) }
      : {}),
    doorways: each(level.doorways, (doorway) => ({
      ...doorway,
      joins: [named(doorway.joins[0]), named(doorway.joins[1])],
      at: at(doorway.at),
    })),
    obstacles: each(level.obstacles, outlined),
    flags: each(level.flags, same),
    counters: each(level.counters, same),
    characters: each(level.characters, same),
    places: each(level.places, (place) => ({ ...place, at: at(place.at) })),
    types: each(level.types, same),
    interactables: each(level.interactables, (one) => (isOwnType(one.type) ? { ...one, type: named(one.type) } : one)),
    goals: each(level.goals, same),
    requirements: each(level.requirements, same),
  }
}
