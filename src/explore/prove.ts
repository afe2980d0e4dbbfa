import type { Predecessors, GoalSets } from './graph.ts'
import { moveKind } from './successors.ts'
import type { Search } from './search.ts'
import { Bits } from './store.ts'
import type { SureMoves } from './sure.ts'
import { SureEdges } from './sure-edges.ts'
import { findTrail, type TrailLimits } from './sure-search.ts'

/** Whether a goal is out of danger, or why that could not be shown. */
export type Proof =
  | { readonly proved: true }
  | {
      readonly proved: false
      readonly why: string
      /** Whether it is only the ground that leaves it undecided, however closely time is looked at. */
      readonly isByGround: boolean
    }

/** How a situation is tried: how many situations that looks at, and how many tries in a row may be in vain. */
interface Trying extends Omit<TrailLimits, 'stopAtRest'> {
  readonly inVain: number
}

/** First with patience, then further, and then tick by tick. */
const quickly: Trying = { situations: 400, patient: true, inVain: 4_000 }
const far: Trying = { situations: 4_000, patient: true, alike: 3, strides: true, inVain: 64 }
const closely: Trying = { situations: 6_000, patient: false, inVain: 32 }

/**
 * Tries to show that from every situation at rest, before the goal was met, sure moves reach the goal. It works
 * backwards from the goal: over moves between situations at rest where they are sure; and where something runs in
 * between, by looking for sure moves from the situation at rest before it. Yields now and then.
 */
export class SureProof {
  readonly #search: Search
  readonly #backward: Predecessors
  readonly #sure: SureMoves
  readonly #sets: GoalSets
  readonly #goal: number
  /** Situations at rest from which, from the standing spots, sure moves reach the goal, and those in which it holds. */
  readonly #good: Bits
  readonly #touched: Bits
  readonly #queued: Bits
  readonly #wave: number[] = []
  readonly #tries: number[] = []
  #failed: number[] = []
  /** Whether some were not tried any more. */
  #isGivenUp = false
  /** For situations at rest on ground that is not sure, whether everybody can get off it to where all is well. */
  readonly #escaped = new Map<number, boolean>()
  readonly #regs: Int32Array
  readonly #edges: SureEdges

  constructor(search: Search, backward: Predecessors, sure: SureMoves, sets: GoalSets, goal: number) {
    this.#search = search
    this.#backward = backward
    this.#sure = sure
    sure.isLoose = search.fineness === 'loose'
    this.#sets = sets
    this.#goal = goal
    const { count } = search.store
    this.#good = new Bits(count)
    this.#touched = new Bits(count)
    this.#queued = new Bits(count)
    this.#regs = new Int32Array(search.stage.tables.at.size)
    this.#edges = new SureEdges(search, sure)
  }

