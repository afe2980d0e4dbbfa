import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { checkNow, type FileReport, rules } from '../../src/findings/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { readProject } from '../../src/play/index.ts'
import { checked, inShort, project, textOf, twoRooms } from '../levels.ts'

/** The level of a page, before or after the mend, in its project where it has one. */
type Parts = Readonly<Partial<Record<string, string>>>

function partsOf(text: string): Parts {
  const blocks = [...text.matchAll(/```yaml ?(\w*)\n([\s\S]*?)```/g)]
  return Object.fromEntries(blocks.map(([, kind = '', yaml = '']): [string, string] => [kind || 'level', yaml]))
}

function reportOn({ level = '', project: projectText, other = '' }: Parts): FileReport {
  const reading = readLevel(level, 'level.yaml')
  expect(reading.diagnostics).toEqual([])
  if (projectText === undefined) return checkNow(reading.value!, reading.source)
  const otherReading = readLevel(other, 'other.yaml')
  const value = readProject(projectText, 'a.project.yaml').value!
  const [own = '', second = ''] = Object.keys(value.levels)
  const levels = {
    [own]: expandLevel(reading.value!, reading.source),
    [second]: expandLevel(otherReading.value!, otherReading.source),
  }
  return checkNow(reading.value!, reading.source, { project: { project: value, level: own, levels } })
}

describe('each rule has a page with the smallest level that shows it, and that one mended', () => {
  const pages = readdirSync(`${project}docs/findings`).filter((file) => file !== 'README.md')

  test('there is a page for every rule, and for nothing else, and the index lists them', () => {
    expect(pages.sort()).toEqual(rules.map(({ name }) => `${name}.md`).sort())
    const index = textOf('docs/findings/README.md')
    for (const { name, severity } of rules) expect(index).toContain(`| [${name}](${name}.md) | ${severity} |`)
  })

  for (const { name, severity } of rules) {
    test(name, () => {
      const page = textOf(`docs/findings/${name}.md`)
      expect(page).toContain(`Severity: ${severity}`)
      const [first = '', mend = ''] = page.split('## The mend')
      const broken = partsOf(first)
      const mended = { ...broken, ...partsOf(mend) }
      expect(mended).not.toEqual(broken)
      // Nothing but this rule decides the pair: whatever else is found in the one follows from it.
      const report = reportOn(broken)
      expect(report.findings.map((one) => one.rule)).toEqual([name])
      expect(report.findings[0]!.follows.filter((one) => one.rule === name)).toEqual([])
      const clean = reportOn(mended)
      expect(inShort(clean)).toEqual([])
      expect(clean.counts.open).toBe(0)
    })
  }
})

describe('one cause, one report', () => {
  test('what follows from a misspelt name is folded under it', () => {
    const report = checked(
      twoRooms(`items: { key: {} }
interactables:
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: kay } }
  door: { type: door, in: gap, set: { lock: { item: key } }, feedback: { refused: [{ message: Locked }] } }
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
      twoRooms(`flags: { noon: {} }
types:
  gong: { states: { still: { lasting: true, look: still }, cracked: { lasting: true, look: cracked }, ringing: { lasting: true, look: ringing } }, transitions: [{ name: ring, from: still, to: ringing, trigger: { becomes: { flag: noon } } }] }
interactables:
  gong: { type: gong, at: [2, 2] }
  bell: { type: lever, at: [1, 0.4, 1] }
goals:
  rung: { interactable: bell, is: "on" }
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
  expect(inShort(checked(level('{ refused: [{ sound: rattle }] }')))).toEqual(['one-channel door'])
  expect(inShort(checked(level('{ refused: [{ message: Locked }] }')))).toEqual([])
  expect(inShort(checked(level('{ noticed: [{ prompt: Open }] }')))).toEqual(['silent-refusal door'])
})

test('a press that nobody can be refused on needs no words', () => {
  const report = checked(
    twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key } } }
goals: { through: { interactable: door, is: open } }
`).replace('reach: 0.9 }', 'reach: 0.9, carries: { key: 1 } }'),
  )
  expect(inShort(report)).toEqual([])
})
