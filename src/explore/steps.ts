import { begunAt, Play, type PlaySave, type Stage } from '../play/index.ts'
import { inPolygon, type Point, wayToSpot } from '../space/index.ts'
import { type Input, Inputs } from './inputs.ts'
import { moveKind } from './successors.ts'
import { whoMoves } from './routes.ts'
import type { TrailMove } from './trail.ts'

/** One input or one wait, as a tester would do it. `who` is the character that does it, by index; for a wait the first. */
export type PlayStep = { readonly who: number } & StepDone

/** What is done in a step. Times in whole ms, spots in metres. */
export type StepDone =
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
      /** What chance has to draw for it, where chance decides; null where it does not. */
      readonly chance: string | null
      /** Whether one looks at it first, because it matters. */
      readonly looking: boolean
      /** Whether the press is kept down. */
      readonly kept: boolean
    }
  | { readonly do: 'release' }
  /** The notice that is up is dismissed. */
  | { readonly do: 'dismiss' }
  /** A wheel of a dial, counted from 1, is set to a number. */
  | { readonly do: 'dial'; readonly on: string; readonly wheel: number; readonly to: number }
  | { readonly do: 'wait'; readonly ms: number }
  /** The play begins at one of the other starts of levels that are joined: always the first step. */
  | { readonly do: 'start'; readonly at: string }

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
  const { pressKinds, interactables } = play.stage.expanded
  const { who } = step
  switch (step.do) {
    case 'press': {
      const { chance } = step
      const press = step.option === null ? (step.way ?? pressKinds[0]!.press) : 'option'
      const pressKind = pressKinds.findIndex(
        (one) => one.press === press && one.option === step.option && one.chance === chance,
      )
      if (step.looking) play.face(who, step.on)
      if (step.kept) play.hold(who)
      else play.press(who, pressKind)
      return
    }
    case 'release':
      play.release(who)
      return
    case 'dismiss':
      play.dismiss(who)
      return
    case 'dial': {
      const machine = interactables.findIndex(({ name }) => name === step.on)
      play.dial(who, machine, step.wheel, step.to)
      return
    }
    case 'wait':
      play.advance(step.ms)
      return
    case 'start':
      play.restore(new Play(begunAt(play.stage, step.at)).save())
      return
    case 'walk-to':
      play.walk(who, step.via)
      play.advanceWhileWalking(who, longestWait)
  }
}

/** An input as a step. */
export function inputStep({ expanded }: Stage, input: Input): PlayStep {
  const { actor: who } = input
  if (input.do === 'release') return { who, do: 'release' }
  if (input.do === 'dial') {
    const { name, wheels } = expanded.interactables[expanded.wheels[input.wheel]!.interactable]!
    return { who, do: 'dial', on: name, wheel: wheels.indexOf(input.wheel) + 1, to: input.to }
  }
  const { name } = expanded.interactables[input.machine]!
  return {
    who,
    do: 'press',
    on: name,
    ...howPressed(expanded, input.pressKind),
    looking: input.looking,
    kept: input.kept,
  }
}

/** How a step presses, for a way to press. */
export function howPressed(
  { pressKinds }: Stage['expanded'],
  pressKind: number,
): Pick<Extract<PlayStep, { do: 'press' }>, 'way' | 'option' | 'chance'> {
  const { press, option, chance } = pressKinds[pressKind]!
  return { way: press === pressKinds[0]!.press || option !== null ? null : press, option, chance }
}

/** Merges moves into steps: walks that follow one another are one, and so are waits. */
export function runsOf(inputs: Inputs, moves: readonly TrailMove[]): TrailMove[][] {
  const runs: TrailMove[][] = []
  for (const move of moves) {
    const last = runs[runs.length - 1]
    if (last && goesOn(inputs, last[last.length - 1]!, move)) last.push(move)
    else runs.push([move])
  }
  return runs
}

