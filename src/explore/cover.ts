import { Play, type Stage, startRegisters } from '../play/index.ts'
import type { Inputs } from './inputs.ts'
import { loosen, moveKind, Successors } from './successors.ts'
import { passiveOf } from './passive.ts'
import type { UnhurriedPaths, Route } from './routes.ts'
import type { Search } from './search.ts'
import { shortened } from './shorten.ts'
import { type PlayStep, rehearse, type Rehearsal, replay, runsOf, settleStep } from './steps.ts'
import { SureMoves } from './sure.ts'
import { findTrail, type IsFound, quickestTrail } from './sure-search.ts'
import type { TrailMove } from './trail.ts'
import { millisecondClocks } from '../machine/index.ts'
import { timedHop, wayToSpot } from '../space/index.ts'

/** Situations that a search for sure moves from the start looks at before it gives up. */
const trailLimit = 20_000

/** Plays, and what has been seen in them. */
export class Coverage {
  readonly stage: Stage
  /** Moves for looking for plays: everybody goes where they should. */
  readonly sure: SureMoves
  /** Moves that can be relied on. */
  readonly reliable: SureMoves
  /** Moves for going far: of those who do more than stand in the way. */
  readonly far: SureMoves
  readonly rows = new Set<number>()
  readonly goals = new Set<string>()
  /** What has happened: an interactable by its index, a space, and a moment. */
  readonly moments = new Set<string>()
  replays = -1

  constructor(stage: Stage) {
    this.stage = stage
    this.sure = new SureMoves(stage, { creatures: true })
    const hasCreatures = stage.expanded.characters.some(({ role }) => role === 'creature')
    this.reliable = hasCreatures ? new SureMoves(stage) : this.sure
    const passive = passiveOf(stage)
    this.far = passive ? new SureMoves(stage, { creatures: true, passive }) : this.sure
    // What happens by itself at the very start happens in every play.
    this.played({ play: new Play(stage), steps: [] })
  }

  /**
   * Plays a route through a search; null where Play goes another way. With `tidy`, walks find their own way if that
   * will do, which reads better; without, they pass the standing spots, which is quicker. `before`: steps that lead to where it
   * sets out.
   */
  *play(
    search: Search,
    route: Route,
    tidy: boolean,
    isDone: (play: Play) => boolean,
    before: readonly PlayStep[] = [],
  ): Generator<undefined, Rehearsal | null> {
    const ends = runEnds(search.moves.inputs, route)
    const regs = new Int32Array(this.stage.tables.at.size)
    const at = { run: -1, since: 0 }
    const hasWaited = (play: Play, run: number): boolean => {
      if (run !== at.run) Object.assign(at, { run, since: play.now })
      // A wait that leads round to where it set out from is not over before it has begun.
      if (play.now === at.since && (ends[run - 1] ?? 0) === ends[run]) return false
      search.read(ends[run]!, regs)
      return isAlike(this.stage, play.registers(), regs)
    }
    for (const direct of [tidy, !tidy]) {
      at.run = -1
      const rehearsal = this.played(
        yield* rehearse(this.stage, route.moves, { direct, exact: false, hasWaited }, before),
      )
      if (rehearsal && isDone(rehearsal.play)) return rehearsal
      yield
    }
    return null
  }

