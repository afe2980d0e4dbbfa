import { WalkTimes } from './walk-times.ts'
import { type ClockModel, looseClocks, tickClocks } from '../machine/index.ts'
import { milliseconds } from '../model/index.ts'
import { type Stage, startRegisters } from '../play/index.ts'
import type { Signature } from '../space/index.ts'
import { Column } from './column.ts'
import { type Free, isAtRest, moveKind, Successors, type MoveVisitor, type MoveWatcher } from './successors.ts'
import { Packing, valueOf } from './packing.ts'
import { Store } from './store.ts'

/** How closely running clocks are told apart: only that they run, or their ticks. */
export type Fineness = 'loose' | 'ticks'

/** How many situations are explored where nobody says otherwise. */
export const usualBudget = 2_000_000

/** Above which bits of an edge its kind stands. */
export const kindShift = 30
/** The part of an edge that says where it leads; above it is its kind. */
export const targetMask = (1 << kindShift) - 1

/** A move that sets off signals without end: where, its kind and what is done, and the transition that comes round. */
export interface Storm {
  readonly index: number
  readonly kind: number
  readonly what: number
  readonly row: number
}

/**
 * All situations that any player could bring about, found breadth first. It is a value that is moved on by `advance`,
 * and can be asked at any time how far it has come.
 */
export class Search {
  readonly stage: Stage
  readonly fineness: Fineness
  readonly budget: number
  readonly store: Store
  readonly packing: Packing
  readonly moves: Successors
  /** For each situation the goals whose conditions hold in it, a bit each; and bit 31: nothing runs. */
  readonly marks = new Column()
  /**
   * For each row a situation from which it is taken; -1: it never is. Of those found, the first in which the least
   * else runs: that one Play is most likely to come to.
   */
  readonly firstTaken: Int32Array
  /** How many clocks run in that situation. */
  readonly #running: Int32Array
  /** Where nobody can stand at the start there is nothing to explore. */
  readonly hasStart: boolean
  /** Set where it is known that it cannot be completed. */
  isGivenUp = false
  /** Situations whose moves have all been tried: those with smaller numbers than this. */
  expanded = 0
  /** For each expanded situation where its edges begin; and, after the last, where they end. */
  readonly edgeStarts = new Column()
  /**
   * The moves, one situation after the other: see `target` and `kind`. Those of a situation that lead to the same one by
   * other inputs, or by waiting, are edges of their own; of those that lead nowhere else only waits are kept.
   */
  readonly edges = new Column()
  /** For each edge what is done: see `MoveVisitor`. */
  readonly #inputs = new Column()
  /** Moves that set off signals without end, one for each transition with which they come round. */
  readonly storms: Storm[] = []
  readonly #clocks: ClockModel
  readonly #free: Free | null
  /** What rules walks out for which there is not the time; null where time is not counted, or nothing is known of it. */
  readonly walkTimes: WalkTimes | null
  /** The search that this one goes on from. */
  readonly #before: Search | null
  readonly #regs: Int32Array
  readonly #key: Int32Array
  readonly #visit: MoveVisitor
  /** The first edge of the situation whose moves are being tried. */
  #firstOwnEdge = 0
  /** The situation whose moves are being tried. */
  readonly #readKey: Int32Array

  /**
   * `before`: a complete search of the same stage in the same fineness, without free moves. This one then has its situations first, under
   * the same numbers, with their moves; only the free moves are tried from them. So where `free` only adds moves (nothing is muted), it
   * comes to the same situations and moves, if in another order. `isHurried`: whether walks take the time that they must, where ticks are
   * counted; `waiting`: see `WalkTimes`.
   */
  constructor(
    stage: Stage,
    fineness: Fineness,
    budget: number = usualBudget,
    free: Free | null = null,
    before: Search | null = null,
    isHurried = true,
    waiting: ReadonlySet<number> = new Set(),
  ) {
    const { tables, space } = stage
    const tick = milliseconds(stage.expanded.level.tick ?? 0.1)
    this.stage = stage
    this.fineness = fineness
    this.budget = budget
    const counting = fineness === 'loose' ? ({ kind: 'loose' } as const) : ({ kind: 'ticks', tick } as const)
    this.#clocks = fineness === 'loose' ? looseClocks : tickClocks(tick)
    this.#free = free
    const isTimed = isHurried && fineness === 'ticks'
    this.walkTimes = isTimed ? WalkTimes.of(stage, waiting, free?.untimed ?? -1) : null
    this.#before = before
    this.packing = new Packing(
      tables,
      space.patches.map(({ patches }) => patches.length),
      counting,
    )
    this.store = new Store(this.packing.words, this.packing.patchMask)
    this.moves = this.movesAnew(null)
    this.moves.onStorm = (kind, what, row) => {
      this.noteStorm({ index: this.expanded, kind, what, row })
    }
    this.firstTaken = new Int32Array(tables.rows.length).fill(-1)
    this.#running = new Int32Array(tables.rows.length).fill(tables.clocks.length + 1)
    this.#visit = (regs, patch, kind, what, taken) => {
      this.#visited(regs, patch, kind, what, taken)
    }
    this.#regs = startRegisters(stage)
    this.#key = new Int32Array(this.packing.words)
    this.#readKey = new Int32Array(this.packing.words)
    const starts = space.patches.map(({ patchAt }, character) => patchAt(space.layout.starts[character]!))
    this.hasStart = !starts.includes(-1)
    this.edgeStarts.push(0)
    if (!this.hasStart) return
    if (before) {
      this.#takeOver(before)
      return
    }
    for (let character = 1; character < starts.length; character++) {
      this.#regs[tables.at.place(character)] = starts[character]!
    }
    const start = this.moves.begin(this.#regs, starts[0]!)
    this.#add(this.#regs, start)
  }

