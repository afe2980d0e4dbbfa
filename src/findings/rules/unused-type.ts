import { unusedTypes } from '../shared/unused-types.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnusedTypeFacts {
  readonly type: string
}

/** A type that the level defines, and of which it has no instance. */
export const unusedType: Rule<UnusedTypeFacts> = {
  name: 'unused-type',
  severity: 'advice',
  isByLevel: true,
  ask({ stage, problems }) {
    const unused = unusedTypes(stage.expanded)
    // Where the type of an instance is misspelt, that is the cause.
    const isMisspelt = problems.some((problem) => problem.rule === 'unknown-name' && problem.kind === 'type')
    return Object.keys(stage.expanded.level.types ?? {}).map((type) =>
      isMisspelt || !unused.includes(type) || stage.expanded.source.isElsewhere(`types.${type}`)
        ? ruledOut(type)
        : found(type, { path: `types.${type}`, isAboutKey: true, facts: { type }, steps: [], grant: null }),
    )
  },
  lostType: ({ type }) => type,
  says({ type }) {
    return `The level defines the type ${type}, and nothing in it is of that type.`
  },
  fix({ type }) {
    return `Place an interactable with type: ${type}, or take the type out.`
  },
}
