import level from 'zintel/level.schema.json'
import project from 'zintel/project.schema.json'
import walkthrough from 'zintel/walkthrough.schema.json'
import type { FileKind } from '../desk/files.ts'

/** A part of a JSON Schema, as far as completion asks. */
export interface Schema {
  readonly $ref?: string
  readonly $defs?: Readonly<Record<string, Schema>>
  readonly description?: string
  readonly properties?: Readonly<Record<string, Schema>>
  readonly additionalProperties?: Schema | boolean
  readonly items?: Schema | boolean
  readonly prefixItems?: readonly Schema[]
  readonly anyOf?: readonly Schema[]
  readonly oneOf?: readonly Schema[]
  readonly allOf?: readonly Schema[]
  readonly enum?: readonly unknown[]
  readonly const?: unknown
  readonly type?: string | readonly string[]
}

const roots: Partial<Record<FileKind, Schema>> = { level, project, walkthrough } as Partial<Record<FileKind, Schema>>

/** All that a part of a file may be: the schemas at a path of keys; an entry of a list is `0`. */
export function schemasAt(kind: FileKind, path: readonly string[]): Schema[] {
  const root = roots[kind]
  if (!root) return []
  let here = spread(root, root)
  for (const key of path) here = here.flatMap((one) => within(one, key)).flatMap((one) => spread(one, root))
  return here
}

function within(schema: Schema, key: string): Schema[] {
  const own = schema.properties?.[key]
  if (own) return [own]
  const found: Schema[] = []
  if (typeof schema.additionalProperties === 'object') found.push(schema.additionalProperties)
  if (/^\d+$/.test(key)) {
    const item = schema.prefixItems?.[Number(key)]
    if (item) found.push(item)
    else if (typeof schema.items === 'object') found.push(schema.items)
  }
  return found
}

/** A schema with what it refers to, and all it may be instead. */
function spread(schema: Schema, root: Schema, depth = 0): Schema[] {
  if (depth > 12) return []
  const name = schema.$ref?.replace('#/$defs/', '')
  const referred = schema.$ref === '#' ? root : name === undefined ? undefined : root.$defs?.[name]
  const others = [...(schema.anyOf ?? []), ...(schema.oneOf ?? []), ...(schema.allOf ?? [])]
  const all = [...(referred ? [referred] : []), ...others].flatMap((one) => spread(one, root, depth + 1))
  const { description } = schema
  const told =
    description === undefined ? all : all.map((one) => ({ ...one, description: one.description ?? description }))
  return [schema, ...told]
}

/** The keys that a part may have, with what they are for. */
export function keysAt(kind: FileKind, path: readonly string[]): { readonly key: string; readonly about: string }[] {
  const found = new Map<string, string>()
  for (const one of schemasAt(kind, path)) {
    for (const [key, schema] of Object.entries(one.properties ?? {})) {
      const about = schema.description ?? spread(schema, roots[kind] ?? {})[1]?.description ?? ''
      if ((found.get(key) ?? '') === '') found.set(key, about)
    }
  }
  return [...found].map(([key, about]) => ({ key, about }))
}

/** The values that a part may have, where there are only some. */
export function valuesAt(kind: FileKind, path: readonly string[]): string[] {
  const all = schemasAt(kind, path)
  const words = all.flatMap((one) => [...(one.enum ?? []), ...(one.const === undefined ? [] : [one.const])])
  const isFlag = all.some(({ type }) => type === 'boolean')
  return [...new Set([...words.map(String), ...(isFlag ? ['true', 'false'] : [])])]
}

/** What a part is for; empty where nothing says so. */
export function aboutAt(kind: FileKind, path: readonly string[]): string {
  return schemasAt(kind, path).find(({ description }) => description !== undefined)?.description ?? ''
}
