import { mostTicks, type Tables } from '../machine/index.ts'
import type { Passive } from './passive.ts'
import { canWait } from './waiting.ts'

/** How clocks are counted in a situation: not at all, in ticks of so many ms, or in milliseconds. */
export type Counting =
  { readonly kind: 'loose' } | { readonly kind: 'ticks'; readonly tick: number } | { readonly kind: 'ms' }

/**
 * A situation packed into 32-bit words. The fields, one after another from the lowest bit of the first word, none of
 * them across two words: the patch of the first character, then those of the others; then of each machine its state, the pose it rests in, the
 * transition that waits and who set it off last (where those can differ); each flag, counter, wheel, awaited condition, and
 * what is left in interactables; what each character keeps pressed, which zones that conditions ask about it is in, what is
 * remembered of it, and what it carries of each item (not of those that are passive, who never do anything); where levels are joined, in which
 * of them the play goes on; then the clocks: nothing but whether they run, or in ticks (`most` + 1,
 * then `most` − `least`), or in ms + 1; 0 is off.
 */
export class Packing {
  /** 32-bit words in a situation. */
  readonly words: number
  /** All fields but the patch of the first character. */
  readonly fields: readonly Field[]
  /** Fields whose codes are their values; four numbers each: register, word, shift, mask. */
  readonly #plain: Int32Array
  readonly #coded: readonly Field[]
  /** The bits of the first word that hold the patch. */
  readonly patchMask: number

  /** `patches`: how many there are for each character. */
  constructor(tables: Tables, patches: readonly number[], counting: Counting, passive: Passive | null = null) {
    const layout = new FieldLayout()
    const patchBits = bitsFor(patches[0]! - 1)
    this.patchMask = (1 << patchBits) - 1
    layout.add(-1, patchBits, 'plain')
    const { at, states, expanded } = tables
    for (let character = 1; character < at.characters; character++) {
      layout.add(at.place(character), bitsFor(patches[character]! - 1), 'plain')
    }
    for (const [machine, own] of states.entries()) {
      layout.add(at.state(machine), bitsFor(own.length - 1), 'plain')
      if (restPosesDiffer(tables, machine)) layout.add(at.pose(machine), 1, 'plain')
      const waits = canWait(tables, machine)
      if (tables.knowsLast[machine]) layout.add(at.last(machine), bitsFor(at.characters - 1), 'plain')
      if (waits.length > 0) layout.add(at.waiting(machine), bitsFor(waits.length), 'choice', [0, ...waits])
      if (passive?.bodies.includes(machine)) layout.add(at.barred(machine), 1, 'plain')
    }
    for (let flag = 0; flag < at.flags; flag++) layout.add(at.flag(flag), 1, 'plain')
    for (const [counter, { most }] of expanded.counters.entries()) {
      layout.add(at.counter(counter), bitsFor(most), 'plain')
    }
    for (const [wheel, { positions }] of expanded.wheels.entries()) {
      layout.add(at.wheel(wheel), bitsFor(positions - 1), 'plain')
    }
    for (const [content, { count }] of expanded.contents.entries()) {
      layout.add(at.content(content), bitsFor(count), 'plain')
    }
    for (let awaited = 0; awaited < at.awaited; awaited++) layout.add(at.holding(awaited), 1, 'plain')
    const keepable = tables.canBeHeld.flatMap((can, machine) => (can ? [machine + 1] : []))
    for (let character = 0; character < at.characters; character++) {
      if (passive?.characters.has(character)) continue
      layout.add(at.held(character), bitsFor(keepable.length), 'choice', [0, ...keepable])
      for (const zone of at.askedZones) layout.add(at.inside(character, zone), 1, 'plain')
      for (let memory = 0; memory < at.memories; memory++) layout.add(at.memory(character, memory), 1, 'plain')
      for (const [item, { most, shared }] of expanded.items.entries()) {
        if (!shared || character === 0) layout.add(at.item(character, item), bitsFor(most), 'plain')
      }
    }
    const levels = expanded.joined?.parts.length ?? 0
    if (levels > 0) layout.add(at.here, bitsFor(levels - 1), 'plain')
    for (let clock = 0; clock < at.clocks; clock++) addClock(layout, tables, clock, counting)
    this.fields = layout.fields.filter(({ register }) => register >= 0)
    const plain = this.fields.filter(({ kind }) => kind === 'plain')
    this.#plain = Int32Array.from(plain.flatMap(({ register, word, shift, mask }) => [register, word, shift, mask]))
    this.#coded = this.fields.filter(({ kind }) => kind !== 'plain')
    this.words = layout.word + 1
  }

