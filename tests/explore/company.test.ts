import { describe, expect, test } from '@jest/globals'
import { exploreNow, writtenSteps } from '../../src/explore/index.ts'
import { Search } from '../../src/explore/search.ts'
import { checkNow } from '../../src/findings/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { Play, readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { answerTo, checked, inShort, staged, twoRooms } from '../levels.ts'

const both = (companion: string): string => `characters:
  one: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
  two: ${companion}
`
const along = '{ role: companion, start: [2, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }'
const goat = '{ role: creature, start: [2, 1], radius: 0.25, speed: 3, hand: 0.3, reach: 0.3 }'
const level = (people: string, rest: string): string => `zintel: 1
title: company
rooms:
  west: { outline: [[0, 0], [4, 0], [4, 4], [0, 4]] }
  east: { outline: [[4.3, 0], [8, 0], [8, 4], [4.3, 4]] }
doorways:
  gap: { joins: [west, east], at: [4.15, 2], width: 1.4, depth: 0.3 }
${people}${rest}`

describe('several characters', () => {
  test('what takes two at once can be met by two, and never by one', () => {
    const things = `interactables:
  pad-a: { type: pressure-plate, at: [1.3, 2.7] }
  pad-b: { type: pressure-plate, at: [6.6, 2.7] }
goals:
  together: { all: [{ interactable: pad-a, is: down }, { interactable: pad-b, is: down }] }
`
    const alone = 'characters:\n  one: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }\n'
    expect(answerTo(checked(level(alone, things)), 'unreachable-goal', 'together')).toBe('found')
    const withTwo = level(
      both(along),
      things.replaceAll('type: pressure-plate,', 'type: pressure-plate, who: [player, companion],'),
    )
    const report = checked(withTwo)
    expect(answerTo(report, 'unreachable-goal', 'together')).toBe('ruled-out')
    expect(answerTo(report, 'soft-lock', 'together')).toBe('ruled-out')
  })

  test('what only a creature can set off is possible, but nobody can be sure of it', () => {
    const report = checked(
      level(
        both(goat),
        `interactables:
  salt: { type: pressure-plate, at: [7, 3], who: creature, set: { sends: licked, stays: true } }
  lamp: { type: lamp, at: [6, 3.8], set: { lit-by: licked } }
goals: { licked: { interactable: lamp, is: lit } }
`,
      ),
    )
    expect(answerTo(report, 'unreachable-goal', 'licked')).toBe('ruled-out')
    expect(answerTo(report, 'soft-lock', 'licked')).toMatch(/^undecided/)
  })

  test('a companion that uses the only key up loses the goal, and the steps say who does what', () => {
    const text = level(
      both(along),
      `items: { key: { shared: true } }
interactables:
  hook: { type: pickup, at: [0.3, 3, 1], set: { gives: key } }
  shrine: { type: keyhole, at: [3.7, 3.7, 1], who: companion, set: { item: key, item-use: consume }, feedback: { refused: [{ message: No. }], accepted: [{ message: Thanks. }] } }
  vault: { type: chest, at: [7, 3.5], turn: 180, set: { lock: { item: key } }, feedback: { refused: [{ message: No. }] } }
goals: { open: { interactable: vault, is: open } }
`,
    )
    const report = checked(text)
    expect(inShort(report)).toEqual(['wasted-item open'])
    const [finding] = report.findings
    expect(finding!.steps.map((step) => step.text)).toEqual([
      'Walk to hook.',
      'Take the key from hook.',
      'As two: Walk to shrine.',
      'Press: shrine uses up the key.',
    ])
    // The steps are those of a walkthrough, too.
    const stage = staged(text)
    const steps = finding!.steps.flatMap((step) => [{ as: step.who }, ...writtenSteps(step)])
    const walkthrough = readWalkthrough(
      JSON.stringify({ walkthrough: 1, title: 'as told', steps }),
      null,
      stage.expanded,
    )
    expect(walkthrough.diagnostics).toEqual([])
    const { play, passed } = runWalkthrough(stage, walkthrough.value!, walkthrough.source)
    expect(passed).toBe(true)
    expect(play.stateOf(1)).toBe('turned')
  })

  test('whoever may not is no candidate, and is told so', () => {
    const stage = staged(
      level(
        both(along),
        'interactables:\n  lever: { type: lever, at: [2, 0.3, 1] }\ngoals: { on: { interactable: lever, is: "on" } }\n',
      ),
    )
    const play = new Play(stage)
    play.press(1)
    expect(play.log.at(-1)).toMatchObject({ what: 'press', outcome: 'unanswered', nearby: [{ why: 'not-for-it' }] })
    expect(play.view(1).candidates).toEqual([])
  })

  test('what a companion has set off goes on by itself, also where players may not', () => {
    const text = level(
      both(along),
      `interactables:
  door: { type: door, in: gap, who: companion, set: { closes: { after: 1 } } }
  lever: { type: lever, at: [7.6, 3, 1], set: { stays: true } }
goals: { on: { interactable: lever, is: "on" } }
`,
    )
    const stage = staged(text)
    const play = new Play(stage)
    play.walkTo(1, 'door')
    play.advance(3000)
    play.press(1)
    play.advance(800)
    expect(play.stateOf(0)).toBe('open')
    play.advance(1800)
    expect(play.stateOf(0)).toBe('closed')
    expect(answerTo(checked(text), 'unreachable-goal', 'on')).toBe('ruled-out')
  })

  test('a press kept down by two is let go of when the last one does', () => {
    const stage = staged(
      level(
        both(along.replace('[2, 1]', '[1.8, 1]')),
        'interactables:\n  crank: { type: lever, at: [1.4, 0.3, 1], who: [player, companion], set: { hold: 2, stays: true } }\ngoals: { on: { interactable: crank, is: "on" } }\n',
      ),
    )
    const play = new Play(stage)
    play.hold(0)
    play.advance(500)
    play.hold(1)
    play.release(0)
    play.advance(1999)
    expect(play.stateOf(0)).toBe('off')
    play.advance(1)
    expect(play.stateOf(0)).toBe('on')
  })
})

