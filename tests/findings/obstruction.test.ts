import { describe, expect, test } from '@jest/globals'
import { checked, inShort, textOf, twoRooms } from '../levels.ts'

const mill = textOf('examples/levels/tide-mill.level.yaml')

/** What is said of the first finding. */
function first(text: string) {
  const [finding] = checked(text).findings
  return finding!
}

describe('what stands in the way of a goal', () => {
  test('is told as a chain down to the items of which there are too few', () => {
    const text = mill.replace(/ {2}yard-tally:[\s\S]*?\n\n/, '')
    const { rule, message, place, fix, follows } = first(text)
    expect(rule).toBe('unreachable-goal')
    expect(message).toContain(
      'It needs: millstone grinding ← sluice-gate up ← sluice-wheel turned ← crank ← meal-chest opening ← granary-door open ← granary-keyhole turned ← 2 × tally. Only 1 can be had at once, from quay-tally.',
    )
    expect(place!.path).toBe('interactables.granary-keyhole.set.count')
    expect(fix.says).toBe('Let something give more of them, or ask for fewer here.')
    expect(follows.map(({ rule: one, subject }) => `${one} ${subject}`)).toEqual(
      expect.arrayContaining(['unreachable-goal beacon-lit', 'dead-transition granary-keyhole/turn']),
    )
    expect(inShort(checked(text))).toHaveLength(1)
    // What it says helps.
    const more = text.replace('gives: tally }', 'gives: tally, count: 2 }')
    expect(inShort(checked(more)).filter((one) => one.startsWith('unreachable-goal'))).toEqual([])
  })

  test('is a circle where a thing lies behind what needs it', () => {
    const { rule, message } = first(mill.replace('at: [16, 13.4]', 'at: [20, 8.4]'))
    expect(rule).toBe('unreachable-goal')
    expect(message).toContain(
      'It needs: beacon lit ← lamp oil ← meal-chest opening ← loft-door open ← crank ← meal-chest opening. That goes in a circle: meal-chest opening needs itself.',
    )
  })

  const behind = (barrier: string, more = '') =>
    twoRooms(`types:
  wall: { states: { up: { blocks: [walk, sight] }, down: { lasting: true } }, transitions: [], body: { size: [0.4, 2] } }
interactables:
  bar: ${barrier}
  lever: { type: lever, at: [9, 3.9, 1] }
${more}goals: { pulled: { interactable: lever, is: on } }
`)

  test('is the state that a barrier never comes to', () => {
    const report = checked(behind('{ type: wall, at: [5.15, 2] }'))
    const goal = report.findings.find(({ headline, message }) => (headline ?? message).includes('cannot be met'))!
    expect(goal.headline ?? goal.message).toContain('It needs: lever on ← bar down. No transition leads to bar down.')
  })

  test('is a door that can be pressed from beyond itself alone', () => {
    const text = twoRooms(`interactables:
  gate: { type: door, in: gap, range: { stands-in: { sector: { radius: 2, degrees: 120, facing: 90 } } } }
  lever: { type: lever, at: [9, 2] }
goals: { pulled: { interactable: lever, is: on } }
`)
    const finding = checked(text).findings.find(({ rule }) => rule === 'unreachable-goal')!
    expect(finding.message).toContain(
      'lever on ← gate open. gate can only be pressed from beyond itself, and it shuts the way there.',
    )
    expect([finding.place!.path, finding.fix.says]).toEqual([
      'interactables.gate',
      expect.stringContaining('this side'),
    ])
    // From the other side it is none.
    expect(
      inShort(checked(text.replace('facing: 90', 'facing: 270'))).filter((one) => one.includes('unreachable')),
    ).toEqual([])
  })

  test('is that nobody comes near, where a thing that is always there bars the way', () => {
    const text = behind('{ type: wall, at: [5.15, 2] }').replace(', down: { lasting: true } }', ' }')
    expect(checked(text).findings.map(({ headline, message }) => headline ?? message)).toContainEqual(
      expect.stringContaining('It needs: lever on. Nobody can ever come near enough to lever.'),
    )
  })

  test('is the signal that nothing sends, where a door waits for it', () => {
    const report = checked(behind('{ type: door, in: gap, set: { lock: { signal: hoisted } } }'))
    const goal = report.findings.find(({ headline, message }) => (headline ?? message).includes('cannot be met'))!
    expect(goal.headline ?? goal.message).toContain('It needs: lever on ← bar open')
    expect(goal.headline ?? goal.message).toContain('Nothing sends the signal "hoisted".')
  })

  test('is a flag that nothing sets', () => {
    const report = checked(
      behind('{ type: door, in: gap, set: { lock: { needs: { flag: paid } } } }').replace(
        'goals:',
        'flags: { paid: {} }\ngoals:',
      ),
    )
    const goal = report.findings.find(({ headline, message }) => (headline ?? message).includes('cannot be met'))!
    expect(goal.headline ?? goal.message).toContain('← paid. Nothing sets the flag paid.')
  })
})
