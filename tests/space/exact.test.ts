import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { Boxes, type Box } from '../../src/space/boxes.ts'
import { answeringSpot, nearestStanding } from '../../src/space/closest.ts'
import {
  degreesOf,
  direction,
  inPolygon,
  type Point,
  rectangle,
  type Segment,
  sideOf,
  toPolygon,
  toSegment,
} from '../../src/space/geometry.ts'
import { canStand, nearness } from '../../src/space/index.ts'
import { hiddenWithin, isHidden, type Tri } from '../../src/space/sight.ts'
import {
  bodyWithin,
  cornersOf,
  isCloserThan,
  isOnBorder,
  keepsOffSegment,
  pointWithin,
} from '../../src/space/squares.ts'
import { answerTo, checked, staged } from '../levels.ts'

/** From one number to another, in millimetres. */
const between = (from: number, to: number): fc.Arbitrary<number> =>
  fc.integer({ min: from * 1000, max: to * 1000 }).map((millimetres) => millimetres / 1000)
const metre = between(-3, 3)
const point = fc.tuple(metre, metre) as fc.Arbitrary<Point>
const segment = fc.record({ a: point, b: point })

describe('sight', () => {
  test('what is said of all spots within a slack is so of each of them', () => {
    const seen = { yes: 0, no: 0, maybe: 0 }
    const corner = between(0, 1)
    fc.assert(
      fc.property(
        point,
        point,
        fc.array(segment, { minLength: 1, maxLength: 4 }),
        fc.constantFrom(0.02, 0.07, 0.3),
        fc.array(fc.tuple(corner, corner), { minLength: 5, maxLength: 5 }),
        (p, to, screens: Segment[], slack, offsets) => {
          const said = hiddenWithin(p, to, screens, slack)
          seen[said]++
          if (said === 'maybe') return
          const spots = offsets.map(([share, turn]): Point => {
            const [x, y] = direction(turn * 360)
            return [p[0] + x * slack * share, p[1] + y * slack * share]
          })
          expect(spots.filter((spot) => isHidden(spot, to, screens) !== (said === 'yes'))).toEqual([])
        },
      ),
      { numRuns: 3000, seed: 5 },
    )
    expect(Math.min(seen.yes, seen.no, seen.maybe)).toBeGreaterThan(100)
  })

  test('two walls that meet in a corner hide what is behind it, on lines through the corner, too', () => {
    let hidden = 0
    fc.assert(
      fc.property(point, point, metre, fc.tuple(between(-1, 0), between(-1, 0)), (a, b, x, off) => {
        const corner: Point = [x, 0]
        const walls = [
          { a, b: corner },
          { a: corner, b },
        ]
        const [p, to]: Point[] = [
          [x + off[0], 2],
          [x - off[0], -2],
        ]
        const slack = 0.07
        const said = hiddenWithin(p!, to!, walls, slack)
        if (said === 'maybe') return
        if (said === 'yes') hidden++
        for (let turn = 0; turn < 360; turn += 30) {
          const [dx, dy] = direction(turn)
          const spot: Point = [p![0] + dx * slack, p![1] + dy * slack]
          expect(isHidden(spot, to!, walls)).toBe(said === 'yes')
        }
      }),
      { numRuns: 1000, seed: 6 },
    )
    expect(hidden).toBeGreaterThan(200)
    const square: Point[] = [
      [-1, 0],
      [0, 0],
      [0, 1],
    ]
    const walls = [
      { a: square[0]!, b: square[1]! },
      { a: square[1]!, b: square[2]! },
    ]
    expect(hiddenWithin([1, -1], [-1, 1], walls, 0.07)).toBe('yes')
    expect(hiddenWithin([1, -1], [-1, 1], walls.slice(1), 0.07)).toBe('maybe')
  })
})