  *run(): Generator<undefined, Proof> {
    const { count } = this.#search.store
    for (let index = 0; index < count; index++) {
      if (index % 32_768 === 32_767) yield
      if (this.#search.holds(index, this.#goal) && this.#good.add(index)) this.#wave.push(index)
    }
    yield* this.#work(quickly)
    for (const trying of [far, closely]) {
      for (let before = Infinity; this.#failed.length > 0 && this.#failed.length < before;) {
        const again = this.#failed
        before = again.length
        this.#failed = []
        this.#tries.push(...again.reverse())
        yield* this.#work(trying)
      }
    }
    return yield* this.#verdict()
  }

  /** Tries what waits to be tried; stops where tries are in vain again and again. */
  *#work(trying: Trying): Generator<undefined, void> {
    let since = 0
    let inVain = 0
    for (;;) {
      yield* this.#spread()
      const next = this.#tries.pop()
      if (next === undefined) return
      if (this.#good.has(next)) continue
      if (inVain >= trying.inVain) this.#isGivenUp = true
      const isGood = inVain < trying.inVain && (yield* this.#try(next, trying))
      inVain = isGood ? 0 : inVain + 1
      if (isGood) this.#settle(next)
      else this.#failed.push(next)
      if (++since % 16 === 0) yield
    }
  }

  /** Goes backwards from all that is new. */
  *#spread(): Generator<undefined, void> {
    let count = 0
    for (let to = this.#wave.pop(); to !== undefined; to = this.#wave.pop()) {
      if (++count % 4096 === 0) yield
      const end = this.#backward.end(to)
      for (let at = this.#backward.first(to); at < end; at++) this.#visit(this.#backward.source(at), to)
    }
  }

  #visit(from: number, to: number): void {
    if (!this.#sets.unmet.has(from) || this.#good.has(from)) return
    if (!this.#search.isAtRest(from) || !this.#edges.isOnFirmPatch(from)) {
      if (this.#touched.add(from)) this.#wave.push(from)
      return
    }
    if (this.#good.has(to) && this.#isSureMove(from, to)) this.#settle(from)
    else if (this.#queued.add(from)) this.#tries.push(from)
  }

  #settle(index: number): void {
    if (this.#good.add(index)) this.#wave.push(index)
  }

  /** Whether a move from a situation at rest can be made for certain just as it is. */
  #isSureMove(from: number, to: number): boolean {
    const search = this.#search
    const end = search.endEdge(from)
    for (let edge = search.firstEdge(from); edge < end; edge++) {
      if (search.target(edge) === to && this.#edges.isSure(from, edge)) return true
    }
    return false
  }

  *#try(index: number, trying: Trying): Generator<undefined, boolean> {
    const patch = this.#search.read(index, this.#regs)
    const bit = 1 << this.#goal
    const end = yield* findTrail(
      this.#sure,
      this.#regs,
      patch,
      (regs, on, held, _taken, atRest) => {
        if ((held & bit) !== 0) return true
        if (!atRest) return false
        const found = this.#search.find(regs, on)
        return found >= 0 && this.#good.has(found)
      },
      { ...trying, stopAtRest: true },
    )
    return typeof end === 'object'
  }

  *#verdict(): Generator<undefined, Proof> {
    let uncertain = 0
    let unsure = 0
    let first = -1
    for (let index = 0; index < this.#search.store.count; index++) {
      if (index % 8192 === 8191) yield
      if (!this.#sets.asked.has(index) || !this.#search.isAtRest(index) || this.#isWell(index)) continue
      if (this.#edges.isOnSurePatch(index)) unsure++
      else if (uncertain++ === 0) first = index
    }
    if (unsure + uncertain === 0) return { proved: true }
    const number = String(unsure + uncertain)
    if (unsure > 0 && this.#isGivenUp) {
      return {
        proved: false,
        isByGround: false,
        why: `sure moves that meet the goal were not found from ${number} situations, and not all were tried`,
      }
    }
    return {
      proved: false,
      isByGround: unsure === 0,
      why:
        unsure > 0
          ? `from ${number} situations the goal can be met only if timing or aim that is not certain allows it`
          : `in ${number} situations somebody stands where sampling cannot tell what is so${this.#nearText(first)}`,
    }
  }

  /**
   * Whether a character that stands on ground that is not sure, wherever on it, can for certain walk off it to where all is well:
   * see `Patches.escapes`.
   */
  #canEscape(index: number): boolean {
    const { space } = this.#search.stage
    const regs = new Int32Array(this.#regs.length)
    const patch = this.#search.read(index, regs)
    const who = space.patches.findIndex(
      ({ patches }, one) => this.#sure.isSureOf(one) && !patches[this.#search.placeOf(one, regs, patch)]!.sure,
    )
    const ground = space.patches[who]!
    return ground
      .escapes(this.#search.placeOf(who, regs, patch))
      .every((ways) => ways.some((to) => this.#isGoodInto(regs, patch, who, to)))
  }

  /** Where it is that sampling cannot tell, for people who can make a gap there wider or narrower. */
  #nearText(index: number): string {
    const { space, expanded } = this.#search.stage
    const patch = this.#search.read(index, this.#regs)
    const who = space.patches.findIndex(({ patches }, one) => {
      return this.#sure.isSureOf(one) && !patches[this.#search.placeOf(one, this.#regs, patch)]!.sure
    })
    if (who < 0) return ''
    const [x, y] = space.patches[who]!.patches[this.#search.placeOf(who, this.#regs, patch)]!.spot
    const { name } = expanded.characters[who]!
    return `: ${name} near [${x.toFixed(2)}, ${y.toFixed(2)}], where a gap is about as wide as ${name}, or borders all but touch`
  }

  /** Whether all that a walk onto a patch may lead to is well. */
  #isGoodInto(regs: Int32Array, patch: number, who: number, to: number): boolean {
    let [tried, isGood] = [0, true]
    this.#search.moves.into(regs, patch, who, to, (after, on) => {
      const found = this.#search.find(after, on)
      tried++
      isGood &&= found >= 0 && this.#isWell(found)
    })
    return tried > 0 && isGood
  }

  /** Whether sure moves reach the goal from wherever everybody may be, in a situation at rest or one that comes to it. */
  #isWell(index: number): boolean {
    if (!this.#search.isAtRest(index)) return this.#isRunningTowardsGood(index)
    if (this.#edges.isOnSurePatch(index)) return this.#good.has(index)
    const known = this.#escaped.get(index)
    if (known !== undefined) return known
    // What leads round to where it set out from is no escape.
    this.#escaped.set(index, false)
    const isWell = this.#search.holds(index, this.#goal) || this.#canEscape(index)
    this.#escaped.set(index, isWell)
    return isWell
  }

  /** A step off uncertain ground may set something off; it then has to come to rest well. */
  #isRunningTowardsGood(index: number): boolean {
    const seen = new Set([index])
    const queue = [index]
    for (let node = queue.pop(); node !== undefined; node = queue.pop()) {
      const end = this.#search.endEdge(node)
      for (let edge = this.#search.firstEdge(node); edge < end; edge++) {
        const target = this.#search.target(edge)
        if (this.#search.kind(edge) !== moveKind.wait || seen.has(target)) continue
        seen.add(target)
        if (this.#search.holds(target, this.#goal)) continue
        if (!this.#search.isAtRest(target)) queue.push(target)
        else if (!this.#isWell(target)) return false
      }
    }
    return true
  }
}
