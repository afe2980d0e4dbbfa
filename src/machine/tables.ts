import {
  askedByPlans,
  type Check,
  type Expanded,
  forgottenByLevel,
  type Forgotten,
  levelAt,
  levelOf,
  levelOfCharacter,
  partWith,
  type Placed,
  type PlacedTransition,
} from '../interactables/index.ts'
import { finish, mapped } from '../model/index.ts'
import { compileGuard, type Guard } from './guards.ts'
import { Registers } from './registers.ts'

/** A transition, ready to be taken. */
export interface CompiledTransition {
  /** Its number among all rows of the level, in file and table order. */
  readonly index: number
  readonly machine: number
  /** Its place in the table of its interactable. */
  readonly place: number
  /** The state that it leads to; -1: it stays. */
  readonly to: number
  readonly guard: Guard
  /** For an option, whether it is on the prompt; null: it always is. */
  readonly offered: Guard | null
  /** For each character whether it may set it off; for what nobody sets off, true. */
  readonly may: readonly boolean[]
  readonly transition: PlacedTransition
}

/** What there is to a state of a machine. */
export interface StateTable {
  readonly blocksWalk: boolean
  readonly blocksSight: boolean
  readonly ignoresPress: boolean
  /** Somebody in its way when it comes to block: it waits for them, or stays and starts again once they are gone. */
  readonly reopens: boolean
  /** Somebody in its way when it comes to block is pushed out, where there is a spot for them. */
  readonly pushes: boolean
  /** The pose it rests in: 0 or 1; -1: the one that it was entered with. */
  readonly pose: number
  /** Its motion, and the clock of it; the clock is -1 where nothing asks about the motion. */
  readonly motion: { readonly to: 0 | 1; readonly over: number; readonly clock: number } | null
  /** By the way to press: see `Expanded.pressKinds`. */
  readonly presses: readonly (readonly CompiledTransition[])[]
  /** The ways to press of which chance draws one, where it is pressed in the usual way. */
  readonly byChance: readonly number[]
  /** By character, then by the way to press: whether it could answer. For an option: whether any option could be chosen. */
  readonly answers: readonly (readonly boolean[])[]
  /** A clock for each transition that a press kept down sets off, in table order; it runs while it is. */
  readonly holds: readonly { readonly clock: number; readonly after: number; readonly row: CompiledTransition }[]
  readonly releases: readonly CompiledTransition[]
  readonly dials: boolean
  readonly moved: readonly CompiledTransition[]
  /** A clock for each timer, in table order. */
  readonly timers: readonly { readonly clock: number; readonly after: number; readonly row: CompiledTransition }[]
  readonly signals: readonly { readonly signal: number; readonly row: CompiledTransition }[]
  readonly zones: readonly { readonly zone: number; readonly inside: boolean; readonly row: CompiledTransition }[]
}

/** A level compiled to tables: what Play and Explore both stand on. */
export interface Tables {
  readonly expanded: Expanded
  readonly at: Registers
  readonly rows: readonly CompiledTransition[]
  /** The rows of each machine, in table order. */
  readonly rowsOf: readonly (readonly CompiledTransition[])[]
  /** By machine, then by state. */
  readonly states: readonly (readonly StateTable[])[]
  /** For each clock, its machine, and whether it belongs to a motion. */
  readonly clocks: readonly { readonly machine: number; readonly motion: boolean }[]
  /** For each machine, its clocks. */
  readonly clocksOf: readonly (readonly number[])[]
  /** For each signal, the machines that listen to it in some state, in file order. */
  readonly listeners: readonly (readonly number[])[]
  /** For each zone, the machines that ask about it in some state, in file order. */
  readonly watchers: readonly (readonly number[])[]
  readonly goals: readonly Guard[]
  /** For each requirement whether its first condition holds, of any player. */
  readonly requirements: readonly Guard[]
  /** Transitions that wait for a condition to come to hold, in file and table order; the condition of each. */
  readonly awaited: readonly Awaited[]
  /** For each wheel the numbers that conditions ask about, and one that stands for all others, ascending. */
  readonly wheelValues: readonly (readonly number[])[]
  /** For each wheel the number that stands for all that no condition asks about; -1: conditions ask about all. */
  readonly wheelOthers: readonly number[]
  /** Whether a press on an interactable can be kept down, to some effect. */
  readonly canBeHeld: readonly boolean[]
  /** The first character that is a player. */
  readonly firstPlayer: number
  /** Whether anything moves people to places. */
  readonly movesPeople: boolean
  /** For each character, in which of the levels that are joined it stays, by index; -1: it goes from one to another, or there is one level. */
  readonly levelOfCharacter: readonly number[]
  /** By the index of the level, the characters who stay in it; where there is one level, none. */
  readonly othersIn: readonly (readonly number[])[]
  /** For each machine, to which of the levels that are joined it belongs, by index; 0 where it is one level. */
  readonly levelOf: readonly number[]
  /** By the index of the level, the registers of its clocks. */
  readonly clocksIn: readonly (readonly number[])[]
  /** By the index of a level that is joined, what of it begins anew when one comes back; null: nothing does. */
  readonly forgotten: readonly (Forgotten | null)[]
  /** Whether it matters who set a machine off last: what its clocks set off asks, or does something to, that one. */
  readonly knowsLast: readonly boolean[]
}

