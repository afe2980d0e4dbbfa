import { expect, test } from '@jest/globals'
import { narrowed } from '../../src/findings/index.ts'
import { answerTo, checked, inShort, twoRooms } from '../levels.ts'

/** A door that refuses without a word, a hook that is out of reach, and what the file accepts. */
function level(accepted: string): string {
  return twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key }, stays-open: true } }
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: key } }
  far: { type: lever, at: [30, 2, 1] }
goals: { open: { interactable: door, is: open } }
${accepted}`)
}

test('a finding that the file accepts stands apart, with the reason', () => {
  const report = checked(level('accepted-findings: [{ rule: silent-refusal, of: door, because: It is a trap door. }]'))
  expect(inShort(report).map((one) => one.split(' (')[0])).toEqual(['out-of-reach far'])
  expect(report.accepted.map(({ rule, subject, because }) => [rule, subject, because])).toEqual([
    ['silent-refusal', 'door', 'It is a trap door.'],
  ])
})

test('whoever accepts an interactable accepts what is found of its parts, and no other rule', () => {
  const report = checked(level('accepted-findings: [{ rule: unreachable-state, of: far, because: Later. }]'))
  expect(report.accepted.map(({ subject }) => subject)).toEqual(['far/on'])
  // What follows from another finding is taken out of its list; the cause itself stays.
  const cause = report.findings.find(({ rule }) => rule === 'out-of-reach')
  expect(cause?.follows.map(({ rule }) => rule)).not.toContain('unreachable-state')
  expect(cause?.follows.map(({ rule }) => rule)).toContain('dead-transition')
})

test('an acceptance that matches nothing is told, with its line; one whose question is undecided is not', () => {
  const idle = level('accepted-findings:\n  - { rule: soft-lock, of: open, because: Known. }\n')
  const report = checked(idle)
  const told = report.findings.find(({ rule }) => rule === 'stale-acceptance')
  expect(told?.message).toBe('Nothing is found any more that this accepts: soft-lock of open.')
  expect(idle.split('\n')[(told?.place?.line ?? 0) - 1]).toContain('rule: soft-lock')
  // An empty list would not be read.
  expect(told?.fix.lines?.becomes).toEqual([])
  // What blinks for ever keeps it open whether the goal can be lost, where it answers a press.
  const blinker = `types:
  blinker:
    states: { a: { look: a }, b: { look: b } }
    transitions:
      - { name: tick, from: a, to: b, trigger: { after: 1 } }
      - { name: tock, from: b, to: a, trigger: { after: 1 } }
      - { name: tap, from: a, to: b, trigger: press }
`
  const blinks = checked(
    idle.replace('items:', `${blinker}items:`).replace('  far:', '  lamp: { type: blinker, at: [1, 3, 2] }\n  far:'),
  )
  expect(answerTo(blinks, 'soft-lock', 'open')).toMatch(/^undecided/)
  expect(blinks.findings.map(({ rule }) => rule)).not.toContain('stale-acceptance')
})

test('a report can be narrowed to rules, and to what is at least so bad', () => {
  const report = checked(level(''))
  expect(narrowed(report, { rules: ['silent-refusal'], severity: 'advice' }).findings.map(({ rule }) => rule)).toEqual([
    'silent-refusal',
  ])
  const errors = narrowed(report, { rules: null, severity: 'error' })
  expect(new Set(errors.findings.map(({ severity }) => severity))).toEqual(new Set(['error']))
  expect(errors.findings.length).toBeLessThan(report.findings.length)
  const none = narrowed(report, { rules: ['no-goal'], severity: 'advice' })
  expect(none.questions.map(({ rule }) => rule)).toEqual(['no-goal'])
  expect(none.counts).toMatchObject({ found: 0, ruledOut: 1, undecided: 0 })
})
