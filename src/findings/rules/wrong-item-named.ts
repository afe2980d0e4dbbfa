import type { Stage } from '../../play/index.ts'
import { likely, valueIn } from '../shared/edits.ts'
import { refusalsOf, tellingPath, wrongItem } from '../shared/refusals.ts'
import { type Rule, witnessed } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface WrongItemNamedFacts {
  readonly interactable: string
  readonly message: string
  /** The item that the message names. */
  readonly names: string
  /** The item that is missing, or that there is no room for; null: none, and the one that is named is carried. */
  readonly about: string | null
  /** Where none is missing: whether the one that is named is carried, or not asked for. */
  readonly is: 'other' | 'carried' | 'not-asked'
  readonly isMissing: boolean
}

/** A refusal whose message names another item than the one that is missing, or that there is no room for; or one that the player has. */
export const wrongItemNamed: Rule<WrongItemNamedFacts> = {
  name: 'wrong-item-named',
  severity: 'warning',
  asksOthers: true,
  ask(context) {
    const { stage } = context
    return stage.expanded.interactables.flatMap((placed, machine) => {
      const all = refusalsOf(context, machine)
      if (all.length === 0) return []
      const wrong = all.filter((refusal) => wrongItem(stage, refusal) !== null)
      const asked = witnessed(
        context,
        placed.name,
        wrong.map(({ key }) => key),
        (key) => {
          const refusal = wrong.find((one) => one.key === key)!
          const { message, names, is } = wrongItem(stage, refusal)!
          const aboutItem = refusal.missing[0] ?? refusal.crowded[0]
          const title = (item: number): string => stage.expanded.items[item]!.title
          return {
            path: tellingPath(stage, refusal),
            facts: {
              interactable: placed.name,
              message,
              names: title(names),
              about: aboutItem === undefined ? null : title(aboutItem),
              is,
              isMissing: refusal.missing.length > 0,
            },
            grant: null,
          }
        },
      )
      const [first] = asked.found
      return [{ ...asked, found: first ? [first] : [] }]
    })
  },
  says(facts) {
    if (facts.is === 'not-asked') {
      return `${facts.interactable} refuses a press for another reason, and its message says that the ${facts.names} is lacking, which it does not ask for: "${facts.message}".`
    }
    if (facts.is === 'carried') {
      return `${facts.interactable} refuses a press of somebody who has the ${facts.names}, and its message speaks of it as if it were missing: "${facts.message}".`
    }
    return `${facts.interactable} refuses because ${facts.isMissing ? `the ${facts.about} is missing` : `there is no room for the ${facts.about}`}, but its message speaks of the ${facts.names}: "${facts.message}".`
  },
  fix({ is }) {
    if (is === 'not-asked') return 'Say why it refuses.'
    return is === 'carried'
      ? 'Say why it refuses, or say these words only because: carries.'
      : 'Write {item}: it stands for what the refusal is about.'
  },
  edit({ stage, path, facts }) {
    const at = messagePath(stage, path, facts.message)
    if (facts.is === 'not-asked') return null
    if (facts.is === 'carried') {
      return at === null
        ? null
        : likely({ do: 'add', path: at.replace(/\.message$/, ''), key: 'because', value: 'carries' })
    }
    const words = new RegExp(facts.names.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&'), 'i')
    const value = facts.message.replace(words, '{item}')
    return at === null || value === facts.message ? null : likely({ do: 'replace', path: at, value })
  },
}

/** The path of the message in what is told at a path; null where it is not there. */
function messagePath(stage: Stage, path: string, message: string): string | null {
  const entries = valueIn(stage, path)
  if (!Array.isArray(entries)) return null
  const at = (entries as { message?: unknown }[]).findIndex((entry) => entry.message === message)
  return at < 0 ? null : `${path}.${String(at)}.message`
}
