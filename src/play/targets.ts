import { inPolygon, middleOf, nearness, type Point, wayTo, wayToSpot } from '../space/index.ts'
import type { Ongoing } from './ongoing.ts'

/**
 * The corners of a way to what a step names: an interactable (to where it would answer a press before others, or to
 * where it stands, if it answers none), a room, a doorway, or a spot. Null where there is no such way now.
 */
export function findTarget(play: Ongoing, character: number, target: string | Point): readonly Point[] | null {
  const { expanded, space } = play.stage
  const { grid, patches, sureAt } = space.patches[character]!
  const from = play.spotOf(character)
  const to = (isThere: (cell: number) => boolean): readonly Point[] | null =>
    wayTo(space, character, from, isThere, play.blocking())?.via ?? null
  const toPoint = (spot: Point): readonly Point[] | null =>
    wayToSpot(space, character, from, spot, play.blocking())?.via ?? null
  if (typeof target !== 'string') return toPoint(target)
  const zone = zoneNamed(play, target)
  if (zone >= 0) {
    if (play.zonesOf(character).includes(zone)) return []
    return to((cell) => sureAt[cell]! >= 0 && patches[sureAt[cell]!]!.signature.zones.includes(zone))
  }
  const room = space.layout.rooms.find(({ name }) => name === target)
  const doorway = space.layout.doorways.find(({ name }) => name === target)
  const placed = expanded.interactables.find(({ name }) => name === target)
  if (placed) {
    const first = (cell: number): number | undefined => {
      const patch = sureAt[cell]!
      if (patch < 0) return undefined
      const answering = patches[patch]!.signature.candidates.find(
        ({ interactable, hiders, lingers }) =>
          !(lingers && interactable === placed.index) &&
          play.isAnswering(interactable, character) &&
          !hiders.some((hider) => play.isHiding(hider)),
      )
      return answering?.interactable
    }
    if (play.isAnswering(placed.index, character)) {
      if (play.candidates(character)[0] === placed.index) return []
      const surely = to((cell) => first(cell) === placed.index)
      if (surely) return surely
      const person = expanded.characters[character]!
      return to((cell) => nearness(space.layout, placed, person, middleOf(grid, cell))?.answers === 'yes')
    }
    const figure = space.layout.figures[placed.index]!
    if (!figure.handle) return null
    const spot: Point = placed.at ?? [figure.handle[0], figure.handle[1]]
    return toPoint(spot) ?? nearest(spot, to, (cell) => middleOf(grid, cell))
  }
  if (room) {
    const inside = (cell: number, margin: number): boolean => isDeepIn(middleOf(grid, cell), room.outline, margin)
    if (isDeepIn(from, room.outline, 0)) return []
    return to((cell) => inside(cell, 0.6)) ?? to((cell) => inside(cell, 0))
  }
  if (doorway) return toPoint(doorway.at)
  return null
}

/** The zone of a name such as `mill-door/near`; -1: none. */
function zoneNamed({ stage }: Ongoing, name: string): number {
  const { zones, interactables } = stage.expanded
  return zones.findIndex((zone) => `${interactables[zone.interactable]!.name}/${zone.name}` === name)
}

type To = (isThere: (cell: number) => boolean) => readonly Point[] | null

/** As near as one can come, by and by. */
function nearest(spot: Point, to: To, middle: (cell: number) => Point): readonly Point[] | null {
  for (const limit of [0.5, 1, 1.5, 2.5]) {
    const way = to((cell) => {
      const [x, y] = middle(cell)
      return (x - spot[0]) * (x - spot[0]) + (y - spot[1]) * (y - spot[1]) <= limit * limit
    })
    if (way) return way
  }
  return null
}

function isDeepIn([x, y]: Point, outline: readonly Point[], margin: number): boolean {
  const probes: Point[] = [
    [x, y],
    [x - margin, y],
    [x + margin, y],
    [x, y - margin],
    [x, y + margin],
  ]
  return probes.every((p) => inPolygon(p, outline))
}
