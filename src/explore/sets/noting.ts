/**
 * Registers of a move that is tried, which note what it reads and writes: a run of the step then holds for every situation
 * that agrees on what was read.
 */
export class NotingRegisters {
  /** What a move is tried from, as the move sees it. */
  readonly base: Int32Array
  /** What it makes of that, as the move sees it. */
  readonly after: Int32Array
  /** The values that a move is tried from; set by the caller. */
  readonly from: Int32Array
  /** The registers read since `forget`, in the order in which they were read first. */
  readonly reads: number[] = []
  /** The registers written since the move began. */
  readonly written = new Set<number>()
  readonly #isRead: Uint8Array
  readonly #made: Int32Array

  constructor(size: number) {
    this.from = new Int32Array(size)
    this.#made = new Int32Array(size)
    this.#isRead = new Uint8Array(2 * size)
    this.base = new Proxy(this.from, {
      get: (values, name) => {
        const register = registerOf(name)
        this.note(register)
        return values[register]
      },
    })
    this.after = new Proxy(this.#made, {
      get: (values, name) => {
        const register = registerOf(name)
        if (!this.written.has(register)) this.note(register)
        return values[register]
      },
      set: (values, name, value: number) => {
        const register = registerOf(name)
        this.written.add(register)
        values[register] = value
        return true
      },
    })
  }

  /** Notes that something was asked for: a register, or something beyond them that is numbered as one. */
  note(register: number): void {
    if (this.#isRead[register] === 1) return
    this.#isRead[register] = 1
    this.reads.push(register)
  }

  /** Forgets what was read. */
  forget(): void {
    for (const register of this.reads) this.#isRead[register] = 0
    this.reads.length = 0
  }

  /** A move begins: from what stands in `from`. */
  begin(): void {
    this.#made.set(this.from)
    this.written.clear()
  }

  /** What a register stands at after the move. */
  valueOf(register: number): number {
    return this.#made[register]!
  }

  /** Whether the move may have given a register another value: what was not read may have been anything before. */
  mayDiffer(register: number): boolean {
    if (!this.written.has(register)) return false
    return this.#isRead[register] === 0 || this.#made[register] !== this.from[register]
  }
}

function registerOf(name: string | symbol): number {
  const register = Number(name)
  // Methods of arrays would read without being focused.
  if (!Number.isInteger(register)) throw new TypeError(`registers are read one by one, not by ${String(name)}`)
  return register
}
