import { readSource } from '../model/index.ts'

/** What a file is, as far as its keys tell; null: none of these. */
export type FileKind = 'level' | 'project' | 'walkthrough'

/** The kind of a text. */
export function kindOf(text: string): FileKind | null {
  const { value } = readSource(text, null)
  if (typeof value !== 'object' || value === null) return null
  if (Object.hasOwn(value, 'project')) return 'project'
  if (Object.hasOwn(value, 'walkthrough')) return 'walkthrough'
  return Object.hasOwn(value, 'zintel') ? 'level' : null
}
