import type { GoalSets } from './graph.ts'
import type { Search } from './search.ts'
import { moveKind } from './successors.ts'

/**
 * What is so whenever a transition leaves a goal within reach, and never when it loses it: asked for by the transition, it would keep the goal.
 * An interactable in one of some states, an item that is carried, a flag; all by their numbers.
 */
export type Safeguard =
  | { readonly kind: 'state'; readonly machine: number; readonly states: readonly number[] }
  | { readonly kind: 'item'; readonly item: number; readonly count: number }
  | { readonly kind: 'flag'; readonly flag: number; readonly is: boolean }

/** Of so many situations the moves are tried, at the most. */
const mostTried = 100_000

/**
 * The safeguards of a transition that loses a goal; empty where it never leaves the goal within reach, or nothing by itself sets its moments
 * apart. Nothing is proved by them: they say what is worth trying.
 */
export function* safeguardsOf(search: Search, sets: GoalSets, row: number): Generator<undefined, Safeguard[]> {
  const { tables } = search.stage
  const { machine, transition } = tables.rows[row]!
  const regs = new Int32Array(tables.at.size)
  const [safe, lost] = [new Values(search), new Values(search)]
  const isPressed = transition.when.kind === 'press'
  let tried = 0
  for (let from = 0; from < search.expanded && tried < mostTried; from++) {
    if (from % 128 === 127) yield
    if (!sets.unmet.has(from) || !sets.canMeet.has(from)) continue
    if (isPressed && !hasPressOn(search, from, machine)) continue
    const patch = search.read(from, regs)
    if (!transition.from.includes(regs[machine]!)) continue
    tried++
    search.moves.each(regs, patch, (after, on, _kind, _what, taken) => {
      if (taken[0] !== row) return
      const to = search.find(after, on)
      if (to >= 0) (sets.canMeet.has(to) ? safe : lost).add(regs)
    })
  }
  if (safe.count === 0 || lost.count === 0) return []
  // What hears the transition comes first: it is what the transition was for.
  const heard = transition.changes.flatMap((change) => (change.kind === 'send' ? tables.listeners[change.signal]! : []))
  const isHeard = (one: Safeguard): number => Number(one.kind === 'state' && heard.includes(one.machine))
  return safe.apartFrom(lost, machine).sort((a, b) => isHeard(b) - isHeard(a))
}

/** Whether a press on a machine leads anywhere from a situation. */
function hasPressOn(search: Search, from: number, machine: number): boolean {
  const end = search.endEdge(from)
  for (let edge = search.firstEdge(from); edge < end; edge++) {
    if (search.kind(edge) !== moveKind.press) continue
    const input = search.moves.inputs.read(search.input(edge))
    if (input.do === 'press' && input.machine === machine) return true
  }
  return false
}

/** The values that registers have at some moments. */
class Values {
  count = 0
  readonly #search: Search
  /** By machine, by flag. */
  readonly #states: readonly Set<number>[]
  readonly #flags: readonly Set<number>[]
  /** By item: the fewest and the most that the first character carries. */
  readonly #fewest: number[]
  readonly #most: number[]

  constructor(search: Search) {
    const { expanded } = search.stage
    this.#search = search
    this.#states = expanded.interactables.map(() => new Set())
    this.#flags = expanded.flags.map(() => new Set())
    this.#fewest = expanded.items.map(() => Infinity)
    this.#most = expanded.items.map(() => 0)
  }

  add(regs: Int32Array): void {
    const { at } = this.#search.stage.tables
    this.count++
    for (const [machine, states] of this.#states.entries()) states.add(regs[at.state(machine)]!)
    for (const [flag, values] of this.#flags.entries()) values.add(regs[at.flag(flag)]!)
    for (const item of this.#fewest.keys()) {
      const count = regs[at.item(0, item)]!
      this.#fewest[item] = Math.min(this.#fewest[item]!, count)
      this.#most[item] = Math.max(this.#most[item]!, count)
    }
  }

  /** What is so at these moments and never at others; nothing of the machine `own`, which is alike at all. */
  apartFrom(others: Values, own: number): Safeguard[] {
    const isApart = (one: Set<number>, other: Set<number>): boolean => [...one].every((value) => !other.has(value))
    const states = this.#states.flatMap((one, machine): Safeguard[] =>
      machine !== own && isApart(one, others.#states[machine]!)
        ? [{ kind: 'state', machine, states: [...one].sort((a, b) => a - b) }]
        : [],
    )
    const items = this.#fewest.flatMap((count, item): Safeguard[] =>
      count > others.#most[item]! ? [{ kind: 'item', item, count }] : [],
    )
    const flags = this.#flags.flatMap((one, flag): Safeguard[] =>
      one.size === 1 && isApart(one, others.#flags[flag]!) ? [{ kind: 'flag', flag, is: one.has(1) }] : [],
    )
    return [...items, ...states, ...flags]
  }
}
