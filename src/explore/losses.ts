import type { CompiledTransition } from '../machine/index.ts'
import { type LogEntry, type Play, rowName } from '../play/index.ts'
import type { Loss } from './answers.ts'
import { type Coverage, situationOf } from './cover.ts'
import type { Predecessors, GoalSets } from './graph.ts'
import { lastSafeMoment } from './last-safe.ts'
import { isAtRest, moveKind } from './successors.ts'
import { type UnhurriedPaths, FewestSteps } from './routes.ts'
import type { Search } from './search.ts'
import { safeguardsOf } from './safeguards.ts'
import { grouped, shortened } from './shorten.ts'
import { type PlayStep, replay } from './steps.ts'

/** Of each kind of loss so many of the shortest ways are played before it is given up. */
const tries = 6

/** For so many ways to lose a goal it is asked what would keep it. */
const mostGuarded = 4

/** What was found about the ways to lose a goal. `unplayed` are those that Play could not follow. */
export interface Losses {
  readonly found: readonly Loss[]
  readonly unplayed: number
}

/** A way to lose a goal that was played. */
type PlayedLoss = Omit<Loss, 'safeguards'>

/** A move with which a goal is lost. */
interface LosingMove {
  readonly from: number
  readonly to: number
  /** The edge of the search that it is. */
  readonly edge: number
  readonly steps: number
}

/**
 * The ways to lose a goal: one for each transition that a losing move sets off first, or that a clock does next.
 * Each is played, and what it leads to is checked to be lost. In brief, nothing is looked for that would keep it from being lost, nor when all
 * was still well.
 */
export function* findLosses(
  search: Search,
  backward: Predecessors,
  sets: GoalSets,
  cover: Coverage,
  calm: UnhurriedPaths,
  isBrief: boolean,
): Generator<undefined, Losses> {
  const fewest = yield* FewestSteps.of(search, backward, sets.again ? null : sets.unmet)
  const groups = yield* losingMoves(search, sets, fewest)
  const found: Loss[] = []
  let unplayed = 0
  for (const [row, moves] of [...groups].sort((a, b) => a[0] - b[0])) {
    const loss = yield* playLoss(search, sets, cover, { fewest, calm, isBrief }, row, moves)
    if (loss) {
      const safeguards =
        isBrief || loss.row === null || found.length >= mostGuarded ? [] : yield* safeguardsOf(search, sets, loss.row)
      found.push({ ...loss, safeguards })
    } else unplayed++
    yield
  }
  return { found, unplayed }
}

/**
 * Where a goal cannot be met from the start: a play that comes to where it is asked about; null where none was found that does.
 */
export function* comeToLost(
  search: Search,
  sets: GoalSets,
  cover: Coverage,
  calm: UnhurriedPaths,
): Generator<undefined, Loss | null> {
  for (let index = 0, tried = 0; index < search.store.count && tried < tries; index++) {
    if (!sets.asked.has(index) || sets.canMeet.has(index)) continue
    tried++
    const isDone = (play: Play): boolean => {
      const at = situationOf(search, play)
      return at >= 0 && sets.asked.has(at) && !sets.canMeet.has(at)
    }
    const rehearsal = yield* cover.play(search, yield* calm.to(index), false, isDone)
    if (!rehearsal) continue
    const steps = yield* grouped(search.stage, yield* shortened(search.stage, rehearsal.steps, isDone), isDone)
    if (checked(search, steps, isDone)) return { row: null, steps, short: true, lastSafe: null, safeguards: [] }
  }
  return null
}

/** The moves with which a goal is lost, by the transition to blame (-1: none), the shortest ways first. */
export function* losingMoves(
  search: Search,
  sets: GoalSets,
  fewest: FewestSteps | null,
): Generator<undefined, Map<number, LosingMove[]>> {
  const groups = new Map<number, LosingMove[]>()
  const isLost = (index: number): boolean => sets.doomed.has(index)
  const regs = new Int32Array(search.stage.tables.at.size)
  for (let from = 0; from < search.expanded; from++) {
    if (from % 128 === 127) yield
    // Asked about again, it may also be lost from where it holds.
    if (!sets.canMeet.has(from) || (!sets.again && !sets.unmet.has(from))) continue
    const losing = losingTargets(search, from, isLost)
    if (losing.size === 0) continue
    const patch = search.read(from, regs)
    const seen = new Set<number>()
    search.moves.each(regs, patch, (after, on, kind, what, taken) => {
      const to = search.find(after, on)
      if (!losing.has(to) || seen.has(to)) return
      seen.add(to)
      const row = taken[0] ?? newlyWaiting(search, regs, after)
      keep(groups, row, {
        from,
        to,
        edge: search.edgeFor(from, to, kind, what),
        steps: fewest?.through(from, kind) ?? 0,
      })
    })
  }
  const unnamed = groups.get(-2) ?? []
  groups.delete(-2)
  for (const move of unnamed) keep(groups, nextByClock(search, move.to), move)
  return groups
}

