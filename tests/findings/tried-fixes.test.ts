import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { stringify } from 'yaml'
import type { FileReport, Finding } from '../../src/findings/index.ts'
import { smallEdits } from '../../src/findings/fixes/small-edits.ts'
import { expandLevel, loadLevel, readLevel } from '../../src/interactables/index.ts'
import { changedValue, edited, finish, type Level, valueSource } from '../../src/model/index.ts'
import { makeStage, stageInSlices } from '../../src/play/index.ts'
import { zintel } from '../cli/zintel.ts'
import { answerTo, checked, staged, textOf, twoRooms } from '../levels.ts'
import { pairs } from '../oracle/levels.ts'

const mill = textOf('examples/levels/tide-mill.level.yaml')

/** The report of a level in which some words were exchanged. */
function spoiled(text: string, ...words: readonly (readonly [right: string, wrong: string])[]): FileReport {
  let wrong = text
  for (const [one, other] of words) {
    expect(wrong.includes(one)).toBe(true)
    wrong = wrong.replace(one, other)
  }
  return checked(wrong)
}

/** What the first finding says is to be changed, line by line; all that were tried and will do. */
function fixesOf({ findings: [first] }: FileReport): string[] {
  return first?.tried.map(({ lines }) => lines?.becomes.join('\n').trim() ?? 'none') ?? []
}

describe('a goal that cannot be met is told with the smallest change that lets it be met', () => {
  const mistakes: readonly [what: string, right: string, wrong: string, line: string][] = [
    [
      'a lock that asks for one too many',
      'tally, count: 2',
      'tally, count: 3',
      'set: { item: tally, count: 2, item-use: consume }',
    ],
    [
      'a lock that asks for what lies behind it',
      'lock: { item: sluice-key,',
      'lock: { item: crank,',
      'lock: { item: sluice-key, item-use: keep }',
    ],
    [
      'a guard the wrong way round',
      'guard: { carries: crank }',
      'guard: { not: { carries: crank } }',
      'guard: { carries: crank }',
    ],
    [
      'a signal that was mistaken for another',
      'signal: wheel-turned',
      'signal: water-running',
      '- { name: rise, from: down, to: rising, trigger: { signal: wheel-turned }, feedback: [{ sound: chain }] }',
    ],
    [
      'a state that was mistaken for another',
      'from: still\n        to: grinding',
      'from: grinding\n        to: grinding',
      'from: still',
    ],
  ]
  for (const [what, right, wrong, line] of mistakes) {
    test(what, () => {
      const report = spoiled(mill, [right, wrong])
      const [first] = report.findings
      expect([first?.rule, first?.subject]).toEqual(['unreachable-goal', 'grind'])
      expect(fixesOf(report)).toEqual([line])
      expect(first?.place?.line).toBe(first?.tried[0]?.lines?.line)
      // What follows is under it: nothing else is told.
      expect(report.findings).toHaveLength(1)
    })
  }

  test('where it is grouped under a name that leads nowhere, that name is the cause, and nothing is tried', () => {
    const report = spoiled(mill, ['gives: [{ item: crank }', 'gives: [{ item: crnak }'])
    expect(report.findings.map(({ rule }) => rule)).toEqual(['unknown-name'])
    expect(report.findings[0]?.tried).toEqual([])
  })
})

test('an item that is used up before it is needed is kept, where it is used up', () => {
  const report = spoiled(mill, ['lock: { item: crank, item-use: keep }', 'lock: { item: crank, item-use: consume }'])
  expect(report.findings.map(({ rule }) => rule)).toEqual(['unreachable-goal'])
  expect(fixesOf(report)).toEqual(['lock: { item: crank, item-use: keep }'])
})

test('a counter that never comes so far ends the chain, with how far it comes', () => {
  const { findings } = spoiled(textOf('examples/levels/idioms/pump-house.level.yaml'), ['at-least: 2', 'at-least: 4'])
  expect(findings[0]?.message).toContain('It needs: sluice open ← valves-open 4 or more. Nothing brings')
  expect(findings[0]?.message).toContain('it comes to 3 at the most.')
})

test('a state that is not there is told with those that are, and what waits for it follows', () => {
  const { findings } = spoiled(textOf('examples/levels/idioms/museum.level.yaml'), [
    'interactable: case, is: open',
    'interactable: case, is: ajar',
  ])
  expect(findings[0]?.rule).toBe('unknown-name')
  expect(findings[0]?.fix.says).toBe('Write one of locked, opening, open; or add it to the level.')
  expect(findings[0]?.follows.map(({ rule }) => rule)).toContain('dead-transition')
})

test('a range that is no wider than a spot is out of reach, and not undecided', () => {
  const { findings } = spoiled(textOf('examples/levels/idioms/smithy.level.yaml'), [
    'coal-bin: { type: pickup, at: [0.4, 1, 0.8],',
    'coal-bin: { type: pickup, at: [2, 2, 1], range: { radius: 0.2 },',
  ])
  expect(findings.map(({ rule }) => rule)).toContain('out-of-reach')
})

