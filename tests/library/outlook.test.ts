import { describe, expect, test } from '@jest/globals'
import { checkNow, outlookOf } from '../../src/library/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { readProject } from '../../src/play/index.ts'
import { textOf } from '../levels.ts'

const folder = 'examples/levels/gallery/'
const project = readProject(textOf(`${folder}crossing.project.yaml`), 'crossing.project.yaml').value!
const harbour = textOf(`${folder}harbour.level.yaml`)
const island = textOf(`${folder}island.level.yaml`)

const seen = (text: string): string => outlookOf(readLevel(text))

/** The report of the harbour, beside some island. */
function harbourBeside(other: string): unknown {
  const levels = { harbour: readLevel(harbour), island: readLevel(other) }
  return checkNow(levels.harbour, { project: { project, level: 'harbour', levels }, quick: true })
}

/** The island changed in what no other level asks about. */
const changes: readonly (readonly [string, (text: string) => string])[] = [
  ['another title', (text) => text.replace(/^title: .*$/m, 'title: Elsewhere')],
  ['a comment', (text) => `# said before\n${text}`],
  ['things stand elsewhere', (text) => text.replaceAll(/at: \[(\d+)([,\]])/g, 'at: [$1.05$2')],
  ['people are slower', (text) => text.replaceAll(/speed: [\d.]+/g, 'speed: 1.5')],
  ['a place is elsewhere', (text) => text.replace(/(places:\n.*at: \[\d+)/, '$1.02')],
  [
    'other words',
    (text) =>
      text.replace('path-down: { type: exit,', 'path-down: { type: exit, feedback: { focused: [{ prompt: Climb }] },'),
  ],
]

describe('what other levels see of a level', () => {
  test.each(changes)('%s: the outlook is the same, and what is found beside it', (_, change) => {
    const changed = change(island)
    expect(readLevel(changed).diagnostics).toEqual([])
    expect(changed).not.toBe(island)
    expect(seen(changed)).toBe(seen(island))
    expect(harbourBeside(changed)).toEqual(harbourBeside(island))
  })

  test('what is asked for, given, dropped, led to, or called otherwise is another outlook', () => {
    const text = `zintel: 1
title: A hut
rooms: { hut: { outline: [[0, 0], [5, 0], [5, 4], [0, 4]] } }
items: { oil: {} }
flags: { lit: {} }
places: { door: { at: [1, 1] } }
interactables:
  range: { type: exit, at: [2, 2], set: { exit-to: { level: harbour, place: jetty } } }
  hook: { type: pickup, at: [3, 3], set: { gives: oil } }
characters: { sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
goals: { oil: { carries: oil } }
`
    const others = [
      text.replace('place: jetty', 'place: quay'),
      text.replace('gives: oil', 'gives: oil, comes-back: 3'),
      text.replace('carries: oil', 'flag: lit'),
      text.replace('places: { door', 'places: { gate'),
      text.replace('  range: {', '  rope: {'),
      text.replace('reach: 0.9 }', 'reach: 0.9, carries: { oil: 1 } }'),
      text.replace('oil: {}', 'oil: { stacks: 2 }'),
    ]
    for (const other of others) {
      expect(readLevel(other).diagnostics).toEqual([])
      expect(seen(other)).not.toBe(seen(text))
    }
    // A thing that has the name of a key is seen all the same.
    expect(seen(text)).toContain('"range"')
  })
})
