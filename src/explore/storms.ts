import { mostEvents } from '../machine/index.ts'
import { moveKind } from './successors.ts'
import type { Search } from './search.ts'

/**
 * Adds the storms that clocks set off together, in one millisecond, though none of them does by itself. Exploring takes
 * what is due one by one, so the events of all that may be due at once are added up here, in the order of Play: clocks by
 * their numbers, each at most once, since what is started is due a millisecond later at the soonest.
 */
export function* addJointStorms(search: Search): Generator<undefined, void> {
  const { dueEvents } = search.moves
  if (dueEvents.reduce((sum, events) => sum + events, 0) <= mostEvents) return
  const joint = new JointEvents(search)
  for (let index = 0; index < search.expanded; index++) {
    if (index % 256 === 255) yield
    if (search.isAtRest(index)) continue
    const { events, clock, row } = joint.most(index, -1)
    if (events > mostEvents) search.noteStorm({ index, kind: moveKind.wait, what: clock, row })
  }
}

/** The most events that clocks may set off together, and the first of them. */
interface Joint {
  readonly events: number
  readonly clock: number
  readonly row: number
}

class JointEvents {
  readonly #search: Search
  readonly #known = new Map<string, Joint>()

  constructor(search: Search) {
    this.#search = search
  }

  /** From a situation, with clocks above a number. */
  most(index: number, above: number): Joint {
    const key = `${String(index)} ${String(above)}`
    const known = this.#known.get(key)
    if (known) return known
    let best: Joint = { events: 0, clock: -1, row: -1 }
    for (const { clock, to, events, row } of this.#due(index)) {
      if (clock <= above) continue
      const all = events + (to < 0 ? 0 : this.most(to, clock).events)
      if (all > best.events) best = { events: all, clock, row }
    }
    this.#known.set(key, best)
    return best
  }

  /** What may be due in a situation. */
  #due(index: number): { clock: number; to: number; events: number; row: number }[] {
    const { moves } = this.#search
    const regs = new Int32Array(this.#search.stage.tables.at.size)
    const patch = this.#search.read(index, regs)
    const due: { clock: number; to: number; events: number; row: number }[] = []
    moves.each(regs, patch, (after, on, kind, what, taken) => {
      if (kind !== moveKind.wait || what < 0) return
      due.push({ clock: what, to: this.#search.find(after, on), events: moves.events, row: taken[0] ?? -1 })
    })
    return due
  }
}
