import { ownSpot } from '../../interactables/index.ts'
import { perform, type PlayStep } from '../../explore/index.ts'
import { type LogEntry, Play, rowName, type Stage } from '../../play/index.ts'
import type { ReportStep } from './report.ts'

/** Puts steps into words, by playing them. */
export function toldSteps(stage: Stage, steps: readonly PlayStep[]): ReportStep[] {
  const play = new Play(stage)
  let acting = stage.tables.firstPlayer
  return steps.map((step, i): ReportStep => {
    const since = play.log.length
    perform(play, step)
    const isOther = step.do !== 'wait' && step.do !== 'start' && step.who !== acting
    const as = isOther ? `As ${stage.expanded.characters[step.who]!.name}: ` : ''
    if (isOther) acting = step.who
    const log = play.log.slice(since)
    const end = i === steps.length - 1 && step.do === 'walk-to' ? stopText(play, step.who, step.target) : ''
    const text = as + stepText(stage, step, log) + end + arrivalText(stage, log)
    const who = stage.expanded.characters[step.who]!.name
    return step.do === 'walk-to'
      ? { ...step, who, via: step.via.map((p) => ownSpot(stage.expanded, p)), text }
      : { ...step, who, text }
  })
}

function stepText(stage: Stage, step: PlayStep, log: readonly LogEntry[]): string {
  switch (step.do) {
    case 'wait':
      return waitText(stage, step.ms, log)
    case 'press':
      return pressText(stage, step, log)
    case 'start':
      return startText(stage, step.at)
    case 'release':
      return 'Let go.'
    case 'dismiss':
      return 'Dismiss the popup.'
    case 'dial':
      return `Set wheel ${String(step.wheel)} of ${step.on} to ${String(step.to)}.`
    case 'walk-to':
      return walkText(stage, step.target, log)
  }
}

/** Of a last walk, whose way one stops in; empty where it is nobody's, or goes to that itself. */
function stopText(play: Play, who: number, target: string): string {
  const { expanded, space } = play.stage
  const { patchAt, patches } = space.patches[who]!
  const bodies = patches[patchAt(play.spotOf(who))]?.signature.bodies ?? []
  const names = bodies.map((body) => expanded.interactables[body]!.name)
  return names.length === 0 || names.includes(target) ? '' : ` Stop in the way of ${names.join(' and ')}.`
}

/** Where a play begins that does not begin at the usual start. */
function startText({ expanded: { joined } }: Stage, start: string): string {
  const level = joined?.starts.find(({ name }) => name === start)?.level
  return `Start at ${start}, in ${joined?.parts.find(({ name }) => name === level)?.title ?? ''}.`
}

/** Where levels are joined: the one that a step leads to. */
function arrivalText({ expanded: { joined } }: Stage, log: readonly LogEntry[]): string {
  const last = log.findLast((entry) => entry.what === 'leaves')
  const there = joined?.parts.find(({ name }) => name === last?.level)
  return there ? ` This leads to ${there.title}.` : ''
}

function waitText(stage: Stage, ms: number, log: readonly LogEntry[]): string {
  const taken = takenText(stage, log)
  return `Wait ${secondsText(ms)}${taken === '' ? '' : `, ${taken}`}.`
}

/** Milliseconds as seconds, without needless decimals. */
export function secondsText(ms: number): string {
  return `${String(ms / 1000)} s`
}

/** A walk, with what it sets off on the way by coming and going alone. */
function walkText(stage: Stage, target: string, log: readonly LogEntry[]): string {
  const room = stage.expanded.level.rooms[target]
  const taken = takenText(stage, log)
  const givers = log.flatMap((entry) => (entry.what === 'item' ? [entry.by] : []))
  const others = log.flatMap((entry) => {
    if (entry.what !== 'transition' || givers.includes(entry.interactable)) return []
    return isByPassing(stage, entry) ? [entry.interactable] : []
  })
  const setOff = others.length > 0 ? [`setting off ${[...new Set(others)].join(' and ')}`] : []
  const onTheWay = [...(taken === '' ? [] : [taken]), ...setOff].join(', ')
  const end = room ? `the ${room.title ?? target}` : target
  return `Walk to ${end}${onTheWay === '' ? '' : `, ${onTheWay} on the way`}.`
}

/** What is got from what, such as `taking the crank and the lamp oil from meal-chest`; empty where nothing is. */
function takenText(stage: Stage, log: readonly LogEntry[]): string {
  const got = log.flatMap((entry) => (entry.what === 'item' && entry.after > entry.before ? [entry] : []))
  const givers = [...new Set(got.map(({ by }) => by))]
  const each = givers.map((giver) => {
    const amounts = got.filter(({ by }) => by === giver).map((entry) => amountText(stage, entry))
    return `${amounts.join(' and ')} from ${giver}`
  })
  return each.length === 0 ? '' : `taking ${each.join(', ')}`
}

/** Whether somebody sets a transition off by coming or going alone. */
function isByPassing({ expanded, tables }: Stage, entry: Extract<LogEntry, { what: 'transition' }>): boolean {
  const machine = expanded.interactables.findIndex(({ name }) => name === entry.interactable)
  const row = tables.rowsOf[machine]!.find((one) => {
    const from = one.transition.from.map((state) => expanded.interactables[machine]!.states[state]!.name)
    return rowName(one) === entry.transition && from.includes(entry.from)
  })
  return row?.transition.when.kind === 'enter' || row?.transition.when.kind === 'leave'
}

/** How many of an item came or went, in words. */
function amountText({ expanded }: Stage, { item, before, after }: Extract<LogEntry, { what: 'item' }>): string {
  const title = expanded.items.find(({ name }) => name === item)?.title ?? item
  const change = Math.abs(after - before)
  return change > 1 ? `${String(change)} × ${title}` : `the ${title}`
}

/** A press, as a tester would say what it does. */
function pressText(
  stage: Stage,
  { on, option, way, chance, looking, kept }: Extract<PlayStep, { do: 'press' }>,
  log: readonly LogEntry[],
): string {
  const press = log.find((entry) => entry.what === 'press')
  const act = option !== null ? `Choose "${option}"` : `${kept ? 'Press and hold' : 'Press'}${way ? ` "${way}"` : ''}`
  const luck = chance === null ? '' : ` Chance draws ${chance}.`
  const what = looking ? `Look at ${on}. ${act}` : act
  if (press?.outcome === 'refused') return `${what}: ${on} refuses.`
  if (press?.outcome === 'ignored') return `${what}: nothing happens.`
  const [got] = log.flatMap((entry) => (entry.what === 'item' && entry.by === on ? [entry] : []))
  if (!got) return kept ? `${what} ${on}.${luck}` : `${what}: ${on} answers.${luck}`
  const amount = amountText(stage, got)
  return got.after > got.before
    ? `${looking ? `Look at ${on}. ` : ''}Take ${amount} from ${on}.${luck}`
    : `${what}: ${on} ${got.consumed ? 'uses up' : 'takes'} ${amount}.${luck}`
}
