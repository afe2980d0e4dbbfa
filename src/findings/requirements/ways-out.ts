import { exploreFromStarts, mostGoals, type Progress, quietly } from '../../explore/index.ts'
import { type Expanded, inLevel } from '../../interactables/index.ts'
import { type Stage, stageInSlices } from '../../play/index.ts'
import type { Part } from '../rule.ts'
import { type Confined, confiningRooms, leavesLevel, leavingKey, roomKey } from './confined.ts'
import type { Watched } from './watched.ts'

type Goal = Expanded['goals'][number]

/**
 * Explores levels that are joined for the ways out of their rooms, and of the levels themselves, which are goals that are asked about again and
 * again; by their keys in the levels. Whoever goes on in another level is out of both.
 */
export function* waysOutOf(
  stage: Stage,
  parts: readonly Part[],
  budget: number,
): Generator<Progress, ReadonlyMap<string, Watched>> {
  const zones = [...stage.expanded.zones]
  const goals: Goal[] = []
  for (const [level, part] of parts.entries()) {
    const rooms = yield* quietly(confiningRooms(part.stage), () => ({ doing: 'judging', situations: 0, budget }))
    const isLeft = part.stage.expanded.interactables.some(({ transitions }) => transitions.some(leavesLevel))
    const plain = { title: null, path: '', orElsewhere: level } as const
    for (const room of rooms) {
      const zone = zoneOfRoom(stage.expanded, zones, inLevel(part.name, room.room))
      const check = { kind: 'not', check: { kind: 'inside', zone, item: -1, who: [0] } } as const
      goals.push({ ...plain, name: inLevel(part.name, roomKey(room)), check })
    }
    if (isLeft) goals.push({ ...plain, name: inLevel(part.name, leavingKey), check: { kind: 'never', name: '' } })
  }
  const found = new Map<string, Watched>()
  for (let first = 0; first < goals.length; first += mostGoals) {
    const some = goals.slice(first, first + mostGoals)
    const made = { ...stage.expanded, zones, goals: some, requirements: [] }
    const watched = yield* quietly(stageInSlices(made), () => ({ doing: 'laying out', situations: 0, budget }))
    const evidence = yield* exploreFromStarts(watched, { budget, again: true, isForGoals: true })
    for (const { name } of some) found.set(name, { stage: watched, evidence, watcher: -1 })
  }
  return found
}

/** The zone of a room, by its index among `zones`; one is added where nothing has asked about the room. */
function zoneOfRoom({ level }: Expanded, zones: Expanded['zones'][number][], name: string): number {
  const known = zones.findIndex((zone) => zone.interactable < 0 && zone.name === name)
  if (known >= 0) {
    zones[known] = { ...zones[known]!, asked: true }
    return known
  }
  return zones.push({ interactable: -1, name, shape: { outline: level.rooms[name]!.outline }, asked: true }) - 1
}

/** The rooms that a player might not get out of, of a level by itself or of each of those that are explored together. */
export function* roomsAsked(
  stage: Stage,
  parts: readonly Part[],
): Generator<undefined, { readonly room: Confined; readonly part: Part | null }[]> {
  if (parts.length === 0) return (yield* confiningRooms(stage)).map((room) => ({ room, part: null }))
  const all: { readonly room: Confined; readonly part: Part | null }[] = []
  for (const part of parts) for (const room of yield* confiningRooms(part.stage)) all.push({ room, part })
  return all
}