describe('a goal that can be lost is told with the change that keeps it', () => {
  test('the item that is used up on the wrong lock', () => {
    const report = spoiled(mill, ['tally, item-use: keep', 'tally, item-use: consume'])
    expect(report.findings.map(({ rule }) => rule)).toEqual(['wasted-item'])
    expect(fixesOf(report)).toEqual(['set: { item: tally, item-use: keep, sends: toll-shown }'])
  })
})

describe('what a transition that loses a goal could ask for', () => {
  const kiln = (guard: string, bed = 'bed'): string =>
    twoRooms(`items: { turf: { title: turf } }
types:
  kiln:
    states: { cold: { look: cold }, hot: { lasting: true, look: hot } }
    transitions:
      - { name: light, from: cold, to: hot, trigger: press, guard: ${guard}, effects: [{ consume: turf }, { send: heat }], feedback: [{ sound: flame }], refused: [{ message: Not yet. }] }
    handle: [0, 0, 1]
  bed:
    states: { bare: { lasting: true, look: bare }, spread: { lasting: true, look: spread }, dry: { lasting: true, look: dry } }
    transitions:
      - { name: spread, from: bare, to: spread, trigger: press, feedback: [{ sound: rake }] }
      - { name: dry, from: spread, to: dry, trigger: { signal: heat }, feedback: [{ sound: hiss }] }
    handle: [0, 0, 1]
interactables:
  stack: { type: pickup, at: [0.2, 2, 1], set: { gives: turf } }
  kiln: { type: kiln, at: [2, 0.2, 1] }
  ${bed}: { type: bed, at: [4, 0.2, 1] }
goals: { dry: { interactable: ${bed}, is: dry } }
`)

  test('is found by what sets its good moments apart from its bad ones, tried, and written', () => {
    const report = checked(kiln('{ carries: turf }'))
    expect(report.findings.map(({ rule, subject }) => [rule, subject])).toEqual([['wasted-item', 'dry']])
    expect(report.findings[0]!.tried.map(({ says }) => says)).toEqual(['Let it ask for this, too: bed is spread.'])
    const reading = readLevel(kiln('{ carries: turf }'))
    const fixed = edited(reading.source, report.findings[0]!.tried[0]!.edit)!
    expect(fixed).toContain('{ all: [{ carries: turf }, { interactable: bed, is: spread }] }')
    expect(checked(fixed).findings).toEqual([])
  })

  test('goes to the end of a list of conditions', () => {
    const report = checked(kiln('{ all: [{ carries: turf }] }'))
    const reading = readLevel(kiln('{ all: [{ carries: turf }] }'))
    expect(edited(reading.source, report.findings[0]!.tried[0]!.edit)).toContain(
      '{ all: [{ carries: turf }, { interactable: bed, is: spread }] }',
    )
  })
})

test('what keeps something from happening once a goal was lost is turned round, where that is smallest', () => {
  const bridge = textOfBridge('{ not: { flag: friend } }')
  const [first, ...rest] = checked(bridge).findings
  expect([first!.rule, rest]).toEqual(['soft-lock', []])
  expect(first!.tried.map(({ says }) => says)).toEqual(['Take the not out.'])
  expect(first!.place!.path).toMatch(/^interactables\.windlass\.set\.needs/)
  expect(first!.follows.map(({ rule }) => rule)).toContain('broken-requirement')
  expect(checked(textOfBridge('{ flag: friend }')).findings).toEqual([])
})

/** A bridge that is let down for friends, or for all but those. */
function textOfBridge(needs: string): string {
  return twoRooms(`flags: { friend: {} }
interactables:
  horn: { type: lever, at: [0.2, 2, 1], set: { sets: friend, stays: true }, feedback: { accepted: [{ sound: horn }] } }
  windlass: { type: button, at: [4, 0.2, 1], set: { sends: lower, needs: ${needs} }, feedback: { accepted: [{ sound: knock }], refused: [{ message: Who is there? }] } }
  bridge: { type: bridge, in: gap }
  throne: { type: lever, at: [9.8, 2, 1], feedback: { accepted: [{ sound: cloth }] } }
types:
  bridge:
    states: { up: { look: up, blocks: [walk] }, down: { lasting: true, look: down } }
    transitions:
      - { name: lower, from: up, to: down, trigger: { signal: lower }, feedback: [{ sound: chains }] }
goals: { kneels: { all: [{ interactable: throne, is: "on" }, { flag: friend }] } }
requirements: { friends: { never: { all: [{ interactable: bridge, is: down }, { flag: friend, is: false }] } } }
`)
}

/** A door that asks for the one of three keys which lies behind it. */
const threeKeys = twoRooms(
  `items: { red: {}, blue: {}, green: {} }
interactables:
  red-hook: { type: pickup, at: [0.3, 1, 1], set: { gives: red } }
  blue-hook: { type: pickup, at: [0.3, 3, 1], set: { gives: blue } }
  green-hook: { type: pickup, at: [8, 1, 1], set: { gives: green } }
  door: { type: door, in: gap, set: { lock: { item: green } } }
  bell: { type: lever, at: [9, 3.7, 1], set: { stays: true } }
goals: { rung: { interactable: bell, is: "on" } }
`,
)

