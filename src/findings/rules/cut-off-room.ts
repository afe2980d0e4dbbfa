import type { Placed } from '../../interactables/index.ts'
import { inPolygon, type Point } from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { barredRooms, isComeInto, openGround } from '../shared/cut-off.ts'
import { patchesWithin } from '../shared/ground.ts'
import { listed } from '../shared/texts.ts'

/** What is known of a finding of this rule. */
export interface CutOffRoomFacts {
  readonly room: string
  /** What stands in it. */
  readonly holds: readonly string[]
  /** Rooms that it touches. */
  readonly touches: readonly string[]
}

/** A room in which something stands and into which nobody can come, even with everything open: no doorway leads there. */
export const cutOffRoom: Rule<CutOffRoomFacts> = {
  name: 'cut-off-room',
  severity: 'error',
  isByLevel: true,
  ask({ stage }) {
    const { rooms } = stage.space.layout
    const open = openGround(stage)
    // A doorway leads there, and what stands in it never gives way: that is told of what stands there.
    const barred = barredRooms(stage)
    return rooms.flatMap(({ name, outline }) => {
      const holds = stage.expanded.interactables.filter((placed) => isIn(placed, outline)).map((one) => one.name)
      if (holds.length === 0) return []
      if (barred.has(name) || isComeInto(stage, outline, open)) return [ruledOut(name)]
      const patches = patchesWithin(stage, [outline])
      if (patches.every((own) => own.length === 0)) return [ruledOut(name)]
      const touches = rooms.filter((other) => other.name !== name && isTouching(outline, other.outline))
      const facts = { room: name, holds, touches: touches.map((other) => other.name) }
      return [
        found(name, { path: `rooms.${name}`, isAboutKey: true, facts, steps: [], grant: { grant: 'way', patches } }),
      ]
    })
  },
  says({ room, holds, touches }) {
    const beside = touches.length === 0 ? '' : ` It touches ${listed(touches)}, but only a doorway joins two rooms.`
    return `Nobody can come into the room ${room}, where ${listed(holds)} ${holds.length > 1 ? 'stand' : 'stands'}: no doorway leads there.${beside}`
  },
  fix() {
    return 'Add a doorway that joins it to a room beside it, or move what stands in it.'
  },
}

function isIn({ at, doorway }: Placed, outline: readonly Point[]): boolean {
  return doorway === null && at !== null && inPolygon([at[0], at[1]], outline)
}

/** Whether two outlines have a piece of a side in common. */
function isTouching(one: readonly Point[], other: readonly Point[]): boolean {
  return sidesOf(one).some(([a, b]) => sidesOf(other).some(([c, d]) => isShared(a, b, c, d)))
}

type Side = readonly [Point, Point]

function sidesOf(outline: readonly Point[]): Side[] {
  return outline.map((corner, i) => [corner, outline[(i + 1) % outline.length]!])
}

/** Whether two sides lie on one line, and have more than a corner in common; a millimetre does not matter. */
function isShared(...[a, b, c, d]: readonly [...Side, ...Side]): boolean {
  const [x, y] = [b[0] - a[0], b[1] - a[1]]
  const length = Math.hypot(x, y)
  const off = (p: Point): number => Math.abs((p[0] - a[0]) * y - (p[1] - a[1]) * x) / length
  const along = (p: Point): number => ((p[0] - a[0]) * x + (p[1] - a[1]) * y) / length
  if (length === 0 || off(c) > 1e-3 || off(d) > 1e-3) return false
  const [from, to] = [Math.min(along(c), along(d)), Math.max(along(c), along(d))]
  return Math.min(to, length) - Math.max(from, 0) > 1e-3
}
