import type { Change } from '../interactables/index.ts'
import type { ClockModel } from './clocks.ts'
import { type Row, type StateTable, type Tables } from './tables.ts'

/** How a press was answered by the machine it went to. */
export type PressOutcome = 'accepted' | 'refused' | 'ignored'

/** Who stands where: asked before a body comes to block, and when one may block again. */
export interface Standing {
  /** Whether any character is in the way of a machine's body. */
  isInTheWay(machine: number): boolean
}

/** Told of everything that a step changes, as it changes. For a character and the machine that gave or took. */
export interface StepWatcher {
  taken(row: Row, from: number, to: number, actor: number): void
  waits(row: Row): void
  item(actor: number, item: number, before: number, after: number, row: Row, spent: boolean): void
  flag(flag: number, to: boolean, row: Row): void
  counter(counter: number, before: number, after: number, row: Row): void
  /** To one machine, to all that bear a tag, or (where both are null) to all. */
  sent(signal: number, to: number | null, tag: number | null, row: Row): void
  /** A signal was offered: which machines took a transition by it. */
  heard(signal: number, by: readonly number[]): void
}

/** The most events in one moment. */
export const mostEvents = 1000

/**
 * The one step: offers events to machines and applies what they take, on the registers in `regs`. It knows machines,
 * guards, effects and signals, and nothing of doors, positions or time: clocks are kept by a clock model, positions by
 * whoever calls. After each call, `taken` holds the rows that were taken, in order; `storm` whether there was no end.
 */
export class Step {
  readonly tables: Tables
  regs: Int32Array
  /** The numbers of the rows taken by the last event and by the signals that followed from it. */
  readonly taken: number[] = []
  /** Whether the last event set off more than `mostEvents`: the caller then undoes the moment. */
  storm = false
  readonly #clocks: ClockModel
  readonly #standing: Standing
  readonly #watcher: StepWatcher | null
  /**
   * Events on their way, four numbers each: a signal, the machine it is for or -1, the tag it is for or -1, and who
   * acted; or, where the signal is -1, which awaited condition has come to hold.
   */
  readonly #queue: number[] = []
  #events = 0
  /** Where in the queue the next event is. */
  #next = 0

  constructor(
    tables: Tables,
    regs: Int32Array,
    clocks: ClockModel,
    standing: Standing,
    watcher: StepWatcher | null = null,
  ) {
    this.tables = tables
    this.regs = regs
    this.#clocks = clocks
    this.#standing = standing
    this.#watcher = watcher
  }

  /** Starts the clocks of the states that machines are in at the very start. */
  begin(): void {
    this.newMoment()
    this.#start()
    for (let machine = 0; machine < this.tables.states.length; machine++) {
      const state = this.stateOf(machine)
      this.#startTimers(state)
      const { motion } = state
      if (motion && motion.clock >= 0) this.#setClock(motion.clock, this.#clocks.start(motion.over))
    }
    this.#drain()
  }

  /** The table of the state that a machine is in. */
  stateOf(machine: number): StateTable {
    return this.tables.states[machine]![this.regs[machine]!]!
  }

  /** Begins a moment: events are counted from here. */
  newMoment(): void {
    this.#events = 0
    this.storm = false
  }

  /**
   * A character presses a machine that could answer, in one of the ways of `Expanded.asks`. Where it matters that the
   * usual press is kept down, it is, until `release`.
   */
  press(actor: number, machine: number, ask: number): PressOutcome {
    this.#start()
    const state = this.stateOf(machine)
    const rows = state.presses[ask]!
    const row = this.#firstHolding(rows, actor)
    if (row) this.#take(row, actor)
    const isRefused = !row && rows.length > 0
    const kept = ask === 0 && !isRefused && this.tables.canBeHeld[machine]!
    if (kept) {
      this.regs[this.tables.at.held(actor)] = machine + 1
      this.#startHolds(machine)
    }
    this.#drain()
    if (row) return 'accepted'
    if (isRefused) return 'refused'
    return kept && (state.holds.length > 0 || state.releases.length > 0) ? 'accepted' : 'ignored'
  }

  /** A character lets go of what it keeps pressed. */
  release(actor: number): void {
    this.#start()
    const machine = this.regs[this.tables.at.held(actor)]! - 1
    if (machine < 0) return
    this.regs[this.tables.at.held(actor)] = 0
    const state = this.stateOf(machine)
    for (const { clock } of state.holds) this.#setClock(clock, 0)
    const row = this.#firstHolding(state.releases, actor)
    if (row) this.#take(row, actor)
    this.#drain()
  }

