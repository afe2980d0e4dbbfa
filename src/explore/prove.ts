import type { Backward, GoalSets } from './graph.ts'
import { moveKind } from './moves.ts'
import { edgeKind } from './routes.ts'
import type { Search } from './search.ts'
import { Bits } from './store.ts'
import type { SureMoves } from './sure.ts'
import { findTrail } from './trail.ts'

/** Whether a goal is out of danger, or why that could not be shown. */
export type Proof = { readonly proved: true } | { readonly proved: false; readonly why: string }

/** Situations that a single try looks at: first with patience, then tick by tick. */
const quickTry = 400
const longTry = 6_000

/**
 * Tries to show that from every situation at rest, before the goal was met, sure moves reach the goal. It works
 * backwards from the goal: over moves between situations at rest where they are sure; and where something runs in
 * between, by looking for sure moves from the situation at rest before it. Yields now and then.
 */
export class SureProof {
  readonly #search: Search
  readonly #backward: Backward
  readonly #sure: SureMoves
  readonly #sets: GoalSets
  readonly #goal: number
  /** Situations at rest from which sure moves reach the goal, and those in which it holds. */
  readonly #good: Bits
  readonly #touched: Bits
  readonly #queued: Bits
  readonly #wave: number[] = []
  readonly #tries: number[] = []
  #failed: number[] = []
  readonly #regs: Int32Array
  /** Whether anything in the level asks to be looked at, or anybody in it cannot be relied on. */
  readonly #mustLookClosely: boolean
  /** Whether anything in the level moves people to places: a walk may then end elsewhere. */
  readonly #movesPeople: boolean
  /** Whether anything pushes people: a move may then lead to several situations. */
  readonly #pushesPeople: boolean

  constructor(search: Search, backward: Backward, sure: SureMoves, sets: GoalSets, goal: number) {
    this.#search = search
    this.#backward = backward
    this.#sure = sure
    this.#sets = sets
    this.#goal = goal
    const { count } = search.store
    this.#good = new Bits(count)
    this.#touched = new Bits(count)
    this.#queued = new Bits(count)
    this.#regs = new Int32Array(search.stage.tables.at.size)
    const { interactables, characters, places } = search.stage.expanded
    this.#movesPeople = places.length > 0
    this.#pushesPeople = interactables.some(({ inTheWay }) => inTheWay === 'push')
    this.#mustLookClosely =
      interactables.some(({ aim }) => aim !== null) || characters.some((_, who) => !sure.isSureOf(who))
  }