/** Whether one move is a step together with the one before it. */
function goesOn(inputs: Inputs, before: TrailMove, { kind, what }: TrailMove): boolean {
  if (kind !== before.kind || kind === moveKind.press) return false
  if (kind === moveKind.wait) return true
  const walked = inputs.readWalk(before.what)
  return walked.actor === inputs.readWalk(what).actor && walked.to === before.patch
}

/** A moment of a play: after so many moves, with the steps until then. */
export interface PlayedTo {
  readonly moves: number
  readonly steps: readonly PlayStep[]
  readonly save: PlaySave
}

/** How moves are played. */
export interface Manner {
  /** Walks find their own way to where they end, instead of passing the standing spots in between. */
  readonly direct: boolean
  /** Every move lasts just as long as it says, so that clocks stand as they did when it was found. */
  readonly exact: boolean
  /** For a run of waits of unknown length: whether enough time has passed. */
  readonly hasWaited: (play: Play, run: number) => boolean
  /** A moment of a play of moves that begin in the same way: it goes on from there. All moves are of one character. */
  readonly from?: PlayedTo | null
  /** Told of the moment after each press. */
  readonly onPress?: (moment: PlayedTo) => void
  /** Told of a play that goes another way than the moves, as far as it came. */
  readonly onAstray?: (play: Play) => void
}

/**
 * Plays moves in real positions and time, after some steps, and notes all steps. Null where the play went another way than
 * the moves. Yields after each step.
 */
export function* rehearse(
  stage: Stage,
  moves: readonly TrailMove[],
  manner: Manner,
  before: readonly PlayStep[] = [],
): Generator<undefined, Rehearsal | null> {
  const { from = null } = manner
  const play = from ? new Play(stage) : replay(stage, before)
  if (from) play.restore(from.save)
  const inputs = new Inputs(stage.tables)
  const steps = [...(from?.steps ?? before)]
  let made = 0
  const runs = manner.exact ? moves.map((move) => [move]) : runsOf(inputs, moves)
  for (const [index, run] of runs.entries()) {
    made += run.length
    if (from && made <= from.moves) continue
    yield
    const first = run[0]!
    const since = play.now
    const isWait = first.kind === moveKind.wait
    for (const clear of isWait ? [] : dismissal(play, whoMoves(inputs, first.kind, first.what))) {
      perform(play, clear)
      steps.push(clear)
    }
    const step =
      first.kind === moveKind.walk
        ? walkStep(play, inputs, run, nextAsked(stage, inputs, runs, index), manner.direct)
        : first.kind === moveKind.press
          ? pressStep(play, inputs.read(first.what))
          : first.ms >= 0
            ? pause(
                play,
                run.reduce((sum, move) => sum + move.ms, 0),
              )
            : waitStep(play, () => manner.hasWaited(play, index))
    if (step === null || (play.ended !== null && index < runs.length - 1)) {
      manner.onAstray?.(play)
      return null
    }
    if (step !== 'nothing') steps.push(step)
    if (manner.exact && !isWait) {
      const settled = first.ms > 0 ? settleStep(play, whoMoves(inputs, first.kind, first.what), first.patch) : null
      if (settled) steps.push(settled)
      const left = first.ms - (play.now - since)
      if (left > 0) steps.push(pause(play, left))
    }
    // Walks look on to the press that they lead to, and no further.
    if (first.kind === moveKind.press) manner.onPress?.({ moves: made, steps: [...steps], save: play.save() })
  }
  return { play, steps }
}

/** What a character has to dismiss before it can do anything: a step for each popup. */
export function dismissal(play: Play, who: number): PlayStep[] {
  return play.telling.popupsOf(who).map(() => ({ who, do: 'dismiss' }))
}

function pause(play: Play, ms: number): PlayStep {
  play.advance(ms)
  return { who: 0, do: 'wait', ms }
}