describe('squares', () => {
  const slack = fc.constantFrom(0.01, 0.05, 0.15)
  const limit = between(0.4, 1.2)
  const share = between(-1, 1)
  const inside = fc.array(fc.tuple(share, share), { minLength: 8, maxLength: 8 })
  const said = { yes: 0, no: 0, maybe: 0 }
  /** Holds what is said of a square against some of its spots, its corners among them. */
  const holds = (
    is: Tri,
    p: Point,
    slack: number,
    shares: [number, number][],
    isSo: (spot: Point) => boolean,
  ): void => {
    said[is]++
    const half = slack * Math.SQRT1_2
    const spots = shares.map(([x, y]): Point => [p[0] + x * half, p[1] + y * half])
    if (is === 'maybe') return
    const wrong = [p, ...spots, ...cornersOf(p, slack * 0.999)].filter((spot) => isSo(spot) !== (is === 'yes'))
    if (wrong.length > 0) throw new Error(`${is} is not so of ${JSON.stringify(wrong)}`)
  }

  test('points, at any height, and bodies are within a limit of all spots, or of none, as is said', () => {
    fc.assert(
      fc.property(point, slack, point, limit, between(0, 0.3), inside, (p, slack, to, limit, rise, shares) => {
        const isNear = ([x, y]: Point): boolean => Math.hypot(x - to[0], y - to[1], rise) <= limit
        holds(pointWithin(p, slack, to, limit, rise), p, slack, shares, isNear)
      }),
      { numRuns: 4000, seed: 11 },
    )
    fc.assert(
      fc.property(
        point,
        slack,
        between(0.05, 2),
        between(0, 360),
        limit,
        inside,
        (p, slack, long, turn, limit, shares) => {
          const body = rectangle([0, 0], [long, 0.1], turn)
          holds(bodyWithin(p, slack, body, limit), p, slack, shares, (spot) => toPolygon(spot, body) <= limit)
        },
      ),
      { numRuns: 4000, seed: 12 },
    )
    expect(Math.min(said.yes, said.no, said.maybe)).toBeGreaterThan(100)
  })

  test('what is too near to a wall, or keeps off it, does so all over', () => {
    const seen = { near: 0, off: 0, border: 0 }
    fc.assert(
      fc.property(point, slack, segment, limit, inside, (p, slack, wall, limit, shares) => {
        const isNear = isCloserThan(p, slack, wall, limit)
        const isOff = keepsOffSegment(p, slack, wall, limit)
        if (isNear) seen.near++
        if (isOff) seen.off++
        holds(isNear ? 'yes' : isOff ? 'no' : 'maybe', p, slack, shares, (spot) => toSegment(spot, wall) < limit)
      }),
      { numRuns: 4000, seed: 13 },
    )
    const outline = fc.tuple(point, point, point)
    fc.assert(
      fc.property(point, slack, outline, inside, (p, slack, triangle, shares) => {
        if (isOnBorder(p, slack, triangle)) seen.border++
        else holds(inPolygon(p, triangle) ? 'yes' : 'no', p, slack, shares, (spot) => inPolygon(spot, triangle))
      }),
      { numRuns: 4000, seed: 14 },
    )
    expect(Math.min(seen.near, seen.off, seen.border)).toBeGreaterThan(100)
  })

  test('a border just outside of a square, near its corner, is not in it', () => {
    const half = 0.05
    const slack = half / Math.SQRT1_2
    expect(
      isOnBorder([0, 0], slack, [
        [0.051, -1],
        [2, -1],
        [2, 1],
        [0.051, 1],
      ]),
    ).toBe(false)
    expect(
      isOnBorder([0, 0], slack, [
        [0.049, -1],
        [2, -1],
        [2, 1],
        [0.049, 1],
      ]),
    ).toBe(true)
    expect(pointWithin([0, 0], slack, [1, 0], 0.949)).toBe('no')
    expect(bodyWithin([0, 0], slack, rectangle([1, 0], [0.2, 4], 0), 0.849)).toBe('no')
    expect(keepsOffSegment([0, 0], slack, { a: [1, -2], b: [1, 2] }, 0.949)).toBe(true)
    // What points at the middle of a side comes nearer than any corner of the square is to it.
    const pointing = rectangle([1, 0], [1, 0.01], 0)
    expect(bodyWithin([0, 0], slack, pointing, 0.4505)).toBe('maybe')
    expect(bodyWithin([0, 0], slack, pointing, 0.4495)).toBe('no')
  })
})

