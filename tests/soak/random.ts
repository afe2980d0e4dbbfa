/** Numbers that only look random: the same seed gives the same ones (mulberry32, Ettinger, public domain). */
export class Random {
  #state: number

  constructor(seed: number) {
    this.#state = seed >>> 0
  }

  /** From 0 to below 1. */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0
    let t = this.#state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }

  /** A whole number from 0 to below a limit. */
  below(limit: number): number {
    return Math.floor(this.next() * limit)
  }

  pick<T>(all: readonly T[]): T {
    return all[this.below(all.length)]!
  }

  chance(share: number): boolean {
    return this.next() < share
  }

  /** A number between two others, rounded to millimetres. */
  between(from: number, to: number): number {
    return Math.round((from + this.next() * (to - from)) * 1000) / 1000
  }
}
