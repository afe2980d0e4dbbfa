import { NodeTable } from './node-table.ts'

/**
 * Sets of assignments to bits, as ordered binary decision diagrams with shared nodes (Bryant 1986). A set is the number of
 * its node: 0 is the empty set, 1 the set of all assignments. Nodes are never thrown away.
 */
export class Diagrams {
  /** How many bits there are; bit 0 is looked at first. */
  readonly bits: number
  readonly #table: NodeTable
  #changeKeys = 0
  readonly #together = new Map<string, ChangesTogether>()

  constructor(bits: number) {
    this.bits = bits
    this.#table = new NodeTable(bits)
  }

  /** How many nodes have been made. */
  get made(): number {
    return this.#table.count
  }

  /** Memory that nodes and caches take, in bytes. */
  get bytes(): number {
    return this.#table.bytes
  }

  /** The set in which some bits have given values; `literals` are sorted, 2 × bit + value each. */
  cube(literals: readonly number[]): number {
    const table = this.#table
    let set = 1
    for (let i = literals.length - 1; i >= 0; i--) {
      const literal = literals[i]!
      set = (literal & 1) === 1 ? table.node(literal >> 1, 0, set) : table.node(literal >> 1, set, 0)
    }
    return set
  }

  union(a: number, b: number): number {
    const table = this.#table
    if (a === b || b === 0) return a
    if (a === 0) return b
    if (a === 1 || b === 1) return 1
    if (a > b) [a, b] = [b, a]
    const key = b | operation.union
    const known = table.known(a, key)
    if (known >= 0) return known
    const { nodes } = table
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const low = this.union(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b)
    const high = this.union(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    return table.keep(a, key, table.node(bit, low, high))
  }

