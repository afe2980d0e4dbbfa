import type { Level } from '../../src/model/index.ts'
import { Random } from './random.ts'
import { randomLevel } from './levels.ts'

type Point = readonly [number, number]

/**
 * A random level whose two rooms lie over one another, joined by exits instead of a doorway; most of what is in it can be pressed through the
 * floor. Null where the level has one room only.
 */
export function stackedLevel(seed: number): Level | null {
  const { level } = randomLevel(seed)
  const [gap] = Object.entries(level.doorways ?? {})
  if (!gap) return null
  const random = new Random(seed * 104_729 + 7)
  const [name, doorway] = gap
  const near = (spot: Point, by: number): [number, number] => [
    spot[0] + random.between(-by, by),
    spot[1] + random.between(-by, by),
  ]
  const [low, high] = ['room-0', 'room-1'].map((room) => middle(level.rooms[room]!.outline as Point[]))
  const start = Object.values(level.characters)[0]!.start as Point
  const stairs = (place: string, at: [number, number]): NonNullable<Level['interactables']>[string] => ({
    type: 'exit',
    at,
    set: { 'exit-to': { place }, 'taken-by': random.pick([['press'], ['press'], ['enter']]) },
  })
  const things = Object.entries(level.interactables ?? {}).map(([own, { in: _, ...thing }]) => {
    const placed = thing.at ? thing : { ...thing, at: doorway.at, body: { size: [0.6, 0.2] as [number, number] } }
    const heights = random.chance(0.3) ? { heights: { from: 1, to: random.pick([1.5, 2]) } } : {}
    return [
      own,
      random.chance(0.7) ? { ...placed, range: { ...placed.range, sight: false, ...heights } } : placed,
    ] as const
  })
  return {
    ...level,
    doorways: {},
    storeys: {
      below: {},
      above: {
        floor: random.pick([0.2, 0.5, 1, -0.8]),
        'drawn-at': near([high![0] - low![0], high![1] - low![1]], 0.8),
      },
    },
    rooms: Object.fromEntries(
      Object.entries(level.rooms).map(([room, own]) => [
        room,
        { ...own, storey: room === 'room-0' ? 'below' : 'above' },
      ]),
    ),
    characters: Object.fromEntries(
      Object.entries(level.characters).map(([who, person]) => [who, { ...person, reach: 1.6 }]),
    ),
    places: { ...level.places, up: { at: [...high!] }, down: { at: [...start] } },
    interactables: Object.fromEntries([
      ...things,
      ['stairs-up', stairs('up', near(start, 1.2))],
      ['stairs-down', stairs('down', near(high!, 0.9))],
      ['gap', { type: 'lamp', at: doorway.at, set: { while: { flag: 'up' } }, range: { sight: false }, tags: [name] }],
    ]),
  }
}

function middle(outline: readonly Point[]): [number, number] {
  const mean = (axis: 0 | 1): number => outline.reduce((sum, p) => sum + p[axis], 0) / outline.length
  return [mean(0), mean(1)]
}
