import { isOffered, looseClocks, type Standing, Step, type Tables } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import type { Slice } from './slice.ts'

/** The most that characters can be tried with: where they stand, times what they carry. */
const mostPlacings = 4096

/** Of items of which more than this can be carried, only counts near those that matter are tried. */
const allCounts = 20

/** Nobody is ever in the way, and nobody is moved: they stand wherever they like. */
const nobody: Standing = {
  isInTheWay: () => false,
  move: () => null,
  leave: () => null,
  goHome: () => ({ left: [], entered: [], cleared: [] }),
  push: () => [],
}

/** Registers, and what to put into them: the zones that a character is in, or how many of an item it has. */
interface Choice {
  readonly registers: readonly number[]
  readonly values: readonly (readonly number[])[]
}

/**
 * What could come next in a slice, wherever characters stand and whatever they carry: tries all that they can do with all that
 * they can carry, in every combination of zones that there is ground for; or `certain` ground alone.
 */
export class OpenEnvironment {
  readonly #stage: Stage
  readonly #slice: Slice
  readonly #choices: readonly Choice[]
  /** The items that are tried. */
  readonly #items: readonly number[]
  /** By character, the machines that it comes near enough to press somewhere, and the zones that it can come into. */
  readonly #near: readonly ReadonlySet<number>[]
  readonly #zones: readonly ReadonlySet<number>[]

  constructor(stage: Stage, slice: Slice, ground: 'certain' | 'possible') {
    const { tables, space } = stage
    this.#stage = stage
    this.#slice = slice
    const signatures = space.patches.map(({ patches }) =>
      patches.flatMap(({ signature, firm }) => (firm || ground === 'possible' ? [signature] : [])),
    )
    this.#near = signatures.map(
      (all) => new Set(all.flatMap((signature) => signature.candidates.map((one) => one.interactable))),
    )
    this.#zones = signatures.map((all) => new Set(all.flatMap((signature) => signature.zones)))
    const zoneChoices = signatures.map((all, character): Choice => {
      const sets = all.map(({ zones }) => slice.zones.map((zone) => (zones.includes(zone) ? 1 : 0)))
      const distinct = new Map(sets.map((set) => [set.join(), set]))
      return { registers: slice.zones.map((zone) => tables.at.inside(character, zone)), values: [...distinct.values()] }
    })
    const items = itemsThatMatter(tables, slice)
    this.#items = [...items.keys()].filter((item) => !tables.expanded.items[item]!.shared)
    this.#choices = [...zoneChoices, ...itemChoices(tables, slice, items)]
  }

  /** Whether characters can do all here that they can do in another environment of the same slice. */
  isLike(other: OpenEnvironment): boolean {
    const allOf = (one: OpenEnvironment): string =>
      JSON.stringify([one.#near.map(sorted), one.#zones.map(sorted), one.#choices.map(({ values }) => values.length)])
    return allOf(this) === allOf(other)
  }

  /** Whether there is too much to try. */
  get isTooMuch(): boolean {
    return this.#choices.reduce((product, { values }) => product * values.length, 1) > mostPlacings
  }

  /** All that could come next. */
  *after(regs: Int32Array): Generator<Int32Array> {
    for (const placed of this.#placings(regs.slice(), 0)) {
      const settled = this.#tried(placed, (step) => {
        step.look()
      })
      if (!settled) continue
      yield settled
      for (const act of this.#acts(settled)) {
        const after = this.#tried(settled, act)
        if (after) yield after
      }
    }
  }

  /** With everybody anywhere, carrying anything that they can carry. */
  *#placings(regs: Int32Array, from: number): Generator<Int32Array> {
    const choice = this.#choices[from]
    if (!choice) {
      if (this.#canBeCarried(regs)) yield regs.slice()
      return
    }
    for (const values of choice.values) {
      choice.registers.forEach((register, i) => (regs[register] = values[i]!))
      yield* this.#placings(regs, from + 1)
    }
  }

  #canBeCarried(regs: Int32Array): boolean {
    const { at, expanded } = this.#stage.tables
    return expanded.characters.every(({ carriesMost }, character) => {
      if (carriesMost === Infinity) return true
      return this.#items.reduce((sum, item) => sum + regs[at.item(character, item)]!, 0) <= carriesMost
    })
  }

  /** What follows from something; null where there is no end to it. */
  #tried(regs: Int32Array, act: (step: Step) => void): Int32Array | null {
    const after = regs.slice()
    const step = new Step(this.#stage.tables, after, looseClocks, nobody)
    act(step)
    return step.storm ? null : after
  }

  /** All that characters can do, and all that can fall due. */
  *#acts(regs: Int32Array): Generator<(step: Step) => void> {
    const { tables } = this.#stage
    const { at, clocksOf } = tables
    for (let actor = 0; actor < at.characters; actor++) yield* this.#actsOf(actor, regs)
    for (const machine of this.#slice.machines) {
      for (const clock of clocksOf[machine]!) {
        if (regs[at.clock(clock)] !== 0) {
          yield (step) => {
            step.due(clock)
          }
        }
      }
      if (regs[at.waiting(machine)] !== 0) {
        yield (step) => {
          step.cleared(machine)
        }
      }
    }
  }

  *#actsOf(actor: number, regs: Int32Array): Generator<(step: Step) => void> {
    const { at } = this.#stage.tables
    if (this.#slice.machines.includes(regs[at.held(actor)]! - 1)) {
      yield (step) => {
        step.release(actor)
      }
      return
    }
    for (const machine of this.#slice.machines) {
      if (this.#near[actor]!.has(machine)) yield* this.#pressesOf(actor, machine, regs)
    }
    for (const zone of this.#zones[actor]!) {
      for (const inside of this.#crossings(actor, zone, regs)) {
        yield (step) => {
          step.cross(actor, zone, inside)
        }
      }
    }
  }

  *#pressesOf(actor: number, machine: number, regs: Int32Array): Generator<(step: Step) => void> {
    const { states, wheelValues, expanded } = this.#stage.tables
    const state = states[machine]![regs[machine]!]!
    for (const [pressKind, rows] of state.presses.entries()) {
      const isHeld = pressKind === 0 && state.holds.length + state.releases.length > 0
      if (!isHeld && !rows.some((row) => isOffered(row, regs, actor))) continue
      yield (step) => {
        step.press(actor, machine, pressKind)
      }
    }
    if (!state.dials || expanded.characters[actor]!.role !== 'player') return
    for (const wheel of this.#slice.wheels) {
      if (expanded.wheels[wheel]!.interactable !== machine) continue
      for (const to of wheelValues[wheel]!) {
        yield (step) => {
          step.dial(wheel, to)
        }
      }
    }
  }

  /** The ways to cross the border of a zone that something in the slice notices. */
  #crossings(actor: number, zone: number, regs: Int32Array): boolean[] {
    const { at, watchers, states } = this.#stage.tables
    const known = at.inside(actor, zone)
    const ways = known < 0 ? [true, false] : [regs[known] === 0]
    return ways.filter((inside) =>
      watchers[zone]!.some(
        (machine) =>
          this.#slice.machines.includes(machine) &&
          states[machine]![regs[machine]!]!.zones.some((one) => one.zone === zone && one.inside === inside),
      ),
    )
  }
}