/** A transition that waits for a condition. */
export interface Awaited {
  readonly row: CompiledTransition
  readonly holds: Guard
  /** Whether the condition hangs on what somebody carries. */
  readonly asksItems: boolean
}

/** Compiles a level. */
export function compile(expanded: Expanded): Tables {
  return finish(compileInSlices(expanded))
}

/** The same with pauses, every few milliseconds. */
export function* compileInSlices(expanded: Expanded): Generator<undefined, Tables> {
  const clocks: { machine: number; motion: boolean }[] = []
  const clocksOf = expanded.interactables.map((placed) => reserveClocks(placed, clocks))
  const waitsFor = (row: PlacedTransition): boolean => row.when.kind === 'becomes'
  const awaited = expanded.interactables.flatMap(({ transitions }) => transitions.filter(waitsFor)).length
  const at = new Registers(expanded, awaited, clocks.length)
  const rows: CompiledTransition[] = []
  const rowsOf: CompiledTransition[][] = []
  const states = yield* mapped(expanded.interactables, (placed, machine) => {
    const own = placed.transitions.map((transition, place) => {
      const row: CompiledTransition = {
        index: rows.length,
        machine,
        place,
        to: transition.to ?? -1,
        guard: compileGuard(transition.guard, at, expanded),
        offered: offeredGuard(transition, at, expanded),
        may: expanded.characters.map(({ role }) => !isActed(transition) || transition.roles.includes(role)),
        transition,
      }
      rows.push(row)
      return row
    })
    rowsOf.push(own)
    return placed.states.map((_, state) => stateTable(expanded, placed, state, own, clocksOf[machine]!, clocks))
  })
  const stays = expanded.characters.map((_, who) => levelOfCharacter(expanded, who))
  const asked = (holds: (row: CompiledTransition) => boolean): number[] => {
    return [...new Set(rows.filter(holds).map((row) => row.machine))].sort((a, b) => a - b)
  }
  return {
    expanded,
    at,
    rows,
    rowsOf,
    states,
    clocks,
    clocksOf,
    listeners: expanded.signals.map((_, signal) =>
      asked(({ transition: { when } }) => when.kind === 'signal' && when.signal === signal),
    ),
    watchers: expanded.zones.map((_, zone) =>
      asked(({ transition: { when } }) => (when.kind === 'enter' || when.kind === 'leave') && when.zone === zone),
    ),
    goals: expanded.goals.map(({ check, orElsewhere }, goal) => {
      const holds = anyPlayer(compileGuard(check, at, expanded), expanded)
      if (orElsewhere === undefined) return whileHere(at, partWith(expanded, 'goals', goal), holds)
      return (regs, actor) => regs[at.here] !== orElsewhere || holds(regs, actor)
    }),
    requirements: expanded.requirements.map(({ conditions: [first] }, requirement) => {
      const holds = anyPlayer(compileGuard(first!.check, at, expanded), expanded)
      return whileHere(at, partWith(expanded, 'requirements', requirement), holds)
    }),
    awaited: rows.flatMap((row) => {
      const { when } = row.transition
      if (when.kind !== 'becomes') return []
      const holds = anyPlayer(compileGuard(when.check, at, expanded), expanded)
      return [{ row, holds, asksItems: asksItems(when.check) }]
    }),
    ...wheelNumbers(expanded),
    canBeHeld: expanded.interactables.map(({ transitions }) => transitions.some(isHeld)),
    levelOf: expanded.interactables.map((_, machine) => levelOf(expanded, machine)),
    clocksIn: (expanded.joined?.parts ?? [null]).map((_, level) =>
      clocks.flatMap(({ machine }, clock) => (levelOf(expanded, machine) === level ? [at.clock(clock)] : [])),
    ),
    forgotten: forgottenByLevel(expanded),
    levelOfCharacter: stays,
    othersIn: (expanded.joined?.parts ?? [null]).map((_, level) =>
      stays.flatMap((own, who) => (own === level ? [who] : [])),
    ),
    movesPeople: rows.some(({ transition }) => transition.changes.some(({ kind }) => kind === 'move-to')),
    firstPlayer: expanded.characters.findIndex(({ role }) => role === 'player'),
    knowsLast: expanded.interactables.map(({ transitions, states }) => {
      const canWait = states.some(({ blocksWalk }) => blocksWalk)
      return expanded.characters.length > 1 && transitions.some((row) => isOfLast(row, canWait))
    }),
  }
}

