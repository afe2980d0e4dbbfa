import { expect, test } from '@jest/globals'
import { chestsInHall, manyRooms, manySituations } from '../../bench/levels.ts'
import { Coverage } from '../../src/explore/cover.ts'
import { exploreNow } from '../../src/explore/index.ts'
import { roam, wander } from '../../src/explore/roam.ts'
import { Passings } from '../../src/explore/sets/passing.ts'
import { metIn } from '../../src/explore/sets/goal-sets.ts'
import { SetProof, whyNotBySets } from '../../src/explore/sets/set-proof.ts'
import { SetSearch } from '../../src/explore/sets/set-search.ts'
import { SureGraph } from '../../src/explore/sets/sure-graph.ts'
import { finish } from '../../src/model/index.ts'
import { replay } from '../../src/explore/steps.ts'
import { SureMoves } from '../../src/explore/sure.ts'
import { findTrail } from '../../src/explore/sure-search.ts'
import { played, thinned } from '../../src/explore/thin.ts'
import { type Play, startRegisters } from '../../src/play/index.ts'
import { answerTo, checked, replayed, staged, twoRooms } from '../levels.ts'

/** Levels with far more situations than are looked at one by one: what is told of them, and shown. */
test('a level of nine rooms is decided, and all that is found in it is shown', () => {
  const text = manyRooms({ rooms: 9, interactables: 22, seed: 3 })
  const report = checked(text)
  expect(report.questions.filter(({ answer }) => answer === 'undecided')).toEqual([])
  for (const goal of ['prize', 'farthest']) {
    expect(answerTo(report, 'unreachable-goal', goal)).toBe('ruled-out')
    expect(answerTo(report, 'soft-lock', goal)).toBe('ruled-out')
  }
  const refusals = report.findings.filter(({ rule }) => rule === 'silent-refusal')
  expect(refusals.length).toBeGreaterThan(2)
  for (const finding of refusals) {
    const name = finding.subject
    const last = replayed(text, finding).log.findLast(({ what }) => what === 'press')
    expect(last).toMatchObject({ outcome: 'refused', interactable: name })
  }
  expect(report.counts.situations).toBeLessThan(100_000)
}, 120_000)

test('an item that can be wasted is found among millions of situations, with the last safe moment', () => {
  const stage = staged(manySituations(12))
  const { softLocks, losses, unreachable, counts } = exploreNow(stage)
  const opened = stage.expanded.goals.findIndex(({ name }) => name === 'opened')
  expect(counts.complete).toBe(false)
  expect(unreachable[opened]).toEqual({ answer: 'ruled-out' })
  expect(softLocks[opened]).toEqual({ answer: 'found' })
  const [loss] = losses[opened]!
  // Nine tallies, two doors, the wrong lock: and nothing that could be left out.
  expect(loss!.steps.length).toBeLessThan(26)
  const play = replay(stage, loss!.steps)
  const right = stage.expanded.interactables.findIndex(({ name }) => name === 'right-lock')
  expect(play.registers()[right]).toBe(0)
  // Of twelve tallies nine are wasted: with one for the door that leaves two, where three are wanted.
  const { after, steps } = loss!.lastSafe!
  expect(after).toBe(loss!.steps.length - 1)
  const saved = replay(stage, [...loss!.steps.slice(0, after), ...steps])
  expect(saved.goalsMet()).toContain('opened')
}, 120_000)

test('goals that are lost with the same transition are one report, however many situations there are', () => {
  const report = checked(`${manySituations(12)}  also: { interactable: right-lock, is: turned }\n`)
  const wasted = report.findings.filter(({ rule }) => rule === 'wasted-item')
  expect(wasted.map(({ subject, follows }) => [subject, ...follows.map((one) => one.subject)])).toEqual([
    ['opened', 'also'],
  ])
}, 120_000)

test('what sets and plays decide is not looked at one by one', () => {
  const report = checked(chestsInHall(12))
  expect(report.questions.filter(({ answer }) => answer === 'undecided')).toEqual([])
  expect(report.counts.situations).toBeLessThan(100_000)
}, 60_000)

