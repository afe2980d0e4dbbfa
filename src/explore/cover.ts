import { Play, type Stage, startRegisters } from '../play/index.ts'
import { isAtRest, moveKind } from './moves.ts'
import type { CalmRoutes, Route } from './routes.ts'
import type { Search } from './search.ts'
import { rehearse, type Rehearsal, replay, runsOf, shortened } from './steps.ts'
import { SureMoves } from './sure.ts'
import { findTrail, type IsFound } from './trail.ts'
import { millisecondClocks, Step } from '../machine/index.ts'
import { cellAt, timedHop, wayTo } from '../space/index.ts'

/** Situations that a search for sure moves from the start looks at before it gives up. */
const trailLimit = 20_000

/** Plays, and what has been seen in them. */
export class Coverage {
  readonly stage: Stage
  readonly sure: SureMoves
  readonly rows = new Set<number>()
  readonly goals = new Set<string>()
  replays = -1

  constructor(stage: Stage) {
    this.stage = stage
    this.sure = new SureMoves(stage)
    // What happens by itself at the very start happens in every play.
    this.#played({ play: new Play(stage), steps: [] })
  }

  /**
   * Plays a route through a search; null where Play goes another way. With `tidy`, walks find their own way if that
   * will do, which reads better; without, they pass the standing spots, which is quicker.
   */
  *play(
    search: Search,
    route: Route,
    tidy: boolean,
    isDone: (play: Play) => boolean,
  ): Generator<undefined, Rehearsal | null> {
    const ends = runEnds(route)
    const regs = new Int32Array(this.stage.tables.at.size)
    const hasWaited = (play: Play, run: number): boolean => {
      search.read(ends[run]!, regs)
      return isAlike(this.stage, play.registers(), regs)
    }
    for (const direct of [tidy, !tidy]) {
      const rehearsal = this.#played(yield* rehearse(this.stage, route.moves, { direct, exact: false, hasWaited }))
      if (rehearsal && isDone(rehearsal.play)) return rehearsal
      yield
    }
    return null
  }

  /** Looks for sure moves from the start to what is wanted, plays them, and leaves out what is not needed. */
  *seek(isFound: IsFound, isDone: (play: Play) => boolean): Generator<undefined, Rehearsal | null> {
    const start = this.#standingStart()
    if (!start) return null
    for (const patient of [true, false]) {
      const limits = { situations: trailLimit, stopAtRest: false, patient }
      const end = yield* findTrail(this.sure, start.regs, start.patch, isFound, limits)
      if (typeof end !== 'object') continue
      const moves = [{ kind: moveKind.walk, what: -1, patch: start.patch, ms: start.ms }, ...end.moves]
      for (const exact of [false, true]) {
        const manner = { direct: false, exact, hasWaited: () => true }
        const rehearsal = this.#played(yield* rehearse(this.stage, moves, manner))
        if (!rehearsal || !isDone(rehearsal.play)) continue
        const steps = yield* shortened(this.stage, rehearsal.steps, isDone)
        return { steps, play: replay(this.stage, steps) }
      }
    }
    return null
  }

  #played(rehearsal: Rehearsal | null): Rehearsal | null {
    this.replays++
    if (rehearsal?.play.ended !== null) return null
    for (const row of rehearsal.play.taken) this.rows.add(row)
    for (const goal of rehearsal.play.goalsMet()) this.goals.add(goal)
    return rehearsal
  }

  /** The start, with the character on the standing spot of the patch it starts on. */
  #standingStart(): { readonly regs: Int32Array; readonly patch: number; readonly ms: number } | null {
    const { tables, space, expanded } = this.stage
    const person = expanded.characters[0]!
    const { patches, grid, patchAt } = space.patches[0]!
    const patch = patchAt(person.start)
    if (patch < 0 || !patches[patch]!.sure) return null
    const { spot } = patches[patch]!
    const cell = cellAt(grid, spot)
    const way = wayTo(space, 0, person.start, (at) => at === cell, [], spot)
    if (!way) return null
    const regs = startRegisters(this.stage)
    new Step(tables, regs, millisecondClocks, { isInTheWay: () => false }).begin()
    const hop = timedHop(space, person, person.start, way, patch)
    return hop && this.sure.setOut(regs, patch, hop) ? { regs, patch, ms: this.sure.lasting(hop) } : null
  }
}

/** The situation at the end of each run of moves. */
function runEnds(route: Route): number[] {
  let at = 0
  return runsOf(route.moves).map((run) => route.nodes[(at += run.length) - 1]!)
}

/** Whether two situations are alike but for clocks and poses. */
export function isAlike(stage: Stage, one: Int32Array, other: Int32Array): boolean {
  const { at } = stage.tables
  for (let i = 0; i < at.firstClock; i++) {
    const isPose = i >= at.pose(0) && i < at.pose(0) + at.machines
    if (!isPose && one[i] !== other[i]) return false
  }
  return true
}

/** The number of the loose situation that a play is in; -1 where the search does not have it. */
export function situationOf(search: Search, play: Play): number {
  const { tables, space } = search.stage
  const regs = play.registers()
  const rest = isAtRest(tables, regs)
  if (search.fineness === 'ticks' && !rest) return -1
  for (let i = tables.at.firstClock; i < regs.length; i++) if (regs[i]! > 0) regs[i] = 1
  const patch = space.patches[0]!.patchAt(play.spotOf(0))
  return patch < 0 ? -1 : search.find(regs, patch)
}

/** Plays the ways to all rows and goals that were reached. Yields after each. */
export function* coverRows(search: Search, cover: Coverage, calm: CalmRoutes): Generator<undefined, void> {
  const rows = [...search.firstTaken.entries()].filter(([, first]) => first >= 0)
  rows.sort((a, b) => b[1] - a[1])
  for (const [row, first] of rows) {
    if (cover.rows.has(row)) continue
    const next = edgeTaking(search, first, row)
    if (next >= 0) {
      yield* cover.play(search, yield* calm.through(first, next), false, () => cover.rows.has(row))
    }
    yield
    if (!cover.rows.has(row))
      yield* cover.seek(
        (_regs, _patch, _held, taken) => taken.includes(row),
        () => cover.rows.has(row),
      )
    yield
  }
}

/** The situation that a move which takes a row leads to; -1 where it leads back to the same. */
function edgeTaking(search: Search, index: number, row: number): number {
  const regs = new Int32Array(search.stage.tables.at.size)
  const patch = search.read(index, regs)
  let target = -1
  search.moves.each(regs, patch, (after, to, _kind, _what, taken) => {
    if (target >= 0 || !taken.includes(row)) return
    const found = search.find(after, to)
    if (found !== index) target = found
  })
  return target
}
