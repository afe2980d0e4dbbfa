const firstSize = 1 << 8

/** A column longer than this grows by a quarter, a shorter one to its double. */
const large = 1 << 16

/** A column of 32-bit whole numbers that grows as numbers are added at its end. */
export class Column {
  length = 0
  /** The numbers; those from `length` on mean nothing. Another array once the column has grown. */
  data: Int32Array = new Int32Array(firstSize)

  /** The number at an index that is below `length`. */
  at(index: number): number {
    return this.data[index]!
  }

  /** Adds a number at the end. */
  push(value: number): void {
    if (this.length === this.data.length) this.#grow()
    this.data[this.length++] = value
  }

  /** Takes away the number at the end; there must be one. */
  pop(): number {
    return this.data[--this.length]!
  }

  /** Bytes taken up. */
  get bytes(): number {
    return this.data.byteLength
  }

  #grow(): void {
    const size = this.length < large ? this.length * 2 : Math.ceil(this.length * 1.25)
    const larger = new Int32Array(size)
    larger.set(this.data)
    this.data = larger
  }
}
