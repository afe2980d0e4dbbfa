import type { Check, NameProblem } from '../../interactables/index.ts'
import { nearestName } from '../../model/index.ts'
import { departures, type Stage } from '../../play/index.ts'
import { ruledOut, type Asked, type Context, found, type Grant, type Surroundings } from '../rule.ts'

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
  return [
    {
      rule: 'unknown-name',
      kind: 'place',
      path: paths.place,
      subject,
      name: place,
      nearest,
      known: places,
      misspelt: null,
    },
  ]
}

/** The problems of one kind. */
type Of<Kind extends NameProblem['rule']> = Extract<NameProblem, { readonly rule: Kind }>

/** The questions of a rule about names and values: one for each problem; where there is none, one for the level. */
export function askProblems<Kind extends NameProblem['rule']>(
  { problems, stage }: Context,
  rule: Kind,
): Asked<{ readonly problem: Of<Kind> }>[] {
  const own = problems.filter((problem): problem is Of<Kind> => problem.rule === rule)
  if (own.length === 0) return [ruledOut('level')]
  return own.map((problem) =>
    found(problem.subject, {
      path: problem.path,
      isAboutKey: isAboutKey(problem),
      facts: { problem },
      steps: [],
      grant: grantOf(problem, stage),
    }),
  )
}

/** Whether it is the key that is wrong. */
function isAboutKey(problem: NameProblem): boolean {
  return problem.rule === 'unknown-name' && problem.misspelt !== null
}

function grantOf(problem: NameProblem, stage: Stage): Grant | null {
  if (problem.rule === 'bad-value' && (problem.wrong.is === 'wheels' || problem.wrong.is === 'dial-too-far')) {
    const row = rowAsking(stage, problem.subject)
    return row < 0 ? null : { grant: 'row', row }
  }
  if (problem.rule !== 'unknown-name') return null
  if (problem.nearest === null) {
    const row = stage.tables.rows.find(({ transition: { path } }) => problem.path.startsWith(`${path}.`))
    return row ? { grant: 'row', row: row.index } : null
  }
  return { grant: 'name', paths: problem.misspelt?.paths ?? [problem.path], name: problem.nearest }
}

/** The first transition of an interactable that waits for its dial to stand as it never can; -1: none. */
function rowAsking({ tables, expanded }: Stage, interactable: string): number {
  const asks = (check: Check): boolean => {
    if (check.kind === 'all' || check.kind === 'any') return check.checks.some(asks)
    return check.kind === 'never' && check.name.startsWith('dial at ')
  }
  const row = tables.rows.find(({ machine, transition: { when, guard } }) => {
    if (expanded.interactables[machine]!.name !== interactable) return false
    return asks(guard) || (when.kind === 'becomes' && asks(when.check))
  })
  return row?.index ?? -1
}
