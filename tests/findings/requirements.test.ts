import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { stringify } from 'yaml'
import { exploreNow } from '../../src/explore/index.ts'
import { Search } from '../../src/explore/search.ts'
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
  ).toThrow('exactly one of never, always, can-still, when')
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
    { numRuns: 5, seed: 5 },
  )
  expect([found > 1, ruledOut > 0]).toEqual([true, true])
}, 120_000)

/** A cell that is shut from the hall, an alarm that rings for 20 s each time that it is pressed, and a requirement. */
const cell = (requirement: string, more = ''): string =>
  twoRooms(`interactables:
  gate: { type: door, in: gap, set: { opened-by: [{ signal: up }], closed-by: [{ signal: down }] } }
  crank: { type: lever, at: [2, 3.7, 1], set: { sends: up, sends-back: down } }
  alarm: { type: alarm, at: [4, 0.3, 1] }
${more}types:
  alarm:
    states: { quiet: { look: quiet }, loud: { look: shaking } }
    transitions:
      - { name: ring, from: quiet, to: loud, trigger: press }
      - { name: fade, from: loud, to: quiet, trigger: { after: 2 } }
      - { name: again, from: loud, trigger: press }
    handle: [0, 0, 0]
goals: { in: { inside: east } }
requirements: { it: ${requirement} }
`)

describe('what can still be done', () => {
  const out = '{ can-still: { not: { inside: east, role: player } } }'
  test('holds where nobody can be shut in, and is asked about again once it was so', () => {
    expect(answer(cell(out))).toBe('ruled-out')
    // A second crank within, that shuts and does not open.
    const trap = '  latch: { type: button, at: [9, 3.7, 1], set: { sends: down } }\n'
    const [finding] = checked(cell(out, trap)).findings
    expect([finding!.rule, finding!.subject]).toEqual(['broken-requirement', 'it'])
    expect(finding!.message).toContain('from then on nobody can bring it about any more')
    const play = replayed(cell(out, trap), finding!)
    expect([play.stateOf(0), play.spotOf(0)[0] > 5]).toEqual(['closing', true])
    expect(finding!.lastSafe).not.toBeNull()
  })

  test('is lost by one step from where it is so', () => {
    const stone = '  stone: { type: lever, at: [4, 3.7, 1], set: { stays: true } }\n'
    const [finding] = checked(cell('{ can-still: { interactable: stone, is: "off" } }', stone)).findings
    expect(finding!.message).toContain('does not hold: stone/pull can break it')
    expect(finding!.steps.at(-1)!.text).toBe('Press: stone answers.')
  })

  test('what can never be is broken from the start on', () => {
    const [finding] = checked(
      cell('{ can-still: { all: [{ interactable: alarm, is: loud }, { interactable: alarm, is: quiet }] } }'),
    ).findings
    expect(finding!.message).toContain('before anybody has done anything')
  })
})

describe('what must follow in time', () => {
  const within = (seconds: number): string =>
    `{ when: { interactable: alarm, is: loud }, then: { interactable: alarm, is: quiet }, within: ${String(seconds)} }`
  const press = '      - { name: again, from: loud, trigger: press }\n'
  test('counts from what comes to be so, whatever is done', () => {
    for (const [seconds, is] of [
      [1.9, 'found'],
      [2.5, 'ruled-out'],
    ] as const)
      expect([seconds, answer(cell(within(seconds)).replace(press, ''))]).toEqual([seconds, is])
  })

  test('what follows exactly in time is not said to be late', () => {
    expect(answer(cell(within(2)).replace(press, ''))).not.toBe('found')
  })

  test('a press that sets it back breaks it, and the steps show how long it took', () => {
    const text = cell(within(3)).replace(press, press.replace('trigger', 'to: loud, trigger'))
    const [finding] = checked(text).findings
    expect(finding!.rule).toBe('broken-requirement')
    const play = replayed(text, finding!)
    const rung = play.log.find((entry) => entry.what === 'transition' && entry.transition === 'ring')
    const faded = play.log.find((entry) => entry.what === 'transition' && entry.transition === 'fade')
    expect((faded?.at ?? play.now) - rung!.at).toBeGreaterThan(3000)
  })
})

describe('what must not be before something else', () => {
  test('is found where it can be, and ruled out where it cannot', () => {
    expect(answer(cell('{ never: { inside: east }, before: { interactable: crank, is: "on" } }'))).toBe('ruled-out')
    const [finding] = checked(cell('{ never: { inside: east }, before: { interactable: alarm, is: loud } }')).findings
    expect(finding!.message).toContain('sam, walking to the east, can break it')
  })

  test('what comes at the same moment is in time', () => {
    expect(
      answer(cell('{ never: { interactable: alarm, is: loud }, before: { interactable: alarm, is: loud } }')),
    ).toBe('ruled-out')
  })
})

test('who is where: a role, or one character, in a room', () => {
  const rat = 'reach: 0.9 }\n  rat: { role: creature, start: [9, 1], radius: 0.1, speed: 2, hand: 0.1, reach: 0.1 }'
  const text = (who: string): string => cell(`{ never: { inside: west, ${who} } }`).replace('reach: 0.9 }', rat)
  expect(answer(text('role: creature'))).toBe('found')
  expect(answer(text('character: rat'))).toBe('found')
  expect(answer(text('role: companion'))).toBe('ruled-out')
  expect(
    answer(
      text('role: creature').replace('{ signal: up }', '{ signal: never }').replace('signal: up', 'signal: never'),
    ),
  ).toBe('ruled-out')
  expect(checked(text('character: cat')).findings.map(({ rule }) => rule)).toContain('unknown-name')
})

test('what a random level can still do is what plainly follows from its moves', () => {
  const counts = { always: 0, ruledOut: 0 }
  fc.assert(
    fc.property(pairs, ({ level }) => {
      const goals = Object.entries(level.goals ?? {})
      const asking = { ...level, requirements: {} } as Level
      const stage = makeStage(expandLevel(asking))
      const evidence = exploreNow(stage, { again: true, budget: 1_500 })
      const search = new Search(stage, 'loose', 1_500)
      while (!search.advance(1_000));
      if (!evidence.counts.complete || !search.isComplete) return
      for (const [goal, [name]] of goals.entries()) {
        const answered = evidence.softLocks[goal]?.answer
        const isAlways = canAlwaysCome(search, goal)
        // All that a clock may do at any time is possible here: what can always come so, can always come in time.
        if (answered === 'ruled-out') counts.ruledOut++
        if (isAlways) counts.always++
        if (isAlways) expect([name, answered, stringify(level)]).not.toEqual([name, 'found', stringify(level)])
        else if (evidence.unreachable[goal]!.answer === 'ruled-out')
          expect([name, answered, stringify(level)]).not.toEqual([name, 'ruled-out', stringify(level)])
      }
    }),
    { numRuns: 9, seed: 5 },
  )
  expect(counts.ruledOut).toBeGreaterThan(0)
}, 120_000)

/** Whether some moves lead from every situation to one in which a goal holds: by going round until nothing changes. */
function canAlwaysCome(search: Search, goal: number): boolean {
  const { count } = search.store
  const can = Array.from({ length: count }, (_, index) => search.holds(index, goal))
  for (let changed = true; changed;) {
    changed = false
    for (let index = 0; index < count; index++) {
      if (can[index]) continue
      const edges = Array.from(
        { length: search.endEdge(index) - search.firstEdge(index) },
        (_, i) => search.firstEdge(index) + i,
      )
      if (!edges.some((edge) => can[search.target(edge)])) continue
      can[index] = changed = true
    }
  }
  return can.every((one) => one)
}
