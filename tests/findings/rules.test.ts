import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { checkNow, checkProject, type FileReport, rules } from '../../src/findings/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { type Edit, edited, finish } from '../../src/model/index.ts'
import { readProject } from '../../src/play/index.ts'
import { answerTo, checked, inShort, project, textOf, twoRooms } from '../levels.ts'

/** The level of a page, before or after the fix, in its project where it has one. */
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
  return finish(checkProject(value, levels))[Object.keys(levels).indexOf(own)]!
}

describe('each rule has a page with the smallest level that shows it, and that one fixed', () => {
  const pages = readdirSync(`${project}docs/findings`).filter((file) => file.endsWith('.md') && file !== 'README.md')

  test('there is a page for every rule, and for nothing else, and the index lists them', () => {
    expect(pages.sort()).toEqual(rules.map(({ name }) => `${name}.md`).sort())
    const index = textOf('docs/findings/README.md')
    for (const { name, severity } of rules) expect(index).toContain(`| [${name}](${name}.md) | ${severity} |`)
  })

  for (const { name, severity } of rules) {
    test(name, () => {
      const page = textOf(`docs/findings/${name}.md`)
      expect(page).toContain(`Severity: ${severity}`)
      const [first = '', fix = ''] = page.split('## The fix')
      const broken = partsOf(first)
      const fixed = { ...broken, ...partsOf(fix) }
      expect(fixed).not.toEqual(broken)
      // Nothing but this rule decides the pair: whatever else is found in the one follows from it.
      const report = reportOn(broken)
      expect(report.findings.map((one) => one.rule)).toEqual([name])
      expect(report.findings[0]!.follows.filter((one) => one.rule === name)).toEqual([])
      const clean = reportOn(fixed)
      expect(inShort(clean)).toEqual([])
      expect(clean.counts.undecided).toBe(0)
    })
  }
})

test('the pictures of pages are what the script draws', async () => {
  const script = (await import(`${project}scripts/finding-pictures.mjs`)) as {
    pictured: readonly string[]
    pictureOf(rule: string): Promise<string>
  }
  const drawn = readdirSync(`${project}docs/findings/pictures`).sort()
  expect(drawn).toEqual(script.pictured.map((rule) => `${rule}.svg`).sort())
  for (const rule of script.pictured) {
    expect(textOf(`docs/findings/${rule}.md`)).toContain(`](pictures/${rule}.svg)`)
    expect(await script.pictureOf(rule)).toBe(textOf(`docs/findings/pictures/${rule}.svg`))
  }
})

describe('one cause, one report', () => {
  test('what follows from a misspelt name is grouped under it', () => {
    const report = checked(
      twoRooms(`items: { key: { stacks: 2 } }
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
  const report = checked(level('{ refused: [{ sound: rattle }] }'))
  expect(inShort(report)).toEqual(['one-channel door'])
  // Once a message is begun, no other is added.
  const begun = edited(
    readLevel(level('{ refused: [{ sound: rattle }] }')).source,
    report.findings[0]!.fix.edit as Edit,
  )
  const [again] = checked(begun!).findings
  expect([again?.rule, again?.fix.says, again?.fix.edit]).toEqual([
    'one-channel',
    'Write the message that is begun.',
    null,
  ])
  expect(inShort(checked(level('{ refused: [{ message: Locked }] }')))).toEqual([])
  expect(inShort(checked(level('{ focused: [{ prompt: Open }] }')))).toEqual([
    'silent-refusal door',
    'missing-prompt hook',
  ])
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

describe('what looks like a mistake, and is none', () => {
  test('a lamp in a doorway is not meant to shut it', () => {
    const report = checked(
      twoRooms(`interactables:
  lamp: { type: lamp, in: gap, set: { lit-by: pulled } }
  rope: { type: lever, at: [2, 0.4, 1], set: { sends: pulled } }
goals: { lit: { interactable: lamp, is: lit } }
`),
    )
    expect(inShort(report)).toEqual([])
    expect(answerTo(report, 'never-blocks', 'lamp')).toBe('not asked')
  })

  test('an item that must not be carried need not be had', () => {
    const report = checked(
      twoRooms(`items: { torch: {} }
interactables:
  barrel: { type: lever, at: [2, 0.4, 1], set: { needs: { not: { carries: torch } } } }
goals: { rolled: { interactable: barrel, is: "on" } }
`),
    )
    expect(answerTo(report, 'unobtainable-item', 'torch')).toBe('not asked')
    expect(answerTo(report, 'unused-item', 'torch')).toBe('ruled-out')
  })

  test('of two transitions for one press, the special case may stand before the general one', () => {
    const crate = (first: string, second: string): string =>
      twoRooms(`items: { key: {}, rope: {} }
types:
  crate:
    states: { shut: { look: shut }, open: { lasting: true, look: open }, tied: { lasting: true, look: tied } }
    transitions:
      - { name: one, from: shut, to: tied, trigger: press, guard: ${first} }
      - { name: two, from: shut, to: open, trigger: press, guard: ${second} }
    handle: [0, 0, 1]
    feedback: { refused: [{ message: No. }] }
interactables:
  crate: { type: crate, at: [2, 3.6] }
  hook: { type: pickup, at: [1, 0.4, 1], set: { gives: key } }
  coil: { type: pickup, at: [4, 0.4, 1], set: { gives: rope } }
goals:
  done: { interactable: crate, is: [open, tied] }
  roped: { carries: rope }
`)
    const both = '{ all: [{ carries: key }, { carries: rope }] }'
    expect(inShort(checked(crate(both, '{ carries: key }')))).toEqual([])
    const report = checked(crate('{ carries: rope }', '{ carries: key }'))
    expect(inShort(report)).toEqual(['overlapping-guards crate/one two'])
    expect(report.findings[0]!.steps.at(-1)!.text).toBe('Press: crate answers.')
  })

  test('signals to one, or to a tag, must come to somebody who waits for them', () => {
    const level = (to: string): string =>
      twoRooms(`types:
  caller:
    states: { up: { lasting: true } }
    transitions: [{ name: call, from: up, trigger: press, effects: [{ send: ring${to} }] }]
    handle: [0, 0, 1]
interactables:
  caller: { type: caller, at: [2, 3.6] }
  near: { type: lamp, at: [1, 3.6, 1], set: { lit-by: ring }, tags: [lamps] }
  far: { type: lever, at: [4, 3.6, 1], tags: [levers] }
goals: { lit: { interactable: far, is: "on" } }
`)
    expect(inShort(checked(level('')))).toEqual([])
    expect(inShort(checked(level(', to: near')))).toEqual([])
    expect(inShort(checked(level(', tagged: lamps')))).toEqual([])
    // The lamp then waits for what never comes to it, and what is sent comes to nobody: one cause each.
    const astray = inShort(checked(level(', tagged: levers'))).map((one) => one.split(' (')[0])
    expect(astray).toEqual(['unsent-signal near/ring', 'unheard-signal caller/ring'])
  })
})