describe('predicates', () => {
  test('a side of a line is the same whichever way it is asked for', () => {
    fc.assert(
      fc.property(point, point, point, (p, a, b) => {
        expect(Math.sign(sideOf(p, a, b)) + 0).toBe(0 - Math.sign(sideOf(p, b, a)))
        expect(Math.sign(sideOf(p, a, b)) + 0).toBe(Math.sign(sideOf(a, b, p)) + 0)
      }),
    )
  })

  test('it does not matter where the corners of a polygon begin, nor which way round they go', () => {
    const outline: Point[] = [
      [0, 0],
      [3, 0.1],
      [3, 2],
      [1.5, 1],
      [0.2, 2.7],
    ]
    fc.assert(
      fc.property(point, fc.nat(4), fc.boolean(), (p, shift, back) => {
        const other = [...outline.slice(shift), ...outline.slice(0, shift)]
        expect(inPolygon(p, back ? other.reverse() : other)).toBe(inPolygon(p, outline))
      }),
    )
  })

  test('the angle of a direction is found, its opposite having the same', () => {
    for (const degrees of [0, 17.5, 45, 90, 133, 179.9]) {
      const [x, y] = direction(degrees)
      expect(degreesOf([x, y])).toBeCloseTo(degrees, 7)
      expect(degreesOf([-x, -y])).toBeCloseTo(degrees, 7)
    }
    expect([degreesOf([2, 0]), degreesOf([0, -3]), degreesOf([0, 0])]).toEqual([0, 90, 0])
  })

  test('boxes near a spot are found without looking at all', () => {
    const box = fc.record({ from: point, width: fc.nat(2), height: fc.nat(2) })
    const boxOf = ({ from, width, height }: { from: Point; width: number; height: number }): Box => ({
      from,
      to: [from[0] + width, from[1] + height],
    })
    fc.assert(
      fc.property(fc.array(fc.option(box), { maxLength: 60 }), box, fc.constantFrom(0, 0.5), (all, asked, margin) => {
        const boxes = all.map((one) => (one ? boxOf(one) : null))
        const { from, to } = boxOf(asked)
        const near = boxes.flatMap((one, i) => {
          if (!one || one.from[0] > to[0] + margin || one.to[0] < from[0] - margin) return []
          return one.from[1] > to[1] + margin || one.to[1] < from[1] - margin ? [] : [i]
        })
        expect(new Boxes(boxes).near({ from, to }, margin)).toEqual(near)
      }),
    )
  })
})

/** A hall with a pillar, and a lever somewhere. */
const hall = (lever: string, reach = 'reach: 0.9'): string => `zintel: 1
title: Hall
rooms: { hall: { outline: [[0, 0], [6, 0], [6, 4], [4, 4], [4, 3], [2, 3], [2, 4], [0, 4]] } }
obstacles: { pillar: { outline: [[2.5, 1.2], [3.2, 1.5], [2.8, 2.1]] } }
interactables:
  lever: { type: lever, ${lever}, set: { stays: true } }
characters: { sam: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, ${reach} } }
goals: { pulled: { interactable: lever, is: on } }
`

/** A hand that reaches from its shoulder, from ahead of it, and from so far ahead that what is near is out of reach. */
const arms = fc.constantFrom('reach: 0.9', 'reach: 0.6, reach-offset: 0.3', 'reach: 0.5, reach-offset: 0.7')