/** What is asked of a level that is joined with others counts while the play goes on there. */
function whileHere({ here }: Registers, level: number, holds: Guard): Guard {
  return here < 0 ? holds : (regs, actor) => regs[here] === level && holds(regs, actor)
}

/** Conditions ask only whether a wheel stands at a number: all numbers that none asks about are alike. */
function wheelNumbers({
  wheels,
  interactables,
  goals,
  requirements,
}: Expanded): Pick<Tables, 'wheelValues' | 'wheelOthers'> {
  const asked = wheels.map(() => new Set<number>())
  const look = (check: Check): void => {
    if (check.kind === 'dial') check.digits.forEach((digit, i) => asked[check.wheel + i]?.add(digit))
    else if (check.kind === 'not') look(check.check)
    else if (check.kind === 'all' || check.kind === 'any') check.checks.forEach(look)
  }
  for (const { transitions } of interactables) {
    for (const { guard, when } of transitions) {
      look(guard)
      if (when.kind === 'press' && when.offered) look(when.offered)
      if (when.kind === 'becomes') look(when.check)
    }
  }
  for (const { check } of askedByPlans({ goals, requirements })) look(check)
  const others = wheels.map(({ positions }, wheel) => {
    const other = Array.from({ length: positions }, (_, i) => i).find((value) => !asked[wheel]!.has(value))
    return other ?? -1
  })
  const values = wheels.map(({ positions }, wheel) => {
    const own = [...asked[wheel]!].filter((value) => value < positions)
    return [...own, ...(others[wheel] === -1 ? [] : [others[wheel]!])].sort((a, b) => a - b)
  })
  return { wheelValues: values, wheelOthers: others }
}

/** Whether a clock, or the way being clear again, sets a transition off that is about the character that set its machine off. */
function isOfLast({ when, guard, changes }: PlacedTransition, canWait: boolean): boolean {
  if (when.kind !== 'motion-end' && when.kind !== 'after' && !canWait) return false
  return changes.some(({ kind }) => !['set', 'count'].includes(kind)) || asksActor(guard)
}

function asksActor(check: Check): boolean {
  if (check.kind === 'not') return asksActor(check.check)
  if (check.kind === 'all' || check.kind === 'any') return check.checks.some(asksActor)
  return ['carries', 'room', 'fits', 'role', 'remembers'].includes(check.kind)
}

/** Whether a condition hangs on what somebody carries. */
export function asksItems(check: Check): boolean {
  if (check.kind === 'not') return asksItems(check.check)
  if (check.kind === 'all' || check.kind === 'any') return check.checks.some(asksItems)
  return ['carries', 'room', 'fits'].includes(check.kind) || (check.kind === 'inside' && check.item >= 0)
}

/** Whether it matters to a transition that a press is kept down. */
function isHeld({ when }: PlacedTransition): boolean {
  return when.kind === 'hold' || when.kind === 'release' || (when.kind === 'press' && when.every > 0)
}

