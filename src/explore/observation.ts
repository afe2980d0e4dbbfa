import { type CompiledTransition, isOffered, isThere, type StepWatcher, type Tables } from '../machine/index.ts'
import type { Play } from '../play/index.ts'
import { type Predecessors, canComeTo, type Undone } from './graph.ts'
import { eachPress } from './inputs.ts'
import { loosen, moveKind, type Successors, type MoveWatcher } from './successors.ts'
import type { Packing } from './packing.ts'
import type { Search } from './search.ts'
import type { PlayStep } from './steps.ts'
import { type Bits, Store } from './store.ts'

/** A press that is possible in a situation, whatever it leads to. */
export interface PossiblePress {
  readonly regs: Int32Array
  readonly actor: number
  readonly machine: number
  /** How it is pressed: an index into `Expanded.pressKinds`. */
  readonly pressKind: number
  /** The transitions for this press that the character that presses may set off, in table order; empty: the press is ignored. */
  readonly rows: readonly CompiledTransition[]
}

/** Told of something that is so, by a name for it: names of the level, so that it is the same in a fixed level. */
export type See = (key: string) => void

/** Something to look out for while exploring: in situations, in presses that are possible, in what moves do. */
export interface Observation {
  /** Looks at a situation, each by itself. Of sets, a look is had for each way in which what it reads can stand: so each reads little. */
  readonly onSituation?: readonly ((regs: Int32Array, see: See) => void)[]
  readonly onPress?: (press: PossiblePress, see: See) => void
  /** Whether presses are seen before they are made: it is enough to stand there. */
  readonly isBeforePress?: boolean
  /** Moves are looked at only where this holds, since that is slow. */
  readonly watches?: (regs: Int32Array) => boolean
  /** Told what a move does that is tried; only where `watches` holds. */
  readonly watcher?: (see: See) => Partial<StepWatcher>
  /** Whether a play has just come to it, by its last step. */
  readonly isShown: (key: string, play: Play) => boolean
  /**
   * The key of what must be out of reach over all moves that are possible: only where it is, does something count as seen.
   * Null: it counts everywhere.
   */
  readonly forGood?: (key: string) => string | null
  /** Of something that is barred: the situations from which it can still happen, so that the step that loses it can be told. */
  readonly canHappen?: (key: string) => Generator<undefined, Bits>
  /** Whether the fewest steps are wanted; else it will do that some play comes to it. */
  readonly isFault: (key: string) => boolean
  /** Whether plays that were played for other ends have shown it already; see `Evidence.moments`. */
  readonly isKnown?: (key: string, moments: ReadonlySet<string>) => boolean
  /** More steps, that show more of it; null where they show that it is not so. The play may be moved on. */
  readonly goOn?: (key: string, play: Play) => readonly PlayStep[] | null
}

/** Where something is so, or what is done there that leads to it. */
export interface Place {
  readonly index: number
  /** One of `moveKind`; -1: nothing is done, it is so there. */
  readonly kind: number
  /** See `MoveVisitor`. */
  readonly what: number
  /** The situation that it leads to; -1: none, or the same. */
  readonly to: number
}

/** What was seen of one key, and where. */
export interface Seen {
  readonly observation: Observation
  readonly isFault: boolean
  readonly places: Place[]
}

/** Where play ends in signals without end: keys of that kind begin so, and go on with `interactable/place in its table`. */
export const stormKey = 'storm '

/** Signals without end are always looked out for. */
const storms: Observation = {
  isShown: (_key, play) => play.ended === 'signal-storm',
  isFault: () => true,
}

/** Of what is no fault so many places are kept. */
const mostKept = 400

