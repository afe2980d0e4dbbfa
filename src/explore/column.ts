const shift = 16
const chunkSize = 1 << shift
const mask = chunkSize - 1

/** A column of 32-bit whole numbers that grows without being copied. */
export class Column {
  length = 0
  readonly #chunks: Int32Array[] = []

  /** The number at an index that is below `length`. */
  at(index: number): number {
    return this.#chunks[index >>> shift]![index & mask]!
  }

  set(index: number, value: number): void {
    this.#chunks[index >>> shift]![index & mask] = value
  }

  /** Adds a number at the end, and gives its index. */
  push(value: number): number {
    const index = this.length++
    if ((index & mask) === 0) this.#chunks.push(new Int32Array(chunkSize))
    this.#chunks[index >>> shift]![index & mask] = value
    return index
  }

  /** Bytes taken up. */
  get bytes(): number {
    return this.#chunks.length * chunkSize * 4
  }
}
