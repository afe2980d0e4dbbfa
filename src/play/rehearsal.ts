import { milliseconds, type Place, type Source } from '../model/index.ts'
import type { LogEntry, Unmet } from './log.ts'
import { Play } from './play.ts'
import type { Stage } from './stage.ts'
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
 * Plays a walkthrough: all its steps, in order, also after one has failed. `onStep` is told after each how things
 * stand.
 */
export function runWalkthrough(
  stage: Stage,
  walkthrough: Walkthrough,
  source: Source,
  onStep: (play: Play) => void = () => undefined,
): WalkthroughResult {
  const play = new Play(stage)
  let since = 0
  const steps = walkthrough.steps.map((step, i): StepResult => {
    const logFrom = play.log.length
    const isExpectation = typeof step !== 'string' && step.expect !== undefined
    if (!isExpectation && (typeof step === 'string' || step.wait === undefined)) since = play.log.length
    const failure = perform(play, step, since)
    onStep(play)
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
function perform(play: Play, step: WalkthroughStep, since: number): string | null {
  if (play.ended !== null) return 'the play has ended: signals without end'
  if (step === 'press') {
    play.press(0)
    return null
  }
  if (step === 'release') {
    play.release(0)
    return null
  }
  if (step.press !== undefined) return pressOn(play, step.press, step.way)
  if (step.hold !== undefined) {
    const log = play.log.length
    play.hold(0)
    return answeredBy(play, log, step.hold)
  }
  if (step.choose !== undefined) {
    const log = play.log.length
    play.choose(0, step.choose)
    const press = play.log.slice(log).find((entry) => entry.what === 'press')
    return press?.outcome === 'unanswered' ? entryText(press) : null
  }
  if (step.dial !== undefined) return dial(play, step.dial, step)
  if (step.face !== undefined) {
    play.face(0, step.face)
    return null
  }
  if (step.touch !== undefined) return touch(play, step.touch)
  if (step['walk-to'] !== undefined) return walkTo(play, step['walk-to'], step.via)
  if (step.wait !== undefined) play.advance(milliseconds(step.wait))
  if (step.steer !== undefined) play.steer(0, step.steer === 'stop' ? null : step.steer)
  return step.expect ? expect(play, step.expect, since) : null
}

function pressOn(play: Play, name: string, way: string | undefined): string | null {
  const since = play.log.length
  const ask = way === undefined ? 0 : play.stage.expanded.asks.findIndex((one) => one.press === way)
  if (ask < 0) return `nothing in the level answers a press of the kind ${way ?? ''}`
  play.press(0, ask)
  return answeredBy(play, since, name)
}

/** Sets the wheels of a dial, one after another, where they stand otherwise. */
function dial(play: Play, name: string, { to, wheel }: Exclude<WalkthroughStep, string>): string | null {
  const index = play.stage.expanded.interactables.findIndex((one) => one.name === name)
  const wheels = play.wheelsOf(index)
  if (typeof to === 'number') {
    return play.dial(0, index, wheel ?? 1, to) ? null : entryText(play.log[play.log.length - 1]!)
  }
  if (to === undefined) return null
  if (wheels.length !== to.length) return `${name} has ${String(wheels.length)} wheels`
  for (const [i, digit] of to.entries()) {
    if (play.wheelsOf(index)[i] === digit || play.dial(0, index, i + 1, digit)) continue
    return entryText(play.log[play.log.length - 1]!)
  }
  return null
}

/** Walks straight at what stands there until its body is in the way. */
function touch(play: Play, name: string): string | null {
  const { figures } = play.stage.space.layout
  const index = play.stage.expanded.interactables.findIndex((one) => one.name === name)
  const placed = play.stage.expanded.interactables[index]
  const figure = figures[index]
  const spot = placed?.at ?? (figure?.handle ? ([figure.handle[0], figure.handle[1]] as const) : null)
  if (!spot) return `${name} stands nowhere`
  if (!play.walkTo(0, name)) return 'there is no way to it now'
  play.advanceWhileWalking(0, longestWalk)
  play.walk(0, [spot])
  play.advanceWhileWalking(0, longestWalk)
  return null
}

function answeredBy(play: Play, since: number, name: string): string | null {
  const press = play.log.slice(since).find((entry) => entry.what === 'press')
  if (press?.interactable === name) return null
  return press ? entryText(press) : 'nothing happened'
}

function walkTo(
  play: Play,
  target: string | readonly [number, number],
  via: readonly (readonly [number, number])[] | undefined,
): string | null {
  if (via) play.walk(0, via)
  else if (!play.walkTo(0, target)) return 'there is no way to it now'
  play.advanceWhileWalking(0, longestWalk)
  const last = play.log[play.log.length - 1]
  const stopped = play.log.findLast((entry) => entry.what === 'stopped' || entry.what === 'arrived')
  return last && stopped?.what === 'stopped' ? entryText(stopped) : null
}

function expect(play: Play, expectation: Expectation, since: number): string | null {
  if (expectation.not) return expectNot(play, expectation.not, expectation.for, since)
  const until = play.now + (expectation.within === undefined ? 0 : milliseconds(expectation.within))
  return comesTrue(play, expectation, since, until) ? null : insteadText(play, expectation, since)
}

function expectNot(play: Play, fact: Fact, seconds: number | undefined, since: number): string | null {
  const until = play.now + (seconds === undefined ? 0 : milliseconds(seconds))
  return comesTrue(play, fact, since, until) ? `it was so at ${(play.now / 1000).toFixed(3)} s` : null
}

/** Lets time pass, moment by moment, until something is so, or until a time. */
function comesTrue(play: Play, fact: Fact, since: number, until: number): boolean {
  while (!isSo(play, fact, since)) {
    if (play.now >= until || play.ended !== null) return false
    const pause = play.isWalking(0) ? 1 : (play.nextDue() ?? until - play.now)
    play.advance(Math.min(Math.max(1, pause), until - play.now))
  }
  return true
}

/** Whether something is so now, or has happened since a log entry. */
function isSo(play: Play, fact: Fact, since: number): boolean {
  const { expanded } = play.stage
  const log = play.log.slice(since)
  if (fact.interactable !== undefined) {
    const placed = expanded.interactables.find(({ name }) => name === fact.interactable)
    return placed !== undefined && play.stateOf(placed.index) === fact.is
  }
  if (fact.carries !== undefined) return carried(play, fact.carries) >= (fact.count ?? 1)
  if (fact.flag !== undefined) {
    return play.isSet(expanded.flags.findIndex(({ name }) => name === fact.flag)) === (fact.is !== false)
  }
  if (fact.pose !== undefined) return standsSo(play, fact.pose, fact)
  if (fact.counter !== undefined) return countOf(play, fact.counter) === fact.is
  if (fact.dial !== undefined) return shown(play, fact.dial).join() === (fact.shows ?? []).join()
  if (fact.option !== undefined) return play.view(0).options.includes(fact.option)
  if (fact['keeps-pressed'] !== undefined) return play.view(0).keepsPressed === fact['keeps-pressed']
  if (fact.goal !== undefined) return play.goalsMet().includes(fact.goal)
  if (fact.prompt !== undefined) return play.view(0).prompts.includes(fact.prompt)
  return log.some((entry) => happened(entry, fact))
}

function happened(entry: LogEntry, fact: Fact): boolean {
  if (entry.what === 'feedback') {
    return entry.channel === 'sound' ? entry.text === fact.sound : entry.text === fact.message
  }
  if (entry.what !== 'press') return false
  const wanted = fact[entry.outcome]
  if (entry.outcome === 'unanswered') return wanted === true
  if (wanted !== entry.interactable) return false
  return fact.because === undefined || entry.unmet.some((unmet) => isReason(unmet, fact.because ?? {}))
}

function isReason(unmet: Unmet, because: NonNullable<Fact['because']>): boolean {
  if ('carries' in unmet) return unmet.carries === because.carries
  if ('room-for' in unmet) return unmet['room-for'] === because['room-for']
  if ('interactable' in unmet) return unmet.interactable === because.interactable
  if ('flag' in unmet) return unmet.flag === because.flag
  return false
}

function carried(play: Play, item: string): number {
  const index = play.stage.expanded.items.findIndex(({ name }) => name === item)
  return index < 0 ? 0 : play.carried(0, index)
}

/** Whether a body stands as a fact says, to a thousandth. */
function standsSo(play: Play, name: string, fact: Fact): boolean {
  const index = play.stage.expanded.interactables.findIndex((one) => one.name === name)
  const pose = play.poseOf(index)
  const { turn, shift, there } = play.transformOf(index)
  const near = (a: number, b: number): boolean => Math.abs(a - b) < 1e-3
  return (
    pose >= (fact['at-least'] ?? 0) - 1e-9 &&
    pose <= (fact['at-most'] ?? 1) + 1e-9 &&
    (fact['turned-by'] === undefined || near(turn, fact['turned-by'])) &&
    (fact['moved-by'] === undefined || fact['moved-by'].every((part, i) => near(part, shift[i]!))) &&
    (fact.gone === undefined || fact.gone === there < 1e-3)
  )
}

/** How a body stands, in words. */
function poseText(play: Play, name: string): string {
  const index = play.stage.expanded.interactables.findIndex((one) => one.name === name)
  const { turn, shift, there } = play.transformOf(index)
  const pose = play.poseOf(index).toFixed(3)
  const how = [
    ...(turn === 0 ? [] : [`turned by ${turn.toFixed(1)} degrees`]),
    ...(shift.every((part) => part === 0) ? [] : [`moved by ${shift.map((part) => part.toFixed(2)).join(', ')} m`]),
    ...(there === 1 ? [] : [`${there.toFixed(2)} of it there`]),
  ]
  return `${name} has the pose ${pose}${how.length > 0 ? `: ${how.join(', ')}` : ''}`
}

function countOf(play: Play, counter: string): number {
  const index = play.stage.expanded.counters.findIndex(({ name }) => name === counter)
  return index < 0 ? 0 : play.countOf(index)
}

function shown(play: Play, interactable: string): number[] {
  const index = play.stage.expanded.interactables.findIndex(({ name }) => name === interactable)
  return index < 0 ? [] : play.wheelsOf(index)
}

/** What was true instead of what was expected. */
function insteadText(play: Play, fact: Fact, since: number): string {
  const { expanded } = play.stage
  if (fact.interactable !== undefined) {
    const placed = expanded.interactables.find(({ name }) => name === fact.interactable)
    return placed ? `${placed.name} is ${play.stateOf(placed.index)}` : 'there is no such interactable'
  }
  if (fact.carries !== undefined) return `carries ${String(carried(play, fact.carries))} ${fact.carries}`
  if (fact.flag !== undefined) return `flag ${fact.flag} is ${fact.is === false ? 'set' : 'not set'}`
  if (fact.pose !== undefined) return poseText(play, fact.pose)
  if (fact.counter !== undefined) return `counter ${fact.counter} is ${String(countOf(play, fact.counter))}`
  if (fact.dial !== undefined) return `the wheels of ${fact.dial} stand at ${shown(play, fact.dial).join(' ')}`
  if (fact.option !== undefined) return `options: ${quotedList(play.view(0).options)}`
  if (fact['keeps-pressed'] !== undefined) return `keeps pressed: ${play.view(0).keepsPressed ?? 'nothing'}`
  if (fact.goal !== undefined) return `goals met so far: ${play.goalsMet().join(', ') || 'none'}`
  if (fact.prompt !== undefined) return `prompts: ${quotedList(play.view(0).prompts)}`
  const log = play.log.slice(since)
  const presses = log.filter((entry) => entry.what === 'press')
  if (fact.sound !== undefined || fact.message !== undefined) {
    const told = log.filter((entry) => entry.what === 'feedback').map(entryText)
    return told.length > 0 ? told.join('; ') : 'nothing was perceived'
  }
  return presses.length > 0 ? presses.map(entryText).join('; ') : `nothing was pressed${reasonText(fact)}`
}

function quotedList(texts: readonly string[]): string {
  return texts.map((text) => `"${text}"`).join(', ') || 'none'
}

function reasonText(fact: Fact): string {
  return fact.because === undefined ? '' : ', so there was no reason either'
}

/** A step in words. */
function stepText(step: WalkthroughStep): string {
  if (typeof step === 'string') return step
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
  return (to ?? []).join(' ')
}

function expectationText({ not, within, for: during, ...fact }: Expectation): string {
  const time =
    within !== undefined ? ` within ${String(within)} s` : during !== undefined ? ` for ${String(during)} s` : ''
  return not ? `not ${factText(not)}${time}` : `${factText(fact)}${time}`
}

function factText(fact: Fact): string {
  if (fact.interactable !== undefined) return `${fact.interactable} is ${String(fact.is)}`
  if (fact.carries !== undefined)
    return `carries ${fact.count === undefined ? '' : `${String(fact.count)} `}${fact.carries}`
  if (fact.flag !== undefined) return `flag ${fact.flag} is ${fact.is === false ? 'not set' : 'set'}`
  if (fact.pose !== undefined) return `${fact.pose} stands so`
  if (fact.counter !== undefined) return `counter ${fact.counter} is ${String(fact.is)}`
  if (fact.dial !== undefined) return `${fact.dial} shows ${(fact.shows ?? []).join(' ')}`
  if (fact.option !== undefined) return `option "${fact.option}"`
  if (fact['keeps-pressed'] !== undefined) return `keeps ${fact['keeps-pressed']} pressed`
  if (fact.goal !== undefined) return `goal ${fact.goal} is met`
  if (fact.sound !== undefined) return `sound "${fact.sound}"`
  if (fact.message !== undefined) return `message "${fact.message}"`
  if (fact.prompt !== undefined) return `prompt "${fact.prompt}"`
  if (fact.unanswered) return 'unanswered'
  for (const outcome of ['accepted', 'refused', 'ignored'] as const) {
    const because = fact.because ? ` because of ${Object.values(fact.because).join(', ')}` : ''
    if (fact[outcome] !== undefined) return `${fact[outcome]} ${outcome}${because}`
  }
  return ''
}
