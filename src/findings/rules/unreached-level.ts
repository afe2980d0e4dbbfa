import type { Expanded } from '../../interactables/index.ts'
import { startsOf } from '../../play/index.ts'
import { found, type Rule, ruledOut, undecided } from '../rule.ts'
import { unreadIn, whyUnread } from '../shared/elsewhere.ts'
import { listed } from '../shared/texts.ts'

/** What is known of a finding of this rule. */
export interface UnreachedLevelFacts {
  readonly level: string
  /** The levels that the project starts in. */
  readonly starts: readonly string[]
}

/** A level of the project to which no exit leads from where the project starts. */
export const unreachedLevel: Rule<UnreachedLevelFacts> = {
  name: 'unreached-level',
  severity: 'warning',
  isByLevel: true,
  ask({ project }) {
    if (!project) return []
    const starts = [...new Set(Object.values(startsOf(project.project)).map(({ level }) => level))]
    const reached = new Set(starts)
    for (const name of reached) for (const to of exitsOf(project.levels[name])) reached.add(to)
    if (reached.has(project.level)) return [ruledOut(project.level)]
    const unread = unreadIn(project).filter((name) => reached.has(name))
    if (unread.length > 0) return [undecided(project.level, whyUnread(unread))]
    const facts = { level: project.level, starts }
    const grant = { grant: 'start', level: project.level } as const
    return [found(project.level, { path: 'title', isAboutKey: true, facts, steps: [], grant })]
  },
  says({ level, starts }) {
    return `Nobody comes to the level ${level}: no exit leads there from ${listed(starts)}, where the project starts.`
  },
  fix() {
    return 'Let an exit lead there, or take the level out of the project.'
  },
}

function exitsOf(level: Expanded | undefined): string[] {
  return (level?.interactables ?? []).flatMap(({ transitions }) =>
    transitions.flatMap(({ changes }) =>
      changes.flatMap((change) => (change.kind === 'exit-to' ? [change.level] : [])),
    ),
  )
}
