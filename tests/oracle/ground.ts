import type { Level } from '../../src/model/index.ts'

/** The oracle's own geometry: points on a fine grid, each looked at by itself, joined by flooding. */

type Point = readonly [number, number]

const step = 0.05

/** A connected piece of points that are alike. */
export interface Region {
  readonly zones: readonly string[]
  readonly bodies: readonly string[]
  /** What a press may go to, nearest first, and whose bodies would hide it. */
  readonly candidates: readonly {
    readonly name: string
    readonly hiddenBy: readonly string[]
    /** Whether only who has been nearer gets an answer. */
    readonly lingers: boolean
  }[]
  /** A point in it, as deep inside as points tell. */
  readonly middle: Point
  readonly size: number
  readonly next: Set<number>
}

/** What the oracle knows of the ground of a level. */
export interface Ground {
  readonly regions: readonly Region[]
  /** The region that a spot is in; -1: nobody can stand there. */
  regionAt(spot: Point): number
  /** Metres to walk from the middle of a region to that of a neighbour, at the most; Infinity where unknown. */
  walk(from: number, to: number): number
}

export interface Place {
  readonly name: string
  readonly at: Point
  readonly height: number
  readonly asks: boolean
  /** Metres at which its range begins, and at which it ends. */
  readonly radius: number
  readonly until: number
  readonly doorway: string | null
  readonly comesAndGoes: boolean
  /** The size of a body that is always in the way. */
  readonly solid: readonly [number, number] | null
  readonly hides: boolean
  /** Whether touching its body, which is always in the way, is noticed. */
  readonly touches: boolean
  readonly zones: readonly { readonly name: string; readonly radius: number }[]
}

export function lookAround(level: Level, places: readonly Place[]): Ground {
  const [person] = Object.values(level.characters)
  if (!person) throw new Error('nobody is there')
  const boxes = [
    ...Object.values(level.rooms).map(({ outline }) => boxOf(outline as Point[])),
    ...Object.values(level.doorways ?? {}).map((d) => boxAround(d.at as Point, d.depth, d.width)),
  ]
  const bodies = new Map(
    Object.entries(level.doorways ?? {}).map(([name, d]) => [name, boxAround(d.at as Point, d.depth, d.width)]),
  )
  const inside = (p: Point): boolean => boxes.some((box) => within(box, p))
  const ring = Array.from(
    { length: 24 },
    (_, i) => [Math.cos((i * Math.PI) / 12), Math.sin((i * Math.PI) / 12)] as const,
  )
  const radius = person.radius
  const solids = places.flatMap(({ solid, at }) => (solid ? [boxAround(at, solid[0], solid[1])] : []))
  const stands = ([x, y]: Point): boolean =>
    inside([x, y]) &&
    (boxes.some((box) => within(inset(box, radius), [x, y])) ||
      ring.every(([dx, dy]) => inside([x + dx * (radius - 1e-4), y + dy * (radius - 1e-4)]))) &&
    solids.every((box) => toBox(box, [x, y]) >= radius) &&
    ring.every(([dx, dy]) => inside([x + dx * (radius - 1e-4), y + dy * (radius - 1e-4)]))
  const look = (p: Point): Omit<Region, 'middle' | 'size' | 'next'> => {
    const zones = places.flatMap((place) => {
      const body = place.solid && boxAround(place.at, place.solid[0], place.solid[1])
      const isTouching = place.touches && body !== null && toBox(body, p) <= radius + 0.1
      return [
        ...place.zones.filter((zone) => far(p, place.at) <= zone.radius).map((zone) => `${place.name}/${zone.name}`),
        ...(isTouching ? [`${place.name}/touch`] : []),
      ]
    })
    const inWay = places.filter((place) => {
      const body = place.doorway === null ? undefined : bodies.get(place.doorway)
      return place.comesAndGoes && body !== undefined && toBox(body, p) < radius
    })
    const near = places.flatMap((place, order) => {
      if (!place.asks) return []
      const flat = far(p, place.at)
      const distance = Math.hypot(flat, place.height - person.hand)
      const reached = Math.hypot(flat - (person['reach-offset'] ?? 0), place.height - person.hand)
      if (distance > place.until || reached > person.reach || !sees(p, place.at, inside)) return []
      const hiddenBy = places.filter((other) => {
        const body = other.doorway === null ? undefined : bodies.get(other.doorway)
        return other.name !== place.name && other.hides && body !== undefined && passes(p, place.at, body)
      })
      return [
        {
          name: place.name,
          hiddenBy: hiddenBy.map(({ name }) => name),
          lingers: distance > place.radius,
          millimetres: Math.round(distance * 1000),
          order,
        },
      ]
    })
    near.sort((a, b) => a.millimetres - b.millimetres || a.order - b.order)
    return {
      zones,
      bodies: inWay.map(({ name }) => name),
      candidates: near.map(({ name, hiddenBy, lingers }) => ({ name, hiddenBy, lingers })),
    }
  }
  return flood(boxes, stands, look)
}

