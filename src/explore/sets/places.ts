import type { Patches } from '../../space/index.ts'

/**
 * The patches of a character in groups: between those of one group it can walk to and fro, and nothing notices. Whatever is
 * so while it stands on one of them can be so while it stands on any other, so that one place stands for all.
 */
export interface Places {
  /** By patch, the place that it belongs to. */
  readonly of: readonly number[]
  /** By place, its patches. */
  readonly patches: readonly (readonly number[])[]
}

/** Groups patches: walks between them cross no border of a zone, and step onto and off no body. */
export function placesOf(ground: Patches): Places {
  const parent = ground.patches.map((_, patch) => patch)
  const root = (patch: number): number => {
    let at = patch
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!
    return at
  }
  for (const [patch, { signature }] of ground.patches.entries()) {
    for (const other of ground.beside[patch]!) {
      const same = ground.patches[other]!.signature
      if (!ground.beside[other]!.includes(patch)) continue
      if (signature.zones.join() === same.zones.join() && signature.bodies.join() === same.bodies.join()) {
        parent[root(patch)] = root(other)
      }
    }
  }
  return numbered(ground.patches.map((_, patch) => root(patch)))
}

/** Each patch a place of its own. */
export function placesApart(ground: Patches): Places {
  return numbered(ground.patches.map((_, patch) => patch))
}

function numbered(roots: readonly number[]): Places {
  const numbers = new Map([...new Set(roots)].map((root, place) => [root, place]))
  const of = roots.map((root) => numbers.get(root)!)
  const patches: number[][] = Array.from(numbers, () => [])
  for (const [patch, place] of of.entries()) patches[place]!.push(patch)
  return { of, patches }
}