/** Whether somebody sets a transition off, and not a clock, a signal, or what comes to hold. */
export function isActed({ when }: PlacedTransition): boolean {
  return ['press', 'hold', 'release', 'enter', 'leave'].includes(when.kind)
}

function offeredGuard({ when }: PlacedTransition, at: Registers, expanded: Expanded): Guard | null {
  return when.kind === 'press' && when.offered ? compileGuard(when.offered, at, expanded) : null
}

/** Where nobody acts, a condition holds if it holds for any player. */
function anyPlayer(guard: Guard, { characters }: Expanded): Guard {
  const players = characters.flatMap(({ role }, index) => (role === 'player' ? [index] : []))
  const [first] = players
  if (players.length === 1 && first !== undefined) return (regs) => guard(regs, first)
  return (regs) => {
    for (const actor of players) if (guard(regs, actor)) return true
    return false
  }
}

/** Whether a character is where the play goes on: whoever stays in another level does nothing. */
export function isThere({ at, levelOfCharacter: stays }: Tables, regs: Int32Array, who: number): boolean {
  return at.here < 0 || stays[who]! < 0 || stays[who] === regs[at.here]
}

/** The registers of the clocks that time passes for: those of the level that the play goes on in. */
export function clocksNow({ at, clocksIn }: Tables, regs: Int32Array): readonly number[] {
  return clocksIn[at.here < 0 ? 0 : regs[at.here]!]!
}

/**
 * The registers of a level in which nothing has happened yet, and its characters begin as they are given; `inside` gives the zones that one starts in.
 * Clocks of initial states are started by the step.
 */
export function initialRegisters(
  tables: Tables,
  characters: Expanded['characters'],
  inside: (character: number) => readonly number[],
): Int32Array {
  const { expanded, at } = tables
  const { interactables, flags, counters } = expanded
  const regs = new Int32Array(at.size)
  forget(
    tables,
    {
      interactables: [...interactables.keys()],
      flags: [...flags.keys()],
      counters: [...counters.keys()],
      characters: [],
    },
    regs,
  )
  for (const [index, character] of characters.entries()) {
    for (const zone of inside(index)) if (at.inside(index, zone) >= 0) regs[at.inside(index, zone)] = 1
    for (const [item, count] of character.carries.entries()) {
      const slot = at.item(index, item)
      regs[slot] = Math.min(regs[slot]! + count, expanded.items[item]!.most)
    }
  }
  if (at.here >= 0) regs[at.here] = levelAt(expanded, characters[0]!.start)
  return regs
}

/** Puts what is forgotten as it is at the very start; the clocks of initial states are off. */
export function forget(
  { expanded, at, clocksOf, awaited, firstPlayer }: Tables,
  { interactables, flags, counters, characters }: Forgotten,
  regs: Int32Array,
): void {
  for (const machine of interactables) {
    const { initial, states, wheels, contents, memories } = expanded.interactables[machine]!
    regs[at.state(machine)] = initial
    regs[at.pose(machine)] = states[initial]?.pose ?? 0
    regs[at.waiting(machine)] = 0
    if (at.characters > 1) regs[at.last(machine)] = firstPlayer
    for (const clock of clocksOf[machine]!) regs[at.clock(clock)] = 0
    for (const wheel of wheels) regs[at.wheel(wheel)] = expanded.wheels[wheel]!.initial
    for (const content of contents) regs[at.content(content)] = expanded.contents[content]!.initial
    for (const memory of Object.values(memories)) {
      for (let character = 0; character < at.characters; character++) regs[at.memory(character, memory)] = 0
    }
  }
  for (const [i, { row }] of awaited.entries()) if (interactables.includes(row.machine)) regs[at.holding(i)] = 0
  for (const flag of flags) regs[at.flag(flag)] = expanded.flags[flag]!.initial ? 1 : 0
  for (const counter of counters) regs[at.counter(counter)] = expanded.counters[counter]!.initial
  for (const who of characters) {
    for (const [item, { shared }] of expanded.items.entries()) {
      if (!shared)
        regs[at.item(who, item)] = Math.min(expanded.characters[who]!.carries[item]!, expanded.items[item]!.most)
    }
  }
}

