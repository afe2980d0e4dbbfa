import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { readdirSync } from 'node:fs'
import { planShapes, prepareLevel } from '../../src/library/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { contextAt } from '../../examples/workbench/src/book/context.ts'
import { Desk, levelFor, unsaved } from '../../examples/workbench/src/desk/desk.ts'
import {
  besides,
  commonOf,
  freeFile,
  inOrder,
  kindOf,
  membersOf,
  shortName,
} from '../../examples/workbench/src/desk/files.ts'
import {
  emptyHistory,
  redone,
  type Step,
  undone,
  withChanges,
  withStep,
} from '../../examples/workbench/src/desk/history.ts'
import { takeFiles } from '../../examples/workbench/src/desk/taking.ts'
import { countText, differences, type Finding } from '../../examples/workbench/src/margin/finding.ts'
import { blankIn, marksOf, noteOf, offsetOf, pathAt } from '../../examples/workbench/src/marking.ts'
import {
  extentOf,
  fitting,
  leastScale,
  mostScale,
  roundMetres,
  toGround,
  toScreen,
  type View,
  zoomed,
} from '../../examples/workbench/src/sheet/view.ts'
import { checked, project, textOf, twoRooms } from '../levels.ts'

const folder = 'examples/levels/'
const examples = readdirSync(project + folder, { recursive: true })
  .map(String)
  .filter((name) => name.endsWith('.level.yaml'))

/** All paths of a value, as lists of keys. */
function pathsIn(value: unknown, before: readonly string[] = []): string[][] {
  if (typeof value !== 'object' || value === null) return []
  return Object.entries(value).flatMap(([key, one]) => [[...before, key], ...pathsIn(one, [...before, key])])
}

