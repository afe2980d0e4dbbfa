import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { canStand, isRoomBeside, type Point, pushedTo } from '../../src/space/index.ts'
import { onBody } from '../../src/space/zone-shapes.ts'
import { answerTo, checked, replayed, staged } from '../levels.ts'

/** A stamp in a room of its own, which falls a while after a rope was pulled. */
const press = (size: string, more = '', pushes = 'push'): string => `zintel: 1
title: The press
rooms:
  hall: { outline: [[0, 0], [5, 0], [5, 4], [0, 4]] }
  press: { outline: [[5.3, 0], [8, 0], [8, 4], [5.3, 4]] }
doorways:
  gap: { joins: [hall, press], at: [5.15, 2], width: 1.2, depth: 0.3 }
${more}types:
  stamp:
    body: { size: ${size} }
    in-the-way: ${pushes}
    states: { up: {}, shaking: {}, down: { blocks: [walk] } }
    transitions:
      - { from: up, to: shaking, trigger: { signal: pulled } }
      - { from: shaking, to: down, trigger: { after: 4 } }
      - { from: down, to: up, trigger: { after: 4 } }
interactables:
  stamp: { type: stamp, at: [6.65, 2] }
  rope: { type: button, at: [4.8, 3.8, 1.2], set: { sends: pulled } }
characters: { sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
goals: { pressed: { interactable: stamp, is: down } }
`

describe('what pushes whoever is in its way', () => {
  test('is told where there is no room for somebody, who is caught by it in the steps', () => {
    const text = press('[2.7, 4]')
    const report = checked(text)
    const [finding] = report.findings.filter(({ rule }) => rule === 'closes-on-character')
    expect(finding!.message).toMatch(/^stamp pushes whoever is in its way, but there is no room beside it for sam, at /)
    expect(finding!.spots).toHaveLength(1)
    const play = replayed(text, finding!)
    expect(play.stateOf(0)).toBe('shaking')
    expect(play.log.at(-1)).toMatchObject({ what: 'waits', interactable: 'stamp' })
    expect(finding!.fix.edit).toMatchObject({ do: 'replace', path: 'types.stamp.in-the-way', value: 'wait' })
  })

  test('is ruled out where there is room, and not asked of what waits', () => {
    expect(answerTo(checked(press('[1, 2]')), 'closes-on-character', 'stamp')).toBe('ruled-out')
    const waiting = checked(press('[2.7, 4]', '', 'wait'))
    expect(waiting.questions.filter(({ rule }) => rule === 'closes-on-character')).toEqual([])
    // A gate that fills the gap pushes into the room or out of it.
    const gate = press('[1, 2]').replace('stamp: { type: stamp, at: [6.65, 2] }', 'stamp: { type: stamp, in: gap }')
    expect(answerTo(checked(gate), 'closes-on-character', 'stamp')).toBe('ruled-out')
  })

  test('has room only where a spot is found from everywhere', () => {
    const metres = (from: number, to: number): fc.Arbitrary<number> =>
      fc.integer({ min: from * 100, max: to * 100 }).map((centimetres) => centimetres / 100)
    const seen = { room: 0, none: 0, spots: 0 }
    fc.assert(
      fc.property(metres(0.4, 2.7), metres(0.4, 4), metres(5.4, 7.4), metres(0.1, 3.5), (wide, deep, x, y) => {
        const shelf = `obstacles: { shelf: { outline: [[${String(x)}, ${String(y)}], [${(x + 0.4).toFixed(2)}, ${String(y)}], [${(x + 0.4).toFixed(2)}, ${(y + 0.4).toFixed(2)}], [${String(x)}, ${(y + 0.4).toFixed(2)}]] } }\n`
        const { space } = staged(press(`[${String(wide)}, ${String(deep)}]`, shelf))
        const isRoom = isRoomBeside(space, 0, 0)
        seen[isRoom ? 'room' : 'none']++
        if (!isRoom) return
        const { body } = space.layout.figures[0]!
        for (let i = 0; i < 400; i++) {
          const p: Point = [5.3 + (i % 20) * 0.137, Math.floor(i / 20) * 0.203]
          if (!canStand(space.layout, p, 0.3) || !onBody(body!, p, 0.3)) continue
          seen.spots++
          expect([p, pushedTo(space, 0, p, 0, []) !== null]).toEqual([p, true])
        }
      }),
      { numRuns: 60, seed: 7 },
    )
    for (const count of Object.values(seen)) expect(count).toBeGreaterThan(0)
  })
})
