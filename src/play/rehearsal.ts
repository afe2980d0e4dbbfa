import { milliseconds, type Place, type Source } from '../model/index.ts'
import { factText, insteadText, isSo } from './facts.ts'
import type { LogEntry } from './log.ts'
import { Journey } from './journey.ts'
import type { Stage } from './stage.ts'
import { Play } from './play.ts'
import type { Expectation, Fact, Walkthrough, WalkthroughStep } from './walkthrough.ts'
import { entryText } from './words.ts'

/** What came of one step of a walkthrough. */
export interface StepResult {
  /** The step in words. */
  readonly text: string
  readonly isExpectation: boolean
  /** Null where it went well; else what was true instead. */
  readonly failure: string | null
  readonly place: Place
  /** Milliseconds since the play began, after the step. */
  readonly at: number
  /** How many entries the log had before the step. */
  readonly logFrom: number
}

/** What came of a walkthrough. */
export interface WalkthroughResult {
  readonly title: string
  readonly steps: readonly StepResult[]
  readonly passed: boolean
  readonly log: readonly LogEntry[]
  readonly play: Play
}

const longestWalk = 3_600_000

/**
 * Plays a walkthrough in a level, or in a project from where it is: all its steps, in order, also after one has failed. `onStep` is told after each how things
 * stand.
 */
export function runWalkthrough(
  stage: Stage | Journey,
  walkthrough: Walkthrough,
  source: Source,
  onStep: (play: Play, actor: number) => void = () => undefined,
): WalkthroughResult {
  const journey = stage instanceof Journey ? stage : null
  let play = stage instanceof Journey ? stage.play : new Play(stage)
  let since = 0
  let actor = play.stage.tables.firstPlayer
  const steps = walkthrough.steps.map((step, i): StepResult => {
    const logFrom = play.log.length
    const isExpectation = typeof step !== 'string' && step.expect !== undefined
    if (!isExpectation && (typeof step === 'string' || (step.wait ?? step.as) === undefined)) since = play.log.length
    if (typeof step !== 'string' && step.as !== undefined) {
      actor = play.stage.expanded.characters.findIndex(({ name }) => name === step.as)
    }
    const until = play.now + (typeof step === 'string' ? 0 : milliseconds(step.wait ?? 0))
    const failure = perform(play, actor, step, since)
    while (journey?.follow()) {
      const { name } = play.stage.expanded.characters[actor]!
      play = journey.play
      actor = Math.max(
        0,
        play.stage.expanded.characters.findIndex((one) => one.name === name),
      )
      play.advance(Math.max(0, until - play.now))
    }
    onStep(play, actor)
    return {
      text: stepText(step),
      isExpectation,
      failure,
      place: source.place(`steps.${String(i)}`),
      at: play.now,
      logFrom,
    }
  })
  const passed = steps.every((step) => step.failure === null)
  return { title: walkthrough.title, steps, passed, log: play.log, play }
}

/** Makes one step; `since` is the first log entry that an expectation may be about. Gives what went wrong. */
function perform(play: Play, actor: number, step: WalkthroughStep, since: number): string | null {
  if (play.ended !== null) return 'the play has ended: signals without end'
  if (step === 'press') {
    play.press(actor)
    return null
  }
  if (step === 'release') {
    play.release(actor)
    return null
  }
  if (step === 'dismiss') {
    if (play.telling.popupOf(actor) === null) return 'there is no popup to dismiss'
    play.dismiss(actor)
    return null
  }
  const stranger = [step.press, step.hold, step.dial, step.touch, step.put, step.face].find(
    (name) => typeof name === 'string' && isStranger(play, name),
  )
  if (stranger !== undefined) return `there is no ${String(stranger)} in this level`
  const helped = testOnly(play, actor, step)
  if (helped !== undefined) return helped
  if (step.press !== undefined) return pressOn(play, actor, step.press, step)
  if (step.hold !== undefined) {
    const log = play.log.length
    play.hold(actor)
    return answeredBy(play, log, step.hold)
  }
  if (step.choose !== undefined) {
    const log = play.log.length
    play.choose(actor, step.choose)
    const press = play.log.slice(log).find((entry) => entry.what === 'press')
    return press?.outcome === 'unanswered' ? entryText(press) : null
  }
  if (step.dial !== undefined) return dial(play, actor, step.dial, step)
  if (step.face !== undefined) {
    play.face(actor, step.face)
    return null
  }
  if (step.touch !== undefined) return touch(play, actor, step.touch)
  if (step['walk-to'] !== undefined) return walkTo(play, actor, step['walk-to'], step.via)
  if (step.wait !== undefined) play.advance(milliseconds(step.wait))
  if (step.steer !== undefined) play.steer(actor, step.steer === 'stop' ? null : step.steer)
  return step.expect ? expect(play, actor, step.expect, since) : null
}