test('a walkthrough, and the steps of a finding, begin with the first player, wherever it stands in the file', () => {
  const people = `characters:
  two: ${along}
  one: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
`
  const text = level(
    people,
    `interactables:
  lever: { type: lever, at: [1, 0.3, 1], set: { needs: { flag: up } } }
flags: { up: {} }
goals: { on: { interactable: lever, is: "on" } }
`,
  )
  const stage = staged(text)
  const walkthrough = readWalkthrough('walkthrough: 1\ntitle: t\nsteps: [press]\n', null, stage.expanded)
  const { log } = runWalkthrough(stage, walkthrough.value!, walkthrough.source)
  expect(log).toMatchObject([{ what: 'press', character: 'one', outcome: 'refused' }])
  const all = checked(text).findings.flatMap((one) => [one, ...one.follows])
  const refusal = all.find(({ rule }) => rule === 'silent-refusal')!
  expect(refusal.steps.map((step) => step.text)).toEqual(['Press: lever refuses.'])
})

describe('being moved', () => {
  const trapdoor = `places: { cellar: { at: [6, 1], facing: 0 } }
types:
  trapdoor:
    states: { there: { lasting: true } }
    transitions:
      - { name: fall, from: there, trigger: { enter: lid }, effects: [{ move-to: cellar }] }
    zones: { lid: { radius: 0.5 } }
interactables:
  trapdoor: { type: trapdoor, at: [2, 3] }
  wall: { type: door, in: gap, set: { lock: { signal: never } }, feedback: { refused: [{ message: No. }] } }
  lever: { type: lever, at: [7.7, 1, 1], set: { stays: true } }
  hook: { type: pickup, at: [0.3, 1, 1], set: { gives: key } }
items: { key: {} }
goals:
  pulled: { interactable: lever, is: "on" }
  got: { carries: key }
`
  test('walking into it leads elsewhere: what is there is reached, what is left behind is lost', () => {
    const { unreachable, softLocks, losses } = exploreNow(staged(twoRooms(trapdoor)))
    expect(unreachable).toEqual([{ answer: 'ruled-out' }, { answer: 'ruled-out' }])
    expect(softLocks).toEqual([{ answer: 'ruled-out' }, { answer: 'found' }])
    expect(losses[1]!.map(({ steps }) => steps.map((step) => step.do))).toEqual([['walk-to']])
  })

  test('is coming into the zones that are there, and out of those that one was in', () => {
    const stage = staged(
      twoRooms(`places: { other: { at: [3, 3] } }
types:
  jump:
    states: { there: { lasting: true } }
    transitions: [{ name: jump, from: there, trigger: press, effects: [{ move-to: other }] }]
    handle: [0, 0, 1]
interactables:
  jump: { type: jump, at: [1, 0.4] }
  here: { type: pressure-plate, at: [1, 1], set: { sends: a, sends-back: b } }
  there: { type: pressure-plate, at: [3, 3] }
`),
    )
    const play = new Play(stage)
    expect(play.stateOf(1)).toBe('up')
    play.walk(0, [[1.2, 1.2]])
    play.advance(1000)
    play.press(0)
    expect(play.spotOf(0)).toEqual([3, 3])
    expect([play.stateOf(1), play.stateOf(2)]).toEqual(['up', 'down'])
  })

  test('a place where nobody can stand is told, and moves nobody', () => {
    const text = twoRooms(trapdoor.replace('at: [6, 1], facing: 0', 'at: [60, 1], facing: 0'))
    const { value, source } = readLevel(text)
    const report = checkNow(value!, source)
    expect(inShort(report)).toContainEqual(expect.stringMatching(/^bad-value cellar/))
    const play = new Play(staged(text))
    play.walk(0, [[2, 3]])
    play.advance(3000)
    expect(play.spotOf(0)).toEqual([2, 3])
    expect(play.log.some((entry) => entry.what === 'moved' && !entry.done)).toBe(true)
  })
})

