import { Play, type Stage } from '../play/index.ts'
import type { Point } from '../space/index.ts'
import { perform, type PlayStep } from './steps.ts'

/** The way that somebody goes by some steps, and where each step ends, by its number from 1 on. */
export interface StepTrack {
  readonly who: number
  readonly points: readonly Point[]
  readonly stops: readonly { readonly at: Point; readonly text: string }[]
}

/** The ways that all go who do anything in some steps: the steps are played, so that walks end where they really do. */
export function tracksOf(stage: Stage, steps: readonly PlayStep[]): StepTrack[] {
  const play = new Play(stage)
  const all = new Map<number, { points: Point[]; stops: { at: Point; text: string }[] }>()
  for (const [i, step] of steps.entries()) {
    const { who } = step
    const known = all.get(who) ?? { points: [play.spotOf(who)], stops: [] }
    all.set(who, known)
    perform(play, step)
    const at = play.spotOf(who)
    if (step.do === 'walk-to') known.points.push(...step.via.slice(0, -1), at)
    known.stops.push({ at, text: String(i + 1) })
  }
  return [...all].map(([who, track]) => ({ who, ...track }))
}
