import * as z from 'zod'
import { diagnostic, type Diagnostic } from './diagnostics.ts'
import { type Level, levelSchema } from './level.ts'
import { condition } from './rules.ts'
import { readSource } from './read-source.ts'
import { type Source, valueSource } from './source.ts'
import { shapeDiagnostics } from './words.ts'

/** What came of reading: the value, or null and at least one diagnostic. */
export interface Reading<T> {
  readonly value: T | null
  readonly source: Source
  readonly diagnostics: readonly Diagnostic[]
}

/** Reads the shape of a level from YAML 1.2 or JSON. Names are not looked up, settings not checked. */
export function readShape(text: string, file: string | null): Reading<Level> {
  return shaped(readSource(text, file), levelSchema)
}

/** Holds a value of unknown origin to the shape of a level. */
export function checkShape(value: unknown): Reading<Level> {
  return shaped(valueSource(value), levelSchema)
}

/** Holds a source to a schema. Never throws; the value is the source's own, unchanged. */
export function shaped<T>(source: Source, schema: z.ZodType<T>): Reading<T> {
  if (source.diagnostics.length > 0) return { value: null, source, diagnostics: source.diagnostics }
  const found = checked(source, schema)
  // What an alias repeats is wrong once, where it is written: the first stands.
  const diagnostics = [...new Map([...found].reverse().map((one) => [causeOf(one), one])).values()].reverse()
  const byPlace = diagnostics.sort(
    (a, b) => (a.place.line ?? 0) - (b.place.line ?? 0) || (a.place.column ?? 0) - (b.place.column ?? 0),
  )
  if (byPlace.length > 0) return { value: null, source, diagnostics: byPlace }
  // The schema has just accepted the value, but for keys that begin with `x-`.
  return { value: source.value as T, source, diagnostics: [] }
}

/** What is the same for all diagnostics that say the same of one place in a text. */
function causeOf({ place, message }: Diagnostic): string {
  if (place.line === null) return `${place.path} ${message}`
  return `${String(place.line)}:${String(place.column)} ${message.replace(/^(The setting )?\S+ /, '')}`
}

function checked(source: Source, schema: z.ZodType): Diagnostic[] {
  if (typeof source.value !== 'object' || source.value === null || Array.isArray(source.value)) {
    const expected = 'a mapping of keys to values'
    return [diagnostic('wrong-shape', source.place(''), 'This is not a level or a walkthrough.', { expected })]
  }
  const result = schema.safeParse(source.value)
  if (result.success) return []
  const other = otherKind(source, schema)
  if (other) return [other]
  return shapeDiagnostics(result.error.issues, source, (path) => knownKeys(schema, path))
}

/** The key by which each kind of file is known, and what it is called. */
const kinds: readonly (readonly [key: string, name: string])[] = [
  ['zintel', 'a level'],
  ['walkthrough', 'a walkthrough'],
  ['project', 'a project'],
  ['common', 'a common file'],
]

/** Says of a file of another kind what it is; null where it is not known to be one. */
function otherKind(source: Source, schema: z.ZodType): Diagnostic | null {
  const keys = Object.keys(source.value as object)
  const own = kinds.find(([key]) => knownKeys(schema, []).includes(key))
  const found = kinds.find(([key]) => keys.includes(key))
  if (!own || !found || keys.includes(own[0])) return null
  return diagnostic('wrong-kind', source.keyPlace(found[0]), `This is ${found[1]}, not ${own[1]}.`)
}

/** The keys that a schema has at a path. */
function knownKeys(schema: z.ZodType, path: readonly PropertyKey[]): string[] {
  let at: z.ZodType[] = opened(schema)
  for (const key of path) at = at.flatMap((inner) => step(inner, String(key)))
  return [...new Set(at.flatMap((inner) => (inner instanceof z.ZodObject ? Object.keys(inner.shape) : [])))]
}

function step(schema: z.ZodType, key: string): z.ZodType[] {
  if (schema instanceof z.ZodObject) {
    const inner = (schema.shape as Record<string, z.ZodType | undefined>)[key]
    return inner ? opened(inner) : []
  }
  if (schema instanceof z.ZodRecord) return opened(schema.valueType as z.ZodType)
  if (schema instanceof z.ZodArray) return opened(schema.element as z.ZodType)
  return []
}

/** A schema without its wrappings; all branches of a union. */
function opened(schema: z.ZodType): z.ZodType[] {
  if (schema instanceof z.ZodOptional) return opened(schema.unwrap() as z.ZodType)
  if (schema instanceof z.ZodLazy) return opened(schema.unwrap() as z.ZodType)
  if (schema instanceof z.ZodUnion) return schema.options.flatMap((option) => opened(option as z.ZodType))
  return [schema]
}

/** Whether a value has the shape of a condition. */
export function isCondition(value: unknown): boolean {
  return condition.safeParse(value).success
}

/** The JSON Schema (2020-12) of level files, for editors. */
export function plainLevelSchema(): object {
  return z.toJSONSchema(levelSchema, { io: 'input' })
}
