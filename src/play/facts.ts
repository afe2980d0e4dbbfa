import { direction, distance, inPolygon } from '../space/index.ts'
import type { LogEntry, Unmet } from './log.ts'
import type { Play } from './play.ts'
import type { Fact, FactKind } from './walkthrough.ts'
import { factKinds } from './walkthrough.ts'
import { entryText } from './words.ts'

/** A play in which something is expected: of whom, and what has happened since the last thing that was done. */
export interface Expected {
  readonly play: Play
  /** The character that acts, by index. */
  readonly actor: number
  readonly log: readonly LogEntry[]
}

/** What there is to a kind of fact: whether it is so, what is so instead, and the fact in words. */
interface Kind {
  isSo(fact: Fact, at: Expected): boolean
  instead(fact: Fact, at: Expected): string
  text(fact: Fact): string
}

/** Whether something is so now, or has happened. */
export function isSo(fact: Fact, at: Expected): boolean {
  return strangerIn(fact, at) === undefined && kinds[kindOf(fact)].isSo(fact, at)
}

/** What was true instead of what was expected. */
export function insteadText(fact: Fact, at: Expected): string {
  const stranger = strangerIn(fact, at)
  return stranger === undefined ? kinds[kindOf(fact)].instead(fact, at) : `there is no ${stranger} in this level`
}

/** A fact in words. */
export function factText(fact: Fact): string {
  return kinds[kindOf(fact)].text(fact)
}

/** An interactable that a fact is about, and that is not in the level that one is in; undefined: none. */
function strangerIn({ interactable, looks, of, pose }: Fact, { play }: Expected): string | undefined {
  return [interactable, looks, of, pose].find((name) => name !== undefined && indexOf(play, name) < 0)
}

function kindOf(fact: Fact): FactKind {
  return factKinds.find((kind) => fact[kind] !== undefined) ?? 'unanswered'
}

