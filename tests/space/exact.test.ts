import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { Boxes, type Box } from '../../src/space/boxes.ts'
import { answeringSpot, nearestStanding } from '../../src/space/closest.ts'
import { degreesOf, direction, inPolygon, type Point, type Segment, sideOf } from '../../src/space/geometry.ts'
import { canStand, nearness } from '../../src/space/index.ts'
import { hiddenWithin, isHidden } from '../../src/space/sight.ts'
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
          for (const [share, turn] of offsets) {
            const [x, y] = direction(turn * 360)
            const spot: Point = [p[0] + x * slack * share, p[1] + y * slack * share]
            expect(isHidden(spot, to, screens)).toBe(said === 'yes')
          }
        },
      ),
      { numRuns: 3000, seed: 5 },
    )
    expect(Math.min(seen.yes, seen.no, seen.maybe)).toBeGreaterThan(100)
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
const hall = (lever: string): string => `zintel: 1
title: Hall
rooms: { hall: { outline: [[0, 0], [6, 0], [6, 4], [4, 4], [4, 3], [2, 3], [2, 4], [0, 4]] } }
obstacles: { pillar: { outline: [[2.5, 1.2], [3.2, 1.5], [2.8, 2.1]] } }
interactables:
  lever: { type: lever, ${lever}, set: { stays: true } }
characters: { sam: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
goals: { pulled: { interactable: lever, is: on } }
`

describe('single spots', () => {
  test('the nearest spot where one can stand is one, and none that was looked at is nearer', () => {
    const { layout } = staged(hall('at: [1, 1, 1]')).space
    fc.assert(
      fc.property(fc.tuple(between(-1, 7), between(-1, 5)), (p) => {
        const found = nearestStanding(layout, p, 0.3)!
        expect(canStand(layout, found, 0.3)).toBe(true)
        const far = Math.hypot(found[0] - p[0], found[1] - p[1])
        if (far < 0.001) return
        for (let i = 0; i < 200; i++) {
          const [x, y] = direction(i * 7.3)
          const spot: Point = [p[0] + x * far * ((i % 10) / 10.2), p[1] + y * far * ((i % 10) / 10.2)]
          expect(canStand(layout, spot, 0.3)).toBe(false)
        }
      }),
      { numRuns: 80, seed: 3 },
    )
  })

  test('whether there is a spot to press from is decided, and a close look at the ground agrees', () => {
    let [reached, missed] = [0, 0]
    fc.assert(
      fc.property(between(-1, 7), between(-1, 5), fc.constantFrom(0.4, 1, 1.9, 2.05), (x, y, height) => {
        const stage = staged(hall(`at: [${x.toFixed(3)}, ${y.toFixed(3)}, ${String(height)}]`))
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
        for (let i = 0; i < 40; i++)
          for (let j = 0; j < 40; j++) expect(answers([x - 1 + i / 20, y - 1 + j / 20])).toBe(false)
      }),
      { numRuns: 60, seed: 11 },
    )
    expect(Math.min(reached, missed)).toBeGreaterThan(10)
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
