import type { Stage } from '../../play/index.ts'
import { listed } from '../shared/texts.ts'
import { canComeFromElsewhere } from '../shared/elsewhere.ts'
import { leadsElsewhere } from '../shared/items.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface TooFewItemsFacts {
  readonly item: string
  /** How many there are in all, and how many are used up in all. */
  readonly there: number
  readonly wanted: number
  readonly by: readonly string[]
}

/** An item of which more is used up, all in all, than there is: somebody who uses it on one thing has none left for another. */
export const tooFewItems: Rule<TooFewItemsFacts> = {
  name: 'too-few-items',
  severity: 'advice',
  isByLevel: true,
  ask({ stage, project }) {
    const { expanded } = stage
    return expanded.items.flatMap(({ name, title }, item) => {
      const uses = usesOf(stage, item)
      if (uses.length < 2) return []
      const there = supplyOf(stage, item)
      const wanted = uses.reduce((sum, { count }) => sum + count, 0)
      const by = [...new Set(uses.map((one) => one.by))]
      const isMore = leadsElsewhere(expanded) || (project !== null && canComeFromElsewhere(expanded, item, project))
      if (there >= wanted || there === 0 || by.length < 2 || isMore) return [ruledOut(name)]
      const facts = { item: title, there, wanted, by }
      return [found(name, { path: `items.${name}`, isAboutKey: true, facts, steps: [], grant: null })]
    })
  },
  says({ item, there, wanted, by }) {
    return `${listed(by)} use up ${String(wanted)} of the ${item} in all, and there ${there === 1 ? 'is' : 'are'} only ${String(there)}.`
  },
  fix() {
    return 'Give as many as are used up, keep the item where it need not go, or mean it as a choice and accept this.'
  },
}

/** Each thing that uses the item up, with the most that it takes at a time. */
function usesOf({ expanded }: Stage, item: number): { readonly by: string; readonly count: number }[] {
  return expanded.interactables.flatMap(({ name, transitions }) => {
    const counts = transitions.flatMap(({ changes }) =>
      changes.flatMap((change) => (change.kind === 'consume' && change.item === item ? [change.count] : [])),
    )
    return counts.length > 0 ? [{ by: name, count: Math.max(...counts) }] : []
  })
}

/** How many of an item there are in all; `Infinity` where something gives it again and again. */
function supplyOf({ expanded }: Stage, item: number): number {
  const carried = expanded.characters.reduce((sum, { carries }) => sum + (carries[item] ?? 0), 0)
  const held = expanded.contents.reduce((sum, one) => sum + (one.item === item ? one.count : 0), 0)
  let given = 0
  for (const { transitions } of expanded.interactables) {
    for (const { changes, from, to } of transitions) {
      for (const change of changes) {
        if (change.kind !== 'give' || change.item !== item) continue
        const seen = new Set(from.map((state) => to ?? state))
        for (const state of seen) {
          for (const row of transitions) if (row.from.includes(state)) seen.add(row.to ?? state)
        }
        given += from.some((state) => seen.has(state)) ? Infinity : change.count
      }
    }
  }
  return carried + held + given
}
