import type { Patches, Signature } from '../space/index.ts'

/** A walk from one patch into another beside it. */
export interface Way {
  readonly to: number
  /** The bodies onto whose ground it leads from elsewhere: none of them may block. */
  readonly bodies: readonly number[]
  /** The borders of zones that it crosses: into zones first, then out of others. */
  readonly crossed: readonly { readonly zone: number; readonly inside: boolean }[]
  /** The bodies whose ground it leaves. */
  readonly cleared: readonly number[]
  /** Whether nothing can notice it. */
  readonly plain: boolean
}

/** The walks that lead out of a patch. */
export function waysFrom({ patches, beside }: Patches, patch: number): Way[] {
  return beside[patch]!.map((to) => wayBetween(patches[patch]!.signature, patches[to]!.signature, to))
}

/** The walk from a spot with one signature to a patch with another, whether or not it is beside it. */
export function wayBetween(from: Signature, { zones, bodies }: Signature, to: number): Way {
  const entered = zones.filter((zone) => !from.zones.includes(zone))
  const left = from.zones.filter((zone) => !zones.includes(zone))
  const cleared = from.bodies.filter((body) => !bodies.includes(body))
  const crossed = [...entered.map((zone) => ({ zone, inside: true })), ...left.map((zone) => ({ zone, inside: false }))]
  const onto = bodies.filter((body) => !from.bodies.includes(body))
  return { to, bodies: onto, crossed, cleared, plain: crossed.length + cleared.length === 0 }
}