  /** The moves of this search, told to somebody who watches what they do. */
  movesAnew(watcher: MoveWatcher | null): Successors {
    const { tables, space } = this.stage
    const isCounted = this.fineness === 'ticks'
    return new Successors(tables, space, this.#clocks, isCounted, this.#free, watcher, undefined, this.walkTimes)
  }

  /** Whether every situation that can be brought about has been found. */
  get isComplete(): boolean {
    return this.expanded === this.store.count
  }

  /** Whether it ends before it was complete: the budget is used up, or it was given up. */
  get isFull(): boolean {
    return !this.isComplete && (this.store.count >= this.budget || this.isGivenUp)
  }

  /** Tries the moves of at most so many situations. True when there is nothing more to do, or the budget is used up. */
  advance(situations: number): boolean {
    for (let rest = situations; rest > 0 && !this.isComplete && !this.isFull; rest--) this.#expand()
    return this.isComplete || this.isFull
  }

  /** Adds a storm, unless one is known with the same transition. */
  noteStorm(storm: Storm): void {
    if (!this.storms.some(({ row }) => row === storm.row)) this.storms.push(storm)
  }

  /** Bytes taken up by situations and the moves between them. */
  get bytes(): number {
    return this.store.bytes + this.marks.bytes + this.edgeStarts.bytes + this.edges.bytes + this.#inputs.bytes
  }

  /** How many moves lead from one situation to another. */
  get edgeCount(): number {
    return this.edges.length
  }

  firstEdge(index: number): number {
    return index < this.expanded ? this.edgeStarts.data[index]! : this.edges.length
  }

  /** Past the last edge of a situation; edges of a situation follow one another. */
  endEdge(index: number): number {
    return index < this.expanded ? this.edgeStarts.data[index + 1]! : this.edges.length
  }

  target(edge: number): number {
    return this.edges.at(edge) & targetMask
  }

  /** One of `moveKind`. */
  kind(edge: number): number {
    return this.edges.at(edge) >>> kindShift
  }

  /** What is done: for a wait, the clock that was due (-1: a tick passed); for a press and a walk, see `Inputs`. */
  input(edge: number): number {
    return this.#inputs.at(edge)
  }

  /** The first edge from one situation to another, of some kind (-1: of any); -1 where there is none. */
  edgeBetween(from: number, to: number, kind = -1): number {
    const end = this.endEdge(from)
    for (let edge = this.firstEdge(from); edge < end; edge++) {
      if (this.target(edge) === to && (kind < 0 || this.kind(edge) === kind)) return edge
    }
    return -1
  }

  /** The edge from one situation to another by just this move; -1 where there is none. */
  edgeFor(from: number, to: number, kind: number, what: number): number {
    const end = this.endEdge(from)
    for (let edge = this.firstEdge(from); edge < end; edge++) {
      if (this.target(edge) === to && this.kind(edge) === kind && this.input(edge) === what) return edge
    }
    return -1
  }

  isAtRest(index: number): boolean {
    return this.marks.at(index) < 0
  }

  holds(index: number, goal: number): boolean {
    return (this.marks.at(index) & (1 << goal)) !== 0
  }

  /** Unpacks a situation into `regs`, and gives the patch of the first character. */
  read(index: number, regs: Int32Array): number {
    this.store.read(index, this.#key)
    return this.packing.unpack(this.#key, 0, regs)
  }

  /** Reads a single register of situations; quicker than reading all. */
  readerOf(register: number): (index: number) => number {
    const field = this.packing.fields.find((one) => one.register === register)
    if (!field) return () => 0
    const { word, shift, mask } = field
    return (index) => valueOf(field, (this.store.word(index, word) >>> shift) & mask)
  }

  /** What is so on the patch that a character stands on, in a situation that was read. */
  signatureOf(character: number, regs: Int32Array, patch: number): Signature {
    return this.stage.space.patches[character]!.patches[this.placeOf(character, regs, patch)]!.signature
  }

  /** The patch that a character stands on, in a situation that was read. */
  placeOf(character: number, regs: Int32Array, patch: number): number {
    return character === 0 ? patch : regs[this.stage.tables.at.place(character)]!
  }

  patchOf(index: number): number {
    return this.packing.patchOf(this.store.word(index, 0))
  }

  /** The number of the situation with these registers on a patch; -1 where it was not found. */
  find(regs: Int32Array, patch: number): number {
    this.packing.pack(regs, patch, this.#key, 0)
    return this.store.find(this.#key)
  }

  #takeOver(before: Search): void {
    for (let index = 0; index < before.store.count; index++) {
      before.store.read(index, this.#key)
      this.store.add(this.#key)
      this.marks.push(before.marks.at(index))
    }
    this.firstTaken.set(before.firstTaken)
    this.#running.set(before.#running)
    this.storms.push(...before.storms)
  }

  #expand(): void {
    const index = this.expanded
    const patch = this.#readNext(index)
    this.#firstOwnEdge = this.edges.length
    if (this.#before && index < this.#before.store.count) {
      for (let edge = this.#before.firstEdge(index); edge < this.#before.endEdge(index); edge++) {
        this.edges.push(this.#before.edges.at(edge))
        this.#inputs.push(this.#before.input(edge))
      }
      this.moves.eachFree(this.#regs, patch, this.#visit)
    } else this.moves.each(this.#regs, patch, this.#visit)
    this.edgeStarts.push(this.edges.length)
    this.expanded++
  }

  /** Unpacks a situation. Many differ from the one before only in where the character stands. */
  #readNext(index: number): number {
    const key = this.#readKey
    const { patchMask } = this.packing
    let differs = index === 0 ? 1 : 0
    for (let i = 0; i < key.length; i++) {
      const word = this.store.word(index, i)
      const difference = word ^ key[i]!
      differs |= i === 0 ? difference & ~patchMask : difference
      key[i] = word
    }
    if (differs !== 0) this.packing.unpack(key, 0, this.#regs)
    return key[0]! & patchMask
  }

  #visited(regs: Int32Array, patch: number, kind: number, what: number, taken: readonly number[]): void {
    const index = this.expanded
    for (let i = 0; i < taken.length; i++) this.#noteTaken(taken[i]!, index)
    this.walkTimes?.look(regs)
    const target = this.#add(regs, patch)
    if (target === index && kind !== moveKind.wait) return
    const edge = target | (kind << kindShift)
    const { data, length } = this.edges
    const inputs = this.#inputs.data
    for (let i = this.#firstOwnEdge; i < length; i++) if (data[i] === edge && inputs[i] === what) return
    this.edges.push(edge)
    this.#inputs.push(what)
  }

  #noteTaken(row: number, index: number): void {
    if (this.#running[row] === 0) return
    const { at } = this.stage.tables
    let running = 0
    for (let i = at.firstClock; i < at.size; i++) if (this.#regs[i] !== 0) running++
    if (running >= this.#running[row]!) return
    this.#running[row] = running
    this.firstTaken[row] = index
  }

  #add(regs: Int32Array, patch: number): number {
    // A walk that sets nothing off gives the registers that were read: only the patch is another.
    if (regs === this.#regs && this.store.count > 0) {
      for (let i = 0; i < this.#key.length; i++) this.#key[i] = this.#readKey[i]!
      this.#key[0] = (this.#readKey[0]! & ~this.packing.patchMask) | patch
    } else this.packing.pack(regs, patch, this.#key, 0)
    const before = this.store.count
    const index = this.store.add(this.#key)
    if (index === before) this.marks.push(this.#marksOf(regs))
    return index
  }

  #marksOf(regs: Int32Array): number {
    const { tables } = this.stage
    let marks = isAtRest(tables, regs) ? 1 << 31 : 0
    for (let goal = Math.min(tables.goals.length, mostGoals) - 1; goal >= 0; goal--) {
      if (tables.goals[goal]!(regs, 0)) marks |= 1 << goal
    }
    return marks
  }
}

/** The most goals that are judged; levels with more are told so. */
export const mostGoals = 31