  /** Looks for sure moves from the start to what is wanted, plays them, and leaves out what is not needed. */
  *seek(isFound: IsFound, isDone: (play: Play) => boolean): Generator<undefined, Rehearsal | null> {
    const start = yield* this.standingStart()
    return start && (yield* this.#sought(start, isFound, isDone))
  }

  /** The same on from the end of some steps, which stay as they are. */
  *seekFrom(
    before: readonly PlayStep[],
    isFound: IsFound,
    isDone: (play: Play) => boolean,
  ): Generator<undefined, Rehearsal | null> {
    const start = this.standingAfter(before)
    return start && (yield* this.#sought(start, isFound, isDone))
  }

  *#sought(
    start: StandingStart,
    isFound: IsFound,
    isDone: (play: Play) => boolean,
  ): Generator<undefined, Rehearsal | null> {
    for (const patient of [true, false]) {
      const limits = { situations: trailLimit, stopAtRest: false, patient }
      const end = yield* findTrail(this.sure, start.regs, start.patch, isFound, limits)
      if (typeof end !== 'object') continue
      const moves = [...start.moves, ...end.moves]
      for (const exact of [false, true]) {
        const manner = { direct: false, exact, hasWaited: () => true }
        const rehearsal = this.played(yield* rehearse(this.stage, moves, manner, start.before))
        if (!rehearsal || !isDone(rehearsal.play)) continue
        const steps = yield* shortened(this.stage, rehearsal.steps, isDone, start.before.length)
        return { steps, play: replay(this.stage, steps) }
      }
    }
    return null
  }

  /** Plays the sure moves that meet a goal in the shortest time; null where none are found, or Play goes another way. */
  *hurry(goal: number, isDone: (play: Play) => boolean): Generator<undefined, readonly PlayStep[] | null> {
    const start = yield* this.standingStart()
    const bit = 1 << goal
    const isFound: IsFound = (_regs, _patch, held) => (held & bit) !== 0
    const trail = start && (yield* quickestTrail(this.sure, start.regs, start.patch, isFound, trailLimit))
    if (!trail) return null
    for (const [direct, exact] of [
      [true, false],
      [false, false],
      [false, true],
    ] as const) {
      const moves = [...start.moves, ...trail]
      const rehearsal = this.played(yield* rehearse(this.stage, moves, { direct, exact, hasWaited: () => true }))
      if (rehearsal && isDone(rehearsal.play)) return rehearsal.steps
    }
    return null
  }

  /** Notes what was seen in a play, where there was one. */
  played(rehearsal: Rehearsal | null): Rehearsal | null {
    this.replays++
    if (!rehearsal) return null
    for (const row of rehearsal.play.taken) this.rows.add(row)
    for (const goal of rehearsal.play.goalsMet()) this.goals.add(goal)
    if (rehearsal.play.ended === null) for (const moment of rehearsal.play.moments) this.moments.add(moment)
    return rehearsal
  }

  /** The start, once everybody has walked to the standing spot of the patch that they start on. */
  *standingStart(): Generator<undefined, StandingStart | null> {
    const { tables, space, expanded } = this.stage
    const regs = startRegisters(this.stage)
    const starts = space.patches.map(({ patchAt }, who) => patchAt(space.layout.starts[who]!))
    const { actors } = this.sure
    if (starts.some((patch, who) => !this.#canBegin(who, patch))) return null
    for (const [who, start] of starts.entries()) if (who > 0) regs[tables.at.place(who)] = start
    let patch = new Successors(tables, space, millisecondClocks, false).begin(regs, starts[0]!)
    const moves: TrailMove[] = []
    for (const who of actors) {
      yield
      const person = expanded.characters[who]!
      const { patches } = space.patches[who]!
      const on = who === 0 ? patch : regs[tables.at.place(who)]!
      if (on !== starts[who]) return null
      const { spot } = patches[on]!
      const way = wayToSpot(space, who, space.layout.starts[who]!, spot, [])
      const hop = way && timedHop(space.layout, person, space.layout.starts[who]!, way, on)
      patch = hop ? this.sure.setOut(regs, patch, who, hop) : -1
      if (!hop || patch < 0) return null
      moves.push({ kind: moveKind.walk, what: this.sure.inputs.walk(who, on), patch: on, ms: this.sure.lasting(hop) })
    }
    return { regs, patch, moves, before: [] }
  }

  /** Whether sure moves can set out with a character on a patch: of those who make none it is enough that they stand somewhere. */
  #canBegin(who: number, patch: number): boolean {
    const isFirm = this.stage.space.patches[who]!.patches[patch]?.firm === true
    return isFirm || (patch >= 0 && !this.sure.actors.includes(who))
  }

  /** Where everybody stands after some steps, once they have gone to the standing spots of their patches; null where they cannot. */
  standingAfter(steps: readonly PlayStep[]): StandingStart | null {
    const { tables, space } = this.stage
    const play = replay(this.stage, steps)
    const patchOf = (who: number): number => space.patches[who]!.patchAt(play.spotOf(who))
    const before = [...steps]
    const { actors } = this.sure
    for (const who of actors) {
      const patch = patchOf(who)
      const settled = patch < 0 ? null : settleStep(play, who, patch)
      if (settled) before.push(settled)
    }
    const places = [...space.patches.keys()].map(patchOf)
    if (play.ended !== null || places.some((patch, who) => !this.#canBegin(who, patch))) return null
    const regs = play.registers()
    for (const [who, patch] of places.entries()) if (who > 0) regs[tables.at.place(who)] = patch
    return { regs, patch: places[0]!, moves: [], before }
  }
}

/** Where sure moves set out from: registers, the patch of the first character, and the steps and the walks that led there. */
export interface StandingStart {
  readonly regs: Int32Array
  readonly patch: number
  readonly before: readonly PlayStep[]
  readonly moves: readonly TrailMove[]
}

/** The situation at the end of each run of moves. */
function runEnds(inputs: Inputs, route: Route): number[] {
  let at = 0
  return runsOf(inputs, route.moves).map((run) => route.nodes[(at += run.length) - 1]!)
}

/** Whether two situations are alike but for clocks and poses, and where the others stand. */
export function isAlike({ tables }: Stage, one: Int32Array, other: Int32Array): boolean {
  const { at, knowsLast } = tables
  const end = at.characters > 1 ? at.place(1) : at.firstClock
  for (let i = 0; i < end; i++) {
    const isPose = i >= at.pose(0) && i < at.pose(0) + at.machines
    const isLast = at.characters > 1 && i >= at.last(0) && i < at.last(0) + at.machines && !knowsLast[i - at.last(0)]
    if (!isPose && !isLast && one[i] !== other[i]) return false
  }
  return true
}

/** The number of the loose situation that a play is in; -1 where the search does not have it. */
export function situationOf(search: Search, play: Play): number {
  const { tables, space } = search.stage
  const regs = play.registers()
  // Ticks are told apart by windows: of what runs, or stands still in a level while nobody is there, a play does not say which.
  const runs = tables.clocksIn.some((clocks) => clocks.some((clock) => regs[clock] !== 0))
  if (search.fineness === 'ticks' && runs) return -1
  loosen(tables, regs)
  const places = space.patches.map(({ patchAt }, who) => patchAt(play.spotOf(who)))
  if (places.includes(-1)) return -1
  for (const [who, place] of places.entries()) if (who > 0) regs[tables.at.place(who)] = place
  return search.find(regs, places[0]!)
}

/** Plays the ways to all rows and goals that were reached. Yields after each. */
export function* coverRows(search: Search, cover: Coverage, calm: UnhurriedPaths): Generator<undefined, void> {
  const rows = [...search.firstTaken.entries()].filter(([, first]) => first >= 0)
  rows.sort((a, b) => b[1] - a[1])
  for (const [row, first] of rows) {
    if (cover.rows.has(row)) continue
    const route = yield* routeTaking(search, calm, first, row)
    if (route) yield* cover.play(search, route, false, () => cover.rows.has(row))
    yield
    if (!cover.rows.has(row))
      yield* cover.seek(
        (_regs, _patch, _held, taken) => taken.includes(row),
        () => cover.rows.has(row),
      )
    yield
  }
}

/**
 * The calmest way to a situation, and on by a move that takes a row; one that leads to another situation, if there is one. Null
 * where there is none.
 */
function* routeTaking(
  search: Search,
  calm: UnhurriedPaths,
  index: number,
  row: number,
): Generator<undefined, Route | null> {
  const regs = new Int32Array(search.stage.tables.at.size)
  const patch = search.read(index, regs)
  let edge = -1
  let idle: TrailMove | null = null
  search.moves.each(regs, patch, (after, on, kind, what, taken) => {
    if (edge >= 0 || !taken.includes(row)) return
    const to = search.find(after, on)
    if (to !== index) edge = search.edgeFor(index, to, kind, what)
    else if (kind === moveKind.press) idle ??= { kind, what, patch: -1, ms: -1 }
  })
  if (edge >= 0) return yield* calm.through(index, edge)
  if (!idle) return null
  const to = yield* calm.to(index)
  return { nodes: [...to.nodes, index], moves: [...to.moves, idle] }
}
