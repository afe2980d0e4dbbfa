import { Play, type Stage } from '../play/index.ts'
import { cellAt, inPolygon, type Point, wayTo } from '../space/index.ts'
import { moveKind } from './moves.ts'
import type { TrailMove } from './trail.ts'

/** One input or one wait, as a tester would do it. Times in whole ms, spots in metres. */
export type PlayStep =
  | {
      readonly do: 'walk-to'
      /** An interactable, a doorway or a room: where the walk ends. */
      readonly target: string
      /** The corners of the walk; the last is where it ends. */
      readonly via: readonly (readonly [number, number])[]
    }
  | { readonly do: 'press'; readonly on: string }
  | { readonly do: 'wait'; readonly ms: number }

/** A play that was played, and the steps that it took. */
export interface Rehearsal {
  readonly play: Play
  readonly steps: readonly PlayStep[]
}

/** The longest that a single wait for something is tried, in ms. */
const longestWait = 24 * 3600 * 1000

/** Plays steps anew, from the start. */
export function replay(stage: Stage, steps: readonly PlayStep[]): Play {
  const play = new Play(stage)
  for (const step of steps) perform(play, step)
  return play
}

function perform(play: Play, step: PlayStep): void {
  if (step.do === 'press') play.press(0)
  else if (step.do === 'wait') play.advance(step.ms)
  else {
    play.walk(0, step.via)
    play.advanceWhileWalking(0, longestWait)
  }
}

/** Merges moves into steps: walks that follow one another are one, and so are waits. */
export function runsOf(moves: readonly TrailMove[]): TrailMove[][] {
  const runs: TrailMove[][] = []
  for (const move of moves) {
    const last = runs[runs.length - 1]
    if (last && move.kind !== moveKind.press && last[0]!.kind === move.kind) last.push(move)
    else runs.push([move])
  }
  return runs
}

/** How moves are played. */
export interface Manner {
  /** Walks find their own way to where they end, instead of passing the standing spots in between. */
  readonly direct: boolean
  /** Every move lasts just as long as it says, so that clocks stand as they did when it was found. */
  readonly exact: boolean
  /** For a run of waits of unknown length: whether enough time has passed. */
  readonly hasWaited: (play: Play, run: number) => boolean
}

/**
 * Plays moves in real positions and time, and notes the steps. Null where the play went another way than the moves.
 * Yields after each step.
 */
export function* rehearse(
  stage: Stage,
  moves: readonly TrailMove[],
  manner: Manner,
): Generator<undefined, Rehearsal | null> {
  const play = new Play(stage)
  const steps: PlayStep[] = []
  const runs = manner.exact ? moves.map((move) => [move]) : runsOf(moves)
  for (const [index, run] of runs.entries()) {
    yield
    const first = run[0]!
    const since = play.now
    const step =
      first.kind === moveKind.walk
        ? walkStep(play, run, nextPress(runs, index), manner.direct)
        : first.kind === moveKind.press
          ? pressStep(play, first.what)
          : first.ms >= 0
            ? pause(
                play,
                run.reduce((sum, move) => sum + move.ms, 0),
              )
            : waitStep(play, () => manner.hasWaited(play, index))
    if (step === null || play.ended !== null) return null
    if (step !== 'nothing') steps.push(step)
    const left = manner.exact && first.kind === moveKind.walk ? first.ms - (play.now - since) : 0
    if (left > 0) steps.push(pause(play, left))
  }
  return { play, steps }
}

/** Leaves out steps, as long as the rest still does what is wanted, until none can be left out. Yields after each try. */
export function* shortened(
  stage: Stage,
  steps: readonly PlayStep[],
  isDone: (play: Play) => boolean,
): Generator<undefined, PlayStep[]> {
  let kept = [...steps]
  for (let i = kept.length - 1; i >= 0; i--) {
    yield
    const fewer = kept.filter((_, at) => at !== i)
    if (!isDone(replay(stage, fewer))) continue
    kept = fewer
    i = kept.length
  }
  return kept
}

