import { sure } from '../shared/edits.ts'
import { nearestName } from '../../model/index.ts'
import { ruledOut, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnlistedLevelFacts {
  readonly interactable: string
  readonly level: string
  readonly nearest: string | null
}

/** An exit to a level that the project does not list. Asked only where a level is checked as part of a project. */
export const unlistedLevel: Rule<UnlistedLevelFacts> = {
  name: 'unlisted-level',
  severity: 'error',
  isByLevel: true,
  ask({ stage: { expanded }, project }) {
    if (!project) return []
    const names = Object.keys(project.project.levels)
    return expanded.interactables.flatMap(({ name, transitions }) =>
      transitions.flatMap(({ changes }) =>
        changes.flatMap((change) => {
          if (change.kind !== 'exit-to') return []
          const { level, paths } = change
          if (names.includes(level)) return [ruledOut(`${name}/${level}`)]
          const nearest = nearestName(level, names)
          const facts = { interactable: name, level, nearest } as const
          return [found(`${name}/${level}`, { path: paths.level, facts, steps: [], grant: null })]
        }),
      ),
    )
  },
  says(facts) {
    return `${facts.interactable} leads to the level "${facts.level}", which the project does not list: it leads nowhere.`
  },
  fix(facts) {
    return facts.nearest === null ? 'List the level in the project, or lead elsewhere.' : `Write "${facts.nearest}".`
  },
  edit({ path, facts }) {
    return facts.nearest === null ? null : sure({ do: 'replace', path, value: facts.nearest })
  },
}
