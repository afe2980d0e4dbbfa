import { type Reading, readSource, shaped } from '../model/index.ts'
import { startsOf, unknown } from './project.ts'
import { type Project, projectSchema } from './project-file.ts'

/** Reads a project file. Never throws. */
export function readProject(text: string, file: string | null = null): Reading<Project> {
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