const kinds: Readonly<Record<FactKind, Kind>> = {
  interactable: {
    isSo: ({ interactable, is }, { play }) => play.stateOf(indexOf(play, interactable)) === is,
    instead: ({ interactable = '' }, { play }) => `${interactable} is ${play.stateOf(indexOf(play, interactable))}`,
    text: ({ interactable, is }) => `${interactable ?? ''} is ${String(is)}`,
  },
  looks: {
    isSo: ({ looks, like }, { play }) => play.lookOf(indexOf(play, looks)) === like,
    instead: ({ looks = '' }, { play }) => `${looks} looks ${play.lookOf(indexOf(play, looks)) ?? 'like nothing'}`,
    text: ({ looks, like }) => `${looks ?? ''} looks ${like ?? ''}`,
  },
  carries: {
    isSo: ({ carries, count = 1 }, at) => carried(at, carries) >= count,
    instead: ({ carries = '' }, at) => `carries ${String(carried(at, carries))} ${carries}`,
    text: ({ carries, count }) => `carries ${count === undefined ? '' : `${String(count)} `}${carries ?? ''}`,
  },
  contains: {
    isSo: ({ contains, of, count = 1 }, { play }) => contentOf(play, of, contains) === count,
    instead: ({ contains = '', of = '' }, { play }) =>
      `${of} contains ${String(contentOf(play, of, contains))} ${contains}`,
    text: ({ contains, of, count = 1 }) => `${of ?? ''} contains ${String(count)} ${contains ?? ''}`,
  },
  flag: {
    isSo: ({ flag, is }, { play }) =>
      play.isSet(play.stage.expanded.flags.findIndex(({ name }) => name === flag)) === (is !== false),
    instead: ({ flag, is }) => `flag ${flag ?? ''} is ${is === false ? 'set' : 'not set'}`,
    text: ({ flag, is }) => `flag ${flag ?? ''} is ${is === false ? 'not set' : 'set'}`,
  },
  counter: {
    isSo: ({ counter, is }, { play }) => countOf(play, counter) === is,
    instead: ({ counter = '' }, { play }) => `counter ${counter} is ${String(countOf(play, counter))}`,
    text: ({ counter, is }) => `counter ${counter ?? ''} is ${String(is)}`,
  },
  pose: {
    isSo: (fact, { play }) => standsSo(play, fact),
    instead: ({ pose = '' }, { play }) => poseText(play, pose),
    text: ({ pose }) => `${pose ?? ''} stands so`,
  },
  dial: {
    isSo: ({ dial = [], of }, { play }) => play.wheelsOf(indexOf(play, of)).join() === dial.join(),
    instead: ({ of = '' }, { play }) => `the wheels of ${of} stand at ${play.wheelsOf(indexOf(play, of)).join(' ')}`,
    text: ({ dial = [], of }) => `the wheels of ${of ?? ''} stand at ${dial.join(' ')}`,
  },
  inside: {
    isSo: (fact, at) => isIn(at, placeIn(fact)),
    instead: (_, { play, actor }) =>
      `stands at ${play
        .spotOf(actor)
        .map((part) => part.toFixed(2))
        .join(', ')}`,
    text: (fact) => `is in ${placeIn(fact)}`,
  },
  spot: {
    isSo: ({ spot = [0, 0] }, { play, actor }) => distance(play.spotOf(actor), spot) <= 0.01,
    instead: (_, { play, actor }) =>
      `stands at ${play
        .spotOf(actor)
        .map((part) => part.toFixed(2))
        .join(', ')}`,
    text: ({ spot = [] }) => `stands at ${spot.join(', ')}`,
  },
  facing: {
    isSo: ({ facing = 0 }, at) => turnedFrom(at, facing) <= 1,
    instead: (_, { play, actor }) =>
      `looks towards ${play
        .facingOf(actor)
        .map((part) => part.toFixed(2))
        .join(', ')}`,
    text: ({ facing }) => `looks to ${String(facing)} degrees`,
  },
  option: {
    isSo: ({ option = '' }, at) => view(at).options.includes(option),
    instead: (_, at) => `options: ${quotedList(view(at).options)}`,
    text: ({ option }) => `option "${option ?? ''}"`,
  },
  prompt: {
    isSo: ({ prompt }, at) => view(at).prompts.some(({ text }) => text === prompt),
    instead: (_, at) => `prompts: ${quotedList(view(at).prompts.map(({ text }) => text))}`,
    text: ({ prompt }) => `prompt "${prompt ?? ''}"`,
  },
  popup: {
    isSo: ({ popup }, at) => view(at).popup === popup,
    instead: (_, at) => `popup: ${view(at).popup ?? 'none'}`,
    text: ({ popup }) => `popup "${popup ?? ''}"`,
  },
  'pointer-free': {
    isSo: (fact, at) => view(at).pointerFree === fact['pointer-free'],
    instead: (_, at) => `the pointer is ${view(at).pointerFree ? '' : 'not '}free`,
    text: (fact) => `the pointer is ${fact['pointer-free'] ? '' : 'not '}free`,
  },
  'keeps-pressed': {
    isSo: (fact, at) => view(at).keepsPressed === fact['keeps-pressed'],
    instead: (_, at) => `keeps pressed: ${view(at).keepsPressed ?? 'nothing'}`,
    text: (fact) => `keeps ${fact['keeps-pressed'] ?? ''} pressed`,
  },
  icon: {
    isSo: ({ icon, count }, at) =>
      view(at).icons.some((one) => one.icon === icon && (count === undefined || one.count === count)),
    instead: (_, at) =>
      `icons: ${quotedList(view(at).icons.map(({ icon, count }) => icon + (count === null ? '' : ` ${String(count)}`)))}`,
    text: ({ icon, count }) => `icon ${icon ?? ''}${count === undefined ? '' : ` ${String(count)}`}`,
  },
  highlight: {
    isSo: ({ highlight }, at) =>
      view(at).showing.some(({ channel, interactable }) => channel === 'highlight' && interactable === highlight),
    instead: (_, at) => shownText(at, 'highlight'),
    text: ({ highlight }) => `${highlight ?? ''} stands out`,
  },
  light: {
    isSo: ({ light }, at) => view(at).showing.some(({ channel, text }) => channel === 'light' && text === light),
    instead: (_, at) => shownText(at, 'light'),
    text: ({ light }) => `light ${light ?? ''}`,
  },
  sound: told('sound'),
  message: told('message'),
  shake: told('shake'),
  burst: told('burst'),
  rumble: told('rumble'),
  accepted: pressed('accepted'),
  refused: pressed('refused'),
  ignored: pressed('ignored'),
  unanswered: {
    isSo: (_, { log }) => log.some((entry) => entry.what === 'press' && entry.outcome === 'unanswered'),
    instead: (_, { log }) => pressesText(log, ''),
    text: () => 'unanswered',
  },
  'held-back': {
    isSo: (_, { log }) => log.some(({ what }) => what === 'held-back'),
    instead: () => 'no popup kept anybody from anything',
    text: () => 'kept from it by a popup',
  },
  signal: {
    isSo: ({ signal }, { log }) => log.some((entry) => entry.what === 'signal' && entry.signal === signal),
    instead: (_, { log }) =>
      `signals: ${quotedList(log.flatMap((entry) => (entry.what === 'signal' ? [entry.signal] : [])))}`,
    text: ({ signal }) => `signal ${signal ?? ''} is sent`,
  },
  goal: {
    isSo: ({ goal = '' }, { play }) => play.goalsMet().includes(goal),
    instead: (_, { play }) => `goals met so far: ${play.goalsMet().join(', ') || 'none'}`,
    text: ({ goal }) => `goal ${goal ?? ''} is met`,
  },
}

