import type { NameProblem } from '../../interactables/index.ts'
import { listed } from '../shared/texts.ts'
import { sure } from '../shared/edits.ts'
import { isUsed, itemsGiven, leadsElsewhere } from '../shared/items.ts'
import { ruledOut, found, type Rule, undecided } from '../rule.ts'
import { unreadIn, whyUnread } from '../shared/elsewhere.ts'

/** What is known of a finding of this rule. */
export interface UnusedItemFacts {
  readonly item: string
  readonly title: string
  readonly givenBy: readonly string[]
}

/** An item that nothing asks for: it may be given, but it is of no use. */
export const unusedItem: Rule<UnusedItemFacts> = {
  name: 'unused-item',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded }, project }) {
    // Where nothing is asked of a player, having something may be all there is to it.
    if (expanded.goals.length === 0 || (!project && leadsElsewhere(expanded))) return []
    const levels = project ? Object.values(project.levels) : []
    const unread = project ? unreadIn(project) : []
    const given = itemsGiven(expanded)
    return expanded.items.map(({ name, title }, item) => {
      if ([expanded, ...levels].some((level) => isUsed(level, name))) return ruledOut(name)
      if (unread.length > 0) return undecided(name, whyUnread(unread))
      const givenBy = [...new Set(given.filter((one) => one.item === item).map(({ by }) => by))]
      // What several levels have in common need not be used in each.
      if (givenBy.length === 0 && expanded.source.isElsewhere(`items.${name}`)) return ruledOut(name)
      const facts = { item: name, title, givenBy } as const
      return found(name, { path: `items.${name}`, facts, steps: [], grant: null })
    })
  },
  says(facts) {
    return facts.givenBy.length > 0
      ? `Players have no use for the ${facts.title}: ${listed(facts.givenBy)} ${facts.givenBy.length > 1 ? 'give' : 'gives'} it, and nothing asks for it.`
      : `The ${facts.title} is not used at all: nothing gives it, and nothing asks for it.`
  },
  fix(facts) {
    return facts.givenBy.length > 0 ? 'Let something ask for it, or take it out of the level.' : 'Take it out.'
  },
  edit({ stage, path, facts }) {
    // What a wrong name may have meant is not in no use.
    if (facts.givenBy.length > 0 || stage.expanded.problems.some((one) => isMeant(one, facts.item))) return null
    return sure({ do: 'remove', path })
  },
}

function isMeant(problem: NameProblem, name: string): boolean {
  return problem.rule === 'unknown-name' && problem.nearest === name
}
