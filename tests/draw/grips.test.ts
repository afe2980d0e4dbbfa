import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { draggedTo, type PlanChange, type PlanGrip, planGrips } from '../../src/draw.ts'
import { prepareLevel } from '../../src/index.ts'
import { readLevel } from '../../src/yaml.ts'
import { parse, stringify } from 'yaml'
import { project, textOf, twoRooms } from '../levels.ts'

const gallery = 'examples/levels/gallery/'
const levels = [
  'examples/levels/tide-mill.level.yaml',
  ...readdirSync(project + gallery).flatMap((file) => (file.endsWith('.level.yaml') ? [gallery + file] : [])),
]

/** A level whose text says other values; null where it cannot be read then. */
function changed(text: string, changes: readonly PlanChange[]): string | null {
  const level = parse(text) as Record<string, unknown>
  for (const { path, value } of changes) {
    const keys = path.split('.')
    const last = keys.pop()!
    let at = level
    for (const key of keys) at = (at[key] ??= {}) as Record<string, unknown>
    if (value === undefined) delete at[last]
    else at[last] = value
  }
  const after = stringify(level)
  return readLevel(after).value ? after : null
}

function gripsIn(text: string): PlanGrip[] {
  return planGrips(prepareLevel(readLevel(text)))
}

/** The grip of the same part that says the same, the one with the same number among them. */
function same(grips: readonly PlanGrip[], all: readonly PlanGrip[], grip: PlanGrip): PlanGrip {
  const like = (one: PlanGrip): boolean => one.path === grip.path && one.says === grip.says
  return all.filter(like)[grips.filter(like).indexOf(grip)]!
}

const off = (a: readonly number[], b: readonly number[]): number => Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!)

test('a grip that is dragged to a spot stands there afterwards, or where it can come nearest to it', () => {
  const counts: Record<string, number> = {}
  for (const file of levels) {
    const text = textOf(file)
    const grips = gripsIn(text)
    const tried: Record<string, number> = {}
    for (const grip of grips) {
      const kind = `${grip.drag.is} ${'part' in grip.drag ? String(grip.drag.part) : ''}`
      tried[kind] = (tried[kind] ?? 0) + 1
      if (tried[kind] > 2) continue
      const to = [grip.at[0] + 0.11, grip.at[1] - 0.07] as const
      const changes = draggedTo(grip.drag, to)
      const after = changed(text, changes)
      // A corner may be dragged across a wall: then the text says so.
      if (after === null) continue
      const now = same(grips, gripsIn(after), grip)
      const place = [file, grip.path, grip.says, JSON.stringify(changes)]
      const isFree = grip.drag.is === 'spot' || grip.drag.is === 'slide' || grip.says.endsWith(': place')
      if (isFree) expect([...place, off(now.at, to) < 0.003]).toEqual([...place, true])
      // Where it has come to, nothing more changes.
      const given = (all: readonly PlanChange[]) => all.filter(({ value }) => value !== undefined)
      expect([...place, given(draggedTo(now.drag, now.at))]).toEqual([...place, given(changes)])
      counts[grip.drag.is] = (counts[grip.drag.is] ?? 0) + 1
    }
  }
  const kinds = ['direction', 'distance', 'hinge', 'inset', 'slide', 'spot', 'swing', 'zone']
  expect(Object.keys(counts).sort()).toEqual(kinds)
})