  /** A character sets a wheel of a dial. */
  dial(wheel: number, to: number): void {
    this.#start()
    this.regs[this.tables.at.wheel(wheel)] = to
    this.#drain()
  }

  /** A character has come into, or gone out of, a zone. */
  cross(actor: number, zone: number, inside: boolean): void {
    this.#start()
    const known = this.tables.at.inside(actor, zone)
    if (known >= 0) this.regs[known] = inside ? 1 : 0
    for (const machine of this.tables.watchers[zone]!) {
      for (const entry of this.stateOf(machine).zones) {
        if (entry.zone !== zone || entry.inside !== inside || !entry.row.guard(this.regs, actor)) continue
        this.#take(entry.row, actor)
        break
      }
    }
    this.#drain()
  }

  /** A clock is due: a motion has ended, or a timer has run out. Where its guard does not hold it is lost. */
  due(clock: number): void {
    this.#start()
    const { at, clocks } = this.tables
    const { machine, motion } = clocks[clock]!
    this.regs[at.clock(clock)] = 0
    const state = this.stateOf(machine)
    const actor = 0
    if (motion) {
      const row = this.#firstHolding(state.moved, actor)
      if (row) this.#take(row, actor)
    } else {
      const timer = state.timers.find((one) => one.clock === clock)
      if (timer?.row.guard(this.regs, actor)) this.#take(timer.row, actor)
      const hold = state.holds.find((one) => one.clock === clock)
      if (hold) this.#held(machine, hold.row)
    }
    this.#drain()
  }

