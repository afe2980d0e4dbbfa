import { Play, type Stage } from '../play/index.ts'
import { cellAt, inPolygon, type Point, wayTo } from '../space/index.ts'
import { type Input, Inputs } from './inputs.ts'
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
  | {
      readonly do: 'press'
      readonly on: string
      /** The kind of press, where it is not the usual one; null where it is. */
      readonly way: string | null
      /** The option that is chosen; null for a press. */
      readonly option: string | null
      /** Whether one looks at it first, because it matters. */
      readonly looking: boolean
      /** Whether the press is kept down. */
      readonly kept: boolean
    }
  | { readonly do: 'release' }
  /** A wheel of a dial, counted from 1, is set to a number. */
  | { readonly do: 'dial'; readonly on: string; readonly wheel: number; readonly to: number }
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

/** Makes one step. */
export function perform(play: Play, step: PlayStep): void {
  const { asks, interactables } = play.stage.expanded
  switch (step.do) {
    case 'press': {
      const press = step.option === null ? (step.way ?? asks[0]!.press) : 'option'
      const ask = asks.findIndex((one) => one.press === press && one.option === step.option)
      if (step.looking) play.face(0, step.on)
      if (step.kept) play.hold(0)
      else play.press(0, ask)
      return
    }
    case 'release':
      play.release(0)
      return
    case 'dial': {
      const machine = interactables.findIndex(({ name }) => name === step.on)
      play.dial(0, machine, step.wheel, step.to)
      return
    }
    case 'wait':
      play.advance(step.ms)
      return
    case 'walk-to':
      play.walk(0, step.via)
      play.advanceWhileWalking(0, longestWait)
  }
}

/** An input as a step. */
export function inputStep({ expanded }: Stage, input: Input): PlayStep {
  if (input.do === 'release') return input
  if (input.do === 'dial') {
    const { name, wheels } = expanded.interactables[expanded.wheels[input.wheel]!.interactable]!
    return { do: 'dial', on: name, wheel: wheels.indexOf(input.wheel) + 1, to: input.to }
  }
  const { press, option } = expanded.asks[input.ask]!
  const way = input.ask === 0 || option !== null ? null : press
  const { name } = expanded.interactables[input.machine]!
  return { do: 'press', on: name, way, option, looking: input.looking, kept: input.kept }
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
  const inputs = new Inputs(stage.tables)
  const steps: PlayStep[] = []
  const runs = manner.exact ? moves.map((move) => [move]) : runsOf(moves)
  for (const [index, run] of runs.entries()) {
    yield
    const first = run[0]!
    const since = play.now
    const step =
      first.kind === moveKind.walk
        ? walkStep(play, run, nextAsked(stage, inputs, runs, index), manner.direct)
        : first.kind === moveKind.press
          ? pressStep(play, inputs.read(first.what))
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

/** The interactable that the next run of moves is about, where it presses or dials one; -1: none. */
function nextAsked({ expanded }: Stage, inputs: Inputs, runs: readonly TrailMove[][], index: number): number {
  const next = runs[index + 1]?.[0]
  const input = next?.kind === moveKind.press ? inputs.read(next.what) : null
  if (input?.do === 'dial') return expanded.wheels[input.wheel]!.interactable
  return input?.do === 'press' ? input.machine : -1
}

function pressStep(play: Play, input: Input): PlayStep | null {
  const step = inputStep(play.stage, input)
  if (step.do === 'press' && input.do === 'press') {
    if (input.looking) play.face(0, step.on)
    if (play.candidates(0, input.ask)[0] !== input.machine) return null
  }
  perform(play, step)
  return step
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
