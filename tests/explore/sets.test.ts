import { describe, expect, test } from '@jest/globals'
import { Predecessors, goalSets } from '../../src/explore/graph.ts'
import { type Answer, exploreNow } from '../../src/explore/index.ts'
import { Search } from '../../src/explore/search.ts'
import { setsOfGoal } from '../../src/explore/sets/goal-sets.ts'
import { SetProof, whyNotBySets } from '../../src/explore/sets/set-proof.ts'
import { SureGraph } from '../../src/explore/sets/sure-graph.ts'
import { SetSearch } from '../../src/explore/sets/set-search.ts'
import { rules } from '../../src/findings/index.ts'
import { expandLevel, joinLevels, loadLevel, readLevel } from '../../src/interactables/index.ts'
import { finish } from '../../src/model/index.ts'
import { makeStage, type Stage } from '../../src/play/index.ts'
import { gridOfRooms } from '../large.ts'
import { checked, inShort, staged, twoRooms } from '../levels.ts'
import { randomLevel } from '../soak/levels.ts'
import { joined, randomProject } from '../soak/projects.ts'

const wanted = Number(process.env.ZINTEL_TWINS ?? 40)
/** What plays everything takes longer. */
const fewer = Math.ceil(wanted / 4)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** The most situations of a level that is compared. */
const most = 20_000

/** What the sets say otherwise than the search one by one. */
function differences(stage: Stage, plain: Search, apart: boolean): string[] {
  const sets = new SetSearch(stage, { apart, company: true })
  finish(sets.run())
  const regs = new Int32Array(stage.tables.at.size)
  const wrong: string[] = []
  const different = new Set<string>()
  for (let index = 0; index < plain.store.count; index++) {
    const patch = plain.read(index, regs)
    if (!sets.has(regs, patch)) wrong.push(`situation ${String(index)} is missing`)
    if (apart) continue
    const merged = regs.slice()
    for (let character = 1; character < stage.tables.at.characters; character++) {
      const register = stage.tables.at.place(character)
      merged[register] = sets.places[character]!.of[merged[register]!]!
    }
    different.add(`${String(sets.places[0]!.of[patch])} ${merged.join()}`)
  }
  const count = apart ? plain.store.count : different.size
  if (sets.count !== count) wrong.push(`${String(sets.count)} situations, not ${String(count)}`)
  for (const [row, first] of plain.firstTaken.entries()) {
    if (first >= 0 !== (sets.taken[row] === 1)) wrong.push(`row ${String(row)}`)
  }
  if (sets.storms !== plain.storms.length > 0) wrong.push('storms')
  return wrong.slice(0, 3)
}

/** The levels of a random project as one. */
function joinedStage(number: number): Stage {
  const made = randomProject(number)
  return makeStage(joined(made))
}

function levelStage(number: number): Stage {
  const reading = loadLevel(randomLevel(number).level)
  return makeStage(expandLevel(reading.value!, reading.source))
}

describe.each([
  ['levels', levelStage, wanted],
  ['projects', joinedStage, fewer],
] as const)('of random %s', (_, made, times) => {
  test(`sets hold the situations of a search one by one: ${String(times)}`, () => {
    let levels = 0
    const all: string[] = []
    for (let number = seed; levels < times; number++) {
      const stage = made(number)
      const plain = new Search(stage, 'loose', most)
      while (!plain.advance(1000));
      if (!plain.isComplete || !plain.hasStart) continue
      levels++
      for (const apart of [true, false]) {
        for (const one of differences(stage, plain, apart))
          all.push(`level ${String(number)} ${apart ? 'apart' : ''}: ${one}`)
      }
    }
    expect(all).toEqual([])
  }, 3_600_000)
})

test('sets hold what comes about as a level begins anew, by what is remembered there', () => {
  const level = (to: string, more: string): string => `zintel: 1
title: One of two
rooms: { room: { outline: [[0, 0], [6, 0], [6, 5], [0, 5]] } }
places: { door: { at: [5, 2.5] } }
characters: { sam: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
interactables:
  way: { type: exit, at: [5.8, 2.5], set: { exit-to: { level: ${to}, place: door } } }
${more}`
  const bell = `  tap: { type: lever, at: [1, 4] }
  bell: { type: bell, at: [3, 4] }
types:
  bell:
    states: { quiet: {}, rung: {} }
    transitions: [{ from: quiet, to: rung, trigger: { becomes: { interactable: tap, is: "on" } } }]
`
  const parts = Object.entries({ yard: level('mill', bell), mill: level('yard', '') }).map(([name, text]) => {
    const { value, source } = readLevel(text)
    const remembered = name === 'yard' ? { except: ['bell'] } : {}
    return { name, expanded: expandLevel(value!, source), remembered }
  })
  const stage = makeStage(joinLevels('Two', parts, [{ name: 'start', level: 'yard' }]))
  const plain = new Search(stage, 'loose', most)
  while (!plain.advance(1000));
  expect([true, false].flatMap((apart) => differences(stage, plain, apart))).toEqual([])
})