function sorted(numbers: ReadonlySet<number>): number[] {
  return [...numbers].sort((a, b) => a - b)
}

/** The items of which it matters how many are carried, and the most that is asked for. */
function itemsThatMatter({ expanded }: Tables, slice: Slice): ReadonlyMap<number, number> {
  const isLimited = expanded.characters.some(({ carriesMost }) => carriesMost < Infinity)
  const items = new Map(slice.items)
  if (!slice.asksRoom || !isLimited) return items
  // What there is room for hangs on all that is carried.
  for (const [item, { shared }] of expanded.items.entries()) if (!shared && !items.has(item)) items.set(item, 0)
  return items
}

/** How many of each item characters could carry. */
function itemChoices(tables: Tables, slice: Slice, items: ReadonlyMap<number, number>): Choice[] {
  const { at, expanded } = tables
  return [...items].flatMap(([item, asked]) => {
    const { most } = expanded.items[item]!
    const values = counts(most, asked + changeOf(tables, slice, item)).map((count) => [count])
    const registers = new Set(expanded.characters.map((_, character) => at.item(character, item)))
    return [...registers].map((register): Choice => ({ registers: [register], values }))
  })
}

/** How much the rows of a slice change an item by, all together. */
function changeOf({ expanded }: Tables, { rows }: Slice, item: number): number {
  return rows
    .flatMap(({ transition }) => transition.changes)
    .reduce((sum, change) => {
      const changed =
        change.kind === 'take-out' ? expanded.contents[change.content]!.item : 'item' in change ? change.item : -1
      return changed === item && 'count' in change ? sum + change.count : sum
    }, 0)
}

/** All counts up to the most; of many, those near none and near the most. */
function counts(most: number, near: number): number[] {
  const all = Array.from({ length: most + 1 }, (_, count) => count)
  return most <= allCounts ? all : all.filter((count) => count <= near + 1 || count >= most - near - 1)
}
