import { type Observation, rowsByThemselves } from '../../explore/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import { type Channel, channelOf, type Feedback } from '../../model/index.ts'
import type { Play, Stage } from '../../play/index.ts'
import { rowSubject, rowTitle } from '../shared/rows.ts'
import { type Found, type Rule, witnessed } from '../rule.ts'

/** What comes again and again is a nuisance on these. */
const loud: readonly Channel[] = ['sound', 'message', 'popup', 'rumble']

const start = 'repeated '

/** What is known of a finding of this rule. */
export interface RepeatedFeedbackFacts {
  readonly interactable: string
  readonly transition: string
  readonly channel: Channel
  readonly text: string
  /** In ms. */
  readonly every: number
}

/** Feedback that comes again and again by itself, for as long as nobody does anything. */
export const repeatedFeedback: Rule<RepeatedFeedbackFacts> = {
  name: 'repeated-feedback',
  severity: 'warning',
  observation,
  ask(context) {
    const { stage } = context
    return loudRows(stage).map((row) => {
      const subject = rowSubject(stage, row)
      const asked = witnessed(context, subject, [start + subject], () => ({
        path: row.transition.path,
        facts: factsOf(stage, row),
        grant: null,
      }))
      return { ...asked, found: asked.found.map(withTime) }
    })
  },
  says(facts) {
    return `${facts.interactable} gives the ${facts.channel} "${facts.text}" again every ${String(facts.every / 1000)} s (${facts.transition}), for as long as nobody does anything.`
  },
  fix() {
    return 'Say once: true or pause: 60 in that entry, or let the circle end.'
  },
}

function factsOf(stage: Stage, row: CompiledTransition): RepeatedFeedbackFacts {
  const entry = loudEntry(stage, row)!
  const channel = channelOf(entry)
  return {
    interactable: stage.expanded.interactables[row.machine]!.name,
    transition: rowTitle(stage, row),
    channel,
    text: String(entry[channel]),
    every: 0,
  }
}

/** How long a round takes is how long the last step waits. */
function withTime(found: Found<RepeatedFeedbackFacts>): Found<RepeatedFeedbackFacts> {
  const last = found.steps.at(-1)
  if (last?.do !== 'wait') return found
  return { ...found, facts: { ...found.facts, every: last.ms } }
}

/** Looks out for moves by which such a transition is taken; Play then has to come back to the same, by itself. */
function observation(stage: Stage): Observation {
  const rows = loudRows(stage)
  const keys = new Map(rows.map((row) => [row.index, start + rowSubject(stage, row)]))
  const rowOf = (key: string): CompiledTransition => rows.find((row) => keys.get(row.index) === key)!
  return {
    isFault: () => true,
    watches: (regs) => rows.some(({ machine, transition }) => transition.from.includes(regs[machine]!)),
    watcher: (see) => ({
      taken: (row) => {
        const key = keys.get(row.index)
        if (key !== undefined) see(key)
      },
    }),
    isShown: (key, play) => play.taken.includes(rowOf(key).index),
    goOn: (key, play) => {
      const round = roundOf(play, rowOf(key))
      return round === null ? null : [{ who: 0, do: 'wait', ms: round }]
    },
  }
}

/** The most times that a play is moved on to see whether it comes back to where it was. */
const mostDue = 200

/**
 * How long, in ms, until a transition that was taken is taken again with everything as it was, by itself; null where that does not
 * come. The play is moved on.
 */
function roundOf(play: Play, row: CompiledTransition): number | null {
  const seen = new Map<string, number>()
  let before = play.taken.length
  for (let i = 0; i < mostDue; i++) {
    const due = play.nextDue()
    if (due === null || play.ended !== null) return null
    play.advance(Math.max(1, due))
    const isTaken = play.taken.slice(before).includes(row.index)
    before = play.taken.length
    if (!isTaken) continue
    const so = play.registers().join(' ')
    const since = seen.get(so)
    if (since !== undefined) return play.now - since
    seen.set(so, play.now)
  }
  return null
}

/** Transitions in circles that no input sets off, which tell of it each time. */
function loudRows(stage: Stage): CompiledTransition[] {
  if (stage.tables.clocks.length === 0) return []
  const own = rowsByThemselves(stage.tables).filter(({ transition: { when } }) => when.kind !== 'hold')
  const loudOnes = own.filter((row) => loudEntry(stage, row) !== undefined && isInCircle(own, row))
  return loudOnes.sort((a, b) => a.index - b.index)
}

/** What a transition tells each time, of all that could be a nuisance. */
function loudEntry({ expanded }: Stage, { machine, to, transition }: CompiledTransition): Feedback | undefined {
  const { states, feedback } = expanded.interactables[machine]!
  const started = to >= 0 && states[to]!.motion ? (feedback.started ?? []) : []
  const finished = transition.when.kind === 'motion-end' ? (feedback.finished ?? []) : []
  return [...transition.feedback, ...started, ...finished].find(
    (entry) => loud.includes(channelOf(entry)) && !entry.once && entry.pause === undefined,
  )
}

/** Whether the machine can come back to where a transition leaves from, by some transitions. */
function isInCircle(rows: readonly CompiledTransition[], row: CompiledTransition): boolean {
  const own = rows.filter(({ machine }) => machine === row.machine)
  const to = (one: CompiledTransition, from: number): number => (one.to < 0 ? from : one.to)
  const seen = new Set(row.transition.from.map((from) => to(row, from)))
  for (const state of seen) {
    for (const one of own) if (one.transition.from.includes(state)) seen.add(to(one, state))
  }
  return row.transition.from.some((from) => seen.has(from))
}
