import type { BitChange, Diagrams } from './diagrams.ts'
import type { LiftedChange, LiftedPart, LiftingSpace, Run, Surroundings } from './lifting.ts'

/** What closing needs of the search that it is part of. */
export interface ClosingSpace {
  readonly diagrams: Diagrams
  readonly space: LiftingSpace
  readonly nodes: number
  readonly reached: Int32Array
  partsAt(place: number): readonly { readonly part: LiftedPart; readonly run: Run }[]
  aroundOf(place: number): Surroundings
  changesAt(place: number): Iterable<{ readonly change: LiftedChange; readonly to: number }>
}

/** What has arrived at a place and was not yet looked at. */
export class Arrivals {
  set = 0
  /** Where it came from. */
  readonly from = new Set<number>()
  /** By bit, 1 where what led here has read or written it. */
  readonly touched: Uint8Array

  constructor(bits: number) {
    this.touched = new Uint8Array(bits)
  }

  add(diagrams: Diagrams, set: number, place: number, change: BitChange): void {
    this.set = diagrams.union(this.set, set)
    this.from.add(place)
    for (const bit of change.bits) this.touched[bit] = 1
  }
}

/**
 * Closes what has arrived at a place under all that can happen there without leaving it.
 *
 * Most of that need not be tried. Let X be the set that it came from, closed under a change e, and w the change that led
 * here. Where e and w touch no bit in common they can be made in either order: e(w(X)) = w(e(X)), which is part of w(X). So
 * e leads nowhere new until something else has changed a bit that it touches. That holds for what is left of w(X) beside
 * what was found here before, too, where that is closed under e.
 */
export class Closing {
  set: number
  /** The changes that the set is closed under now. */
  readonly under = new Set<BitChange>()
  readonly #search: ClosingSpace
  readonly #place: number
  readonly #arrived: Arrivals
  readonly #closedUnder: readonly ReadonlySet<BitChange>[]
  /** By bit, when it was last changed; a change is tried again where one of its bits was changed since. */
  readonly #changedAt: Int32Array
  readonly #triedAt = new Map<BitChange, number>()
  #now = 1

  constructor(search: ClosingSpace, place: number, arrived: Arrivals, closedUnder: readonly ReadonlySet<BitChange>[]) {
    this.#search = search
    this.#place = place
    this.#arrived = arrived
    this.#closedUnder = closedUnder
    this.set = arrived.set
    this.#changedAt = Int32Array.from(arrived.touched)
  }

  /** False where the nodes are used up. */
  *run(): Generator<undefined, boolean> {
    const { diagrams, space, nodes } = this.#search
    const parts = this.#search.partsAt(this.#place)
    const around = this.#search.aroundOf(this.#place)
    let found = -1
    let order: BitChange[] = []
    for (let before = -1; before !== this.set;) {
      before = this.set
      for (const { part, run } of parts) part.learn(this.set, around, run)
      yield
      if (space.found !== found) {
        found = space.found
        order = this.#changes()
      }
      for (let last = -1; last !== this.set;) {
        last = this.set
        for (const change of order) {
          this.#make(diagrams, change)
          if (diagrams.made > nodes) return false
          yield
        }
      }
    }
    for (const change of order) this.under.add(change)
    return true
  }

  /** All that can happen here without leaving, what touches the last bits first. */
  #changes(): BitChange[] {
    const changes: BitChange[] = []
    for (const { change, to } of this.#search.changesAt(this.#place)) {
      if (to === this.#place && !change.isStorm && change.change.bits.length > 0) changes.push(change.change)
    }
    return changes.sort((a, b) => b.bits[0]! - a.bits[0]!)
  }

  #make(diagrams: Diagrams, change: BitChange): void {
    const tried = this.#triedAt.get(change) ?? (this.#isClosedUnder(change) ? 0 : -1)
    if (tried >= 0 && change.bits.every((bit) => this.#changedAt[bit]! <= tried)) {
      this.#triedAt.set(change, tried)
      return
    }
    for (let before = -1; before !== this.set;) {
      before = this.set
      this.set = diagrams.union(before, diagrams.image(before, change))
      if (before === this.set) break
      this.#now++
      for (const bit of change.bits) this.#changedAt[bit] = this.#now
    }
    this.#triedAt.set(change, this.#now)
  }

  /** Whether both all that this came from, and what was found here before, are closed under a change. */
  #isClosedUnder(change: BitChange): boolean {
    if (this.#arrived.from.size === 0) return false
    for (const place of this.#arrived.from) if (!this.#closedUnder[place]!.has(change)) return false
    return this.#search.reached[this.#place] === 0 || this.#closedUnder[this.#place]!.has(change)
  }
}
