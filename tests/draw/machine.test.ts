import { describe, expect, test } from '@jest/globals'
import { drawMachine } from '../../src/draw/index.ts'
import { triggerText } from '../../src/interactables/index.ts'
import { staged, textOf } from '../levels.ts'

const files = [
  'examples/levels/tide-mill.level.yaml',
  ...['asking', 'choosing', 'opening', 'telling'].map((name) => `examples/levels/gallery/${name}.level.yaml`),
]

/** The texts of a drawing, with where they stand. */
function texts(svg: string): { x: number; y: number; text: string }[] {
  return [...svg.matchAll(/<text x="([-\d.]+)" y="([-\d.]+)"[^>]*>([^<]*)<\/text>/g)].map(([, x, y, text]) => ({
    x: Number(x),
    y: Number(y),
    text: text!.replaceAll('&quot;', '"'),
  }))
}

describe('the drawing of a machine', () => {
  for (const file of files) {
    test(`${file}: every state and every trigger is in it, inside its frame`, () => {
      const { expanded } = staged(textOf(file))
      for (const placed of expanded.interactables) {
        const svg = drawMachine(expanded, placed)
        const [, width, height] = /viewBox="0 0 (\d+) (\d+)"/.exec(svg)!
        const all = texts(svg)
        const words = all.map(({ text }) => text.trim()).join(' ')
        for (const { name } of placed.states) expect(all.filter(({ text }) => text === name)).not.toEqual([])
        for (const { when, isRefusal } of placed.transitions) {
          expect(words).toContain(isRefusal ? 'always refused' : triggerText(expanded, when))
        }
        for (const { x, y } of all) {
          expect(x).toBeGreaterThanOrEqual(0)
          expect(x).toBeLessThanOrEqual(Number(width))
          expect(y).toBeGreaterThanOrEqual(0)
          expect(y).toBeLessThanOrEqual(Number(height))
        }
        const rows = placed.transitions.reduce((sum, { from }) => sum + from.length, 0)
        expect(svg.match(/<polygon /g)?.length ?? 0).toBe(rows)
      }
    })
  }

  test('texts stand apart: no two of them on one spot', () => {
    for (const file of files) {
      const { expanded } = staged(textOf(file))
      for (const placed of expanded.interactables) {
        const spots = texts(drawMachine(expanded, placed)).map(({ x, y }) => `${String(x)} ${String(y)}`)
        expect(new Set(spots).size).toBe(spots.length)
      }
    }
  })

  test('is the same every time', () => {
    const { expanded } = staged(textOf(files[0]!))
    const [placed] = expanded.interactables
    expect(drawMachine(expanded, placed!)).toBe(drawMachine(expanded, placed!))
  })
})
