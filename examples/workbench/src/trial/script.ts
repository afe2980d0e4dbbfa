import type { FileReport, Help } from 'zintel'
import type { Act, Spot, Trial } from './trial.ts'

type ReportStep = FileReport['findings'][number]['steps'][number]

/** A step that is played for one: what is done, and in which words. */
export interface ScriptStep {
  readonly who: string | null
  readonly acts: readonly Act[]
  /** How long to wait after it, in milliseconds. */
  readonly wait: number
  /** When it is over, in milliseconds of the play; null: as soon as its walk and its wait are. */
  readonly until: number | null
  readonly text: string
}

/** The steps of a finding, as they are played. */
export function scriptOf(steps: readonly ReportStep[]): ScriptStep[] {
  // At which start the play begins is seen to when it is begun.
  return steps.map((step): ScriptStep => {
    if (step.do === 'start') return { who: null, acts: [], wait: 0, until: null, text: step.text }
    if (step.do === 'wait') return { who: null, acts: [], wait: step.ms, until: null, text: step.text }
    return { who: step.who, acts: actsOf(step), wait: 0, until: null, text: step.text }
  })
}

function actsOf(step: Exclude<ReportStep, { do: 'wait' | 'start' }>): Act[] {
  switch (step.do) {
    case 'walk-to':
      return [{ do: 'walk-along', corners: step.via }]
    case 'press': {
      const press: Act =
        step.option !== null
          ? { do: 'choose', option: step.option }
          : step.kept
            ? { do: 'hold' }
            : { do: 'press', way: step.way, chance: step.chance }
      return step.looking ? [{ do: 'face', target: step.on }, press] : [press]
    }
    case 'dial':
      return [{ do: 'dial', on: step.on, wheel: step.wheel, to: step.to }]
    case 'release':
    case 'dismiss':
      return [{ do: step.do }]
  }
}

/** A step of a walkthrough file that is read. */
export type WalkthroughStep = 'press' | 'release' | 'dismiss' | Readonly<Record<string, unknown>>

/**
 * The steps of a walkthrough, as they are played; what only looks (`expect`) or helps a tester on does nothing here. `ends`: when each of them
 * was over as it was run, in milliseconds.
 */
export function scriptOfWalkthrough(
  steps: readonly WalkthroughStep[],
  first: string,
  ends: readonly number[],
): ScriptStep[] {
  let who = first
  return steps.map((step, i): ScriptStep => {
    const until = ends[i] ?? null
    if (step === 'press') return { who, acts: [{ do: 'press', way: null, chance: null }], wait: 0, until, text: step }
    if (typeof step === 'string') return { who, acts: [{ do: step }], wait: 0, until, text: step }
    const [[key = '', value] = []] = Object.entries(step)
    const said = typeof value === 'string' || typeof value === 'number' ? String(value) : JSON.stringify(value)
    if (typeof step.as === 'string') who = step.as
    return { who, acts: actOf(step), wait: 0, until, text: `${key} ${said}` }
  })
}

function actOf(step: Readonly<Record<string, unknown>>): Act[] {
  const walk = step['walk-to']
  if (Array.isArray(step.via)) return [{ do: 'walk-along', corners: step.via as Spot[] }]
  if (typeof walk === 'string' || Array.isArray(walk)) return [{ do: 'walk-to', target: walk as string | Spot }]
  if (typeof step.press === 'string')
    return [
      {
        do: 'press',
        way: (step.way as string | undefined) ?? null,
        chance: (step.chance as string | undefined) ?? null,
      },
    ]
  if (typeof step.hold === 'string') return [{ do: 'hold' }]
  if (typeof step.choose === 'string') return [{ do: 'choose', option: step.choose }]
  if (typeof step.face === 'string' || Array.isArray(step.face))
    return [{ do: 'face', target: step.face as string | Spot }]
  if (typeof step.dial === 'string')
    return [{ do: 'dial', on: step.dial, wheel: Number(step.wheel), to: Number(step.to) }]
  const isHelp = ['give', 'remove', 'set', 'put'].some((key) => step[key] !== undefined)
  return isHelp ? [{ do: 'help', help: step as unknown as Help }] : []
}

/** Longer than this nobody walks in one step, in milliseconds: who is held up for ever is left standing. */
const longestWalk = 120_000

/** Steps that are played one after the other, each as soon as the one before is done. */
export class Script {
  readonly steps: readonly ScriptStep[]
  readonly #trial: Trial
  /** How many steps were begun. */
  #begun = 0
  /** When the step that goes on is over, in milliseconds; null: as soon as its walk is. */
  #until: number | null = 0
  #since = 0

  constructor(trial: Trial, steps: readonly ScriptStep[]) {
    this.#trial = trial
    this.steps = steps
  }

  /** The step that goes on, from 1; 0 before the first. */
  get at(): number {
    return this.#begun
  }

  /** Whether every step is over. */
  get isOver(): boolean {
    return this.#begun >= this.steps.length && this.#isStepOver()
  }

  /** Who acts in the step that goes on, or acted last. */
  get who(): string | null {
    return this.steps.slice(0, this.#begun).findLast(({ who }) => who !== null)?.who ?? null
  }

  /** Lets time pass, in whole milliseconds, and begins steps as they come. Ends early where `stepOnly`, once a step is over. */
  advance(ms: number, stepOnly = false): void {
    let left = ms
    for (;;) {
      if (this.#isStepOver()) {
        if (this.#begun >= this.steps.length) break
        this.#begin()
        continue
      }
      if (left <= 0) return
      // A walk ends at some millisecond: none is let pass beyond it.
      const next = this.#until === null ? 1 : Math.min(left, Math.max(1, this.#until - this.#trial.now))
      this.#trial.advance(next)
      left -= next
      if (stepOnly && this.#isStepOver()) return
    }
    if (left > 0) this.#trial.advance(left)
  }

  #begin(): void {
    const { who, acts, wait, until } = this.steps[this.#begun++]!
    this.#since = this.#trial.now
    this.#until = until ?? this.#trial.now + wait
    const isThere = who !== null && this.#trial.play.characters.includes(who)
    if (!isThere) return
    for (const act of acts) this.#trial.act(who, act)
    if (until === null && acts.some((act) => act.do === 'walk-to' || act.do === 'walk-along')) this.#until = null
  }

  #isStepOver(): boolean {
    if (this.#until !== null) return this.#trial.now >= this.#until
    const { who } = this.steps[this.#begun - 1]!
    const { play, now } = this.#trial
    return (
      who === null || !play.characters.includes(who) || !play.character(who).walking || now - this.#since > longestWalk
    )
  }
}
