/**
 * Sets of assignments to bits, as ordered binary decision diagrams with shared nodes (Bryant 1986). A set is the number of
 * its node: 0 is the empty set, 1 the set of all assignments. Nodes are never thrown away.
 */
export class Diagrams {
  /** How many bits there are; bit 0 is looked at first. */
  readonly bits: number
  #bit: Int32Array
  #low: Int32Array
  #high: Int32Array
  #count = 2
  #table: Int32Array
  /** Results of earlier operations: two operands (the operation is part of the second) and the result. */
  #cacheA: Int32Array
  #cacheB: Int32Array
  #cacheResult: Int32Array
  #cacheMask: number
  #changeKeys = 0

  constructor(bits: number) {
    const capacity = 1 << 14
    this.bits = bits
    this.#bit = new Int32Array(capacity)
    this.#low = new Int32Array(capacity)
    this.#high = new Int32Array(capacity)
    this.#bit[0] = this.#bit[1] = bits
    this.#table = new Int32Array(2 * capacity)
    this.#cacheMask = (1 << 16) - 1
    this.#cacheA = new Int32Array(this.#cacheMask + 1)
    this.#cacheB = new Int32Array(this.#cacheMask + 1)
    this.#cacheResult = new Int32Array(this.#cacheMask + 1)
  }

  /** How many nodes have been made. */
  get made(): number {
    return this.#count
  }

  /** Memory that nodes and caches take, in bytes. */
  get bytes(): number {
    return 12 * this.#bit.length + 4 * this.#table.length + 12 * (this.#cacheMask + 1)
  }

  /** The set in which some bits have given values; `literals` are sorted, 2 × bit + value each. */
  cube(literals: readonly number[]): number {
    let set = 1
    for (let i = literals.length - 1; i >= 0; i--) {
      const literal = literals[i]!
      set = (literal & 1) === 1 ? this.#node(literal >> 1, 0, set) : this.#node(literal >> 1, set, 0)
    }
    return set
  }

  union(a: number, b: number): number {
    if (a === b || b === 0) return a
    if (a === 0) return b
    if (a === 1 || b === 1) return 1
    if (a > b) [a, b] = [b, a]
    return this.#bitwise(a, b, 'union')
  }

  intersection(a: number, b: number): number {
    if (a === b || b === 1) return a
    if (a === 1) return b
    if (a === 0 || b === 0) return 0
    if (a > b) [a, b] = [b, a]
    return this.#bitwise(a, b, 'intersection')
  }

  /** What is in `a` and not in `b`. */
  difference(a: number, b: number): number {
    if (a === 0 || a === b || b === 1) return 0
    if (b === 0) return a
    return this.#bitwise(a, b, 'difference')
  }

  /** Whether two sets have anything in common. */
  meet(a: number, b: number): boolean {
    return this.intersection(a, b) !== 0
  }

  /** What a change leads to from some of a set. */
  image(set: number, change: BitChange): number {
    return this.#image(set, change, 0)
  }

  /** From what a change leads into a set. Bits that are written and not read may have been anything. */
  preimage(set: number, change: BitChange): number {
    return this.#preimage(set, change, 0)
  }

  /** Prepares a change: `reads` and `writes` are 2 × bit + value each. */
  change(reads: readonly number[], writes: readonly number[]): BitChange {
    const on = new Map<number, number>()
    for (const literal of reads)
      on.set(literal >> 1, (on.get(literal >> 1) ?? 0) | (literal & 1 ? does.read1 : does.read0))
    for (const literal of writes) {
      on.set(literal >> 1, (on.get(literal >> 1) ?? 0) | (literal & 1 ? does.write1 : does.write0))
    }
    const bits = [...on.keys()].sort((a, b) => a - b)
    const key = this.#changeKeys
    this.#changeKeys += bits.length + 1
    return { key, bits, does: bits.map((bit) => on.get(bit)!) }
  }

