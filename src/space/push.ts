import { boxOf } from './boxes.ts'
import { between, distance, edges, nearestShare, type Point, type Segment, toSegment } from './geometry.ts'
import { eachCell, middleOf } from './grid.ts'
import { canStand } from './layout.ts'
import { bodyWithin, cornersOf } from './squares.ts'
import { onBody } from './zone-shapes.ts'
import type { Space } from './space.ts'

/** How far from a body that pushed it a character stands, in metres, beside its radius. */
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
  const { radius } = expanded.characters[character]!
  const { body } = layout.figures[machine]!
  if (!body) return null
  const others = blocking.flatMap((other) => (other === machine ? [] : [layout.figures[other]!.body ?? []]))
  let best: Point | null = null
  for (const side of edges(body)) {
    const spot = besideSide(side, from, radius + clearance)
    if (!canStand(layout, spot, radius) || [body, ...others].some((one) => onBody(one, spot, radius))) continue
    if (!best || distance(from, spot) < distance(from, best)) best = spot
  }
  return best
}

/** Squares of cells are halved so often to tell whether there is room beside a body. */
const halvings = 3

/**
 * Whether for certain a body can push a character out of its way wherever that can stand in it, whatever else blocks: `pushedTo` gives a spot
 * from everywhere. The spots of a square are pushed to spots no farther apart than they are.
 */
export function isRoomBeside(space: Space, character: number, machine: number): boolean {
  const { layout, expanded } = space
  const { grid } = space.patches[character]!
  const { radius } = expanded.characters[character]!
  const { body } = layout.figures[machine]!
  if (!body) return true
  const others = layout.figures.flatMap((figure, other) =>
    other !== machine && figure.comesAndGoes && figure.body ? [figure.body] : [],
  )
  const isPushed = (p: Point, slack: number, left: number): boolean => {
    if (bodyWithin(p, slack, body, radius) === 'no') return true
    // Nobody stands anywhere in a square so close to a wall.
    if (radius > slack && !canStand(layout, p, radius - slack)) return true
    const wide = radius + slack + 1e-6
    const isClear = edges(body).some((side) => {
      const spot = besideSide(side, p, radius + clearance)
      return canStand(layout, spot, wide) && !others.some((one) => onBody(one, spot, wide))
    })
    if (isClear || left === 0) return isClear
    const half = slack / 2
    return cornersOf(p, half).every((corner) => isPushed(corner, half, left - 1))
  }
  let isRoom = true
  eachCell(grid, boxOf(body), radius + grid.slack, (cell) => {
    isRoom &&= isPushed(middleOf(grid, cell), grid.slack, halvings)
  })
  return isRoom
}

/** The nearest spot that is so far off a side, straight out of it. */
function besideSide(side: Segment, from: Point, off: number): Point {
  return offSide(side, between(side.a, side.b, nearestShare(from, side)), off)
}

/** The spot so far straight out of a side from a point on it; corners of bodies go counter-clockwise. */
function offSide({ a, b }: Segment, foot: Point, off: number): Point {
  const length = distance(a, b)
  return [foot[0] + ((b[1] - a[1]) / length) * off, foot[1] - ((b[0] - a[0]) / length) * off]
}

/**
 * The patches to which a body may push a character, ascending: all that have a part in the cells that the line beside one
 * of its sides passes, and are clear of it. Every spot that `pushedTo` gives is on such a line.
 */
export function patchesPushedTo(space: Space, character: number, machine: number): number[] {
  const { grid, patches, patchesIn } = space.patches[character]!
  const { body } = space.layout.figures[machine]!
  const { radius } = space.expanded.characters[character]!
  const found = new Set<number>()
  for (const side of body ? edges(body) : []) {
    const line = { a: offSide(side, side.a, radius + clearance), b: offSide(side, side.b, radius + clearance) }
    eachCell(grid, boxOf([line.a, line.b]), grid.slack, (cell) => {
      if (toSegment(middleOf(grid, cell), line) > grid.slack + 1e-6) return
      for (const patch of patchesIn(cell)) if (!patches[patch]!.signature.bodies.includes(machine)) found.add(patch)
    })
  }
  return [...found].sort((a, b) => a - b)
}
