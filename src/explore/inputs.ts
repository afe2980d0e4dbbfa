import { drawnFrom, isOffered, type StateTable, type Tables } from '../machine/index.ts'
import { asksToBeLookedAt, type Signature } from '../space/index.ts'

/** Something that a character does on a spot. */
export type Input = { readonly actor: number } & (
  | {
      readonly do: 'press'
      readonly machine: number
      /** How: an index into `Expanded.pressKinds`. */
      readonly pressKind: number
      /** Whether the player looks at it first, because it matters. */
      readonly looking: boolean
      /** Whether the press is kept down. */
      readonly kept: boolean
    }
  | { readonly do: 'release' }
  | { readonly do: 'dial'; readonly wheel: number; readonly to: number }
)

/** Numbers for inputs, so that they fit beside moves; and back. */
export class Inputs {
  readonly #characters: number
  readonly #machines: number
  readonly #pressKinds: number
  /** Numbers below this are presses; this one is letting go; those above set wheels. */
  readonly #release: number
  /** How many numbers each character has. */
  readonly #each: number

  constructor({ expanded }: Tables) {
    this.#characters = expanded.characters.length
    this.#machines = expanded.interactables.length
    this.#pressKinds = expanded.pressKinds.length
    this.#release = 4 * this.#machines * this.#pressKinds
    this.#each = this.#release + 1 + 100 * expanded.wheels.length
  }

  /** A walk of a character to a patch: numbers of their own, apart from those of what is done on a spot. */
  walk(actor: number, to: number): number {
    return to * this.#characters + actor
  }

  readWalk(code: number): { readonly actor: number; readonly to: number } {
    const actor = code % this.#characters
    return { actor, to: (code - actor) / this.#characters }
  }

  release(actor: number): number {
    return actor * this.#each + this.#release
  }

  press(actor: number, machine: number, pressKind: number, looking: boolean, kept: boolean): number {
    const how = (looking ? 1 : 0) + (kept ? 2 : 0)
    return actor * this.#each + machine + this.#machines * (pressKind + this.#pressKinds * how)
  }

  dial(actor: number, wheel: number, to: number): number {
    return this.release(actor) + 1 + wheel * 100 + to
  }

  read(code: number): Input {
    const actor = Math.floor(code / this.#each)
    const own = code - actor * this.#each
    if (own === this.#release) return { actor, do: 'release' }
    if (own > this.#release) {
      const rest = own - this.#release - 1
      return { actor, do: 'dial', wheel: Math.floor(rest / 100), to: rest % 100 }
    }
    const machine = own % this.#machines
    const rest = (own - machine) / this.#machines
    const how = Math.floor(rest / this.#pressKinds)
    return {
      actor,
      do: 'press',
      machine,
      pressKind: rest % this.#pressKinds,
      looking: (how & 1) !== 0,
      kept: (how & 2) !== 0,
    }
  }
}

/**
 * Calls `visit` for everything that a press of a character could go to, for each way to press: the first candidate that answers whoever
 * stands there, and before it those that one may look at or past, and those whose range has ended for who has not come nearer before.
 * With these, and behind them, it is not certain what answers.
 */
export function eachPress(
  { states, expanded }: Tables,
  { candidates }: Signature,
  regs: Int32Array,
  actor: number,
  visit: (machine: number, pressKind: number, looking: boolean, isCertain: boolean) => void,
): void {
  const { pressKinds } = expanded
  for (let pressKind = 0; pressKind < pressKinds.length; pressKind++) {
    let looking = false
    let isCertain = true
    for (let i = 0; i < candidates.length; i++) {
      const { interactable, hiders, lingers } = candidates[i]!
      const state = states[interactable]![regs[interactable]!]!
      if (!state.answers[actor]![pressKind]! || (hiders.length > 0 && isHidden(hiders, states, regs))) continue
      const aimed = asksToBeLookedAt({ expanded }, actor, interactable)
      looking ||= aimed
      isCertain &&= !lingers
      if (isAKindFor(state, pressKinds, pressKind, regs, actor)) visit(interactable, pressKind, looking, isCertain)
      if (!aimed && !lingers) break
    }
  }
}

/** Whether a press of a kind is one of its own there: an option that is offered, an outcome that chance can draw, or one without chance. */
function isAKindFor(
  state: StateTable,
  kinds: Tables['expanded']['pressKinds'],
  pressKind: number,
  regs: Int32Array,
  actor: number,
): boolean {
  if (state.byChance.length > 0 && (pressKind === 0 || kinds[pressKind]!.chance !== null)) {
    const drawn = drawnFrom(state, regs, actor)
    return drawn.length === 0 ? pressKind === 0 : drawn.includes(pressKind)
  }
  const { option, chance } = kinds[pressKind]!
  if (option === null && chance === null) return true
  return state.presses[pressKind]!.some((row) => isOffered(row, regs, actor))
}

/** Calls `visit` for every interactable within reach whose wheels can be set; perhaps only by who has come nearer before. */
export function eachDial(
  { states, expanded }: Tables,
  { candidates }: Signature,
  regs: Int32Array,
  actor: number,
  visit: (machine: number, isCertain: boolean) => void,
): void {
  if (expanded.wheels.length === 0 || expanded.characters[actor]!.role !== 'player') return
  for (const { interactable, hiders, lingers } of candidates) {
    if (!states[interactable]![regs[interactable]!]!.dials || isHidden(hiders, states, regs)) continue
    visit(interactable, !lingers)
  }
}

function isHidden(hiders: readonly number[], states: Tables['states'], regs: Int32Array): boolean {
  for (const hider of hiders) if (states[hider]![regs[hider]!]!.blocksSight) return true
  return false
}