test('several changes that are as small are all told, and none of them is made out to be the cause', () => {
  const report = checked(threeKeys)
  const [first] = report.findings
  expect(first?.rule).toBe('unreachable-goal')
  const named = first!.tried.map(({ lines }) => /item: (\w+)|gives: (\w+)/.exec(lines!.becomes.join())?.[0])
  expect(named).toEqual(['item: red', 'item: blue', 'gives: green', 'gives: green'].slice(0, named.length))
  expect(named.length).toBeGreaterThan(1)
  expect(first?.place?.path).toBe('interactables.door')
})

describe('--quick', () => {
  test('tries nothing, and says so where a goal is at stake', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'zintel-')), 'locks.yaml')
    writeFileSync(file, threeKeys)
    const { out } = await zintel(['check', '--quick', file])
    expect(out).not.toContain('Tried')
    expect(out).toContain('Changes with which a goal could be met were not tried (--quick).')
  })
})

/** Everything with a fix that was tried. */
function triedIn({ findings }: FileReport): Finding[] {
  return findings.filter(({ tried }) => tried.length > 0)
}

test('every fix that is said to be tried keeps its word, in random levels', () => {
  let seen = 0
  fc.assert(
    fc.property(pairs, ({ level }) => {
      const text = stringify(level)
      const report = checked(text, 'test.level.yaml', 20_000)
      for (const { rule, subject, tried } of triedIn(report)) {
        for (const { edit } of tried) {
          const { source } = readLevel(text)
          const after = checked(edited(source, edit)!, 'test.level.yaml', 20_000, false)
          expect([rule, subject, answerTo(report, rule, subject)]).toEqual([rule, subject, 'found'])
          const again = after.findings.some((one) => one.rule === rule && one.subject === subject)
          expect(again && rule === 'unreachable-goal').toBe(false)
          seen++
        }
      }
    }),
    { numRuns: Number(process.env.ZINTEL_TWINS ?? 3), seed: 4_106 },
  )
  expect(seen).toBeGreaterThan(0)
}, 120_000)

/** All small changes of the instances, transitions and goals of a level. */
function everySmallEdit(level: Level) {
  const expanded = expandLevel(level, valueSource(level))
  const parts = [
    ...Object.keys(level.interactables ?? {}).map((name) => `interactables.${name}`),
    ...Object.entries(level.types ?? {}).flatMap(([name, { transitions, states }]) => [
      ...(transitions ?? []).map((_, i) => `types.${name}.transitions.${String(i)}`),
      ...Object.keys(states ?? {}).map((state) => `types.${name}.states.${state}`),
    ]),
    ...Object.keys(level.goals ?? {}).map((name) => `goals.${name}`),
  ]
  return smallEdits(expanded, parts)
}

test('a change of the value is that of the text', () => {
  const { value, source } = readLevel(mill)
  let seen = 0
  for (const { edit } of everySmallEdit(value!)) {
    const text = edited(source, edit)
    const after = text === null ? null : readLevel(text).value
    if (after === null) continue
    seen++
    expect(changedValue(value, edit)).toEqual(after)
  }
  expect(seen).toBeGreaterThan(60)
})

test('ground that is taken over is what laying out anew gives', () => {
  const seen = { same: 0, other: 0 }
  fc.assert(
    fc.property(pairs, fc.integer({ min: 0, max: 1000 }), ({ level }, pick) => {
      const stage = staged(stringify(level))
      const all = everySmallEdit(stage.expanded.level)
      const small = all[pick % Math.max(1, all.length)]
      const changed = small && loadLevel(changedValue(stage.expanded.level, small.edit) as Level).value
      if (!changed) return
      const expanded = expandLevel(changed, valueSource(changed))
      const taken = finish(stageInSlices(expanded, stage))
      const anew = makeStage(expanded)
      const isTaken = taken.space.patches === stage.space.patches
      seen[isTaken ? 'same' : 'other']++
      const ground = ({ space }: typeof anew): unknown => [
        space.layout.figures,
        space.layout.problems,
        space.patches.map(({ patches, beside }) => [patches.map(({ signature }) => signature), beside]),
      ]
      expect(ground(taken)).toEqual(ground(anew))
    }),
    { numRuns: Number(process.env.ZINTEL_TWINS ?? 20), seed: 4_200 },
  )
  expect(seen.same).toBeGreaterThan(10)
}, 60_000)

test('ground is not taken over where something else bars the way, or is pressed', () => {
  const stage = staged(mill)
  for (const path of ['types.ferry-bell.transitions.0.trigger', 'interactables.yard-tally.at']) {
    const value = path.endsWith('at') ? [3, 3, 1] : 'press'
    const changed = changedValue(stage.expanded.level, { do: 'replace', path, value }) as Level
    const taken = finish(stageInSlices(expandLevel(changed, valueSource(changed)), stage))
    expect(taken.space.patches).not.toBe(stage.space.patches)
  }
})