/** For each thing that was seen, by its key, the situations and moves where it is so, in the order in which they were found; of faults so many. */
export function* lookOut(
  search: Search,
  backward: Predecessors,
  observations: readonly Observation[],
  mostPlaces = Infinity,
  undone: Undone = new Map(),
): Generator<undefined, Map<string, Seen>> {
  const seen = new Map<string, Seen>()
  const mostOf = ({ observation, isFault }: Seen): number =>
    observation.forGood ? Infinity : isFault ? mostPlaces : mostKept
  const see = (observation: Observation, key: string, place: Place): void => {
    const known = seen.get(key)
    if (!known) seen.set(key, { observation, isFault: observation.isFault(key), places: [place] })
    else if (known.places.length < mostOf(known)) known.places.push(place)
  }
  for (const { row, ...place } of search.storms) see(storms, stormKey + placeInTable(search, row), { ...place, to: -1 })
  if (observations.length === 0) return seen
  let index = 0
  const eye = new Eye(search, observations, (observation, key, { kind, what, regs, patch }) => {
    const target = regs ? search.find(regs, patch) : -1
    // Where the budget ended before its moves were tried, no edge leads on.
    const isLoose = target === index || index >= search.expanded
    see(observation, key, { index, kind, what, to: isLoose ? -1 : target })
  })
  const regs = new Int32Array(search.stage.tables.at.size)
  for (; index < search.store.count; index++) {
    if (index % 128 === 127) yield
    eye.look(regs, search.read(index, regs))
  }
  return yield* lastingOnes(search, backward, undone, seen)
}

/** What was seen, without the places from which what must be out of reach is not. */
function* lastingOnes(
  search: Search,
  backward: Predecessors,
  undone: Undone,
  seen: ReadonlyMap<string, Seen>,
): Generator<undefined, Map<string, Seen>> {
  const lasting = new Map<string, Seen>()
  for (const [key, found] of seen) {
    const barring = found.observation.forGood?.(key) ?? null
    if (barring === null) {
      lasting.set(key, found)
      continue
    }
    const within = yield* canComeTo(search, backward, undone, seen.get(barring)?.places ?? [])
    const places = found.places.filter(({ index }) => !within.has(index))
    if (places.length > 0) lasting.set(key, { ...found, places })
  }
  return lasting
}

function placeInTable({ stage: { tables, expanded } }: Search, index: number): string {
  const row = tables.rows[index]
  return row ? `${expanded.interactables[row.machine]!.name}/${String(row.place)}` : ''
}

/** Something that is seen: `what` is done there, of some kind (-1: nothing is), and leads to these registers. */
export type Seeing = (
  observation: Observation,
  key: string,
  done: {
    readonly kind: number
    readonly what: number
    readonly regs: Int32Array | null
    /** The patch of the first character after it. */
    readonly patch: number
  },
) => void

/** Looks at situations that moves lead to, each once; what runs there only runs. */
export class FreshEye {
  readonly #eye: Eye
  readonly #tables: Tables
  readonly #packing: Packing
  readonly #looked: Store
  readonly #packed: Int32Array
  readonly #loose: Int32Array

  /** `packing` tells situations apart. */
  constructor(search: Search, packing: Packing, observations: readonly Observation[], see: Seeing) {
    const { tables } = search.stage
    this.#eye = new Eye(search, observations, see)
    this.#tables = tables
    this.#packing = packing
    this.#looked = new Store(packing.words, packing.patchMask)
    this.#packed = new Int32Array(packing.words)
    this.#loose = new Int32Array(tables.at.size)
  }

  look(regs: Int32Array, patch: number): void {
    this.#packing.pack(regs, patch, this.#packed, 0)
    const { count } = this.#looked
    if (this.#looked.add(this.#packed) < count) return
    this.#loose.set(regs)
    this.#eye.look(loosen(this.#tables, this.#loose), patch)
  }
}

/** Looks at one situation after another. */
export class Eye {
  readonly #search: Search
  readonly #see: Seeing
  readonly #onSituation: readonly Observation[]
  readonly #onPress: readonly Observation[]
  readonly #watching: readonly Observation[]
  readonly #moves: Successors | null
  /** What the move that is being tried has shown so far. */
  #inMove: [Observation, string][] = []