  *run(): Generator<undefined, Proof> {
    const { count } = this.#search.store
    for (let index = 0; index < count; index++) {
      if (index % 32_768 === 32_767) yield
      if (this.#search.holds(index, this.#goal) && this.#good.add(index)) this.#wave.push(index)
    }
    yield* this.#work(quickTry, true)
    for (;;) {
      const again = this.#failed
      this.#failed = []
      this.#tries.push(...again.reverse())
      const before = again.length
      yield* this.#work(longTry, false)
      if (this.#failed.length === 0 || this.#failed.length >= before) break
    }
    return yield* this.#verdict()
  }

  *#work(situations: number, patient: boolean): Generator<undefined, void> {
    let since = 0
    for (;;) {
      yield* this.#spread()
      const next = this.#tries.pop()
      if (next === undefined) return
      if (this.#good.has(next)) continue
      if (yield* this.#try(next, situations, patient)) this.#settle(next)
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
    if (!this.#search.isAtRest(from)) {
      if (this.#touched.add(from)) this.#wave.push(from)
      return
    }
    if (this.#good.has(to) && this.#isSureMove(from, to)) this.#settle(from)
    else if (this.#isOnSurePatch(from) && this.#queued.add(from)) this.#tries.push(from)
  }

  /**
   * Whether a press is by somebody whom nobody can be sure of, or only answers to whoever looks the right way: another
   * might answer first then.
   */
  #isLooking(from: number, to: number): boolean {
    const input = this.#search.moves.inputs.read(this.#search.doneBetween(from, to, moveKind.press))
    return !this.#sure.isSureOf(input.actor) || (input.do === 'press' && input.looking)
  }

  /** Whether everybody stands on certain ground. */
  #isOnSurePatch(index: number): boolean {
    const { space } = this.#search.stage
    if (space.patches.length === 1) return space.patches[0]!.patches[this.#search.patchOf(index)]!.sure
    const patch = this.#search.read(index, this.#regs)
    return space.patches.every(({ patches }, who) => patches[this.#search.placeOf(who, this.#regs, patch)]!.sure)
  }

  #settle(index: number): void {
    if (this.#good.add(index)) this.#wave.push(index)
  }

  /** Whether a move from a situation at rest can be made for certain just as it is. */
  #isSureMove(from: number, to: number): boolean {
    if (!this.#isOnSurePatch(from)) return false
    const kind = edgeKind(this.#search, from, to)
    if (this.#pushesPeople) return false
    if (kind === moveKind.press) return !this.#mustLookClosely || !this.#isLooking(from, to)
    if (!this.#isOnSurePatch(to) || this.#movesPeople) return false
    const { actor: who } = this.#search.moves.inputs.readWalk(this.#search.doneBetween(from, to, kind))
    const before = this.#search.placeOf(who, this.#regs, this.#search.read(from, this.#regs))
    const after = this.#search.placeOf(who, this.#regs, this.#search.read(to, this.#regs))
    return this.#sure.isPlainHop(who, before, after)
  }

  *#try(index: number, situations: number, patient: boolean): Generator<undefined, boolean> {
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
      { situations, patient, stopAtRest: true },
    )
    return typeof end === 'object'
  }

  *#verdict(): Generator<undefined, Proof> {
    let uncertain = 0
    let unsure = 0
    for (let index = 0; index < this.#search.store.count; index++) {
      if (index % 8192 === 8191) yield
      if (!this.#sets.unmet.has(index) || !this.#search.isAtRest(index) || this.#good.has(index)) continue
      if (this.#isOnSurePatch(index)) unsure++
      else if (!this.#areBesideGood(index)) uncertain++
    }
    if (unsure + uncertain === 0) return { proved: true }
    const number = String(unsure + uncertain)
    return {
      proved: false,
      why:
        unsure > 0
          ? `from ${number} situations the goal can be met only if timing or aim that is not certain allows it`
          : `in ${number} situations somebody stands where sampling cannot tell what is so`,
    }
  }

  /** Whoever stands on uncertain ground counts as on each sure patch beside it. */
  #areBesideGood(index: number): boolean {
    const seen = new Set([index])
    const queue = [index]
    let sure = 0
    for (let node = queue.pop(); node !== undefined; node = queue.pop()) {
      const end = this.#search.endEdge(node)
      for (let edge = this.#search.firstEdge(node); edge < end; edge++) {
        const target = this.#search.target(edge)
        if (this.#search.kind(edge) !== moveKind.walk || seen.has(target)) continue
        seen.add(target)
        if (!this.#isOnSurePatch(target)) queue.push(target)
        else {
          sure++
          if (!this.#good.has(target) && !this.#isRunningTowardsGood(target)) return false
        }
      }
    }
    return sure > 0
  }

  /** A step off uncertain ground may set something off; it then has to come to rest well. */
  #isRunningTowardsGood(index: number): boolean {
    if (this.#search.isAtRest(index)) return false
    const seen = new Set([index])
    const queue = [index]
    for (let node = queue.pop(); node !== undefined; node = queue.pop()) {
      const end = this.#search.endEdge(node)
      for (let edge = this.#search.firstEdge(node); edge < end; edge++) {
        const target = this.#search.target(edge)
        if (this.#search.kind(edge) !== moveKind.wait || seen.has(target)) continue
        seen.add(target)
        if (this.#search.isAtRest(target) || this.#search.holds(target, this.#goal)) {
          if (!this.#good.has(target)) return false
        } else queue.push(target)
      }
    }
    return true
  }
}
