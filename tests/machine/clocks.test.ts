import { expect, test } from '@jest/globals'
import { leastTicks, mostTicksOf, tickClocks, tickLater } from '../../src/machine/index.ts'
import { Random } from '../soak/random.ts'

const tick = 100

test('a clock that stood still is due within its window, wherever in a tick it stopped and went on', () => {
  const random = new Random(5)
  const clocks = tickClocks(tick)
  let isWide = 0
  for (let round = 0; round < 4_000; round++) {
    const over = 1 + random.below(900)
    const begun = random.below(1000)
    const stopped = begun + random.below(over)
    const resumed = stopped + random.below(1000)
    const due = resumed + (begun + over - stopped)
    let value = clocks.start(over)
    for (let now = Math.floor(begun / tick); now < Math.floor(stopped / tick); now++) value = tickLater(value)
    const paused = clocks.pause!(value, over)
    const ticks = Math.floor(due / tick) - Math.floor(resumed / tick)
    expect([ticks >= leastTicks(paused), ticks <= mostTicksOf(paused)]).toEqual([true, true])
    // What is due at once is due at once, and nothing takes longer than it does as a whole.
    expect(mostTicksOf(paused)).toBeLessThanOrEqual(Math.ceil(over / tick))
    if (ticks < leastTicks(value) || ticks > mostTicksOf(value)) isWide++
  }
  // Without the wider window some would be missed.
  expect(isWide).toBeGreaterThan(50)
})
