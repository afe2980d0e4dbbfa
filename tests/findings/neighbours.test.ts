import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { makeStage } from '../../src/play/index.ts'
import { canStand, type Point, signatureAt } from '../../src/space/index.ts'
import { answerTo, checked, replayed, twoRooms } from '../levels.ts'

/** Levers about a wall, some higher, some that go first. */
const levers = fc.array(
  fc.record({
    x: fc.integer({ min: 10, max: 40 }).map((x) => x / 10),
    y: fc.constantFrom(3.7, 3.9),
    z: fc.constantFrom(0.6, 1.2, 1.9),
    priority: fc.constantFrom(0, 0, 0, 1),
  }),
  { minLength: 2, maxLength: 4 },
)

const level = (all: readonly { x: number; y: number; z: number; priority: number }[]): string => {
  const lines = all.map(
    ({ x, y, z, priority }, i) =>
      `  lever-${String(i)}: { type: lever, at: [${String(x)}, ${String(y)}, ${String(z)}], priority: ${String(priority)}, feedback: { accepted: [{ sound: clack }] } }`,
  )
  const goals = all.map((_, i) => `  on-${String(i)}: { interactable: lever-${String(i)}, is: "on" }`)
  return twoRooms(`interactables:\n${lines.join('\n')}\ngoals:\n${goals.join('\n')}\n`)
}

describe('what a press goes to, where several are near', () => {
  test('something is never said to be hidden that some spot gives a press to, nor contested that has most of its ground', () => {
    const counts = { hidden: 0, contested: 0 }
    fc.assert(
      fc.property(levers, (all) => {
        const report = checked(level(all))
        const reading = readLevel(level(all))
        const stage = makeStage(expandLevel(reading.value!, reading.source))
        const { expanded, space } = stage
        const [person] = expanded.characters
        const first = all.map(() => 0)
        const within = all.map(() => 0)
        for (let i = 0; i < 100; i++) {
          for (let j = 0; j < 60; j++) {
            const spot: Point = [0.3 + i * 0.046, 2.2 + j * 0.026]
            if (!canStand(space.layout, spot, person!.radius)) continue
            const { candidates } = signatureAt(expanded, space.layout, person!, spot)
            for (const { interactable } of candidates) within[interactable]!++
            if (candidates[0]) first[candidates[0].interactable]!++
          }
        }
        for (const i of all.keys()) {
          const name = `lever-${String(i)}`
          if (answerTo(report, 'hidden-by-neighbour', name) === 'found') {
            counts.hidden++
            expect([name, first[i]]).toEqual([name, 0])
          }
          const contested = answerTo(report, 'contested-range', name)
          if (contested === 'found') counts.contested++
          const share = within[i] === 0 ? 1 : first[i]! / within[i]!
          if (contested === 'found') expect(share).toBeLessThan(0.3)
          if (contested === 'ruled-out') expect(share).toBeGreaterThan(0.1)
        }
      }),
      { numRuns: 25, seed: 7 },
    )
    expect(counts.hidden).toBeGreaterThan(0)
    expect(counts.contested).toBeGreaterThan(0)
  }, 120_000)

  test('a neighbour that is taken away hides nothing for good', () => {
    const text = twoRooms(`items: { key: { title: key } }
interactables:
  hook: { type: pickup, at: [2, 3.9, 1.2], set: { gives: key } }
  lever: { type: lever, at: [2, 3.99, 2.05], feedback: { accepted: [{ sound: clack }] } }
goals: { pulled: { interactable: lever, is: "on" }, key: { carries: key } }
`)
    expect(answerTo(checked(text), 'hidden-by-neighbour', 'lever')).toBe('ruled-out')
  })
})

describe('leaves', () => {
  const door = (set: string, more = ''): string =>
    twoRooms(`${more}interactables:
  door: { type: door, in: gap, set: { ${set} } }
goals: { open: { interactable: door, is: open } }
`)
  const shelf = 'obstacles: { shelf: { outline: [[5.6, 2.6], [6.4, 2.6], [6.4, 3], [5.6, 3]] } }\n'

  test('swing into what stands on their side, and not into what stands on the other', () => {
    const swings = (set: string): string => answerTo(checked(door(set, shelf)), 'swing-blocked', 'door')
    const both = [swings('motion: { degrees: 90 }'), swings('motion: { degrees: -90 }')]
    expect(both.sort()).toEqual(['found', 'ruled-out'])
    // Where it opens to is where it hits.
    const [finding] = checked(door('', shelf)).findings.filter(({ rule }) => rule === 'swing-blocked')
    if (finding) expect(finding.spots[0]!.at[0]).toBeGreaterThan(5.5)
  })

  test('that rise are out of the way, and those that vanish, too', () => {
    expect(answerTo(checked(door('motion: { kind: slide, offset: [0, 0, 2] }', shelf)), 'swing-blocked', 'door')).toBe(
      'not asked',
    )
    expect(answerTo(checked(door('motion: { kind: vanish }', shelf)), 'stray-pose', 'door')).toBe('not asked')
  })

  test('that do not leave the doorway are told, with how much of them is left in it', () => {
    const report = checked(door('motion: { kind: slide, offset: [0.2, 0, 0] }'))
    const [finding] = report.findings
    expect(finding!.rule).toBe('stray-pose')
    expect(Number(/(\d+) % of its leaf/.exec(finding!.message)![1])).toBeGreaterThan(70)
    expect(replayed(door('motion: { kind: slide, offset: [0.2, 0, 0] }'), finding!).stateOf(0)).toBe('closed')
    expect(answerTo(checked(door('motion: { kind: slide, offset: [1.4, 0, 0] }')), 'stray-pose', 'door')).toBe(
      'ruled-out',
    )
  })
})

test('what is pressed through a wall is told with a spot from which Play does it', () => {
  const text = twoRooms(`interactables:
  lever: { type: lever, at: [5.5, 0.8, 1.2], range: { sight: false }, feedback: { accepted: [{ sound: clack }] } }
goals: { pulled: { interactable: lever, is: "on" } }
`)
  const [finding] = checked(text).findings
  expect(finding!.rule).toBe('reach-through')
  const { at } = finding!.spots[0]!
  const reading = readLevel(text.replace('start: [1.5, 2]', `start: [${at.map(String).join(', ')}]`))
  const stage = makeStage(expandLevel(reading.value!, reading.source))
  const { candidates } = signatureAt(stage.expanded, stage.space.layout, stage.expanded.characters[0]!, at)
  expect(candidates.map(({ interactable }) => interactable)).toEqual([0])
})
