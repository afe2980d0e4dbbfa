import type { Moved, Pushed, Standing, Tables } from '../machine/index.ts'
import { mergedGoHome } from './passive.ts'
import { type Patches, patchesPushedTo, type Space } from '../space/index.ts'

/**
 * Where everybody stands, by patches, in a move that is being tried: who is in whose way, and where bodies and effects
 * may move them. A push may go several ways; the move is then tried once for each.
 */
export class PatchPositions implements Standing {
  /** The patch of the first character; those of the others are in the registers. */
  patch = 0
  /** Whose move it is. */
  actor = 0
  /** The borders of zones that a walk of that one has yet to cross. */
  readonly ahead: { readonly zone: number; readonly inside: boolean }[] = []
  /** Told where a move asks whether the first character is in the way of a body. */
  onAsked: ((machine: number) => void) | null = null
  readonly #tables: Tables
  readonly #space: Space
  /** The registers of the move that is being tried. */
  readonly #after: Int32Array
  /** By character. */
  readonly #grounds: readonly Patches[]
  /** By character, then by patch. */
  readonly #onBody: readonly (readonly ReadonlySet<number>[])[]
  /** Where bodies may push characters to; see `patchesPushedTo`. */
  readonly #targets = new Map<number, readonly number[]>()
  /** Of each push in the move, which of how many ways it goes. */
  readonly #choices: number[] = []
  readonly #options: number[] = []
  /** How many pushes there have been in it. */
  #calls = 0

  constructor(tables: Tables, space: Space, after: Int32Array) {
    this.#tables = tables
    this.#space = space
    this.#after = after
    this.#grounds = space.patches
    this.#onBody = space.patches.map(({ patches }) => patches.map((patch) => new Set(patch.signature.bodies)))
  }

  /** A move is tried, or tried again, with the first character on a patch. */
  begin(patch: number): void {
    this.patch = patch
    this.#calls = 0
    if (this.ahead.length > 0) this.ahead.length = 0
  }

  /** Where a character stands, in the move that is being tried. */
  patchOf(character: number): number {
    return character === 0 ? this.patch : this.#after[this.#tables.at.place(character)]!
  }

  put(character: number, patch: number): void {
    if (character === 0) this.patch = patch
    else this.#after[this.#tables.at.place(character)] = patch
  }

  isInTheWay(machine: number): boolean {
    this.onAsked?.(machine)
    for (let character = 0; character < this.#grounds.length; character++) {
      if (this.#onBody[character]![this.patchOf(character)]!.has(machine)) return true
    }
    return this.#grounds.length > 1 && this.#after[this.#tables.at.barred(machine)] === 1
  }

  move(actor: number, place: number): Moved | null {
    const to = this.#space.landing(actor, place)
    if (to < 0) return null
    return this.#moveOn(actor, to, this.#zonesOf(actor))
  }

  goHome(actor: number): Moved {
    const { layout, merged } = this.#space
    if (merged?.characters.has(actor)) {
      return mergedGoHome(this.#tables, merged, this.#after, actor, (machine) => this.isInTheWay(machine))
    }
    const from = this.patchOf(actor)
    const home = this.#grounds[actor]!.patchAt(layout.starts[actor]!)
    // Who starts where nobody can stand stays.
    return this.#moveOn(actor, home < 0 ? from : home, this.#zonesOf(actor))
  }

  /** Whoever leaves for a level that is not explored with this one counts as back at once. */
  leave(): null {
    return null
  }

  /**
   * Pushes everybody out of the way of a body, each to one of the patches that it may come to: which, `#choices` says.
   * Null, and nobody is pushed, where somebody stays: there may be no spot left, for other bodies.
   */
  push(machine: number): Pushed[] | null {
    const going: { actor: number; to: number }[] = []
    for (let actor = 0; actor < this.#grounds.length; actor++) {
      const patch = this.patchOf(actor)
      if (!this.#onBody[actor]![patch]!.has(machine)) continue
      const targets = this.#pushTargets(actor, machine)
      const call = this.#calls++
      this.#options[call] = targets.length + 1
      const to = targets[(this.#choices[call] ??= 0)]
      if (to === undefined) return null
      going.push({ actor, to })
    }
    return going.map(({ actor, to }) => ({ actor, ...this.#moveOn(actor, to, this.#zonesOf(actor)) }))
  }

  #pushTargets(actor: number, machine: number): readonly number[] {
    const key = actor * this.#tables.at.machines + machine
    const known = this.#targets.get(key) ?? patchesPushedTo(this.#space, actor, machine)
    this.#targets.set(key, known)
    return known
  }

  /** Whether the move that was tried could have gone otherwise: `#choices` says how, and it is to be tried again. */
  goesOtherwise(): boolean {
    for (let call = this.#calls - 1; call >= 0; call--) {
      if (++this.#choices[call]! >= this.#options[call]!) continue
      this.#choices.length = call + 1
      return true
    }
    if (this.#choices.length > 0) this.#choices.length = 0
    return false
  }

  /** The zones that a character is known to be in: those whose borders it is about to cross, as before. */
  #zonesOf(actor: number): Set<number> {
    const known = new Set(this.#grounds[actor]!.patches[this.patchOf(actor)]!.signature.zones)
    if (actor !== this.actor) return known
    for (const { zone, inside } of this.ahead) {
      if (inside) known.delete(zone)
      else known.add(zone)
    }
    this.ahead.length = 0
    return known
  }

  /** Puts a character on a patch; `known` are the zones that it was known to be in. */
  #moveOn(actor: number, to: number, known: ReadonlySet<number>): Moved {
    const { patches } = this.#grounds[actor]!
    const from = patches[this.patchOf(actor)]!.signature
    const { zones, bodies } = patches[to]!.signature
    this.put(actor, to)
    return {
      left: [...known].filter((zone) => !zones.includes(zone)).sort((a, b) => a - b),
      entered: zones.filter((zone) => !known.has(zone)),
      cleared: from.bodies.filter((body) => !bodies.includes(body) && !this.isInTheWay(body)),
    }
  }
}
