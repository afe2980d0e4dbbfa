import type { PlayStep } from '../explore/index.ts'
import { type LogEntry, Play, type Stage } from '../play/index.ts'
import type { ReportStep } from './report.ts'

/** Puts steps into words, by playing them. */
export function toldSteps(stage: Stage, steps: readonly PlayStep[]): ReportStep[] {
  const play = new Play(stage)
  return steps.map((step): ReportStep => {
    const since = play.log.length
    if (step.do === 'wait') {
      play.advance(step.ms)
      return { ...step, text: `Wait ${secondsText(step.ms)}.` }
    }
    if (step.do === 'press') {
      play.press(0)
      return { ...step, text: pressText(stage, step.on, play.log.slice(since)) }
    }
    play.walk(0, step.via)
    play.advanceWhileWalking(0, 24 * 3600 * 1000)
    return { ...step, via: step.via.map(([x, y]): [number, number] => [x, y]), text: walkText(stage, step.target) }
  })
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
function pressText(stage: Stage, on: string, log: readonly LogEntry[]): string {
  const press = log.find((entry) => entry.what === 'press')
  if (press?.outcome === 'refused') return `Press: ${on} refuses.`
  const [got] = log.flatMap((entry) => (entry.what === 'item' && entry.by === on ? [entry] : []))
  if (!got) return `Press: ${on} answers.`
  const title = stage.expanded.items.find(({ name }) => name === got.item)?.title ?? got.item
  const change = Math.abs(got.after - got.before)
  const amount = change > 1 ? `${String(change)} ${title}` : `the ${title}`
  return got.after > got.before ? `Take ${amount} from ${on}.` : `Press: ${on} takes ${amount}.`
}