/** The first clock of a machine is its motion's, where it has one; then one for each timer that can run beside others. */
function reserveClocks(placed: Placed, clocks: { machine: number; motion: boolean }[]): number[] {
  const own: number[] = []
  const moves = placed.states.some((_, state) => isAsked(placed, state))
  if (moves) own.push(clocks.push({ machine: placed.index, motion: true }) - 1)
  const timers = placed.states.map(
    (_, state) => placed.transitions.filter((row) => hasClock(row) && row.from.includes(state)).length,
  )
  const most = Math.max(0, ...timers)
  for (let i = 0; i < most; i++) own.push(clocks.push({ machine: placed.index, motion: false }) - 1)
  return own
}

/** Whether a transition needs a clock of its own while its state lasts. */
function hasClock({ when }: PlacedTransition): boolean {
  return when.kind === 'after' || when.kind === 'hold' || (when.kind === 'press' && when.every > 0)
}

/** Whether anything asks about the motion of a state: its end, or how far it has come when another motion takes over. */
function isAsked(placed: Placed, state: number): boolean {
  if (!placed.states[state]?.motion) return false
  return placed.transitions.some(
    (row) =>
      row.from.includes(state) &&
      (row.when.kind === 'motion-end' || (row.to !== null && placed.states[row.to]?.motion != null)),
  )
}

function stateTable(
  expanded: Expanded,
  placed: Placed,
  state: number,
  rows: readonly CompiledTransition[],
  own: readonly number[],
  clocks: readonly { readonly motion: boolean }[],
): StateTable {
  const definition = placed.states[state]!
  const leaving = rows.filter((row) => row.transition.from.includes(state))
  const timerClocks = own.filter((clock) => !clocks[clock]?.motion)
  const motionClock = isAsked(placed, state) ? own.find((clock) => clocks[clock]?.motion) : undefined
  let next = 0
  const presses = expanded.pressKinds.map((_, pressKind) =>
    leaving.filter(({ transition: { when } }) => when.kind === 'press' && when.pressKind === pressKind),
  )
  const kept = leaving.filter(({ transition: { when } }) => when.kind === 'hold' || when.kind === 'release')
  const answers = expanded.characters.map((_, character) => {
    const takes = (rows: readonly CompiledTransition[]): boolean => rows.some(({ may }) => may[character])
    const usual = expanded.pressKinds[0]!.press
    return expanded.pressKinds.map(({ press }) => {
      if (press === usual && (takes(kept) || definition.ignoresPress)) return true
      return expanded.pressKinds.some((other, i) => other.press === press && takes(presses[i]!))
    })
  })
  return {
    blocksWalk: definition.blocksWalk,
    blocksSight: definition.blocksSight,
    ignoresPress: definition.ignoresPress,
    reopens: placed.inTheWay === 'reopen',
    pushes: placed.inTheWay === 'push',
    pose: definition.pose ?? -1,
    motion: definition.motion ? { ...definition.motion, clock: motionClock ?? -1 } : null,
    presses,
    byChance: expanded.pressKinds.flatMap(({ chance }, kind) =>
      chance !== null && presses[kind]!.length > 0 ? [kind] : [],
    ),
    answers,
    holds: leaving.flatMap((row) => {
      const { when } = row.transition
      if (when.kind === 'hold') return [{ clock: timerClocks[next++]!, after: when.hold, row }]
      return when.kind === 'press' && when.every > 0 ? [{ clock: timerClocks[next++]!, after: when.every, row }] : []
    }),
    releases: leaving.filter((row) => row.transition.when.kind === 'release'),
    dials: definition.dials,
    moved: leaving.filter((row) => row.transition.when.kind === 'motion-end'),
    timers: leaving.flatMap((row) => {
      const { when } = row.transition
      return when.kind === 'after' ? [{ clock: timerClocks[next++]!, after: when.after, row }] : []
    }),
    signals: leaving.flatMap((row) => {
      const { when } = row.transition
      return when.kind === 'signal' ? [{ signal: when.signal, row }] : []
    }),
    zones: leaving.flatMap((row) => {
      const { when } = row.transition
      if (when.kind !== 'enter' && when.kind !== 'leave') return []
      return [{ zone: when.zone, inside: when.kind === 'enter', row }]
    }),
  }
}
