import { perform, type PlayStep } from '../explore/index.ts'
import { type LogEntry, Play, type Stage } from '../play/index.ts'
import type { ReportStep } from './report.ts'

/** Puts steps into words, by playing them. */
export function toldSteps(stage: Stage, steps: readonly PlayStep[]): ReportStep[] {
  const play = new Play(stage)
  let acting = stage.tables.firstPlayer
  return steps.map((step): ReportStep => {
    const since = play.log.length
    perform(play, step)
    const isOther = step.do !== 'wait' && step.who !== acting
    const as = isOther ? `As ${stage.expanded.characters[step.who]!.name}: ` : ''
    if (isOther) acting = step.who
    const text = as + stepText(stage, step, play.log.slice(since))
    return step.do === 'walk-to' ? { ...step, via: step.via.map(([x, y]) => [x, y]), text } : { ...step, text }
  })
}

function stepText(stage: Stage, step: PlayStep, log: readonly LogEntry[]): string {
  switch (step.do) {
    case 'wait':
      return `Wait ${secondsText(step.ms)}.`
    case 'press':
      return pressText(stage, step, log)
    case 'release':
      return 'Let go.'
    case 'dismiss':
      return 'Dismiss the notice.'
    case 'dial':
      return `Set wheel ${String(step.wheel)} of ${step.on} to ${String(step.to)}.`
    case 'walk-to':
      return walkText(stage, step.target)
  }
}

/** Milliseconds as seconds, without needless decimals. */
export function secondsText(ms: number): string {
  return `${String(ms / 1000)} s`
}

function walkText({ expanded }: Stage, target: string): string {
  const room = expanded.level.rooms[target]
  return `Walk to ${room ? `the ${room.title ?? target}` : target}.`
}

/** A press, as a tester would say what it does. */
function pressText(
  stage: Stage,
  { on, option, way, looking, kept }: Extract<PlayStep, { do: 'press' }>,
  log: readonly LogEntry[],
): string {
  const press = log.find((entry) => entry.what === 'press')
  const act = option !== null ? `Choose "${option}"` : `${kept ? 'Press and hold' : 'Press'}${way ? ` "${way}"` : ''}`
  const what = looking ? `Look at ${on}. ${act}` : act
  if (press?.outcome === 'refused') return `${what}: ${on} refuses.`
  if (press?.outcome === 'ignored') return `${what}: nothing happens.`
  const [got] = log.flatMap((entry) => (entry.what === 'item' && entry.by === on ? [entry] : []))
  if (!got) return kept ? `${what} ${on}.` : `${what}: ${on} answers.`
  const title = stage.expanded.items.find(({ name }) => name === got.item)?.title ?? got.item
  const change = Math.abs(got.after - got.before)
  const amount = change > 1 ? `${String(change)} × ${title}` : `the ${title}`
  return got.after > got.before
    ? `${looking ? `Look at ${on}. ` : ''}Take ${amount} from ${on}.`
    : `${what}: ${on} takes ${amount}.`
}
