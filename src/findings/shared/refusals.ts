import { fillIn } from './edits.ts'
import { type Observation, perform, type PlayStep } from '../../explore/index.ts'
import type { Check, Expanded } from '../../interactables/index.ts'
import { itemsNamed } from './items-named.ts'
import { saysLacking } from './lacking.ts'
import { type CompiledTransition, unmetParts } from '../../machine/index.ts'
import { type Channel, channelOf, type Feedback, type Moment, type Reason } from '../../model/index.ts'
import { type Play, reasonsFor, refusalFeedback, type Stage } from '../../play/index.ts'
import { distance, metresTo, middleOf, type Point, type Space, wayToSpot } from '../../space/index.ts'
import { rowTitle } from './rows.ts'
import { type Context, keysOf } from '../rule.ts'

const start = 'refused '

/** A kind of refusal: of a transition, for some reasons. */
export interface Refusal {
  readonly key: string
  readonly row: CompiledTransition
  /** The moment whose feedback tells of it. */
  readonly moment: Moment
  readonly reasons: readonly Reason[]
  /** The items that are missing, by index. */
  readonly missing: readonly number[]
  /** The items that there is no room for, by index. */
  readonly crowded: readonly number[]
  /** What tells of it. */
  readonly entries: readonly Feedback[]
  /** What each press that meets with it is told by; where nothing is, why it may go untold. */
  readonly told: 'always' | Hush
  /** Which message of that moment is still to be written, counted from 0; null: none. */
  readonly blank: number | null
}

/** Why a refusal goes untold: nothing ever tells of it; only the first time; not again for a while; only from near by. */
export type Hush = 'never' | 'once' | 'pause' | 'within'

/** Whether a message is still to be written. */
export function isBlank(entry: Feedback): boolean {
  return (entry.message ?? '').startsWith(fillIn)
}

/** Looks out for every kind of refusal that a press can meet with; those of which something must be said count as faults. */
export function refusalObservation(stage: Stage): Observation {
  const kinds = new Map<string, Refusal>()
  const kindOf = refusalKinds(stage, kinds)
  return {
    onPress: ({ regs, actor, rows }, see) => {
      const row = rows[0]
      if (!row || !mayRefuse(row) || rows.some(({ guard }) => guard(regs, actor))) return
      const { key, told } = kindOf(row, unmetParts(row.transition.guard, stage.tables, regs, actor))
      see(key)
      if (told !== 'always' && told !== 'never') see(hushed + key)
    },
    isFault: (key) => key.startsWith(hushed) || isTelling(stage, kinds.get(key)!),
    isShown: (key, play) =>
      lastRefusal(stage, play, kindOf) === (key.startsWith(hushed) ? key.slice(hushed.length) : key),
    goOn: (key, play) => (key.startsWith(hushed) ? hushedSteps(play) : []),
  }
}

/** Gives of a play the key of the refusal that it has just met with; null where the last thing in it was none. */
export function refusalReader(stage: Stage): (play: Play) => string | null {
  const kindOf = refusalKinds(stage, new Map())
  return (play) => lastRefusal(stage, play, kindOf)
}

/** Keys of refusals that may go untold at times begin so, and go on with the key of the refusal. */
export const hushed = 'hushed '

/** The most spots from which a press is tried. */
const mostSpots = 40

/**
 * Steps after which the refusal that a play has just met with comes again, and nothing is perceived of it by the character that
 * presses: a press once more, or one from farther off. Null where none was found.
 */
function hushedSteps(play: Play): readonly PlayStep[] | null {
  const last = play.log.findLast(({ what }) => what === 'press')
  if (last?.what !== 'press' || last.interactable === null) return null
  const { expanded, space } = play.stage
  const who = expanded.characters.findIndex(({ name }) => name === last.character)
  const machine = expanded.interactables.findIndex(({ name }) => name === last.interactable)
  const isOption = expanded.pressKinds.some(({ option }) => option !== null && option === last.way)
  const way = isOption ? null : last.way
  const option = isOption ? last.way : null
  const press: PlayStep = {
    who,
    do: 'press',
    on: last.interactable,
    way,
    option,
    chance: last.chance,
    looking: false,
    kept: false,
  }
  if (!isTold(play, play.log.lastIndexOf(last), who)) return []
  if (isUntold(play, press)) return [press]
  const { handle } = space.layout.figures[machine]!
  if (!handle) return null
  const from = play.spotOf(who)
  for (const { spot } of farthestFirst(space, who, machine).slice(0, mostSpots)) {
    const way = wayToSpot(space, who, play.spotOf(who), spot, play.blocking())
    if (!way) continue
    const walk: PlayStep = { who, do: 'walk-to', target: last.interactable, via: way.via.map(rounded) }
    perform(play, walk)
    if (isUntold(play, press)) return distance(from, play.spotOf(who)) < 1e-3 ? [press] : [walk, press]
  }
  return null
}

