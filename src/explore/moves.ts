import {
  type ClockModel,
  leastTicks,
  type Moved,
  mostTicksOf,
  type Pushed,
  Step,
  type Tables,
  tickLater,
} from '../machine/index.ts'
import { type Patches, patchesPushedTo, type Space } from '../space/index.ts'
import { eachDial, eachPress, Inputs } from './inputs.ts'

/** How one situation leads to the next: by walking into a patch beside, by acting on the spot, or by time. */
export const moveKind = { walk: 0, press: 1, wait: 2 } as const

/** Moves that are made free, to see what would follow: rows taken at any time, states entered from anywhere. */
export interface Free {
  readonly rows: readonly number[]
  readonly states: readonly { readonly machine: number; readonly state: number }[]
}

/**
 * Called for every move that is possible: `regs` and the patch of the first character after it, and the rows it took.
 * Both are reused; a walk of the first character that sets nothing off gives the very registers that it started from.
 * `what` is, for a wait, the clock that was due (-1: a tick passed); for a press and a walk, see `Inputs`.
 */
export type MoveVisitor = (
  regs: Int32Array,
  patch: number,
  kind: number,
  what: number,
  taken: readonly number[],
) => void

/**
 * All moves that are possible from a situation. A walk goes into a patch beside and may take no time; a press goes to
 * a candidate; what is due by the clocks happens, in any order; or a tick passes.
 */
