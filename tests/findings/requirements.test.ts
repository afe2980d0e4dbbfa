import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { stringify } from 'yaml'
import { exploreNow } from '../../src/explore/index.ts'
import { rules } from '../../src/findings/index.ts'
import { expandLevel } from '../../src/interactables/index.ts'
import type { Level } from '../../src/model/index.ts'
import { makeStage } from '../../src/play/index.ts'
import { zintel } from '../cli/zintel.ts'
import { answerTo, checked, replayed, twoRooms } from '../levels.ts'
import { pairs } from '../oracle/levels.ts'

/** A door that shuts by itself, a lamp that follows it, a rat in the east, and a requirement. */
const cellar = (requirement: string, more = ''): string =>
  twoRooms(`items: { lantern: { title: lantern, stacks: 2 } }
interactables:
  door: { type: door, in: gap, set: { closes: { after: 3 } } }
  lamp: { type: lamp, at: [3, 3.8, 2], set: { while: { interactable: door, is: [opening, open, closing] } } }
  hook: { type: pickup, at: [0.2, 1, 1], set: { gives: lantern } }
${more}goals: { lantern: { carries: lantern } }
requirements: { it: ${requirement} }
`)

const answer = (text: string): string => answerTo(checked(text), 'broken-requirement', 'it')

describe('what must never be so', () => {
  test('is found, with steps after which it is so', () => {
    const text = cellar('{ never: { interactable: door, is: open } }')
    const [finding] = checked(text).findings
    expect([finding!.rule, finding!.subject, finding!.severity]).toEqual(['broken-requirement', 'it', 'error'])
    expect(finding!.message).toContain('door/')
    expect(replayed(text, finding!).stateOf(0)).toBe('open')
  })

  test('is ruled out where nothing can bring it about', () => {
    expect(
      answer(cellar('{ never: { all: [{ interactable: door, is: closed }, { interactable: lamp, is: lit }] } }')),
    ).toBe('ruled-out')
    expect(
      answer(
        cellar('{ never: { all: [{ flag: noon }, { carries: lantern }] } }').replace(
          'items:',
          'flags: { noon: {} }\nitems:',
        ),
      ),
    ).toBe('ruled-out')
  })

  test('may be about what is carried, and is broken by taking it', () => {
    const [finding] = checked(cellar('{ title: No light, never: { carries: lantern } }')).findings
    expect(finding!.message).toContain('it ("No light")')
    expect(finding!.steps.at(-1)!.text).toBe('Take the lantern from hook.')
  })
})

describe('what must always be so', () => {
  test('is so from the start on', () => {
    const [finding] = checked(cellar('{ always: { interactable: door, is: open } }')).findings
    expect(finding!.message).toContain('before anybody has done anything')
    expect(finding!.steps).toEqual([])
    expect(answer(cellar('{ always: { not: { carries: lantern, count: 2 } } }'))).toBe('ruled-out')
  })
})

test('a creature can break it, too; where none can come there, it holds', () => {
  const plate = `  plate: { type: pressure-plate, at: [8, 2], set: { sends: down } }\n  bell: { type: lamp, at: [8, 3.8, 2], set: { lit-by: down } }\n`
  const rat = '\n  rat: { role: creature, start: [9, 1], radius: 0.1, speed: 2, hand: 0.1, reach: 0.1 }'
  const text = cellar('{ never: { inside: near, of: plate } }', plate)
  expect(answer(text)).toBe('found')
  const shut = text.replace('set: { closes: { after: 3 } }', 'set: { lock: { signal: never-sent } }')
  expect(answer(shut)).toBe('ruled-out')
  expect(answer(shut.replace('reach: 0.9 }', `reach: 0.9 }${rat}`))).toBe('found')
})

test('the report says what was proved', async () => {
  const proved = async (requirement: string): Promise<string> => {
    const file = join(mkdtempSync(join(tmpdir(), 'zintel-requirement-')), 'cellar.level.yaml')
    writeFileSync(file, cellar(requirement))
    const { out } = await zintel(['check', file])
    return out.match(/^Proved: .*$/gm)?.join(' ') ?? ''
  }
  const goal = 'Proved: lantern can be met, and whatever a player does, can still be met.'
  expect(await proved('{ never: { carries: lantern, count: 2 } }')).toBe(
    `${goal} Proved: it holds, whatever anybody does.`,
  )
  expect(await proved('{ never: { carries: lantern } }')).toBe(goal)
})

test('a wrong shape, and names that lead nowhere, are told', () => {
  expect(
    () =>
      cellar('{ never: { flag: a }, always: { flag: b } }') &&
      checked(cellar('{ never: { flag: a }, always: { flag: b } }')),
  ).toThrow('exactly one of never, always')
  const report = checked(cellar('{ never: { interactable: dor, is: open } }'))
  expect(report.findings.map(({ rule, place }) => [rule, place!.path])).toEqual([
    ['unknown-name', 'requirements.it.never.interactable'],
  ])
  // What asks for something that is not there is not said to hold.
  expect(answerTo(report, 'broken-requirement', 'it')).toBe('not asked')
})

test('what is asked for by a requirement is in use', () => {
  const text = cellar('{ never: { carries: lantern } }').replace(
    'goals: { lantern: { carries: lantern } }',
    'goals: { open: { interactable: door, is: open } }',
  )
  expect(answerTo(checked(text), 'unused-item', 'lantern')).toBe('ruled-out')
  const never = cellar('{ never: { carries: oil } }').replace('items: {', 'items: { oil: { title: oil },')
  expect(answerTo(checked(never), 'unobtainable-item', 'oil')).toBe('not asked')
})

test('answers are those about a goal of the same condition, in random levels', () => {
  let [found, ruledOut] = [0, 0]
  fc.assert(
    fc.property(pairs, ({ level }) => {
      const goals = Object.entries(level.goals ?? {})
      const requirements = Object.fromEntries(
        goals.map(([name, { title: _title, ...condition }]) => [name, { never: condition }]),
      )
      const asking = { ...level, requirements } as Level
      const stage = makeStage(expandLevel(asking))
      const observations = rules.flatMap((rule) =>
        rule.name === 'broken-requirement' ? [rule.observation!(stage)] : [],
      )
      const evidence = exploreNow(stage, { observations, budget: 5_000 })
      for (const [goal, [name]] of goals.entries()) {
        const seen = evidence.witnesses.get(`broken ${name}`)
        const reached = evidence.unreachable[goal]!.answer
        // A goal that is met was played; what can never be met is never seen.
        if (reached === 'found') expect([stringify(level), seen]).toEqual([stringify(level), undefined])
        if (reached === 'ruled-out') expect(seen).toBeDefined()
        if (reached === 'found') ruledOut++
        if (seen?.shown) found++
      }
    }),
    { numRuns: 8 },
  )
  expect([found > 1, ruledOut > 0]).toEqual([true, true])
}, 120_000)