  /** Packs registers and the patch of the first character into `words`, from `offset`. */
  pack(regs: Int32Array, patch: number, words: Int32Array, offset: number): void {
    for (let i = 0; i < this.words; i++) words[offset + i] = 0
    words[offset] = patch
    const plain = this.#plain
    for (let i = 0; i < plain.length; i += 4) {
      const value = regs[plain[i]!]!
      if (value !== 0) words[offset + plain[i + 1]!]! |= value << plain[i + 2]!
    }
    for (const field of this.#coded) {
      const value = regs[field.register]!
      if (value !== 0) words[offset + field.word]! |= codeOf(field, value) << field.shift
    }
  }

  /** Unpacks into `regs`, and gives the patch. */
  unpack(words: Int32Array, offset: number, regs: Int32Array): number {
    const plain = this.#plain
    for (let i = 0; i < plain.length; i += 4) {
      regs[plain[i]!] = (words[offset + plain[i + 1]!]! >>> plain[i + 2]!) & plain[i + 3]!
    }
    for (const field of this.#coded) {
      const code = (words[offset + field.word]! >>> field.shift) & field.mask
      regs[field.register] = valueOf(field, code)
    }
    return this.patchOf(words[offset]!)
  }

  /** The patch in the first word of a situation. */
  patchOf(firstWord: number): number {
    return firstWord & this.patchMask
  }
}

/** A part of a situation: one register, and how its values are coded. */
export interface Field {
  readonly register: number
  readonly word: number
  readonly shift: number
  readonly mask: number
  readonly kind: 'plain' | 'choice' | 'ticks'
  /** For a choice: the values, by code. */
  readonly values: readonly number[]
  /** For ticks: how many bits the difference between most and least takes. */
  readonly low: number
}

class FieldLayout {
  readonly fields: Field[] = []
  word = 0
  #used = 0

  add(register: number, bits: number, kind: Field['kind'], values: readonly number[] = [], low = 0): void {
    if (bits === 0 && register >= 0) return
    if (bits > 31) throw new RangeError('a field of a situation cannot be wider than 31 bits')
    if (this.#used + bits > 32) {
      this.word++
      this.#used = 0
    }
    const mask = bits === 32 ? -1 : (1 << bits) - 1
    this.fields.push({ register, word: this.word, shift: this.#used, mask, kind, values, low })
    this.#used += bits
  }
}

function addClock(layout: FieldLayout, tables: Tables, clock: number, counting: Counting): void {
  const register = tables.at.clock(clock)
  if (counting.kind === 'loose') {
    layout.add(register, 1, 'plain')
    return
  }
  const longest = longestOf(tables, clock)
  if (counting.kind === 'ms') {
    layout.add(register, bitsFor(longest + 1), 'plain')
    return
  }
  const most = Math.min(mostTicks, Math.ceil(longest / counting.tick))
  const isWide = turnsBack(tables, clock) || most === mostTicks || tables.at.here >= 0
  const low = bitsFor(isWide ? most : 1)
  layout.add(register, bitsFor(most + 1) + low, 'ticks', [], low)
}

/** The code of a value of a field; 0 for 0. */
export function codeOf(field: Field, value: number): number {
  if (value === 0 || field.kind === 'plain') return value
  if (field.kind === 'choice') return field.values.indexOf(value)
  const most = (value - 1) & mostTicks
  const least = (value - 1 - most) / (mostTicks + 1)
  return ((most + 1) << field.low) | (most - least)
}

/** The value that a code stands for. */
export function valueOf(field: Field, code: number): number {
  if (code === 0 || field.kind === 'plain') return code
  if (field.kind === 'choice') return field.values[code]!
  const most = (code >>> field.low) - 1
  const least = most - (code & ((1 << field.low) - 1))
  return least * (mostTicks + 1) + most + 1
}

/** How many bits it takes to tell 0 to `most` apart. */
export function bitsFor(most: number): number {
  return most <= 0 ? 0 : 32 - Math.clz32(most)
}

function longestOf(tables: Tables, clock: number): number {
  const { machine } = tables.clocks[clock]!
  const times = tables.states[machine]!.flatMap(({ motion, timers, holds }) => [
    motion?.clock === clock ? motion.over : 0,
    ...[...timers, ...holds].filter((timer) => timer.clock === clock).map((timer) => timer.after),
  ])
  return Math.max(1, ...times)
}

/** Whether a motion may be sent another way before it has ended. */
function turnsBack(tables: Tables, clock: number): boolean {
  const { machine, motion } = tables.clocks[clock]!
  if (!motion) return false
  const own = tables.states[machine]!
  return own.some((state, index) => {
    if (state.motion?.clock !== clock) return false
    const rows = tables.rowsOf[machine]!.filter((row) => row.transition.from.includes(index))
    return rows.some(
      (row) => row.to >= 0 && row.to !== index && row.transition.when.kind !== 'motion-end' && own[row.to]?.motion,
    )
  })
}

/** Whether the pose it rests in may depend on how it came there, and a motion may start from it. */
function restPosesDiffer(tables: Tables, machine: number): boolean {
  const own = tables.states[machine]!
  return own.some((state) => state.motion) && own.some((state) => !state.motion && state.pose < 0)
}
