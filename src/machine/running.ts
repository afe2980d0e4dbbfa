import type { ClockModel } from './clocks.ts'
import type { StateTable, Tables } from './tables.ts'

/** The clocks of machines, as they are started, and stand still. */
export class Running {
  readonly #tables: Tables
  readonly #model: ClockModel

  constructor(tables: Tables, model: ClockModel) {
    this.#tables = tables
    this.#model = model
  }

  /** Starts the clocks of the state that a machine is in at the very start. */
  begin(machine: number, regs: Int32Array): void {
    const state = this.#tables.states[machine]![regs[machine]!]!
    this.startTimers(state, regs)
    const { motion } = state
    if (motion && motion.clock >= 0) this.#set(motion.clock, motion.over, regs)
  }

  startTimers({ timers }: StateTable, regs: Int32Array): void {
    for (const { clock, after } of timers) this.#set(clock, after, regs)
  }

  /** Starts the clocks of what a press kept down sets off; with `again`, only of what is pressed again. */
  startHolds({ holds }: StateTable, again: boolean, regs: Int32Array): void {
    for (const { clock, after, row } of holds) {
      if (!again || row.transition.when.kind === 'press') this.#set(clock, after, regs)
    }
  }

  /** Lets the clocks of a level stand still that somebody leaves, but for those of machines that begin anew. */
  pause(level: number, regs: Int32Array): void {
    const { levelOf, forgotten } = this.#tables
    const anew = forgotten[level]?.interactables ?? []
    for (let machine = 0; this.#model.pause && machine < levelOf.length; machine++) {
      if (levelOf[machine] === level && !anew.includes(machine)) this.#pauseOf(machine, this.#model.pause, regs)
    }
  }

  #pauseOf(machine: number, pause: NonNullable<ClockModel['pause']>, regs: Int32Array): void {
    const { motion, timers, holds } = this.#tables.states[machine]![regs[machine]!]!
    const running = [...timers, ...holds].map(({ clock, after }) => ({ clock, over: after }))
    if (motion && motion.clock >= 0) running.push({ clock: motion.clock, over: motion.over })
    for (const { clock, over } of running) {
      const index = this.#tables.at.clock(clock)
      if (regs[index] !== 0) regs[index] = pause(regs[index]!, over)
    }
  }

  #set(clock: number, over: number, regs: Int32Array): void {
    regs[this.#tables.at.clock(clock)] = this.#model.start(over)
  }
}
