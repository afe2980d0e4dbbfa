import { describe, expect, test } from '@jest/globals'
import { coverage } from '../../src/draw/coverage.ts'
import { drawPlan, planFrame } from '../../src/draw/index.ts'
import { canStand, inPolygon, nearnessFrom } from '../../src/space/index.ts'
import { edges, toSegment } from '../../src/space/geometry.ts'
import { staged, textOf, twoRooms } from '../levels.ts'

const mill = staged(textOf('examples/levels/tide-mill.level.yaml'))

describe('the plan', () => {
  test('is to scale, and pixels lead back to the ground', () => {
    const frame = planFrame(mill, 30)
    const [x, y] = frame.toPlan([3, 4])
    const [x2, y2] = frame.toPlan([5, 4])
    expect(x2 - x).toBeCloseTo(60)
    expect(y2).toBeCloseTo(y)
    const [gx, gy] = frame.toGround([x, y])
    expect(gx).toBeCloseTo(3)
    expect(gy).toBeCloseTo(4)
  })

  test('fits a window of 1280 by 800, whatever the size of the level', () => {
    for (const stage of [
      mill,
      staged(twoRooms('')),
      staged(
        twoRooms('')
          .replaceAll('4]', '0.9]')
          .replace('2], width: 1.4', '0.4], width: 0.8')
          .replace('1.5, 2', '1.5, 0.4'),
      ),
    ]) {
      const { width, height } = planFrame(stage)
      expect(width).toBeLessThanOrEqual(1280)
      expect(height).toBeLessThanOrEqual(800)
    }
  })

  test('shows bodies as they stand: a door that blocks is filled, an open one is only outlined', () => {
    const stage = staged(twoRooms('interactables:\n  door: { type: door, in: gap }\n'))
    const fills = (states?: Record<string, string>): number =>
      (drawPlan(stage, { states }).match(/<polygon [^>]*fill="url\(#blocks\)"/g) ?? []).length
    expect(fills()).toBe(1)
    expect(fills({ door: 'open' })).toBe(0)
  })

  test('shades the ground from which a press is answered, and draws no label over another', () => {
    const svg = drawPlan(mill)
    expect(svg).toMatch(/<path d="M[^"]+z" fill="#2c6e8f"/)
    const labels = [
      ...svg.matchAll(/<text x="([\d.]+)" y="([\d.]+)" font-size="12" text-anchor="middle"[^>]*>([^<]+)</g),
    ]
    expect(labels.length).toBeGreaterThan(14)
    for (const [i, one] of labels.entries()) {
      for (const other of labels.slice(i + 1)) {
        const apart = Math.abs(Number(one[2]) - Number(other[2])) >= 11
        const half = ((one[3]!.length + other[3]!.length) * 6.4) / 2
        expect(
          `${one[3]!} ${other[3]!} ${String(apart || Math.abs(Number(one[1]) - Number(other[1])) >= half)}`,
        ).toMatch(/true$/)
      }
    }
  })

  test('is safe to show: texts of the level are escaped', () => {
    const svg = drawPlan(
      staged(
        twoRooms('')
          .replace('title: Two rooms', 'title: "<script>&\\u0007"')
          .replace('west: {', 'west: { title: "a<b",'),
      ),
    )
    expect(svg).not.toContain('<script>')
    expect(svg).toContain('&lt;script&gt;&amp;')
    expect(svg).toContain('a&lt;b')
  })

  test('fills its page, with the ground in the middle of it', () => {
    for (const stage of [mill, staged(twoRooms(''))]) {
      const { width, height, toPlan } = planFrame(stage)
      expect([width, height]).toEqual([1280, 800])
      const xs = stage.space.layout.rooms.flatMap(({ outline }) => outline.map((p) => toPlan(p)[0]))
      expect(Math.min(...xs)).toBeGreaterThan(0)
      expect(Math.max(...xs)).toBeLessThan(1280)
    }
  })

  test('outlines what a range really covers, to a millimetre and round every corner', () => {
    const person = mill.expanded.characters[0]!
    let looked = 0
    for (const placed of mill.expanded.interactables) {
      const outlines = coverage(mill, placed, person)
      const near = nearnessFrom(mill.space.layout, placed, person)
      if (!near) continue
      for (let i = 0; i < 300; i++) {
        const { handle } = mill.space.layout.figures[placed.index]!
        // Spots all round the handle, in a spiral; those on a border may fall on either side.
        const [far, angle] = [(i / 300) * 1.4, i * 2.4]
        const spot = [handle![0] + far * Math.cos(angle), handle![1] + far * Math.sin(angle)] as const
        if (outlines.some((outline) => edges(outline).some((edge) => toSegment(spot, edge) < 0.03))) continue
        const isIn = outlines.filter((outline) => inPolygon(spot, outline)).length % 2 === 1
        const answers = near(spot).answers === 'yes' && canStand(mill.space.layout, spot, person.radius)
        expect([placed.name, spot, isIn && mill.space.layout.figures[placed.index]!.pressable]).toEqual([
          placed.name,
          spot,
          answers && mill.space.layout.figures[placed.index]!.pressable,
        ])
        looked++
      }
    }
    expect(looked).toBeGreaterThan(2000)
  })

  test('draws a way with its steps numbered, and rings what is pointed at', () => {
    const points = [
      [1, 1],
      [4, 1],
    ] as const
    const stops = ['1', '2', '3', '7'].map((text) => ({ at: points[1], text }))
    const svg = drawPlan(mill, { tracks: [{ pieces: [points], stops }], marks: [{ at: 'mill-door', text: 'here' }] })
    expect(svg).toContain('>1–3, 7</text>')
    expect(svg).toContain('>here</text>')
    expect(svg).toMatch(/<g fill="none" stroke="#7a1f5c"[^>]*><circle [^>]*r="16"/)
  })

  test('of a storey only that is drawn, as large as its page', () => {
    const stage = staged(
      twoRooms(
        'places: { there: { at: [7, 2] } }\ninteractables:\n  stairs: { type: exit, at: [1, 1], set: { exit-to: { place: there } } }\n',
      )
        .replace('rooms:', 'storeys: { ground: {}, top: {} }\nrooms:')
        .replace('west: {', 'west: { storey: ground,')
        .replace('east: {', 'east: { storey: top,'),
    )
    const svg = drawPlan(stage, { storey: 'top' })
    expect(svg).toContain('>east</text>')
    expect(svg).not.toContain('>west</text>')
    expect(svg).not.toContain('>sam</text>')
    expect(svg).toContain('<title>there</title>')
    expect(svg).toContain('>there</text>')
    expect(svg).toContain('>place</text>')
    expect(drawPlan(stage, { storey: 'ground' })).not.toContain('>there</text>')
    expect(planFrame(stage, undefined, 'top').scale).toBeGreaterThan(planFrame(stage).scale)
  })

  test('hatches what blocks, so that no colour is needed to tell it', () => {
    expect(drawPlan(mill)).toMatch(/<pattern id="blocks"/)
  })
})
