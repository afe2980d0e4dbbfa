import { askedByPlans, type Check, type Expanded } from '../../interactables/index.ts'
import { withoutPlaces } from '../shared/implied.ts'
import { type Asked, found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface DuplicateConditionFacts {
  readonly subject: string
  readonly of: 'all' | 'any'
}

/** A list of conditions in which one stands twice: often one of them was meant for something else. */
export const duplicateCondition: Rule<DuplicateConditionFacts> = {
  name: 'duplicate-condition',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    const seen = new Set<string>()
    return listsOf(expanded).flatMap(({ subject, path, check }): Asked<DuplicateConditionFacts>[] => {
      const of = duplicateIn(check)
      if (seen.has(path)) return []
      seen.add(path)
      if (of === null) return [ruledOut(subject)]
      return [found(subject, { path, facts: { subject, of }, steps: [], grant: null })]
    })
  },
  says({ subject, of }) {
    return `${subject} asks for the same twice under ${of}:.`
  },
  fix() {
    return 'Ask for something else in one of them, or take it out.'
  },
}

/** All conditions of goals and of the level's own types, with where they stand. */
function listsOf({ goals, requirements, interactables }: Expanded): { subject: string; path: string; check: Check }[] {
  return [
    ...askedByPlans({ goals, requirements }).map(({ name, path, check }) => ({ subject: name, path, check })),
    ...interactables.flatMap(({ name, transitions }) =>
      transitions.flatMap(({ guard, when, path }) => {
        if (!path.startsWith('types.')) return []
        const waited = when.kind === 'becomes' ? [when.check] : []
        return [guard, ...waited].map((check, i) => ({
          subject: name,
          path: i === 0 ? path : `${path}.trigger`,
          check,
        }))
      }),
    ),
  ]
}

/** In which kind of list a condition stands twice; null: in none. */
function duplicateIn(check: Check): 'all' | 'any' | null {
  if (check.kind === 'not') return duplicateIn(check.check)
  if (check.kind !== 'all' && check.kind !== 'any') return null
  const parts = check.checks.map((part) => JSON.stringify(withoutPlaces(part)))
  if (new Set(parts).size < parts.length) return check.kind
  return check.checks.map(duplicateIn).find((of) => of !== null) ?? null
}
