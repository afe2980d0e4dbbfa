/**
 * How running clocks are kept in registers. A value of 0 is a clock that is off; what other values mean is the model's
 * own affair. Play counts milliseconds; Explore counts ticks, or only knows that something runs.
 */
export interface ClockModel {
  /** The value of a clock that has just been started, to be due after so many milliseconds (at least 1). */
  start(ms: number): number
  /**
   * The value of a motion's clock that is sent another way: it had `over` ms for the whole way and now has `next`;
   * `back` where it now goes towards the other pose. It keeps its share of the way.
   */
  turn(value: number, over: number, next: number, back: boolean): number
  /**
   * The value of a running clock, set for `over` ms, of a level in which time stands still from some moment on, and goes on from another;
   * null where that changes no value.
   */
  readonly pause: ((value: number, over: number) => number) | null
}

/** Counts whole milliseconds: the value is what remains plus 1, so that 1 is due now. */
export const millisecondClocks: ClockModel = {
  start: (ms) => Math.max(1, ms) + 1,
  turn(value, over, next, back) {
    const remains = value - 1
    return Math.max(1, Math.floor(((back ? over - remains : remains) * next) / over + 0.5)) + 1
  },
  pause: null,
}

/** Only knows that a clock runs: it may be due at any moment. */
export const looseClocks: ClockModel = { start: () => 1, turn: () => 1, pause: null }

/** The longest time, in ticks, that tick clocks count; what takes longer may, as far as they know, never be due. */
export const mostTicks = 1023
const stride = mostTicks + 1

/**
 * Counts ticks on one grid for everything: a clock started in one tick is due in the tick `least` to `most` later,
 * somewhere in it. Where the time is not a whole number of ticks the two differ by one; where a motion is turned back
 * at some moment within a tick, by two more. The value is least × 1024 + most + 1.
 */
export function tickClocks(tick: number): ClockModel {
  return {
    start: (ms) => window(Math.floor(ms / tick), Math.ceil(ms / tick)),
    turn(value, over, next, back) {
      // What remains lies between a tick less and a tick more than what was counted.
      const least = (leastTicks(value) - 1) * tick
      const most = (mostTicksOf(value) + 1) * tick
      const [from, to] = back ? [over - most, over - least] : [least, most]
      const limit = Math.ceil(next / tick)
      const low = Math.floor(((from * next) / over - 1) / tick)
      const high = Math.ceil(((to * next) / over + 1) / tick)
      return window(Math.min(limit, Math.max(0, low)), Math.min(limit, Math.max(0, high)))
    },
    // Where in its tick the level is left, and where in another one it is come back to, nobody knows.
    pause: (value, over) =>
      window(Math.max(0, leastTicks(value) - 1), Math.min(mostTicksOf(value) + 1, Math.ceil(over / tick))),
  }
}

function window(least: number, most: number): number {
  return Math.min(least, mostTicks) * stride + Math.min(most, mostTicks) + 1
}

/** In how many ticks, at the least, a tick clock is due. */
export function leastTicks(value: number): number {
  return Math.floor((value - 1) / stride)
}

/** In how many ticks, at the most, a tick clock is due. */
export function mostTicksOf(value: number): number {
  return (value - 1) % stride
}

/** A tick clock one tick later; it must not have been due by now. */
export function tickLater(value: number): number {
  const least = leastTicks(value)
  const most = mostTicksOf(value)
  return window(least > 0 ? least - 1 : 0, most === mostTicks ? most : most - 1)
}
