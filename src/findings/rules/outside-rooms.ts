import { distance, inPolygon, type Point } from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface OutsideRoomsFacts {
  readonly interactable: string
  /** Metres to the nearest room. */
  readonly off: number
  readonly nearest: string
}

/** So many metres outside of every room something may stand: a clock on a tower, a boat off the quay. */
const farthest = 8

/** An interactable that stands far outside of every room: nobody comes near it, and hardly anybody sees it. */
export const outsideRooms: Rule<OutsideRoomsFacts> = {
  name: 'outside-rooms',
  severity: 'warning',
  isByLevel: true,
  ask({ stage: { expanded, space } }) {
    const { rooms, doorways } = space.layout
    if (rooms.length === 0) return []
    return expanded.interactables.flatMap(({ name, path, at, doorway, index }) => {
      // Of what is to be pressed it is told that nobody can reach it.
      if (at === null || doorway !== null || space.layout.figures[index]!.pressable) return []
      const spot: Point = [at[0], at[1]]
      const near = rooms
        .map((room) => ({ room: room.name, off: inPolygon(spot, room.outline) ? 0 : toOutline(spot, room.outline) }))
        .reduce((best, one) => (one.off < best.off ? one : best))
      const isInDoorway = doorways.some((one) => distance(one.at, spot) < farthest)
      if (near.off <= farthest || isInDoorway) return [ruledOut(name)]
      const facts = { interactable: name, off: near.off, nearest: near.room }
      return [found(name, { path: `${path}.at`, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, off, nearest }) {
    return `${interactable} stands outside of every room, ${off.toFixed(1)} m from the nearest (${nearest}): nobody comes near it.`
  },
  fix() {
    return 'Move it into a room, or to the edge of one.'
  },
}

/** Metres from a spot to the nearest side of an outline. */
function toOutline(p: Point, outline: readonly Point[]): number {
  return Math.min(...outline.map((corner, i) => toSide(p, corner, outline[(i + 1) % outline.length]!)))
}

function toSide(p: Point, a: Point, b: Point): number {
  const [x, y] = [b[0] - a[0], b[1] - a[1]]
  const square = x * x + y * y
  const share = square === 0 ? 0 : Math.max(0, Math.min(1, ((p[0] - a[0]) * x + (p[1] - a[1]) * y) / square))
  return distance(p, [a[0] + share * x, a[1] + share * y])
}
