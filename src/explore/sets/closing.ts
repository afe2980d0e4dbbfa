import type { BitChange, Diagrams } from './diagrams.ts'
import type { LiftedPart, LiftingSpace } from './lifting.ts'
import type { PlaceMoves } from './place-moves.ts'
import { Rounds } from './rounds.ts'

/** What closing needs of the search that it is part of. */
export interface ClosingSpace {
  readonly diagrams: Diagrams
  readonly space: LiftingSpace
  readonly nodes: number
  readonly reached: Int32Array
  readonly moves: PlaceMoves
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

  /**
   * Whether both all that this came from, and what was found here before, are closed under a change; `closed`: by place, the
   * changes for which that is so; `here`: those for what was found here, null where that is nothing.
   */
  wasClosed(
    change: BitChange,
    closed: readonly ReadonlySet<BitChange>[],
    here: ReadonlySet<BitChange> | null,
  ): boolean {
    if (this.from.size === 0) return false
    for (const place of this.from) if (!closed[place]!.has(change)) return false
    return here === null || here.has(change)
  }
}

/**
 * Closes what has arrived at a place under all that can happen there without leaving it.
 *
 * What parts do is learned first. A part was learned for all that leaves of its tree hold for; they hold for what changes make
 * of that which touch none of the bits that decide it: so what came from where a part was learned need not be looked at again.
 *
 * Most changes need not be tried. Where what it came from was closed under a change, and what led here touches no bit of that
 * change, so is this: see `Rounds`. That holds for what is left beside what was found here before, too, where that is closed under e.
 */
export class Closing {
  set: number
  /** The changes that the set is closed under now. */
  readonly under = new Set<BitChange>()
  readonly #search: ClosingSpace
  readonly #place: number
  readonly #arrived: Arrivals
  readonly #closedUnder: readonly ReadonlySet<BitChange>[]

  constructor(search: ClosingSpace, place: number, arrived: Arrivals, closedUnder: readonly ReadonlySet<BitChange>[]) {
    this.#search = search
    this.#place = place
    this.#arrived = arrived
    this.#closedUnder = closedUnder
    this.set = arrived.set
  }

  /** False where the nodes are used up. */
  *run(): Generator<undefined, boolean> {
    const { diagrams, space, nodes } = this.#search
    const parts = this.#search.moves.at(this.#place)
    const around = this.#search.moves.aroundOf(this.#place)
    const here = this.#search.reached[this.#place] === 0 ? null : this.#closedUnder[this.#place]!
    const rounds = new Rounds(diagrams, 'forwards', {
      changed: this.#arrived.touched,
      wasClosed: (change) => this.#arrived.wasClosed(change, this.#closedUnder, here),
    })
    let found = -1
    let changes: BitChange[] = []
    let learned = 0
    for (let before = -1; before !== this.set;) {
      const isFirst = before < 0
      before = this.set
      for (const { part, run } of parts) {
        const isKnown = !rounds.hasChanged(part.decidingBits(around), learned) && (!isFirst || this.#wasLearned(part))
        if (!isKnown) part.learn(this.set, around, run)
      }
      learned = rounds.now
      yield
      if (space.found !== found) {
        found = space.found
        changes = this.#changes()
        rounds.take(changes)
      }
      const closed = yield* rounds.close(this.set, nodes)
      if (closed === null) return false
      this.set = closed
    }
    for (const change of changes) this.under.add(change)
    return true
  }

  /** Whether a part was learned at all places where this has come from, and does not ask for more about the place here than there. */
  #wasLearned(part: LiftedPart): boolean {
    const { from } = this.#arrived
    const { moves } = this.#search
    const around = moves.aroundOf(this.#place)
    for (const place of from)
      if (!moves.has(place, part) || !part.asksAlike(around, moves.aroundOf(place))) return false
    return from.size > 0
  }

  /** All that can happen here without leaving. */
  #changes(): BitChange[] {
    const changes: BitChange[] = []
    for (const { change, to } of this.#search.moves.changesAt(this.#place)) {
      if (to === this.#place && !change.isStorm && change.change.bits.length > 0) changes.push(change.change)
    }
    return changes
  }
}
