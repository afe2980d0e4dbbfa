import { Column } from './column.ts'

/**
 * Packed situations, each once, numbered in the order in which they came. An open-addressed hash table with linear
 * probing holds their numbers plus 1, and a byte of the hash beside each, so that most others are passed without being
 * looked at; it is doubled when it is half full. Situations that differ only in the last
 * three bits of the patch, which is lowest in the first word, stand side by side in it: most moves are walks.
 */
export class Store {
  readonly words: number
  count = 0
  /** One situation after another. */
  readonly #keys = new Column()
  readonly #patchMask: number
  #table = new Int32Array(1 << 9)
  #tags = new Uint8Array(1 << 9)

  constructor(words: number, patchMask: number) {
    this.words = words
    this.#patchMask = patchMask
  }

  /** The number of a situation, which is added where it is new. */
  add(key: Int32Array): number {
    const h = this.#hash(key)
    const slot = this.#slotOf(key, h)
    const found = this.#table[slot]!
    if (found !== 0) return found - 1
    this.#tags[slot] = h >>> 24
    for (let i = 0; i < this.words; i++) this.#keys.push(key[i]!)
    this.#table[slot] = ++this.count
    if (this.count * 2 > this.#table.length) this.#grow()
    return this.count - 1
  }

  /** The number of a situation; -1 where it is not there. */
  find(key: Int32Array): number {
    return this.#table[this.#slotOf(key, this.#hash(key))]! - 1
  }

  /** Instances a situation into `key`. */
  read(index: number, key: Int32Array): void {
    const { words } = this
    const { data } = this.#keys
    for (let i = 0; i < words; i++) key[i] = data[index * words + i]!
  }

  /** A word of a situation. */
  word(index: number, at: number): number {
    return this.#keys.data[index * this.words + at]!
  }

  /** Bytes taken up. */
  get bytes(): number {
    return this.#keys.bytes + this.#table.byteLength + this.#tags.byteLength
  }

  #slotOf(key: Int32Array, h: number): number {
    const table = this.#table
    const tags = this.#tags
    const mask = table.length - 1
    const tag = h >>> 24
    let slot = h & mask
    for (;;) {
      const found = table[slot]!
      if (found === 0 || (tags[slot] === tag && this.#isAt(found - 1, key))) return slot
      slot = (slot + 1) & mask
    }
  }

  /** Mixes words by multiplication and shifts; the last mixing is that of MurmurHash3 (Appleby, public domain). */
  #hash(key: Int32Array): number {
    const patch = key[0]! & this.#patchMask & 7
    let h = Math.imul(key[0]! ^ patch ^ this.words, 0x9e3779b1)
    for (let i = 1; i < this.words; i++) {
      h ^= h >>> 15
      h = Math.imul(h ^ key[i]!, 0x9e3779b1)
    }
    h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
    return ((h ^ (h >>> 16)) + patch) ^ (patch << 24)
  }

  #isAt(index: number, key: Int32Array): boolean {
    const { words } = this
    const { data } = this.#keys
    for (let i = 0; i < words; i++) if (data[index * words + i] !== key[i]) return false
    return true
  }

  #grow(): void {
    this.#table = new Int32Array(this.#table.length * 2)
    this.#tags = new Uint8Array(this.#table.length)
    const mask = this.#table.length - 1
    const key = new Int32Array(this.words)
    for (let index = 0; index < this.count; index++) {
      this.read(index, key)
      const h = this.#hash(key)
      let slot = h & mask
      while (this.#table[slot] !== 0) slot = (slot + 1) & mask
      this.#table[slot] = index + 1
      this.#tags[slot] = h >>> 24
    }
  }
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