function flood(
  boxes: readonly Box[],
  stands: (p: Point) => boolean,
  look: (p: Point) => Omit<Region, 'middle' | 'size' | 'next'>,
): Ground {
  const left = Math.min(...boxes.map((box) => box.left)) + step / 2
  const low = Math.min(...boxes.map((box) => box.low)) + step / 2
  const columns = Math.round((Math.max(...boxes.map((box) => box.right)) - left) / step) + 1
  const rows = Math.round((Math.max(...boxes.map((box) => box.high)) - low) / step) + 1
  const at = (i: number): Point => [left + (i % columns) * step, low + Math.floor(i / columns) * step]
  const looks: (ReturnType<typeof look> & { key: string })[] = []
  const known: boolean[] = []
  for (let i = 0; i < columns * rows; i++) {
    const p = at(i)
    if (!stands(p)) continue
    const seen = look(p)
    looks[i] = { ...seen, key: JSON.stringify(seen) }
    known[i] = true
  }
  const beside = (i: number): number[] => {
    const next = [i - columns, i + columns]
    if (i % columns > 0) next.push(i - 1)
    if (i % columns < columns - 1) next.push(i + 1)
    return next.filter((j) => known[j])
  }
  const regionOf: number[] = []
  const members: number[][] = []
  for (let i = 0; i < columns * rows; i++) {
    if (!known[i] || regionOf[i] !== undefined) continue
    const own = [i]
    regionOf[i] = members.length
    for (const one of own) {
      for (const j of beside(one)) {
        if (regionOf[j] !== undefined || looks[j]!.key !== looks[i]!.key) continue
        regionOf[j] = members.length
        own.push(j)
      }
    }
    members.push(own)
  }
  const regions = members.map((own): Region => {
    const { zones, bodies, candidates } = looks[own[0]!]!
    return { zones, bodies, candidates, middle: at(deepest(own, regionOf, beside)), size: own.length, next: new Set() }
  })
  for (let i = 0; i < columns * rows; i++) {
    if (!known[i]) continue
    for (const j of beside(i)) if (regionOf[j] !== regionOf[i]) regions[regionOf[i]!]!.next.add(regionOf[j]!)
  }
  const regionAt = (spot: Point): number => regionOf[nearestPoint(spot, left, low, columns)] ?? -1
  return { regions, regionAt, walk: walker(regions, regionOf, beside, left, low, columns) }
}

function nearestPoint(p: Point, left: number, low: number, columns: number): number {
  return Math.round((p[1] - low) / step) * columns + Math.round((p[0] - left) / step)
}

function deepest(own: readonly number[], regionOf: readonly number[], beside: (i: number) => number[]): number {
  let wave = own.filter((i) => beside(i).length < 4 || beside(i).some((j) => regionOf[j] !== regionOf[i]))
  const seen = new Set(wave)
  let last = wave[0] ?? own[0]!
  while (wave.length > 0) {
    last = wave[Math.floor(wave.length / 2)]!
    wave = wave.flatMap((i) => beside(i)).filter((j) => regionOf[j] === regionOf[last] && !seen.has(j) && seen.add(j))
  }
  return last
}

/** Metres along the grid between two middles, by steps to the four sides: never less than the way Play walks. */
function walker(
  regions: readonly Region[],
  regionOf: readonly number[],
  beside: (i: number) => number[],
  left: number,
  low: number,
  columns: number,
): (from: number, to: number) => number {
  const memo = new Map<string, number>()
  return (from, to) => {
    const key = `${String(from)} ${String(to)}`
    const before = memo.get(key)
    if (before !== undefined) return before
    const goal = nearestPoint(regions[to]!.middle, left, low, columns)
    let wave = [nearestPoint(regions[from]!.middle, left, low, columns)]
    const seen = new Set(wave)
    let steps = 0
    while (wave.length > 0 && !seen.has(goal)) {
      steps++
      wave = wave
        .flatMap((i) => beside(i))
        .filter((j) => (regionOf[j] === from || regionOf[j] === to) && !seen.has(j) && seen.add(j))
    }
    const found = seen.has(goal) ? steps * step : Infinity
    memo.set(key, found)
    return found
  }
}

interface Box {
  readonly left: number
  readonly right: number
  readonly low: number
  readonly high: number
}

function boxOf(points: readonly Point[]): Box {
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  return { left: Math.min(...xs), right: Math.max(...xs), low: Math.min(...ys), high: Math.max(...ys) }
}

function boxAround([x, y]: Point, wide: number, high: number): Box {
  return { left: x - wide / 2, right: x + wide / 2, low: y - high / 2, high: y + high / 2 }
}

function within(box: Box, [x, y]: Point): boolean {
  return x >= box.left - 1e-9 && x <= box.right + 1e-9 && y >= box.low - 1e-9 && y <= box.high + 1e-9
}

function inset({ left, right, low, high }: Box, by: number): Box {
  return { left: left + by, right: right - by, low: low + by, high: high - by }
}

function toBox(box: Box, [x, y]: Point): number {
  return Math.hypot(Math.max(box.left - x, 0, x - box.right), Math.max(box.low - y, 0, y - box.high))
}

function far(a: Point, b: Point): number {
  return Math.hypot(a[0] - b[0], a[1] - b[1])
}

function along(a: Point, b: Point): Point[] {
  return Array.from(
    { length: 79 },
    (_, i) => [a[0] + ((b[0] - a[0]) * i) / 79, a[1] + ((b[1] - a[1]) * i) / 79] as const,
  )
}

function sees(a: Point, b: Point, inside: (p: Point) => boolean): boolean {
  return along(a, b).every(inside)
}

function passes(a: Point, b: Point, box: Box): boolean {
  return along(a, b).some((p) => within(box, p))
}
