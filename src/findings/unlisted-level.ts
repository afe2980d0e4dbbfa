import { nearestName } from '../model/index.ts'
import { ruledOut, found, type Rule } from './rule.ts'

/** An exit to a level that the project does not list. Asked only where a level is checked as part of a project. */
export const unlistedLevel: Rule = {
  name: 'unlisted-level',
  severity: 'error',
  ask({ stage: { expanded }, project }) {
    if (!project) return []
    const names = Object.keys(project.levels)
    return expanded.interactables.flatMap(({ name, transitions }) =>
      transitions.flatMap(({ changes }) =>
        changes.flatMap((change) => {
          if (change.kind !== 'exit-to') return []
          const { level, paths } = change
          if (names.includes(level)) return [ruledOut(`${name}/${level}`)]
          const nearest = nearestName(level, names)
          const facts = { rule: 'unlisted-level', interactable: name, level, nearest } as const
          return [found(`${name}/${level}`, { path: paths.level, facts, steps: [], grant: null })]
        }),
      ),
    )
  },
}