/** The row that has just come to wait until a character is out of the way; -2: none. */
function newlyWaiting(search: Search, before: Int32Array, after: Int32Array): number {
  const { at } = search.stage.tables
  for (let machine = 0; machine < at.machines; machine++) {
    const waiting = at.waiting(machine)
    if (after[waiting] !== 0 && after[waiting] !== before[waiting]) return after[waiting]! - 1
  }
  return -2
}

function losingTargets(search: Search, from: number, isLost: (index: number) => boolean): Set<number> {
  const losing = new Set<number>()
  const end = search.endEdge(from)
  for (let edge = search.firstEdge(from); edge < end; edge++) {
    const target = search.target(edge)
    if (isLost(target)) losing.add(target)
  }
  return losing
}

function keep(groups: Map<number, LosingMove[]>, row: number, move: LosingMove): void {
  const moves = groups.get(row) ?? []
  groups.set(row, moves)
  moves.push(move)
  moves.sort((a, b) => a.steps - b.steps || a.from - b.from || a.to - b.to)
  if (moves.length > tries) moves.pop()
}

/** The transition that a clock sets off next; -1 where none does. */
function nextByClock(search: Search, from: number): number {
  const regs = new Int32Array(search.stage.tables.at.size)
  const seen = new Set([from])
  const queue = [from]
  for (let index = queue.shift(); index !== undefined; index = queue.shift()) {
    const patch = search.read(index, regs)
    let row = -1
    search.moves.each(regs, patch, (after, on, kind, _what, taken) => {
      if (kind !== moveKind.wait || row >= 0) return
      const to = search.find(after, on)
      if (taken[0] !== undefined) row = taken[0]
      else if (to >= 0 && !seen.has(to)) {
        seen.add(to)
        queue.push(to)
      }
    })
    if (row >= 0) return row
  }
  return -1
}

function* playLoss(
  search: Search,
  sets: GoalSets,
  cover: Coverage,
  ways: { readonly fewest: FewestSteps; readonly calm: UnhurriedPaths; readonly isBrief: boolean },
  row: number,
  moves: readonly LosingMove[],
): Generator<undefined, PlayedLoss | null> {
  const blamed = search.stage.tables.rows[row]
  const { name } = search.stage.expanded.goals[sets.goal]!
  const isDone = (play: Play): boolean =>
    (!blamed || isSetOff(play, blamed)) &&
    isLostPlay(search, sets, play) &&
    (sets.again || !play.goalsMet().includes(name))
  const fewestSteps = moves[0]!.steps
  function* loss(steps: readonly PlayStep[]): Generator<undefined, PlayedLoss> {
    const short = steps.length > fewestSteps
    const kept = short ? yield* shortened(search.stage, steps, isDone) : steps
    const losing = yield* grouped(search.stage, kept, isDone)
    const lastSafe = ways.isBrief ? null : yield* lastSafeMoment(search, sets, cover, losing)
    return { row: row < 0 ? null : row, steps: losing, short, lastSafe }
  }
  for (const move of moves) {
    const rehearsal = yield* cover.play(search, ways.fewest.route(move.from, move.edge), true, isDone)
    if (rehearsal && checked(search, rehearsal.steps, isDone)) return yield* loss(rehearsal.steps)
  }
  for (const move of moves) {
    const rehearsal = yield* cover.play(search, yield* ways.calm.through(move.from, move.edge), false, isDone)
    if (rehearsal && checked(search, rehearsal.steps, isDone)) return yield* loss(rehearsal.steps)
  }
  const rehearsal = yield* cover.seek(
    (regs, patch, _held, taken, atRest) => {
      if (!atRest || (row >= 0 && !taken.includes(row) && taken.length > 0)) return false
      const index = search.find(regs, patch)
      return index >= 0 && sets.doomed.has(index)
    },
    (play) => isDone(play),
  )
  return rehearsal && checked(search, rehearsal.steps, isDone) ? yield* loss(rehearsal.steps) : null
}

/** Whether a play has taken a transition, or has come to wait with it. */
function isSetOff(play: Play, row: CompiledTransition): boolean {
  const waits = (entry: LogEntry): boolean =>
    entry.what === 'waits' &&
    entry.interactable === play.stage.expanded.interactables[row.machine]!.name &&
    entry.transition === rowName(row)
  return play.taken.includes(row.index) || play.log.some(waits)
}

/** The steps as they are printed, played anew. */
function checked(search: Search, steps: readonly PlayStep[], isDone: (play: Play) => boolean): boolean {
  return isDone(replay(search.stage, steps))
}

/** Whether a play stands where its goal is out of reach over all moves that are possible. */
function isLostPlay(search: Search, sets: GoalSets, play: Play): boolean {
  const { tables } = search.stage
  if (search.fineness === 'ticks') {
    // Ticks are told apart by windows: the play is looked up once nothing runs any more.
    for (let i = 0; i < 1000 && !isAtRest(tables, play.registers()) && play.ended === null; i++) {
      play.advance(Math.max(1, play.nextDue() ?? 1))
    }
  }
  const index = situationOf(search, play)
  return index >= 0 && sets.doomed.has(index)
}