test(`what is judged by sets of random projects is judged so one by one: ${String(fewer)} goals`, () => {
  const seen = { goals: 0, lost: 0, proved: 0 }
  const all: string[] = []
  for (let number = seed; seen.goals < fewer; number++) {
    const stage = joinedStage(number)
    const plain = new Search(stage, 'loose', most)
    while (!plain.advance(1000));
    if (!plain.isComplete || !plain.hasStart) continue
    const sets = new SetSearch(stage)
    finish(sets.run())
    const backward = finish(Predecessors.of(plain))
    for (const goal of stage.expanded.goals.keys()) {
      if (plain.holds(0, goal)) continue
      seen.goals++
      const one = finish(goalSets(plain, backward, goal))
      const own = finish(setsOfGoal(sets, goal, false))!
      if (own.everMet !== one.everMet) all.push(`project ${String(number)}: met`)
      if (own.canBeLost !== one.lost > 0) all.push(`project ${String(number)}: lost`)
      if (one.lost > 0) seen.lost++
      if (whyNotBySets(sets) !== null || !one.everMet || sets.storms) continue
      if (!finish(new SetProof(new SureGraph(sets)).isSafe(goal, own.met, own.unmet, true))) continue
      seen.proved++
      if (one.lost > 0) all.push(`project ${String(number)}: proved by sets, though it can be lost`)
    }
  }
  console.info(JSON.stringify(seen))
  expect(all).toEqual([])
  expect(seen.lost).toBeGreaterThan(0)
}, 3_600_000)

test(`sets judge goals as a search one by one does, on ${String(fewer)} goals of random levels`, () => {
  const seen = { goals: 0, lost: 0, lostForGood: 0, proved: 0, alsoProved: 0, notBySets: 0 }
  const all: string[] = []
  for (let number = seed; seen.goals < fewer; number++) {
    const { level } = randomLevel(number)
    // What holds at the start, too, may have to stay within reach.
    const asAtFirst = Object.entries(level.goals ?? {}).map(([name, goal]) => [`not-${name}`, { not: goal }] as const)
    const reading = loadLevel({ ...level, goals: { ...level.goals, ...Object.fromEntries(asAtFirst) } })
    const stage = makeStage(expandLevel(reading.value!, reading.source))
    const plain = new Search(stage, 'loose', most)
    while (!plain.advance(1000));
    if (!plain.isComplete || !plain.hasStart) continue
    const sets = new SetSearch(stage)
    finish(sets.run())
    const { softLocks } = exploreNow(stage, { budget: most })
    const backward = finish(Predecessors.of(plain))
    const why = whyNotBySets(sets)
    if (why !== null) seen.notBySets++
    for (const goal of stage.expanded.goals.keys()) {
      // Asked about again and again, as what must stay within reach is.
      const lasting = finish(goalSets(plain, backward, goal, { again: true }))
      const ownLasting = finish(setsOfGoal(sets, goal, true))!
      if (ownLasting.canBeLost !== lasting.lost > 0) all.push(`level ${String(number)}: lost for good`)
      if (lasting.lost > 0) seen.lostForGood++
      if (why === null && lasting.everMet && lasting.lost > 0 && !sets.storms) {
        const proof = new SetProof(new SureGraph(sets))
        if (
          finish(proof.isSafeAtRest(ownLasting.met)) ||
          finish(proof.isSafe(goal, ownLasting.met, ownLasting.unmet, true))
        )
          all.push(`level ${String(number)}: proved to stay within reach by sets, though it can be lost`)
      }
      if (plain.holds(0, goal)) continue
      seen.goals++
      const one = finish(goalSets(plain, backward, goal))
      const own = finish(setsOfGoal(sets, goal, false))!
      const told = (what: string): void => void all.push(`level ${String(number)}: ${what}`)
      if (own.everMet !== one.everMet) told('met')
      if (own.canBeLost !== one.lost > 0) told('lost')
      if (one.lost > 0) seen.lost++
      if (why !== null || !one.everMet || sets.storms) continue
      const isProved = softLocks[goal]?.answer === 'ruled-out'
      const proof = new SetProof(new SureGraph(sets))
      finish(proof.isSafeAtRest(own.met))
      // From what sure moves lead from, the way back is shorter, and comes to the same.
      const sooner = finish(setsOfGoal(sets, goal, false, proof.byPlace))!
      if (own.canMeet.some((set, place) => set !== sooner.canMeet[place])) told('from where it can be met')
      const isSafe = finish(proof.isSafe(goal, own.met, own.unmet, true))
      if (isProved) seen.proved++
      if (isProved && isSafe) seen.alsoProved++
      if (isSafe && one.lost > 0) told('proved by sets, though it can be lost')
    }
  }
  console.info(JSON.stringify(seen))
  expect(all).toEqual([])
  expect(Math.min(seen.lost, seen.lostForGood)).toBeGreaterThan(0)
}, 3_600_000)