/** Something that was perceived, by the character that acts. */
function told(kind: 'sound' | 'message' | 'shake' | 'burst' | 'rumble'): Kind {
  return {
    isSo: (fact, { log, play, actor }) => {
      const { name } = play.stage.expanded.characters[actor]!
      return log.some(
        (entry) =>
          entry.what === 'feedback' &&
          entry.channel === kind &&
          entry.text === String(fact[kind]) &&
          entry.to.includes(name) &&
          (fact.pitch === undefined || fact.pitch === entry.pitch),
      )
    },
    instead: (_, { log }) => {
      const all = log.filter((entry) => entry.what === 'feedback').map(entryText)
      return all.length > 0 ? all.join('; ') : 'nothing was perceived'
    },
    text: (fact) => `${kind} "${String(fact[kind])}"`,
  }
}

function pressed(outcome: 'accepted' | 'refused' | 'ignored'): Kind {
  return {
    isSo: (fact, { log }) =>
      log.some(
        (entry) =>
          entry.what === 'press' &&
          entry.outcome === outcome &&
          entry.interactable === fact[outcome] &&
          (fact.because === undefined || entry.unmet.some((unmet) => isReason(unmet, fact.because ?? {}))),
      ),
    instead: ({ because }, { log }) => pressesText(log, because === undefined ? '' : ', so there was no reason either'),
    text: (fact) => {
      const because = fact.because ? ` because of ${Object.values(fact.because).join(', ')}` : ''
      return `${fact[outcome] ?? ''} ${outcome}${because}`
    },
  }
}

function pressesText(log: readonly LogEntry[], reason: string): string {
  const presses = log.filter((entry) => entry.what === 'press')
  return presses.length > 0 ? presses.map(entryText).join('; ') : `nothing was pressed${reason}`
}

function isReason(unmet: Unmet, because: NonNullable<Fact['because']>): boolean {
  if ('carries' in unmet) return unmet.carries === because.carries
  if ('room-for' in unmet) return unmet['room-for'] === because['room-for']
  if ('interactable' in unmet) return unmet.interactable === because.interactable
  if ('flag' in unmet) return unmet.flag === because.flag
  return false
}

function view({ play, actor }: Expected): ReturnType<Play['view']> {
  return play.view(actor)
}

function shownText(at: Expected, channel: string): string {
  const all = view(at).showing.filter((one) => one.channel === channel)
  return `${channel}: ${all.map(({ text, interactable }) => `${text} of ${interactable}`).join(', ') || 'none'}`
}

function indexOf(play: Play, interactable: string | undefined): number {
  return play.stage.expanded.interactables.findIndex(({ name }) => name === interactable)
}

/** How many of an item are carried; none of one that the level does not know. */
function carried({ play, actor }: Expected, item: string | undefined): number {
  const index = play.stage.expanded.items.findIndex(({ name }) => name === item)
  return index < 0 ? 0 : play.carried(actor, index)
}

