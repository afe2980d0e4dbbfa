import type { BitChange, Diagrams } from './diagrams.ts'

/** Whether a set is closed under what changes lead to, or under what leads into it. */
export type Way = 'forwards' | 'backwards'

/** How sets are closed; what is not said is as in brackets. */
export interface RoundsOptions {
  /** By bit, 1 where sets that come may not be closed under what touches it (none), but for that closed as `wasClosed` says. */
  readonly changed?: Uint8Array
  /** Whether sets that come are closed under a change (no). */
  readonly wasClosed?: (change: BitChange) => boolean
  /** What is left out: nothing leads into it or on from it (nothing). */
  readonly without?: number
}

/**
 * Closes sets under changes, or under what leads to them: round by round, those that touch the last bits first.
 *
 * A change is made again only after one of its bits was changed. Let S be closed under a change e, and f a change that touches
 * no bit in common with it. They can be made in either order: e(f(S)) = f(e(S)), which is part of f(S). So S with f(S) is
 * closed under e, too; and in the same way, backwards, for all from which they lead into S.
 *
 * Where something is left out, that does not hold for e if e(S) was partly left out, and f leads out of there. Both then touch bits that decide what is
 * left out: whatever touches one of these counts as touching all of them.
 */
export class Rounds {
  readonly #diagrams: Diagrams
  readonly #isBack: boolean
  readonly #wasClosed: (change: BitChange) => boolean
  readonly #without: number
  /** The bits that decide what is left out. */
  readonly #deciding: ReadonlySet<number>
  /** By bit, when it was last changed. */
  readonly #changedAt: Int32Array
  readonly #triedAt = new Map<BitChange, number>()
  readonly #touched = new Map<BitChange, readonly number[]>()
  #groups: readonly (readonly BitChange[])[] = []
  #now = 1

  constructor(diagrams: Diagrams, way: Way, options: RoundsOptions = {}) {
    const { changed, wasClosed = () => false, without = 0 } = options
    this.#diagrams = diagrams
    this.#isBack = way === 'backwards'
    this.#changedAt = changed ? Int32Array.from(changed) : new Int32Array(diagrams.bits)
    this.#wasClosed = wasClosed
    this.#without = without
    this.#deciding = diagrams.bitsOf(without)
  }

  /** Takes changes, each of which touches a bit; those that were there before are as they were. */
  take(changes: readonly BitChange[]): void {
    const decides = (change: BitChange): boolean => change.bits.some((bit) => this.#deciding.has(bit))
    for (const change of changes) {
      this.#touched.set(change, decides(change) ? [...new Set([...change.bits, ...this.#deciding])] : change.bits)
    }
    // What may lead into what is left out is made by itself: nothing else goes on from there.
    this.#groups = byFirstBit(changes, decides)
  }

  /** Closes a set, which has all in it that was closed before. Null where more than so many nodes were made. */
  *close(set: number, nodes: number): Generator<undefined, number | null> {
    for (let before = -1; before !== set;) {
      before = set
      for (const group of this.#groups) {
        const untried = group.filter((change) => this.#isUntried(change))
        if (untried.length === 0) continue
        set = this.#closeUnder(set, untried)
        if (this.#diagrams.made > nodes) return null
        yield
      }
    }
    return set
  }

  /** How often a set was made larger. */
  get now(): number {
    return this.#now
  }

  /** Whether any of some bits was changed after that. */
  hasChanged(bits: Iterable<number>, since: number): boolean {
    for (const bit of bits) if (this.#changedAt[bit]! > since) return true
    return false
  }

  #closeUnder(set: number, untried: readonly BitChange[]): number {
    const diagrams = this.#diagrams
    const together = diagrams.together(untried, this.#isBack)
    const closed = diagrams.difference(diagrams.closed(set, together), this.#without)
    if (closed !== set) {
      this.#now++
      for (const { change, hadEffect } of together.members) {
        if (hadEffect) for (const bit of this.#touched.get(change)!) this.#changedAt[bit] = this.#now
      }
    }
    for (const change of untried) this.#triedAt.set(change, this.#now)
    return closed
  }

  #isUntried(change: BitChange): boolean {
    const tried = this.#triedAt.get(change) ?? (this.#wasClosed(change) ? 0 : -1)
    if (tried < 0) return true
    this.#triedAt.set(change, tried)
    return this.hasChanged(this.#touched.get(change)!, tried)
  }
}

/** Changes in groups with the same first bit, those with the last bits first; `apart`: which are in a group of their own. */
function byFirstBit(changes: readonly BitChange[], apart: (change: BitChange) => boolean): BitChange[][] {
  const groups = new Map<string, BitChange[]>()
  for (const change of changes.toSorted((a, b) => b.bits[0]! - a.bits[0]!)) {
    const key = apart(change) ? `apart ${String(change.key)}` : String(change.bits[0])
    const group = groups.get(key)
    if (group) group.push(change)
    else groups.set(key, [change])
  }
  return [...groups.values()]
}

/** A set, closed under changes or what leads to it by them. Null where more than so many nodes were made. */
export function* closedUnder(
  diagrams: Diagrams,
  changes: readonly BitChange[],
  way: Way,
  set: number,
  options: RoundsOptions & { readonly nodes: number },
): Generator<undefined, number | null> {
  const rounds = new Rounds(diagrams, way, options)
  rounds.take(changes)
  return yield* rounds.close(set, options.nodes)
}
