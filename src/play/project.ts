import type { Change, Expanded } from '../interactables/index.ts'
import { diagnostic, type Diagnostic, nearestName, quoted, type Reading } from '../model/index.ts'
import type { Project, Start } from './project-file.ts'

/** The starts of a project by name, the usual one first; one that has no name is called `start`. */
export function startsOf({ start }: Project): Readonly<Record<string, Start>> {
  return typeof start === 'string' ? { start: { level: start } } : start
}

/** What is wrong with a project and its levels together: see `lostExits` and `lostNames`. */
export function projectProblems(reading: Reading<Project>, levels: Readonly<Record<string, Expanded>>): Diagnostic[] {
  const listed = Object.keys(reading.value?.levels ?? {})
  return [...Object.values(levels).flatMap((level) => lostExits(level, levels, listed)), ...lostNames(reading, levels)]
}

/** Exits of a level that lead to no level or place of its project, as far as that is known. */
function lostExits(
  expanded: Expanded,
  levels: Readonly<Record<string, Expanded>>,
  listed: readonly string[],
): Diagnostic[] {
  const { source } = expanded
  return departures(expanded).flatMap(({ level, place, paths }): Diagnostic[] => {
    const there = levels[level]
    if (!listed.includes(level)) return [unknown('level', level, listed, source.place(paths.level))]
    if (!there) return []
    const places = there.places.map(({ name }) => name)
    return places.includes(place) ? [] : [unknown('place', place, places, source.place(paths.place))]
  })
}

/** The ways out of a level to others, in file order. */
export function departures({ interactables }: Expanded): Extract<Change, { kind: 'exit-to' }>[] {
  return interactables.flatMap(({ transitions }) =>
    transitions.flatMap(({ changes }) => changes.flatMap((change) => (change.kind === 'exit-to' ? [change] : []))),
  )
}

/** Names in a project file that name nothing in its levels, of those that are known: exceptions, and places of starts. */
export function lostNames(
  { value, source }: Reading<Project>,
  levels: Readonly<Record<string, Expanded>>,
): Diagnostic[] {
  const excepted = Object.entries(value?.levels ?? {}).flatMap(([level, { except = [] }]) =>
    except.flatMap((one, i) => {
      const all = levels[level]?.interactables.map((placed) => placed.name) ?? [one]
      const path = `levels.${level}.except.${String(i)}`
      return all.includes(one) ? [] : [unknown('interactable', one, all, source.place(path))]
    }),
  )
  const places = Object.entries(value ? startsOf(value) : {}).flatMap(([start, { level, place }]) => {
    const all = levels[level]?.places.map((one) => one.name)
    if (!all || place === undefined || all.includes(place)) return []
    return [unknown('place', place, all, source.place(`start.${start}.place`))]
  })
  return [...excepted, ...places]
}

/** A name that names nothing, and the nearest that does. */
export function unknown(
  kind: string,
  wanted: string,
  names: readonly string[],
  place: Diagnostic['place'],
): Diagnostic {
  const message = `There is no ${kind} ${quoted(wanted)}${kind === 'level' ? ' in the project' : ''}.`
  return diagnostic('wrong-shape', place, message, { nearest: nearestName(wanted, names) })
}