  /** A press has been kept down for the time that a transition asks for; one that is pressed again goes on. */
  #held(machine: number, row: Row): void {
    const { at } = this.tables
    let actor = 0
    while (actor < at.characters - 1 && this.regs[at.held(actor)] !== machine + 1) actor++
    const isRepeated = row.transition.when.kind === 'press'
    const first = isRepeated ? this.#firstHolding(this.stateOf(machine).presses[0]!, actor) : row
    if (first?.guard(this.regs, actor)) this.#take(first, actor)
    if (isRepeated) this.#startHolds(machine, true)
  }

  /** The last character has left the ground that a machine's body would block: what waits there is asked again. */
  cleared(machine: number, actor: number): void {
    this.#start()
    const waiting = this.regs[this.tables.at.waiting(machine)]!
    if (waiting === 0) return
    this.regs[this.tables.at.waiting(machine)] = 0
    const row = this.tables.rows[waiting - 1]!
    if (row.guard(this.regs, actor)) this.#take(row, actor)
    this.#drain()
  }

  /** Takes a row from its state, whatever its trigger and its guard: for asking what would follow if it could be. */
  grant(row: Row): void {
    this.#start()
    this.#take(row, 0)
    this.#drain()
  }

  /** Puts a machine into a state: for asking what would follow if it were reached. */
  put(machine: number, state: number): void {
    this.#start()
    this.#enter(machine, this.stateOf(machine), state, this.tables.states[machine]![state]!)
    this.#drain()
  }

  #start(): void {
    // Much quicker than setting the length.
    while (this.taken.length > 0) this.taken.pop()
    while (this.#queue.length > 0) this.#queue.pop()
    this.#events++
    if (this.#events > mostEvents) this.storm = true
  }

  #firstHolding(rows: readonly Row[], actor: number): Row | null {
    for (const row of rows) if (row.guard(this.regs, actor)) return row
    return null
  }

  /** Offers events, first in first out, until none is left and no condition that is waited for has come to hold. */
  #drain(): void {
    const queue = this.#queue
    this.#next = 0
    do {
      for (; this.#next < queue.length; this.#next += 4) {
        const i = this.#next
        if (++this.#events > mostEvents) {
          this.storm = true
          return
        }
        if (queue[i]! < 0) this.#offerAwaited(queue[i + 1]!)
        else this.#offer(queue[i]!, queue[i + 1]!, queue[i + 2]!, queue[i + 3]!)
      }
      this.#lookAtAwaited()
    } while (this.#next < queue.length)
  }

  /** Appends an event for every condition that has come to hold since the last look. */
  #lookAtAwaited(): void {
    const { awaited, at } = this.tables
    for (let i = 0; i < awaited.length; i++) {
      const index = at.holding(i)
      const holds = awaited[i]!.holds(this.regs, 0) ? 1 : 0
      if (holds > this.regs[index]!) this.#queue.push(-1, i, -1, 0)
      this.regs[index] = holds
    }
  }

  /** A condition has come to hold: its machine takes the first transition that waits for it or for one like it. */
  #offerAwaited(index: number): void {
    const { row } = this.tables.awaited[index]!
    if (!row.transition.from.includes(this.regs[row.machine]!) || !row.guard(this.regs, 0)) return
    this.#take(row, 0)
  }

  #offer(signal: number, to: number, tag: number, actor: number): void {
    const by: number[] = []
    for (const machine of this.tables.listeners[signal]!) {
      if (to >= 0 && to !== machine) continue
      if (tag >= 0 && !this.tables.expanded.interactables[machine]!.tags.includes(tag)) continue
      for (const entry of this.stateOf(machine).signals) {
        if (entry.signal !== signal || !entry.row.guard(this.regs, actor)) continue
        this.#take(entry.row, actor)
        by.push(machine)
        break
      }
    }
    this.#watcher?.heard(signal, by)
  }

  #take(row: Row, actor: number): void {
    const { regs } = this
    const { machine } = row
    const from = regs[machine]!
    const before = this.stateOf(machine)
    const to = row.to < 0 ? from : row.to
    const after = this.tables.states[machine]![to]!
    if (after.blocksWalk && !before.blocksWalk && this.#standing.isInTheWay(machine)) {
      regs[this.tables.at.waiting(machine)] = row.index + 1
      this.#watcher?.waits(row)
      return
    }
    if (to !== from) this.#enter(machine, before, to, after)
    else if (row.transition.restarts) this.#startTimers(before)
    this.taken.push(row.index)
    this.#watcher?.taken(row, from, to, actor)
    for (const change of row.transition.changes) this.#apply(change, actor, row)
  }

  #enter(machine: number, before: StateTable, to: number, after: StateTable): void {
    const { regs } = this
    const { at } = this.tables
    const old = before.motion
    const running = old && old.clock >= 0 ? regs[at.clock(old.clock)]! : 0
    const pose = old ? old.to : before.pose >= 0 ? before.pose : regs[at.pose(machine)]!
    for (const clock of this.tables.clocksOf[machine]!) regs[at.clock(clock)] = 0
    regs[at.state(machine)] = to
    regs[at.waiting(machine)] = 0
    this.#startTimers(after)
    const { motion } = after
    regs[at.pose(machine)] = motion ? 0 : after.pose >= 0 ? after.pose : pose
    if (!motion || motion.clock < 0) return
    if (running > 0 && old) {
      const value = this.#clocks.turn(running, old.over, motion.over, old.to !== motion.to)
      this.#setClock(motion.clock, value)
    } else {
      this.#setClock(motion.clock, this.#clocks.start(pose === motion.to ? 1 : motion.over))
    }
  }

  /** Starts the clocks of what a press kept down sets off; with `again`, only of what is pressed again. */
  #startHolds(machine: number, again = false): void {
    for (const { clock, after, row } of this.stateOf(machine).holds) {
      if (!again || row.transition.when.kind === 'press') this.#setClock(clock, this.#clocks.start(after))
    }
  }

  #startTimers(state: StateTable): void {
    for (const timer of state.timers) this.#setClock(timer.clock, this.#clocks.start(timer.after))
  }

  #setClock(clock: number, value: number): void {
    this.regs[this.tables.at.clock(clock)] = value
  }

  #apply(change: Change, actor: number, row: Row): void {
    switch (change.kind) {
      case 'send':
        this.#queue.push(change.signal, change.interactable ?? -1, change.tag ?? -1, actor)
        this.#watcher?.sent(change.signal, change.interactable, change.tag, row)
        return
      case 'count': {
        const index = this.tables.at.counter(change.counter)
        const before = this.regs[index]!
        const { most } = this.tables.expanded.counters[change.counter]!
        const after = Math.max(0, Math.min(change.to ?? before + change.by, most))
        this.regs[index] = after
        this.#watcher?.counter(change.counter, before, after, row)
        return
      }
      case 'set':
        this.regs[this.tables.at.flag(change.flag)] = change.to ? 1 : 0
        this.#watcher?.flag(change.flag, change.to, row)
        return
      default: {
        const index = this.tables.at.item(actor, change.item)
        const before = this.regs[index]!
        const wanted = change.kind === 'give' ? before + change.count : before - change.count
        const after = Math.max(0, Math.min(wanted, this.tables.expanded.items[change.item]!.most))
        this.regs[index] = after
        this.#watcher?.item(actor, change.item, before, after, row, change.kind === 'spend')
      }
    }
  }
}
