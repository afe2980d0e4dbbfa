import type { Evidence, Observation } from '../../explore/index.ts'
import type { Check } from '../../interactables/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { rowTitle } from './rows.ts'
import { focusedKey } from './prompts.ts'
import { leadingTo } from './rows.ts'

/** What stands in the way of something that can never be so: what it needs, link by link, down to what is to be changed. */
export interface Obstruction {
  /** From the goal down, such as `sluice-wheel turned`, `crank`, `meal-chest open`, `2 × tally`. */
  readonly chain: readonly string[]
  readonly root: Root
}

/** Where a chain ends, and why. */
export interface Root {
  readonly kind:
    | 'too-few'
    | 'none'
    | 'never-set'
    | 'never-sent'
    | 'no-way'
    | 'shut'
    | 'no-reach'
    | 'beyond-itself'
    | 'circle'
    | 'never-taken'
    | 'never-counts'
  /** The path in the level of what is to be changed. */
  readonly path: string
  /** What it is: an item, a flag, a signal, an interactable. */
  readonly name: string
  /** For `too-few`: how many can be had at once, and what gives them. */
  readonly count: number
  readonly from: readonly string[]
}

const start = 'has '
const counted = 'counts '

/** Looks out for how many of each item anybody ever carries, and for what each counter ever comes to. */
export function carriedLookout({ expanded, tables: { at } }: Stage): Observation {
  const keys = expanded.items.map(({ name, most }) =>
    Array.from({ length: Math.min(most, mostCounted) + 1 }, (_, count) => `${start}${name} ${String(count)}`),
  )
  return {
    onSituation: [
      ...keys.map((own, item) => (regs: Int32Array, see: (key: string) => void) => {
        for (let actor = 0; actor < at.characters; actor++) {
          const count = regs[at.item(actor, item)]!
          if (count > 0) see(own[Math.min(count, own.length - 1)]!)
        }
      }),
      ...expanded.counters.flatMap(({ name, most }, counter) => {
        const own = Array.from({ length: most + 1 }, (_, count) => `${counted}${name} ${String(count)}`)
        if (most > mostCounted) return []
        return [
          (regs: Int32Array, see: (key: string) => void): void => {
            see(own[regs[at.counter(counter)]!]!)
          },
        ]
      }),
    ],
    isFault: () => false,
    // It is looked up, and not told: nothing need be played.
    isKnown: () => true,
    isShown: () => true,
  }
}

/** More of an item than this count as so many. */
const mostCounted = 99

/** What stands in the way of a goal that can never be met; null where it is not known, or not all was explored. */
export function obstructionOf(stage: Stage, evidence: Evidence, goal: number): Obstruction | null {
  if (evidence.gap !== null) return null
  const { check, path } = stage.expanded.goals[goal]!
  return new Explainer(stage, evidence).check(check, path)
}

/**
 * The parts of the level that may keep a goal from being met, by their paths, the end of the shortest chain first: what asks for what
 * cannot be, what would give it, and what takes it away.
 */
export function placesBehind(stage: Stage, evidence: Evidence, goal: number): string[] {
  const { check, path } = stage.expanded.goals[goal]!
  const explainer = new Explainer(stage, evidence)
  const found = explainer.check(check, path)
  return [...new Set([...(found ? [found.root.path] : []), path, ...explainer.places])]
}

/** So many questions are asked for one goal, at the most. */
const mostAsked = 20_000

class Explainer {
  readonly #stage: Stage
  readonly #evidence: Evidence
  readonly #most: readonly number[]
  /** What is being explained, so that a circle is seen. */
  readonly #open: string[] = []
  #asked = 0
  /** The paths of what was asked about, in order. */
  readonly places: string[] = []

