import { type Change, levelAt } from '../interactables/index.ts'
import type { Moved, Standing, StepWatcher, WayOut } from './around.ts'
import { Belongings } from './belongings.ts'
import { isOffered } from './chance.ts'
import type { ClockModel } from './clocks.ts'
import { unmetParts } from './guards.ts'
import { Running } from './running.ts'
import { type CompiledTransition, forget, type StateTable, type Tables } from './tables.ts'

/** How a press was answered by the machine it went to. */
export type PressOutcome = 'accepted' | 'refused' | 'ignored'

/** What else than a signal can be on its way: a condition that has come to hold, somebody moved across a border. */
const event = { awaited: -1, crossing: -2, cleared: -3, letGo: -4 } as const

/** The most events in one moment. */
export const mostEvents = 1000

/**
 * The one step: offers events to machines and applies what they take, on the registers in `regs`. It knows machines,
 * guards, effects and signals, and nothing of doors, positions or time: clocks are kept by a clock model, positions by
 * the caller. After each call, `taken` holds the rows that were taken, in order; `storm` whether there was no end.
 */
export class Step {
  readonly tables: Tables
  regs: Int32Array
  /** The numbers of the rows taken by the last event and by the signals that followed from it. */
  readonly taken: number[] = []
  /** Whether the last event set off more than `mostEvents`: the caller then undoes the moment. */
  storm = false
  /** A row whose signals are not sent, for asking what would follow if they were not; -1: none. */
  muted = -1
  /** Whether a condition that is waited for may have changed, for a caller that knows what was written; null: any may have. */
  mayHaveChanged: ((awaited: number) => boolean) | null = null
  readonly #clocks: ClockModel
  readonly #running: Running
  readonly #standing: Standing
  readonly #belongings: Belongings
  readonly #watcher: StepWatcher | null
  /**
   * Events on their way, four numbers each: a signal, the machine it is for or -1, the tag it is for or -1, and who
   * acted. Where the signal is negative, `event` says what it is instead, and the others what it is about.
   */
  readonly #queue: number[] = []
  #events = 0
  /** Where in the queue the next event is. */
  #next = 0
  /** Who goes on in another level, once nothing more happens in the one that they have left, which is forgotten as far as it is not remembered. */
  readonly #coming: {
    readonly left: number
    readonly actor: number
    readonly entered: readonly number[]
    isLeft: boolean
  }[] = []

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
    this.#running = new Running(tables, clocks)
    this.#standing = standing
    this.#belongings = new Belongings(tables, watcher)
    this.#watcher = watcher
  }

  /** Starts the clocks of the states that machines are in at the very start; of all, or of those that begin anew. */
  begin(machines: Iterable<number> = this.tables.states.keys()): void {
    this.newMoment()
    this.#start()
    for (const machine of machines) this.#running.begin(machine, this.regs)
    this.#drain()
  }

  /** The table of the state that a machine is in. */
  stateOf(machine: number): StateTable {
    return this.tables.states[machine]![this.regs[machine]!]!
  }

  /** How many events there have been since the moment began. */
  get events(): number {
    return this.#events
  }

  /** Begins a moment: events are counted from here. */
  newMoment(): void {
    this.#events = 0
    this.storm = false
  }

  /**
   * A character presses a machine that could answer, in one of the ways of `Expanded.pressKinds`. Where it matters that the
   * usual press is kept down, it is, until `release`.
   */
  press(actor: number, machine: number, pressKind: number): PressOutcome {
    this.#start()
    const state = this.stateOf(machine)
    const rows = state.presses[pressKind]!
    const row = this.#firstHolding(rows, actor)
    if (row) this.#take(row, actor)
    const isRefused = !row && rows.some((one) => isOffered(one, this.regs, actor))
    // What ignores a press is not kept pressed by it.
    const isKept = row !== null || state.holds.length + state.releases.length > 0
    const kept = pressKind === 0 && !isRefused && isKept && this.tables.canBeHeld[machine]!
    if (kept) {
      this.regs[this.tables.at.held(actor)] = machine + 1
      this.#running.startHolds(this.stateOf(machine), false, this.regs)
    }
    this.#drain()
    if (row) return 'accepted'
    if (isRefused) return 'refused'
    return kept ? 'accepted' : 'ignored'
  }

  /** A character lets go of what it keeps pressed. */
  release(actor: number): void {
    this.#start()
    this.#letGo(actor)
    this.#drain()
  }

  #letGo(actor: number): void {
    const machine = this.regs[this.tables.at.held(actor)]! - 1
    if (machine < 0) return
    this.#watcher?.letsGo(actor, machine)
    this.regs[this.tables.at.held(actor)] = 0
    const state = this.stateOf(machine)
    if (this.#holder(machine, null) < 0) for (const { clock } of state.holds) this.#setClock(clock, 0)
    const row = this.#firstHolding(state.releases, actor)
    const asked = row ?? state.releases.find(({ may }) => may[actor]!)
    if (row) this.#take(row, actor)
    else if (asked) this.#notTaken(asked, actor)
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
    this.#offerCrossing(actor, zone, inside)
    this.#drain()
  }

  /** A clock is due: a motion has ended, or a timer has run out. Where its guard does not hold it is lost. */
  due(clock: number): void {
    this.#start()
    const { at, clocks } = this.tables
    const { machine, motion } = clocks[clock]!
    this.regs[at.clock(clock)] = 0
    const state = this.stateOf(machine)
    const actor = this.#lastOf(machine)
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
  #held(machine: number, row: CompiledTransition): void {
    const actor = this.#holder(machine, row)
    if (actor < 0) return
    const isRepeated = row.transition.when.kind === 'press'
    const first = isRepeated ? this.#firstHolding(this.stateOf(machine).presses[0]!, actor) : row
    if (first?.guard(this.regs, actor)) this.#take(first, actor)
    else if (!isRepeated) this.#notTaken(row, actor)
    if (isRepeated) this.#running.startHolds(this.stateOf(machine), true, this.regs)
  }

  /** The first character that keeps a machine pressed and may set a row off; -1: none. */
  #holder(machine: number, row: CompiledTransition | null): number {
    const { at } = this.tables
    for (let actor = 0; actor < at.characters; actor++) {
      if (this.regs[at.held(actor)] === machine + 1 && (row === null || row.may[actor])) return actor
    }
    return -1
  }

  /** Who set a machine off last; the first player where nobody has, or where it does not matter. */
  #lastOf(machine: number): number {
    return this.tables.knowsLast[machine] ? this.regs[this.tables.at.last(machine)]! : this.tables.firstPlayer
  }

  /**
   * The last character has left the ground that a machine's body would block: what waits there is asked again, or the
   * state that it stayed in starts again.
   */
  cleared(machine: number): void {
    this.#start()
    this.#offerCleared(machine)
    this.#drain()
  }

  #offerCleared(machine: number): void {
    const waiting = this.regs[this.tables.at.waiting(machine)]!
    if (waiting === 0) return
    this.regs[this.tables.at.waiting(machine)] = 0
    const state = this.stateOf(machine)
    if (state.reopens) {
      this.#running.startTimers(state, this.regs)
      return
    }
    const row = this.tables.rows[waiting - 1]!
    const actor = this.#lastOf(machine)
    if (row.guard(this.regs, actor)) this.#take(row, actor)
  }

  #offerCrossing(actor: number, zone: number, inside: boolean): void {
    const known = this.tables.at.inside(actor, zone)
    if (known >= 0) this.regs[known] = inside ? 1 : 0
    for (const machine of this.tables.watchers[zone]!) {
      let asked: CompiledTransition | null = null
      let isTaken = false
      for (const one of this.stateOf(machine).zones) {
        if (one.zone !== zone || one.inside !== inside || !one.row.may[actor]) continue
        asked ??= one.row
        isTaken = one.row.guard(this.regs, actor)
        if (isTaken) this.#take(one.row, actor)
        if (isTaken) break
      }
      if (asked && !isTaken) this.#notTaken(asked, actor)
    }
  }

  /** Changes something for a character, from outside: for tests only. */
  testOnly(change: Change, actor: number): void {
    this.#start()
    this.#apply(change, actor, null)
    this.#drain()
  }

  /** Looks whether conditions have come to hold, after characters were put elsewhere or given something from outside. */
  look(): void {
    this.#start()
    this.#drain()
  }

  /** A character that was nowhere comes to a place: it enters everything there. */
  arrive(actor: number, place: number): void {
    this.#start()
    const moved = this.#standing.move(actor, place)
    if (moved) this.#queueMoved(actor, moved)
    this.#drain()
  }

  /** Takes a row from its state, whatever its trigger and its guard: for asking what would follow if it could be. */
  grant(row: CompiledTransition): void {
    this.#start()
    this.#take(row, this.#lastOf(row.machine))
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
    while (this.#coming.length > 0) this.#coming.pop()
    this.#events++
    if (this.#events > mostEvents) this.storm = true
  }

  #firstHolding(rows: readonly CompiledTransition[], actor: number): CompiledTransition | null {
    for (const row of rows) if (isOffered(row, this.regs, actor) && row.guard(this.regs, actor)) return row
    return null
  }

  /**
   * Offers events, first in first out, until none is left and no condition that is waited for has come to hold. What happens where
   * somebody comes to another level happens after all that still happens in the one that was left.
   */
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
        if (queue[i]! < 0) this.#offerOther(queue[i]!, queue[i + 1]!, queue[i + 2]!, queue[i + 3]!)
        else this.#offer(queue[i]!, queue[i + 1]!, queue[i + 2]!, queue[i + 3]!)
      }
      this.#lookAtAwaited()
    } while (this.#next < queue.length || this.#comesIn())
  }

  /** Appends an event for every condition that has come to hold since the last look. */
  #lookAtAwaited(): void {
    const { awaited, at } = this.tables
    for (let i = 0; i < awaited.length; i++) {
      if (this.mayHaveChanged?.(i) === false) continue
      // What is carried counts only while the play goes on in the level.
      if (awaited[i]!.asksItems && this.#isElsewhere(awaited[i]!.row)) continue
      const index = at.holding(i)
      const holds = awaited[i]!.holds(this.regs, 0) ? 1 : 0
      if (holds > this.regs[index]!) this.#queue.push(event.awaited, i, -1, 0)
      this.regs[index] = holds
    }
  }

  /** Whether the play goes on in another level than that of a transition. */
  #isElsewhere({ machine }: CompiledTransition): boolean {
    const { here } = this.tables.at
    return here >= 0 && this.tables.levelOf[machine] !== this.regs[here]
  }

  /** A condition has come to hold: its machine takes the first transition that waits for it or for one like it. */
  #offerAwaited(index: number): void {
    const { row } = this.tables.awaited[index]!
    const actor = this.#lastOf(row.machine)
    if (!row.transition.from.includes(this.regs[row.machine]!) || !row.guard(this.regs, actor)) return
    this.#take(row, actor)
  }

  #offerOther(kind: number, about: number, inside: number, actor: number): void {
    if (kind === event.awaited) this.#offerAwaited(about)
    else if (kind === event.cleared) this.#offerCleared(about)
    else if (kind === event.letGo) this.#letGo(actor)
    else {
      this.#watcher?.crossed(actor, about, inside === 1)
      this.#offerCrossing(actor, about, inside === 1)
    }
  }

  #notTaken(row: CompiledTransition, actor: number): void {
    if (!this.#watcher) return
    this.#watcher.notTaken(row, actor, unmetParts(row.transition.guard, this.tables, this.regs, actor))
  }

  #offer(signal: number, to: number, tag: number, actor: number): void {
    const by: number[] = []
    for (const machine of this.tables.listeners[signal]!) {
      if (to >= 0 && to !== machine) continue
      if (tag >= 0 && !this.tables.expanded.interactables[machine]!.tags.includes(tag)) continue
      let asked: CompiledTransition | null = null
      let isTaken = false
      for (const { signal: heard, row } of this.stateOf(machine).signals) {
        if (heard !== signal) continue
        asked ??= row
        isTaken = row.guard(this.regs, actor)
        if (isTaken) {
          this.#take(row, actor)
          by.push(machine)
          break
        }
      }
      if (asked && !isTaken) this.#notTaken(asked, actor)
    }
    this.#watcher?.heard(signal, by)
  }

  #take(row: CompiledTransition, actor: number): void {
    const { regs } = this
    const { machine } = row
    const from = regs[machine]!
    const before = this.stateOf(machine)
    const to = row.to < 0 ? from : row.to
    const after = this.tables.states[machine]![to]!
    if (after.blocksWalk && !before.blocksWalk && !this.#isClear(machine, after)) {
      regs[this.tables.at.waiting(machine)] = row.index + 1
      if (this.tables.knowsLast[machine]) regs[this.tables.at.last(machine)] = actor
      this.#watcher?.waits(row)
      return
    }
    if (to !== from) this.#enter(machine, before, to, after)
    else if (row.transition.restarts) this.#running.startTimers(before, regs)
    if (this.tables.knowsLast[machine]) regs[this.tables.at.last(machine)] = actor
    this.taken.push(row.index)
    this.#watcher?.taken(row, from, to, actor)
    for (const change of row.transition.changes) this.#apply(change, actor, row)
  }

  /** Whether nobody is in the way of a machine's body, if need be since they have been pushed out of it. */
  #isClear(machine: number, { pushes }: StateTable): boolean {
    const { at } = this.tables
    if (!this.#standing.isInTheWay(machine)) return true
    // In a level that was left nobody is moved any more.
    const isLeft = at.here >= 0 && this.tables.levelOf[machine] !== this.regs[at.here]
    const pushed = pushes && !isLeft ? this.#standing.push(machine) : null
    for (const one of pushed ?? []) {
      this.#watcher?.pushed(one.actor, machine)
      this.#queueMoved(one.actor, one)
    }
    return pushed !== null
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
    this.#running.startTimers(after, regs)
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

  #setClock(clock: number, value: number): void {
    this.regs[this.tables.at.clock(clock)] = value
  }

  #apply(change: Change, actor: number, row: CompiledTransition | null): void {
    switch (change.kind) {
      case 'send':
        if (row?.index === this.muted) return
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
      case 'remember':
        this.regs[this.tables.at.memory(actor, change.memory)] = change.to ? 1 : 0
        return
      case 'move-to':
        if (row && this.#isElsewhere(row)) this.#watcher?.moved(actor, change.place, false, row)
        else this.#move(actor, this.#destination(actor, change), row, change.exit ?? null)
        return
      case 'exit-to': {
        this.#watcher?.leaves(actor, change, row)
        const gone = this.#standing.leave(actor)
        if (gone) this.#queueMoved(actor, gone)
        return
      }
      case 'take-out':
        this.#belongings.takeOut(this.regs, change, actor, row)
        return
      case 'put-in':
        this.#belongings.putIn(this.regs, change)
        return
      case 'give':
        this.#belongings.give(this.regs, change, actor, row)
        return
      default:
        // Nothing is dropped on the way out by whoever has left already.
        if (change.isDropped && row && this.#isElsewhere(row)) return
        this.#belongings.lose(this.regs, change, actor, row)
    }
  }

  /** Where a character is moved to: to its last checkpoint, where that is asked for and there is one. */
  #destination(actor: number, { place, checkpoints = [] }: Extract<Change, { kind: 'move-to' }>): number {
    const passed = checkpoints.find(({ memory }) => this.regs[this.tables.at.memory(actor, memory)] === 1)
    return passed?.place ?? place
  }

  /** Being moved out of a zone or into one is leaving or entering it. By an exit, the play goes on in another level. */
  #move(actor: number, place: number, row: CompiledTransition | null, exit: WayOut | null): void {
    const moved = this.#standing.move(actor, place)
    if (exit && moved) this.#watcher?.leaves(actor, exit, row)
    this.#watcher?.moved(actor, place, moved !== null, row)
    if (!moved) return
    if (!exit) return this.#queueMoved(actor, moved)
    const left = row ? this.tables.levelOf[row.machine]! : this.regs[this.tables.at.here]!
    this.#goOn(levelAt(this.tables.expanded, this.tables.expanded.places[place]!.at))
    this.#queueMoved(actor, { ...moved, entered: [] })
    this.#coming.push({ left, actor, entered: moved.entered, isLeft: false })
  }

  /** The next who goes on in another level comes in there; false where nobody does. */
  #comesIn(): boolean {
    const [next] = this.#coming
    if (!next) return false
    const others = this.tables.othersIn[next.left]!
    if (!next.isLeft && others.length > 0) {
      next.isLeft = true
      this.#sendHome(others)
      return true
    }
    this.#coming.shift()
    const forgotten = this.tables.forgotten[next.left] ?? null
    if (forgotten) {
      forget(this.tables, forgotten, this.regs)
      for (const machine of forgotten.interactables) this.#running.begin(machine, this.regs)
    }
    for (const zone of next.entered) this.#queue.push(event.crossing, zone, 1, next.actor)
    return true
  }

  /** Those who stay in a level that the player has left go back to where they start, with what follows. */
  #sendHome(others: readonly number[]): void {
    for (const actor of others) this.#queueMoved(actor, this.#standing.goHome(actor))
  }

  /** Everybody else in a level that somebody has left goes back to where they start. */
  sendHome(others: readonly number[]): void {
    this.#start()
    this.#sendHome(others)
    this.#drain()
  }

  /** From here on time passes in another level, and in no other. */
  #goOn(level: number): void {
    const { at } = this.tables
    if (at.here < 0 || this.regs[at.here] === level) return
    this.#running.pause(this.regs[at.here]!, this.regs)
    this.regs[at.here] = level
  }

  /** A character that is moved lets go of what it keeps pressed, and crosses the borders between. */
  #queueMoved(actor: number, { left, entered, cleared }: Moved): void {
    if (this.regs[this.tables.at.held(actor)] !== 0) this.#queue.push(event.letGo, -1, -1, actor)
    for (const zone of left) this.#queue.push(event.crossing, zone, 0, actor)
    for (const zone of entered) this.#queue.push(event.crossing, zone, 1, actor)
    for (const machine of cleared) this.#queue.push(event.cleared, machine, 0, actor)
  }
}