/** Whether a press is refused, and the character that presses perceives nothing of it. */
function isUntold(play: Play, press: PlayStep): boolean {
  const since = play.log.length
  perform(play, press)
  const now = play.log.slice(since)
  const wanted = press.do === 'press' ? press.on : null
  const isRefused = now.some((one) => one.what === 'press' && one.outcome === 'refused' && one.interactable === wanted)
  return isRefused && !isTold(play, since, press.who)
}

/** Whether a character has perceived anything since some entry of the log. */
function isTold({ log, stage }: Play, since: number, who: number): boolean {
  const { name } = stage.expanded.characters[who]!
  return log.slice(since).some((one) => one.what === 'feedback' && one.to.includes(name))
}

/** The refusals that were seen to be possible, by interactable, in the order of their rows. */
export function refusalsOf(context: Pick<Context, 'stage' | 'evidence'>, machine: number): Refusal[] {
  const { name } = context.stage.expanded.interactables[machine]!
  return keysOf(context, `${start}${name}/`)
    .map((key) => read(context.stage, key))
    .sort((a, b) => a.row.index - b.row.index || (a.key < b.key ? -1 : 1))
}

/** Where it says what is told of a refusal: in its transition, in the instance, or nowhere but in the type. */
export function tellingPath({ expanded }: Stage, { row, moment }: Pick<Refusal, 'row' | 'moment'>): string {
  if (row.transition.refused !== null) return row.transition.path
  const { name, path } = expanded.interactables[row.machine]!
  return expanded.level.interactables?.[name]?.feedback?.[moment] ? `${path}.feedback.${moment}` : path
}

/** The channels that tell of a refusal. */
export function toldBy({ entries }: Pick<Refusal, 'entries'>): Channel[] {
  return [...new Set(entries.map(channelOf))]
}

/** The channels of which an eye, an ear or a hand perceives something. */
const byEar: readonly Channel[] = ['sound']
const byHand: readonly Channel[] = ['rumble']

/** Whether only an ear, or only a hand, perceives it. */
export function isForOneSense(channels: readonly Channel[]): boolean {
  if (channels.length === 0) return false
  return channels.every((one) => byEar.includes(one)) || channels.every((one) => byHand.includes(one))
}

/** Whether something is wrong with how a refusal is told. */
function isTelling(stage: Stage, refusal: Refusal): boolean {
  return refusal.told === 'never' || isForOneSense(toldBy(refusal)) || wrongItem(stage, refusal) !== null
}

/** A message that names an item which is not the one that it is about. */
export interface WrongItem {
  readonly message: string
  /** The item that it names, by index. */
  readonly names: number
  /** `other`: another one is missing, or there is no room for another; `carried`: none is, and it is carried; `not-asked`: none is, and it is not asked for. */
  readonly is: 'other' | 'carried' | 'not-asked'
}

/**
 * A message that names another item than the one that is missing, or that there is no room for; or one that is asked for and carried,
 * where no item is missing. Null where there is none.
 */
