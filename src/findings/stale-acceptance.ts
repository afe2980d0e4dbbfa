import { ruledOut, type Rule } from './rule.ts'

/** An acceptance in the level file that matches no finding; which ones do is only known once all others are asked. */
export const staleAcceptance: Rule = {
  name: 'stale-acceptance',
  severity: 'advice',
  ask: ({ stage }) => ((stage.expanded.level['accepted-findings'] ?? []).length === 0 ? [] : [ruledOut('level')]),
}
