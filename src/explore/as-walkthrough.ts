import type { Stage } from '../play/index.ts'
import type { PlayStep, StepDone } from './steps.ts'

/** A step of a walkthrough, as it is written in a walkthrough file. */
export type WrittenStep = 'release' | 'dismiss' | Readonly<Record<string, unknown>>

/** A walkthrough, as its file has it. */
export interface WrittenWalkthrough {
  readonly walkthrough: 1
  readonly title: string
  /** A start of the project; left out where it is the usual one. */
  readonly start?: string
  readonly steps: readonly WrittenStep[]
}

/** Steps as a walkthrough file has them, with what is expected at the end. */
export function asWalkthrough(
  stage: Stage,
  title: string,
  steps: readonly PlayStep[],
  expectations: readonly WrittenStep[],
): WrittenWalkthrough {
  const [first] = steps
  const start = first?.do === 'start' ? { start: first.at } : {}
  return { walkthrough: 1, title, ...start, steps: [...writtenOneByOne(stage, steps).flat(), ...expectations] }
}

/** What each step is in a walkthrough file, beginning with the first player, and who takes over from whom. */
export function writtenOneByOne({ expanded, tables }: Stage, steps: readonly PlayStep[]): WrittenStep[][] {
  let acting = tables.firstPlayer
  return steps.map((step): WrittenStep[] => {
    const isOther = step.do !== 'wait' && step.do !== 'start' && step.who !== acting
    if (isOther) acting = step.who
    return [...(isOther ? [{ as: expanded.characters[acting]!.name }] : []), ...writtenSteps(step)]
  })
}

/** One step as a walkthrough file has it; it may take two there. */
export function writtenSteps(step: StepDone): WrittenStep[] {
  switch (step.do) {
    case 'walk-to':
      return [{ 'walk-to': step.target, via: step.via }]
    case 'press': {
      const press =
        step.option !== null
          ? { choose: step.option }
          : step.kept
            ? { hold: step.on }
            : {
                press: step.on,
                ...(step.way === null ? {} : { way: step.way }),
                ...(step.chance === null ? {} : { chance: step.chance }),
              }
      return step.looking ? [{ face: step.on }, press] : [press]
    }
    case 'release':
      return ['release']
    case 'dismiss':
      return ['dismiss']
    case 'dial':
      return [{ dial: step.on, wheel: step.wheel, to: step.to }]
    case 'start':
      // The walkthrough says it before its steps.
      return []
    case 'wait':
      return [{ wait: step.ms / 1000 }]
  }
}