  constructor(stage: Stage, evidence: Evidence) {
    this.#stage = stage
    this.#evidence = evidence
    const has = [...evidence.witnesses.keys()].filter((key) => key.startsWith(start)).map((key) => key.split(' '))
    this.#most = stage.expanded.items.map(({ name }) =>
      Math.max(0, ...has.filter(([, item]) => item === name).map(([, , count]) => Number(count))),
    )
  }

  /** Why a condition never holds; null where each part of it may. */
  check(check: Check, path: string): Obstruction | null {
    switch (check.kind) {
      case 'all':
        return shortest(check.checks.map((part) => this.check(part, path)))
      case 'any': {
        const all = check.checks.map((part) => this.check(part, path))
        return all.includes(null) ? null : shortest(all)
      }
      case 'carries':
        return this.#item(check.item, check.count, check.path || path)
      case 'state': {
        const all = check.states.map((state) => this.#state(check.interactable, state))
        return all.includes(null) ? null : shortest(all)
      }
      case 'flag':
        return check.is ? this.#flag(check.flag, path) : null
      case 'counter':
        return this.#counter(check, path)
      default:
        return null
    }
  }

  #isLive({ index }: CompiledTransition): boolean {
    return this.#evidence.dead[index]!.answer !== 'found'
  }

  /** Explains something once; what it comes round to itself by ends the chain. */
  #within(key: string, link: string, path: string, explain: () => Obstruction | null): Obstruction | null {
    if (this.#open.includes(key) || ++this.#asked > mostAsked) {
      return { chain: [link], root: { kind: 'circle', path, name: link, count: 0, from: [] } }
    }
    this.#open.push(key)
    const found = explain()
    this.#open.pop()
    return found && { ...found, chain: [link, ...found.chain] }
  }

  #item(item: number, count: number, path: string): Obstruction | null {
    const { expanded, tables } = this.#stage
    const { name, title } = expanded.items[item]!
    if (this.#most[item]! >= count) return null
    this.places.push(path, ...this.#takers(item))
    const link = count > 1 ? `${String(count)} × ${title}` : title
    const givers = tables.rows.filter(({ transition }) =>
      transition.changes.some(
        (change) =>
          (change.kind === 'give' && change.item === item) ||
          (change.kind === 'take-out' && expanded.contents[change.content]!.item === item),
      ),
    )
    this.places.push(...givers.map(({ transition }) => transition.path))
    return this.#within(`item ${name}`, link, path, () => {
      const dead = givers.filter((row) => !this.#isLive(row))
      const better = shortest(dead.map((row) => this.#row(row)))
      if (better) return better
      const live = givers.filter((row) => this.#isLive(row))
      const from = [...new Set(live.map(({ machine }) => expanded.interactables[machine]!.name))]
      const kind = from.length === 0 ? 'none' : 'too-few'
      return { chain: [], root: { kind, path, name: title, count: this.#most[item]!, from } }
    })
  }

  /** Where an item is used up, or taken away. */
  #takers(item: number): string[] {
    const takes = ({ transition }: CompiledTransition): boolean =>
      transition.changes.some(
        (change) => (change.kind === 'consume' || change.kind === 'remove') && change.item === item,
      )
    return this.#stage.tables.rows.filter(takes).map(({ transition }) => transition.spends ?? transition.path)
  }

  #flag(flag: number, path: string): Obstruction | null {
    const { expanded, tables } = this.#stage
    const { name, initial } = expanded.flags[flag]!
    const setters = tables.rows.filter(({ transition }) =>
      transition.changes.some((change) => change.kind === 'set' && change.flag === flag && change.to),
    )
    if (initial || setters.some((row) => this.#isLive(row))) return null
    this.places.push(path, ...setters.map(({ transition }) => transition.path))
    return this.#within(`flag ${name}`, name, path, () => {
      const root: Root = { kind: 'never-set', path, name, count: 0, from: [] }
      return shortest(setters.map((row) => this.#row(row))) ?? { chain: [], root }
    })
  }

  /** Why a counter never comes to between two numbers. */
  #counter({ counter, least, most }: Extract<Check, { kind: 'counter' }>, path: string): Obstruction | null {
    const { expanded, tables } = this.#stage
    const { name, most: limit } = expanded.counters[counter]!
    if (limit > mostCounted) return null
    const comes = [...this.#evidence.witnesses.keys()]
      .filter((key) => key.startsWith(`${counted}${name} `))
      .map((key) => Number(key.slice(counted.length + name.length + 1)))
    if (comes.some((number) => number >= least && number <= most)) return null
    const changing = tables.rows.filter(({ transition }) =>
      transition.changes.some((change) => change.kind === 'count' && change.counter === counter),
    )
    this.places.push(path, ...changing.map(({ transition }) => transition.path))
    const wanted = least === most ? String(least) : least > 0 ? `${String(least)} or more` : `${String(most)} or less`
    return this.#within(`counter ${name} ${wanted}`, `${name} ${wanted}`, path, () => {
      const dead = changing.filter((row) => !this.#isLive(row))
      const count = Math.max(...comes)
      const root: Root = { kind: 'never-counts', path, name: `${name} to ${wanted}`, count, from: [] }
      return shortest(dead.map((row) => this.#row(row))) ?? { chain: [], root }
    })
  }

  #state(machine: number, state: number): Obstruction | null {
    const { expanded, tables } = this.#stage
    const placed = expanded.interactables[machine]!
    const rows = leadingTo(tables, machine, state).map((row) => tables.rows[row]!)
    if (state === placed.initial || rows.some((row) => this.#isLive(row))) return null
    const { name, path } = placed.states[state]!
    this.places.push(placed.path, path)
    return this.#within(`state ${String(machine)} ${String(state)}`, `${placed.name} ${name}`, path, () => {
      const root: Root = { kind: 'no-way', path, name: `${placed.name} ${name}`, count: 0, from: [] }
      return shortest(rows.map((row) => this.#row(row))) ?? { chain: [], root }
    })
  }

  /** Why a transition is never taken. */
  #row(row: CompiledTransition): Obstruction | null {
    if (this.#isLive(row)) return null
    const { expanded, tables } = this.#stage
    const { machine, transition } = row
    const { when, guard, path, from } = transition
    const placed = expanded.interactables[machine]!
    this.places.push(path)
    const before = from.map((state) => this.#state(machine, state))
    if (!before.includes(null)) return shortest(before)
    const asked = this.check(guard, path)
    if (asked) return asked
    if (when.kind === 'signal') {
      const name = expanded.signals[when.signal]!
      const senders = tables.rows.filter(({ transition: { changes } }) =>
        changes.some((change) => change.kind === 'send' && change.signal === when.signal),
      )
      if (senders.length === 0) return { chain: [], root: { kind: 'never-sent', path, name, count: 0, from: [] } }
      if (!senders.some((sender) => this.#isLive(sender))) {
        const found = shortest(senders.map((sender) => this.#from(sender)))
        if (found) return found
      }
    }
    if (when.kind === 'becomes') {
      const found = this.check(when.check, path)
      if (found) return found
    }
    if (when.kind === 'press' || when.kind === 'hold' || when.kind === 'enter') {
      const found = this.#reach(machine)
      if (found) return found
    }
    // What it asks for can be had, though never here: it may be used up before.
    for (const item of carriedIn(guard)) this.places.push(...this.#takers(item))
    const title = `${placed.name}/${rowTitle(this.#stage, row)}`
    return { chain: [], root: { kind: 'never-taken', path, name: title, count: 0, from: [] } }
  }

  /** Why what sends something is never taken, by the name of what sends it. */
  #from(sender: CompiledTransition): Obstruction | null {
    const { interactables } = this.#stage.expanded
    const { name, states } = interactables[sender.machine]!
    const link = sender.to >= 0 ? `${name} ${states[sender.to]!.name}` : name
    return this.#within(`row ${String(sender.index)}`, link, sender.transition.path, () => this.#row(sender))
  }

  /** What keeps everybody from an interactable: the first thing that shuts the way which the fewest of them shut. */
  #reach(machine: number): Obstruction | null {
    const { expanded, space } = this.#stage
    const { name, path } = expanded.interactables[machine]!
    if (this.#evidence.witnesses.has(focusedKey(name))) return null
    this.places.push(path)
    const zones = expanded.zones.flatMap((zone, index) => (zone.interactable === machine ? [index] : []))
    const ways = space.patches.flatMap((_, who) => {
      const way = this.#barriers(who, machine, zones)
      return way ? [way] : []
    })
    const [way] = ways.sort((a, b) => a.length - b.length)
    if (!way) return { chain: [], root: { kind: 'no-reach', path, name, count: 0, from: [] } }
    const [first, ...others] = way
    if (first === machine && others.length === 0)
      return { chain: [], root: { kind: 'beyond-itself', path, name, count: 0, from: [] } }
    return first === undefined ? null : this.#giveWay(first)
  }

  /** Why something that shuts a way never gives way. */
  #giveWay(machine: number): Obstruction | null {
    const { expanded, tables } = this.#stage
    const { name, path, states } = expanded.interactables[machine]!
    const open = states.flatMap((_, state) => (tables.states[machine]![state]!.blocksWalk ? [] : [state]))
    if (open.length === 0) {
      return { chain: [name], root: { kind: 'shut', path, name, count: 0, from: [] } }
    }
    return shortest(open.map((state) => this.#state(machine, state)))
  }

  /**
   * The things that shut the way of a character from its start to where an interactable can be pressed, or to one of its zones, in order, by
   * the way that the fewest of them shut (0-1 breadth-first search over patches). Null where there is no ground on which that is so.
   */
  #barriers(who: number, machine: number, zones: readonly number[]): readonly number[] | null {
    const { space } = this.#stage
    const { patches, beside, patchAt } = space.patches[who]!
    const first = patchAt(space.layout.starts[who]!)
    if (first < 0) return null
    const cost = new Map([[first, 0]])
    const before = new Map<number, number>()
    const queue = [first]
    const shutOn = (patch: number): number[] => patches[patch]!.signature.bodies.filter((body) => !this.#givesWay(body))
    for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
      const { signature } = patches[at]!
      if (
        signature.candidates.some(({ interactable }) => interactable === machine) ||
        zones.some((zone) => signature.zones.includes(zone))
      ) {
        const way: number[] = []
        for (let one: number | undefined = at; one !== undefined; one = before.get(one)) way.unshift(...shutOn(one))
        return [...new Set(way)]
      }
      for (const next of beside[at]!) {
        const fresh = shutOn(next).filter((body) => !signature.bodies.includes(body)).length
        const price = cost.get(at)! + fresh
        if ((cost.get(next) ?? Infinity) <= price) continue
        cost.set(next, price)
        before.set(next, at)
        if (fresh === 0) queue.unshift(next)
        else queue.push(next)
      }
    }
    return null
  }

  /** Whether something is ever in a state in which one can walk through it. */
  #givesWay(machine: number): boolean {
    const { expanded, tables } = this.#stage
    const { initial, states } = expanded.interactables[machine]!
    return states.some((_, state) => {
      if (tables.states[machine]![state]!.blocksWalk) return false
      return state === initial || leadingTo(tables, machine, state).some((row) => this.#isLive(tables.rows[row]!))
    })
  }
}

/** The chain with the fewest links that does not come round to itself, if there is one; the first of those. */
function shortest(all: readonly (Obstruction | null)[]): Obstruction | null {
  const rank = ({ chain, root }: Obstruction): number => chain.length + (root.kind === 'circle' ? 1000 : 0)
  return all.reduce((best, one) => (one && (!best || rank(one) < rank(best)) ? one : best), null)
}

/** The items that a condition asks to be carried. */
export function carriedIn(check: Check): number[] {
  if (check.kind === 'carries') return [check.item]
  return check.kind === 'all' || check.kind === 'any' ? check.checks.flatMap(carriedIn) : []
}
