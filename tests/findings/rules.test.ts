import { describe, expect, test } from '@jest/globals'
import { existsSync } from 'node:fs'
import { rules } from '../../src/findings/index.ts'
import { checked, inShort, project, textOf, twoRooms } from '../levels.ts'

describe('each rule has a page with the smallest level that shows it, and the mend', () => {
  for (const { name, severity } of rules) {
    test(name, () => {
      const file = `docs/findings/${name}.md`
      expect(existsSync(project + file)).toBe(true)
      const page = textOf(file)
      expect(page).toContain(`Severity: ${severity}`)
      const [broken, mended] = [...page.matchAll(/```yaml\n([\s\S]*?)```/g)].map((match) => match[1] ?? '')
      const found = checked(broken ?? '', name).findings
      expect(found.map((one) => one.rule)).toContain(name)
      expect(found.flatMap((one) => [one, ...one.follows]).filter((one) => one.rule === name)).toHaveLength(1)
      expect(inShort(checked(mended ?? '', name)).filter((one) => one.startsWith(`${name} `))).toEqual([])
    })
  }
})

describe('one cause, one report', () => {
  test('what follows from a misspelt name is folded under it', () => {
    const report = checked(
      twoRooms(`items: { key: {} }
interactables:
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: kay } }
  door: { type: door, in: gap, set: { lock: { item: key } }, feedback: { refused: [{ sound: rattle }] } }
  lamp: { type: pickup, at: [9, 2, 1], set: { gives: key } }
goals:
  lamp: { interactable: lamp, is: taken }
`),
    )
    expect(report.findings).toHaveLength(1)
    expect(report.findings[0]!.rule).toBe('unknown-name')
    expect(report.findings[0]!.follows.map(({ rule }) => rule)).toContain('unreachable-goal')
    expect(report.findings[0]!.follows.map(({ rule }) => rule)).toContain('dead-transition')
  })

  test('two causes of their own stay two', () => {
    const report = checked(
      twoRooms(`items: { key: {} }
types:
  gong: { states: { still: {}, cracked: {}, ringing: {} }, transitions: [{ name: ring, from: still, to: ringing, trigger: { signal: never } }] }
interactables:
  gong: { type: gong, at: [2, 2] }
goals:
  any: { not: { carries: key } }
`),
    )
    expect(inShort(report)).toEqual([
      'unreachable-state gong/cracked',
      'dead-transition gong/ring (unreachable-state gong/ringing)',
    ])
  })
})

test('a refusal that has a sound or a message is not silent; a prompt alone does not tell', () => {
  const level = (feedback: string): string =>
    twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key } }, feedback: ${feedback} }
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: key } }
goals: { key: { carries: key } }
`)
  expect(inShort(checked(level('{ refused: [{ sound: rattle }] }')))).toEqual([])
  expect(inShort(checked(level('{ noticed: [{ prompt: Open }] }')))).toEqual(['silent-refusal door'])
})

test('a press that nobody can be refused on needs no words', () => {
  const report = checked(
    twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key } } }
goals: { key: { carries: key } }
`).replace('reach: 0.9 }', 'reach: 0.9, carries: { key: 1 } }'),
  )
  expect(inShort(report)).toEqual([])
})
