import type { Placed, PlacedCharacter } from '../interactables/index.ts'
import { type LaidOut, canStand, farthestReach, nearnessFrom, type Point } from '../space/index.ts'

/** Metres between two spots that are looked at. */
const step = 0.1

/** Halvings of the way between a spot inside and one outside: to less than a millimetre. */
const halvings = 7

/**
 * Where a character can stand and a press goes to an interactable, whatever opens and shuts: outlines in metres, one for each piece and
 * each hole. The border is found by going along the sides of squares (marching squares; Lorensen and Cline give the like in three
 * dimensions, 1987), and halving where it crosses a side.
 */
export function coverage({ space }: LaidOut, placed: Placed, character: PlacedCharacter): Point[][] {
  const { handle, rangeFrom, storey, elsewhere } = space.layout.figures[placed.index]!
  const near = nearnessFrom(space.layout, placed, character)
  if (!handle || !rangeFrom || !near) return []
  const reach = Math.min(
    farthestReach(character),
    placed.radius + Math.hypot(handle[0] - rangeFrom[0], handle[1] - rangeFrom[1]),
  )
  const { storeys } = space.layout
  return [[storey, { handle }] as const, ...elsewhere].flatMap(([seenFrom, points]) => {
    const isOn = (p: Point): boolean => elsewhere.size === 0 || storeys!.at(p) === seenFrom
    const isIn = (p: Point): boolean =>
      near(p).answers === 'yes' && isOn(p) && canStand(space.layout, p, character.radius)
    const [x, y] = points.handle
    return outlinesOf(isIn, [x - reach - step, y - reach - step], Math.ceil((2 * reach) / step) + 2)
  })
}

/** The outlines of a region within a square of `count` by `count` steps from a corner. */
function outlinesOf(isIn: (p: Point) => boolean, [left, low]: Point, count: number): Point[][] {
  const at = (i: number, j: number): Point => [left + i * step, low + j * step]
  const inside = Array.from({ length: count + 1 }, (_, i) =>
    Array.from({ length: count + 1 }, (_, j) => isIn(at(i, j))),
  )
  const crossings = new Map<string, Point>()
  /** Where the border crosses the side from one corner to the next, east or north of it. */
  const crossing = (key: string, a: Point, b: Point): string => {
    if (!crossings.has(key)) crossings.set(key, border(isIn, a, b))
    return key
  }
  const east = (i: number, j: number): string => crossing(`e ${String(i)} ${String(j)}`, at(i, j), at(i + 1, j))
  const north = (i: number, j: number): string => crossing(`n ${String(i)} ${String(j)}`, at(i, j), at(i, j + 1))
  const next = new Map<string, string[]>()
  const join = (a: string, b: string): void => {
    next.set(a, [...(next.get(a) ?? []), b])
    next.set(b, [...(next.get(b) ?? []), a])
  }
  for (let i = 0; i < count; i++) {
    for (let j = 0; j < count; j++) {
      const corners = [inside[i]![j]!, inside[i + 1]![j]!, inside[i + 1]![j + 1]!, inside[i]![j + 1]!]
      const sides = [() => east(i, j), () => north(i + 1, j), () => east(i, j + 1), () => north(i, j)]
      const cut = sides.filter((_, side) => corners[side] !== corners[(side + 1) % 4])
      if (cut.length === 2) join(cut[0]!(), cut[1]!())
      if (cut.length < 4) continue
      // Two corners across from each other are inside: the middle says whether they hang together.
      const isJoined = isIn(at(i + 0.5, j + 0.5)) === corners[0]
      const [a, b, c, d] = sides.map((side) => side()) as [string, string, string, string]
      if (isJoined) {
        join(a, b)
        join(c, d)
      } else {
        join(a, d)
        join(b, c)
      }
    }
  }
  return loops(next).map((keys) => keys.map((key) => crossings.get(key)!))
}

/** The spot between two others where a region ends. */
function border(isIn: (p: Point) => boolean, a: Point, b: Point): Point {
  let [inner, outer] = isIn(a) ? [a, b] : [b, a]
  for (let i = 0; i < halvings; i++) {
    const middle: Point = [(inner[0] + outer[0]) / 2, (inner[1] + outer[1]) / 2]
    if (isIn(middle)) inner = middle
    else outer = middle
  }
  return inner
}

/** Closed ways over points each of which is joined to two others. */
function loops(next: ReadonlyMap<string, readonly string[]>): string[][] {
  const seen = new Set<string>()
  const all: string[][] = []
  for (const start of next.keys()) {
    if (seen.has(start)) continue
    const loop: string[] = []
    let at: string | undefined = start
    while (at !== undefined && !seen.has(at)) {
      seen.add(at)
      loop.push(at)
      at = next.get(at)!.find((one) => !seen.has(one))
    }
    if (loop.length > 2) all.push(loop)
  }
  return all
}
