import { clocksNow } from '../../src/machine/index.ts'
import { moveKind } from '../../src/explore/successors.ts'
import { inputStep, perform } from '../../src/explore/steps.ts'
import { type SureMove, SureMoves } from '../../src/explore/sure.ts'
import { findTrail } from '../../src/explore/sure-search.ts'
import type { TrailMove } from '../../src/explore/trail.ts'
import { finish } from '../../src/model/index.ts'
import type { Play, Stage } from '../../src/play/index.ts'
import { cellAt, middleOf, type Point, walkLeg, wayToSpot } from '../../src/space/index.ts'
import { findWay } from '../../src/space/ways.ts'
import type { Trial } from './plays.ts'
import type { Random } from './random.ts'

/** Where a play stands, as sure moves have it: registers, and the patch of each character; null: not on a patch. */
interface Standing {
  readonly regs: Int32Array
  readonly patches: readonly number[]
}

function standingOf({ space, tables }: Stage, play: Play): Standing | null {
  const patches = space.patches.map(({ patchAt }, who) => patchAt(play.spotOf(who)))
  if (patches.includes(-1)) return null
  const regs = play.registers()
  for (const [who, patch] of patches.entries()) if (who > 0) regs[tables.at.place(who)] = patch
  return { regs, patches }
}

/** Whether one walks straight from one spot to another without coming to a wall or crossing a border. */
function isPlain({ space, expanded }: Stage, who: number, from: Point, to: Point): boolean {
  const { radius, speed } = expanded.characters[who]!
  const leg = walkLeg(space.layout, from, to, radius, speed)
  return !leg.walled && leg.crossings.length === 0
}

/** The corners of a walk within a sure patch, from a spot in it to its standing spot; null where none was found. */
export function walkWithin(stage: Stage, who: number, from: Point, patch: number): Point[] | null {
  const { grid, patches, sureAt, patchAt, spotsOf } = stage.space.patches[who]!
  const { spot } = patches[patch]!
  const own = wayToSpot(stage.space, who, from, spot, [])
  if (own) {
    // Play's own way will do where it crosses nothing.
    const corners = [from, ...own.via]
    if (corners.every((corner, i) => i === 0 || isPlain(stage, who, corners[i - 1]!, corner))) return [...own.via]
  }
  const spots = spotsOf(patch)
  const ways: { readonly at: Point; readonly via: readonly Point[] }[] = [{ at: from, via: [] }]
  const seen = new Set<string>()
  for (const { at, via } of ways) {
    if (isPlain(stage, who, at, spot)) return [...via, spot]
    for (const next of around(at, grid.size)) {
      const cell = cellAt(grid, next)
      if (cell < 0 || sureAt[cell] !== patch) continue
      const middle = middleOf(grid, cell)
      if (!isPlain(stage, who, at, middle)) continue
      const rest = withinCore(stage, who, middle, patch)
      if (rest) return [...via, middle, ...rest]
    }
    for (const next of spots) {
      if (seen.has(next.join()) || !isPlain(stage, who, at, next)) continue
      seen.add(next.join())
      ways.push({ at: next, via: [...via, next] })
    }
    if (ways.length > 40_000) return null
    for (const next of around(at, grid.size / (ways.length < 300 ? 2 : 4))) {
      const key = next.map((metres) => metres.toFixed(3)).join()
      if (seen.has(key)) continue
      seen.add(key)
      if (patchAt(next) === patch && isPlain(stage, who, at, next)) ways.push({ at: next, via: [...via, next] })
    }
  }
  return null
}

/** Spots round another, at up to four steps off, nearest first. */
function around([x, y]: Point, step: number): Point[] {
  const steps = [-4, -3, -2, -1, 0, 1, 2, 3, 4]
  const all = steps.flatMap((dx) => steps.map((dy) => ({ dx, dy })))
  all.sort((a, b) => a.dx * a.dx + a.dy * a.dy - b.dx * b.dx - b.dy * b.dy)
  return all.map(({ dx, dy }): Point => [x + dx * step, y + dy * step])
}

function withinCore(stage: Stage, who: number, from: Point, patch: number): Point[] | null {
  const { grid, patches, sureAt } = stage.space.patches[who]!
  const { spot } = patches[patch]!
  const goal = cellAt(grid, spot)
  if (sureAt[goal] !== patch) return null
  const cost = (cell: number): number => (sureAt[cell] === patch ? 0 : -1)
  const { radius } = stage.expanded.characters[who]!
  const way = findWay(
    stage.space.layout,
    grid,
    from,
    (cell) => cell === goal,
    { bodies: [], cost, radius, room: 3 },
    spot,
  )
  if (!way) return null
  const corners = [from, ...way.via]
  // Straightened, a way may cut a corner of another patch.
  return corners.every((corner, i) => i === 0 || isPlain(stage, who, corners[i - 1]!, corner)) ? [...way.via] : null
}

