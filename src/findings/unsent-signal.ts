import { ruledOut, found, type Found, type Rule } from './rule.ts'
import { nearestSignal, reaches, signalsOf } from './signals.ts'

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
      const facts: Found['facts'] = { rule: 'unsent-signal', interactable: by.name, signal: name, nearest }
      const grant = near === null ? ({ grant: 'row', row } as const) : ({ grant: 'name', path, name: near } as const)
      return found(subject, { path, facts, steps: [], grant })
    })
  },
}
