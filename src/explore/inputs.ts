import type { Tables } from '../machine/index.ts'
import type { Sign } from '../space/index.ts'

/** Something that a player does on a spot. */
export type Input =
  | {
      readonly do: 'press'
      readonly machine: number
      /** How: an index into `Expanded.asks`. */
      readonly ask: number
      /** Whether the player looks at it first, because it matters. */
      readonly looking: boolean
      /** Whether the press is kept down. */
      readonly kept: boolean
    }
  | { readonly do: 'release' }
  | { readonly do: 'dial'; readonly wheel: number; readonly to: number }

/** Numbers for inputs, so that they fit beside moves; and back. */
export class Inputs {
  readonly #machines: number
  readonly #asks: number

  constructor({ expanded }: Tables) {
    this.#machines = expanded.interactables.length
    this.#asks = expanded.asks.length
  }

  get release(): number {
    return 4 * this.#machines * this.#asks
  }

  press(machine: number, ask: number, looking: boolean, kept: boolean): number {
    return machine + this.#machines * (ask + this.#asks * ((looking ? 1 : 0) + (kept ? 2 : 0)))
  }

  dial(wheel: number, to: number): number {
    return this.release + 1 + wheel * 100 + to
  }

  read(code: number): Input {
    if (code === this.release) return { do: 'release' }
    if (code > this.release) {
      const rest = code - this.release - 1
      return { do: 'dial', wheel: Math.floor(rest / 100), to: rest % 100 }
    }
    const machine = code % this.#machines
    const rest = (code - machine) / this.#machines
    const how = Math.floor(rest / this.#asks)
    return { do: 'press', machine, ask: rest % this.#asks, looking: (how & 1) !== 0, kept: (how & 2) !== 0 }
  }
}

/**
 * Calls `visit` for everything that a press could go to, for each way to press: the first candidate that asks nobody
 * to look at it, and before it those that do, since one may look at them or past them.
 */
export function eachPress(
  { states, expanded }: Tables,
  { candidates }: Sign,
  regs: Int32Array,
  visit: (machine: number, ask: number, looking: boolean) => void,
): void {
  const { asks, interactables } = expanded
  for (let ask = 0; ask < asks.length; ask++) {
    let looking = false
    for (let i = 0; i < candidates.length; i++) {
      const { interactable, hiders } = candidates[i]!
      const state = states[interactable]![regs[interactable]!]!
      if (!state.answers[ask]! || (hiders.length > 0 && isHidden(hiders, states, regs))) continue
      const aimed = interactables[interactable]!.aim !== null
      looking ||= aimed
      if (asks[ask]!.option === null || state.presses[ask]!.length > 0) visit(interactable, ask, looking)
      if (!aimed) break
    }
  }
}

/** Calls `visit` for every interactable within reach whose wheels can be set. */
export function eachDial(
  { states, expanded }: Tables,
  { candidates }: Sign,
  regs: Int32Array,
  visit: (machine: number) => void,
): void {
  if (expanded.wheels.length === 0) return
  for (const { interactable, hiders } of candidates) {
    if (!states[interactable]![regs[interactable]!]!.dials || isHidden(hiders, states, regs)) continue
    visit(interactable)
  }
}

function isHidden(hiders: readonly number[], states: Tables['states'], regs: Int32Array): boolean {
  for (const hider of hiders) if (states[hider]![regs[hider]!]!.blocksSight) return true
  return false
}
