import type { Expanded } from '../interactables/index.ts'

/**
 * Where everything that a level remembers stands in one array of whole numbers:
 * for each interactable its state, the transition that waits (its number plus 1, or 0), and the pose it rests in;
 * then the flags (0 or 1), the items of each character, and the clocks (their values belong to a clock model; 0: off).
 */
export class Registers {
  readonly machines: number
  readonly flags: number
  readonly characters: number
  readonly items: number
  readonly clocks: number
  /** Where the clocks begin. */
  readonly firstClock: number
  /** How many registers there are. */
  readonly size: number
  readonly #firstItem: number

  constructor(expanded: Expanded, clocks: number) {
    this.machines = expanded.interactables.length
    this.flags = expanded.flags.length
    this.characters = expanded.characters.length
    this.items = expanded.items.length
    this.clocks = clocks
    this.#firstItem = 3 * this.machines + this.flags
    this.firstClock = this.#firstItem + this.characters * this.items
    this.size = this.firstClock + clocks
  }

  state(machine: number): number {
    return machine
  }

  waiting(machine: number): number {
    return this.machines + machine
  }

  pose(machine: number): number {
    return 2 * this.machines + machine
  }

  flag(flag: number): number {
    return 3 * this.machines + flag
  }

  item(character: number, item: number): number {
    return this.#firstItem + character * this.items + item
  }

  clock(clock: number): number {
    return this.firstClock + clock
  }
}
