import type { Feedback } from '../../model/index.ts'
import { channelOf } from '../../model/index.ts'
import { refusalsOf, tellingPath } from '../shared/refusals.ts'
import { toldBySuccess } from '../shared/told.ts'
import { type Rule, witnessed } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface SameAnswerFacts {
  readonly interactable: string
  /** What is told, as the file has it. */
  readonly words: string
}

/** Something that tells a player the same whether a press is refused or accepted. */
export const sameAnswer: Rule<SameAnswerFacts> = {
  name: 'same-answer',
  severity: 'warning',
  asksOthers: true,
  ask(context) {
    const { stage } = context
    return stage.expanded.interactables.flatMap(({ name }, machine) => {
      const all = refusalsOf(context, machine).filter(({ entries }) => entries.length > 0)
      if (all.length === 0) return []
      const alike = all.flatMap((refusal) => {
        const words = refusal.row.transition.isRefusal
          ? null
          : sharedBy(refusal.entries, toldBySuccess(stage, refusal.row))
        return words === null ? [] : [{ refusal, words }]
      })
      const asked = witnessed(
        context,
        name,
        alike.map(({ refusal }) => refusal.key),
        (key) => {
          const { refusal, words } = alike.find((one) => one.refusal.key === key)!
          return { path: tellingPath(stage, refusal), facts: { interactable: name, words }, grant: null }
        },
      )
      const [first] = asked.found
      return [{ ...asked, found: first ? [first] : [] }]
    })
  },
  says({ interactable, words }) {
    return `${interactable} tells a player "${words}" when it refuses, and the same when it does what was asked.`
  },
  fix() {
    return 'Let a refusal sound, or read, differently.'
  },
}

/** The words that two lists of feedback share; or, where they are alike in everything, what they tell first; null for neither. */
function sharedBy(one: readonly Feedback[], other: readonly Feedback[]): string | null {
  const texts = (entries: readonly Feedback[]): string[] =>
    entries.flatMap(({ message, popup }) => [message ?? popup ?? ''].filter((text) => text !== ''))
  const words = texts(one).find((text) => texts(other).includes(text))
  if (words !== undefined) return words
  const told = (entries: readonly Feedback[]): string[] =>
    entries.map((entry) => `${channelOf(entry)} ${String(entry[channelOf(entry)])}`).sort()
  const [first] = one
  const isAlike = first !== undefined && told(one).join() === told(other).join()
  return isAlike ? String(first[channelOf(first)]) : null
}
