import { type Evidence, exploreFromStarts, type Observation, type Progress, quietly } from '../../explore/index.ts'
import { type Expanded, expandInSlices, inLevel, joinLevels, type Remembered } from '../../interactables/index.ts'
import { type Condition, type Level, type Requirement, type Role, type Source, valueSource } from '../../model/index.ts'
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
  /** What stands for the requirement, by index; -1: nothing does. */
  readonly watcher: number
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
  const found = new Map<string, Watched>()
  for (const watch of watchesOf(level)) {
    const expand = expandInSlices(watch.level, source)
    const watched = yield* explored(expand, like, budget, watch)
    for (const name of watch.requirements) found.set(name, watched)
  }
  if (asked === 'none') return found
  const rooms = yield* quietly(confiningRooms(like), () => ({ doing: 'judging', situations: 0, budget }))
  if (rooms.length > 0) {
    const watched = yield* explored(expandInSlices(levelOfRooms(level, rooms), source), like, budget, plain)
    for (const room of rooms) found.set(roomKey(room), watched)
  }
  const isLeft = like.expanded.interactables.some(({ transitions }) => transitions.some(leavesLevel))
  if (asked === 'rooms-and-level' && isLeft) {
    found.set(leavingKey, yield* explored(levelThatIsLeft(level, source), like, budget, { ...plain, isOnce: true }))
  }
  return found
}

/** The level with a flag that says whether anybody has left it. */
function* levelThatIsLeft(level: Level, source: Source): Generator<undefined, Expanded> {
  const expanded = yield* expandInSlices(levelOfLeaving(level), source)
  const flag = expanded.flags.findIndex(({ name }) => name === leavingKey)
  return { ...expanded, interactables: flagExits(expanded.interactables, flag) }
}

/**
 * Explores levels that are joined for each requirement of one of them that wants it; by the names of the requirements, with their level. They count
 * while somebody is in their level, whose watchers rest while nobody is; an order is remembered even where the level begins anew.
 */
export function* watchTogether(
  { expanded: { joined } }: Stage,
  budget: number,
): Generator<Progress, ReadonlyMap<string, Watched>> {
  const found = new Map<string, Watched>()
  const { title, starts, parts } = joined!
  for (const [level, part] of parts.entries()) {
    for (const watch of watchesOf(part.expanded.level)) {
      const watched = yield* explored(joinedWatch(watch), null, budget, { ...watch, home: part.name })
      for (const name of watch.requirements) found.set(inLevel(part.name, name), watched)
    }
    /** The levels with one of them watched, and without all other goals and requirements. */
    function* joinedWatch(watch: Watch): Generator<undefined, Expanded> {
      const own = yield* expandInSlices(watch.level, { ...valueSource(watch.level), file: part.expanded.source.file })
      const goals = own.goals.map((goal) => ({ ...goal, asksIn: level }))
      const all = parts.map(({ name, expanded, remembered }) => {
        if (name !== part.name) return { name, expanded: { ...expanded, goals: [], requirements: [] }, remembered }
        return { name, expanded: { ...own, goals }, remembered: remembering(remembered, watch) }
      })
      return joinLevels(title, all, starts)
    }
  }
  return found
}

/** What is remembered of a level, with the watcher of an order remembered in any case. */
function remembering(remembered: Remembered, { watcher, isOrder }: Watch): Remembered {
  if (watcher === null || !isOrder || remembered.remembers !== 'nothing') return remembered
  return { ...remembered, except: [...(remembered.except ?? []), watcher] }
}

/** A level that is explored for some of its requirements. */
interface Watch {
  readonly level: Level
  readonly requirements: readonly string[]
  /** What stands for the one requirement about an order or a time; null: they are goals. */
  readonly watcher: string | null
  readonly isOrder: boolean
  /** Who works against the goals. */
  readonly against: Role | null
}

function watchesOf(level: Level): Watch[] {
  const all = Object.entries(level.requirements ?? {})
  const roles = [...new Set(all.flatMap(([, one]) => (one['can-still'] ? [one.against ?? null] : [])))]
  const lasting = roles.map((against): Watch => {
    const asked = all.flatMap(([name, one]) =>
      one['can-still'] && (one.against ?? null) === against ? [[name, one['can-still']] as const] : [],
    )
    const made: Level = { ...level, goals: Object.fromEntries(asked), requirements: {} }
    return { level: made, requirements: asked.map(([name]) => name), watcher: null, isOrder: false, against }
  })
  // Each by itself: of several at once every one would be looked at for all that the others can be.
  const watched = all.flatMap(([name, one]): Watch[] => {
    if (one.before === undefined && one.when === undefined) return []
    const watcher = unusedName(level, name)
    const made: Level = {
      ...level,
      types: { ...level.types, [watcher]: watcherOf(one, level.tick ?? 0.1) },
      interactables: { ...level.interactables, [watcher]: { type: watcher } },
      goals: {},
      requirements: { [name]: { never: lateness(one, watcher) } },
    }
    return [{ level: made, requirements: [name], watcher, isOrder: one.before !== undefined, against: null }]
  })
  return [...lasting, ...watched]
}

/** How a level is explored. */
interface Exploring extends Pick<Watch, 'requirements' | 'watcher' | 'against'> {
  /** Whether goals are done with once they have been met. */
  readonly isOnce?: boolean
  /** Where levels are joined: the name of the one that it is about. */
  readonly home?: string
}

const plain: Exploring = { requirements: [], watcher: null, against: null }

function* explored(
  expanding: Generator<undefined, Expanded>,
  like: Stage | null,
  budget: number,
  { requirements, watcher, against, isOnce = false, home }: Exploring,
): Generator<Progress, Watched> {
  const progress = (): Progress => ({ doing: 'laying out', situations: 0, budget })
  const expanded = yield* quietly(expanding, progress)
  const stage = yield* quietly(stageInSlices(expanded, like), progress)
  const named = (name: string): string => (home === undefined ? name : inLevel(home, name))
  const observations = watcher === null ? [] : [watcherObservation(stage, requirements[0]!, named(watcher))]
  const { levelOfCharacter } = stage.tables
  const level = expanded.joined?.parts.findIndex(({ name }) => name === home) ?? -1
  const others = stage.expanded.characters.flatMap(({ role }, who) =>
    role === against && (home === undefined || levelOfCharacter[who] === level) ? [who] : [],
  )
  const opponents = others.length > 0 ? new Set(others) : undefined
  const options = { budget, again: !isOnce, isForGoals: true, isBrief: opponents !== undefined, against: opponents }
  const machine = expanded.interactables.findIndex(({ name }) => watcher !== null && name === named(watcher))
  return { stage, watcher: machine, evidence: yield* exploreFromStarts(stage, { ...options, observations }) }
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
