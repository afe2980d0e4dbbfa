import { Play, type Stage } from '../play/index.ts'
import type { Point } from '../space/index.ts'
import { perform, type PlayStep } from './steps.ts'

/** The way that somebody goes by some steps, and where each step is done, by its number from 1 on; of a walk, where it ends. */
export interface StepTrack {
  readonly who: number
  /** What is walked without a break; between two of them one is moved to a place. */
  readonly pieces: readonly (readonly Point[])[]
  readonly stops: readonly { readonly at: Point; readonly text: string }[]
}

/**
 * The ways that all go who do anything in some steps: the steps are played, so that walks end where they really do. A walk on which one is
 * moved is drawn as far as to what moves one.
 */
export function tracksOf(stage: Stage, steps: readonly PlayStep[]): StepTrack[] {
  const play = new Play(stage)
  const all = new Map<number, { pieces: Point[][]; stops: { at: Point; text: string }[] }>()
  for (const [i, step] of steps.entries()) {
    const { who } = step
    if (step.do === 'start') {
      perform(play, step)
      continue
    }
    const from = play.spotOf(who)
    const known = all.get(who) ?? { pieces: [[from]], stops: [] }
    all.set(who, known)
    const before = play.log.length
    perform(play, step)
    const at = play.spotOf(who)
    const isWalk = step.do === 'walk-to'
    const piece = known.pieces.at(-1)!
    if (isWalk) piece.push(...step.via.slice(0, -1))
    const moves = movesOf(play, before, who)
    const end = moves.length === 0 ? at : moves[0]!.by
    if (isWalk && end) piece.push(end)
    known.pieces.push(...moves.map(({ to }) => [to]))
    known.stops.push({ at: isWalk ? at : from, text: String(i + 1) })
  }
  return [...all].map(([who, track]) => ({ who, ...track }))
}

/** To which places somebody was moved since some entry of the log, and where what did that stands. */
function movesOf(
  { stage, log }: Play,
  since: number,
  who: number,
): { readonly to: Point; readonly by: Point | null }[] {
  const { places, interactables, characters } = stage.expanded
  return log.slice(since).flatMap((entry) => {
    if (entry.what !== 'moved' || !entry.done || entry.character !== characters[who]!.name) return []
    const to = places.find(({ name }) => name === entry.place)!.at
    const index = interactables.findIndex(({ name }) => name === entry.by)
    const handle = stage.space.layout.figures[index]?.handle ?? null
    return [{ to, by: handle && ([handle[0], handle[1]] as const) }]
  })
}
