import type { Step, Tables } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import { facingTo, type Hop, isAimedAt, type Patches, type Point, type Signature } from '../space/index.ts'
import { eachDial, eachPress, type Input, Inputs } from './inputs.ts'
import type { Passive } from './passive.ts'
import { moveKind, type Scratch } from './successors.ts'
import { Packing } from './packing.ts'
import type { TrailMove } from './trail.ts'
import { TriedMove } from './tried-move.ts'

/** A sure move: its kind, what is done, by whom it ends where, how long it lasts, and what came of it. */
export interface SureMove {
  readonly kind: number
  /** For a press and a walk: see `Inputs`; for a wait -1. */
  readonly what: number
  /** The patch on which the character that walked or acted stands then; for a wait, the first character. */
  readonly patch: number
  readonly ms: number
  /** The goals that held on the way, a bit each. */
  readonly held: number
  /** The rows that were taken on the way. Reused. */
  readonly taken: readonly number[]
}

/** Called for every sure move, with what it leads to (reused), and the patch of the first character. */
export type SureVisitor = (regs: Int32Array, patch: number, move: SureMove) => void

/** One sure move of a character: its walk along one of its hops, or what it can do to one interactable. */
export type SureAct =
  | { readonly do: 'walk'; readonly actor: number; readonly hop: Hop }
  | { readonly do: 'act'; readonly actor: number; readonly machine: number }

/** Such a move, after which it walks on, along some hops, while something runs. */
export interface Passing {
  readonly do: 'pass'
  readonly first: SureAct
  readonly hops: readonly Hop[]
}

/** Any other moves, each of which follows at once on the one before. */
export interface Following {
  readonly do: 'follow'
  readonly moves: readonly TrailMove[]
}

export type SurePart = SureAct | Passing | Following

/** How many times what falls due is waited for before one walks on. */
const mostWaitsBefore = 3

/** How sure moves are made. */
export interface SureOptions {
  /** Whether creatures move as they are wanted to; else they stand still, since nobody can be sure of them. */
  readonly creatures?: boolean
  /** With it, moves are made in registers that note what they read, and goals are not looked at. */
  readonly scratch?: (Scratch & { readonly base: Int32Array }) | null
  /** Those who are passive stand still, too. */
  readonly passive?: Passive | null
}

/**
 * Moves that Play makes for certain: from standing spot to standing spot in the time that Play needs, a press, and
 * waiting. Clocks count milliseconds; while anything runs every move lasts whole ticks.
 */
export class SureMoves {
  readonly stage: Stage
  readonly packing: Packing
  readonly inputs: Inputs
  readonly #tables: Tables
  /** By character. */
  readonly #grounds: readonly Patches[]
  readonly #actors: readonly number[]
  readonly #tried: TriedMove
  readonly #base: Int32Array
  /** The patch of the first character before the move that is being tried. */
  #here = 0
  #visit: SureVisitor = () => undefined