export function wrongItem(
  stage: Stage,
  { entries, missing, crowded, row, reasons }: Pick<Refusal, 'entries' | 'missing' | 'crowded' | 'row' | 'reasons'>,
): WrongItem | null {
  const { expanded } = stage
  const about = [...missing, ...crowded]
  const carried = about.length === 0 ? carriedFor(row.transition.guard) : []
  // What must not be carried is spoken of where it is; and what refuses always may speak of anything.
  if (about.length === 0 && (reasons.includes('not') || row.transition.isRefusal)) return null
  const asked = about.length === 0 ? itemsBehind(expanded, row.transition.guard, new Set([row.machine])) : []
  for (const entry of entries) {
    const message = entry.message ?? entry.popup
    if (message === undefined) continue
    const named = itemsNamed(expanded, message)
    const isFilledIn = message.includes('{item}')
    if (about.length === 0) {
      const names = named.find((item) => carried.includes(item)) ?? (isFilledIn ? carried[0] : undefined)
      if (!saysLacking(message)) continue
      if (names !== undefined) return { message, names, is: 'carried' }
      if (named.length > 0 && !named.some((item) => asked.includes(item))) {
        return { message, names: named[0]!, is: 'not-asked' }
      }
    } else if (!isFilledIn && named.length > 0 && !about.some((item) => named.includes(item))) {
      return { message, names: named[0]!, is: 'other' }
    }
  }
  return null
}

/** The items that a condition asks for, or that what it asks about does: the key of a keyhole that a door waits for. */
function itemsBehind(expanded: Expanded, check: Check, seen: Set<number>): number[] {
  switch (check.kind) {
    case 'all':
    case 'any':
      return check.checks.flatMap((part) => itemsBehind(expanded, part, seen))
    case 'not':
      return itemsBehind(expanded, check.check, seen)
    case 'carries':
    case 'room':
      return [check.item]
    case 'inside':
      return check.item < 0 ? [] : [check.item]
    case 'contains':
      return [expanded.contents[check.content]!.item]
    case 'state': {
      if (seen.has(check.interactable)) return []
      seen.add(check.interactable)
      const { transitions } = expanded.interactables[check.interactable]!
      return transitions.flatMap(({ guard }) => itemsBehind(expanded, guard, seen))
    }
    case 'flag':
    case 'counter':
      return expanded.interactables.flatMap(({ index, transitions }) => {
        if (seen.has(index)) return []
        const does = transitions.filter(({ changes }) =>
          changes.some(
            (change) =>
              (change.kind === 'set' && check.kind === 'flag' && change.flag === check.flag) ||
              (change.kind === 'count' && check.kind === 'counter' && change.counter === check.counter),
          ),
        )
        if (does.length > 0) seen.add(index)
        return does.flatMap(({ guard }) => itemsBehind(expanded, guard, seen))
      })
    default:
      return []
  }
}

/** The items that a condition asks for in any case: where it does not hold, and none of them is missing, they are carried. */
function carriedFor(guard: Check): number[] {
  if (guard.kind === 'all') return guard.checks.flatMap(carriedFor)
  return guard.kind === 'carries' ? [guard.item] : []
}

/** Whether a press on a row can be refused for anything. */
function mayRefuse({ transition: { when, guard, isRefusal } }: CompiledTransition): boolean {
  return when.kind === 'press' && (isRefusal || guard.kind !== 'all' || guard.checks.length > 0)
}

type KindOf = (row: CompiledTransition, unmet: readonly Check[]) => Refusal

function refusalKinds(stage: Stage, kinds: Map<string, Refusal>): KindOf {
  const { interactables } = stage.expanded
  const titles = stage.tables.rows.map((row) => `${interactables[row.machine]!.name}/${rowTitle(stage, row)}`)
  return (row, unmet) => {
    const reasons = [...new Set(reasonsFor(row.transition, unmet))].sort()
    const missing = unmet.flatMap((part) => (part.kind === 'carries' ? [part.item] : []))
    const sorted = (all: readonly number[]): number[] => [...new Set(all)].sort((a, b) => a - b)
    const items = sorted(missing)
    const crowded = sorted(unmet.flatMap((part) => (part.kind === 'room' ? [part.item] : [])))
    const named = (all: readonly number[]): string => all.map((item) => stage.expanded.items[item]!.name).join(',')
    const key = `${start}${titles[row.index]!} ${reasons.join(',')} ${named(items)} ${named(crowded)}`
    const known = kinds.get(key)
    if (known) return known
    const kind = { key, row, reasons, missing: items, crowded, ...toldOf(stage, row, reasons) }
    kinds.set(key, kind)
    return kind
  }
}