/** The interactable that the character that walks presses or dials next, where it does so before anything else; -1: none. */
function nextAsked({ expanded }: Stage, inputs: Inputs, runs: readonly TrailMove[][], index: number): number {
  const who = inputs.readWalk(runs[index]![0]!.what).actor
  const next = runs.slice(index + 1).find(([move]) => whoMoves(inputs, move!.kind, move!.what) === who)?.[0]
  const input = next?.kind === moveKind.press ? inputs.read(next.what) : null
  if (input?.do === 'dial') return expanded.wheels[input.wheel]!.interactable
  return input?.do === 'press' ? input.machine : -1
}

function pressStep(play: Play, input: Input): PlayStep | null {
  const step = inputStep(play.stage, input)
  if (step.do === 'press' && input.do === 'press') {
    if (input.looking) play.face(step.who, step.on)
    if (play.candidates(step.who, input.pressKind)[0] !== input.machine) return null
  }
  perform(play, step)
  return step
}

function waitStep(play: Play, hasWaited: () => boolean): PlayStep | 'nothing' | null {
  const since = play.now
  for (let tries = 0; tries < 10_000; tries++) {
    if (hasWaited()) return play.now === since ? 'nothing' : { who: 0, do: 'wait', ms: play.now - since }
    const due = play.nextDue()
    if (due === null || play.now - since + due > longestWait) return null
    play.advance(due)
  }
  return null
}

/** A character goes to the standing spot of the patch that it is on; null where it stands on that, or there is none. */
export function settleStep(play: Play, who: number, patch: number): PlayStep | null {
  const { patches } = play.stage.space.patches[who]!
  const { spot, firm } = patches[patch]!
  if (!firm || samePoint(spot, play.spotOf(who))) return null
  const via = ground(play, who, play.spotOf(who), patch)?.map(rounded)
  if (!via) return null
  play.walk(who, via)
  play.advanceWhileWalking(who, longestWait)
  return { who, do: 'walk-to', target: placeName(play.stage, play.spotOf(who), -1), via }
}

function walkStep(
  play: Play,
  inputs: Inputs,
  run: readonly TrailMove[],
  pressed: number,
  direct: boolean,
): PlayStep | null {
  const { stage } = play
  const patches = run.map((move) => inputs.readWalk(move.what).to)
  const who = inputs.readWalk(run[0]!.what).actor
  const way = direct ? directWay(play, who, patches) : chainedWay(play, who, patches)
  if (!way) return null
  const via = way.map(rounded)
  play.walk(who, via)
  play.advanceWhileWalking(who, longestWait)
  const last = run[run.length - 1]!.patch
  if (play.ended === null && stage.space.patches[who]!.patchAt(play.spotOf(who)) !== last) return null
  return { who, do: 'walk-to', target: placeName(stage, play.spotOf(who), pressed), via }
}

/** Straight to the last patch by Play's own way there. */
function directWay(play: Play, who: number, patches: readonly number[]): Point[] | null {
  return ground(play, who, play.spotOf(who), patches[patches.length - 1]!)
}

/** By the standing spot of each sure patch on the way. */
function chainedWay(play: Play, who: number, patches: readonly number[]): Point[] | null {
  const { space } = play.stage
  const all = space.patches[who]!.patches
  const stops = patches.filter((patch, i) => all[patch]!.firm || i === patches.length - 1)
  const via: Point[] = []
  let at = play.spotOf(who)
  let before = space.patches[who]!.patchAt(at)
  for (const stop of stops) {
    const isAtSpot = before >= 0 && all[before]!.firm && samePoint(all[before]!.spot, at)
    const hop = isAtSpot ? play.stage.space.hops(who, before).find((one) => one.to === stop) : undefined
    const way = hop ? hop.via : ground(play, who, at, stop)
    if (!way) return null
    via.push(...way)
    at = way[way.length - 1] ?? at
    before = stop
  }
  return via
}

function ground(play: Play, who: number, from: Point, patch: number): Point[] | null {
  const { space } = play.stage
  const way = wayToSpot(space, who, from, space.patches[who]!.patches[patch]!.spot, play.blocking())
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
export function rounded([x, y]: Point): readonly [number, number] {
  return [Math.round(x * 10_000) / 10_000, Math.round(y * 10_000) / 10_000]
}