test('whoever passes a door that shuts by itself is followed by proofs over sets', () => {
  const stage = staged(
    twoRooms(`
interactables:
  gate: { type: door, in: gap, set: { closes: { after: 3 }, closed-by: [] } }
  lever: { type: lever, at: [6, 0.5], set: { stays: true } }
goals: { pulled: { interactable: lever, is: 'on' } }`),
  )
  const search = new SetSearch(stage)
  finish(search.run())
  expect(whyNotBySets(search)).toBeNull()
  const proof = new SetProof(new SureGraph(search))
  expect(finish(proof.isSafe(0, metIn(search, 0), search.reached))).toBe(true)
})

test('what is promised of passing a door that shuts by itself is found move by move, too', () => {
  const gates = twoRooms(`
interactables:
  gate: { type: door, in: gap, set: { closes: { after: 3 }, closed-by: [] } }
  lever: { type: lever, at: [6, 0.5], set: { stays: true } }
goals: { pulled: { interactable: lever, is: 'on' } }`)
  let passed = 0
  for (const text of [gates, manyRooms({ rooms: 9, interactables: 22, seed: 3 })]) {
    const stage = staged(text)
    const start = startRegisters(stage)
    const [base, after] = [start.slice(), start.slice()]
    const begin = (): void => {
      after.set(base)
    }
    const sure = new SureMoves(stage, { scratch: { base, after, begin } })
    const plain = new SureMoves(stage)
    const passings = new Passings(stage)
    for (const { index, firm } of stage.space.patches[0]!.patches) {
      for (const part of firm ? passings.from(index) : []) {
        base.set(start)
        sure.toRest(part, index, (regs, on) => {
          const made = regs.slice()
          const isSame = (other: Int32Array, to: number): boolean =>
            to === on && other.every((value, register) => value === made[register])
          const limits = { situations: 20_000, patient: true, stopAtRest: false }
          expect(typeof finish(findTrail(plain, start, index, isSame, limits))).toBe('object')
          passed++
        })
      }
    }
  }
  expect(passed).toBeGreaterThan(10)
}, 120_000)

test('what can be lost is not proved over sets', () => {
  const stage = staged(
    twoRooms(`
items: { coin: {} }
interactables:
  purse: { type: pickup, at: [1.5, 0.5, 1], set: { gives: coin } }
  right: { type: keyhole, at: [3, 0.4, 1], set: { item: coin, item-use: consume } }
  wrong: { type: keyhole, at: [3, 3.6, 1], set: { item: coin, item-use: consume } }
goals: { paid: { interactable: right, is: turned } }`),
  )
  const search = new SetSearch(stage)
  finish(search.run())
  const proof = new SetProof(new SureGraph(search))
  expect(finish(proof.isSafe(0, metIn(search, 0), search.reached))).toBe(false)
})

test('of a long way only what is needed is left', () => {
  const stage = staged(
    twoRooms(`
interactables:
  one: { type: chest, at: [1, 0.5], set: { gives: [] } }
  two: { type: chest, at: [2.5, 0.5], set: { gives: [] } }
  gate: { type: door, in: gap, set: { stays-open: true } }
  far: { type: chest, at: [8, 0.5], set: { gives: [] } }
  lever: { type: lever, at: [4, 3.6, 1], set: { stays: true } }
goals: { pulled: { interactable: lever, is: 'on' } }`),
  )
  const cover = new Coverage(stage)
  const start = finish(cover.standingStart())!
  const { moves } = finish(wander(cover, start, () => false))
  const isPulled = (play: Play): boolean => play.goalsMet().includes('pulled')
  expect(finish(played(cover, moves, isPulled))!.steps.length).toBeGreaterThan(8)
  const steps = finish(thinned(cover, moves, isPulled))!
  expect(steps.map((step) => step.do)).toEqual(['walk-to', 'press'])
})

test('roaming plays every transition that sets allow, doors that shut again among them', () => {
  const stage = staged(
    twoRooms(`
interactables:
  gate: { type: door, in: gap, set: { motion: { kind: slide } } }
  lever: { type: lever, at: [9, 0.4, 1] }
goals: { pulled: { interactable: lever, is: 'on' } }`),
  )
  const search = new SetSearch(stage)
  finish(search.run())
  const cover = new Coverage(stage)
  finish(roam(cover, search.taken))
  const missing = stage.tables.rows.filter(({ index }) => search.taken[index] === 1 && !cover.rows.has(index))
  expect(missing.map(({ transition }) => transition.name)).toEqual([])
  expect([...cover.goals]).toEqual(['pulled'])
})
