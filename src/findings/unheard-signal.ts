import { ruledOut, found, type Found, type Rule } from './rule.ts'
import { nearestSignal, reaches, signalsOf } from './signals.ts'

/** A signal that is sent, and nothing it is sent to waits for it. */
export const unheardSignal: Rule = {
  name: 'unheard-signal',
  severity: 'warning',
  ask({ stage }) {
    const { sent, heard } = signalsOf(stage)
    const paths = [...new Set(sent.map(({ path }) => path))]
    return paths.map((path) => {
      const own = sent.filter((one) => one.path === path)
      const { by, signal } = own[0]!
      const name = stage.expanded.signals[signal]!
      const subject = `${by.name}/${name}`
      if (own.some((one) => heard.some((other) => reaches(one, other)))) return ruledOut(subject)
      const unsent = heard.filter((other) => !sent.some((one) => reaches(one, other)))
      const near = nearestSignal(
        stage,
        signal,
        unsent.map((one) => one.signal),
      )
      const nearest =
        near ??
        nearestSignal(
          stage,
          signal,
          heard.map((one) => one.signal),
        )
      const facts: Found['facts'] = { rule: 'unheard-signal', interactable: by.name, signal: name, nearest }
      const grant = nearest === null ? null : ({ grant: 'name', paths: [path], name: nearest } as const)
      return found(subject, { path, facts, steps: [], grant })
    })
  },
}