test('a door that pushes never shuts anybody in, as far as all situations tell', () => {
  const stage = staged(
    twoRooms(`interactables:
  door: { type: door, in: gap, set: { motion: { over: 0.3 }, closes: { after: 1, in-the-way: push }, closed-by: [] } }
  lever: { type: lever, at: [7.6, 3, 1], set: { stays: true } }
goals: { on: { interactable: lever, is: "on" } }
`),
  )
  const evidence = exploreNow(stage)
  expect(evidence.softLocks).toEqual([{ answer: 'ruled-out' }])
  expect(evidence.dead.every(({ answer }) => answer === 'ruled-out')).toBe(true)
})

test('where another body leaves no spot, whoever is in the way is not pushed, but waited for: that is looked at too', () => {
  const text = twoRooms(`types:
  gate:
    states:
      open: {}
      shut: { blocks: [walk] }
    transitions:
      - { name: shut, from: open, to: shut, trigger: { signal: close } }
      - { name: lift, from: shut, to: open, trigger: { signal: open-again } }
    body: { size: [0.6, 0.6] }
interactables:
  gate: { type: gate, at: [3, 2], in-the-way: push }
  closer: { type: lever, at: [3, 2.9, 1], set: { sends: close, sends-back: open-again } }
goals: { shut: { interactable: gate, is: shut } }
`)
  const stage = staged(text)
  const play = new Play(stage)
  play.walk(0, [[3, 2.25]])
  play.advance(2000)
  play.press(0)
  expect(play.stateOf(0)).toBe('shut')
  expect(play.log.some(({ what }) => what === 'pushed')).toBe(true)
  expect(play.spotOf(0)[1]).toBeGreaterThan(2.6)
  expect(exploreNow(stage).softLocks).toEqual([{ answer: 'ruled-out' }])
  // Both explorers know that it may wait: a transition that waits is a possible situation.
  const search = new Search(stage, 'loose', 10_000)
  while (!search.advance(1000)) continue
  const regs = new Int32Array(stage.tables.at.size)
  const waits = Array.from({ length: search.store.count }, (_, i) => {
    search.read(i, regs)
    return regs[stage.tables.at.waiting(0)]! > 0
  })
  expect(waits).toContain(true)
})

test('the same popup asked for twice does not stack, another waits its turn', () => {
  const stage = staged(
    level(
      both(along),
      `types:
  crier:
    states: { there: { lasting: true } }
    transitions:
      - { name: cry, from: there, trigger: press, who: companion, feedback: [{ popup: Hear me, to: all }] }
      - { name: whisper, from: there, trigger: { press: whisper }, who: companion, feedback: [{ popup: Psst, to: all }] }
    handle: [0, 0, 1]
interactables:
  crier: { type: crier, at: [2, 0.3] }
`,
    ),
  )
  const play = new Play(stage)
  play.press(1)
  play.dismiss(1)
  play.press(1)
  play.dismiss(1)
  expect(play.telling.popupsOf(0)).toEqual([{ interactable: 'crier', text: 'Hear me' }])
  play.press(1, 1)
  play.dismiss(0)
  expect(play.view(0)).toMatchObject({ popup: 'Psst', pointerFree: true })
  play.walk(0, [[3, 3]])
  expect(play.isWalking(0)).toBe(false)
  play.dismiss(0)
  expect(play.view(0).pointerFree).toBe(false)
})
