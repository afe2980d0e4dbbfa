import type { NameProblem } from '../interactables/index.ts'
import { absent, type Asked, type Context, found, type Grant } from './rule.ts'

/** The questions of a rule about names and values: one for each problem; where there is none, one for the level. */
export function askProblems({ problems }: Context, rule: NameProblem['rule']): Asked[] {
  const own = problems.filter((problem) => problem.rule === rule)
  if (own.length === 0) return [absent('level')]
  return own.map((problem) =>
    found(problem.subject, {
      path: problem.path,
      facts: { rule, problem },
      steps: [],
      grant: grantOf(problem),
    }),
  )
}

function grantOf(problem: NameProblem): Grant | null {
  if (problem.rule !== 'unknown-name' || problem.nearest === null) return null
  return { grant: 'name', path: problem.path, name: problem.nearest }
}
