import { backwards, copy, type Graph, keyOf, type Known, type Oracle, type Situation } from './plain.ts'

/** So many situations are tried out before the oracle says that it does not know. */
const mostTried = 300

/**
 * For each state that something leads out of and that is not lasting, by `machine/state`: whether a machine can come to be in it so that nothing
 * makes it leave, wherever characters stand and whatever they carry. Tries just that: everybody everywhere, with all that can
 * be carried, and every move from there.
 */
export function stuckStates(oracle: Oracle, all: Graph, sure: Graph): Record<string, Known> {
  const verdicts: Record<string, Known> = {}
  for (const { name, type, rows } of oracle.machines) {
    for (const [state, { lasting = false }] of Object.entries(type.states ?? {})) {
      const isLeft = rows.some(({ from, to }) => from.includes(state) && to !== null && to !== state)
      if (isLeft && !lasting) verdicts[`${name}/${state}`] = stuckIn(oracle, all, sure, name, state)
    }
  }
  return verdicts
}

function stuckIn(oracle: Oracle, all: Graph, sure: Graph, name: string, state: string): Known {
  const isOut = ({ situation }: { readonly situation: Situation }): boolean => situation.state[name] !== state
  const leaving = backwards(all, new Set(all.nodes.flatMap((node, i) => (isOut(node) ? [i] : []))))
  const staying = all.nodes.flatMap(({ situation }, i) => (leaving.has(i) ? [] : [{ situation, key: all.keys[i]! }]))
  const ends = new Map<string, boolean>()
  const isStuck = new Set<string>()
  for (const { situation, key } of staying) {
    const canLeave = leaves(oracle, situation, name, ends)
    if (canLeave === null) return null
    if (!canLeave) isStuck.add(key)
  }
  if (isStuck.size === 0) return 'ruled-out'
  return sure.keys.some((key) => isStuck.has(key)) ? 'found' : null
}

/** Whether a machine can leave its state from a situation, whatever characters do; null: too much to try out. */
function leaves(oracle: Oracle, from: Situation, name: string, ends: Map<string, boolean>): boolean | null {
  const start = freeKey(from)
  const seen = new Map([[start, from]])
  let tried = 0
  for (const [key, situation] of seen) {
    const known = ends.get(key)
    if (known === true) {
      ends.set(start, true)
      return true
    }
    if (known === false) continue
    for (const placed of anywhere(oracle, situation)) {
      if (++tried > mostTried) return null
      for (const next of oracle.moves(placed, false)) {
        const after = freeKey(next.situation)
        if (next.situation.state[name] !== from.state[name] || ends.get(after) === true) {
          ends.set(key, true)
          ends.set(start, true)
          return true
        }
        if (!seen.has(after)) seen.set(after, next.situation)
      }
    }
  }
  for (const key of seen.keys()) ends.set(key, false)
  return false
}

/** A situation with everybody anywhere they could stand, and with anything they could carry. */
function anywhere(oracle: Oracle, situation: Situation): Situation[] {
  let all = [copy(situation)]
  for (const who of oracle.people.keys()) {
    all = all.flatMap((one) =>
      different(oracle).flatMap((at) => {
        const region = oracle.ground.regions[at]!
        if (region.bodies.some((body) => oracle.stateOf(one, body).blocks?.includes('walk'))) return []
        const moved = copy(one)
        moved.at[who] = at
        for (const zone of oracle.zones()) delete moved.inside[`${String(who)} ${zone}`]
        for (const zone of region.zones) moved.inside[`${String(who)} ${zone}`] = true
        return [moved]
      }),
    )
  }
  for (const pocket of Object.keys(situation.items)) {
    const most = pocket.endsWith('coin') ? 3 : 1
    all = all.flatMap((one) =>
      Array.from({ length: most + 1 }, (_, count) => ({ ...copy(one), items: { ...one.items, [pocket]: count } })),
    )
  }
  const limit = (who: number): number => oracle.people[who]!['carries-most'] ?? Infinity
  const carried = ({ items }: Situation, who: number): number =>
    Object.entries(items).reduce((sum, [key, count]) => (key.startsWith(`${String(who)} `) ? sum + count : sum), 0)
  all = all.filter((one) => oracle.people.every((_, who) => carried(one, who) <= limit(who)))
  // Where somebody stands, and what they carry, may make a condition come to hold.
  return all.filter((one) => {
    oracle.sent = 0
    return oracle.drain(one, [], [])
  })
}

/** One of all regions that are alike, and have neighbours that are alike. */
function different({ ground }: Oracle): number[] {
  const looks = ground.regions.map(({ zones, bodies, candidates }) => JSON.stringify([zones, bodies, candidates]))
  const known = new Map<string, number>()
  for (const [at, { next }] of ground.regions.entries()) {
    const look = [looks[at]!, ...[...new Set([...next].map((one) => looks[one]!))].sort()].join()
    if (!known.has(look)) known.set(look, at)
  }
  return [...known.values()]
}

/** What characters cannot change by going anywhere and carrying anything. */
function freeKey(situation: Situation): string {
  return keyOf({ ...situation, at: [], items: {}, inside: {} })
}
