import { describe, expect, test } from '@jest/globals'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import {
  changeText,
  duplicateInLevel,
  freeName,
  readWalkthrough,
  renameArrival,
  renameInLevel,
  renameInWalkthrough,
} from '../../src/library/index.ts'
import { readProject } from '../../src/play/index.ts'
import { textOf, twoRooms } from '../levels.ts'

const small = twoRooms(`# what is carried
items: { brass-key: { title: key } }
flags: { rung: {} }
places: { back: { at: [1, 1] } }
interactables:
  # the hook by the gap
  hook: { type: pickup, at: [1.5, 1.25], set: { gives: brass-key } } # one key
  gap-door:
    type: door
    in: gap
    set: { lock: { item: brass-key } }
  bell:
    type: lever
    at: [1, 3]
    set: { works: [] }
goals: { through: { interactable: gap-door, is: open }, kept: { carries: brass-key } }
`).replace('    set: { works: [] }\n', '')

const unknown = (text: string): string[] =>
  expandLevel(readLevel(text).value!).problems.flatMap((one) => (one.rule === 'unknown-name' ? [one.path] : []))

describe('renaming', () => {
  test('follows every place that names an item, and keeps all else', () => {
    const text = renameInLevel({ text: small }, 'items.brass-key', 'iron-key')!
    expect(text).toBe(small.replaceAll('brass-key', 'iron-key'))
  })

  test('follows doorways, rooms, interactables and places', () => {
    for (const [path, name] of [
      ['interactables.gap-door', 'hatch'],
      ['doorways.gap', 'slit'],
      ['rooms.west', 'yard'],
      ['characters.sam', 'ann'],
      ['interactables.bell', 'on'],
    ] as const) {
      const text = renameInLevel({ text: small }, path, name)!
      expect(unknown(text)).toEqual([])
      expect(readLevel(text).value).toBeTruthy()
    }
  })

  test('of everything in the demo leaves no name that leads nowhere, and comes back to the same text', () => {
    const text = textOf('examples/levels/tide-mill.level.yaml')
    const level = readLevel(text).value!
    let count = 0
    for (const section of ['rooms', 'doorways', 'interactables', 'items', 'flags', 'characters', 'types'] as const) {
      for (const name of Object.keys(level[section] ?? {})) {
        const there = renameInLevel({ text }, `${section}.${name}`, 'zz-other')
        if (there === null) throw new Error(`${section}.${name} cannot be renamed`)
        expect([name, unknown(there)]).toEqual([name, []])
        expect(renameInLevel({ text: there }, `${section}.zz-other`, name)).toBe(text)
        count++
      }
    }
    expect(count).toBeGreaterThan(15)
  })

  test('is refused where the name is taken, or there is nothing to rename', () => {
    expect(renameInLevel({ text: small }, 'interactables.hook', 'bell')).toBeNull()
    expect(renameInLevel({ text: small }, 'interactables.hock', 'bill')).toBeNull()
    expect(renameInLevel({ text: small }, 'interactables.hook', 'Not A Name')).toBeNull()
    expect(renameInLevel({ text: 'zintel: 1\n' }, 'interactables.hook', 'bill')).toBeNull()
  })

  test('is followed by the walkthroughs of the level', () => {
    const steps = `walkthrough: 1
title: The way through
steps:
  - walk-to: hook # first
  - press: hook
  - press: "hook"
  - walk-to: nowhere
  - expect: { interactable: hook, is: taken }
`
    const after = readLevel(renameInLevel({ text: small }, 'interactables.hook', 'peg')!)
    const text = renameInWalkthrough(steps, after, 'hook', 'peg')
    expect(text).toBe(steps.replaceAll('hook', 'peg'))
    expect(readWalkthrough(text, null, after).diagnostics.map(({ place }) => place?.path)).toEqual(['steps.3.walk-to'])
    expect(renameInWalkthrough('not: a walkthrough', after, 'hook', 'peg')).toBe('not: a walkthrough')
  })
})

describe('duplicating', () => {
  test('writes an entry once more, with its comments and layout', () => {
    const text = duplicateInLevel(readLevel(small), 'interactables.hook', 'hook-2')!
    const line = '  hook: { type: pickup, at: [1.5, 1.25], set: { gives: brass-key } } # one key\n'
    expect(text).toBe(small.replace(line, line + line.replace('hook', 'hook-2')))
    const door = duplicateInLevel(readLevel(small), 'interactables.gap-door', 'other-door')!
    expect(door).toContain(
      '  gap-door:\n    type: door\n    in: gap\n    set: { lock: { item: brass-key } }\n  other-door:\n    type: door\n',
    )
  })

  test('works inside a list in one line, and is refused for a name that is taken', () => {
    const text = duplicateInLevel(readLevel(small), 'items.brass-key', 'iron-key')!
    expect(text).toContain('items: { brass-key: { title: key }, iron-key: { title: key } }')
    expect(duplicateInLevel(readLevel(small), 'interactables.hook', 'bell')).toBeNull()
  })

  test('finds a name that is free', () => {
    expect(freeName(readLevel(small), 'hook')).toBe('hook-2')
    expect(freeName(readLevel(small), 'lamp')).toBe('lamp')
  })
})

test('one part of a text is changed, and all else stays', () => {
  const text = changeText(readLevel(small), { do: 'replace', path: 'interactables.hook.at', value: [1.25, 2, 1] })
  expect(text).toBe(small.replace('at: [1.5, 1.25]', 'at: [1.25, 2, 1]'))
})

describe('a place that others lead to', () => {
  const other = twoRooms(`interactables:
  ladder: { type: exit, at: [1, 1], set: { exit-to: { level: cellar, place: back } } } # down
  shaft: { type: exit, at: [2, 1], set: { exit-to: { level: loft, place: back } } }
  rope: { type: door, in: gap, set: { exit-to: { place: front, level: cellar } } }
`)

  test('is led to still, and nothing else changes', () => {
    const changed = renameArrival(readLevel(other), 'cellar', 'back', 'corner')
    expect(changed).toBe(other.replace('level: cellar, place: back', 'level: cellar, place: corner'))
    expect(renameArrival(readLevel(other), 'attic', 'back', 'corner')).toBe(other)
  })

  test('is where a project begins, under its new name', () => {
    const project = `project: 1
start: { usual: { level: hall, place: back }, late: { level: cellar, place: back } }
levels: { hall: { file: hall.level.yaml }, cellar: { file: cellar.level.yaml } }
`
    expect(renameArrival(readProject(project, 'p.project.yaml'), 'hall', 'back', 'door')).toBe(
      project.replace('level: hall, place: back', 'level: hall, place: door'),
    )
  })
})
