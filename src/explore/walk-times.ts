import { mostTicks, mostTicksOf, type CompiledTransition, type StateTable } from '../machine/index.ts'
import { milliseconds } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { cellAt, type Point, standing } from '../space/index.ts'

/** Where the character was when a clock was started, and how long before that at the most; milliseconds. */
interface Anchor {
  /** The patches that it was on; or the one spot. */
  readonly patches: ReadonlySet<number>
  readonly spot: Point | null
  readonly slack: number
  /** It is so only once this interactable has waited for somebody in its way; -1: in any case. */
  readonly waited: number
}

/** A clock that runs in a state, with where the character was when it was started. */
interface Timed {
  readonly clock: number
  /** Ticks that it runs for at the most. */
  readonly most: number
  readonly ms: number
  readonly anchors: readonly Anchor[]
}

/** A body on whose ground nobody comes while something lets them, since there is not the time. */
export interface TooLate {
  readonly machine: number
  readonly state: number
  /** Milliseconds for which it lasts, and those that the way takes at least, after what sets it going. */
  readonly given: number
  readonly needed: number
}

/**
 * Rules out walks for which there was not the time. A clock that runs tells how long ago it was started, to a tick; where the only
 * character must have been somewhere then (it pressed something, came into a zone, began there), it cannot have come farther since than it
 * walks in that time. The way is measured in cells from one to any of the eight beside it, over all ground where somebody may stand, whatever
 * bars it: a walk of so many metres crosses at most as many cells as it has sides of a cell in it, and one more, so that no walk is shorter.
 *
 * What is between two clocks adds up: a timer that begins where a motion ends begins where the motion began, and as much later.
 *
 * What waits for somebody in its way goes on when they leave its ground. At first nothing is taken to wait; where a search comes to a
 * situation in which something does, `missed` says so, and the search begins anew with that in `waiting`.
 */
export class WalkTimes {
  readonly #stage: Stage
  readonly #tick: number
  readonly #speed: number
  /** By machine and state; only of states with a clock of which something is known. */
  readonly #timed: readonly (readonly (readonly Timed[])[])[]
  readonly #machines: readonly number[]
  readonly #distances = new Map<Anchor, Float64Array>()
  readonly #late = new Map<number, TooLate>()
  readonly #waiting: ReadonlySet<number>
  /** What came to wait, though it was not taken to. */
  readonly missed = new Set<number>()
  #cellsOf: readonly (readonly number[])[] | null = null

