import { describe, expect, test } from '@jest/globals'
import { drawPlan, planFrame } from '../../src/draw/index.ts'
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
      (drawPlan(stage, { states }).match(/<polygon [^>]*fill="#a65232"/g) ?? []).length
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
})
