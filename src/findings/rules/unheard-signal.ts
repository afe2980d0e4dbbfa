import { likely } from '../shared/edits.ts'
import { ruledOut, found, type Rule } from '../rule.ts'
import { unusedTypeHearing } from '../shared/unused-types.ts'
import { nearestSignal, reaches, signalsOf } from '../shared/signals.ts'

/** What is known of a finding of this rule. */
export interface UnheardSignalFacts {
  readonly interactable: string
  readonly signal: string
  readonly nearest: string | null
  /** A type that waits for it, and that nothing in the level is of. */
  readonly unusedType: string | null
}

/** A signal that is sent, and nothing it is sent to waits for it. */
export const unheardSignal: Rule<UnheardSignalFacts> = {
  name: 'unheard-signal',
  severity: 'warning',
  isByLevel: true,
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
      const unusedType = unusedTypeHearing(stage.expanded, name)
      const facts: UnheardSignalFacts = { interactable: by.name, signal: name, nearest, unusedType }
      const grant = nearest === null ? null : ({ grant: 'name', paths: [path], name: nearest } as const)
      return found(subject, { path, facts, steps: [], grant })
    })
  },
  lostType: ({ unusedType }) => unusedType,
  says(facts) {
    if (facts.unusedType !== null) {
      return `${facts.interactable} sends the signal "${facts.signal}", which only the type ${facts.unusedType} waits for, and nothing is of that type.`
    }
    return `${facts.interactable} sends the signal "${facts.signal}", and nothing hears it.`
  },
  fix(facts) {
    if (facts.unusedType !== null) return `Place an interactable with type: ${facts.unusedType}.`
    return facts.nearest === null
      ? 'Let something wait for it, or take it out.'
      : `Write "${facts.nearest}", which is heard; or let something wait for "${facts.signal}".`
  },
  edit({ path, facts }) {
    return facts.nearest === null || facts.unusedType !== null
      ? null
      : likely({ do: 'replace', path, value: facts.nearest })
  },
}
