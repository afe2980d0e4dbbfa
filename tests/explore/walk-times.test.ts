import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { explore, exploreNow, Interrupted } from '../../src/explore/index.ts'
import { WalkTimes } from '../../src/explore/walk-times.ts'
import { expandLevel } from '../../src/interactables/index.ts'
import { makeStage, Play, type Stage } from '../../src/play/index.ts'
import type { Point } from '../../src/space/index.ts'
import { answerTo, checked, longRooms, staged, textOf } from '../levels.ts'
import { pairs } from '../oracle/levels.ts'

interface Dash {
  /** Where the plate is along the wall, and how fast one is. */
  readonly x: number
  readonly speed: number
  readonly after: number
  readonly way: 'wait' | 'reopen'
  /** What sets the gate going: a press, walking onto a mat, or a press by way of a fuse. */
  readonly by: 'press' | 'mat' | 'fuse'
}

/** A gate at the far end of a long room, that is opened from somewhere in it and shuts by itself. */
function dash({ x, speed, after, way, by }: Dash): string {
  const plate = by === 'mat' ? `pressure-plate, at: [${String(x)}, 2]` : `button, at: [${String(x)}, 3.8, 1.2]`
  const fuse = '  fuse: { type: fuse, at: [5, 3.9] }\n'
  const types = `types:
  fuse:
    states: { cold: { look: cold }, lit: { look: sparks } }
    transitions:
      - { name: light, from: cold, to: lit, trigger: { signal: go } }
      - { name: burn, from: lit, to: cold, trigger: { after: 0.5 }, effects: [{ send: bang }] }
`
  return longRooms(`${by === 'fuse' ? types : ''}interactables:
  plate: { type: ${plate}, set: { sends: go }, feedback: { accepted: [{ sound: click }] } }
${by === 'fuse' ? fuse : ''}  gate: { type: door, in: gap, set: { opened-by: [{ signal: ${by === 'fuse' ? 'bang' : 'go'} }], closes: { after: ${String(after)}, in-the-way: ${way} } } }
  bell: { type: lever, at: [18, 3.8, 1.2], feedback: { accepted: [{ sound: ding }] } }
goals: { rung: { interactable: bell, is: "on" } }
`).replace('speed: 3', `speed: ${String(speed)}`)
}

const dashes: fc.Arbitrary<Dash> = fc.record({
  x: fc.integer({ min: 10, max: 130 }).map((x) => x / 10),
  speed: fc.constantFrom(1.5, 3, 6),
  after: fc.constantFrom(0.1, 0.8, 2.5, 4),
  way: fc.constantFrom('wait', 'reopen'),
  by: fc.constantFrom('press', 'mat', 'fuse'),
})

/** Whether some player gets through the gate: one that sets it going from as near to it as can be, and runs. */
function getsThrough(stage: Stage, { x, by }: Dash): boolean {
  for (let off = -0.2; off <= 1; off += 0.1) {
    for (const y of [2, 2.8, 3.3]) {
      for (const delay of [0, 400]) {
        const play = new Play(stage)
        const from: Point = [Math.min(13.6, x + off), by === 'mat' ? 2 : y]
        play.walk(0, [from])
        play.advanceWhileWalking(0, 60_000)
        if (by !== 'mat') play.press(0)
        play.advance(delay)
        // As far as the gate lets one, and on as soon as it does.
        for (let tries = 0; tries < 24; tries++) {
          play.walk(0, [
            [13.3, 2],
            [16, 2],
          ])
          play.advance(150)
        }
        play.advanceWhileWalking(0, 20_000)
        if (play.spotOf(0)[0] > 14.4) return true
      }
    }
  }
  return false
}

