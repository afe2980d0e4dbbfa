import { addAsked, type Tables } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import type { Space } from '../../space/index.ts'
import { type Places, placesOf } from './places.ts'

/** The rank of each register: those with lower ranks are asked first. */
export type RegisterOrder = (register: number) => number

/** How often registers are moved towards those that they stand with. */
const rounds = 40

/** How often all units are sifted, and how far each is moved at the most. */
const passes = 4
const farthest = 40

/** The order of registers that keeps the sets of a level small. Pauses now and then. */
export function registerOrder({ tables, space }: Stage): Generator<undefined, RegisterOrder> {
  return orderOf(tables, firstMet(space, placesOf(space.patches[0]!)))
}

/**
 * Ranks registers so that those with a say in one another stand close together, which keeps diagrams small. Each is moved to
 * the middle of the groups that it is in, again and again (the FORCE heuristic: Aloul, Markov and Sakallah 2003), once from
 * the order of the file and once from that in which one comes to interactables (`first`). Of the orders on the way the one
 * that keeps groups closest is then sifted, interactable by interactable (compare Rudell 1993). Pauses now and then.
 */
function* orderOf(tables: Tables, first: (machine: number) => number): Generator<undefined, RegisterOrder> {
  const groups = groupsOf(tables).filter((group) => group.length > 1)
  let best = new Float64Array(tables.at.size)
  let least = Infinity
  for (const begin of [first, (machine: number) => machine]) {
    let rank = initialRanks(tables, begin)
    for (let round = 0; round < rounds; round++) {
      yield
      rank = drawnTogether(rank, groups)
      const span = spanOf(rank, groups)
      if (span >= least) continue
      least = span
      best = rank
    }
  }
  const sifted = yield* siftedRanks(unitsOf(tables, groups, best), groups, tables.at.size)
  const levels = levelsOf(tables, groups)
  return (register) => levels[register]! * tables.at.size + sifted[register]!
}

/**
 * Of levels that are joined, the level that each register belongs to, or in which it has a say first: what belongs to one level stands together,
 * since what goes on there goes on without the others. 0 for all of one level.
 */
function levelsOf({ at, expanded, levelOf }: Tables, groups: readonly (readonly number[])[]): Int32Array {
  const levels = new Int32Array(at.size)
  if (!expanded.joined) return levels
  const isMachine = (register: number): boolean => register < at.machines
  levels.fill(expanded.joined.parts.length)
  for (const group of groups) {
    const level = Math.min(...group.filter(isMachine).map((machine) => levelOf[machine]!))
    for (const register of group) levels[register] = Math.min(levels[register]!, level)
  }
  levels[at.here] = -1
  return levels
}

/** Ranks interactables by when one first comes to where they can be pressed, going from place to place depth first. */
function firstMet({ patches, layout }: Space, places: Places): (machine: number) => number {
  const [ground] = patches
  const met = new Map<number, number>()
  const seen = new Set<number>()
  const start = places.of[ground!.patchAt(layout.starts[0]!)] ?? 0
  const visit = (place: number): void => {
    if (seen.has(place)) return
    seen.add(place)
    for (const patch of places.patches[place]!) {
      const { candidates, bodies } = ground!.patches[patch]!.signature
      for (const machine of [...bodies, ...candidates.map(({ interactable }) => interactable)]) {
        if (!met.has(machine)) met.set(machine, met.size)
      }
    }
    for (const patch of places.patches[place]!) for (const next of ground!.beside[patch]!) visit(places.of[next]!)
  }
  visit(start)
  return (machine) => met.get(machine) ?? met.size
}

/** Ranks to begin with: machine by machine, in some order of machines, each with all that is its own; the rest at the end. */
function initialRanks(tables: Tables, first: (machine: number) => number): Float64Array<ArrayBuffer> {
  const { at, expanded } = tables
  const machines = [...expanded.interactables.keys()].sort((a, b) => first(a) - first(b) || a - b)
  const rank = new Float64Array(at.size).fill(machines.length)
  for (const [place, machine] of machines.entries()) {
    for (const register of ownOf(tables, machine)) rank[register] = place
  }
  return rank
}

/** Moves each register to the middle of the groups that it is in. */
function drawnTogether(rank: Float64Array, groups: readonly (readonly number[])[]): Float64Array<ArrayBuffer> {
  const sum = new Float64Array(rank.length)
  const count = new Float64Array(rank.length)
  for (const group of groups) {
    const middle = group.reduce((all, register) => all + rank[register]!, 0) / group.length
    for (const register of group) {
      sum[register]! += middle
      count[register]!++
    }
  }
  const wanted = rank.map((own, register) => (count[register]! > 0 ? sum[register]! / count[register]! : own))
  const order = [...wanted.keys()].sort((a, b) => wanted[a]! - wanted[b]! || a - b)
  const drawn = new Float64Array(rank.length)
  for (const [place, register] of order.entries()) drawn[register] = place
  return drawn
}