  constructor(stage: Stage, { creatures = false, scratch = null, passive = null }: SureOptions = {}) {
    const { tables, space, expanded } = stage
    this.stage = stage
    this.#tables = tables
    this.inputs = new Inputs(tables)
    this.#grounds = space.patches
    this.#actors = expanded.characters.flatMap(({ role }, i) => {
      // Where those are who stay in a level that is left and come to again hangs on when that is: nobody can be sure of them.
      const mayAct = (creatures || role !== 'creature') && tables.levelOfCharacter[i] === -1
      return mayAct && !passive?.characters.has(i) ? [i] : []
    })
    const counts = space.patches.map(({ patches }) => patches.length)
    this.packing = new Packing(tables, counts, { kind: 'ms' })
    this.#base = scratch?.base ?? new Int32Array(tables.at.size)
    this.#tried = new TriedMove(stage, this.#actors, scratch)
  }

  /** Whether a walk of a character between neighbouring sure patches crosses just what tells them apart. */
  isPlainHop(character: number, from: number, to: number): boolean {
    const hop = this.stage.space.hops(character, from).find((one) => one.to === to)
    if (!hop || !this.#actors.includes(character)) return false
    const { patches } = this.#grounds[character]!
    const [a, b] = [patches[from]!.signature, patches[to]!.signature]
    const zones = differing(a.zones, b.zones)
    const bodies = differing(a.bodies, b.bodies)
    return hop.events.length === zones + bodies && zones + bodies <= 1
  }

  /** The characters that make moves. */
  get actors(): readonly number[] {
    return this.#actors
  }

  /** Whether a character makes moves that count as sure. */
  isSureOf(character: number): boolean {
    return this.#actors.includes(character)
  }

  /**
   * Calls `visit` for each sure move. With `patient`, waits only last until the next thing is due; else one tick. With
   * `strides`, walks may go on past a patch: see `Space.strides`.
   */
  each(regs: Int32Array, patch: number, patient: boolean, visit: SureVisitor, strides = false): void {
    this.#base.set(regs)
    this.#here = patch
    this.#visit = visit
    if (!this.#areSure()) return
    const due = this.#tried.nextDue(this.#base)
    for (const actor of this.#actors) this.#acts(actor)
    if (due < Infinity) {
      const ms = Math.max(1, Math.ceil((patient ? due : this.#tried.tick) / this.#tried.tick)) * this.#tried.tick
      this.#tried.begin(this.#base, this.#here)
      const lasted = this.#tried.travel(-1, ms, [])
      if (lasted >= 0) this.#found(moveKind.wait, -1, 0, lasted)
    }
    for (const actor of this.#actors) {
      // A character that keeps something pressed stands still: walking lets go first.
      if (this.#base[this.#tables.at.held(actor)] !== 0) continue
      const from = this.#startOf(actor)
      for (const hop of this.stage.space.hops(actor, from)) this.#walk(actor, hop)
      for (const hop of strides ? this.stage.space.strides(actor, from) : []) this.#walk(actor, hop)
    }
  }

  /**
   * Whether a level may be left while something runs there: of that no more is known afterwards than that it does, which is all that situations
   * without ticks tell.
   */
  set isLoose(isLoose: boolean) {
    this.#tried.isLoose = isLoose
  }

  /** Whether the move that is being visited ended as it came to another level: what runs there is not known, nor waited for. */
  get hasArrived(): boolean {
    return this.#tried.hasArrived
  }

  /** Whether all goals are looked at, or just one of them. */
  set lookedAt(goals: 'all' | number) {
    this.#tried.lookedAt = goals
  }

  /** Conditions are looked at again only where this says so; null: always. */
  set mayHaveChanged(test: ((awaited: number) => boolean) | null) {
    this.#tried.step.mayHaveChanged = test
  }

  /**
   * Makes one sure move from a situation at rest, in the registers that are noted, and waits until nothing runs; calls
   * `visit` with what that leads to, where it comes to rest soon.
   */
  toRest(part: SurePart, patch: number, visit: SureVisitor): void {
    this.#here = patch
    if (!this.#areSure()) return
    if (part.do === 'follow') {
      this.#follow(part.moves, visit)
      return
    }
    const [first, hops] = part.do === 'pass' ? [part.first, part.hops] : [part, []]
    let isDone = false
    for (let waits = 0; waits <= (hops.length > 0 ? mostWaitsBefore : 0) && !isDone; waits++) {
      this.#visit = (regs, on, move) => {
        if (hops.length > 0 && (isDone || !this.#goesOn(on, first.do === 'walk' ? first.hop.to : patch, waits, hops)))
          return
        if (!this.#tried.hasArrived && this.#tried.untilRest() < 0) return
        isDone = true
        visit(regs, this.#tried.standing.patch, { ...move, held: this.#tried.held })
      }
      if (first.do === 'walk') this.#walk(first.actor, first.hop)
      else this.#actsOn(first.actor, first.machine)
    }
  }

  /** The first character goes on from where it should be now: waits so often for what is due next, and walks. */
  #goesOn(on: number, from: number, waits: number, hops: readonly Hop[]): boolean {
    if (on !== from) return false
    for (let i = 0; i < waits; i++) if (this.#tried.untilNext() < 0) return false
    return hops.every(
      (hop) =>
        this.#tried.travel(0, this.#tried.lasting(hop), hop.events, hop.to) >= 0 &&
        this.#tried.standing.patch === hop.to,
    )
  }

  #follow(moves: readonly TrailMove[], visit: SureVisitor): void {
    this.#tried.begin(this.#base, this.#here)
    if (!moves.every((move) => this.#makes(move))) return
    if (!this.#tried.hasArrived && this.#tried.untilRest() < 0) return
    const patch = this.#tried.standing.patch
    visit(this.#tried.regs, patch, {
      kind: moveKind.wait,
      what: -1,
      patch,
      ms: 0,
      held: this.#tried.held,
      taken: this.#tried.taken,
    })
  }

  /** The first character makes a move of a trail from where the one before it led to; false where it is not certain. */
  #makes({ kind, what, ms }: TrailMove): boolean {
    if (this.#tried.hasArrived) return false
    if (kind === moveKind.wait) return this.#tried.travel(-1, ms, []) >= 0
    const here = this.#tried.standing.patch
    if (this.#tried.standing.isUnsure || !this.#grounds[0]!.patches[here]!.firm) return false
    if (kind !== moveKind.walk) return this.#does(this.inputs.read(what), here)
    const { to } = this.inputs.readWalk(what)
    const { space } = this.stage
    const isThere = (one: Hop): boolean => one.to === to
    const hop = space.hops(0, here).find(isThere) ?? space.strides(0, here).find(isThere)
    return hop !== undefined && this.#tried.travel(0, this.#tried.lasting(hop), hop.events, to) >= 0
  }

  /** The first character does something on the patch where it stands by now. */
  #does(input: Input, here: number): boolean {
    if (input.do === 'release' || (input.do === 'press' && input.kept)) return false
    const { signature, spot } = this.#grounds[0]!.patches[here]!
    let isThere = false
    if (input.do === 'dial') {
      eachDial(this.#tables, signature, this.#tried.regs, 0, (machine, isCertain) => {
        isThere ||= isCertain && this.#tables.expanded.interactables[machine]!.wheels.includes(input.wheel)
      })
    } else {
      eachPress(
        this.#tables,
        upTo(signature, input.machine),
        this.#tried.regs,
        0,
        (machine, pressKind, looking, isCertain) => {
          const isAsked = machine === input.machine && pressKind === input.pressKind && looking === input.looking
          isThere ||= isAsked && isCertain
        },
      )
      if (input.looking) isThere &&= this.#isFirst(this.#tried.regs, 0, signature, spot, input.machine, input.pressKind)
    }
    if (!isThere) return false
    this.#tried.step.newMoment()
    if (input.do === 'dial') this.#tried.step.dial(input.wheel, input.to)
    else if (this.#tried.step.press(0, input.machine, input.pressKind) !== 'accepted') return false
    if (this.#tried.step.storm) return false
    this.#tried.look()
    return this.#tried.settle(0) >= 0
  }

  /** Whether all that make moves stand on standing spots; the character that makes none stays where it is. */
  #areSure(): boolean {
    return this.#actors.every((actor) => this.#grounds[actor]!.patches[this.#startOf(actor)]!.firm)
  }

  /** The patch that a character stands on before the move. */
  #startOf(character: number): number {
    return character === 0 ? this.#here : this.#base[this.#tables.at.place(character)]!
  }

  #walk(actor: number, hop: Hop): void {
    this.#tried.begin(this.#base, this.#here)
    const lasted = this.#tried.travel(actor, this.#tried.lasting(hop), hop.events, hop.to)
    if (lasted >= 0) this.#found(moveKind.walk, this.inputs.walk(actor, hop.to), actor, lasted)
  }

  /** How long a walk lasts, in ms: whole ticks. */
  lasting(hop: Hop): number {
    return this.#tried.lasting(hop)
  }

  /**
   * A character walks from its start to the standing spot of its patch, in `regs`; the patch of the first character
   * then, or -1 where that cannot be done for certain.
   */
  setOut(regs: Int32Array, patch: number, character: number, hop: Hop): number {
    this.#base.set(regs)
    this.#here = patch
    this.#tried.begin(this.#base, this.#here)
    if (this.#tried.travel(character, this.#tried.lasting(hop), hop.events) < 0) return -1
    regs.set(this.#tried.regs)
    return this.#tried.standing.patch
  }

  #found(kind: number, what: number, actor: number, ms: number): void {
    if (this.#tried.standing.isUnsure) return
    const patch = this.#tried.standing.patchOf(actor)
    this.#visit(this.#tried.regs, this.#tried.standing.patch, {
      kind,
      what,
      patch,
      ms,
      held: this.#tried.held,
      taken: this.#tried.taken,
    })
  }

  #acts(actor: number): void {
    if (this.#base[this.#tables.at.held(actor)] !== 0) {
      this.#act(actor, this.inputs.release(actor), (step) => {
        step.release(actor)
        return true
      })
      return
    }
    const { signature, spot } = this.#grounds[actor]!.patches[this.#startOf(actor)]!
    this.#presses(actor, signature, spot, -1)
    eachDial(this.#tables, signature, this.#base, actor, (machine, isCertain) => {
      if (!isCertain) return
      for (const wheel of this.#tables.expanded.interactables[machine]!.wheels) this.#dial(actor, wheel)
    })
  }

  /** What a character can do to one interactable. */
  #actsOn(actor: number, machine: number): void {
    const { signature, spot } = this.#grounds[actor]!.patches[this.#startOf(actor)]!
    const nearer = upTo(signature, machine)
    this.#presses(actor, nearer, spot, machine)
    eachDial(this.#tables, nearer, this.#base, actor, (one, isCertain) => {
      if (one !== machine || !isCertain) return
      for (const wheel of this.#tables.expanded.interactables[machine]!.wheels) this.#dial(actor, wheel)
    })
  }

  /** Presses on what may answer; with `only`, on that alone. */
  #presses(actor: number, signature: Signature, spot: Point, only: number): void {
    eachPress(this.#tables, signature, this.#base, actor, (machine, pressKind, looking, isCertain) => {
      if (!isCertain || (only >= 0 && machine !== only)) return
      if (looking && !this.#isFirst(this.#base, actor, signature, spot, machine, pressKind)) return
      const press = (step: Step): boolean => step.press(actor, machine, pressKind) === 'accepted'
      this.#tried.begin(this.#base, this.#here)
      this.#tried.step.newMoment()
      if (!press(this.#tried.step) || this.#tried.step.storm) return
      const kept = this.#tried.regs[this.#tables.at.held(actor)] !== 0
      this.#act(actor, this.inputs.press(actor, machine, pressKind, looking, kept), press)
      if (!kept) return
      this.#act(actor, this.inputs.press(actor, machine, pressKind, looking, false), (step) => {
        if (!press(step) || step.storm) return false
        this.#tried.look()
        step.release(actor)
        return true
      })
    })
  }

  #dial(actor: number, wheel: number): void {
    for (const to of this.#tables.wheelValues[wheel]!) {
      if (this.#base[this.#tables.at.wheel(wheel)] === to) continue
      this.#act(actor, this.inputs.dial(actor, wheel, to), (step) => {
        step.dial(wheel, to)
        return true
      })
    }
  }

  /** Does something at once; nothing comes of it where it is not accepted, or signals do not end. */
  #act(actor: number, input: number, what: (step: Step) => boolean): void {
    this.#tried.begin(this.#base, this.#here)
    this.#tried.step.newMoment()
    if (!what(this.#tried.step) || this.#tried.step.storm) return
    this.#tried.look()
    const lasted = this.#tried.settle(0)
    if (lasted >= 0) this.#found(moveKind.press, input, actor, lasted)
  }

  /** Whether an interactable is the first to answer when one stands on a spot and looks at it. */
  #isFirst(
    regs: Int32Array,
    actor: number,
    { candidates }: Signature,
    spot: Point,
    machine: number,
    pressKind: number,
  ): boolean {
    const { states } = this.#tables
    const towards = facingTo(this.stage.space, spot, machine)
    for (const { interactable, hiders } of candidates) {
      if (!states[interactable]![regs[interactable]!]!.answers[actor]![pressKind]) continue
      if (hiders.some((hider) => states[hider]![regs[hider]!]!.blocksSight)) continue
      if (interactable === machine) return true
      if (isAimedAt(this.stage.space, actor, interactable, spot, towards)) return false
    }
    return false
  }
}

/** What is near, as far as one interactable: what is farther off does not answer before it. */
function upTo(signature: Signature, machine: number): Signature {
  const last = signature.candidates.findIndex(({ interactable }) => interactable === machine)
  return { ...signature, candidates: signature.candidates.slice(0, last + 1) }
}

function differing(one: readonly number[], other: readonly number[]): number {
  return one.filter((x) => !other.includes(x)).length + other.filter((x) => !one.includes(x)).length
}
