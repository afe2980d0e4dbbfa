import { describe, expect, test } from '@jest/globals'
import type { FileReport } from '../../src/findings/index.ts'
import { checked, replayedSteps, staged, textOf, twoRooms } from '../levels.ts'

type Loss = FileReport['findings'][number]['follows'][number]

/** The findings of lost goals, also those that follow from others. */
function lossesOf({ findings }: FileReport): Loss[] {
  const all = findings.flatMap((finding): Loss[] => [finding, ...finding.follows])
  return all.filter(({ rule }) => rule === 'soft-lock' || rule === 'wasted-item')
}

/** Goals that are met by going on from the last safe moment of a finding. */
function metFromThere(text: string, { steps, lastSafe }: Loss): string[] {
  const { after, steps: more } = lastSafe!
  const play = replayedSteps(staged(text), [...steps.slice(0, after), ...more])
  return [...play.goalsMet()]
}

describe('the last moment at which a goal that is lost can still be met', () => {
  test('is the one before the losing step, and a play goes on from there to the goal', () => {
    const draft = textOf('examples/levels/tide-mill-draft.level.yaml')
    const losses = lossesOf(checked(draft))
    expect(losses).toHaveLength(4)
    for (const loss of losses) {
      expect(loss.lastSafe?.after).toBe(loss.steps.length - 1)
      expect(metFromThere(draft, loss)).toContain(loss.subject)
    }
  })

  const trapdoor = twoRooms(`places: { cellar: { at: [8, 2] } }
types:
  trapdoor:
    states: { there: { lasting: true } }
    transitions:
      - { name: fall, from: there, trigger: { enter: lid }, effects: [{ move-to: cellar }] }
    zones: { lid: { radius: 0.5 } }
  fuse:
    states: { burning: {}, out: { lasting: true } }
    transitions: [{ name: burn-down, from: burning, to: out, trigger: { after: 60 } }]
interactables:
  trapdoor: { type: trapdoor, at: [2, 3] }
  fuse: { type: fuse, at: [9, 3, 1] }
  wall: { type: door, in: gap, set: { lock: { signal: never } }, feedback: { refused: [{ message: No. }] } }
  hook: { type: pickup, at: [0.3, 1, 1], set: { gives: key } }
items: { key: {} }
goals: { got: { carries: key } }
`)

  test('is the start where the first step loses it', () => {
    const [loss] = lossesOf(checked(trapdoor))
    expect(loss!.steps.map((step) => step.do)).toEqual(['walk-to'])
    expect(loss!.lastSafe?.after).toBe(0)
    expect(metFromThere(trapdoor, loss!)).toEqual(['got'])
  })

  test('is before a wait that loses it', () => {
    const inTime = trapdoor.replace(
      'goals: { got: { carries: key } }',
      'goals: { got: { all: [{ carries: key }, { interactable: fuse, is: burning }] } }',
    )
    const losses = lossesOf(checked(inTime))
    const late = losses.find(({ message }) => message.includes('fuse'))
    expect(late!.steps.at(-1)).toMatchObject({ do: 'wait', ms: 60_000 })
    expect(late!.lastSafe?.after).toBe(late!.steps.length - 1)
    expect(metFromThere(inTime, late!)).toEqual(['got'])
  })
})
