import { isUsed, itemsGiven, leadsElsewhere } from './items.ts'
import { ruledOut, found, type Rule } from './rule.ts'

/** An item that nothing asks for: it may be given, but it is of no use. */
export const unusedItem: Rule = {
  name: 'unused-item',
  severity: 'advice',
  ask({ stage: { expanded }, project }) {
    // Where nothing is asked of a player, having something may be all there is to it.
    if (expanded.goals.length === 0 || (!project && leadsElsewhere(expanded))) return []
    const levels = project ? Object.values(project.levels) : []
    const given = itemsGiven(expanded)
    return expanded.items.map(({ name, title }, item) => {
      if ([expanded, ...levels].some((level) => isUsed(level, name))) return ruledOut(name)
      const givenBy = [...new Set(given.filter((one) => one.item === item).map(({ by }) => by))]
      const facts = { rule: 'unused-item', item: name, title, givenBy } as const
      return found(name, { path: `items.${name}`, facts, steps: [], grant: null })
    })
  },
}
