/**
 * Sets of assignments to bits, as ordered binary decision diagrams with shared nodes (Bryant 1986). A set is the number of
 * its node: 0 is the empty set, 1 the set of all assignments. Nodes are never thrown away.
 */
export class Diagrams {
  /** How many bits there are; bit 0 is looked at first. */
  readonly bits: number
  /** Four numbers a node: its bit, the sets for 0 and for 1 at that bit, and the next node of the same slot in the table. */
  #nodes: Int32Array
  #count = 2
  #steps = 0
  /** By slot, the last node that was put there. */
  #table: Int32Array
  /** Results of earlier operations, four numbers each: two operands (the operation is part of the second) and the result. */
  #cache: Int32Array
  #cacheMask = (1 << 20) - 1
  #changeKeys = 0
  readonly #together = new Map<string, ChangesTogether>()

  constructor(bits: number) {
    const capacity = 1 << 17
    this.bits = bits
    this.#nodes = new Int32Array(4 * capacity)
    this.#nodes[0] = this.#nodes[4] = bits
    this.#table = new Int32Array(capacity)
    this.#cache = new Int32Array(4 * (this.#cacheMask + 1))
  }

  /** How many nodes have been made. */
  get made(): number {
    return this.#count
  }

  /** How often a node was worked on: a measure of work that is the same on every machine. */
  get steps(): number {
    return this.#steps
  }

