import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { changedLines, type Edit, edited, readSource } from '../../src/model/index.ts'
import { project, textOf } from '../levels.ts'

/** A text after a change; throws where the change cannot be made. */
function after(text: string, edit: Edit): string {
  const result = edited(readSource(text, null), edit)
  if (result === null) throw new Error('the change cannot be made')
  return result
}

const level = `# The quay.
zintel: 1
items: { key: { title: key }, oil: {} }   # two of them
interactables:
  # Hangs by the door.
  hook:
    type: pickup   # to be pressed
    set: { gives: 'kay' }
  door:
    type: door
    feedback:
      refused:
        - { sound: rattle }
goals: { out: { carries: key } }
`

describe('a change leaves comments, order and all else as it was', () => {
  test('a value is replaced, with the marks that it had', () => {
    const text = after(level, { do: 'replace', path: 'interactables.hook.set.gives', value: 'key' })
    expect(text).toBe(level.replace("'kay'", "'key'"))
  })

  test('a key is renamed', () => {
    expect(after(level, { do: 'rename', path: 'items.oil', name: 'lamp-oil' })).toBe(
      level.replace('oil: {}', 'lamp-oil: {}'),
    )
  })

  test('an entry of a line goes with its comma, the first and the last', () => {
    expect(after(level, { do: 'remove', path: 'items.key' })).toContain('items: { oil: {} }   # two of them')
    expect(after(level, { do: 'remove', path: 'items.oil' })).toContain(
      'items: { key: { title: key } }   # two of them',
    )
  })

  test('an entry of a block goes with its lines, and the map round it once it would be empty', () => {
    const text = after(level, { do: 'remove', path: 'interactables.hook.type' })
    expect(text).toBe(level.replace('    type: pickup   # to be pressed\n', ''))
    const none = after(level, { do: 'remove', path: 'interactables.door.feedback.refused' })
    expect(none).toBe(level.replace(/ {4}feedback:\n.*\n.*\n/, ''))
  })

  test('an entry is added to a line, to a block, and where there was no map yet', () => {
    const inLine = after(level, { do: 'add', path: 'items', key: 'chart', value: { title: 'a chart' } })
    expect(inLine).toContain('oil: {}, chart: { title: "a chart" } }   # two of them')
    const inBlock = after(level, { do: 'add', path: 'interactables.door', key: 'in', value: 'gap' })
    expect(inBlock).toContain('        - { sound: rattle }\n    in: gap\n')
    const anew = after(level, {
      do: 'add',
      path: 'interactables.hook.feedback',
      key: 'accepted',
      value: [{ sound: 'clink' }],
    })
    expect(anew).toContain("    set: { gives: 'kay' }\n    feedback: { accepted: [{ sound: clink }] }\n  door:")
  })

  test('an entry is appended to a list, in a line or not', () => {
    const text = after(level, { do: 'append', path: 'interactables.door.feedback.refused', value: { message: 'No.' } })
    expect(text).toContain('        - { sound: rattle }\n        - { message: "No." }\n')
    const list = after('a: [1, 2]\n', { do: 'append', path: 'a', value: 3 })
    expect(list).toBe('a: [1, 2, 3]\n')
    expect(after('a: []\n', { do: 'append', path: 'a', value: 3 })).toBe('a: [3]\n')
  })

  test('a JSON file stays JSON', () => {
    const json = '{\n  "items": { "key": {} },\n  "goals": {}\n}\n'
    const text = after(json, { do: 'add', path: 'items', key: 'oil', value: { title: 'lamp oil' } })
    expect(JSON.parse(text)).toEqual({ items: { key: {}, oil: { title: 'lamp oil' } }, goals: {} })
    expect(JSON.parse(after(json, { do: 'remove', path: 'goals' }))).toEqual({ items: { key: {} } })
  })

  test('what an alias stands for is not changed by way of it, and what is not there cannot be', () => {
    const text = 'one: &a { refused: [] }\nother: *a\n'
    expect(edited(readSource(text, null), { do: 'add', path: 'other', key: 'x', value: 1 })).toBeNull()
    expect(edited(readSource(text, null), { do: 'replace', path: 'third', value: 1 })).toBeNull()
  })
})

test('changed lines are those from the first to the last that differ', () => {
  expect(changedLines('a\nb\nc\n', 'a\nx\ny\nc\n')).toEqual({ line: 2, was: ['b'], becomes: ['x', 'y'] })
  expect(changedLines('a\nc\n', 'a\nb\nc\n')).toEqual({ line: 2, was: [], becomes: ['b'] })
  expect(changedLines('a', 'a')).toBeNull()
})

/** The plain way: the value with a part of it changed. Maps that would be empty go too, except at the root and in lines. */
function changedValue(value: unknown, keys: readonly string[], to: unknown): unknown {
  const [key, ...rest] = keys
  if (key === undefined) return to
  if (Array.isArray(value)) {
    const all: unknown[] = value.map((one: unknown, i) => (String(i) === key ? changedValue(one, rest, to) : one))
    return all.filter((one) => one !== gone)
  }
  const all = Object.entries(value as object).map(([name, one]): [string, unknown] => {
    return name === key ? [name, changedValue(one, rest, to)] : [name, one]
  })
  return Object.fromEntries(all.filter(([, one]) => one !== gone))
}

const gone = Symbol('taken out')

/** All paths of a value, as lists of keys. */
function pathsIn(value: unknown, before: readonly string[] = []): string[][] {
  if (typeof value !== 'object' || value === null) return [[...before]]
  return [[...before], ...Object.entries(value).flatMap(([key, one]) => pathsIn(one, [...before, key]))]
}

test('every part of every example can be replaced, and taken out, and nothing else changes by that', () => {
  const files = readdirSync(`${project}examples/levels`, { recursive: true }).map(String)
  let tried = 0
  for (const file of files.filter((name) => name.endsWith('.level.yaml'))) {
    const source = readSource(textOf(`examples/levels/${file}`), file)
    for (const [i, keys] of pathsIn(source.value).entries()) {
      if (keys.length === 0 || i % 17 !== 0) continue
      const path = keys.join('.')
      const replaced = edited(source, { do: 'replace', path, value: 'another' })
      if (replaced !== null) {
        tried++
        expect(readSource(replaced, null).value).toEqual(changedValue(source.value, keys, 'another'))
      }
      const removed = edited(source, { do: 'remove', path })
      if (removed === null) continue
      tried++
      const { value } = readSource(removed, null)
      const plain = changedValue(source.value, keys, gone)
      if (JSON.stringify(value) !== JSON.stringify(plain)) expect(withoutEmpty(value)).toEqual(withoutEmpty(plain))
    }
  }
  expect(tried).toBeGreaterThan(400)
})

/** Without maps and lists that hold nothing: where the last entry of a block goes, what was round it goes too. */
function withoutEmpty(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value
  const kept = Object.entries(value)
    .map(([key, one]): [string, unknown] => [key, withoutEmpty(one)])
    .filter(([, one]) => typeof one !== 'object' || one === null || Object.keys(one).length > 0)
  return Object.fromEntries(kept)
}

test('the first key behind a dash is taken out, and the dash stays; what others refer to is not taken out', () => {
  const source = readSource(
    'rows:\n  - name: turn\n    from: still\n  - { name: other }\nbase: &all { a: 1 }\ncopy: *all\n',
    null,
  )
  expect(edited(source, { do: 'remove', path: 'rows.0.name' })).toContain('rows:\n  - from: still\n')
  expect(edited(source, { do: 'remove', path: 'base' })).toBeNull()
  expect(edited(source, { do: 'replace', path: 'base', value: 'b' })).toBeNull()
})
