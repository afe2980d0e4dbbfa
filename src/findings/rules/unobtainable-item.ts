import { listed } from '../shared/texts.ts'
import { unusedTypeThat } from '../shared/unused-types.ts'
import type { Expanded } from '../../interactables/index.ts'
import { itemsAskedFor, itemsGiven, leadsElsewhere } from '../shared/items.ts'
import { ruledOut, found, type Rule, undecided } from '../rule.ts'
import { unreadIn, whyUnread } from '../shared/elsewhere.ts'

/** What is known of a finding of this rule. */
export interface UnobtainableItemFacts {
  readonly item: string
  readonly title: string
  readonly askedBy: readonly string[]
  /** A type that would give it, and that nothing in the level is of. */
  readonly unusedType: string | null
}

/** An item that something asks for, and that nobody can ever get: nothing gives it, and nobody carries it. */
export const unobtainableItem: Rule<UnobtainableItemFacts> = {
  name: 'unobtainable-item',
  severity: 'error',
  isByLevel: true,
  ask({ stage: { expanded }, project }) {
    if (!project && leadsElsewhere(expanded)) return []
    const asked = itemsAskedFor(expanded)
    const levels = project ? Object.values(project.levels) : []
    const unread = project ? unreadIn(project) : []
    return expanded.items.flatMap(({ name, title }, item) => {
      const own = asked.filter((one) => one.item === item && one.isWanted)
      if (own.length === 0) return []
      if ([expanded, ...levels].some((level) => canBeHad(level, name))) return [ruledOut(name)]
      if (unread.length > 0) return [undecided(name, whyUnread(unread))]
      const askedBy = [...new Set(own.map(({ by }) => by))]
      const facts = { item: name, title, askedBy, unusedType: unusedTypeThat(expanded, 'give', name) } as const
      const path = own.find((one) => one.path !== '')?.path ?? `items.${name}`
      return [found(name, { path, facts, steps: [], grant: { grant: 'item', item } })]
    })
  },
  lostType: ({ unusedType }) => unusedType,
  says(facts) {
    return `${listed(facts.askedBy)} ${facts.askedBy.length > 1 ? 'ask' : 'asks'} for the ${facts.title}, and nobody can ever get one: ${facts.unusedType === null ? 'nothing gives it' : `only the type ${facts.unusedType} gives it, and nothing is of that type`}, and nobody starts with it.`
  },
  fix(facts) {
    if (facts.unusedType !== null) return `Place an interactable with type: ${facts.unusedType}.`
    return `Let something give the ${facts.title}, or ask for something else.`
  },
}

function canBeHad(expanded: Expanded, name: string): boolean {
  const item = expanded.items.findIndex((one) => one.name === name)
  return (
    itemsGiven(expanded).some((one) => one.item === item) ||
    expanded.characters.some(({ carries }) => carries[item]! > 0)
  )
}
