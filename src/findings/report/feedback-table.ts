import type { Answer } from '../../explore/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import { type Channel, type Feedback, mapped, type Moment, moments } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'
import { focusedKey } from '../shared/prompts.ts'
import { momentKey } from '../shared/room.ts'
import { refusalsOf, toldBy } from '../shared/refusals.ts'
import { type Context, isRuledOut } from '../rule.ts'

type Known = Pick<Context, 'stage' | 'evidence'>

/** What is perceived of a moment that can happen. */
export interface TellingMoment {
  readonly interactable: string
  readonly moment: Moment | 'transition'
  /** For a transition its name; for a refusal the reasons; null: there is no more to say. */
  readonly which: string | null
  /** Whether a play has shown that it happens; `open`: that could not be told. */
  readonly happens: 'yes' | 'undecided'
  readonly channels: readonly { readonly channel: Channel; readonly texts: readonly string[] }[]
}

const never: Answer = { answer: 'found' }
const shown: Answer = { answer: 'ruled-out' }

/** Whether a moment of an interactable never happens: found where it is proved, ruled out where a play has shown it. */
export function happens({ stage, evidence }: Known, machine: number, moment: Moment): Answer {
  if (evidence.moments.has(`${String(machine)} ${moment}`)) return shown
  if (moment === 'focused') return focusOf({ stage, evidence }, machine)
  const parts = rowsFor(stage, machine, moment).map((row) => evidence.dead[row.index]!)
  if (moment === 'refused' || moment === 'missing' || moment === 'too-full') {
    const all = refusalsOf({ stage, evidence }, machine).filter((refusal) => refusal.moment === moment)
    const { name } = stage.expanded.interactables[machine]!
    const seen = witnessOf(evidence, [...all.map(({ key }) => key), momentKey(name, moment)])
    if (seen === shown) return shown
    parts.push(seen)
  }
  const live = parts.filter(({ answer }) => answer !== 'found')
  if (live.length === 0) return evidence.gap === null ? never : { answer: 'undecided', why: evidence.gap }
  return (
    live.find(({ answer }) => answer === 'undecided') ?? { answer: 'undecided', why: evidence.gap ?? evidence.unplayed }
  )
}

/** Whether a press never goes to an interactable. That wheels are set is seen in plays alone. */
function focusOf({ stage, evidence }: Known, machine: number): Answer {
  const { name, wheels } = stage.expanded.interactables[machine]!
  const answer = witnessOf(evidence, [focusedKey(name)])
  const isDial = wheels.length > 0 && answer.answer === 'found'
  return isDial ? { answer: 'undecided', why: 'no play has set its wheels' } : answer
}

function witnessOf(evidence: Context['evidence'], keys: readonly string[]): Answer {
  const seen = keys.flatMap((key) => evidence.witnesses.get(key) ?? [])
  if (seen.some((one) => one.shown)) return shown
  if (seen.length > 0) return { answer: 'undecided', why: evidence.gap ?? evidence.unplayed }
  return isRuledOut(evidence, keys) ? never : { answer: 'undecided', why: evidence.gap ?? evidence.unplayed }
}

/** The transitions that could bring a moment about, beside refused presses. */
export function rowsFor({ tables, expanded }: Stage, machine: number, moment: Moment): CompiledTransition[] {
  const own = tables.rowsOf[machine]!.filter((row) => !row.transition.isRefusal)
  const does = (...kinds: string[]): CompiledTransition[] =>
    own.filter(({ transition }) => transition.changes.some(({ kind }) => kinds.includes(kind)))
  const by = (...kinds: string[]): CompiledTransition[] =>
    own.filter(({ transition }) => kinds.includes(transition.when.kind))
  const { states } = expanded.interactables[machine]!
  switch (moment) {
    case 'accepted':
      return by('press', 'enter', 'leave', 'hold', 'release')
    case 'started':
    case 'finished':
      return own.filter(
        ({ to, transition }) => to >= 0 && states[to]!.motion && transition.from.some((from) => from !== to),
      )
    case 'gained':
      return does('give', 'take-out')
    case 'consumed':
      return does('consume', 'remove')
    case 'too-full':
    case 'refused':
    case 'missing':
    case 'focused':
      return []
  }
}

/** Every moment of every interactable that can really happen, and what is perceived of it on which channel. */
export function* feedbackTable(known: Known): Generator<undefined, TellingMoment[]> {
  const all = yield* mapped(known.stage.expanded.interactables, (placed, machine) => [
    ...moments.flatMap((moment): TellingMoment[] => {
      if (moment === 'refused' || moment === 'missing' || moment === 'too-full')
        return refusedMoments(known, machine, moment)
      const answer = happens(known, machine, moment)
      if (answer.answer === 'found') return []
      const entries = placed.feedback[moment] ?? []
      return [telling(placed.name, moment, null, answer, entries)]
    }),
    ...transitionMoments(known, machine),
  ])
  return all.flat()
}

function refusedMoments(known: Known, machine: number, moment: Moment): TellingMoment[] {
  const { name, feedback } = known.stage.expanded.interactables[machine]!
  const own = refusalsOf(known, machine).filter((refusal) => refusal.moment === moment)
  const all = own.map((refusal) => {
    const answer = witnessOf(known.evidence, [refusal.key])
    return telling(name, moment, refusal.reasons.join(', '), answer, refusal.entries)
  })
  const isTold = known.evidence.moments.has(`${String(machine)} ${moment}`)
  return all.length === 0 && isTold ? [telling(name, moment, null, shown, feedback[moment] ?? [])] : all
}

/** What transitions tell by themselves, where they can be taken. */
function transitionMoments({ stage, evidence }: Known, machine: number): TellingMoment[] {
  const { name } = stage.expanded.interactables[machine]!
  return stage.tables.rowsOf[machine]!.flatMap((row): TellingMoment[] => {
    const { transition } = row
    const answer = evidence.dead[row.index]!
    if (transition.feedback.length === 0 || answer.answer === 'found') return []
    return [
      telling(
        name,
        'transition',
        transition.name ?? `transition-${String(row.place + 1)}`,
        answer,
        transition.feedback,
      ),
    ]
  })
}

function telling(
  interactable: string,
  moment: TellingMoment['moment'],
  which: string | null,
  { answer }: Answer,
  entries: readonly Feedback[],
): TellingMoment {
  const channels = toldBy({ entries }).map((channel) => ({
    channel,
    texts: entries.flatMap((entry) => (entry[channel] === undefined ? [] : [String(entry[channel])])),
  }))
  return { interactable, moment, which, happens: answer === 'undecided' ? 'undecided' : 'yes', channels }
}
