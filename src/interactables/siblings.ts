import type { Instance, Level } from '../model/index.ts'
import { flow } from './described.ts'

/** One thing that an instance changes from its type, and how it stands to its siblings: other instances of the type. */
export interface Change {
  /** `set.lock.item`, `range.radius`, `starts`. */
  readonly path: string
  readonly value: string
  /** How many siblings there are, and how many of them have the same there. */
  readonly siblings: number
  readonly alike: number
}

/** An instance, and what it changes. */
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

/** What the instances of a type change: how many there are, and how many of them have a path, and the same there. */
interface Siblings {
  count: number
  readonly having: Map<string, number>
  readonly alike: Map<string, number>
}

/** All instances of a level in file order, each with what it changes from its type and from its siblings. */
export function listInstances(level: Level): Listed[] {
  const instances = Object.entries(level.interactables ?? {}).map(([name, instance]) => ({
    name,
    instance,
    changed: changesOf(instance),
  }))
  const byType = new Map<string, Siblings>()
  for (const { instance, changed } of instances) {
    const all: Siblings = byType.get(instance.type) ?? { count: 0, having: new Map(), alike: new Map() }
    byType.set(instance.type, all)
    all.count++
    for (const [path, value] of changed) {
      all.having.set(path, (all.having.get(path) ?? 0) + 1)
      all.alike.set(valueKey(path, value), (all.alike.get(valueKey(path, value)) ?? 0) + 1)
    }
  }
  return instances.map(({ name, instance, changed }) => {
    const { count, having, alike } = byType.get(instance.type)!
    const siblings = count - 1
    const changes = [...changed].map(([path, value]) => {
      return { path, value, siblings, alike: alike.get(valueKey(path, value))! - 1 }
    })
    const place = instance.in === undefined ? `at ${(instance.at ?? []).join(', ')}` : `in ${instance.in}`
    const lacks = [...having].flatMap(([path, have]) => {
      if (changed.has(path) || have < 2 || 2 * have < siblings) return []
      return [{ path, siblings, have }]
    })
    return { name, type: instance.type, place, tags: instance.tags ?? [], changes, lacks }
  })
}

function valueKey(path: string, value: string): string {
  return JSON.stringify([path, value])
}

/** Everything that an instance says beside its type and its place: paths, and what stands there. */
function changesOf(instance: Instance): Map<string, string> {
  const changes = new Map<string, string>()
  for (const [key, value] of Object.entries(instance)) if (!notChanges.has(key)) collect(key, value, changes)
  return changes
}

function collect(path: string, value: unknown, into: Map<string, string>): void {
  if (typeof value === 'object' && value !== null && !Array.isArray(value)) {
    for (const [key, part] of Object.entries(value)) collect(`${path}.${key}`, part, into)
  } else into.set(path, flow(value))
}
