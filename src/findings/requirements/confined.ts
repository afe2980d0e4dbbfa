import type { Placed, PlacedTransition } from '../../interactables/index.ts'
import type { Level } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'
import { inPolygon } from '../../space/index.ts'
import { patchesWithin } from '../shared/ground.ts'

/**
 * Rooms that a player might not get out of, and the way out of the level: both are asked about as what can still be brought
 * about. Only rooms are asked about that nothing lets a player out of for certain: that is told without exploring.
 */
export interface Confined {
  readonly room: string
  readonly character: string
}

/** What is watched for a room is found under a name that begins so. */
export const roomKeyStart = 'out of room '

export function roomKey({ room, character }: Confined): string {
  return `${roomKeyStart}${room} for ${character}`
}

/** What is watched for the way out of the level is found under this name. */
export const leavingKey = 'out of the level'

/** The rooms that a player might not get out of, for each player. Yields after every room. */
export function* confiningRooms(stage: Stage): Generator<undefined, Confined[]> {
  const confining: Confined[] = []
  for (const room of stage.space.layout.rooms) {
    confining.push(...confinedIn(stage, room))
    yield
  }
  return confining
}

function confinedIn(stage: Stage, { name: room, outline }: Stage['space']['layout']['rooms'][number]): Confined[] {
  const { layout } = stage.space
  const ways = layout.doorways.filter(({ rooms }) => rooms.includes(room))
  const inside = stage.expanded.interactables.filter(
    ({ at, doorway }) => doorway === null && at !== null && inPolygon([at[0], at[1]], outline),
  )
  if (ways.length === 0 || inside.some(takesAway) || isEnding(stage, room, inside)) return []
  const bodies = ways.map(({ name }) => stage.expanded.interactables.filter(({ doorway }) => doorway === name))
  if (bodies.some((own) => !own.some(isShutAtTimes))) return []
  const patches = patchesWithin(stage, [outline])
  const isFree = (own: readonly Placed[], who: number): boolean =>
    own.filter(isShutAtTimes).every((body) => letsOut(body) && isPressedFrom(stage, who, patches[who]!, body.index))
  return stage.expanded.characters.flatMap(({ name: character, role }, who) =>
    role !== 'player' || bodies.some((own) => isFree(own, who)) ? [] : [{ room, character }],
  )
}

/** A level in which getting out of some rooms are the goals. */
export function levelOfRooms(level: Level, rooms: readonly Confined[]): Level {
  const goals = rooms.map((one) => [roomKey(one), { not: { inside: one.room, character: one.character } }] as const)
  return { ...level, goals: Object.fromEntries(goals), requirements: {} }
}

/** A level in which leaving it is the goal: each exit sets a flag, when `flagExits` has been at it. */
export function levelOfLeaving(level: Level): Level {
  return {
    ...level,
    flags: { ...level.flags, [leavingKey]: {} },
    goals: { [leavingKey]: { flag: leavingKey } },
    requirements: {},
  }
}

/** The same interactables, with exits that set the flag for leaving the level. */
export function flagExits(interactables: readonly Placed[], flag: number): Placed[] {
  const flagged = (transition: PlacedTransition): PlacedTransition =>
    leavesLevel(transition)
      ? { ...transition, changes: [{ kind: 'set', flag, to: true }, ...transition.changes] }
      : transition
  return interactables.map((placed) => ({ ...placed, transitions: placed.transitions.map(flagged) }))
}

/** Whether a transition takes a character to another level. */
export function leavesLevel({ changes }: PlacedTransition): boolean {
  return changes.some(({ kind }) => kind === 'exit-to')
}

/** Whether something takes a character elsewhere. */
function takesAway({ transitions }: Placed): boolean {
  return transitions.some((one) => leavesLevel(one) || one.changes.some(({ kind }) => kind === 'move-to'))
}

/** Whether a goal is met in a room, by what stands there: staying in may be the end of the level. */
function isEnding({ expanded }: Stage, room: string, inside: readonly Placed[]): boolean {
  const own = new Set(inside.map(({ index }) => index))
  const text = JSON.stringify(Object.values(expanded.level.goals ?? {}))
  const gives = inside.flatMap(({ transitions }) =>
    transitions.flatMap(({ changes }) => changes.flatMap((change) => (change.kind === 'give' ? [change.item] : []))),
  )
  const names = [
    room,
    ...expanded.interactables.flatMap(({ index, name }) => (own.has(index) ? [name] : [])),
    ...gives.map((item) => expanded.items[item]!.name),
  ]
  return names.some((name) => text.includes(JSON.stringify(name)))
}

function isShutAtTimes({ states }: Placed): boolean {
  return states.some(({ blocksWalk, isSpare }) => blocksWalk && !isSpare)
}

/** Whether a press that asks for nothing, and the motion after it, lead out of every state in which something blocks. */
function letsOut({ states, transitions }: Placed): boolean {
  const isFree = ({ when, guard, isRefusal, roles }: PlacedTransition): boolean =>
    !isRefusal &&
    (when.kind === 'motion-end' || (when.kind === 'press' && roles.includes('player'))) &&
    guard.kind === 'all' &&
    guard.checks.length === 0
  const out = new Set(states.flatMap(({ blocksWalk }, state) => (blocksWalk ? [] : [state])))
  // What leads to a state that lets out, lets out: until nothing more does.
  for (let before = -1; before !== out.size;) {
    before = out.size
    for (const { from, to, ...row } of transitions) {
      if (to !== null && out.has(to) && isFree({ from, to, ...row })) for (const state of from) out.add(state)
    }
  }
  return states.every(({ isSpare }, state) => isSpare || out.has(state))
}

/** What shuts the doorways of a room and is opened by a press, but not from inside. */
export function openedFromOutside(stage: Stage, { room, character }: Confined): string[] {
  const { layout } = stage.space
  const who = stage.expanded.characters.findIndex(({ name }) => name === character)
  const outline = layout.rooms.find(({ name }) => name === room)!.outline
  const inside = patchesWithin(stage, [outline])[who]!
  const ways = layout.doorways.filter(({ rooms }) => rooms.includes(room)).map(({ name }) => name)
  return stage.expanded.interactables.flatMap((placed) => {
    const isWay = placed.doorway !== null && ways.includes(placed.doorway)
    const isPressed = placed.transitions.some(({ when, isRefusal }) => when.kind === 'press' && !isRefusal)
    return isWay && isPressed && !isPressedFrom(stage, who, inside, placed.index) ? [placed.name] : []
  })
}

/** Whether something can be pressed somewhere on some patches, whatever else is in the way. */
function isPressedFrom({ space }: Stage, who: number, patches: readonly number[], machine: number): boolean {
  return patches.some((patch) =>
    space.patches[who]!.patches[patch]!.signature.candidates.some(({ interactable }) => interactable === machine),
  )
}
