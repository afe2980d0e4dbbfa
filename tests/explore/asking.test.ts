import { expect, test } from '@jest/globals'
import { writtenSteps } from '../../src/explore/index.ts'
import { stringify } from 'yaml'
import { readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { answerTo, checked, staged, twoRooms } from '../levels.ts'

/** A lamp that can be lit until something has spoiled it; what spoils it is added. */
function spoilable(rows: string, more = ''): string {
  return twoRooms(`flags: { spoiled: {} }
types:
  lamp:
    states: { dark: {}, lit: { lasting: true } }
    transitions:
      - { name: light, from: dark, to: lit, trigger: press, guard: { flag: spoiled, is: false } }
    feedback: { refused: [{ message: No. }] }
  trap:
    ${more}
    states: { set: { lasting: true ${more.startsWith('dial') ? ', dials: true' : ''} }, sprung: { lasting: true } }
    transitions:
${rows}
interactables:
  lamp: { type: lamp, at: [9, 2, 1] }
  trap: { type: trap, at: [3, 3.6, 1] ${more.startsWith('aim') ? ', range: { aim: 20 }' : ''} }
goals:
  light: { interactable: lamp, is: lit }
`).replace(/^ {4}(aim|none)?\n/m, '')
}

/** The steps into the one soft lock, in words, once they have been played as a walkthrough that ends as it says. */
function stepsInto(text: string): string[] {
  const report = checked(text)
  const losses = report.findings.filter(({ rule }) => rule === 'soft-lock')
  expect(losses).toHaveLength(1)
  const stage = staged(text)
  const steps = [...losses[0]!.steps.flatMap(writtenSteps), { expect: { interactable: 'trap', is: 'sprung' } }]
  const { value, source, diagnostics } = readWalkthrough(
    stringify({ walkthrough: 1, title: 'as printed', steps }),
    null,
    stage.expanded,
  )
  expect(diagnostics).toEqual([])
  expect(runWalkthrough(stage, value!, source).steps.filter(({ failure }) => failure !== null)).toEqual([])
  return losses[0]!.steps.map((step) => step.text)
}

const spoils = 'effects: [{ set: spoiled }]'

test('steps say that a press is kept down, and for how long', () => {
  const rows = `      - { name: spring, from: set, to: sprung, trigger: { hold: 1.5 }, ${spoils} }`
  expect(stepsInto(spoilable(rows))).toEqual(['Walk to trap.', 'Press and hold trap.', 'Wait 1.5 s.'])
})

test('steps say that one lets go', () => {
  const rows = `      - { name: spring, from: set, to: sprung, trigger: release, ${spoils} }`
  // Pressing and letting go at once is one step.
  expect(stepsInto(spoilable(rows))).toEqual(['Walk to trap.', 'Press: trap answers.'])
})

test('steps say which kind of press it is, and which option is chosen', () => {
  const pry = `      - { name: spring, from: set, to: sprung, trigger: { press: pry }, ${spoils} }`
  expect(stepsInto(spoilable(pry))).toEqual(['Walk to trap.', 'Press "pry": trap answers.'])
  const choice = `      - { name: spring, from: set, to: sprung, trigger: { option: Cut the wire }, ${spoils} }`
  expect(stepsInto(spoilable(choice))).toEqual(['Walk to trap.', 'Choose "Cut the wire": trap answers.'])
})

test('steps set the wheels of a dial one by one', () => {
  const rows = `      - { name: spring, from: set, to: sprung, trigger: { becomes: { dial: [3, 1] } }, ${spoils} }`
  expect(stepsInto(spoilable(rows, 'dial: { wheels: 2, positions: 10 }'))).toEqual([
    'Walk to trap.',
    expect.stringMatching(/^Set wheel [12] of trap to [13]\.$/),
    expect.stringMatching(/^Set wheel [12] of trap to [13]\.$/),
  ])
})

test('steps say that one has to look at it', () => {
  const rows = `      - { name: spring, from: set, to: sprung, trigger: press, ${spoils} }`
  expect(stepsInto(spoilable(rows, 'aim'))).toEqual(['Walk to trap.', 'Look at trap. Press: trap answers.'])
})

test('what stands exactly behind another, as seen from everywhere, is not said to be reached', () => {
  // Both ask to be looked at, with any aim; the nearer answers first, and it is always the same one.
  const report = checked(
    twoRooms(`types:
  eye:
    states: { shut: {}, open: { lasting: true } }
    transitions:
      - { name: wake, from: shut, to: open, trigger: press, guard: { flag: never } }
    feedback: { refused: [{ message: No. }] }
  far-eye:
    states: { shut: {}, open: { lasting: true } }
    transitions:
      - { name: wake, from: shut, to: open, trigger: press }
flags: { never: {} }
interactables:
  near: { type: eye, at: [2, 3.9, 1], priority: 5, range: { aim: 180, radius: 5 } }
  far: { type: far-eye, at: [2, 3.9, 1], range: { aim: 180, radius: 5 } }
goals:
  look: { interactable: far, is: open }
`),
  )
  // Possible moves may look past the near one, which nobody can: so it stays open, and is never said to be met.
  expect(answerTo(report, 'unreachable-goal', 'look')).toMatch(/^undecided/)
  // Nor is it ever said that everybody can still meet it.
  expect(answerTo(report, 'soft-lock', 'look')).toMatch(/^undecided/)
})

test('keeping a repeating press down does not keep a level from being judged', () => {
  const text = twoRooms(`counters: { strokes: { most: 3 } }
types:
  pump:
    states: { low: { lasting: true }, high: { lasting: true } }
    transitions:
      - { name: up, from: low, to: high, trigger: { press: use, every: 0.5 }, effects: [{ add: strokes }] }
      - { name: down, from: high, to: low, trigger: { press: use, every: 0.5 } }
interactables:
  pump: { type: pump, at: [3, 3.6, 1] }
goals:
  pumped: { counter: strokes, is: 3 }
`)
  const report = checked(text)
  expect(answerTo(report, 'unreachable-goal', 'pumped')).toBe('ruled-out')
  expect(answerTo(report, 'soft-lock', 'pumped')).toBe('ruled-out')
})