/** How far apart the registers of groups stand, in all. */
function spanOf(rank: Float64Array, groups: readonly (readonly number[])[]): number {
  let all = 0
  for (const group of groups) {
    let [low, high] = [Infinity, -Infinity]
    for (const register of group) {
      const place = rank[register]!
      if (place < low) low = place
      if (place > high) high = place
    }
    all += high - low
  }
  return all
}

/** What is sifted as one: the registers of a machine, or one that belongs to none; in the order of their ranks. */
function unitsOf(tables: Tables, groups: readonly (readonly number[])[], rank: Float64Array): number[][] {
  const rest = new Set(groups.flat())
  const units: number[][] = []
  for (const machine of tables.expanded.interactables.keys()) {
    const own = ownOf(tables, machine).filter((register) => rest.delete(register))
    if (own.length > 0) units.push(own.sort((a, b) => rank[a]! - rank[b]!))
  }
  for (const register of rest) units.push([register])
  const middle = (unit: readonly number[]): number =>
    unit.reduce((all, register) => all + rank[register]!, 0) / unit.length
  return units.sort((a, b) => middle(a) - middle(b))
}

/** Moves one unit after the other to where it keeps groups closest together. */
function* siftedRanks(
  units: readonly (readonly number[])[],
  groups: readonly (readonly number[])[],
  registers: number,
): Generator<undefined, Float64Array> {
  // Registers in no group never change, or stand by themselves.
  const rank = new Float64Array(registers).fill(registers)
  const rerank = (all: readonly (readonly number[])[]): void => {
    let place = 0
    for (const unit of all) for (const register of unit) rank[register] = place++
  }
  let order = [...units]
  rerank(order)
  let least = spanOf(rank, groups)
  for (let pass = 0; pass < passes; pass++) {
    const before = least
    for (const unit of [...order]) {
      yield
      const now = order.indexOf(unit)
      const rest = order.filter((one) => one !== unit)
      let at = now
      for (let to = Math.max(0, now - farthest); to <= Math.min(rest.length, now + farthest); to++) {
        rerank([...rest.slice(0, to), unit, ...rest.slice(to)])
        const span = spanOf(rank, groups)
        if (span >= least) continue
        least = span
        at = to
      }
      order = [...rest.slice(0, at), unit, ...rest.slice(at)]
    }
    if (least === before) break
  }
  rerank(order)
  return rank
}

/** The registers of a machine. */
function ownOf({ at, expanded, clocksOf, knowsLast }: Tables, machine: number): number[] {
  const registers = [at.state(machine), at.pose(machine), at.waiting(machine)]
  if (knowsLast[machine]) registers.push(at.last(machine))
  if (at.characters > 1) registers.push(at.barred(machine))
  for (const clock of clocksOf[machine]!) registers.push(at.clock(clock))
  for (const [content, { interactable }] of expanded.contents.entries()) {
    if (interactable === machine) registers.push(at.content(content))
  }
  return registers
}

/** Registers that stand together: those of a machine, and those that a row asks about or changes. */
function groupsOf(tables: Tables): number[][] {
  const { at, expanded, rows, listeners } = tables
  const own = expanded.interactables.map((_, machine) => ownOf(tables, machine))
  const asked = rows.map(({ machine, transition: { guard, when, changes } }) => {
    const registers = new Set([at.state(machine)])
    addAsked(guard, at, expanded, registers)
    if (when.kind === 'becomes') addAsked(when.check, at, expanded, registers)
    if (when.kind === 'press' && when.offered) addAsked(when.offered, at, expanded, registers)
    for (const change of changes) {
      if (change.kind === 'give' || change.kind === 'remove' || change.kind === 'consume') {
        for (let character = 0; character < at.characters; character++) registers.add(at.item(character, change.item))
      } else if (change.kind === 'set') registers.add(at.flag(change.flag))
      else if (change.kind === 'count') registers.add(at.counter(change.counter))
    }
    return [...registers]
  })
  const sent = rows.flatMap(({ machine, transition: { changes } }) =>
    changes.flatMap((change) => {
      if (change.kind !== 'send') return []
      return listeners[change.signal]!.map((listener) => [at.state(machine), at.state(listener)])
    }),
  )
  // What belongs to one machine stands together before anything else.
  return [...own, ...own, ...own, ...asked, ...sent]
}
