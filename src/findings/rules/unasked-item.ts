import type { Check, PlacedTransition } from '../../interactables/index.ts'
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
  /** How many it uses up, and how many it asks for, where it asks for some, and for fewer; else null. */
  readonly more: { readonly used: number; readonly asked: number } | null
}

/** A transition that uses up an item which it does not ask for, and keeps what it asks for: one of the two was mistaken for the other. */
export const unaskedItem: Rule<UnaskedItemFacts> = {
  name: 'unasked-item',
  severity: 'warning',
  isByLevel: true,
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
      const more = moreThanAsked(transition)
      const isOther = asked.length > 0 && !used.some((item) => asked.includes(item))
      if (!isOther && !more) return [ruledOut(subject)]
      const facts = {
        interactable: name,
        transition: rowTitle(stage, row),
        uses: expanded.items[more?.item ?? unasked]!.title,
        asks: asked.map((item) => expanded.items[item]!.title),
        only: asked.length === 1 ? expanded.items[asked[0]!]!.name : null,
        more: more && { used: more.used, asked: more.asked },
      }
      return [found(subject, { path: transition.spends ?? transition.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, transition, uses, asks, more }) {
    if (more) {
      return `${interactable} (${transition}) asks for ${String(more.asked)} × ${uses}, and uses up ${String(more.used)}: with fewer, it takes what there is.`
    }
    return `${interactable} (${transition}) asks for the ${listed(asks)}, and uses up the ${uses}, which it does not ask for.`
  },
  fix({ uses, more }) {
    if (more) return 'Ask for as many as are used up, or use up something else.'
    return `Use up what it asks for, or ask for the ${uses}, too.`
  },
  edit({ stage, path, facts: { only, more } }) {
    if (more) return null
    const isName = typeof valueIn(stage, path) === 'string'
    return only !== null && isName ? likely({ do: 'replace', path, value: only }) : null
  },
}

/** An item of which more is used up than is asked for, where some is; null: none. */
function moreThanAsked({
  changes,
  guard,
}: PlacedTransition): { readonly item: number; readonly used: number; readonly asked: number } | null {
  const uses = changes.flatMap((change) => (change.kind === 'consume' ? [change] : []))
  for (const { item } of uses) {
    const used = uses.filter((one) => one.item === item).reduce((sum, { count }) => sum + count, 0)
    const asked = askedOf(guard, item)
    if (asked > 0 && used > asked) return { item, used, asked }
  }
  return null
}

/** How many of an item a condition asks to be carried, at the least. */
function askedOf(check: Check, item: number): number {
  if (check.kind === 'carries') return check.item === item ? check.count : 0
  if (check.kind === 'all') return Math.max(0, ...check.checks.map((part) => askedOf(part, item)))
  return 0
}
