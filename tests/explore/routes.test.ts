import { expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { expandLevel, loadLevel } from '../../src/interactables/index.ts'
import { finish } from '../../src/model/index.ts'
import { makeStage } from '../../src/play/index.ts'
import { Predecessors, goalSets } from '../../src/explore/graph.ts'
import { allComeToRest, clocksRunDown } from '../../src/explore/time-cycles.ts'
import { FewestSteps, type Route } from '../../src/explore/routes.ts'
import { Search } from '../../src/explore/search.ts'
import { answerTo, checked, staged, twoRooms } from '../levels.ts'
import { pairs } from '../oracle/levels.ts'

const searches = pairs.map(({ level }) => {
  const { value, source } = loadLevel(level)
  const search = new Search(makeStage(expandLevel(value!, source)), 'loose', 3000)
  while (!search.advance(1000));
  return search
})

/** Steps as a plain search counts them: one situation after the other, as often as anything gets better. */
function plainSteps(search: Search): Map<number, number> {
  const best = new Map([[1, 0]])
  for (let changed = true; changed;) {
    changed = false
    for (const [at, steps] of [...best]) {
      const [node, last] = [Math.floor(at / 3), at % 3]
      for (let edge = search.firstEdge(node); edge < search.endEdge(node); edge++) {
        const kind = search.kind(edge)
        const next = 3 * search.target(edge) + kind
        const cost = steps + (kind === last && kind !== 1 ? 0 : 1)
        if (cost >= (best.get(next) ?? Infinity)) continue
        best.set(next, cost)
        changed = true
      }
    }
  }
  return best
}

function stepsOf({ moves }: Route): number {
  return moves.filter(({ kind }, i) => kind === 1 || kind !== moves[i - 1]?.kind).length
}

test('the fewest steps are those of a plain search, and a way with just as many is given', () => {
  fc.assert(
    fc.property(searches, (search) => {
      if (search.store.count > 600) return
      const backward = finish(Predecessors.of(search))
      const fewest = finish(FewestSteps.of(search, backward, null))
      const plain = plainSteps(search)
      for (let index = 1; index < search.store.count; index++) {
        const wanted = Math.min(...[0, 1, 2].map((kind) => plain.get(3 * index + kind) ?? Infinity))
        const route = fewest.route(index, null)
        expect(stepsOf(route)).toBe(wanted)
        expect(route.nodes.at(-1)).toBe(index)
        route.nodes.forEach((node, i) => search.kind(search.edgeBetween(route.nodes[i - 1] ?? 0, node)))
      }
    }),
    { numRuns: 40, seed: 4 },
  )
})

test('where the tables say that clocks run down, every situation comes to rest', () => {
  let said = 0
  fc.assert(
    fc.property(searches, (search) => {
      if (!search.isComplete || search.stage.tables.clocks.length === 0) return
      if (!clocksRunDown(search.stage.tables)) return
      said++
      const backward = finish(Predecessors.of(search))
      for (const goal of search.stage.expanded.goals.keys()) {
        const { unmet } = finish(goalSets(search, backward, goal))
        expect(finish(allComeToRest(search, unmet))).toBe(true)
      }
    }),
    { numRuns: 60, seed: 5 },
  )
  expect(said).toBeGreaterThan(10)
})

const following = (what: string, more = '') =>
  staged(
    twoRooms(`items: { bone: {} }
types:
  blinker:
    states: { dark: {}, lit: {} }
    transitions:
      - { from: dark, to: lit, trigger: { after: 1 } }
      - { from: lit, to: dark, trigger: { after: 1 } }
  hoist:
    states: { down: {}, up: {}, back: { lasting: true } }
    transitions:
      - { from: down, to: up, trigger: press }
      - { from: up, to: back, trigger: { after: 1 }, effects: [{ send: landed }] }
flags: { lever-on: {}, told: {} }
interactables:
  lever: { type: lever, at: [2, 3.9, 1], set: { sets: lever-on } }
  hoist: { type: hoist, at: [9, 3, 1] }
  lamp: { type: lamp, at: [9, 2, 1], set: { while: ${what} } }
${more}`),
  ).tables

test('a lamp that follows what ends by itself runs down; one that follows what blinks is not said to', () => {
  expect(clocksRunDown(following('{ flag: lever-on }'))).toBe(true)
  expect(clocksRunDown(following('{ interactable: lever, is: on }'))).toBe(true)
  expect(clocksRunDown(following('{ interactable: hoist, is: up }'))).toBe(true)
  expect(clocksRunDown(following('{ not: { any: [{ interactable: hoist, is: up }, { carries: bone }] } }'))).toBe(true)
  const blinker = '  light: { type: blinker, at: [9, 1, 1] }\n'
  expect(clocksRunDown(following('{ flag: lever-on }', blinker))).toBe(false)
  expect(clocksRunDown(following('{ interactable: light, is: lit }', blinker))).toBe(false)
  // Two lamps each of which follows the other.
  const other = '  other: { type: lamp, at: [9, 1, 1], set: { while: { interactable: lamp, is: dark } } }\n'
  expect(clocksRunDown(following('{ interactable: other, is: lit }', other))).toBe(false)
})

const byClocks = `
      - { from: dark, to: lit, trigger: { after: 1 } }
      - { from: lit, to: dark, trigger: { after: 1 } }`
const bySignals = `
      - { from: dark, to: lit, trigger: { after: 1 }, effects: [{ send: flash }] }
      - { from: lit, to: dark, trigger: { signal: flash } }`

test.each([byClocks, bySignals])('two timers that start each other are not said to run down: %s', (transitions) => {
  const report = checked(
    twoRooms(`types:
  blinker:
    states: { dark: {}, lit: {} }
    transitions:${transitions}
interactables:
  lamp: { type: blinker, at: [9, 2, 1] }
  light: { type: blinker, at: [9, 1, 1], initial: lit }
  chest: { type: chest, at: [2, 3.4] }
goals:
  look: { all: [{ interactable: chest, is: open }, { interactable: lamp, is: dark }] }
`),
  )
  const answer = report.questions.find(({ rule }) => rule === 'soft-lock')
  expect(answer).toMatchObject({ answer: 'undecided' })
  expect(answer?.why).toContain('runs for ever')
})

test('the steps into a soft lock never pass a moment in which the goal is met', () => {
  const report = checked(
    twoRooms(`items: { coin: { stacks: 2 } }
types:
  bell:
    states: { still: {}, ringing: {}, cracked: { lasting: true } }
    transitions:
      - { name: ring, from: still, to: ringing, trigger: press }
      - { name: crack, from: ringing, to: cracked, trigger: press }
      - { name: drop, from: still, to: cracked, trigger: { signal: dropped } }
  rope:
    states: { tied: {}, loose: {}, cut: { lasting: true } }
    transitions:
      - { name: untie, from: tied, to: loose, trigger: press }
      - { name: cut, from: loose, to: cut, trigger: press, effects: [{ send: dropped }] }
interactables:
  bell: { type: bell, at: [2, 3.4, 1] }
  rope: { type: rope, at: [9, 3.4, 1] }
goals:
  heard: { interactable: bell, is: ringing }
`),
  )
  const losses = report.findings.filter(({ rule }) => rule === 'soft-lock')
  expect(losses.map(({ steps }) => steps.map(({ text }) => text))).toEqual([
    expect.arrayContaining([expect.stringContaining('rope')]),
  ])
})

test('what happens to a goal after it has been met loses nothing', () => {
  const report = checked(
    twoRooms(`types:
  bell:
    states: { still: {}, ringing: {}, cracked: { lasting: true } }
    transitions:
      - { name: ring, from: still, to: ringing, trigger: press }
      - { name: crack, from: ringing, to: cracked, trigger: press }
interactables:
  bell: { type: bell, at: [2, 3.4, 1] }
goals:
  heard: { interactable: bell, is: ringing }
`),
  )
  expect(answerTo(report, 'soft-lock', 'heard')).toBe('ruled-out')
  expect(answerTo(report, 'unreachable-goal', 'heard')).toBe('ruled-out')
})