  intersection(a: number, b: number): number {
    const table = this.#table
    if (a === b || b === 1) return a
    if (a === 1) return b
    if (a === 0 || b === 0) return 0
    if (a > b) [a, b] = [b, a]
    const key = b | operation.intersection
    const known = table.known(a, key)
    if (known >= 0) return known
    const { nodes } = table
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const low = this.intersection(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b)
    const high = this.intersection(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    return table.keep(a, key, table.node(bit, low, high))
  }

  /** What is in `a` and not in `b`. */
  difference(a: number, b: number): number {
    const table = this.#table
    if (a === 0 || a === b || b === 1) return 0
    if (b === 0) return a
    const key = b | operation.difference
    const known = table.known(a, key)
    if (known >= 0) return known
    const { nodes } = table
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const low = this.difference(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b)
    const high = this.difference(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    return table.keep(a, key, table.node(bit, low, high))
  }

  /** Whether all of `a` is in `b`; makes no nodes. */
  isWithin(a: number, b: number): boolean {
    const table = this.#table
    if (a === 0 || a === b || b === 1) return true
    if (b === 0 || a === 1) return false
    const key = b | operation.within
    const known = table.known(a, key)
    if (known >= 0) return known === 1
    const { nodes } = table
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const is =
      this.isWithin(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b) &&
      this.isWithin(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    table.keep(a, key, is ? 1 : 0)
    return is
  }

  /** Puts an assignment that is in `a` and not in `b` into `into`, as `pick` does. False where there is none. */
  pickOutside(a: number, b: number, into: Uint8Array): boolean {
    const table = this.#table
    if (this.isWithin(a, b)) return false
    into.fill(0)
    while (a > 1 || b > 1) {
      const bit = Math.min(table.bitOf(a), table.bitOf(b))
      const [lowA, lowB] = [table.lowOf(a, bit), table.lowOf(b, bit)]
      const isLow = !this.isWithin(lowA, lowB)
      if (!isLow) into[bit] = 1
      a = isLow ? lowA : table.highOf(a, bit)
      b = isLow ? lowB : table.highOf(b, bit)
    }
    return true
  }

  /** Puts an assignment that is in both of two sets into `into`, as `pick` does. False where there is none. */
  pickWithin(a: number, b: number, into: Uint8Array): boolean {
    const table = this.#table
    if (!this.meet(a, b)) return false
    into.fill(0)
    while (a > 1 || b > 1) {
      const bit = Math.min(table.bitOf(a), table.bitOf(b))
      const [lowA, lowB] = [table.lowOf(a, bit), table.lowOf(b, bit)]
      const isLow = this.meet(lowA, lowB)
      if (!isLow) into[bit] = 1
      a = isLow ? lowA : table.highOf(a, bit)
      b = isLow ? lowB : table.highOf(b, bit)
    }
    return true
  }

  /** All assignments that agree with one of a set in the bits that are kept. */
  projected(set: number, isKept: (bit: number) => boolean): number {
    const table = this.#table
    const kept = Array.from({ length: this.bits }, (_, bit) => isKept(bit))
    const last = kept.lastIndexOf(true)
    const known = new Map<number, number>()
    const project = (node: number): number => {
      if (node <= 1) return node
      const bit = table.bitOf(node)
      if (bit > last) return 1
      const before = known.get(node)
      if (before !== undefined) return before
      const low = project(table.lowOf(node, bit))
      // What may be anything already is not made more by the other half.
      const high = !kept[bit] && low === 1 ? 1 : project(table.highOf(node, bit))
      const made = kept[bit] ? table.node(bit, low, high) : this.union(low, high)
      known.set(node, made)
      return made
    }
    return project(set)
  }

  /** Whether two sets have anything in common; makes no nodes. */
  meet(a: number, b: number): boolean {
    const table = this.#table
    if (a === 0 || b === 0) return false
    if (a === b || a === 1 || b === 1) return true
    if (a > b) [a, b] = [b, a]
    const key = b | operation.meet
    const known = table.known(a, key)
    if (known >= 0) return known === 1
    const { nodes } = table
    const [ofA, ofB] = [nodes[4 * a]!, nodes[4 * b]!]
    const bit = ofA < ofB ? ofA : ofB
    const is =
      this.meet(ofA === bit ? nodes[4 * a + 1]! : a, ofB === bit ? nodes[4 * b + 1]! : b) ||
      this.meet(ofA === bit ? nodes[4 * a + 2]! : a, ofB === bit ? nodes[4 * b + 2]! : b)
    table.keep(a, key, is ? 1 : 0)
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
    const table = this.#table
    if (set <= 1) return set
    const key = under.key | operation.closed
    const known = table.known(set, key)
    if (known >= 0) return known
    const { bit, members, isBack } = under
    const own = table.bitOf(set)
    if (own < bit) {
      const low = this.closed(table.lowOf(set, own), under)
      return table.keep(set, key, table.node(own, low, this.closed(table.highOf(set, own), under)))
    }
    let now = set
    for (let before = -1; before !== now;) {
      before = now
      for (const member of members) {
        const { change } = member
        const made = this.#with(now, change, isBack, 0)
        if (made === now) continue
        member.hadEffect = true
        now = made
      }
    }
    return table.keep(set, key, now)
  }

  /** Prepares a change: `reads` and `writes` are 2 × bit + value each. */
  change(reads: readonly number[], writes: readonly number[]): BitChange {
    const from = new Map(reads.map((literal) => [literal >> 1, literal & 1]))
    const to = new Map(writes.map((literal) => [literal >> 1, literal & 1]))
    const bits = [...new Set([...from.keys(), ...to.keys()])].sort((a, b) => a - b)
    const key = this.#changeKeys
    this.#changeKeys += bits.length + 1
    const read = bits.map((bit) => from.get(bit) ?? -1)
    return { key, bits, from: read, to: bits.map((bit, i) => to.get(bit) ?? read[i]!) }
  }

  /** One assignment of a set that is not empty: 0 or 1 for each bit; bits that do not matter are 0. */
  pick(set: number, into: Uint8Array): void {
    const table = this.#table
    into.fill(0)
    for (let node = set; node > 1;) {
      const low = table.nodes[4 * node + 1]!
      if (low === 0) into[table.bitOf(node)] = 1
      node = low === 0 ? table.nodes[4 * node + 2]! : low
    }
  }

  /** Whether an assignment is in a set. */
  has(set: number, values: Uint8Array): boolean {
    const table = this.#table
    let node = set
    while (node > 1) node = table.nodes[4 * node + (values[table.bitOf(node)] === 1 ? 2 : 1)]!
    return node === 1
  }

  /** The bits that decide whether an assignment is in a set. */
  bitsOf(set: number): ReadonlySet<number> {
    const table = this.#table
    const bits = new Set<number>()
    const seen = new Set([0, 1])
    for (const nodes = [set]; nodes.length > 0;) {
      const node = nodes.pop()!
      if (seen.has(node)) continue
      seen.add(node)
      bits.add(table.bitOf(node))
      nodes.push(table.nodes[4 * node + 1]!, table.nodes[4 * node + 2]!)
    }
    return bits
  }

  /** How many assignments are in a set; beyond 2^53 rounded. `known`: of nodes that were counted already, for sets that have many in common. */
  size(set: number, known = new Map<number, number>()): number {
    const table = this.#table
    const below = (node: number, from: number): number => {
      if (node === 0) return 0
      if (node === 1) return 2 ** (this.bits - from)
      const bit = table.bitOf(node)
      let own = known.get(node)
      if (own === undefined) {
        own = below(table.lowOf(node, bit), bit + 1) + below(table.highOf(node, bit), bit + 1)
        known.set(node, own)
      }
      return own * 2 ** (bit - from)
    }
    return below(set, 0)
  }

  #image(set: number, change: BitChange, i: number): number {
    if (set === 0 || i === change.bits.length) return set
    const table = this.#table
    const key = (change.key + i) | operation.image
    const known = table.known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = table.bitOf(set)
    if (own < bit) {
      const low = this.#image(table.lowOf(set, own), change, i)
      return table.keep(set, key, table.node(own, low, this.#image(table.highOf(set, own), change, i)))
    }
    const made = this.#image(this.#enabled(set, change, i), change, i + 1)
    return table.keep(set, key, change.to[i] === 1 ? table.node(bit, 0, made) : table.node(bit, made, 0))
  }

  #preimage(set: number, change: BitChange, i: number): number {
    if (set === 0 || i === change.bits.length) return set
    const table = this.#table
    const key = (change.key + i) | operation.preimage
    const known = table.known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = table.bitOf(set)
    if (own < bit) {
      const low = this.#preimage(table.lowOf(set, own), change, i)
      return table.keep(set, key, table.node(own, low, this.#preimage(table.highOf(set, own), change, i)))
    }
    const from = change.from[i]!
    const made = this.#preimage(table.half(set, bit, change.to[i]!), change, i + 1)
    if (from < 0) return table.keep(set, key, made)
    return table.keep(set, key, from === 1 ? table.node(bit, 0, made) : table.node(bit, made, 0))
  }

  /** Of a set that asks for no bit before it, the part below the bit where a change can happen. */
  #enabled(set: number, { bits, from }: BitChange, i: number): number {
    const bit = bits[i]!
    if (from[i]! >= 0) return this.#table.half(set, bit, from[i]!)
    return this.union(this.#table.lowOf(set, bit), this.#table.highOf(set, bit))
  }

  /**
   * A set, and what a change leads to from it, or from what it leads into it. That is closed under the change: bits are only ever set
   * to what is the same each time, so that making it twice is making it once.
   */
  #with(set: number, change: BitChange, isBack: boolean, i: number): number {
    if (set <= 1 || i === change.bits.length) return set
    const table = this.#table
    const key = (change.key + i) | (isBack ? operation.withPreimage : operation.withImage)
    const known = table.known(set, key)
    if (known >= 0) return known
    const bit = change.bits[i]!
    const own = table.bitOf(set)
    if (own < bit) {
      const low = this.#with(table.lowOf(set, own), change, isBack, i)
      return table.keep(set, key, table.node(own, low, this.#with(table.highOf(set, own), change, isBack, i)))
    }
    const [from, to] = [change.from[i]!, change.to[i]!]
    let [low, high] = [table.lowOf(set, bit), table.highOf(set, bit)]
    if (from === to) {
      if (to === 1) high = this.#with(high, change, isBack, i + 1)
      else low = this.#with(low, change, isBack, i + 1)
    } else {
      const made = isBack
        ? this.#preimage(to === 1 ? high : low, change, i + 1)
        : this.#image(this.#enabled(set, change, i), change, i + 1)
      // Backwards, what is not read may have been either.
      const onto = isBack ? from : to
      if (onto !== 0) high = this.union(high, made)
      if (onto !== 1) low = this.union(low, made)
    }
    return table.keep(set, key, table.node(bit, low, high))
  }
}

/** A change of some bits, ready for `image` and `preimage` of the diagrams that made it. */
export interface BitChange {
  readonly key: number
  /** The bits that are read or written, ascending. */
  readonly bits: readonly number[]
  /** For each of them, what it must be, -1 where that does not matter; and what it is then. */
  readonly from: readonly number[]
  readonly to: readonly number[]
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