describe('single spots', () => {
  test('the nearest spot where one can stand is one, and none that was looked at is nearer', () => {
    const { layout } = staged(hall('at: [1, 1, 1]')).space
    fc.assert(
      fc.property(fc.tuple(between(-1, 7), between(-1, 5)), (p) => {
        const found = nearestStanding(layout, p, 0.3)!
        expect(canStand(layout, found, 0.3)).toBe(true)
        const far = Math.hypot(found[0] - p[0], found[1] - p[1])
        if (far < 0.001) return
        const nearer = Array.from({ length: 200 }, (_, i): Point => {
          const [x, y] = direction(i * 7.3)
          return [p[0] + x * far * ((i % 10) / 10.2), p[1] + y * far * ((i % 10) / 10.2)]
        })
        expect(nearer.filter((spot) => canStand(layout, spot, 0.3))).toEqual([])
      }),
      { numRuns: 80, seed: 3 },
    )
  })

  test('whether there is a spot to press from is decided, and a close look at the ground agrees', () => {
    let [reached, missed] = [0, 0]
    fc.assert(
      fc.property(between(-1, 7), between(-1, 5), fc.constantFrom(0.4, 1, 1.9, 2.05), arms, (x, y, height, arm) => {
        const stage = staged(hall(`at: [${x.toFixed(3)}, ${y.toFixed(3)}, ${String(height)}]`, arm))
        const placed = stage.expanded.interactables[0]!
        const [sam] = stage.expanded.characters
        const found = answeringSpot(stage.space.layout, placed, sam!)
        const answers = (p: Point): boolean =>
          canStand(stage.space.layout, p, 0.3) && nearness(stage.space.layout, placed, sam!, p)?.answers === 'yes'
        if (found) {
          reached++
          expect(answers(found)).toBe(true)
          return
        }
        missed++
        const looked = Array.from({ length: 1600 }, (_, i): Point => [
          x - 1 + (i % 40) / 20,
          y - 1 + Math.floor(i / 40) / 20,
        ])
        expect(looked.filter(answers)).toEqual([])
      }),
      { numRuns: 80, seed: 11 },
    )
    expect(Math.min(reached, missed)).toBeGreaterThan(10)
  })

  test('a reach that is measured from ahead of the hand leaves out what is too near, and takes in what is farther', () => {
    // The hand reaches from 0.3 m to 1.3 m on its own height.
    const answered = (at: number): boolean => {
      const stage = staged(hall(`at: [${String(at)}, 1, 1.2]`, 'reach: 0.5, reach-offset: 0.8'))
      const [sam] = stage.expanded.characters
      return nearness(stage.space.layout, stage.expanded.interactables[0]!, sam!, [1, 1])?.answers === 'yes'
    }
    expect([1.29, 1.31, 2.29, 2.31].map(answered)).toEqual([false, true, true, false])
    // Patches tell the same of whole cells.
    const stage = staged(hall('at: [1, 1, 1.2]', 'reach: 0.5, reach-offset: 0.8'))
    const { patches, patchAt } = stage.space.patches[0]!
    const asked = (p: Point): number => patches[patchAt(p)]!.signature.candidates.length
    expect([asked([1, 1.1]), asked([1, 1.2]), asked([1, 1.8]), asked([1, 1.9]), asked([1, 2.5])]).toEqual([
      0, 0, 1, 1, 0,
    ])
    const report = checked(
      hall('at: [1, -1.2, 1.2], range: { sight: false, radius: 2 }', 'reach: 0.5, reach-offset: 0.8'),
    )
    expect(report.findings[0]!.message).toContain(
      'its handle is 0.70 m from a point 0.8 m ahead of the hand, which reaches 0.50 m. 0.20 m are missing.',
    )
  })

  test('a hand that reaches from far ahead is said to be too near where a range ends before it reaches', () => {
    const report = checked(hall('at: [1, 1, 1.2]', 'reach: 0.3, reach-offset: 2'))
    expect(report.findings[0]!.message).toContain('reaches nothing nearer than 1.70 m; farther off, its range ends.')
  })

  test('out-of-reach says by how much it misses, and is never undecided, down to a millimetre', () => {
    const report = checked(hall('at: [1, -0.7, 1.2]'))
    expect(answerTo(report, 'out-of-reach', 'lever')).toBe('found')
    expect(report.findings[0]!.message).toContain(
      'its handle is 1.00 m from the hand, which reaches 0.90 m. 0.10 m are missing.',
    )
    // The hand is 0.3 m from the wall, and reaches 0.9 m.
    for (const [off, answer] of [
      ['0.599', 'ruled-out'],
      ['0.601', 'found'],
    ]) {
      const level = hall(`at: [1, -${off!}, 1.2], range: { sight: false }`)
      expect(answerTo(checked(level), 'out-of-reach', 'lever')).toBe(answer)
    }
  })
})