  /** Memory that nodes and caches take, in bytes. */
  get bytes(): number {
    return 4 * (this.#nodes.length + this.#table.length + this.#cache.length)
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
    const key = b | operation.union
    const known = this.#known(a, key)
    if (known >= 0) return known
    const nodes = this.#nodes
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const low = this.union(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b)
    const high = this.union(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    return this.#keep(a, key, this.#node(bit, low, high))
  }

  intersection(a: number, b: number): number {
    if (a === b || b === 1) return a
    if (a === 1) return b
    if (a === 0 || b === 0) return 0
    if (a > b) [a, b] = [b, a]
    const key = b | operation.intersection
    const known = this.#known(a, key)
    if (known >= 0) return known
    const nodes = this.#nodes
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const low = this.intersection(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b)
    const high = this.intersection(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    return this.#keep(a, key, this.#node(bit, low, high))
  }

  /** What is in `a` and not in `b`. */
  difference(a: number, b: number): number {
    if (a === 0 || a === b || b === 1) return 0
    if (b === 0) return a
    const key = b | operation.difference
    const known = this.#known(a, key)
    if (known >= 0) return known
    const nodes = this.#nodes
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const low = this.difference(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b)
    const high = this.difference(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    return this.#keep(a, key, this.#node(bit, low, high))
  }

  /** Whether all of `a` is in `b`; makes no nodes. */
  isWithin(a: number, b: number): boolean {
    if (a === 0 || a === b || b === 1) return true
    if (b === 0 || a === 1) return false
    const key = b | operation.within
    const known = this.#known(a, key)
    if (known >= 0) return known === 1
    const nodes = this.#nodes
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const is =
      this.isWithin(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b) &&
      this.isWithin(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    this.#keep(a, key, is ? 1 : 0)
    return is
  }

  /** Puts an assignment that is in `a` and not in `b` into `into`, as `pick` does. False where there is none. */
  pickOutside(a: number, b: number, into: Uint8Array): boolean {
    if (this.isWithin(a, b)) return false
    into.fill(0)
    while (a > 1 || b > 1) {
      const bit = Math.min(this.#bitOf(a), this.#bitOf(b))
      const [lowA, lowB] = [this.#lowOf(a, bit), this.#lowOf(b, bit)]
      const isLow = !this.isWithin(lowA, lowB)
      if (!isLow) into[bit] = 1
      a = isLow ? lowA : this.#highOf(a, bit)
      b = isLow ? lowB : this.#highOf(b, bit)
    }
    return true
  }

  /** Whether two sets have anything in common; makes no nodes. */
  meet(a: number, b: number): boolean {
    if (a === 0 || b === 0) return false
    if (a === b || a === 1 || b === 1) return true
    if (a > b) [a, b] = [b, a]
    const key = b | operation.meet
    const known = this.#known(a, key)
    if (known >= 0) return known === 1
    const nodes = this.#nodes
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const is =
      this.meet(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b) ||
      this.meet(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    this.#keep(a, key, is ? 1 : 0)
    return is
  }

  /** What a change leads to from some of a set. */
  image(set: number, change: BitChange): number {
    return this.#image(set, change, 0)
  }

  /** From what a change leads into a set. Bits that are written and not read may have been anything. */
  preimage(set: number, change: BitChange): number {
    return this.#preimage(set, change, 0)
  }

  /** Prepares changes with the same first bit to close sets under together; `isBack`: under what leads to them. */
  together(changes: readonly BitChange[], isBack: boolean): ChangesTogether {
    const name = `${isBack ? 'back ' : ''}${changes.map(({ key }) => key).join()}`
    let together = this.#together.get(name)
    if (!together) {
      const members = changes.map((change) => ({ change, hadEffect: false }))
      together = { key: this.#changeKeys++, bit: changes[0]!.bits[0]!, isBack, members }
      this.#together.set(name, together)
    }
    return together
  }

  /** The least set with all of a set in it that is closed under changes. */
  closed(set: number, under: ChangesTogether): number {
    if (set <= 1) return set
    const key = under.key | operation.closed
    const known = this.#known(set, key)
    if (known >= 0) return known
    const { bit, members, isBack } = under
    const own = this.#bitOf(set)
    if (own < bit) {
      const low = this.closed(this.#lowOf(set, own), under)
      return this.#keep(set, key, this.#node(own, low, this.closed(this.#highOf(set, own), under)))
    }
    let now = set
    for (let before = -1; before !== now;) {
      before = now
      for (const member of members) {
        const { change } = member
        const made = isBack ? this.#withPreimage(now, change, 0) : this.#withImage(now, change, 0)
        if (made === now) continue
        member.hadEffect = true
        now = made
      }
    }
    return this.#keep(set, key, now)
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
      const low = this.#nodes[4 * node + 1]!
      if (low === 0) into[this.#bitOf(node)] = 1
      node = low === 0 ? this.#nodes[4 * node + 2]! : low
    }
  }

  /** Whether an assignment is in a set. */
  has(set: number, values: Uint8Array): boolean {
    let node = set
    while (node > 1) node = this.#nodes[4 * node + (values[this.#bitOf(node)] === 1 ? 2 : 1)]!
    return node === 1
  }

  /** The bits that decide whether an assignment is in a set. */
  bitsOf(set: number): ReadonlySet<number> {
    const bits = new Set<number>()
    const seen = new Set([0, 1])
    for (const nodes = [set]; nodes.length > 0;) {
      const node = nodes.pop()!
      if (seen.has(node)) continue
      seen.add(node)
      bits.add(this.#bitOf(node))
      nodes.push(this.#nodes[4 * node + 1]!, this.#nodes[4 * node + 2]!)
    }
    return bits
  }

  /** How many assignments are in a set; beyond 2^53 rounded. */
  size(set: number): number {
    const known = new Map<number, number>()
    const below = (node: number, from: number): number => {
      if (node === 0) return 0
      if (node === 1) return 2 ** (this.bits - from)
      const bit = this.#bitOf(node)
      let own = known.get(node)
      if (own === undefined) {
        own = below(this.#lowOf(node, bit), bit + 1) + below(this.#highOf(node, bit), bit + 1)
        known.set(node, own)
      }
      return own * 2 ** (bit - from)
    }
    return below(set, 0)
  }

  #image(set: number, change: BitChange, i: number): number {
    if (set === 0) return 0
    if (i === change.bits.length) return set
    const key = (change.key + i) | operation.image
    const known = this.#known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = this.#bitOf(set)
    if (own < bit) {
      const low = this.#image(this.#lowOf(set, own), change, i)
      return this.#keep(set, key, this.#node(own, low, this.#image(this.#highOf(set, own), change, i)))
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
    const own = this.#bitOf(set)
    if (own < bit) {
      const low = this.#preimage(this.#lowOf(set, own), change, i)
      return this.#keep(set, key, this.#node(own, low, this.#preimage(this.#highOf(set, own), change, i)))
    }
    const what = change.does[i]!
    const isWritten = (what & (does.write0 | does.write1)) !== 0
    const is1 = (what & (isWritten ? does.write1 : does.read1)) !== 0
    const rest = this.#preimage(is1 ? this.#highOf(set, bit) : this.#lowOf(set, bit), change, i + 1)
    const isRead = (what & (does.read0 | does.read1)) !== 0
    if (!isRead) return this.#keep(set, key, rest)
    return this.#keep(set, key, (what & does.read1) !== 0 ? this.#node(bit, 0, rest) : this.#node(bit, rest, 0))
  }

  /**
   * A set, and what a change leads to from it. That is closed under the change: bits are only ever set to what is the same each
   * time, so that making it twice is making it once.
   */
  #withImage(set: number, change: BitChange, i: number): number {
    if (set <= 1 || i === change.bits.length) return set
    const key = (change.key + i) | operation.withImage
    const known = this.#known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = this.#bitOf(set)
    if (own < bit) {
      const low = this.#withImage(this.#lowOf(set, own), change, i)
      return this.#keep(set, key, this.#node(own, low, this.#withImage(this.#highOf(set, own), change, i)))
    }
    const what = change.does[i]!
    let [low, high] = [this.#lowOf(set, bit), this.#highOf(set, bit)]
    const isRead = (what & (does.read0 | does.read1)) !== 0
    const isWritten = (what & (does.write0 | does.write1)) !== 0
    const from1 = (what & does.read1) !== 0
    const to1 = isWritten ? (what & does.write1) !== 0 : from1
    if (isRead && from1 === to1) {
      if (to1) high = this.#withImage(high, change, i + 1)
      else low = this.#withImage(low, change, i + 1)
    } else {
      const made = this.#image(isRead ? (from1 ? high : low) : this.union(low, high), change, i + 1)
      if (to1) high = this.union(high, made)
      else low = this.union(low, made)
    }
    return this.#keep(set, key, this.#node(bit, low, high))
  }

  /** A set, and from what a change leads into it; closed in the same way. */
  #withPreimage(set: number, change: BitChange, i: number): number {
    if (set <= 1 || i === change.bits.length) return set
    const key = (change.key + i) | operation.withPreimage
    const known = this.#known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = this.#bitOf(set)
    if (own < bit) {
      const low = this.#withPreimage(this.#lowOf(set, own), change, i)
      return this.#keep(set, key, this.#node(own, low, this.#withPreimage(this.#highOf(set, own), change, i)))
    }
    const what = change.does[i]!
    let [low, high] = [this.#lowOf(set, bit), this.#highOf(set, bit)]
    const isRead = (what & (does.read0 | does.read1)) !== 0
    const isWritten = (what & (does.write0 | does.write1)) !== 0
    const from1 = (what & does.read1) !== 0
    const to1 = isWritten ? (what & does.write1) !== 0 : from1
    if (isRead && from1 === to1) {
      if (to1) high = this.#withPreimage(high, change, i + 1)
      else low = this.#withPreimage(low, change, i + 1)
    } else {
      const made = this.#preimage(to1 ? high : low, change, i + 1)
      if (!isRead || from1) high = this.union(high, made)
      if (!isRead || !from1) low = this.union(low, made)
    }
    return this.#keep(set, key, this.#node(bit, low, high))
  }

  #bitOf(node: number): number {
    return this.#nodes[4 * node]!
  }

  #lowOf(node: number, bit: number): number {
    return this.#nodes[4 * node] === bit ? this.#nodes[4 * node + 1]! : node
  }

  #highOf(node: number, bit: number): number {
    return this.#nodes[4 * node] === bit ? this.#nodes[4 * node + 2]! : node
  }

  #node(bit: number, low: number, high: number): number {
    if (low === high) return low
    let nodes = this.#nodes
    let slot = this.#slot(bit, low, high)
    for (let node = this.#table[slot]!; node !== 0; node = nodes[4 * node + 3]!) {
      if (nodes[4 * node + 1] === low && nodes[4 * node + 2] === high && nodes[4 * node] === bit) return node
    }
    if (4 * this.#count === nodes.length) {
      this.#grow()
      nodes = this.#nodes
      slot = this.#slot(bit, low, high)
    }
    const node = this.#count++
    nodes[4 * node] = bit
    nodes[4 * node + 1] = low
    nodes[4 * node + 2] = high
    nodes[4 * node + 3] = this.#table[slot]!
    this.#table[slot] = node
    return node
  }

  #slot(bit: number, low: number, high: number): number {
    let hash = Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b) ^ Math.imul(bit, 0xc2b2ae35)
    hash ^= hash >>> 15
    return hash & (this.#table.length - 1)
  }

  #grow(): void {
    if (this.#count >= mostNodes) throw new RangeError('a decision diagram cannot have more nodes')
    const nodes = new Int32Array(2 * this.#nodes.length)
    nodes.set(this.#nodes)
    this.#nodes = nodes
    this.#table = new Int32Array(2 * this.#table.length)
    for (let node = 2; node < this.#count; node++) {
      const slot = this.#slot(nodes[4 * node]!, nodes[4 * node + 1]!, nodes[4 * node + 2]!)
      nodes[4 * node + 3] = this.#table[slot]!
      this.#table[slot] = node
    }
    if (this.#cacheMask >= mostCached - 1) return
    this.#cacheMask = 2 * this.#cacheMask + 1
    this.#cache = new Int32Array(4 * (this.#cacheMask + 1))
  }

  #cacheSlot(a: number, key: number): number {
    let hash = Math.imul(a, 0x9e3779b1) ^ Math.imul(key, 0x85ebca77)
    hash ^= hash >>> 13
    return 4 * (hash & this.#cacheMask)
  }

  #known(a: number, key: number): number {
    const at = this.#cacheSlot(a, key)
    const cache = this.#cache
    return cache[at] === a && cache[at + 1] === key ? cache[at + 2]! : -1
  }

  #keep(a: number, key: number, result: number): number {
    this.#steps++
    const at = this.#cacheSlot(a, key)
    const cache = this.#cache
    cache[at] = a
    cache[at + 1] = key
    cache[at + 2] = result
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

/** Changes with the same first bit, to close sets under together. */
export interface ChangesTogether {
  readonly key: number
  readonly bit: number
  /** Whether sets are closed under what leads to them. */
  readonly isBack: boolean
  /** With whether each has ever led to anything new. */
  readonly members: readonly { readonly change: BitChange; hadEffect: boolean }[]
}

const does = { read0: 1, read1: 2, write0: 4, write1: 8 } as const

/** Above the number of a node or of a change stands which operation it is for. */
const operation = {
  union: 1 << 28,
  intersection: 2 << 28,
  difference: 3 << 28,
  image: 4 << 28,
  preimage: 5 << 28,
  within: 6 << 28,
  meet: 7 << 28,
  withImage: 8 << 28,
  withPreimage: 9 << 28,
  closed: 10 << 28,
} as const

const mostNodes = 1 << 28
const mostCached = 1 << 22
