import type { Tables } from '../../machine/index.ts'
import type { Passive } from '../passive.ts'
import { bitsFor, codeOf, type Counting, type Field, Packing, valueOf } from '../packing.ts'
import type { Places } from './places.ts'

/** What counts further than this is found number by number. */
const mostCounted = 127

const none: readonly number[] = []

/** A register in the bits of a diagram. */
interface Slot {
  readonly field: Field
  /** Its lowest bit; the others follow. */
  readonly first: number
  readonly bits: number
  /** For where a character is, its places; null for all other registers. */
  readonly places: Places | null
}

/** Where registers stand in the bits of a diagram, in some order of registers, and how their values are coded. */
export class BitLayout {
  readonly bits: number
  /** The registers, in the order of their bits. */
  readonly registers: readonly number[]
  readonly #slots: readonly (Slot | undefined)[]
  readonly #counted: (readonly number[] | undefined)[] = []

  /** `places`, by character; `order` ranks registers. */
  constructor(
    tables: Tables,
    places: readonly Places[],
    counting: Counting,
    order: (register: number) => number,
    passive: Passive | null = null,
  ) {
    const counts = places.map(({ of }) => of.length)
    const packing = new Packing(tables, counts, counting, passive)
    const fields = [...packing.fields].sort((a, b) => order(a.register) - order(b.register))
    const slots: (Slot | undefined)[] = Array.from({ length: tables.at.size })
    let next = 0
    for (const field of fields) {
      const character = tables.at.characterPlacedBy(field.register)
      const own = character < 0 ? null : places[character]!
      const bits = own ? bitsFor(own.patches.length - 1) : 32 - Math.clz32(field.mask)
      slots[field.register] = { field, first: next, bits, places: own }
      next += bits
    }
    this.bits = next
    this.registers = fields.map(({ register }) => register)
    this.#slots = slots
    const count = (register: number, most: number): void => {
      if (slots[register] && most <= mostCounted)
        this.#counted[register] = Array.from({ length: most + 1 }, (_, i) => i)
    }
    const { at, expanded } = tables
    for (const [counter, { most }] of expanded.counters.entries()) count(at.counter(counter), most)
    for (const [content, { count: most }] of expanded.contents.entries()) count(at.content(content), most)
    for (const [item, { most }] of expanded.items.entries()) {
      for (let character = 0; character < at.characters; character++) count(at.item(character, item), most)
    }
  }

  /** Whether a register can stand at different values. */
  has(register: number): boolean {
    return this.#slots[register] !== undefined
  }

  /** All codes of a register that counts something, where they are not too many; else none. */
  counted(register: number): readonly number[] {
    return this.#counted[register] ?? none
  }

  /** The code of a value of a register. */
  code(register: number, value: number): number {
    const { field, places } = this.#slots[register]!
    return places ? places.of[value]! : codeOf(field, value)
  }

  /** The value that a code of a register stands for; for a place, its first patch. */
  value(register: number, code: number): number {
    const { field, places } = this.#slots[register]!
    return places ? places.patches[code]![0]! : valueOf(field, code)
  }

  /** Appends that a register stands at a code: 2 × bit + value, ascending. */
  literals(register: number, code: number, into: number[]): void {
    const { first, bits } = this.#slots[register]!
    for (let i = 0; i < bits; i++) into.push(2 * (first + i) + ((code >> i) & 1))
  }

  /** The code of a register in an assignment of bits. */
  read(register: number, bits: Uint8Array): number {
    const slot = this.#slots[register]!
    let code = 0
    for (let i = 0; i < slot.bits; i++) code |= bits[slot.first + i]! << i
    return code
  }

  /** Puts a code of a register into an assignment of bits. */
  write(register: number, code: number, bits: Uint8Array): void {
    const slot = this.#slots[register]!
    for (let i = 0; i < slot.bits; i++) bits[slot.first + i] = (code >> i) & 1
  }
}