export class Moves {
  readonly #tables: Tables
  readonly #space: Space
  /** By character. */
  readonly #grounds: readonly Patches[]
  readonly #ways: readonly (readonly (readonly Way[])[])[]
  readonly #counts: boolean
  readonly #free: Free | null
  readonly #step: Step
  /** The registers that moves are tried from; the caller's own. */
  #base: Int32Array = new Int32Array(0)
  readonly #after: Int32Array
  readonly #onBody: readonly (readonly ReadonlySet<number>[])[]
  /** The patch of the first character, in the move that is being tried. */
  #patch = 0
  /** The patch of the first character, and whose moves are being tried. */
  #here = 0
  #actor = 0
  /** Where bodies may push characters to; see `patchesPushedTo`. */
  readonly #targets = new Map<string, readonly number[]>()
  /** Of each push in the move that is being tried, which of how many ways it goes. */
  readonly #choices: number[] = []
  readonly #options: number[] = []
  /** How many pushes there have been in it. */
  #calls = 0
  /** The borders of zones that a walk has yet to cross. */
  readonly #ahead: { readonly zone: number; readonly inside: boolean }[] = []
  #visit: MoveVisitor = () => undefined
  readonly #onPress = (machine: number, ask: number, looking: boolean): void => {
    this.#press(machine, ask, looking)
  }
  readonly #onDial = (machine: number): void => {
    for (const wheel of this.#tables.expanded.interactables[machine]!.wheels) this.#dial(wheel)
  }
  readonly inputs: Inputs
  /** Set where a move set off signals without end; that move leads nowhere. */
  sawStorm = false

  constructor(tables: Tables, space: Space, clocks: ClockModel, counts: boolean, free: Free | null = null) {
    this.#free = free
    this.inputs = new Inputs(tables)
    this.#tables = tables
    const { patches: grounds } = space
    this.#space = space
    this.#grounds = grounds
    this.#counts = counts
    this.#after = new Int32Array(tables.at.size)
    this.#ways = grounds.map((ground) => ground.patches.map((_, patch) => waysFrom(ground, patch)))
    this.#onBody = grounds.map(({ patches }) => patches.map((patch) => new Set(patch.sign.bodies)))
    const standing = {
      isInTheWay: (machine: number): boolean => this.#isOnBody(machine),
      move: (actor: number, place: number): Moved | null => this.#move(actor, place),
      push: (machine: number): Pushed[] | null => this.#push(machine),
    }
    this.#step = new Step(tables, this.#after, clocks, standing)
  }

  /** Starts what runs at the very start, in `regs`; the patch of the first character then. */
  begin(regs: Int32Array, patch: number): number {
    this.#base = regs
    this.#begin(patch)
    this.#step.begin()
    this.sawStorm ||= this.#step.storm
    regs.set(this.#after)
    return this.#patch
  }

  /** Calls `visit` for each move from `regs` on `patch`: walks by patch, then presses, then what the clocks do. */
  each(regs: Int32Array, patch: number, visit: MoveVisitor): void {
    this.#base = regs
    this.#here = patch
    this.#visit = visit
    for (this.#actor = 0; this.#actor < this.#grounds.length; this.#actor++) {
      // Whoever keeps something pressed stands still: walking lets go first.
      if (regs[this.#tables.at.held(this.#actor)] !== 0) this.#release()
      else {
        this.#walks(visit)
        this.#acts()
      }
    }
    this.#waits(patch, visit)
    if (this.#free) this.#frees(this.#free, patch, visit)
  }

  /** Where the character stands whose moves are being tried. */
  #own(): number {
    return this.#actor === 0 ? this.#here : this.#base[this.#tables.at.place(this.#actor)]!
  }

  #walks(visit: MoveVisitor): void {
    const actor = this.#actor
    const ways = this.#ways[actor]![this.#own()]!
    for (let i = 0; i < ways.length; i++) {
      const way = ways[i]!
      if (way.bodies.length > 0 && this.#isBlocked(way.bodies)) continue
      if (way.plain && actor === 0) {
        visit(this.#base, way.to, moveKind.walk, this.inputs.walk(0, way.to), nothingTaken)
        continue
      }
      const what = this.inputs.walk(actor, way.to)
      do {
        this.#begin(this.#here)
        this.#put(actor, way.to)
        if (way.plain) this.#found(moveKind.walk, what, nothingTaken)
        else if (this.#cross(way)) this.#found(moveKind.walk, what, this.#step.taken)
      } while (this.#goesOtherwise())
    }
  }

  #isBlocked(bodies: readonly number[]): boolean {
    const { states } = this.#tables
    for (const body of bodies) if (states[body]![this.#base[body]!]!.blocksWalk) return true
    return false
  }

  /** Crosses what tells two patches apart; all rows that this takes are then in `taken` of the step. */
  #cross({ crossed, cleared }: Way): boolean {
    const [only] = crossed
    if (only && crossed.length === 1 && cleared.length === 0) {
      this.#step.cross(this.#actor, only.zone, only.inside)
      return this.#ended()
    }
    const taken: number[] = []
    const ahead = this.#ahead
    ahead.push(...crossed)
    for (let next = ahead.shift(); next; next = ahead.shift()) {
      this.#step.cross(this.#actor, next.zone, next.inside)
      taken.push(...this.#step.taken)
    }
    for (const body of cleared) {
      if (this.#isOnBody(body)) continue
      this.#step.cleared(body)
      taken.push(...this.#step.taken)
    }
    this.#step.taken.length = 0
    this.#step.taken.push(...taken)
    return this.#ended()
  }

  /** Presses, letting go, and dials: everything that is done on the spot. */
  #acts(): void {
    const { sign } = this.#grounds[this.#actor]!.patches[this.#own()]!
    eachPress(this.#tables, sign, this.#base, this.#actor, this.#onPress)
    eachDial(this.#tables, sign, this.#base, this.#actor, this.#onDial)
  }

  #press(machine: number, ask: number, looking: boolean): void {
    do {
      this.#pressOnce(machine, ask, looking)
    } while (this.#goesOtherwise())
  }

  #pressOnce(machine: number, ask: number, looking: boolean): void {
    const actor = this.#actor
    this.#begin(this.#here)
    if (this.#step.press(actor, machine, ask) !== 'accepted' || !this.#ended()) return
    const kept = this.#after[this.#tables.at.held(actor)] !== 0
    this.#found(moveKind.press, this.inputs.press(actor, machine, ask, looking, kept), this.#step.taken)
    if (!kept) return
    const taken = [...this.#step.taken]
    this.#step.release(actor)
    if (!this.#ended()) return
    taken.push(...this.#step.taken)
    this.#found(moveKind.press, this.inputs.press(actor, machine, ask, looking, false), taken)
  }

  #release(): void {
    do {
      this.#begin(this.#here)
      this.#step.release(this.#actor)
      if (this.#ended()) this.#found(moveKind.press, this.inputs.release(this.#actor), this.#step.taken)
    } while (this.#goesOtherwise())
  }

  #dial(wheel: number): void {
    for (const to of this.#tables.wheelValues[wheel]!) {
      if (this.#base[this.#tables.at.wheel(wheel)] === to) continue
      do {
        this.#begin(this.#here)
        this.#step.dial(wheel, to)
        if (this.#ended()) this.#found(moveKind.press, this.inputs.dial(this.#actor, wheel, to), this.#step.taken)
      } while (this.#goesOtherwise())
    }
  }

  #found(kind: number, what: number, taken: readonly number[]): void {
    this.#visit(this.#after, this.#patch, kind, what, taken)
  }

  #waits(patch: number, visit: MoveVisitor): void {
    const { at } = this.#tables
    const last = at.firstClock + at.clocks
    let runs = false
    let mustBeDue = false
    for (let i = at.firstClock; i < last; i++) {
      const value = this.#base[i]!
      if (value === 0) continue
      runs = true
      if (this.#counts && mostTicksOf(value) === 0) mustBeDue = true
      if (this.#counts && leastTicks(value) > 0) continue
      do {
        this.#begin(patch)
        this.#step.due(i - at.firstClock)
        if (this.#ended()) this.#found(moveKind.wait, i - at.firstClock, this.#step.taken)
      } while (this.#goesOtherwise())
    }
    if (!runs || mustBeDue || !this.#counts) return
    this.#begin(patch)
    for (let i = at.firstClock; i < last; i++) if (this.#after[i] !== 0) this.#after[i] = tickLater(this.#after[i]!)
    visit(this.#after, patch, moveKind.wait, -1, nothingTaken)
  }

  /** Where a character stands, in the move that is being tried. */
  #patchOf(character: number): number {
    return character === 0 ? this.#patch : this.#after[this.#tables.at.place(character)]!
  }

  #put(character: number, patch: number): void {
    if (character === 0) this.#patch = patch
    else this.#after[this.#tables.at.place(character)] = patch
  }

  #isOnBody(machine: number): boolean {
    for (let character = 0; character < this.#grounds.length; character++) {
      if (this.#onBody[character]![this.#patchOf(character)]!.has(machine)) return true
    }
    return false
  }

  #move(actor: number, place: number): Moved | null {
    const to = this.#grounds[actor]!.patchAt(this.#tables.expanded.places[place]!.at)
    if (to < 0) return null
    return this.#moveOn(actor, to, this.#zonesOf(actor))
  }

  /**
   * Pushes everybody out of the way of a body, each to one of the patches that it may come to: which, `#choices` says.
   * Null, and nobody is pushed, where somebody stays: there may be no spot left, for other bodies.
   */
  #push(machine: number): Pushed[] | null {
    const going: { actor: number; to: number }[] = []
    for (let actor = 0; actor < this.#grounds.length; actor++) {
      const patch = this.#patchOf(actor)
      if (!this.#onBody[actor]![patch]!.has(machine)) continue
      const targets = this.#pushTargets(actor, patch, machine)
      const call = this.#calls++
      this.#options[call] = targets.length + 1
      const to = targets[(this.#choices[call] ??= 0)]
      if (to === undefined) return null
      going.push({ actor, to })
    }
    return going.map(({ actor, to }) => ({ actor, ...this.#moveOn(actor, to, this.#zonesOf(actor)) }))
  }

  #pushTargets(actor: number, patch: number, machine: number): readonly number[] {
    const key = `${String(actor)} ${String(patch)} ${String(machine)}`
    const known = this.#targets.get(key) ?? patchesPushedTo(this.#space, actor, patch, machine)
    this.#targets.set(key, known)
    return known
  }

  /** Whether the move that was tried could have gone otherwise: `#choices` says how, and it is to be tried again. */
  #goesOtherwise(): boolean {
    for (let call = this.#calls - 1; call >= 0; call--) {
      if (++this.#choices[call]! >= this.#options[call]!) continue
      this.#choices.length = call + 1
      return true
    }
    if (this.#choices.length > 0) this.#choices.length = 0
    return false
  }

  /** The zones that a character is known to be in: those whose borders it is about to cross, as before. */
  #zonesOf(actor: number): Set<number> {
    const known = new Set(this.#grounds[actor]!.patches[this.#patchOf(actor)]!.sign.zones)
    if (actor !== this.#actor) return known
    for (const { zone, inside } of this.#ahead) {
      if (inside) known.delete(zone)
      else known.add(zone)
    }
    this.#ahead.length = 0
    return known
  }

  /** Puts a character on a patch; `known` are the zones that it was known to be in. */
  #moveOn(actor: number, to: number, known: ReadonlySet<number>): Moved {
    const { patches } = this.#grounds[actor]!
    const from = patches[this.#patchOf(actor)]!.sign
    const { zones, bodies } = patches[to]!.sign
    this.#put(actor, to)
    return {
      left: [...known].filter((zone) => !zones.includes(zone)).sort((a, b) => a - b),
      entered: zones.filter((zone) => !known.has(zone)),
      cleared: from.bodies.filter((body) => !bodies.includes(body) && !this.#isOnBody(body)),
    }
  }

  #frees(free: Free, patch: number, visit: MoveVisitor): void {
    for (const index of free.rows) {
      const row = this.#tables.rows[index]!
      if (!row.transition.from.includes(this.#base[row.machine]!)) continue
      this.#begin(patch)
      this.#step.grant(row)
      if (this.#ended()) visit(this.#after, this.#patch, moveKind.press, row.machine, this.#step.taken)
    }
    for (const { machine, state } of free.states) {
      if (this.#base[machine] === state) continue
      this.#begin(patch)
      this.#step.put(machine, state)
      visit(this.#after, this.#patch, moveKind.press, machine, this.#step.taken)
    }
  }

  #begin(patch: number): void {
    this.#after.set(this.#base)
    this.#patch = patch
    this.#calls = 0
    if (this.#ahead.length > 0) this.#ahead.length = 0
    this.#step.newMoment()
  }

  #ended(): boolean {
    if (!this.#step.storm) return true
    this.sawStorm = true
    return false
  }
}

const nothingTaken: readonly number[] = []

/** A walk from one patch into another beside it. */
interface Way {
  readonly to: number
  /** The bodies whose ground it leads onto: none of them may block. */
  readonly bodies: readonly number[]
  /** The borders of zones that it crosses: into zones first, then out of others. */
  readonly crossed: readonly { readonly zone: number; readonly inside: boolean }[]
  /** The bodies whose ground it leaves. */
  readonly cleared: readonly number[]
  /** Whether nothing can notice it. */
  readonly plain: boolean
}

function waysFrom({ patches, beside }: Patches, patch: number): Way[] {
  const from = patches[patch]!.sign
  return beside[patch]!.map((to) => {
    const { zones, bodies } = patches[to]!.sign
    const entered = zones.filter((zone) => !from.zones.includes(zone))
    const left = from.zones.filter((zone) => !zones.includes(zone))
    const cleared = from.bodies.filter((body) => !bodies.includes(body))
    const crossed = [
      ...entered.map((zone) => ({ zone, inside: true })),
      ...left.map((zone) => ({ zone, inside: false })),
    ]
    return { to, bodies, crossed, cleared, plain: crossed.length + cleared.length === 0 }
  })
}

/** Whether nothing runs: no timer and no motion that anything asks about. */
export function isAtRest(tables: Tables, regs: Int32Array): boolean {
  const { at } = tables
  for (let i = at.firstClock; i < at.firstClock + at.clocks; i++) if (regs[i] !== 0) return false
  return true
}
