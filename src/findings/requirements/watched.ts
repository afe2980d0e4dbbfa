import { type Evidence, explore, type Observation, type Progress, quietly } from '../../explore/index.ts'
import { type Expanded, expandInSlices } from '../../interactables/index.ts'
import type { Condition, Level, Requirement, Role, Source } from '../../model/index.ts'
import { type Stage, stageInSlices } from '../../play/index.ts'
import {
  confiningRooms,
  flagExits,
  leavesLevel,
  leavingKey,
  levelOfLeaving,
  levelOfRooms,
  roomKey,
} from './confined.ts'

/**
 * Requirements about an order or a time are watched: for each a level is made in which a watcher, which nobody sees or touches, stands
 * for it. It waits for what the requirement is about, keeps the time, and says when the requirement is broken. What can still be
 * brought about are goals of another such level, asked about again and again. Watchers do nothing to the rest: what is played
 * here can be played, step by step, in the level itself.
 */
export interface Watched {
  readonly stage: Stage
  readonly evidence: Evidence
}

/** Which ways out are asked about: none, those of rooms, or that of the level, too. */
export type WaysOut = 'none' | 'rooms' | 'rooms-and-level'

/** Explores the level for each requirement that wants it; by the names of the requirements. */
export function* watchAll(
  level: Level,
  source: Source,
  like: Stage,
  budget: number,
  asked: WaysOut,
): Generator<Progress, ReadonlyMap<string, Watched>> {
  const all = Object.entries(level.requirements ?? {})
  const found = new Map<string, Watched>()
  for (const role of new Set(all.map(([, one]) => one.against))) {
    const lasting = all.flatMap(([name, one]) =>
      one['can-still'] && one.against === role ? [[name, one['can-still']] as const] : [],
    )
    if (lasting.length === 0) continue
    const asked: Level = { ...level, goals: Object.fromEntries(lasting), requirements: {} }
    const watched = yield* explored(asked, source, like, budget, null, null, role)
    for (const [name] of lasting) found.set(name, watched)
  }
  // Each by itself: of several at once every one would be looked at for all that the others can be.
  for (const [name, one] of all) {
    if (one.before === undefined && one.when === undefined) continue
    const watcher = unusedName(level, name)
    const made: Level = {
      ...level,
      types: { ...level.types, [watcher]: watcherOf(one, level.tick ?? 0.1) },
      interactables: { ...level.interactables, [watcher]: { type: watcher } },
      goals: {},
      requirements: { [name]: { never: lateness(one, watcher) } },
    }
    found.set(name, yield* explored(made, source, like, budget, { requirement: name, watcher }))
  }
  if (asked === 'none') return found
  const rooms = yield* quietly(confiningRooms(like), () => ({ doing: 'judging', situations: 0, budget }))
  if (rooms.length > 0) {
    const watched = yield* explored(levelOfRooms(level, rooms), source, like, budget, null)
    for (const room of rooms) found.set(roomKey(room), watched)
  }
  const isLeft = like.expanded.interactables.some(({ transitions }) => transitions.some(leavesLevel))
  if (asked === 'rooms-and-level' && isLeft) {
    const flagged = (expanded: Expanded): Expanded => ({
      ...expanded,
      interactables: flagExits(
        expanded.interactables,
        expanded.flags.findIndex(({ name }) => name === leavingKey),
      ),
    })
    found.set(leavingKey, yield* explored(levelOfLeaving(level), source, like, budget, null, flagged))
  }
  return found
}

function* explored(
  level: Level,
  source: Source,
  like: Stage,
  budget: number,
  timed: { readonly requirement: string; readonly watcher: string } | null,
  changed: ((expanded: Expanded) => Expanded) | null = null,
  opponents: Role | undefined = undefined,
): Generator<Progress, Watched> {
  const stage = yield* quietly(staged(level, source, like, changed ?? ((expanded) => expanded)), () => ({
    doing: 'laying out',
    situations: 0,
    budget,
  }))
  const observations = timed === null ? [] : [watcherObservation(stage, timed.requirement, timed.watcher)]
  const others = stage.expanded.characters.flatMap(({ role }, who) => (role === opponents ? [who] : []))
  const against = others.length > 0 ? new Set(others) : undefined
  const again = changed === null
  const isBrief = against !== undefined
  return { stage, evidence: yield* explore(stage, { budget, again, isForGoals: true, isBrief, against, observations }) }
}

function* staged(
  level: Level,
  source: Source,
  like: Stage,
  changed: (expanded: Expanded) => Expanded,
): Generator<undefined, Stage> {
  return yield* stageInSlices(changed(yield* expandInSlices(level, source)), like)
}

/** What stands for a requirement about an order, or about a time, as a type of interactable. */
function watcherOf(
  { never, before, when, then, within }: Requirement,
  tick: number,
): NonNullable<Level['types']>[string] {
  const becomes = (condition: Condition | undefined): { becomes: Condition } => ({ becomes: condition ?? { all: [] } })
  if (before) {
    return {
      states: { waiting: {}, done: { lasting: true }, broken: { lasting: true } },
      transitions: [
        // What comes to be so at the same moment as what it waits for is in time.
        { name: 'done', from: 'waiting', to: 'done', trigger: becomes(before) },
        { name: 'breaks', from: 'waiting', to: 'broken', trigger: becomes(never) },
      ],
    }
  }
  return {
    states: { waiting: {}, counting: {}, late: {}, broken: { lasting: true } },
    transitions: [
      { name: 'begins', from: 'waiting', to: 'counting', trigger: becomes(when), guard: { not: then ?? { all: [] } } },
      { name: 'follows', from: ['counting', 'late'], to: 'waiting', trigger: becomes(then) },
      { name: 'is-late', from: 'counting', to: 'late', trigger: { after: within ?? 1 } },
      // A little later there is no doubt any more.
      { name: 'breaks', from: 'late', to: 'broken', trigger: { after: tick } },
    ],
  }
}

/** What is seen when a watcher is broken; and when it is late, as it is where something else happens at that very moment, too. */
export const brokenKey = 'broken '
export const lateKey = 'late '

/** When a requirement is late: its watcher says so, and what must follow has not come to be so at this very moment. */
function lateness({ then }: Requirement, watcher: string): Condition {
  if (!then) return { interactable: watcher, is: 'broken' }
  return { all: [{ interactable: watcher, is: ['late', 'broken'] }, { not: then }] }
}

/** Looks out for situations in which the watcher of a requirement is late, or broken. */
function watcherObservation({ tables, expanded }: Stage, requirement: string, watcher: string): Observation {
  const machine = expanded.interactables.findIndex(({ name }) => name === watcher)
  const broken = expanded.interactables[machine]!.states.findIndex(({ name }) => name === 'broken')
  const isSo = (key: string, regs: Int32Array): boolean =>
    key.startsWith(brokenKey) ? regs[tables.at.state(machine)] === broken : tables.requirements[0]!(regs, 0)
  return {
    isFault: () => true,
    onSituation: [brokenKey, lateKey].map((start) => (regs, see) => {
      if (isSo(start, regs)) see(start + requirement)
    }),
    isShown: (key, play) => isSo(key, play.registers()),
  }
}

function unusedName(level: Level, requirement: string): string {
  const isUsed = (name: string): boolean =>
    level.interactables?.[name] !== undefined || level.types?.[name] !== undefined
  let name = `watcher-of-${requirement}`
  while (isUsed(name)) name += '-x'
  return name
}
