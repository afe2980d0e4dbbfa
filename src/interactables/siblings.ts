import type { Copy, Level } from '../model/index.ts'
import { flow } from './described.ts'

/** One thing that a copy changes from its type, and how it stands to its siblings: other copies of the type. */
export interface Change {
  /** `set.lock.item`, `range.radius`, `starts`. */
  readonly path: string
  readonly value: string
  /** How many siblings there are, and how many of them have the same there. */
  readonly siblings: number
  readonly alike: number
}

/** A copy, and what it changes. */
export interface Listed {
  readonly name: string
  readonly type: string
  /** Where it stands: `in mill-entry`, or `at 2, 3`. */
  readonly place: string
  readonly tags: readonly string[]
  readonly changes: readonly Change[]
  /** What at least half of its siblings, and at least two, change and this one does not. */
  readonly lacks: readonly { readonly path: string; readonly siblings: number; readonly have: number }[]
}

const notChanges = new Set(['type', 'in', 'at', 'turn', 'tags'])

/** All copies of a level in file order, each with what it changes from its type and from its siblings. */
export function listCopies(level: Level): Listed[] {
  const copies = Object.entries(level.interactables ?? {})
  const changed = new Map(copies.map(([name, copy]) => [name, changesOf(copy)]))
  return copies.map(([name, copy]) => {
    const others = copies.filter(([other, { type }]) => other !== name && type === copy.type)
    const changes = [...changed.get(name)!].map(([path, value]) => {
      const alike = others.filter(([other]) => changed.get(other)!.get(path) === value).length
      return { path, value, siblings: others.length, alike }
    })
    const place = copy.in === undefined ? `at ${(copy.at ?? []).join(', ')}` : `in ${copy.in}`
    const paths = new Set(others.flatMap(([other]) => [...changed.get(other)!.keys()]))
    const lacks = [...paths].flatMap((path) => {
      const have = others.filter(([other]) => changed.get(other)!.has(path)).length
      if (changed.get(name)!.has(path) || have < 2 || 2 * have < others.length) return []
      return [{ path, siblings: others.length, have }]
    })
    return { name, type: copy.type, place, tags: copy.tags ?? [], changes, lacks }
  })
}

/** Everything that a copy says beside its type and its place: paths, and what stands there. */
function changesOf(copy: Copy): Map<string, string> {
  const changes = new Map<string, string>()
  for (const [key, value] of Object.entries(copy)) if (!notChanges.has(key)) collect(key, value, changes)
  return changes
}

function collect(path: string, value: unknown, into: Map<string, string>): void {
  if (typeof value === 'object' && value !== null && !Array.isArray(value)) {
    for (const [key, part] of Object.entries(value)) collect(`${path}.${key}`, part, into)
  } else into.set(path, flow(value))
}
