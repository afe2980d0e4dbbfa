import FlatQueue from 'flatqueue'
import type { Tables } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import type { Hop } from '../../space/index.ts'
import type { Passing, SureAct } from '../sure.ts'

/** The longest that walks last with which one passes a body before it shuts again, in ms. */
const longest = 15_000

/**
 * Sure moves that set something off and go on, while it runs, past a body that shuts by itself: without them nobody would
 * come through a door that has shut again by the time that all is at rest. One for each spot just past each such body.
 */
export class Passings {
  readonly #stage: Stage
  /** By machine, the bodies that shut by themselves and that it may open. */
  readonly #opens: readonly ReadonlySet<number>[]

  constructor(stage: Stage) {
    this.#stage = stage
    this.#opens = opensOf(stage.tables)
  }

  /** Those of the first character that begin on a patch. */
  *from(patch: number): Generator<Passing> {
    const { space, tables } = this.#stage
    const { signature } = space.patches[0]!.patches[patch]!
    const firsts: { readonly first: SureAct; readonly on: number; readonly bodies: ReadonlySet<number> }[] = []
    for (const { interactable: machine } of signature.candidates) {
      const bodies = this.#opens[machine]!
      if (bodies.size > 0) firsts.push({ first: { do: 'act', actor: 0, machine }, on: patch, bodies })
    }
    for (const hop of space.hops(0, patch)) {
      const watching = hop.events.flatMap(({ kind, index }) => (kind === 'zone' ? tables.watchers[index]! : []))
      const bodies = new Set(watching.flatMap((machine) => [...this.#opens[machine]!]))
      if (bodies.size > 0) firsts.push({ first: { do: 'walk', actor: 0, hop }, on: hop.to, bodies })
    }
    for (const { first, on, bodies } of firsts) {
      for (const hops of this.#past(on, bodies)) yield { do: 'pass', first, hops }
    }
  }

  /** The quickest walks from a patch to just past one of some bodies. */
  *#past(from: number, bodies: ReadonlySet<number>): Generator<readonly Hop[]> {
    const { space } = this.#stage
    const { patches } = space.patches[0]!
    const ways = new Map<number, Way>()
    const queue = new FlatQueue()
    ways.set(from, { ms: 0, before: -1, hop: null, within: -1, isDone: false })
    queue.push(from, 0)
    for (let patch = queue.pop(); patch !== undefined; patch = queue.pop()) {
      const way = ways.get(patch)!
      if (way.isDone) continue
      way.isDone = true
      if (way.within >= 0 && !patches[patch]!.signature.bodies.includes(way.within)) {
        yield traced(ways, patch)
        continue
      }
      for (const hop of space.hops(0, patch)) {
        const ms = way.ms + hop.ms
        if (ms > longest || ms >= (ways.get(hop.to)?.ms ?? Infinity)) continue
        const into = hop.events.find(({ kind, index, inside }) => kind === 'body' && inside && bodies.has(index))
        ways.set(hop.to, { ms, before: patch, hop, within: into?.index ?? way.within, isDone: false })
        queue.push(hop.to, ms)
      }
    }
  }
}

interface Way {
  readonly ms: number
  readonly before: number
  readonly hop: Hop | null
  /** The body that was walked into on it; -1: none yet. */
  readonly within: number
  isDone: boolean
}

function traced(ways: ReadonlyMap<number, Way>, to: number): Hop[] {
  const hops: Hop[] = []
  for (let way = ways.get(to)!; way.hop; way = ways.get(way.before)!) hops.push(way.hop)
  return hops.reverse()
}

/** By machine, the bodies with a state that lets people pass and ends by itself, among all that hears of what it does. */
function opensOf({ states, rowsOf, listeners }: Tables): ReadonlySet<number>[] {
  const shuts = states.map((own) => own.some(({ blocksWalk }) => blocksWalk) && own.some(isPassing))
  return states.map((_, machine) => {
    const heard = new Set([machine])
    for (const one of heard) {
      for (const { transition } of rowsOf[one]!) {
        for (const change of transition.changes) {
          if (change.kind === 'send') for (const listener of listeners[change.signal]!) heard.add(listener)
        }
      }
    }
    return new Set([...heard].filter((one) => shuts[one]))
  })
}

function isPassing({ blocksWalk, timers }: Tables['states'][number][number]): boolean {
  return !blocksWalk && timers.length > 0
}
