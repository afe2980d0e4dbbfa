import * as z from 'zod'
import { diagnostic, type Diagnostic, quoted } from './diagnostics.ts'
import { item, type Level } from './level.ts'
import { name, text } from './parts.ts'
import { type Reading, shaped } from './read.ts'
import { readSource } from './read-source.ts'
import type { Source } from './source.ts'
import { typeDefinition } from './types.ts'

/** A file of what several levels have in common. */
const commonSchema = z
  .strictObject({
    common: z.literal(1).describe('The version of the format.'),
    title: text.optional(),
    about: text.optional(),
    items: z.record(name, item).optional(),
    types: z.record(name, typeDefinition).optional(),
  })
  .meta({ title: 'What Zintel levels have in common' })

/** Types and items that several levels have in common. */
type Common = z.infer<typeof commonSchema>

/** The JSON Schema (2020-12) of common files, for editors. */
export function commonJsonSchema(): object {
  return { $id: 'urn:zintel:common:1', ...z.toJSONSchema(commonSchema, { io: 'input' }) }
}

/** The common files that a level's text names, as it names them; empty where it names none, or cannot be read. */
export function commonFilesOf(levelText: string): string[] {
  // Most levels name none, and are not read for that.
  if (!levelText.includes('common')) return []
  const { value } = readSource(levelText, null)
  const named = typeof value === 'object' && value !== null ? (value as { common?: unknown }).common : undefined
  return Array.isArray(named) ? named.filter((one) => typeof one === 'string') : []
}

/** The path of a file that is named from another one: beside it. */
export function besideFile(file: string | null, named: string): string {
  const folder = file === null ? '' : file.slice(0, Math.max(file.lastIndexOf('/'), file.lastIndexOf('\\')) + 1)
  return folder + named
}

const sections = ['items', 'types'] as const

/**
 * A level with the items and types of its common files, whose texts are given by the names that the level has for them. What is wrong with such a file, one that is not given, and a
 * name that is defined twice are told.
 */
export function withCommon(reading: Reading<Level>, texts: Readonly<Record<string, string>>): Reading<Level> {
  const { value, source } = reading
  if (value?.common === undefined) return reading
  const diagnostics: Diagnostic[] = []
  const sources = new Map<string, Source>()
  const parts: Record<(typeof sections)[number], Record<string, unknown>> = { items: {}, types: {} }
  for (const [i, file] of value.common.entries()) {
    const given = Object.hasOwn(texts, file) ? texts[file] : undefined
    if (given === undefined) {
      const message = `The common file ${quoted(file)} cannot be read.`
      diagnostics.push(diagnostic('not-readable', source.place(`common.${String(i)}`), message))
      continue
    }
    const common: Reading<Common> = shaped(readSource(given, besideFile(source.file, file)), commonSchema)
    diagnostics.push(...common.diagnostics)
    for (const section of sections) {
      for (const [key, part] of Object.entries(common.value?.[section] ?? {})) {
        const path = `${section}.${key}`
        if (sources.has(path)) diagnostics.push(twice(common.source, path, sources.get(path)!))
        else if (value[section]?.[key] !== undefined) diagnostics.push(twice(source, path, common.source))
        else parts[section][key] = part
        if (!sources.has(path)) sources.set(path, common.source)
      }
    }
  }
  if (diagnostics.length > 0) return { value: null, source, diagnostics }
  const merged = { ...value }
  for (const section of sections) {
    const all = { ...parts[section], ...value[section] }
    if (Object.keys(all).length > 0) Object.assign(merged, { [section]: all })
  }
  return { value: merged, source: joinedSource(source, sources), diagnostics: [] }
}

function twice(source: Source, path: string, other: Source): Diagnostic {
  const [section = '', key = ''] = path.split('.')
  const message = `The ${section.slice(0, -1)} ${quoted(key)} is in ${other.file ?? 'another common file'} already.`
  return diagnostic('duplicate-key', source.keyPlace(path), message)
}

/** A source of which some parts stand in other files. There is nothing to be changed in these. */
function joinedSource(source: Source, others: ReadonlyMap<string, Source>): Source {
  const other = (path: string): Source | undefined => others.get(path.split('.').slice(0, 2).join('.'))
  return {
    ...source,
    isElsewhere: (path) => other(path) !== undefined,
    place: (path) => (other(path) ?? source).place(path),
    keyPlace: (path) => (other(path) ?? source).keyPlace(path),
    span: (path) => (other(path) ? null : source.span(path)),
    keySpan: (path) => (other(path) ? null : source.keySpan(path)),
  }
}
