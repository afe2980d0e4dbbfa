import { Column } from './column.ts'

/**
 * Packed situations, each once, numbered in the order in which they came. An open-addressed hash table with linear
 * probing holds their numbers plus 1; it is doubled when it is seven tenths full.
 */
export class Store {
  readonly words: number
  count = 0
  readonly #columns: Column[]
  #table = new Int32Array(1 << 9)

  constructor(words: number) {
    this.words = words
    this.#columns = Array.from({ length: words }, () => new Column())
  }

  /** The number of a situation, which is added where it is new. */
  add(key: Int32Array): number {
    const slot = this.#slotOf(key)
    const found = this.#table[slot]!
    if (found !== 0) return found - 1
    for (let i = 0; i < this.words; i++) this.#columns[i]!.push(key[i]!)
    this.#table[slot] = ++this.count
    if (this.count > this.#table.length * 0.7) this.#grow()
    return this.count - 1
  }

  /** The number of a situation; -1 where it is not there. */
  find(key: Int32Array): number {
    return this.#table[this.#slotOf(key)]! - 1
  }

  /** Copies a situation into `key`. */
  read(index: number, key: Int32Array): void {
    for (let i = 0; i < this.words; i++) key[i] = this.#columns[i]!.at(index)
  }

  firstWord(index: number): number {
    return this.#columns[0]!.at(index)
  }

  /** Bytes taken up. */
  get bytes(): number {
    return this.#columns.reduce((sum, column) => sum + column.bytes, 0) + this.#table.byteLength
  }

  #slotOf(key: Int32Array): number {
    const mask = this.#table.length - 1
    let slot = hash(key, this.words) & mask
    for (;;) {
      const found = this.#table[slot]!
      if (found === 0 || this.#isAt(found - 1, key)) return slot
      slot = (slot + 1) & mask
    }
  }

  #isAt(index: number, key: Int32Array): boolean {
    for (let i = 0; i < this.words; i++) if (this.#columns[i]!.at(index) !== key[i]) return false
    return true
  }

  #grow(): void {
    this.#table = new Int32Array(this.#table.length * 2)
    const mask = this.#table.length - 1
    const key = new Int32Array(this.words)
    for (let index = 0; index < this.count; index++) {
      this.read(index, key)
      let slot = hash(key, this.words) & mask
      while (this.#table[slot] !== 0) slot = (slot + 1) & mask
      this.#table[slot] = index + 1
    }
  }
}

/** Mixes words by multiplication and shifts; the last mixing is that of MurmurHash3 (Appleby, public domain). */
function hash(key: Int32Array, words: number): number {
  let h = words
  for (let i = 0; i < words; i++) {
    h = Math.imul(h ^ key[i]!, 0x9e3779b1)
    h ^= h >>> 15
  }
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return h ^ (h >>> 16)
}

/** A set of small whole numbers. */
export class Bits {
  readonly #words: Uint32Array

  constructor(size: number) {
    this.#words = new Uint32Array((size >>> 5) + 1)
  }

  has(index: number): boolean {
    return (this.#words[index >>> 5]! & (1 << (index & 31))) !== 0
  }

  /** Adds a number; false where it was in already. */
  add(index: number): boolean {
    const word = index >>> 5
    const bit = 1 << (index & 31)
    if ((this.#words[word]! & bit) !== 0) return false
    this.#words[word]! |= bit
    return true
  }
}
