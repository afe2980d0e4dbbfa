import type { Expanded } from '../interactables/index.ts'

/**
 * Where everything that a level remembers stands in one array of whole numbers:
 * for each interactable its state, the transition that waits (its number plus 1, or 0), and the pose it rests in;
 * then, where there are several characters, who set it off last; the flags (0 or 1), the counters, the wheels of dials, how much is left of what is in
 * interactables; for each character what it keeps pressed (the interactable plus 1, or 0), which of the zones that
 * conditions ask about it is in (0 or 1), and what is remembered of it (0 or 1); whether each condition that something waits
 * for held at the last look (0 or 1); the items of each character, those that are shared only once; where each character but
 * the first is (its patch; Explore's own affair, else 0), and, where there are several, whether some passive character is in the
 * way of each interactable (0 or 1; Explore's own affair, too, else 0); where levels are joined, in which of them the play goes on (its index); and the clocks (their values belong to a clock model; 0: off).
 */
export class Registers {
  readonly machines: number
  readonly flags: number
  readonly counters: number
  readonly wheels: number
  readonly contents: number
  readonly memories: number
  readonly characters: number
  /** The zones that conditions ask about, by their numbers among all zones. */
  readonly askedZones: readonly number[]
  /** How many conditions are waited for. */
  readonly awaited: number
  readonly items: number
  readonly clocks: number
  /** In which of the levels that are joined the play goes on; -1 where it is one level. */
  readonly here: number
  /** Where the clocks begin. */
  readonly firstClock: number
  /** How many registers there are. */
  readonly size: number
  readonly #firstCounter: number
  readonly #firstWheel: number
  readonly #firstFlag: number
  readonly #firstContent: number
  readonly #firstHeld: number
  readonly #firstInside: number
  readonly #firstAwaited: number
  readonly #firstMemory: number
  readonly #firstItem: number
  readonly #firstPlace: number
  readonly #firstBarred: number
  /** For each item and character, behind `#firstItem`. */
  readonly #slotOfItem: readonly (readonly number[])[]
  readonly #slotOf: readonly number[]

  constructor(expanded: Expanded, awaited: number, clocks: number) {
    this.machines = expanded.interactables.length
    this.flags = expanded.flags.length
    this.counters = expanded.counters.length
    this.wheels = expanded.wheels.length
    this.characters = expanded.characters.length
    this.askedZones = expanded.zones.flatMap(({ asked }, zone) => (asked ? [zone] : []))
    this.#slotOf = expanded.zones.map((_, zone) => this.askedZones.indexOf(zone))
    this.awaited = awaited
    this.items = expanded.items.length
    this.clocks = clocks
    this.contents = expanded.contents.length
    this.memories = expanded.memories.length
    this.#firstFlag = (this.characters > 1 ? 4 : 3) * this.machines
    this.#firstCounter = this.#firstFlag + this.flags
    this.#firstWheel = this.#firstCounter + this.counters
    this.#firstContent = this.#firstWheel + this.wheels
    this.#firstHeld = this.#firstContent + this.contents
    this.#firstInside = this.#firstHeld + this.characters
    this.#firstMemory = this.#firstInside + this.characters * this.askedZones.length
    this.#firstAwaited = this.#firstMemory + this.characters * this.memories
    this.#firstItem = this.#firstAwaited + awaited
    this.#slotOfItem = expanded.characters.map((_, character) =>
      expanded.items.map(({ shared }, item) => (shared ? item : character * this.items + item)),
    )
    this.#firstPlace = this.#firstItem + this.characters * this.items
    this.#firstBarred = this.#firstPlace + this.characters - 1
    const firstBehind = this.#firstBarred + (this.characters > 1 ? this.machines : 0)
    this.here = expanded.joined ? firstBehind : -1
    this.firstClock = firstBehind + (expanded.joined ? 1 : 0)
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

  /** The character that set a machine off last; only where there are several. */
  last(machine: number): number {
    return 3 * this.machines + machine
  }

  flag(flag: number): number {
    return this.#firstFlag + flag
  }

  /** How much is left of one of `Expanded.contents`. */
  content(content: number): number {
    return this.#firstContent + content
  }

  /** Whether one of `Expanded.memories` is remembered of a character. */
  memory(character: number, memory: number): number {
    return this.#firstMemory + character * this.memories + memory
  }

  /** The patch of a character that is not the first. */
  place(character: number): number {
    return this.#firstPlace + character - 1
  }

  /** The character whose patch a register is; -1: it is something else. */
  characterPlacedBy(register: number): number {
    return register >= this.#firstPlace && register < this.#firstBarred ? register - this.#firstPlace + 1 : -1
  }

  /** Whether some character that is passive is in the way of a machine; only where there are several characters. */
  barred(machine: number): number {
    return this.#firstBarred + machine
  }

  counter(counter: number): number {
    return this.#firstCounter + counter
  }

  wheel(wheel: number): number {
    return this.#firstWheel + wheel
  }

  held(character: number): number {
    return this.#firstHeld + character
  }

  /** Whether a character is in a zone; -1 where no condition asks about the zone. */
  inside(character: number, zone: number): number {
    const slot = this.#slotOf[zone]!
    return slot < 0 ? -1 : this.#firstInside + character * this.askedZones.length + slot
  }

  /** Whether a condition that is waited for held at the last look. */
  holding(awaited: number): number {
    return this.#firstAwaited + awaited
  }

  item(character: number, item: number): number {
    return this.#firstItem + this.#slotOfItem[character]![item]!
  }

  clock(clock: number): number {
    return this.firstClock + clock
  }
}
