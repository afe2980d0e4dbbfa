import { expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { staged } from '../levels.ts'

/** A small room with a mat in the shape of a ring, as wide as a cell or two. */
const room = ({ x, y, from, wide }: { x: number; y: number; from: number; wide: number }): string => `zintel: 1
title: A ring
rooms: { hall: { outline: [[0, 0], [2.4, 0], [2.4, 3], [0, 3]] } }
characters: { sam: { role: player, start: [1.2, 1.5], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
types:
  mat:
    zones: { ring: { ring: { from: ${String(from)}, to: ${String(from + wide)} } } }
    states: { up: {}, down: {} }
    transitions: [{ from: up, to: down, trigger: { enter: ring } }, { from: down, to: up, trigger: { leave: ring } }]
interactables: { mat: { type: mat, at: [${String(x)}, ${String(y)}] } }
goals: { down: { interactable: mat, is: down } }
`

test('nobody walks from the hole of a ring to the ground round it without coming into the ring: they are two pieces of ground', () => {
  const counts = { hole: 0, round: 0, both: 0 }
  const rings = fc.record({
    x: fc.integer({ min: 3, max: 21 }).map((one) => one / 10),
    y: fc.integer({ min: 3, max: 27 }).map((one) => one / 10),
    from: fc.integer({ min: 20, max: 80 }).map((one) => one / 100),
    wide: fc.integer({ min: 8, max: 40 }).map((one) => one / 100),
  })
  fc.assert(
    fc.property(rings, (ring) => {
      const { patches, patchAt } = staged(room(ring)).space.patches[0]!
      const [hole, round] = [new Set<number>(), new Set<number>()]
      for (let x = 0.3; x <= 2.1; x += 0.031) {
        for (let y = 0.3; y <= 2.7; y += 0.031) {
          const patch = patchAt([x, y])
          if (patch < 0 || !patches[patch]!.sure) continue
          const far = Math.hypot(x - ring.x, y - ring.y)
          if (far < ring.from) hole.add(patch)
          if (far > ring.from + ring.wide) round.add(patch)
        }
      }
      counts.hole += hole.size > 0 ? 1 : 0
      counts.round += round.size > 0 ? 1 : 0
      counts.both += hole.size > 0 && round.size > 0 ? 1 : 0
      expect([ring, [...hole].filter((patch) => round.has(patch))]).toEqual([ring, []])
    }),
    { numRuns: 60, seed: 3 },
  )
  expect(Math.min(counts.hole, counts.round, counts.both)).toBeGreaterThan(20)
}, 60_000)