function read(stage: Stage, key: string): Refusal {
  const [title = '', why = '', names = '', room = ''] = key.slice(start.length).split(' ')
  const { interactables, items } = stage.expanded
  const machine = interactables.findIndex(({ name }) => name === title.slice(0, title.indexOf('/')))
  const own = stage.tables.rowsOf[machine] ?? []
  const row = own.find((one) => `${interactables[machine]!.name}/${rowTitle(stage, one)}` === title)
  if (!row) throw new Error(`no transition is called ${title}`)
  const reasons = why.split(',') as Reason[]
  const indices = (all: string): number[] =>
    all === '' ? [] : all.split(',').map((name) => items.findIndex((item) => item.name === name))
  return { key, row, reasons, missing: indices(names), crowded: indices(room), ...toldOf(stage, row, reasons) }
}

/** What is told of a refusal, at which moment. */
function toldOf(
  stage: Stage,
  row: CompiledTransition,
  reasons: readonly Reason[],
): Pick<Refusal, 'moment' | 'entries' | 'told' | 'blank'> {
  const { moment, entries } = refusalFeedback(stage.expanded.interactables[row.machine]!, row.transition, reasons)
  const blank = entries.findIndex(isBlank)
  const said = entries.filter((entry) => !isBlank(entry))
  return { moment, entries: said, told: howTold(stage, row.machine, said), blank: blank < 0 ? null : blank }
}

/** What each press is told by: an entry that comes every time, to the character that presses, wherever that is. */
function howTold(stage: Stage, machine: number, entries: readonly Feedback[]): 'always' | Hush {
  const hushes = entries.map(({ once, pause, to }): 'always' | Hush => {
    if (once) return 'once'
    if (pause !== undefined) return 'pause'
    return typeof to === 'object' && !reachesAll(stage, machine, to.within) ? 'within' : 'always'
  })
  return hushes.includes('always') ? 'always' : (hushes[0] ?? 'never')
}

/** Whether a distance on the ground, in metres, reaches every spot from which somebody may press an interactable. */
function reachesAll({ expanded, space }: Stage, machine: number, metres: number): boolean {
  return expanded.characters.every((_, who) => {
    const [first] = farthestFirst(space, who, machine)
    return !first || first.distance + space.patches[who]!.grid.slack <= metres
  })
}

/** The middles of cells from which somebody may press an interactable, by how far its handle is on the ground. */
function farthestFirst(space: Space, who: number, machine: number): { spot: Point; distance: number }[] {
  const { grid, patches, patchesIn } = space.patches[who]!
  const answers = patches.map(({ signature }) =>
    signature.candidates.some(({ interactable }) => interactable === machine),
  )
  const found: { spot: Point; distance: number }[] = []
  for (let cell = 0; cell < grid.stands.length; cell++) {
    if (!patchesIn(cell).some((patch) => answers[patch])) continue
    const spot = middleOf(grid, cell)
    found.push({ spot, distance: metresTo(space.layout, machine, spot) })
  }
  return found.sort((a, b) => b.distance - a.distance)
}

function rounded([x, y]: Point): readonly [number, number] {
  return [Math.round(x * 10_000) / 10_000, Math.round(y * 10_000) / 10_000]
}

/** The key of the refusal that a play has just met with; null where the last thing in it was none. */
function lastRefusal(stage: Stage, play: Play, kindOf: KindOf): string | null {
  const last = play.log.findLast(({ what }) => what !== 'feedback')
  if (last?.what !== 'press' || last.outcome !== 'refused') return null
  const { interactables, characters, pressKinds } = stage.expanded
  const machine = interactables.findIndex(({ name }) => name === last.interactable)
  const actor = characters.findIndex(({ name }) => name === last.character)
  const regs = play.registers()
  const pressKind = pressKinds.findIndex(
    ({ press, option, chance }) => chance === last.chance && (option ?? press) === (last.way ?? pressKinds[0]!.press),
  )
  const offered = stage.tables.states[machine]![regs[machine]!]!.presses[pressKind]!.filter(
    (row) => row.may[actor]! && (row.offered === null || row.offered(regs, actor)),
  )
  const row = offered[0]
  return row ? kindOf(row, unmetParts(row.transition.guard, stage.tables, regs, actor)).key : null
}