/** Everybody walks to the standing spot of the patch they are on. What is wrong with that; null: nothing. */
export function toStandingSpots(stage: Stage, play: Play): string | null {
  for (const [who, { patchAt, patches }] of stage.space.patches.entries()) {
    if (staysSomewhere(stage, who)) continue
    const at = play.spotOf(who)
    const patch = patchAt(at)
    if (patch < 0 || !patches[patch]!.sure) return 'unsure'
    const via = walkWithin(stage, who, at, patch)
    if (!via) return `no walk within patch ${String(patch)} from ${at.join()} to ${patches[patch]!.spot.join()}`
    play.walk(who, via)
    play.advanceWhileWalking(who, 600_000)
    if (patchAt(play.spotOf(who)) !== patch) return 'unsure'
  }
  // Who stood there may have been moved while others walked.
  return stage.space.patches.every((_, who) => isAtSpot(stage, play, who)) ? null : 'unsure'
}

/** Makes random sure moves in a play; what Play does otherwise than they say; null: nothing. */
export function surelyWrong({ stage }: Trial, play: Play, random: Random, count: number): string | null {
  const sure = new SureMoves(stage, { creatures: true })
  for (let i = 0; i < count && play.ended === null; i++) {
    const standing = standingOf(stage, play)
    if (!standing) return 'nobody can stand where a sure move has led'
    const made: { move: SureMove; regs: Int32Array; patch: number }[] = []
    const patient = random.chance(0.5)
    const note = (regs: Int32Array, patch: number, move: SureMove): void => {
      made.push({ move: { ...move, taken: [...move.taken] }, regs: regs.slice(), patch })
    }
    sure.each(standing.regs, standing.patches[0]!, patient, note, random.chance(0.5))
    if (made.length === 0) return null
    const one = random.pick(made)
    const said = followed(stage, sure, play, standing, one.move, patient)
    const after = standingOf(stage, play)
    const wanted = packed(sure, one.regs, one.patch)
    if (said === null && after && packed(sure, after.regs, after.patches[0]!) === wanted) continue
    if (play.ended !== null) return 'a sure move ends in a storm'
    const other = [...one.regs.keys()].filter((register) => one.regs[register] !== after?.regs[register])
    const registers = other.map((register) => [register, one.regs[register], after?.regs[register]])
    return `a sure move is not what Play does: ${JSON.stringify({ ...one.move, from: standing.patches, said, to: after?.patches, registers })}`
  }
  return null
}

function packed({ packing, stage: { tables } }: SureMoves, all: Int32Array, patch: number): string {
  const regs = all.slice()
  const now = clocksNow(tables, regs)
  // Of what stands still in another level it is only known that it does.
  for (const clock of tables.clocksIn.flat()) if (regs[clock]! > 0 && !now.includes(clock)) regs[clock] = 1
  const words = new Int32Array(packing.words)
  packing.pack(regs, patch, words, 0)
  return words.join()
}

/** Milliseconds in a tick. */
const tick = 100

/** Does in a play what a sure move says; why it cannot; null: it could. */
function followed(
  stage: Stage,
  sure: SureMoves,
  play: Play,
  from: Standing,
  move: Omit<TrailMove, 'patch'>,
  patient: boolean,
): string | null {
  const { kind, what, ms } = move
  const since = play.now
  let walker = -1
  if (kind === moveKind.walk) {
    const { actor, to } = sure.inputs.readWalk(what)
    walker = actor
    const here = from.patches[actor]!
    const hop = [...stage.space.hops(actor, here), ...stage.space.strides(actor, here)].find((one) => one.to === to)
    if (!hop) return 'there is no such hop'
    play.walk(actor, hop.via)
    play.advance(sure.lasting(hop))
  } else if (kind === moveKind.press) {
    perform(play, inputStep(stage, sure.inputs.read(what)))
  } else play.advance(Math.max(1, Math.ceil((patient ? (play.nextDue() ?? tick) : tick) / tick)) * tick)
  // Whoever was moved walks to the standing spot there.
  for (let round = 0; round < 4 && play.now - since <= ms; round++) {
    const who = stage.expanded.characters.findIndex((_, one) => !isAtSpot(stage, play, one))
    if (who < 0 || (who === walker && kind === moveKind.walk && play.isWalking(who))) break
    const { patches, patchAt } = stage.space.patches[who]!
    const patch = patchAt(play.spotOf(who))
    if (patch < 0 || !patches[patch]!.firm) break
    const way = wayToSpot(stage.space, who, play.spotOf(who), patches[patch]!.spot, [])
    if (!way) break
    const before = play.now
    const planned = ticksOf(play.spotOf(who), way.via, stage.expanded.characters[who]!.speed)
    play.walk(who, way.via)
    play.advanceWhileWalking(who, 600_000)
    // A walk lasts whole ticks; and as long as it was meant to, where somebody is moved again on the way.
    play.advance((tick - ((play.now - before) % tick)) % tick)
    if (play.now - before < planned - tick) play.advance(planned - (play.now - before))
  }
  const left = ms - (play.now - since)
  if (left > 0) play.advance(left)
  return null
}

