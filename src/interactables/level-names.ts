/**
 * Stands between the name of a level and a name in it, in names and paths of levels that are joined. No file has it, so that what
 * belongs to which level can always be told.
 */
export const levelMark = '\u2063'

/** A name of a level, or a path in it, as it is in the levels of a project that are joined. */
export function inLevel(level: string, name: string): string {
  return `${level}${levelMark}${name}`
}

/** The level that a name or a path belongs to, where it says so, and the name or path as it is there. */
export function levelIn(name: string): { readonly level: string | null; readonly name: string } {
  const [first] = name.matchAll(marked)
  return { level: first?.[1] ?? null, name: name.replace(marked, '') }
}

/** The levels that are named in a text. */
export function levelsNamed(text: string): string[] {
  return [...new Set([...text.matchAll(marked)].map(([, level]) => level!))]
}

const marked = new RegExp(`([a-z][a-z0-9-]*)${levelMark}`, 'g')

/** A value in all whose texts names and paths are as they are in their own levels. */
export function unmarked<T>(value: T): T {
  if (typeof value === 'string') return levelIn(value).name as T
  if (Array.isArray(value)) return value.map(unmarked) as T
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => [levelIn(key).name, unmarked(one as unknown)]),
  ) as T
}
