import { expandLevel, makeStage, Play, readLevel, type Stage } from 'zintel'

/** A level on stage, or why it cannot be. */
export type Opened =
  { readonly stage: Stage; readonly errors: null } | { readonly stage: null; readonly errors: string[] }

/** Reads a level and puts it on stage. */
export function openLevel(file: string, text: string): Opened {
  const reading = readLevel(text, file)
  if (!reading.value) return { stage: null, errors: reading.diagnostics.map((one) => one.message) }
  return { stage: makeStage(expandLevel(reading.value, reading.source)), errors: null }
}

const directions: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  w: [0, 1],
  s: [0, -1],
  a: [-1, 0],
  d: [1, 0],
}

/** A play that is fed with real time and with keys held down. */
export class Game {
  readonly play: Play
  readonly #held = new Set<string>()
  #steered = '0 0'
  #slides = 0
  #stuckAt = ''
  #left = 0

  constructor(stage: Stage) {
    this.play = new Play(stage)
  }

  /** A key goes down or up; whether it is one of ours. */
  key(key: string, down: boolean): boolean {
    if (!Object.hasOwn(directions, key)) return false
    if (down) this.#held.add(key)
    else this.#held.delete(key)
    return true
  }

  /** Forgets what is held down, as when the page loses the keyboard. */
  release(): void {
    this.#held.clear()
  }

  walkTo(spot: readonly [number, number]): boolean {
    return this.play.walkTo(0, spot)
  }

  press(): void {
    this.play.press(0)
  }

  /** Lets real time pass, in ms; a long gap counts as a tenth of a second. */
  pass(ms: number): void {
    this.#steer()
    this.#left += Math.min(ms, 100)
    const whole = Math.floor(this.#left)
    this.#left -= whole
    this.play.advance(whole)
  }

  /** Steers where the keys say; at a wall it slides along it. */
  #steer(): void {
    let [x, y] = [0, 0]
    for (const key of this.#held) {
      x += directions[key]?.[0] ?? 0
      y += directions[key]?.[1] ?? 0
    }
    const wanted = `${String(Math.sign(x))} ${String(Math.sign(y))}`
    const isNew = wanted !== this.#steered
    if (isNew) this.#slides = 0
    else if (wanted === '0 0' || this.play.isWalking(0)) return
    else {
      // Stopped at a wall: of a slanting direction first one part is tried, then the other, as long as that helps.
      const spot = this.play.spotOf(0).join()
      if (x === 0 || y === 0 || (this.#slides === 0 && spot === this.#stuckAt)) return
      if (this.#slides === 0) this.#stuckAt = spot
      this.#slides = (this.#slides + 1) % 3
    }
    this.#steered = wanted
    if (wanted === '0 0') this.play.steer(0, null)
    else this.play.steer(0, this.#slides === 1 ? [x, 0] : this.#slides === 2 ? [0, y] : [x, y])
  }
}
