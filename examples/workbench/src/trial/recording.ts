import type { LevelPlay, LogEntry } from 'zintel'
import type { Input, Spot } from './trial.ts'

/** A step as a walkthrough file has it. */
export type Written = 'release' | 'dismiss' | Readonly<Record<string, unknown>>

/** What is expected after something that happened, as a walkthrough says it; null where there is no word for it. */
export function expectationOf(entry: LogEntry): Readonly<Record<string, unknown>> | null {
  switch (entry.what) {
    case 'transition':
      return entry.from === entry.to ? null : { interactable: entry.interactable, is: entry.to }
    case 'item':
      return entry.after > 0
        ? { carries: entry.item, ...(entry.after > 1 ? { count: entry.after } : {}) }
        : { not: { carries: entry.item } }
    case 'flag':
      return entry.is ? { flag: entry.flag } : { not: { flag: entry.flag } }
    case 'goal':
      return { goal: entry.goal }
    case 'press':
      return entry.interactable !== null && (entry.outcome === 'accepted' || entry.outcome === 'refused')
        ? { [entry.outcome]: entry.interactable }
        : null
    default:
      return null
  }
}

/** An expectation that was clicked on: when it is asked, and what it says. */
export interface Asked {
  readonly at: number
  readonly expect: Readonly<Record<string, unknown>>
}

/** An input with what it was given in: where the one who acts stood, and since when, and what a press went to. */
export type Noted = Input & { readonly spot: Spot; readonly standsSince: number; readonly pressed: string | null }

/** A press kept down no longer than this is a press that was let go at once, in milliseconds. */
const tap = 300

const fine = (metres: number): number => Math.round(metres * 100) / 100

/**
 * What was done in a play as the steps of a walkthrough. Walks that were steered are walked to where they ended; what was waited for is waited
 * for, in hundredths of a second. `play` is the play in which it was done, `spots` where the one who acts stood at each input.
 */
export function writtenSteps(inputs: readonly Noted[], asked: readonly Asked[], first: string): Written[] {
  const steps: Written[] = []
  let who = first
  /** Until when the steps so far have taken the play; null: until a walk is over. */
  let last = 0
  let steered = false
  const left = [...asked].sort((a, b) => a.at - b.at)
  const waitUntil = (at: number): void => {
    // To the hundredth of a second, and never too early.
    const pause = Math.ceil((at - last) / 10) / 100
    if (pause <= 0) return
    steps.push({ wait: pause })
    last += pause * 1000
  }
  const expectUntil = (at: number): void => {
    while (left[0] && left[0].at <= at) {
      const one = left.shift()!
      waitUntil(one.at)
      steps.push({ expect: one.expect })
    }
  }
  for (const { at, who: actor, act, spot, standsSince, pressed } of tapped(inputs)) {
    if (act.do === 'steer') {
      steered = true
      continue
    }
    if (steered) {
      if (actor !== who) steps.push({ as: (who = actor) })
      steps.push({ 'walk-to': [fine(spot[0]), fine(spot[1])] })
      steered = false
      last = at
    } else last = Math.max(last, standsSince)
    // What happened at this very moment came of what is done now.
    expectUntil(at - 1)
    if (steps.length > 0 && at - last >= 100) waitUntil(at)
    if (actor !== who) steps.push({ as: (who = actor) })
    last = at
    switch (act.do) {
      case 'press':
        if (pressed !== null) steps.push({ press: pressed, ...(act.way === null ? {} : { way: act.way }) })
        break
      case 'hold':
        if (pressed !== null) steps.push({ hold: pressed })
        break
      case 'release':
      case 'dismiss':
        steps.push(act.do)
        break
      case 'choose':
        steps.push({ choose: act.option })
        break
      case 'dial':
        steps.push({ dial: act.on, wheel: act.wheel, to: act.to })
        break
      case 'face':
        steps.push({ face: act.target })
        break
      case 'help':
        steps.push({ ...act.help })
        break
      case 'walk-to':
        steps.push({
          'walk-to': typeof act.target === 'string' ? act.target : [fine(act.target[0]), fine(act.target[1])],
        })
        break
      case 'walk-along':
        steps.push({ 'walk-to': act.corners.at(-1)?.map(fine) })
        break
    }
  }
  expectUntil(Infinity)
  return steps
}

/** Inputs in which a key that was only tapped is a press. */
function tapped(inputs: readonly Noted[]): Noted[] {
  return inputs.flatMap((one, i): Noted[] => {
    const [before, after] = [inputs[i - 1], inputs[i + 1]]
    const isTap = (a: Noted | undefined, b: Noted | undefined): boolean =>
      a?.act.do === 'hold' && b?.act.do === 'release' && a.who === b.who && b.at - a.at <= tap
    if (isTap(one, after)) return [{ ...one, act: { do: 'press', way: null, chance: null } }]
    return isTap(before, one) ? [] : [one]
  })
}

/** The text of a walkthrough file. */
export function walkthroughText(title: string, level: string, steps: readonly Written[]): string {
  const lines = steps.map((step) => `  - ${typeof step === 'string' ? step : flow(step).slice(2, -2)}`)
  return `walkthrough: 1\ntitle: ${JSON.stringify(title)}\nlevel: ${JSON.stringify(level)}\nsteps:\n${lines.join('\n')}\n`
}

function flow(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(flow).join(', ')}]`
  if (typeof value === 'object' && value !== null)
    return `{ ${Object.entries(value)
      .map(([key, one]) => `${key}: ${flow(one)}`)
      .join(', ')} }`
  if (typeof value === 'string')
    return /^[a-z][a-z0-9-]*$/.test(value) && !/^(?:on|off|yes|no|true|false|null)$/.test(value)
      ? value
      : JSON.stringify(value)
  return String(value)
}

/** Whom a play begins with: its first player. */
export function firstPlayer({ level }: LevelPlay): string {
  const { characters } = level.contents
  return (characters.find(({ role }) => role === 'player') ?? characters[0])?.name ?? ''
}