  private constructor(stage: Stage, waiting: ReadonlySet<number>, untimed: number) {
    this.#waiting = waiting
    this.#stage = stage
    this.#tick = milliseconds(stage.expanded.level.tick ?? 0.1)
    this.#speed = stage.expanded.characters[0]!.speed
    const finder = new Anchors(stage)
    this.#timed = stage.tables.states.map((states) => states.map((state) => this.#timedIn(finder, state)))
    this.#machines = this.#timed.flatMap((states, machine) =>
      machine !== untimed && states.some((all) => all.length > 0) ? [machine] : [],
    )
  }

  /** For levels with one character, whom nothing moves or pushes; null for others, and where nothing is timed. */
  static of(stage: Stage, waiting: ReadonlySet<number>, untimed: number): WalkTimes | null {
    const { expanded, tables } = stage
    const isPushed = expanded.interactables.some(({ inTheWay }) => inTheWay === 'push')
    if (expanded.characters.length !== 1 || tables.movesPeople || isPushed || tables.clocks.length === 0) return null
    const times = new WalkTimes(stage, waiting, untimed)
    return times.#machines.length > 0 ? times : null
  }

  /** Whether the character cannot have come to a patch yet. */
  isTooSoon(regs: Int32Array, to: number): boolean {
    const { at } = this.#stage.tables
    for (const machine of this.#machines) {
      const state = regs[machine]!
      for (const timed of this.#timed[machine]![state]!) {
        const value = regs[at.clock(timed.clock)]!
        if (value === 0) continue
        const passed = (timed.most - mostTicksOf(value) + 1) * this.#tick
        if (timed.anchors.every((anchor) => !this.#isMeant(anchor) || this.#isTooFar(anchor, to, passed))) {
          this.#note(machine, state, timed, to)
          return true
        }
      }
    }
    return false
  }

  /** Looks whether anything waits in a situation that was come to. */
  look(regs: Int32Array): void {
    const { at } = this.#stage.tables
    for (let machine = 0; machine < at.machines; machine++) {
      if (regs[at.waiting(machine)] !== 0 && !this.#waiting.has(machine)) this.missed.add(machine)
    }
  }

  #isMeant({ waited }: Anchor): boolean {
    return waited < 0 || this.#waiting.has(waited)
  }

  /** Bodies that some walk came too late for. */
  get late(): readonly TooLate[] {
    return [...this.#late.values()]
  }

  #isTooFar(anchor: Anchor, to: number, passed: number): boolean {
    return this.#needed(anchor, to) > passed + 1e-6
  }

  /** Milliseconds that the way to a patch takes at least, after a clock was started. */
  #needed(anchor: Anchor, to: number): number {
    const known = this.#distances.get(anchor) ?? this.#measured(anchor)
    return (known[to]! / this.#speed) * 1000 - anchor.slack
  }

  #note(machine: number, state: number, { ms, anchors }: Timed, to: number): void {
    const { bodies } = this.#stage.space.patches[0]!.patches[to]!.signature
    if (!bodies.includes(machine)) return
    const meant = anchors.filter((anchor) => this.#isMeant(anchor))
    const needed = Math.min(...meant.map((anchor) => this.#needed(anchor, to)))
    const known = this.#late.get(machine)
    if (!known || needed < known.needed) this.#late.set(machine, { machine, state, given: ms, needed })
  }

  /** Metres to each patch, at the least, from where the character was; Infinity where no ground leads there. */
  #measured(anchor: Anchor): Float64Array {
    const { grid, patches } = this.#stage.space.patches[0]!
    const cellsOf = (this.#cellsOf ??= this.#cells())
    const { columns, stands, size } = grid
    const hops = new Int32Array(stands.length).fill(-1)
    const queue: number[] = []
    const own = anchor.spot ? [cellAt(grid, anchor.spot)] : [...anchor.patches].flatMap((patch) => cellsOf[patch]!)
    for (const cell of own) {
      if (cell < 0 || hops[cell]! >= 0) continue
      hops[cell] = 0
      queue.push(cell)
    }
    for (let head = 0; head < queue.length; head++) {
      const cell = queue[head]!
      const column = cell % columns
      for (let dx = -1; dx <= 1; dx++) {
        if (column + dx < 0 || column + dx >= columns) continue
        for (let dy = -1; dy <= 1; dy++) {
          const next = cell + dx + dy * columns
          if (next < 0 || next >= stands.length || hops[next]! >= 0 || stands[next] === standing.nowhere) continue
          hops[next] = hops[cell]! + 1
          queue.push(next)
        }
      }
    }
    const metres = Float64Array.from(patches, (_, patch) => {
      let least = Infinity
      for (const cell of cellsOf[patch]!) if (hops[cell]! >= 0) least = Math.min(least, hops[cell]!)
      return Math.max(0, (least - 1) * size)
    })
    this.#distances.set(anchor, metres)
    return metres
  }

  #cells(): number[][] {
    const { grid, patches, patchesIn } = this.#stage.space.patches[0]!
    const cells: number[][] = patches.map(() => [])
    for (let cell = 0; cell < grid.stands.length; cell++) {
      if (grid.stands[cell] === standing.nowhere) continue
      for (const patch of patchesIn(cell)) cells[patch]!.push(cell)
    }
    return cells
  }

  #timedIn(finder: Anchors, state: StateTable): Timed[] {
    const clocks = [
      ...state.timers.map(({ clock, after }) => ({ clock, ms: after })),
      ...(state.motion && state.motion.clock >= 0 ? [{ clock: state.motion.clock, ms: state.motion.over }] : []),
    ]
    const anchors = clocks.length > 0 ? finder.ofState(state) : null
    if (!anchors) return []
    return clocks.flatMap(({ clock, ms }) => {
      const most = Math.ceil(ms / this.#tick)
      return most < mostTicks ? [{ clock, ms, most, anchors }] : []
    })
  }
}

/** Finds out where the character was when a state was entered, or its clocks were started anew; null where that may be anywhere. */
class Anchors {
  readonly #stage: Stage
  readonly #known = new Map<StateTable, readonly Anchor[] | null>()
  readonly #busy = new Set<StateTable>()

  constructor(stage: Stage) {
    this.#stage = stage
  }

  ofState(state: StateTable): readonly Anchor[] | null {
    const known = this.#known.get(state)
    if (known !== undefined) return known
    // What goes round has no beginning.
    if (this.#busy.has(state)) return null
    this.#busy.add(state)
    const found = this.#found(state)
    this.#busy.delete(state)
    this.#known.set(state, found)
    return found
  }

  #found(state: StateTable): readonly Anchor[] | null {
    const { tables, expanded, space } = this.#stage
    const machine = tables.states.findIndex((states) => states.includes(state))
    const index = tables.states[machine]!.indexOf(state)
    const anchors: Anchor[] = []
    if (expanded.interactables[machine]!.initial === index) {
      anchors.push({ patches: new Set(), spot: space.layout.starts[0]!, slack: 0, waited: -1 })
    }
    for (const row of tables.rowsOf[machine]!) {
      const stays = row.to < 0 && row.transition.from.includes(index)
      if (row.to !== index && !stays) continue
      const own = this.#ofRow(row, new Set())
      if (!own) return null
      anchors.push(...own)
    }
    if (state.reopens) anchors.push(this.#leavingBody(machine))
    return anchors
  }

  /** What waits until the way is clear, or starts again then, does so when the character leaves the ground of the body. */
  #leavingBody(machine: number): Anchor {
    return { patches: this.#around(({ bodies }) => bodies.includes(machine)), spot: null, slack: 0, waited: machine }
  }

  /** Where the character is when a transition is taken. */
  #ofRow(row: CompiledTransition, through: ReadonlySet<number>): readonly Anchor[] | null {
    const states = this.#stage.tables.states[row.machine]!
    const own = this.#setOff(row, through)
    const mayWait = row.to >= 0 && states[row.to]!.blocksWalk
    return own && mayWait ? [...own, this.#leavingBody(row.machine)] : own
  }

  /** Where the character is when a transition is set off. */
  #setOff(row: CompiledTransition, through: ReadonlySet<number>): readonly Anchor[] | null {
    const { tables } = this.#stage
    const { when } = row.transition
    switch (when.kind) {
      case 'press':
      case 'hold':
      case 'release': {
        const patches = this.#where(({ candidates }) =>
          candidates.some(({ interactable }) => interactable === row.machine),
        )
        return [{ patches, spot: null, slack: 0, waited: -1 }]
      }
      case 'enter':
      case 'leave':
        return [{ patches: this.#around(({ zones }) => zones.includes(when.zone)), spot: null, slack: 0, waited: -1 }]
      case 'signal': {
        if (through.has(when.signal)) return []
        const senders = tables.rows.filter(({ transition }) =>
          transition.changes.some((change) => change.kind === 'send' && change.signal === when.signal),
        )
        return joined(senders.map((sender) => this.#ofRow(sender, new Set([...through, when.signal]))))
      }
      case 'after':
      case 'motion-end':
        return joined(
          row.transition.from.map((from) => {
            const state = tables.states[row.machine]![from]!
            const before = this.ofState(state)
            const ms = when.kind === 'after' ? when.after : (state.motion?.over ?? 0)
            return before?.map((one) => ({ ...one, slack: one.slack + ms })) ?? null
          }),
        )
      default:
        return null
    }
  }

  #where(isSo: (signature: Signature) => boolean): Set<number> {
    const { patches } = this.#stage.space.patches[0]!
    return new Set(patches.flatMap(({ index, signature }) => (isSo(signature) ? [index] : [])))
  }

  /** The patches of which something is so, and those beside them. */
  #around(isSo: (signature: Signature) => boolean): Set<number> {
    const { beside } = this.#stage.space.patches[0]!
    const own = this.#where(isSo)
    return new Set([...own].flatMap((patch) => [patch, ...beside[patch]!]))
  }
}

type Signature = Stage['space']['patches'][number]['patches'][number]['signature']

function joined(all: readonly (readonly Anchor[] | null)[]): readonly Anchor[] | null {
  const known = all.filter((one): one is readonly Anchor[] => one !== null)
  return known.length < all.length ? null : known.flat()
}
