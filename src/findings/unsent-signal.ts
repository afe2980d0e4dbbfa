import { ruledOut, found, type Found, type Rule } from './rule.ts'
import { nearestSignal, reaches, type Sender, signalsOf } from './signals.ts'
import type { Stage } from '../play/index.ts'

/** A signal that is waited for, and nothing ever sends. */
export const unsentSignal: Rule = {
  name: 'unsent-signal',
  severity: 'error',
  ask({ stage }) {
    const { sent, heard } = signalsOf(stage)
    return heard.map((one) => {
      const { by, signal, path, row } = one
      const name = stage.expanded.signals[signal]!
      const subject = `${by.name}/${name}`
      if (sent.some((other) => reaches(other, one))) return ruledOut(subject)
      const unheard = sent.filter((other) => !heard.some((listener) => reaches(other, listener)))
      const near = nearestSignal(
        stage,
        signal,
        unheard.map((other) => other.signal),
      )
      const nearest =
        near ??
        nearestSignal(
          stage,
          signal,
          sent.map((other) => other.signal),
        )
      const elsewhere = sentElsewhere(stage, sent, signal)
      const facts: Found['facts'] = { rule: 'unsent-signal', interactable: by.name, signal: name, nearest, elsewhere }
      const grant =
        near === null ? ({ grant: 'row', row } as const) : ({ grant: 'name', paths: [path], name: near } as const)
      return found(subject, { path, facts, steps: [], grant })
    })
  },
}

/** The first place where a signal is sent that does not come to all; null where nothing sends it. */
function sentElsewhere(
  { expanded }: Stage,
  sent: readonly Sender[],
  signal: number,
): Extract<Found['facts'], { rule: 'unsent-signal' }>['elsewhere'] {
  const other = sent.find((one) => one.signal === signal)
  if (!other) return null
  const { by, interactable, tag } = other
  if (interactable !== null) return { by: by.name, to: expanded.interactables[interactable]!.name, isTag: false }
  return tag === null ? null : { by: by.name, to: expanded.tags[tag]!, isTag: true }
}