describe('where in a text one is', () => {
  test('is told at every key of every example, whatever stands below it', () => {
    let looked = 0
    for (const file of examples) {
      const text = textOf(folder + file)
      const { source } = readLevel(text, file)
      for (const [i, keys] of pathsIn(source.value).entries()) {
        const span = source.keySpan(keys.join('.'))
        if (!span || i % 5 !== 0) continue
        // What stands elsewhere, by way of an anchor, is met there.
        const starts = keys.map((_, at) => source.keySpan(keys.slice(0, at + 1).join('.'))?.start ?? -1)
        if (starts.some((start, at) => start < 0 || (at > 0 && start <= starts[at - 1]!))) continue
        // As it is while one writes: nothing of what follows is looked at.
        const half = text.slice(0, span.start + 1)
        // Braces over several lines are not followed: that is said of it.
        const line = half.slice(half.lastIndexOf('\n') + 1)
        const above = text.slice(0, span.start - line.length)
        if (/[[{,]\s*$/.test(above.trimEnd())) continue
        const { path, word, from, isValue } = contextAt(half, half.length)
        const inLists = (all: readonly string[]) => all.map((key) => (/^\d+$/.test(key) ? '0' : key))
        expect([file, inLists(path), word, from, isValue]).toEqual([
          file,
          inLists(keys.slice(0, -1)),
          text[span.start],
          span.start,
          false,
        ])
        looked++
      }
    }
    expect(looked).toBeGreaterThan(400)
  })

  test.each([
    ['interactables:\n  gate: { type: do', ['interactables', 'gate', 'type'], 'do', true],
    ['interactables:\n  gate: { type: door, set: { lock: { it', ['interactables', 'gate', 'set', 'lock'], 'it', false],
    ['interactables:\n  gate:\n    set:\n      lo', ['interactables', 'gate', 'set'], 'lo', false],
    ['rooms:\n  hall: { outline: [[0, 0], [1, ', ['rooms', 'hall', 'outline', '1', '1'], '', true],
    ['types:\n  box:\n    transitions:\n      - { from: shut, tri', ['types', 'box', 'transitions', '0'], 'tri', false],
    [
      'types:\n  box:\n    transitions:\n      - from: shut\n        to: op',
      ['types', 'box', 'transitions', '0', 'to'],
      'op',
      true,
    ],
    ['title: "a: { b" # no\nite', [], 'ite', false],
    ['title: x # type: do', [], 'do', false],
  ])('%j', (text, path, word, isValue) => {
    expect(contextAt(text, text.length)).toEqual({ path, word, from: text.length - word.length, isValue })
  })

  test('offsets of lines, and the part that one stands in', () => {
    expect([1, 2, 3].map((line) => offsetOf('ab\nc\n\nd', line))).toEqual([0, 3, 5])
    const spans = { 'rooms.hall': [10, 30], 'items.key': [40, 50], 'interactables.gate': [60, 90] } as const
    expect([5, 10, 30, 45, 77].map((at) => pathAt(spans, at))).toEqual([
      null,
      'rooms.hall',
      'rooms.hall',
      null,
      'interactables.gate',
    ])
  })

  test('a line that a change leaves to be written is found, and one that was there before is not', () => {
    const before = 'a: "(say here: x)"\nb: 1\n'
    const after = 'a: "(say here: x)"\nb: "(say here: y)"\n'
    const [from, to] = blankIn([{ file: 'f', before, after }])!
    expect(after.slice(from, to)).toBe('(say here: y)')
    expect(blankIn([{ file: 'f', before, after: before }])).toBeNull()
    expect(blankIn([{ file: 'f', before: null, after: null }])).toBeNull()
  })
})

describe('files', () => {
  test.each([
    ['x.yaml', '# hello\nzintel: 1\n', 'level'],
    ['x.yaml', 'project: 1\n', 'project'],
    ['x.yaml', '"walkthrough": 1', 'walkthrough'],
    ['x.yaml', 'common: 1\n', 'common'],
    ['x.yaml', 'anything: else', 'other'],
    ['half.level.yaml', 'titl', 'level'],
    ['half.walkthrough.json', '{', 'walkthrough'],
    ['notes.txt', '', 'other'],
  ])('%s that says %j is of its kind', (name, text, kind) => {
    expect(kindOf(name, text)).toBe(kind)
  })

  test('are named from where another stands', () => {
    expect(besides('a/b/p.project.yaml', '../c/x.yaml')).toBe('a/c/x.yaml')
    expect(besides('p.project.yaml', './x.yaml')).toBe('x.yaml')
    expect(besides('a/p.yaml', '../../x.yaml')).toBe('x.yaml')
    expect(shortName('a/b/c.yaml')).toBe('c.yaml')
    expect(membersOf('a/p.project.yaml', { hall: { file: 'hall.yaml' }, loft: { file: '../loft.yaml' } })).toEqual([
      { name: 'hall', file: 'a/hall.yaml' },
      { name: 'loft', file: 'loft.yaml' },
    ])
  })

  test('come in order, and new ones get a name that is free', () => {
    const files = {
      'w.walkthrough.yaml': '',
      'b.level.yaml': '',
      'a.level.yaml': '',
      'p.project.yaml': '',
      'z.txt': '',
    }
    expect(inOrder(files).map(({ name }) => name)).toEqual([
      'p.project.yaml',
      'a.level.yaml',
      'b.level.yaml',
      'w.walkthrough.yaml',
      'z.txt',
    ])
    expect(freeFile(files, 'c.level.yaml')).toBe('c.level.yaml')
    expect(freeFile(files, 'a.level.yaml')).toBe('a-2.level.yaml')
    expect(freeFile({ ...files, 'a-2.level.yaml': '' }, 'a.level.yaml')).toBe('a-3.level.yaml')
  })

  test('that a level has in common with others are found beside it', () => {
    const files = {
      'mill/a.level.yaml': "zintel: 1\ncommon: [x.yaml, '../y.yaml', gone.yaml]\n",
      'mill/x.yaml': 'X',
      'y.yaml': 'Y',
    }
    expect(commonOf(files, 'mill/a.level.yaml')).toEqual({ 'x.yaml': 'X', '../y.yaml': 'Y' })
    expect(commonOf(files, 'y.yaml')).toEqual({})
  })

  test('that are chosen are taken, or told why not', async () => {
    const file = (text: string | Uint8Array<ArrayBuffer>, size?: number): File =>
      Object.assign(new Blob([text]), size === undefined ? {} : { size }) as File
    const big = { size: 12_000_000, arrayBuffer: () => Promise.reject(new Error('not to be read')) } as unknown as File
    const { files, refused } = await takeFiles([
      { name: 'a/level.yaml', file: file('zintel: 1\n# ä\n') },
      { name: 'a/picture.png', file: file('x') },
      { name: 'big.yaml', file: big },
      { name: 'odd.json', file: file(new Uint8Array([0xff, 0xfe, 0x00])) },
    ])
    expect(files).toEqual({ 'a/level.yaml': 'zintel: 1\n# ä\n' })
    expect(refused).toEqual(['big.yaml has 12.0 MB: at most 10 MB can be opened.', 'odd.json is not text in UTF-8.'])
    expect((await takeFiles([{ name: 'picture.png', file: file('x') }])).refused).toEqual([
      'picture.png is no YAML or JSON file.',
    ])
  })

  test('the level beside a file: its own, that of a walkthrough, the first of a project', () => {
    const files = {
      'p.project.yaml': 'project: 1\n',
      'hall.level.yaml': 'zintel: 1\n',
      'mill.level.yaml': 'zintel: 1\n',
      'mill.first.walkthrough.yaml': 'walkthrough: 1\n',
      'odd.walkthrough.yaml': 'walkthrough: 1\nlevel: mill.level.yaml # here\n',
    }
    const beside = Object.keys(files).map((open) => levelFor({ files, open }))
    expect(beside).toEqual([
      'hall.level.yaml',
      'hall.level.yaml',
      'mill.level.yaml',
      'mill.level.yaml',
      'mill.level.yaml',
    ])
    expect(levelFor({ files, open: null })).toBeNull()
    expect(levelFor({ files: { 'odd.walkthrough.yaml': 'walkthrough: 1\n' }, open: 'odd.walkthrough.yaml' })).toBeNull()
  })

  test('are unsaved where they differ from what was opened or saved', () => {
    const desk = new Desk()
    desk.add({ 'a.level.yaml': 'zintel: 1\n', 'b.level.yaml': 'zintel: 1\n' }, 'open')
    expect([desk.state.open, unsaved(desk.state)]).toEqual(['a.level.yaml', []])
    desk.write('b.level.yaml', 'zintel: 1\ntitle: B\n', 'type')
    expect(unsaved(desk.state)).toEqual(['b.level.yaml'])
    desk.markSaved(['b.level.yaml'])
    expect(unsaved(desk.state)).toEqual([])
    desk.undo()
    expect(unsaved(desk.state)).toEqual(['b.level.yaml'])
    desk.compareFromHere('a.level.yaml')
    expect(desk.state.baseline['a.level.yaml']).toBe(desk.text('a.level.yaml'))
  })

  test('listeners hear of every change once, and no more once they end', () => {
    const desk = new Desk()
    let heard = 0
    const end = desk.subscribe(() => heard++)
    desk.add({ 'a.yaml': 'zintel: 1\n' }, 'open')
    const before = heard
    desk.write('a.yaml', desk.text('a.yaml'), 'nothing')
    desk.write('gone.yaml', 'x', 'nothing')
    desk.look('gone.yaml')
    expect(heard).toBe(before)
    desk.write('a.yaml', 'zintel: 1\ntitle: x\n', 'type')
    expect(heard).toBe(before + 1)
    end()
    desk.undo()
    expect(heard).toBe(before + 1)
  })
})

describe('the history', () => {
  const names = ['a', 'b', 'c'] as const
  const doing = fc.oneof(
    fc.record({
      do: fc.constant('write' as const),
      file: fc.constantFrom(...names),
      text: fc.string({ maxLength: 4 }),
    }),
    fc.record({ do: fc.constant('remove' as const), file: fc.constantFrom(...names), text: fc.constant('') }),
    fc.record({
      do: fc.constantFrom('undo' as const, 'redo' as const),
      file: fc.constant('a' as const),
      text: fc.constant(''),
    }),
  )

  test('takes everything back to where it began, and does all of it again, whatever was done', () => {
    fc.assert(
      fc.property(fc.array(doing, { maxLength: 40 }), (all) => {
        // The plain way: every state of the files is kept.
        let [states, at] = [[{}] as Record<string, string>[], 0]
        let [files, history] = [{} as Readonly<Record<string, string>>, emptyHistory]
        for (const [i, one] of all.entries()) {
          const back = one.do === 'undo' ? undone(history) : one.do === 'redo' ? redone(history) : null
          if (one.do === 'undo' || one.do === 'redo') {
            const by = one.do === 'undo' ? -1 : 1
            expect(back !== null).toBe(at + by >= 0 && at + by < states.length)
            if (!back) continue
            files = withChanges(files, back.changes)
            history = { ...history, done: history.done + by }
            at += by
          } else {
            const before = files[one.file] ?? null
            const after = one.do === 'write' ? one.text : null
            if (before === after) continue
            const step: Step = {
              says: one.do,
              changes: [{ file: one.file, before, after }],
              at: i * 1000,
              isTyping: true,
            }
            files = withChanges(files, step.changes)
            history = withStep(history, step)
            states = [...states.slice(0, at + 1), { ...files }]
            at++
          }
          expect(files).toEqual(states[at])
        }
      }),
      { numRuns: 200, seed: 16 },
    )
  })

  test('forgets the oldest steps where it grows too large, never the last', () => {
    const large = 'x'.repeat(15_000_000)
    let history = emptyHistory
    for (let i = 0; i < 4; i++) {
      const step = {
        says: String(i),
        changes: [{ file: 'a', before: null, after: large }],
        at: i * 1000,
        isTyping: false,
      }
      history = withStep(history, step)
    }
    expect(history.steps.map(({ says }) => says)).toEqual(['1', '2', '3'])
    expect(history.done).toBe(3)
    const huge = {
      says: 'huge',
      changes: [{ file: 'a', before: large, after: large.repeat(4) }],
      at: 9000,
      isTyping: false,
    }
    expect(withStep(history, huge).steps.map(({ says }) => says)).toEqual(['huge'])
  })
})

describe('the view of the ground', () => {
  const view: fc.Arbitrary<View> = fc.record({
    x: fc.double({ min: -2000, max: 2000, noNaN: true }),
    y: fc.double({ min: -2000, max: 2000, noNaN: true }),
    scale: fc.double({ min: leastScale, max: mostScale, noNaN: true }),
  })
  const spot = fc.tuple(fc.double({ min: -60, max: 60, noNaN: true }), fc.double({ min: -60, max: 60, noNaN: true }))

  test('there and back is where one was; what one zooms about stays where it is', () => {
    fc.assert(
      fc.property(view, spot, fc.double({ min: 0.01, max: 100, noNaN: true }), (of, at, factor) => {
        const [x, y] = toGround(of, toScreen(of, at))
        expect(Math.hypot(x - at[0], y - at[1])).toBeLessThan(1e-6)
        const pixel = toScreen(of, at)
        const after = zoomed(of, factor, pixel)
        expect(after.scale).toBeGreaterThanOrEqual(leastScale)
        expect(after.scale).toBeLessThanOrEqual(mostScale)
        const [px, py] = toScreen(after, at)
        expect(Math.hypot(px - pixel[0], py - pixel[1])).toBeLessThan(1e-4)
      }),
      { numRuns: 300, seed: 16 },
    )
  })

  test('at first all of a level is seen, at every size of the sheet', () => {
    const shapes = planShapes(prepareLevel(readLevel(textOf('examples/levels/tide-mill.level.yaml'))))
    for (const size of [
      { width: 400, height: 500 },
      { width: 600, height: 700 },
      { width: 1400, height: 900 },
    ]) {
      const shown = fitting(shapes, size)
      const [west, south, east, north] = extentOf(shapes)
      for (const corner of [
        [west, south],
        [east, north],
      ] as const) {
        const [x, y] = toScreen(shown, corner)
        expect(x).toBeGreaterThan(0)
        expect(x).toBeLessThan(size.width)
        expect(y).toBeGreaterThan(0)
        expect(y).toBeLessThan(size.height)
      }
    }
    expect(extentOf([])).toEqual([0, 0, 10, 8])
  })

  test('marks along the edge are round numbers of metres, never nearer than is asked for', () => {
    for (const scale of [3, 11, 30, 97, 400]) {
      const step = roundMetres(scale, 60)
      expect(step * scale).toBeGreaterThanOrEqual(60)
      expect(step * scale).toBeLessThan(60 * 3)
    }
  })
})

describe('findings beside the text and on the plan', () => {
  const text = twoRooms(`items: { kee: {}, coin: {} }
interactables:
  gate: { type: door, in: gap, set: { lock: { item: key } } }
  hook: { type: pickup, at: [2, 2], set: { gives: coin } }
`)
  const { findings } = checked(text)

  test('each is counted, and marked at its word', () => {
    expect(findings.length).toBeGreaterThan(1)
    for (const one of findings) {
      for (const { from, to, message, severity } of noteOf(one, text)) {
        expect(text.slice(0, from).split('\n')).toHaveLength(one.place!.line!)
        expect(text.slice(from, to)).toMatch(/^[^\s,\]}:]+$/)
        expect(message.startsWith(`${one.rule}: `)).toBe(true)
        expect(['error', 'warning', 'info']).toContain(severity)
      }
    }
    const of = (severity: Finding['severity']) => ({ severity })
    expect(countText([])).toBe('Nothing found')
    expect(countText([of('error'), of('warning'), of('warning'), of('advice')])).toBe(
      '1 error, 2 warnings, 1 piece of advice',
    )
  })

  test('numbers stand at what they are about, beside one another where that is the same', () => {
    const shapes = planShapes(readLevel(text))
    const twice = [...findings, ...findings]
    const marks = marksOf(twice, null, shapes)
    const numbered = new Map(marks.map((one) => [one.text, one]))
    const places = new Set(marks.map(({ at }) => JSON.stringify(at)))
    for (const place of places) {
      const shifts = marks.flatMap(({ at, shift }) => (JSON.stringify(at) === place ? [shift] : []))
      expect([place, shifts]).toEqual([place, shifts.map((_, i) => i)])
    }
    expect([...numbered.keys()].every((one) => Number(one) >= 1 && Number(one) <= twice.length)).toBe(true)
  })

  test('what came, what went, and what stayed', () => {
    const after = checked(text.replace('item: key', 'item: kee'))
    const { came, went, stayed } = differences(checked(text), after)
    expect(went.map(({ rule }) => rule)).toContain('unknown-name')
    expect(came.length + stayed).toBe(after.findings.length)
    const same = differences(after, after)
    expect([same.came, same.went, same.stayed]).toEqual([[], [], after.findings.length])
  })
})
