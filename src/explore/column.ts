const shift = 16
const chunkSize = 1 << shift
const mask = chunkSize - 1

const firstSize = 1 << 8

/** A column of 32-bit whole numbers that grows by chunks, without being copied; only its first chunk starts small. */
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
    if ((index & mask) === 0) this.#chunks.push(new Int32Array(index === 0 ? firstSize : chunkSize))
    else if (index < chunkSize && index === this.#chunks[0]!.length) this.#growFirst()
    this.#chunks[index >>> shift]![index & mask] = value
    return index
  }

  /** Bytes taken up. */
  get bytes(): number {
    return this.#chunks.reduce((sum, chunk) => sum + chunk.byteLength, 0)
  }

  #growFirst(): void {
    const larger = new Int32Array(this.#chunks[0]!.length * 2)
    larger.set(this.#chunks[0]!)
    this.#chunks[0] = larger
  }
}
