import type { Stage } from '../../play/index.ts'
import type { Hop, Space } from '../../space/index.ts'
import type { Passing, SurePart } from '../sure.ts'
import { Passings } from './passing.ts'

/** A sure move of the first character on a patch. */
export interface SurePartAt {
  readonly patch: number
  readonly part: SurePart
}

/**
 * By patch of the first character, the first of its component: of the patches between whose standing spots it walks to and fro past
 * nothing. At rest such walks change nothing but the patch, so that what can be made good from one of them can be from all.
 */
export function componentsOf(space: Space): Int32Array {
  const { patches } = space.patches[0]!
  const parent = Int32Array.from(patches.keys())
  const root = (patch: number): number => {
    let at = patch
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!
    return at
  }
  for (const patch of patches.keys()) {
    for (const hop of space.hops(0, patch)) {
      if (isFree(hop) && space.hops(0, hop.to).some((back) => back.to === patch && isFree(back))) {
        const [a, b] = [root(patch), root(hop.to)]
        parent[Math.max(a, b)] = Math.min(a, b)
      }
    }
  }
  return parent.map((_, patch) => root(patch))
}

function isFree({ events }: Hop): boolean {
  return events.length === 0
}

/**
 * The sure moves that may lead to something else, from patches that are reached: of those of one component that do alike, one;
 * of those that pass the same body to the same component, the quickest. Null now and then, for a pause.
 */
export function* surePartsOf(
  stage: Stage,
  components: Int32Array,
  isReached: (patch: number) => boolean,
): Generator<SurePartAt | null> {
  const { space, expanded, tables } = stage
  const passings = new Passings(stage)
  // Where people are moved, or have to look at what they press, the spot on which they stand has a say too.
  const spotMatters =
    tables.movesPeople ||
    expanded.characters[0]!.probe !== null ||
    expanded.interactables.some(({ aim, inTheWay }) => aim !== null || inTheWay === 'push')
  const made = new Set<string>()
  const quickest = new Map<string, { readonly patch: number; readonly part: Passing; readonly ms: number }>()
  for (const [patch, { firm, signature }] of space.patches[0]!.patches.entries()) {
    if (!firm || !isReached(patch)) continue
    yield null
    const spot = spotMatters ? String(patch) : ''
    for (const [i, { interactable, lingers }] of signature.candidates.entries()) {
      if (lingers) continue
      const nearer = signature.candidates.slice(0, i + 1)
      const key = JSON.stringify([components[patch], spot, signature.zones, signature.bodies, nearer])
      if (made.has(key)) continue
      made.add(key)
      yield { patch, part: { do: 'act', actor: 0, machine: interactable } }
    }
    for (const hop of space.hops(0, patch)) {
      if (!isFree(hop) || components[hop.to] !== components[patch]) yield { patch, part: { do: 'walk', actor: 0, hop } }
    }
    for (const part of passings.from(patch)) {
      const { first, hops } = part
      const begun = first.do === 'act' ? first.machine : first.hop.events.map(({ index, inside }) => [index, inside])
      const ms = hops.reduce((sum, hop) => sum + hop.ms, first.do === 'walk' ? first.hop.ms : 0)
      const key = JSON.stringify([components[patch], spot, begun, components[hops.at(-1)!.to]])
      const known = quickest.get(key)
      if (!known || ms < known.ms) quickest.set(key, { patch, part, ms })
    }
  }
  for (const { patch, part } of quickest.values()) yield { patch, part }
}