describe('one thing of each shape', () => {
  const text = twoRooms(`interactables:
  gate: { type: door, in: gap, set: { hinge: right, motion: { degrees: -70, direction: right } } }
  stone:
    type: millstone
    at: [2, 2]
    turn: 90
    scale: 2
types:
  millstone:
    states: { still: {}, turning: { motion: { degrees: 40 }, pose: 1 } }
    transitions:
      - { from: still, to: turning, trigger: { enter: front } }
      - { from: turning, to: still, trigger: { leave: beside } }
      - { from: turning, to: still, trigger: { leave: round } }
      - { from: still, to: turning, trigger: press }
    body: { size: [0.4, 0.2] }
    handle: [0.1, 0, 1]
    range: { radius: 1, from: [0, 0.2, 1], stands-in: { outline: [[-1, -1], [1, -1], [0, 1]] } }
    zones:
      front: { box: [1, 0.5], at: [0, 0.4], turn: 10 }
      beside: { sector: { radius: 1, degrees: 60, facing: 0 } }
      round: { ring: { from: 0.4, to: 0.8 } }
`)
  const grips = gripsIn(text)
  const grip = (name: string, says: string): PlanGrip =>
    grips.find((one) => one.path === `interactables.${name}` && one.says === says)!
  const drag = (says: string, to: readonly [number, number], step?: number): unknown[] =>
    draggedTo(grip('stone', says).drag, to, step).map(({ path, value }) => [path, value])

  test('values are written in the frame of the thing, turned by 90 degrees and twice as large', () => {
    const [of, zones] = ['interactables.stone', 'interactables.stone.zones']
    expect(drag('range', [3.6, 2])).toEqual([[`${of}.range.radius`, 1]])
    expect(drag('what the range is measured from', [2, 3])).toEqual([[`${of}.range.from`, [0.5, 0, 1]]])
    expect(drag('handle', [2, 1.9])).toEqual([[`${of}.handle`, [-0.05, 0, 1]]])
    expect(drag('turn', [3, 2])).toEqual([[`${of}.turn`, 270]])
    expect(drag('scale', [2, 2 + Math.hypot(0.2, 0.1)])).toEqual([[`${of}.scale`, 1]])
    expect(drag('where one stands: corner', [4, 2])).toEqual([
      [
        `${of}.range.stands-in`,
        {
          outline: [
            [0, -1],
            [1, -1],
            [0, 1],
          ],
        },
      ],
    ])
    expect(drag('front: place', [2, 2])).toEqual([[`${zones}.front`, { box: [1, 0.5], at: [0, 0], turn: 10 }]])
    expect(drag('front: turn', [1.2, 4])).toEqual([[`${zones}.front`, { box: [1, 0.5], at: [0, 0.4], turn: 270 }]])
    expect(drag('beside: how far', [0, 2])).toEqual([
      [`${zones}.beside`, { sector: { radius: 1, degrees: 60, facing: 90 } }],
    ])
    expect(drag('beside: how wide', [3, 3])).toEqual([
      [`${zones}.beside`, { sector: { radius: 1, degrees: 90, facing: 0 } }],
    ])
    expect(drag('round: from', [2, 4])).toEqual([[`${zones}.round`, { ring: { from: 0.79, to: 0.8 } }]])
    expect(drag('round: to', [2, 5.3], 0.25)).toEqual([[`${zones}.round`, { ring: { from: 0.4, to: 1.75 } }]])
  })

  test('a leaf opens as far as it is dragged; a way of turning that said otherwise goes', () => {
    const path = 'interactables.gate.set'
    const [hinge, leaf, half] = [
      grip('gate', 'hinge'),
      grip('gate', 'how far it opens'),
      grip('stone', 'how far it opens'),
    ]
    expect(draggedTo(leaf.drag, leaf.at)).toEqual([
      { path: `${path}.motion.degrees`, value: -70 },
      { path: `${path}.motion.direction`, value: undefined },
    ])
    const opposite = [2 * hinge.at[0] - leaf.at[0], 2 * hinge.at[1] - leaf.at[1]] as const
    expect(draggedTo(leaf.drag, opposite)[0]!.value).toBe(110)
    expect(draggedTo(half.drag, half.at)).toEqual([
      { path: 'types.millstone.states.turning.motion.degrees', value: 40 },
    ])
    expect(draggedTo(hinge.drag, hinge.at)).toEqual([{ path: `${path}.hinge`, value: 'right' }])
    const other = [
      2 * grip('gate', 'handle').at[0] - hinge.at[0],
      2 * grip('gate', 'handle').at[1] - hinge.at[1],
    ] as const
    expect(draggedTo(hinge.drag, other)).toEqual([{ path: `${path}.hinge`, value: 'left' }])
    const doorway = grips.find((one) => one.path === 'doorways.gap')!
    expect(draggedTo(doorway.drag, doorway.at)).toEqual([{ path: 'doorways.gap.width', value: expect.any(Number) }])
  })
})