  /** One assignment of a set that is not empty: 0 or 1 for each bit; bits that do not matter are 0. */
  pick(set: number, into: Uint8Array): void {
    into.fill(0)
    for (let node = set; node > 1;) {
      const low = this.#low[node]!
      if (low === 0) into[this.#bit[node]!] = 1
      node = low === 0 ? this.#high[node]! : low
    }
  }

  /** Whether an assignment is in a set. */
  has(set: number, values: Uint8Array): boolean {
    let node = set
    while (node > 1) node = values[this.#bit[node]!] === 1 ? this.#high[node]! : this.#low[node]!
    return node === 1
  }

  /** How many assignments are in a set; beyond 2^53 rounded. */
  size(set: number): number {
    const known = new Map<number, number>()
    const below = (node: number, from: number): number => {
      if (node === 0) return 0
      if (node === 1) return 2 ** (this.bits - from)
      const bit = this.#bit[node]!
      let own = known.get(node)
      if (own === undefined) {
        own = below(this.#low[node]!, bit + 1) + below(this.#high[node]!, bit + 1)
        known.set(node, own)
      }
      return own * 2 ** (bit - from)
    }
    return below(set, 0)
  }

  /** An operation of two sets bit by bit, remembered. */
  #bitwise(a: number, b: number, what: Bitwise): number {
    const key = b | operation[what]
    const known = this.#known(a, key)
    if (known >= 0) return known
    const bit = Math.min(this.#bit[a]!, this.#bit[b]!)
    const low = this.#made(what, this.#lowOf(a, bit), this.#lowOf(b, bit))
    const high = this.#made(what, this.#highOf(a, bit), this.#highOf(b, bit))
    return this.#keep(a, key, this.#node(bit, low, high))
  }

  #made(what: Bitwise, a: number, b: number): number {
    if (what === 'union') return this.union(a, b)
    return what === 'intersection' ? this.intersection(a, b) : this.difference(a, b)
  }

  #image(set: number, change: BitChange, i: number): number {
    if (set === 0) return 0
    if (i === change.bits.length) return set
    const key = (change.key + i) | operation.image
    const known = this.#known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = this.#bit[set]!
    if (own < bit) {
      const low = this.#image(this.#low[set]!, change, i)
      return this.#keep(set, key, this.#node(own, low, this.#image(this.#high[set]!, change, i)))
    }
    const what = change.does[i]!
    const [low, high] = [this.#lowOf(set, bit), this.#highOf(set, bit)]
    const isRead = (what & (does.read0 | does.read1)) !== 0
    const from = isRead ? ((what & does.read0) !== 0 ? low : high) : this.union(low, high)
    const rest = this.#image(from, change, i + 1)
    const isWritten = (what & (does.write0 | does.write1)) !== 0
    const is1 = (what & (isWritten ? does.write1 : does.read1)) !== 0
    return this.#keep(set, key, is1 ? this.#node(bit, 0, rest) : this.#node(bit, rest, 0))
  }

  #preimage(set: number, change: BitChange, i: number): number {
    if (set === 0) return 0
    if (i === change.bits.length) return set
    const key = (change.key + i) | operation.preimage
    const known = this.#known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = this.#bit[set]!
    if (own < bit) {
      const low = this.#preimage(this.#low[set]!, change, i)
      return this.#keep(set, key, this.#node(own, low, this.#preimage(this.#high[set]!, change, i)))
    }
    const what = change.does[i]!
    const isWritten = (what & (does.write0 | does.write1)) !== 0
    const is1 = (what & (isWritten ? does.write1 : does.read1)) !== 0
    const rest = this.#preimage(is1 ? this.#highOf(set, bit) : this.#lowOf(set, bit), change, i + 1)
    const isRead = (what & (does.read0 | does.read1)) !== 0
    if (!isRead) return this.#keep(set, key, rest)
    return this.#keep(set, key, (what & does.read1) !== 0 ? this.#node(bit, 0, rest) : this.#node(bit, rest, 0))
  }

  #lowOf(node: number, bit: number): number {
    return this.#bit[node] === bit ? this.#low[node]! : node
  }

  #highOf(node: number, bit: number): number {
    return this.#bit[node] === bit ? this.#high[node]! : node
  }

  #node(bit: number, low: number, high: number): number {
    if (low === high) return low
    let at = this.#slot(bit, low, high)
    for (let node = this.#table[at]!; node !== 0; node = this.#table[at]!) {
      if (this.#low[node] === low && this.#high[node] === high && this.#bit[node] === bit) return node
      at = (at + 1) & (this.#table.length - 1)
    }
    if (this.#count === this.#bit.length) {
      this.#grow()
      return this.#node(bit, low, high)
    }
    if (this.#count === mostNodes) throw new RangeError('a decision diagram cannot have more nodes')
    const node = this.#count++
    this.#bit[node] = bit
    this.#low[node] = low
    this.#high[node] = high
    this.#table[at] = node
    return node
  }

  #slot(bit: number, low: number, high: number): number {
    let hash = Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b) ^ Math.imul(bit, 0xc2b2ae35)
    hash ^= hash >>> 15
    return hash & (this.#table.length - 1)
  }

  #grow(): void {
    const grown = (old: Int32Array): Int32Array => {
      const array = new Int32Array(2 * old.length)
      array.set(old)
      return array
    }
    this.#bit = grown(this.#bit)
    this.#low = grown(this.#low)
    this.#high = grown(this.#high)
    this.#table = new Int32Array(2 * this.#bit.length)
    for (let node = 2; node < this.#count; node++) {
      let at = this.#slot(this.#bit[node]!, this.#low[node]!, this.#high[node]!)
      while (this.#table[at] !== 0) at = (at + 1) & (this.#table.length - 1)
      this.#table[at] = node
    }
    if (this.#cacheMask >= mostCached - 1) return
    this.#cacheMask = 2 * this.#cacheMask + 1
    this.#cacheA = new Int32Array(this.#cacheMask + 1)
    this.#cacheB = new Int32Array(this.#cacheMask + 1)
    this.#cacheResult = new Int32Array(this.#cacheMask + 1)
  }

  #cacheSlot(a: number, key: number): number {
    let hash = Math.imul(a, 0x9e3779b1) ^ Math.imul(key, 0x85ebca77)
    hash ^= hash >>> 13
    return hash & this.#cacheMask
  }

  #known(a: number, key: number): number {
    const at = this.#cacheSlot(a, key)
    return this.#cacheA[at] === a && this.#cacheB[at] === key ? this.#cacheResult[at]! : -1
  }

  #keep(a: number, key: number, result: number): number {
    const at = this.#cacheSlot(a, key)
    this.#cacheA[at] = a
    this.#cacheB[at] = key
    this.#cacheResult[at] = result
    return result
  }
}

/** A change of some bits, ready for `image` and `preimage` of the diagrams that made it. */
export interface BitChange {
  readonly key: number
  /** The bits that are read or written, ascending. */
  readonly bits: readonly number[]
  /** For each of them, some of `does`. */
  readonly does: readonly number[]
}

const does = { read0: 1, read1: 2, write0: 4, write1: 8 } as const

/** Above the number of a node or of a change stands which operation it is for. */
const operation = {
  union: 1 << 28,
  intersection: 2 << 28,
  difference: 3 << 28,
  image: 4 << 28,
  preimage: 5 << 28,
} as const

type Bitwise = 'union' | 'intersection' | 'difference'

const mostNodes = 1 << 28
const mostCached = 1 << 22
