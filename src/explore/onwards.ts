import type { Play } from '../play/index.ts'
import type { Coverage, StandingStart } from './cover.ts'
import { FreshEye, type Observation } from './observation.ts'
import { Search } from './search.ts'
import { type PlayStep, rehearse, replay } from './steps.ts'
import { findTrail, novelTrails } from './sure-search.ts'
import type { TrailMove } from './trail.ts'

/** Situations that are looked at for the next thing that is wanted. */
const trailLimit = 20_000

/** What a play may go on to: transitions, by their number, and what observations see, by its key. */
export interface Wanted {
  readonly rows: ReadonlySet<number>
  readonly keys: ReadonlySet<string>
}

/** How a play goes on: to one of the things that are wanted. */
export interface Onward {
  readonly target: number | string
  /** All steps from the start; null where Play went another way, or the target is not shown. */
  readonly steps: readonly PlayStep[] | null
}

/** Moves to something that is wanted. */
interface Trail {
  readonly target: number | string
  readonly moves: readonly TrailMove[]
}

/** Takes a play on from one thing that is wanted to the next. */
export class Onwards {
  readonly #cover: Coverage
  readonly #search: Search
  readonly #observations: readonly Observation[]

  constructor(cover: Coverage, observations: readonly Observation[]) {
    this.#cover = cover
    this.#search = new Search(cover.stage, 'loose', 1)
    this.#observations = observations
  }

  /**
   * On from the end of some steps by the fewest sure moves to something that is wanted; with `isFar`, also to what is too far
   * off for that, by moves that need not be the fewest. Null where nothing is found.
   */
  *next(before: readonly PlayStep[], wanted: Wanted, isFar: boolean): Generator<undefined, Onward | null> {
    const { stage } = this.#cover
    const start = before.length === 0 ? yield* this.#cover.standingStart() : this.#cover.standingAfter(before)
    if (!start) return null
    const found = (yield* this.#near(start, wanted)) ?? (isFar ? yield* this.#far(start, wanted) : null)
    if (!found) return null
    const { target } = found
    const moves = [...start.moves, ...found.moves]
    for (const [direct, exact] of [
      [true, false],
      [false, false],
      [false, true],
    ] as const) {
      const rehearsal = yield* rehearse(stage, moves, { direct, exact, hasWaited: () => true }, start.before)
      if (!rehearsal || !this.#isShown(target, replay(stage, rehearsal.steps))) continue
      return { target, steps: rehearsal.steps }
    }
    return { target, steps: null }
  }

  #isShown(target: number | string, play: Play): boolean {
    if (typeof target === 'number') return play.taken.includes(target)
    return this.#observations.some((observation) => observation.isShown(target, play))
  }

  *#near(start: StandingStart, wanted: Wanted): Generator<undefined, Trail | null> {
    const { sure } = this.#cover
    const glance = new Glance(this.#cover, this.#search, this.#observations, wanted)
    if (glance.isFound(start.regs, start.patch, [])) return { target: glance.target!, moves: glance.last }
    const limits = { situations: trailLimit, stopAtRest: false, patient: true }
    const end = yield* findTrail(
      sure,
      start.regs,
      start.patch,
      (regs, patch, _held, taken) => glance.isFound(regs, patch, taken),
      limits,
    )
    return typeof end === 'object' ? { target: glance.target!, moves: [...end.moves, ...glance.last] } : null
  }

  *#far(start: StandingStart, wanted: Wanted): Generator<undefined, Trail | null> {
    for (const pairs of [false, true]) {
      const glance = new Glance(this.#cover, this.#search, this.#observations, wanted)
      let moves: readonly TrailMove[] | null = null
      const limits = { situations: trailLimit, pairs }
      yield* novelTrails(this.#cover.sure, start.regs, start.patch, limits, (made) => {
        if (!glance.isFound(made.regs, made.patch, made.taken)) return false
        moves = [...made.trail(), ...glance.last]
        return true
      })
      if (moves) return { target: glance.target!, moves }
    }
    return null
  }
}

/** Looks at one situation after another, each once, for what is wanted. */
class Glance {
  /** What was found. */
  target: number | string | null = null
  /** What is done there to see it. */
  last: readonly TrailMove[] = []
  readonly #wanted: Wanted
  readonly #eye: FreshEye

  constructor(cover: Coverage, search: Search, observations: readonly Observation[], wanted: Wanted) {
    this.#wanted = wanted
    this.#eye = new FreshEye(search, cover.sure.packing, observations, (_lookout, key, { kind, what, patch }) => {
      if (this.target !== null || !wanted.keys.has(key)) return
      this.target = key
      this.last = kind < 0 ? [] : [{ kind, what, patch, ms: -1 }]
    })
  }

  /** Whether a move that took some transitions and led to this situation comes to something that is wanted. */
  isFound(regs: Int32Array, patch: number, taken: readonly number[]): boolean {
    const { rows, keys } = this.#wanted
    this.target = taken.find((row) => rows.has(row)) ?? null
    if (this.target === null && keys.size > 0) this.#eye.look(regs, patch)
    return this.target !== null
  }
}
