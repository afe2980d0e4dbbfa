import { addAsked, type Tables } from '../../machine/index.ts'

/** How often registers are moved towards those that they stand with. */
const rounds = 40

/**
 * Ranks registers so that those with a say in one another stand close together, which keeps diagrams small: each is moved to
 * the middle of the groups that it is in, again and again (the FORCE heuristic: Aloul, Markov and Sakallah 2003).
 */
export function orderOf(tables: Tables): (register: number) => number {
  const groups = groupsOf(tables).filter((group) => group.length > 1)
  const { size } = tables.at
  let rank = Float64Array.from({ length: size }, (_, register) => register)
  for (let round = 0; round < rounds; round++) {
    const sum = new Float64Array(size)
    const count = new Float64Array(size)
    for (const group of groups) {
      const middle = group.reduce((all, register) => all + rank[register]!, 0) / group.length
      for (const register of group) {
        sum[register]! += middle
        count[register]!++
      }
    }
    const wanted = rank.map((own, register) => (count[register]! > 0 ? sum[register]! / count[register]! : own))
    const order = [...wanted.keys()].sort((a, b) => wanted[a]! - wanted[b]! || a - b)
    rank = new Float64Array(size)
    for (const [place, register] of order.entries()) rank[register] = place
  }
  return (register) => rank[register]!
}

/** Registers that stand together: those of a machine, and those that a row asks about or changes. */
function groupsOf(tables: Tables): number[][] {
  const { at, expanded, clocksOf, rows, listeners, knowsLast } = tables
  const own = expanded.interactables.map((_, machine) => {
    const registers = [at.state(machine), at.pose(machine), at.waiting(machine)]
    if (knowsLast[machine]) registers.push(at.last(machine))
    for (const clock of clocksOf[machine]!) registers.push(at.clock(clock))
    for (const [content, { interactable }] of expanded.contents.entries()) {
      if (interactable === machine) registers.push(at.content(content))
    }
    return registers
  })
  const asked = rows.map(({ machine, transition: { guard, when, changes } }) => {
    const registers = new Set([at.state(machine)])
    addAsked(guard, at, expanded, registers)
    if (when.kind === 'becomes') addAsked(when.check, at, expanded, registers)
    if (when.kind === 'press' && when.offered) addAsked(when.offered, at, expanded, registers)
    for (const change of changes) {
      if (change.kind === 'give' || change.kind === 'take' || change.kind === 'spend') {
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
