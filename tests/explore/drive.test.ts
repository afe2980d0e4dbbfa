import { describe, expect, test } from '@jest/globals'
import { runInSlices, explore } from '../../src/explore/index.ts'
import { mostTicksOf, leastTicks, tickClocks, tickLater } from '../../src/machine/index.ts'
import { check, checkNow } from '../../src/findings/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { Packing } from '../../src/explore/packing.ts'
import { Bits, Store } from '../../src/explore/store.ts'
import { replayedSteps, staged, textOf, twoRooms } from '../levels.ts'

const mill = staged(textOf('examples/levels/tide-mill.level.yaml'))

describe('work in slices', () => {
  const ticking = (): { now: () => number; pause: () => Promise<void>; pauses: () => number } => {
    let [time, pauses] = [0, 0]
    const pause = (): Promise<void> => {
      pauses++
      return Promise.resolve()
    }
    return { now: () => (time += 5), pause, pauses: () => pauses }
  }

  test('pauses, tells how far it has come, and ends with what it would without pauses', async () => {
    const clock = ticking()
    const told: number[] = []
    const driven = await runInSlices(explore(mill), { ...clock, onProgress: ({ situations }) => told.push(situations) })
    expect(driven.done).toBe(true)
    expect(clock.pauses()).toBeGreaterThan(5)
    expect(told.length).toBe(clock.pauses())
    expect([...told].sort((a, b) => a - b)).toEqual(told)
  })

  test('takes turns with others from the laying out of the ground on', () => {
    const { value, source } = readLevel(textOf('examples/levels/tide-mill-draft.level.yaml'))
    const pauses = new Map<string, number>()
    const work = check(value!, source, { quick: true, grouping: false })
    for (let next = work.next(); !next.done; next = work.next()) {
      pauses.set(next.value.doing, (pauses.get(next.value.doing) ?? 0) + 1)
    }
    // Each stretch between two pauses is a few ms of work; without a pause these would take hundreds.
    for (const doing of ['laying out', 'replaying', 'judging']) expect(pauses.get(doing)).toBeGreaterThan(20)
  })

  test('stops where it is aborted, with the last that was known', async () => {
    const clock = ticking()
    const controller = { aborted: false }
    const driven = await runInSlices(explore(mill), {
      ...clock,
      signal: controller,
      onProgress: ({ situations }) => {
        if (situations > 500) controller.aborted = true
      },
    })
    expect(driven).toMatchObject({ done: false, last: { doing: 'exploring' } })
  })
})

describe('packed situations', () => {
  test('come back as they were, whatever their fields', () => {
    const stage = staged(
      twoRooms(`items: { coin: { stacks: 9 } }
flags: { up: { initial: true } }
interactables:
  door: { type: door, in: gap, set: { motion: { over: 1.3, press-while-moving: reverse }, closes: { after: 4 } } }
  chest: { type: chest, at: [2, 3.4], set: { gives: [{ item: coin, count: 3 }] } }
`),
    )
    const { at } = stage.tables
    for (const counting of [{ kind: 'ticks', tick: 100 }, { kind: 'ms' }] as const) {
      const packing = new Packing(stage.tables, [37], counting)
      const regs = new Int32Array(at.size)
      regs[at.state(0)] = 3
      regs[at.waiting(0)] = stage.tables.rows.findIndex((row) => row.transition.name === 'close-by-itself') + 1
      regs[at.state(1)] = 1
      regs[at.flag(0)] = 1
      regs[at.item(0, 0)] = 9
      regs[at.clock(0)] = counting.kind === 'ms' ? 1300 : tickClocks(100).start(1300)
      regs[at.clock(1)] = counting.kind === 'ms' ? 4001 : tickClocks(100).start(4000)
      const words = new Int32Array(packing.words)
      packing.pack(regs, 36, words, 0)
      const back = new Int32Array(at.size)
      expect(packing.unpack(words, 0, back)).toBe(36)
      expect(back).toEqual(regs)
    }
  })

  test('are kept once each, and found again after the table has grown', () => {
    const store = new Store(2, 7)
    const key = new Int32Array(2)
    const keyOf = (i: number): Int32Array => {
      key[0] = i & 1023
      key[1] = i >>> 10
      return key
    }
    const places = Array.from({ length: 50_000 }, (_, i) => i)
    for (let round = 0; round < 2; round++) expect(places.filter((i) => store.add(keyOf(i)) !== i)).toEqual([])
    expect(store.count).toBe(50_000)
    expect(store.find(keyOf(50_000))).toBe(-1)
    expect(store.find(keyOf(49_999))).toBe(49_999)
  })

  test('sets of numbers know what is in them', () => {
    const bits = new Bits(100)
    expect([bits.add(31), bits.add(31), bits.add(32), bits.has(31), bits.has(33)]).toEqual([
      true,
      false,
      true,
      true,
      false,
    ])
  })
})

describe('clocks that count ticks', () => {
  const window = (value: number): [number, number] => [leastTicks(value), mostTicksOf(value)]
  const clocks = tickClocks(100)

  test('a time of whole ticks is due in just one tick, another in one of two', () => {
    expect(window(clocks.start(400))).toEqual([4, 4])
    expect(window(clocks.start(450))).toEqual([4, 5])
    expect(window(tickLater(clocks.start(450)))).toEqual([3, 4])
  })

  test('a motion turned back may be due a tick earlier or later than what was counted', () => {
    let value = clocks.start(1200)
    for (let i = 0; i < 5; i++) value = tickLater(value)
    expect(window(clocks.turn(value, 1200, 1200, true))).toEqual([3, 7])
  })

  test('a time longer than can be counted may never be due', () => {
    const value = clocks.start(3_600_000)
    expect(mostTicksOf(tickLater(value))).toBe(mostTicksOf(value))
  })
})

test('the fewest steps are the fewest: no shorter walkthrough reaches what a finding shows', () => {
  const reading = readLevel(textOf('examples/levels/tide-mill-draft.level.yaml'))
  const stage = staged(textOf('examples/levels/tide-mill-draft.level.yaml'))
  const report = checkNow(reading.value!, reading.source, { quick: true, grouping: false })
  const refusal = report.findings.find(({ rule }) => rule === 'silent-refusal')!
  for (const [left] of refusal.steps.entries()) {
    const fewer = refusal.steps.filter((_, i) => i !== left)
    const { log } = replayedSteps(stage, fewer)
    expect(
      log.some((entry) => entry.what === 'press' && entry.outcome === 'refused' && entry.interactable === 'loft-door'),
    ).toBe(false)
  }
})
