/** Moves of situations, one situation after the other. */
export interface Moves {
  readonly starts: Int32Array
  readonly targets: Int32Array
  /** What each is: a number of whoever keeps them. */
  readonly codes: Int32Array
}

export const noMoves: Moves = { starts: new Int32Array(1), targets: new Int32Array(0), codes: new Int32Array(0) }

export class MovesMade {
  readonly #starts: Int32Array
  readonly #targets: number[] = []
  readonly #codes: number[] = []
  #index = 0

  constructor(count: number) {
    this.#starts = new Int32Array(count + 1)
  }

  add(target: number, code: number): void {
    this.#targets.push(target)
    this.#codes.push(code)
  }

  end(): void {
    this.#starts[++this.#index] = this.#targets.length
  }

  done(): Moves {
    return { starts: this.#starts, targets: Int32Array.from(this.#targets), codes: Int32Array.from(this.#codes) }
  }
}

/** The same moves by where they lead: their targets are where they come from. */
export function* turnedRound({ starts, targets, codes }: Moves, count: number): Generator<undefined, Moves> {
  const firsts = new Int32Array(count + 2)
  for (const target of targets) firsts[target + 2]!++
  for (let i = 2; i < firsts.length; i++) firsts[i]! += firsts[i - 1]!
  const sources = new Int32Array(targets.length)
  const own = new Int32Array(targets.length)
  for (let index = 0; index < count; index++) {
    if ((index & 0x3fff) === 0x3fff) yield
    for (let i = starts[index]!; i < starts[index + 1]!; i++) {
      const at = firsts[targets[i]! + 1]!++
      sources[at] = index
      own[at] = codes[i]!
    }
  }
  return { starts: firsts, targets: sources, codes: own }
}

/** Choices of situations, one situation after the other, and what may come of each. */
export interface Choices {
  readonly starts: Int32Array
  readonly kinds: Uint8Array
  readonly codes: Int32Array
  readonly targetStarts: Int32Array
  readonly targets: Int32Array
}

export const noChoices: Choices = {
  starts: new Int32Array(1),
  kinds: new Uint8Array(0),
  codes: new Int32Array(0),
  targetStarts: new Int32Array(1),
  targets: new Int32Array(0),
}

export class ChoicesMade {
  readonly #starts: Int32Array
  readonly #kinds: number[] = []
  readonly #codes: number[] = []
  readonly #targetStarts: number[] = [0]
  readonly #targets: number[] = []
  #index = 0

  constructor(count: number) {
    this.#starts = new Int32Array(count + 1)
  }

  add(kind: number, code: number, targets: readonly number[]): void {
    this.#kinds.push(kind)
    this.#codes.push(code)
    this.#targets.push(...targets)
    this.#targetStarts.push(this.#targets.length)
  }

  end(): void {
    this.#starts[++this.#index] = this.#kinds.length
  }

  done(): Choices {
    return {
      starts: this.#starts,
      kinds: Uint8Array.from(this.#kinds),
      codes: Int32Array.from(this.#codes),
      targetStarts: Int32Array.from(this.#targetStarts),
      targets: Int32Array.from(this.#targets),
    }
  }
}