function pause(play: Play, ms: number): PlayStep {
  play.advance(ms)
  return { do: 'wait', ms }
}

function nextPress(runs: readonly TrailMove[][], index: number): number {
  const next = runs[index + 1]?.[0]
  return next?.kind === moveKind.press ? next.what : -1
}

function pressStep(play: Play, machine: number): PlayStep | null {
  if (play.candidates(0)[0] !== machine) return null
  play.press(0)
  return { do: 'press', on: play.stage.expanded.interactables[machine]!.name }
}

function waitStep(play: Play, hasWaited: () => boolean): PlayStep | 'nothing' | null {
  const since = play.now
  for (let tries = 0; tries < 10_000; tries++) {
    if (hasWaited()) return play.now === since ? 'nothing' : { do: 'wait', ms: play.now - since }
    const due = play.nextDue()
    if (due === null || play.now - since + due > longestWait) return null
    play.advance(due)
  }
  return null
}

function walkStep(play: Play, run: readonly TrailMove[], pressed: number, direct: boolean): PlayStep | null {
  const { stage } = play
  const patches = run.map((move) => move.patch)
  const way = direct ? directWay(play, patches) : chainedWay(play, patches)
  if (!way) return null
  const via = way.map(rounded)
  play.walk(0, via)
  play.advanceWhileWalking(0, longestWait)
  const last = patches[patches.length - 1]!
  if (stage.space.patches[0]!.patchAt(play.spotOf(0)) !== last) return null
  return { do: 'walk-to', target: placeName(stage, play.spotOf(0), pressed), via }
}

/** Straight to the last patch by Play's own way there. */
function directWay(play: Play, patches: readonly number[]): Point[] | null {
  return ground(play, play.spotOf(0), patches[patches.length - 1]!)
}

/** By the standing spot of each sure patch on the way. */
function chainedWay(play: Play, patches: readonly number[]): Point[] | null {
  const { space } = play.stage
  const all = space.patches[0]!.patches
  const stops = patches.filter((patch, i) => all[patch]!.sure || i === patches.length - 1)
  const via: Point[] = []
  let at = play.spotOf(0)
  let before = space.patches[0]!.patchAt(at)
  for (const stop of stops) {
    const isAtSpot = before >= 0 && all[before]!.sure && samePoint(all[before]!.spot, at)
    const hop = isAtSpot ? play.stage.space.hops(0, before).find((one) => one.to === stop) : undefined
    const way = hop ? hop.via : ground(play, at, stop)
    if (!way) return null
    via.push(...way)
    at = way[way.length - 1] ?? at
    before = stop
  }
  return via
}

function ground(play: Play, from: Point, patch: number): Point[] | null {
  const { space } = play.stage
  const { patches, grid } = space.patches[0]!
  const { spot } = patches[patch]!
  const cell = cellAt(grid, spot)
  const way = wayTo(space, 0, from, (at) => at === cell, play.blocking(), spot)
  return way ? [...way.via] : null
}

/** What a tester would call a spot: what is pressed there next, or the doorway or the room that it is in. */
function placeName(stage: Stage, spot: Point, pressed: number): string {
  if (pressed >= 0) return stage.expanded.interactables[pressed]!.name
  const { doorways, rooms } = stage.space.layout
  const place = [...doorways, ...rooms].find(({ outline }) => inPolygon(spot, outline))
  return place?.name ?? 'here'
}

function samePoint(a: Point, b: Point): boolean {
  return Math.abs(a[0] - b[0]) < 1e-3 && Math.abs(a[1] - b[1]) < 1e-3
}

/** Corners as they are printed: to a tenth of a millimetre, and played so too. */
function rounded([x, y]: Point): readonly [number, number] {
  return [Math.round(x * 10_000) / 10_000, Math.round(y * 10_000) / 10_000]
}