  constructor(search: Search, observations: readonly Observation[], see: Seeing) {
    this.#search = search
    this.#see = see
    this.#onSituation = observations.filter(({ onSituation }) => onSituation)
    this.#onPress = observations.filter(({ onPress }) => onPress)
    this.#watching = observations.filter(({ watches }) => watches)
    this.#moves = this.#watching.length === 0 ? null : search.movesAnew(this.#watcher())
  }

  /** Looks at a situation: its registers, with clocks as the search counts them, and the patch of the first character. */
  look(regs: Int32Array, patch: number): void {
    const { tables } = this.#search.stage
    for (const observation of this.#onSituation) {
      for (const look of observation.onSituation!) {
        look(regs, (key) => {
          this.#see(observation, key, { kind: -1, what: -1, regs: null, patch })
        })
      }
    }
    if (this.#onPress.length > 0) {
      for (let actor = 0; actor < tables.at.characters; actor++) {
        if (isThere(tables, regs, actor)) this.#lookAtPresses(regs, actor, patch)
      }
    }
    if (this.#moves && this.#watching.some(({ watches }) => watches!(regs))) this.#lookAtMoves(regs, patch)
  }

  #lookAtPresses(regs: Int32Array, actor: number, patch: number): void {
    const { tables } = this.#search.stage
    if (regs[tables.at.held(actor)] !== 0) return
    const signature = this.#search.signatureOf(actor, regs, patch)
    eachPress(tables, signature, regs, actor, (machine, pressKind, looking) => {
      const state = tables.states[machine]![regs[machine]!]!
      const rows = state.presses[pressKind]!.filter((row) => isOffered(row, regs, actor))
      for (const observation of this.#onPress) {
        observation.onPress!({ regs, actor, machine, pressKind, rows }, (key) => {
          const what = this.#search.moves.inputs.press(actor, machine, pressKind, looking, false)
          this.#see(observation, key, {
            kind: observation.isBeforePress ? -1 : moveKind.press,
            what,
            regs: null,
            patch,
          })
        })
      }
    })
  }

  #lookAtMoves(regs: Int32Array, patch: number): void {
    this.#moves!.each(regs, patch, (after, on, kind, what) => {
      for (const [observation, key] of this.#inMove) this.#see(observation, key, { kind, what, regs: after, patch: on })
    })
  }

  /** Gives what a step does to all that watch it. */
  #watcher(): MoveWatcher {
    const parts = this.#watching.map((observation) =>
      observation.watcher!((key) => {
        this.#inMove.push([observation, key])
      }),
    )
    const begins = (): void => {
      if (this.#inMove.length > 0) this.#inMove = []
    }
    return {
      begins,
      taken: (...told) => parts.forEach((part) => part.taken?.(...told)),
      waits: (...told) => parts.forEach((part) => part.waits?.(...told)),
      notTaken: (...told) => parts.forEach((part) => part.notTaken?.(...told)),
      item: (...told) => parts.forEach((part) => part.item?.(...told)),
      flag: (...told) => parts.forEach((part) => part.flag?.(...told)),
      counter: (...told) => parts.forEach((part) => part.counter?.(...told)),
      content: (...told) => parts.forEach((part) => part.content?.(...told)),
      moved: (...told) => parts.forEach((part) => part.moved?.(...told)),
      leaves: (...told) => parts.forEach((part) => part.leaves?.(...told)),
      letsGo: (...told) => parts.forEach((part) => part.letsGo?.(...told)),
      pushed: (...told) => parts.forEach((part) => part.pushed?.(...told)),
      crossed: (...told) => parts.forEach((part) => part.crossed?.(...told)),
      sent: (...told) => parts.forEach((part) => part.sent?.(...told)),
      heard: (...told) => parts.forEach((part) => part.heard?.(...told)),
    }
  }
}