/** Whether an interactable is not in the level that one is in, but in another of the project. */
function isStranger(play: Play, name: string): boolean {
  return !play.stage.expanded.interactables.some((one) => one.name === name)
}

/** Helps a play on from outside; undefined where the step is none of those for tests only. */
function testOnly(play: Play, actor: number, step: Exclude<WalkthroughStep, string>): string | null | undefined {
  const { items, flags, counters, interactables } = play.stage.expanded
  const { give, remove, set, put, count = 1 } = step
  if (give !== undefined || remove !== undefined) {
    const item = items.findIndex(({ name }) => name === (give ?? remove))
    play.testOnly(actor, { kind: give === undefined ? 'remove' : 'give', item, count })
    return null
  }
  if (set !== undefined) {
    const flag = flags.findIndex(({ name }) => name === set)
    const counter = counters.findIndex(({ name }) => name === set)
    if (typeof step.to === 'number') {
      if (counter < 0) return `there is no counter ${set}`
      play.testOnly(actor, { kind: 'count', counter, to: step.to, by: 0 })
    } else if (flag < 0) return `there is no flag ${set}`
    else play.testOnly(actor, { kind: 'set', flag, to: step.to !== false })
    return null
  }
  if (put === undefined) return undefined
  const index = interactables.findIndex(({ name }) => name === put)
  const state = interactables[index]!.states.findIndex(({ name }) => name === step.into)
  if (state < 0) return `${put} has no state ${step.into ?? ''}`
  play.put(actor, index, state)
  return null
}

function pressOn(
  play: Play,
  actor: number,
  name: string,
  { way, chance }: Exclude<WalkthroughStep, string>,
): string | null {
  const since = play.log.length
  const { pressKinds } = play.stage.expanded
  const pressKind =
    chance === undefined
      ? pressKinds.findIndex((one) => one.press === (way ?? pressKinds[0]!.press) && one.option === null)
      : pressKinds.findIndex((one) => one.chance === chance)
  if (pressKind < 0 && chance !== undefined) return `there is nothing in the level for which chance draws ${chance}`
  if (pressKind < 0) return `nothing in the level answers a press of the kind ${way ?? ''}`
  play.press(actor, pressKind)
  const press = play.log.slice(since).find((entry) => entry.what === 'press')
  if (chance !== undefined && press?.interactable === name && press.chance !== chance) {
    return `${name}: chance cannot draw ${chance} here and now`
  }
  return answeredBy(play, since, name)
}

/** Sets the wheels of a dial, one after another, where they stand otherwise. */
function dial(play: Play, actor: number, name: string, { to, wheel }: Exclude<WalkthroughStep, string>): string | null {
  const index = play.stage.expanded.interactables.findIndex((one) => one.name === name)
  const wheels = play.wheelsOf(index)
  if (typeof to === 'number') {
    return play.dial(actor, index, wheel ?? 1, to) ? null : entryText(play.log[play.log.length - 1]!)
  }
  if (!Array.isArray(to)) return null
  if (wheels.length !== to.length) return `${name} has ${String(wheels.length)} wheels`
  for (const [i, digit] of to.entries()) {
    if (play.wheelsOf(index)[i] === digit || play.dial(actor, index, i + 1, digit)) continue
    return entryText(play.log[play.log.length - 1]!)
  }
  return null
}

/** Walks straight at what stands there until its body is in the way. */
function touch(play: Play, actor: number, name: string): string | null {
  const { figures } = play.stage.space.layout
  const index = play.stage.expanded.interactables.findIndex((one) => one.name === name)
  const placed = play.stage.expanded.interactables[index]
  const figure = figures[index]
  const spot = placed?.at ?? (figure?.handle ? ([figure.handle[0], figure.handle[1]] as const) : null)
  if (!spot) return `${name} stands nowhere`
  if (!play.walkTo(actor, name)) return 'there is no way to it now'
  play.advanceWhileWalking(actor, longestWalk)
  play.walk(actor, [spot])
  play.advanceWhileWalking(actor, longestWalk)
  return null
}

