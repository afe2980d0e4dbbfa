import { found, type Rule, ruledOut } from '../rule.ts'
import { likely, valueIn } from '../shared/edits.ts'
import { carriedIn } from '../shared/obstruction.ts'
import { rowSubject, rowTitle } from '../shared/rows.ts'
import { listed } from '../shared/texts.ts'

/** What is known of a finding of this rule. */
export interface UnaskedItemFacts {
  readonly interactable: string
  readonly transition: string
  /** What it uses up, by title. */
  readonly uses: string
  /** What it asks for, by title; none of it is used up. */
  readonly asks: readonly string[]
  /** The name of the only item that it asks for; null where there are several. */
  readonly only: string | null
}

/** A transition that uses up an item which it does not ask for, and keeps what it asks for: one of the two was mistaken for the other. */
export const unaskedItem: Rule<UnaskedItemFacts> = {
  name: 'unasked-item',
  severity: 'warning',
  ask({ stage }) {
    const { expanded, tables } = stage
    return tables.rows.flatMap((row) => {
      const { transition, machine } = row
      const { type, name } = expanded.interactables[machine]!
      // What built-in types use up beside what they ask for is a setting of theirs.
      if (expanded.level.types?.[type] === undefined) return []
      const used = transition.changes.flatMap((change) => (change.kind === 'consume' ? [change.item] : []))
      const [unasked] = used
      if (unasked === undefined) return []
      const subject = rowSubject(stage, row)
      const asked = [...new Set(carriedIn(transition.guard))]
      if (asked.length === 0 || used.some((item) => asked.includes(item))) return [ruledOut(subject)]
      const facts = {
        interactable: name,
        transition: rowTitle(stage, row),
        uses: expanded.items[unasked]!.title,
        asks: asked.map((item) => expanded.items[item]!.title),
        only: asked.length === 1 ? expanded.items[asked[0]!]!.name : null,
      }
      return [found(subject, { path: transition.spends ?? transition.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, transition, uses, asks }) {
    return `${interactable} (${transition}) asks for the ${listed(asks)}, and uses up the ${uses}, which it does not ask for.`
  },
  fix({ uses }) {
    return `Use up what it asks for, or ask for the ${uses}, too.`
  },
  edit({ stage, path, facts: { only } }) {
    const isName = typeof valueIn(stage, path) === 'string'
    return only !== null && isName ? likely({ do: 'replace', path, value: only }) : null
  },
}
