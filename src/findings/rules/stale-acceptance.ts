import { likely } from '../shared/edits.ts'
import { ruledOut, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface StaleAcceptanceFacts {
  readonly accepted: string
  readonly of: string | null
}

/** An acceptance in the level file that matches no finding; which ones do is only known once all others are asked. */
export const staleAcceptance: Rule<StaleAcceptanceFacts> = {
  name: 'stale-acceptance',
  severity: 'advice',
  ask: ({ stage }) => ((stage.expanded.level['accepted-findings'] ?? []).length === 0 ? [] : [ruledOut('level')]),
  says(facts) {
    return `Nothing is found any more that this accepts: ${facts.accepted}${facts.of === null ? '' : ` of ${facts.of}`}.`
  },
  fix() {
    return 'Take the acceptance out.'
  },
  edit({ stage, path }) {
    // An empty list of accepted findings is none.
    const isOnly = stage.expanded.level['accepted-findings']?.length === 1
    return likely({ do: 'remove', path: isOnly ? 'accepted-findings' : path })
  },
}
