import { between, distance, edges, nearestShare, type Point, type Segment } from './geometry.ts'
import { middleOf } from './grid.ts'
import { canStand } from './layout.ts'
import { onBody } from './legs.ts'
import type { Patches } from './patches.ts'
import type { Space } from './space.ts'

/** How far from a body that pushed it a character stands, in metres, beside half its girth. */
const clearance = 0.02

/**
 * Where a body that comes to block pushes a character: the nearest spot beside one of its sides where the character can
 * stand and no other blocking body is; null where there is none. Of spots that are as near, that at the first side.
 */
export function pushedTo(
  space: Space,
  character: number,
  from: Point,
  machine: number,
  blocking: readonly number[],
): Point | null {
  const { layout, expanded } = space
  const { girth } = expanded.characters[character]!
  const { body } = layout.figures[machine]!
  if (!body) return null
  const others = blocking.flatMap((other) => (other === machine ? [] : [layout.figures[other]!.body ?? []]))
  let best: Point | null = null
  for (const side of edges(body)) {
    const spot = besideSide(side, from, girth / 2 + clearance)
    if (!canStand(layout, spot, girth) || [body, ...others].some((one) => onBody(one, spot, girth))) continue
    if (!best || distance(from, spot) < distance(from, best)) best = spot
  }
  return best
}

/** The nearest spot that is so far off a side, straight out of it; corners of bodies go counter-clockwise. */
function besideSide(side: Segment, from: Point, off: number): Point {
  const foot = between(side.a, side.b, nearestShare(from, side))
  const length = distance(side.a, side.b)
  return [foot[0] + ((side.b[1] - side.a[1]) / length) * off, foot[1] - ((side.b[0] - side.a[0]) / length) * off]
}

/**
 * The patches to which a body may push a character that stands somewhere on a patch: those next to the ground of the
 * body that the patch belongs to, and those that samples are pushed to.
 */
export function patchesPushedTo(space: Space, character: number, patch: number, machine: number): number[] {
  const { patches, beside, patchAt } = space.patches[character]!
  const ground = new Set([patch])
  const found = new Set<number>()
  for (const on of ground) {
    for (const to of beside[on]!) (patches[to]!.sign.bodies.includes(machine) ? ground : found).add(to)
  }
  for (const spot of samplesOf(space.patches[character]!, patch)) {
    const to = pushedTo(space, character, spot, machine, [])
    if (to && patchAt(to) >= 0) found.add(patchAt(to))
  }
  return [...found].sort((a, b) => a - b)
}

function samplesOf({ grid, sureAt, patches }: Patches, patch: number): Point[] {
  const spots: Point[] = [patches[patch]!.spot]
  for (let cell = 0; cell < sureAt.length; cell++) {
    if (sureAt[cell] === patch) spots.push(middleOf(grid, cell))
  }
  return spots
}
