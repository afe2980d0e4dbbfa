const mostNodes = 1 << 28
const mostCached = 1 << 22

/** The nodes of decision diagrams, each there once, and results of what was done with them. */
export class NodeTable {
  /** Four numbers a node: its bit, the sets for 0 and for 1 at that bit, and the next node of the same slot in the table. */
  nodes: Int32Array
  count = 2
  /** By slot, the last node that was put there. */
  #table: Int32Array
  /** Results of earlier operations, four numbers each: two operands (the operation is part of the second) and the result. */
  #cache: Int32Array
  #cacheMask = (1 << 20) - 1

  constructor(bits: number) {
    const capacity = 1 << 17
    this.nodes = new Int32Array(4 * capacity)
    this.nodes[0] = this.nodes[4] = bits
    this.#table = new Int32Array(capacity)
    this.#cache = new Int32Array(4 * (this.#cacheMask + 1))
  }

  /** Memory that is taken, in bytes. */
  get bytes(): number {
    return 4 * (this.nodes.length + this.#table.length + this.#cache.length)
  }

  /** The bit that a node asks for. */
  bitOf(node: number): number {
    return this.nodes[4 * node]!
  }

  /** The set for 0 at a bit that comes no later than that of the node. */
  lowOf(node: number, bit: number): number {
    return this.nodes[4 * node] === bit ? this.nodes[4 * node + 1]! : node
  }

  /** The same for 1. */
  highOf(node: number, bit: number): number {
    return this.nodes[4 * node] === bit ? this.nodes[4 * node + 2]! : node
  }

  /** One of these. */
  half(node: number, bit: number, value: number): number {
    return value === 1 ? this.highOf(node, bit) : this.lowOf(node, bit)
  }

  /** The node for a bit with its two sets; what does not ask for the bit is no node of its own. */
  node(bit: number, low: number, high: number): number {
    if (low === high) return low
    let nodes = this.nodes
    let slot = this.#slot(bit, low, high)
    for (let node = this.#table[slot]!; node !== 0; node = nodes[4 * node + 3]!) {
      if (nodes[4 * node + 1] === low && nodes[4 * node + 2] === high && nodes[4 * node] === bit) return node
    }
    if (4 * this.count === nodes.length) {
      this.#grow()
      nodes = this.nodes
      slot = this.#slot(bit, low, high)
    }
    const node = this.count++
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
    if (this.count >= mostNodes) throw new RangeError('a decision diagram cannot have more nodes')
    const nodes = new Int32Array(2 * this.nodes.length)
    nodes.set(this.nodes)
    this.nodes = nodes
    this.#table = new Int32Array(2 * this.#table.length)
    for (let node = 2; node < this.count; node++) {
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

  /** The result that is kept for a set and a key; -1: none. */
  known(a: number, key: number): number {
    const at = this.#cacheSlot(a, key)
    const cache = this.#cache
    return cache[at] === a && cache[at + 1] === key ? cache[at + 2]! : -1
  }

  /** Keeps a result, and gives it; what was kept in the same slot is forgotten. */
  keep(a: number, key: number, result: number): number {
    const at = this.#cacheSlot(a, key)
    const cache = this.#cache
    cache[at] = a
    cache[at + 1] = key
    cache[at + 2] = result
    return result
  }
}