function contentOf(play: Play, interactable: string | undefined, item: string | undefined): number {
  return play.leftIn(
    indexOf(play, interactable),
    play.stage.expanded.items.findIndex(({ name }) => name === item),
  )
}

function countOf(play: Play, counter: string | undefined): number {
  return play.countOf(play.stage.expanded.counters.findIndex(({ name }) => name === counter))
}

/** About how many degrees the character that acts looks aside from a direction. */
function turnedFrom({ play, actor }: Expected, degrees: number): number {
  const [x, y] = play.facingOf(actor)
  const [dx, dy] = direction(degrees)
  const length = distance([0, 0], [x, y])
  return length === 0 ? 180 : distance([x / length, y / length], [dx, dy]) * 57.3
}

/** Whether a character is in a room, a doorway, or a zone (`mill-door/near`). */
function isIn({ play, actor }: Expected, place: string): boolean {
  const { expanded, space } = play.stage
  const [owner, zone] = place.split('/')
  if (zone !== undefined) {
    const index = expanded.zones.findIndex(
      (one) => one.name === zone && expanded.interactables[one.interactable]?.name === owner,
    )
    return play.zonesOf(actor).includes(index)
  }
  const all = [...space.layout.rooms, ...space.layout.doorways]
  const ground = all.find(({ name }) => name === place)
  return ground !== undefined && inPolygon(play.spotOf(actor), ground.outline)
}

/** Whether a body stands as a fact says, to a thousandth. */
function standsSo(play: Play, fact: Fact): boolean {
  const index = indexOf(play, fact.pose)
  const pose = play.poseOf(index)
  const { turn, shift, there } = play.transformOf(index)
  const near = (a: number, b: number): boolean => Math.abs(a - b) < 1e-3
  return (
    pose >= (fact['at-least'] ?? 0) - 1e-9 &&
    pose <= (fact['at-most'] ?? 1) + 1e-9 &&
    (fact['turned-by'] === undefined || near(turn, fact['turned-by'])) &&
    (fact['moved-by'] === undefined || fact['moved-by'].every((part, i) => near(part, shift[i]!))) &&
    (fact.centre === undefined || isCentre(play.bodyOf(index), fact.centre)) &&
    (fact.gone === undefined || fact.gone === there < 1e-3)
  )
}

/** The middle of a body. */
function centreOf(body: readonly (readonly [number, number])[] | null): [number, number] | null {
  if (!body) return null
  const sum = body.reduce(([a, b], [x, y]) => [a + x, b + y], [0, 0])
  return [sum[0] / body.length, sum[1] / body.length]
}

function isCentre(body: readonly (readonly [number, number])[] | null, [x, y]: readonly [number, number]): boolean {
  const centre = centreOf(body)
  return centre !== null && Math.abs(centre[0] - x) < 1e-3 && Math.abs(centre[1] - y) < 1e-3
}

/** How a body stands, in words. */
function poseText(play: Play, name: string): string {
  const index = indexOf(play, name)
  const { turn, shift, there } = play.transformOf(index)
  const pose = play.poseOf(index).toFixed(3)
  const centre = centreOf(play.bodyOf(index))
  const how = [
    ...(turn === 0 ? [] : [`turned by ${turn.toFixed(1)} degrees`]),
    ...(shift.every((part) => part === 0) ? [] : [`moved by ${shift.map((part) => part.toFixed(2)).join(', ')} m`]),
    ...(centre ? [`its middle at ${centre.map((part) => part.toFixed(2)).join(', ')}`] : []),
    ...(there === 1 ? [] : [`${there.toFixed(2)} of it there`]),
  ]
  return `${name} has the pose ${pose}${how.length > 0 ? `: ${how.join(', ')}` : ''}`
}

function quotedList(texts: readonly string[]): string {
  return texts.map((text) => `"${text}"`).join(', ') || 'none'
}

/** A room, a doorway, or a zone such as `mill-door/near`. */
function placeIn({ inside = '', of }: Fact): string {
  return of === undefined ? inside : `${of}/${inside}`
}