describe('walks for which there is not the time', () => {
  test('are ruled out only where no player gets through', () => {
    const counts = { late: 0, through: 0, open: 0 }
    fc.assert(
      fc.property(dashes, (one) => {
        const text = dash(one)
        const report = checked(text)
        const isLate = answerTo(report, 'too-late', 'gate') === 'found'
        const goal = answerTo(report, 'unreachable-goal', 'rung')
        const isThrough = getsThrough(staged(text), one)
        if (isThrough) counts.through++
        if (isLate) counts.late++
        else if (goal !== 'ruled-out') counts.open++
        if (isLate || goal === 'found') expect([one, isThrough]).toEqual([one, false])
        if (isThrough) expect(goal).not.toBe('found')
      }),
      { numRuns: 18, seed: 11 },
    )
    expect(counts.late).toBeGreaterThan(2)
    expect(counts.through).toBeGreaterThan(2)
  }, 240_000)

  test('are not ruled out where a player who runs at once just gets through', () => {
    for (const [x, by] of [
      [4, 'press'],
      [9, 'fuse'],
    ] as const) {
      const at = (after: number): Dash => ({ x, speed: 3, after, way: 'wait', by })
      // In tenths of a second, the shortest time in which somebody gets through.
      let [no, yes] = [0, 50]
      while (yes - no > 1) {
        const middle = Math.floor((no + yes) / 2)
        if (getsThrough(staged(dash(at(middle / 10))), at(middle / 10))) yes = middle
        else no = middle
      }
      const just = at(yes / 10)
      expect([just, answerTo(checked(dash(just)), 'too-late', 'gate')]).not.toEqual([just, 'found'])
    }
  }, 240_000)

  test('nobody is late who can wait beside it, or whom nothing keeps from setting it going there', () => {
    const near = { x: 13, speed: 3, after: 0.3, way: 'wait', by: 'press' } as const
    expect(answerTo(checked(dash(near)), 'too-late', 'gate')).toBe('ruled-out')
    const far = { ...near, x: 1 }
    expect(answerTo(checked(dash(far)), 'too-late', 'gate')).toBe('found')
    const both = dash(far).replace(
      '  bell:',
      '  knob: { type: button, at: [13, 3.8, 1.2], set: { sends: go } }\n  bell:',
    )
    expect(answerTo(checked(both), 'too-late', 'gate')).toBe('ruled-out')
  })

  test('what begins by itself begins where the player does', () => {
    const gate = (after: number): string =>
      longRooms(`interactables:
  gate: { type: gate, in: gap }
  bell: { type: lever, at: [18, 3.8, 1.2], feedback: { accepted: [{ sound: ding }] } }
types:
  gate:
    states: { open: { look: open, pose: 1 }, shut: { blocks: [walk, sight], lasting: true, look: shut, pose: 0 } }
    transitions:
      - { name: fall, from: open, to: shut, trigger: { after: ${String(after)} }, feedback: [{ sound: thud }] }
goals: { rung: { interactable: bell, is: "on" } }
`)
    // From 1.5 to about 13.7 at three metres a second: four seconds.
    expect(answerTo(checked(gate(2)), 'too-late', 'gate')).toBe('found')
    expect(answerTo(checked(gate(6)), 'too-late', 'gate')).toBe('ruled-out')
    expect(answerTo(checked(gate(6)), 'unreachable-goal', 'rung')).toBe('ruled-out')
  })
})

test('what is interrupted while ticks are counted ends with what is known, wherever that is', () => {
  // Undecided without ticks, and large enough for pauses with them.
  const stage = staged(textOf('tests/verdicts/levels/blinker.level.yaml'))
  const whole = explore(stage)
  const pauses: number[] = []
  let next = whole.next()
  for (let i = 0; !next.done; i++) {
    if (next.value.doing === 'exploring') pauses.push(i)
    next = whole.next()
  }
  let inTicks = 0
  for (const at of pauses) {
    const part = explore(stage)
    for (let i = 0; i <= at; i++) part.next()
    let ended = part.throw(new Interrupted())
    while (!ended.done) ended = part.next()
    expect(ended.value.isInterrupted).toBe(true)
    if (ended.value.counts.complete) inTicks++
  }
  expect(inTicks).toBeGreaterThan(0)
})

test('in random levels walks that take time only settle what stays undecided without', () => {
  const counts = { levels: 0, settled: 0 }
  fc.assert(
    fc.property(pairs, ({ level }) => {
      const stage = makeStage(expandLevel(level))
      if (!WalkTimes.of(stage, new Set(), -1)) return
      counts.levels++
      const [slow, quick] = [true, false].map((isHurried) =>
        exploreNow(stage, { ticksOnly: true, isHurried, budget: 1_000 }),
      )
      if (!slow!.counts.complete || !quick!.counts.complete) return
      expect(slow!.counts.situations).toBeLessThanOrEqual(quick!.counts.situations)
      for (const kind of ['dead', 'unreachable'] as const) {
        for (const [i, answer] of quick![kind].entries()) {
          if (answer.answer !== 'undecided') expect([kind, i, slow![kind][i]!.answer]).toEqual([kind, i, answer.answer])
          else if (slow![kind][i]!.answer !== 'undecided') counts.settled++
        }
      }
    }),
    { numRuns: 8, seed: 5 },
  )
  expect(counts.levels).toBeGreaterThan(1)
}, 120_000)