function answeredBy(play: Play, since: number, name: string): string | null {
  const press = play.log.slice(since).find((entry) => entry.what === 'press')
  if (press?.interactable === name) return null
  return press ? entryText(press) : 'nothing happened'
}

function walkTo(
  play: Play,
  actor: number,
  target: string | readonly [number, number],
  via: readonly (readonly [number, number])[] | undefined,
): string | null {
  if (via) play.walk(actor, via)
  else if (!play.walkTo(actor, target)) return 'there is no way to it now'
  play.advanceWhileWalking(actor, longestWalk)
  const last = play.log[play.log.length - 1]
  const stopped = play.log.findLast((entry) => entry.what === 'stopped' || entry.what === 'arrived')
  return last && stopped?.what === 'stopped' ? entryText(stopped) : null
}

function expect(play: Play, actor: number, expectation: Expectation, since: number): string | null {
  if (expectation.not) return expectNot(play, actor, expectation.not, expectation.for, since)
  const until = play.now + (expectation.within === undefined ? 0 : milliseconds(expectation.within))
  return comesTrue(play, actor, expectation, since, until)
    ? null
    : insteadText(expectation, { play, actor, log: play.log.slice(since) })
}

function expectNot(play: Play, actor: number, fact: Fact, seconds: number | undefined, since: number): string | null {
  const until = play.now + (seconds === undefined ? 0 : milliseconds(seconds))
  return comesTrue(play, actor, fact, since, until) ? `it was so at ${(play.now / 1000).toFixed(3)} s` : null
}

/** Lets time pass, moment by moment, until something is so, or until a time. */
function comesTrue(play: Play, actor: number, fact: Fact, since: number, until: number): boolean {
  while (!isSo(fact, { play, actor, log: play.log.slice(since) })) {
    if (play.now >= until || play.ended !== null) return false
    const pause = play.isWalking(actor) ? 1 : (play.nextDue() ?? until - play.now)
    play.advance(Math.min(Math.max(1, pause), until - play.now))
  }
  return true
}

/** A step in words. */
function stepText(step: WalkthroughStep): string {
  if (typeof step === 'string') return step
  if (step.as !== undefined) return `as ${step.as}`
  if (step.give !== undefined || step.remove !== undefined) {
    const what = `${step.count === undefined ? '' : `${String(step.count)} `}${step.give ?? step.remove ?? ''}`
    return `test-only: ${step.give === undefined ? 'remove' : 'give'} ${what}`
  }
  if (step.set !== undefined)
    return `test-only: set ${step.set}${step.to === undefined ? '' : ` to ${String(step.to)}`}`
  if (step.put !== undefined) return `test-only: put ${step.put} into ${step.into ?? ''}`
  if (step.press !== undefined) return `press ${step.press}${step.way === undefined ? '' : ` (${step.way})`}`
  if (step.hold !== undefined) return `press and hold ${step.hold}`
  if (step.choose !== undefined) return `choose "${step.choose}"`
  if (step.dial !== undefined) return `dial ${dialText(step)} on ${step.dial}`
  if (step.face !== undefined) return `face ${typeof step.face === 'string' ? step.face : `(${step.face.join(', ')})`}`
  if (step.touch !== undefined) return `touch ${step.touch}`
  if (step['walk-to'] !== undefined) {
    const to = step['walk-to']
    return `walk to ${typeof to === 'string' ? to : `(${to.join(', ')})`}`
  }
  if (step.wait !== undefined) return `wait ${String(step.wait)} s`
  if (step.steer !== undefined) return step.steer === 'stop' ? 'stop' : `steer (${step.steer.join(', ')})`
  return `expect ${step.expect ? expectationText(step.expect) : ''}`
}

function dialText({ to, wheel }: Exclude<WalkthroughStep, string>): string {
  if (typeof to === 'number') return `wheel ${String(wheel)} to ${String(to)}`
  return Array.isArray(to) ? to.join(' ') : ''
}

function expectationText({ not, within, for: during, ...fact }: Expectation): string {
  const time =
    within !== undefined ? ` within ${String(within)} s` : during !== undefined ? ` for ${String(during)} s` : ''
  return not ? `not ${factText(not)}${time}` : `${factText(fact)}${time}`
}
