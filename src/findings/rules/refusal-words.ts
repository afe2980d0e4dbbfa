import { listed } from '../shared/texts.ts'
import { itemsNamed } from '../shared/items-named.ts'
import { saysLacking } from '../shared/lacking.ts'
import { rowSubject } from '../shared/rows.ts'
import { toldBySuccess } from '../shared/told.ts'
import { found, type Rule, ruledOut, undecided } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface RefusalWordsFacts {
  readonly interactable: string
  readonly message: string
  readonly items: readonly string[]
}

/** A message that says which item is lacking, told where what was asked for is done. */
export const refusalWords: Rule<RefusalWordsFacts> = {
  name: 'refusal-words',
  severity: 'advice',
  ask({ stage, evidence }) {
    const { expanded, tables } = stage
    const seen = new Set<string>()
    return tables.rows.flatMap((row) => {
      const placed = expanded.interactables[row.machine]!
      const words = toldBySuccess(stage, row).flatMap(({ message, popup }) => [message ?? popup ?? ''])
      const message = words.find((text) => saysLacking(text) && itemsIn(text).length > 0)
      const subject = rowSubject(stage, row)
      const answer = evidence.dead[row.index]!
      if (words.length === 0) return []
      if (message === undefined || answer.answer === 'found' || seen.has(`${row.transition.path} ${message}`)) {
        return [ruledOut(subject)]
      }
      if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
      seen.add(`${row.transition.path} ${message}`)
      const facts = { interactable: placed.name, message, items: itemsIn(message) }
      return [found(subject, { path: row.transition.path, facts, steps: [], grant: null })]

      function itemsIn(text: string): string[] {
        const own = text.includes('{item}') && placed.asksFor !== null ? [placed.asksFor.item] : []
        return [...new Set([...own, ...itemsNamed(expanded, text).map((item) => expanded.items[item]!.name)])]
      }
    })
  },
  says({ interactable, message, items }) {
    return `${interactable} does what was asked, and says "${message}": words for somebody who lacks the ${listed(items)}.`
  },
  fix() {
    return 'Say what happens, and move these words to refused: or missing:.'
  },
}
