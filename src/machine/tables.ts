import type { Expanded, Placed, PlacedTransition } from '../interactables/index.ts'
import { compileGuard, type Guard } from './guards.ts'
import { Registers } from './registers.ts'

/** A transition, ready to be taken. */
export interface Row {
  /** Its number among all rows of the level, in file and table order. */
  readonly index: number
  readonly machine: number
  /** Its place in the table of its interactable. */
  readonly place: number
  /** The state that it leads to; -1: it stays. */
  readonly to: number
  readonly guard: Guard
  readonly transition: PlacedTransition
}

/** What there is to a state of a machine. */
export interface StateTable {
  readonly blocksWalk: boolean
  readonly blocksSight: boolean
  readonly ignoresPress: boolean
  /** The pose it rests in: 0 or 1; -1: the one that it was entered with. */
  readonly pose: number
  /** Its motion, and the clock of it; the clock is -1 where nothing asks about the motion. */
  readonly motion: { readonly to: 0 | 1; readonly over: number; readonly clock: number } | null
  readonly press: readonly Row[]
  readonly moved: readonly Row[]
  /** A clock for each timer, in table order. */
  readonly timers: readonly { readonly clock: number; readonly after: number; readonly row: Row }[]
  readonly signals: readonly { readonly signal: number; readonly row: Row }[]
  readonly zones: readonly { readonly zone: number; readonly inside: boolean; readonly row: Row }[]
}

/** A level compiled to tables: what Play and Explore both stand on. */
export interface Tables {
  readonly expanded: Expanded
  readonly at: Registers
  readonly rows: readonly Row[]
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
}

/** Compiles a level. */
export function compile(expanded: Expanded): Tables {
  const clocks: { machine: number; motion: boolean }[] = []
  const clocksOf = expanded.interactables.map((placed) => reserveClocks(placed, clocks))
  const at = new Registers(expanded, clocks.length)
  const rows: Row[] = []
  const states = expanded.interactables.map((placed, machine) => {
    const own = placed.transitions.map((transition, place) => {
      const row: Row = {
        index: rows.length,
        machine,
        place,
        to: transition.to ?? -1,
        guard: compileGuard(transition.guard, at),
        transition,
      }
      rows.push(row)
      return row
    })
    return placed.states.map((_, state) => stateTable(placed, state, own, clocksOf[machine]!, clocks))
  })
  const asked = (holds: (row: Row) => boolean): number[] => {
    return [...new Set(rows.filter(holds).map((row) => row.machine))].sort((a, b) => a - b)
  }
  return {
    expanded,
    at,
    rows,
    states,
    clocks,
    clocksOf,
    listeners: expanded.signals.map((_, signal) =>
      asked(({ transition: { when } }) => when.kind === 'signal' && when.signal === signal),
    ),
    watchers: expanded.zones.map((_, zone) =>
      asked(({ transition: { when } }) => (when.kind === 'enter' || when.kind === 'leave') && when.zone === zone),
    ),
    goals: expanded.goals.map((goal) => anyPlayer(compileGuard(goal.check, at), at.characters)),
  }
}

/** A goal is met where its condition holds for any player. */
function anyPlayer(guard: Guard, characters: number): Guard {
  return (regs) => {
    for (let actor = 0; actor < characters; actor++) if (guard(regs, actor)) return true
    return false
  }
}

/** The registers of a level in which nothing has happened yet. Clocks of initial states are started by the step. */
export function initialRegisters({ expanded, at }: Tables): Int32Array {
  const regs = new Int32Array(at.size)
  for (const [machine, placed] of expanded.interactables.entries()) {
    regs[at.state(machine)] = placed.initial
    regs[at.pose(machine)] = placed.states[placed.initial]?.pose ?? 0
  }
  for (const [index, flag] of expanded.flags.entries()) regs[at.flag(index)] = flag.starts ? 1 : 0
  for (const [index, character] of expanded.characters.entries()) {
    for (const [item, count] of character.carries.entries()) regs[at.item(index, item)] = count
  }
  return regs
}

/** The first clock of a machine is its motion's, where it has one; then one for each timer that can run beside others. */
function reserveClocks(placed: Placed, clocks: { machine: number; motion: boolean }[]): number[] {
  const own: number[] = []
  const moves = placed.states.some((_, state) => isAsked(placed, state))
  if (moves) own.push(clocks.push({ machine: placed.index, motion: true }) - 1)
  const timers = placed.states.map(
    (_, state) => placed.transitions.filter((row) => row.when.kind === 'after' && row.from.includes(state)).length,
  )
  const most = Math.max(0, ...timers)
  for (let i = 0; i < most; i++) own.push(clocks.push({ machine: placed.index, motion: false }) - 1)
  return own
}

/** Whether anything asks about the motion of a state: its end, or how far it has come when another motion takes over. */
function isAsked(placed: Placed, state: number): boolean {
  if (!placed.states[state]?.motion) return false
  return placed.transitions.some(
    (row) =>
      row.from.includes(state) &&
      (row.when.kind === 'moved' || (row.to !== null && placed.states[row.to]?.motion != null)),
  )
}

function stateTable(
  placed: Placed,
  state: number,
  rows: readonly Row[],
  own: readonly number[],
  clocks: readonly { readonly motion: boolean }[],
): StateTable {
  const definition = placed.states[state]!
  const leaving = rows.filter((row) => row.transition.from.includes(state))
  const timerClocks = own.filter((clock) => !clocks[clock]?.motion)
  const motionClock = isAsked(placed, state) ? own.find((clock) => clocks[clock]?.motion) : undefined
  let next = 0
  return {
    blocksWalk: definition.blocksWalk,
    blocksSight: definition.blocksSight,
    ignoresPress: definition.ignoresPress,
    pose: definition.pose ?? -1,
    motion: definition.motion ? { ...definition.motion, clock: motionClock ?? -1 } : null,
    press: leaving.filter((row) => row.transition.when.kind === 'press'),
    moved: leaving.filter((row) => row.transition.when.kind === 'moved'),
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