/** How long a walk along corners is meant to last, in ms: whole ticks; `speed` in metres a second. */
function ticksOf(from: Point, via: readonly Point[], speed: number): number {
  const corners = [from, ...via]
  const length = via.reduce((sum, [x, y], i) => sum + Math.hypot(x - corners[i]![0], y - corners[i]![1]), 0)
  return Math.ceil((length / speed) * (1000 / tick)) * tick
}

/** Whether somebody stays in one of several levels, so that nobody can be sure of where on its patch that one is. */
function staysSomewhere({ tables }: Stage, who: number): boolean {
  return tables.levelOfCharacter[who]! >= 0
}

function isAtSpot(stage: Stage, play: Play, who: number): boolean {
  if (staysSomewhere(stage, who)) return true
  const { patches, patchAt } = stage.space.patches[who]!
  const [x, y] = play.spotOf(who)
  const patch = patchAt([x, y])
  if (patch < 0 || !patches[patch]!.firm) return true
  const [sx, sy] = patches[patch]!.spot
  return Math.abs(x - sx) < 1e-6 && Math.abs(y - sy) < 1e-6
}

/** Whether a goal that is said to be safe can be met from where a play has come to: what is wrong; null: nothing. */
export function unsafe(
  { stage, report }: Trial,
  play: Play,
  goal = 0,
): { readonly wrong: string | null; readonly tried: boolean } {
  const nothing = { wrong: null, tried: false }
  const { name } = stage.expanded.goals[goal]!
  const isRuledOut = (rule: string): boolean =>
    report.questions.some(
      (one) => one.rule === rule && one.subject === name && one.answer === 'ruled-out' && one.why === null,
    )
  // A goal can be lost by wasting an item alone, too.
  const isSafe = isRuledOut('soft-lock') && isRuledOut('wasted-item')
  if (!isSafe || play.ended !== null || play.goalsMet().includes(name)) return nothing
  for (const who of stage.expanded.characters.keys()) play.steer(who, null)
  for (let i = 0; i < 200 && play.nextDue() !== null; i++) play.advance(play.nextDue()!)
  if (play.ended !== null) return { wrong: 'a storm, where a goal is said to be safe', tried: true }
  if (play.goalsMet().includes(name)) return nothing
  const said = toStandingSpots(stage, play)
  if (said !== null) return said === 'unsure' ? nothing : { wrong: said, tried: true }
  if (play.goalsMet().includes(name)) return nothing
  const hasCreatures = stage.expanded.characters.some(({ role }) => role === 'creature')
  const sure = new SureMoves(stage, { creatures: !hasCreatures })
  const standing = standingOf(stage, play)
  if (!standing) return { wrong: 'nobody can stand on a standing spot', tried: true }
  for (const patient of [true, false]) {
    // Where something runs for ever there is no end to look for.
    const limits = { situations: play.nextDue() === null ? 8000 : 800, patient, stopAtRest: false }
    const isFound = (_regs: Int32Array, _patch: number, held: number): boolean => (held & (1 << goal)) !== 0
    const end = finish(findTrail(sure, standing.regs, standing.patches[0]!, isFound, limits))
    if (end === 'gave-up') return nothing
    if (end === 'none') continue
    for (const move of end.moves) {
      const now = standingOf(stage, play)
      if (!now) return { wrong: 'nobody can stand where a sure move has led', tried: true }
      const cannot = followed(stage, sure, play, now, move, patient)
      if (cannot !== null) return { wrong: cannot, tried: true }
    }
    const isMet = play.goalsMet().includes(name)
    return { wrong: isMet ? null : 'sure moves were to meet the goal, and do not', tried: true }
  }
  // Of what stands still in other levels sure moves know less than a proof does.
  if (stage.tables.clocksIn.flat().some((clock) => standing.regs[clock] !== 0)) return nothing
  return { wrong: 'a goal is said to be safe, and no sure moves lead to it', tried: true }
}
