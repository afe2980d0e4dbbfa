import { likely } from '../shared/edits.ts'
import { found, type Proposal, type Rule, ruledOut } from '../rule.ts'
import { unusedTypeThat } from '../shared/unused-types.ts'
import { nearestSignal, reaches, type Sender, signalsOf } from '../shared/signals.ts'
import type { Stage } from '../../play/index.ts'

/** What is known of a finding of this rule. */
export interface UnsentSignalFacts {
  readonly interactable: string
  readonly signal: string
  readonly nearest: string | null
  /** Who sends it to something else: to a tag that this one does not have, or to another interactable. */
  readonly elsewhere: { readonly by: string; readonly to: string; readonly isTag: boolean } | null
  /** A type that would send it, and that nothing in the level is of. */
  readonly unusedType: string | null
}

/** A signal that is waited for, and nothing ever sends. */
export const unsentSignal: Rule<UnsentSignalFacts> = {
  name: 'unsent-signal',
  severity: 'error',
  isByLevel: true,
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
      const unusedType = unusedTypeThat(stage.expanded, 'send', name)
      const facts: UnsentSignalFacts = { interactable: by.name, signal: name, nearest, elsewhere, unusedType }
      const grant =
        near === null ? ({ grant: 'row', row } as const) : ({ grant: 'name', paths: [path], name: near } as const)
      return found(subject, { path, facts, steps: [], grant })
    })
  },
  lostType: ({ unusedType }) => unusedType,
  says: unsentText,
  fix(facts) {
    if (facts.elsewhere?.isTag)
      return `Give ${facts.interactable} the tag "${facts.elsewhere.to}", or send it there, too.`
    if (facts.unusedType !== null) return `Place an interactable with type: ${facts.unusedType}.`
    if (facts.elsewhere) return `Send it to ${facts.interactable}, too, or to all.`
    return facts.nearest === null
      ? 'Let something send it.'
      : `Write "${facts.nearest}", which is sent; or let something send "${facts.signal}".`
  },
  edit({ stage, path, facts }) {
    if (facts.elsewhere) return facts.elsewhere.isTag ? tagFix(stage, facts.interactable, facts.elsewhere.to) : null
    return facts.nearest === null || facts.unusedType !== null
      ? null
      : likely({ do: 'replace', path, value: facts.nearest })
  },
}

/** The first place where a signal is sent that does not come to all; null where nothing sends it. */
function sentElsewhere({ expanded }: Stage, sent: readonly Sender[], signal: number): UnsentSignalFacts['elsewhere'] {
  const other = sent.find((one) => one.signal === signal)
  if (!other) return null
  const { by, interactable, tag } = other
  if (interactable !== null) return { by: by.name, to: expanded.interactables[interactable]!.name, isTag: false }
  return tag === null ? null : { by: by.name, to: expanded.tags[tag]!, isTag: true }
}

function unsentText({ interactable, signal, elsewhere, unusedType }: UnsentSignalFacts): string {
  if (unusedType !== null) {
    return `${interactable} waits for the signal "${signal}", which only the type ${unusedType} sends, and nothing is of that type.`
  }
  if (!elsewhere) return `${interactable} waits for the signal "${signal}", which nothing sends.`
  const { by, to, isTag } = elsewhere
  const receivers = isTag ? `what has the tag "${to}", which ${interactable} lacks` : to
  return `${interactable} waits for the signal "${signal}", which ${by} sends only to ${receivers}.`
}

/** A tag for an instance, beside those that it has already. */
function tagFix({ expanded }: Stage, interactable: string, tag: string): Proposal | null {
  const instance = expanded.level.interactables?.[interactable]
  if (!instance) return null
  const path = `interactables.${interactable}`
  return likely(
    instance.tags ? { do: 'append', path: `${path}.tags`, value: tag } : { do: 'add', path, key: 'tags', value: [tag] },
  )
}
