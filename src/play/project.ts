import { z } from 'zod'
import type { Change, Expanded } from '../interactables/index.ts'
import { diagnostic, type Diagnostic, nearestName, quoted, type Reading, readSource, shaped } from '../model/index.ts'

const name = z.string().regex(/^[a-z][a-z0-9-]*$/, { error: 'a name of lower-case letters, digits and dashes' })

const member = z.strictObject({
  file: z.string().min(1).max(1000).describe('Its level file, seen from the project file.'),
  remembers: z
    .enum(['everything', 'nothing'])
    .optional()
    .describe('Whether it is as it was left when one returns, or as at first; everything if left out.'),
  except: z.array(name).min(1).optional().describe('The interactables for which it is the other way round.'),
})

const start = z.strictObject({
  level: name,
  place: name.optional().describe('A place of that level; where its characters start if left out.'),
})

/** A project file, as it is written. */
export const projectSchema = z
  .strictObject({
    project: z.literal(1).describe('The version of the format.'),
    title: z.string().min(1),
    about: z.string().optional(),
    start: z
      .union([
        name,
        z.record(name, start).refine((all) => Object.keys(all).length > 0, { error: 'at least one start' }),
      ])
      .describe('The level that one begins in; or several starts by name, of which the first is the usual one.'),
    severities: z
      .record(name, z.enum(['error', 'warning', 'advice']))
      .optional()
      .describe('How bad findings of a rule are in this project, where it is not as usual.'),
    levels: z.record(name, member).refine((all) => Object.keys(all).length > 0, { error: 'at least one level' }),
  })
  .meta({ title: 'Zintel project' })

/** Several levels, joined by exits. */
export type Project = z.infer<typeof projectSchema>

/** Reads a project file. Never throws. */
export function readProject(text: string, file: string | null): Reading<Project> {
  const reading = shaped(readSource(text, file), projectSchema)
  if (!reading.value) return reading
  const { value, source } = reading
  const known = Object.keys(value.levels)
  const lost = Object.entries(startsOf(value)).flatMap(([start, { level }]) => {
    const path = typeof value.start === 'string' ? 'start' : `start.${start}.level`
    return known.includes(level) ? [] : [unknown('level', level, known, source.place(path))]
  })
  return lost.length === 0 ? reading : { ...reading, value: null, diagnostics: lost }
}

/** A way to begin a project. */
export type Start = z.infer<typeof start>

/** The starts of a project by name, the usual one first; one that has no name is called `start`. */
export function startsOf({ start }: Project): Readonly<Record<string, Start>> {
  return typeof start === 'string' ? { start: { level: start } } : start
}

/** The JSON Schema (2020-12) of project files, for editors. */
export function projectJsonSchema(): object {
  return { $id: 'urn:zintel:project:1', ...z.toJSONSchema(projectSchema, { io: 'input' }) }
}

/** What is wrong with a project and its levels together: see `lostExits` and `lostNames`. */
export function projectProblems(reading: Reading<Project>, levels: Readonly<Record<string, Expanded>>): Diagnostic[] {
  return [...Object.values(levels).flatMap((level) => lostExits(level, levels)), ...lostNames(reading, levels)]
}

/** Exits of a level that lead to no level or place of its project. */
function lostExits(expanded: Expanded, levels: Readonly<Record<string, Expanded>>): Diagnostic[] {
  const { source } = expanded
  return departures(expanded).flatMap(({ level, place, paths }): Diagnostic[] => {
    const there = levels[level]
    if (!there) return [unknown('level', level, Object.keys(levels), source.place(paths.level))]
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

/** Names in a project file that name nothing in its levels: exceptions, and places of starts. */
export function lostNames(
  { value, source }: Reading<Project>,
  levels: Readonly<Record<string, Expanded>>,
): Diagnostic[] {
  const excepted = Object.entries(value?.levels ?? {}).flatMap(([level, { except = [] }]) =>
    except.flatMap((one, i) => {
      const all = levels[level]?.interactables.map((placed) => placed.name) ?? []
      const path = `levels.${level}.except.${String(i)}`
      return all.includes(one) ? [] : [unknown('interactable', one, all, source.place(path))]
    }),
  )
  const places = Object.entries(value ? startsOf(value) : {}).flatMap(([start, { level, place }]) => {
    const all = levels[level]?.places.map((one) => one.name) ?? []
    if (place === undefined || all.includes(place)) return []
    return [unknown('place', place, all, source.place(`start.${start}.place`))]
  })
  return [...excepted, ...places]
}

function unknown(kind: string, wanted: string, names: readonly string[], place: Diagnostic['place']): Diagnostic {
  const message = `There is no ${kind} ${quoted(wanted)}${kind === 'level' ? ' in the project' : ''}.`
  return diagnostic('wrong-shape', place, message, { nearest: nearestName(wanted, names) })
}