test(`what a small budget leaves is told by sets, and agrees with all that is told without: ${String(fewer)} levels`, () => {
  const seen = { levels: 0, answers: 0, open: 0, ofSets: 0 }
  const all: string[] = []
  for (let number = seed; seen.levels < fewer; number++) {
    const reading = loadLevel(randomLevel(number).level)
    const stage = makeStage(expandLevel(reading.value!, reading.source))
    const observations = rules.flatMap((rule) => rule.observation?.(stage) ?? [])
    const whole = exploreNow(stage, { budget: most, observations })
    if (!whole.counts.complete || whole.counts.situations < 60) continue
    const part = exploreNow(stage, { budget: 50, observations })
    seen.levels++
    if (part.possible !== null) seen.ofSets++
    const compare = (what: string, one: Answer | null | undefined, other: Answer | null | undefined): void => {
      seen.answers++
      if (one?.answer === 'undecided' || other?.answer === 'undecided' || !one || !other) seen.open++
      else if (one.answer !== other.answer)
        all.push(`level ${String(number)} ${what}: ${one.answer}, not ${other.answer}`)
    }
    part.dead.forEach((one, row) => {
      compare(`row ${String(row)}`, one, whole.dead[row])
    })
    part.unreachable.forEach((one, goal) => {
      compare('unreachable', one, whole.unreachable[goal])
    })
    part.softLocks.forEach((one, goal) => {
      compare('lost', one, whole.softLocks[goal])
    })
    if (part.possible === null) continue
    for (const [key, sight] of whole.witnesses) {
      if (sight.shown && !part.possible.has(key) && !part.witnesses.get(key))
        all.push(`level ${String(number)}: ${key}`)
    }
  }
  console.info(JSON.stringify(seen))
  expect(all).toEqual([])
  expect(seen.ofSets).toBeGreaterThan(seen.levels / 2)
}, 3_600_000)

test('what happens to a goal after it has been met loses nothing, by sets either', () => {
  const level = (last: string): string =>
    twoRooms(`types:
  bell:
    states: { still: {}, ringing: {}, cracked: { lasting: true } }
    transitions:
      - { name: ring, from: still, to: ringing, trigger: press }
      - { name: crack, from: ${last}, to: cracked, trigger: press }
    handle: [0, 0, 1]
interactables:
  bell: { type: bell, at: [2, 3.4] }
  anvil: { type: bell, at: [2, 0.6] }
goals: { heard: { interactable: bell, is: ringing } }
`)
  const canBeLost = (text: string): boolean => {
    const sets = new SetSearch(staged(text))
    finish(sets.run())
    return finish(setsOfGoal(sets, 0, false))!.canBeLost
  }
  expect(canBeLost(level('ringing'))).toBe(false)
  expect(
    canBeLost(
      level('still').replace(
        'ring, from: still, to: ringing, trigger: press',
        'ring, from: still, to: ringing, trigger: { after: 1 }',
      ),
    ),
  ).toBe(true)
})

describe('a row of twenty doors', () => {
  const row = gridOfRooms(21, 1)

  test('has too many situations to look at one by one, and every question is decided', () => {
    const report = checked(row)
    expect(report.findings).toEqual([])
    expect(report.questions.filter(({ answer }) => answer === 'undecided')).toEqual([])
    expect(report.counts.situations).toBeLessThan(100_000)
  }, 600_000)

  test('what nobody comes to behind it is found', () => {
    const vault = `  vault: { outline: [[0, 10], [4, 10], [4, 14], [0, 14]] }
  vestibule: { outline: [[4.3, 10], [8, 10], [8, 14], [4.3, 14]] }
doorways:
  vault-gap: { joins: [vault, vestibule], at: [4.15, 12], width: 1.2, depth: 0.3 }
`
    const level = row
      .replace('doorways:\n', vault)
      .replace(
        'interactables:\n',
        'items: { coin: {} }\ninteractables:\n  safe: { type: door, in: vault-gap, set: { lock: { item: coin } } }\n',
      )
    const told = inShort(checked(level)).join()
    expect(told).toContain('safe')
    expect(told).toContain('dead-transition safe/unlock')
  }, 600_000)

  test('a search that has no nodes left says so', () => {
    const sets = new SetSearch(staged(row), { nodes: 50 })
    finish(sets.run())
    expect(sets.isComplete).toBe(false)
  })
})
