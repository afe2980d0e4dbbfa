import type { NameProblem } from '../interactables/index.ts'
import { nearestName } from '../model/index.ts'
import { departures, type Stage } from '../play/index.ts'
import { ruledOut, type Asked, type Context, found, type Grant, type Surroundings } from './rule.ts'

/** All problems of names and values in a level: as it was read and laid out, and of exits into its project. */
export function problemsOf({ expanded, space }: Stage, project: Surroundings | null): NameProblem[] {
  const arrivals = project === null ? [] : departures(expanded).flatMap((exit) => lostArrival(exit, project.levels))
  return [...expanded.problems, ...space.layout.problems, ...arrivals]
}

/** An exit to a place that the other level does not have. */
function lostArrival(
  { level, place, paths }: ReturnType<typeof departures>[number],
  levels: Surroundings['levels'],
): NameProblem[] {
  const places = levels[level]?.places.map(({ name }) => name)
  if (!places || places.includes(place)) return []
  const subject = paths.place.split('.')[1] ?? level
  const nearest = nearestName(place, places)
  return [{ rule: 'unknown-name', kind: 'place', path: paths.place, subject, name: place, nearest }]
}

/** The questions of a rule about names and values: one for each problem; where there is none, one for the level. */
export function askProblems({ problems }: Context, rule: NameProblem['rule']): Asked[] {
  const own = problems.filter((problem) => problem.rule === rule)
  if (own.length === 0) return [ruledOut('level')]
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
