import type { Row, StepWatcher } from '../machine/index.ts'
import type { Play } from '../play/index.ts'
import type { Shown, Sight } from './answers.ts'
import { type Coverage, situationOf } from './cover.ts'
import type { Backward, Undone } from './graph.ts'
import { eachPress, isOffered } from './inputs.ts'
import type { Moves } from './moves.ts'
import { type MoveWatcher, moveKind } from './moves.ts'
import { type CalmRoutes, FewestSteps, type Route } from './routes.ts'
import { type Search } from './search.ts'
import { Bits } from './store.ts'
import { dismissal, grouped, inputStep, perform, type PlayStep, replay, shortened } from './steps.ts'

/** A press that is possible in a situation, whatever it leads to. */
export interface PossiblePress {
  readonly regs: Int32Array
  readonly actor: number
  readonly machine: number
  /** How it is pressed: an index into `Expanded.asks`. */
  readonly ask: number
  /** The transitions for this press that whoever presses may set off, in table order; empty: the press is ignored. */
  readonly rows: readonly Row[]
}

/** Told of something that is so, by a name for it: names of the level, so that it is the same in a mended level. */
export type See = (key: string) => void

/** Something to look out for while exploring: in situations, in presses that are possible, in what moves do. */
export interface Lookout {
  readonly onSituation?: (regs: Int32Array, see: See) => void
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
  /** Whether the fewest steps are wanted; else it will do that some play comes to it. */
  readonly isFault: (key: string) => boolean
  /** Whether plays that were played for other ends have shown it already; see `Evidence.moments`. */
  readonly isKnown?: (key: string, moments: ReadonlySet<string>) => boolean
  /** More steps, that show more of it; null where they show that it is not so. The play may be moved on. */
  readonly goOn?: (key: string, play: Play) => readonly PlayStep[] | null
}

/** Where something is so, or what is done there that leads to it. */
interface Place {
  readonly index: number
  /** One of `moveKind`; -1: nothing is done, it is so there. */
  readonly kind: number
  /** See `MoveVisitor`. */
  readonly what: number
  /** The situation that it leads to; -1: none, or the same. */
  readonly to: number
}

interface Found {
  readonly lookout: Lookout
  readonly isFault: boolean
  readonly places: Place[]
}

/** Where play ends in signals without end: keys of that kind begin so, and go on with `interactable/place in its table`. */
export const stormKey = 'storm '

/** Signals without end are always looked out for. */
const storms: Lookout = {
  isShown: (_key, play) => play.ended === 'signal-storm',
  isFault: () => true,
}

const tries = 4

/** Of what is no fault so many places are kept. */
const mostKept = 400

/** For each thing that was seen, by its key, the situations and moves where it is so, in the order in which they were found; of faults so many. */
export function* lookOut(
  search: Search,
  backward: Backward,
  lookouts: readonly Lookout[],
  mostPlaces = Infinity,
  undone: Undone = new Map(),
): Generator<undefined, Map<string, Found>> {
  const seen = new Map<string, Found>()
  const mostOf = ({ lookout, isFault }: Found): number => (lookout.forGood ? Infinity : isFault ? mostPlaces : mostKept)
  const see = (lookout: Lookout, key: string, place: Place): void => {
    const known = seen.get(key)
    if (!known) seen.set(key, { lookout, isFault: lookout.isFault(key), places: [place] })
    else if (known.places.length < mostOf(known)) known.places.push(place)
  }
  for (const { row, ...place } of search.storms) see(storms, stormKey + placeInTable(search, row), { ...place, to: -1 })
  if (lookouts.length === 0) return seen
  const eye = new Eye(search, lookouts, see)
  for (let index = 0; index < search.store.count; index++) {
    if (index % 4096 === 4095) yield
    eye.look(index)
  }
  return yield* lastingOnes(search, backward, undone, seen)
}

/** What was seen, without the places from which what must be out of reach is not. */
function* lastingOnes(
  search: Search,
  backward: Backward,
  undone: Undone,
  seen: ReadonlyMap<string, Found>,
): Generator<undefined, Map<string, Found>> {
  const lasting = new Map<string, Found>()
  for (const [key, found] of seen) {
    const barring = found.lookout.forGood?.(key) ?? null
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

/** The situations from which moves lead to one of these places; those that were not expanded count as such. */
function* canComeTo(
  search: Search,
  backward: Backward,
  undone: Undone,
  places: readonly Place[],
): Generator<undefined, Bits> {
  const within = new Bits(search.store.count)
  const queue: number[] = []
  const add = (index: number): void => {
    if (within.add(index)) queue.push(index)
  }
  for (const { index } of places) add(index)
  for (let index = search.expanded; index < search.store.count; index++) add(index)
  let visited = 0
  for (let index = queue.pop(); index !== undefined; index = queue.pop()) {
    if (++visited % 4096 === 0) yield
    const end = backward.end(index)
    for (let at = backward.first(index); at < end; at++) add(backward.source(at))
    undone.get(index)?.forEach(add)
  }
  return within
}

function placeInTable({ stage: { tables, expanded } }: Search, index: number): string {
  const row = tables.rows[index]
  return row ? `${expanded.interactables[row.machine]!.name}/${String(row.place)}` : ''
}

/** Looks at one situation after another. */
class Eye {
  readonly #search: Search
  readonly #see: (lookout: Lookout, key: string, place: Place) => void
  readonly #onSituation: readonly Lookout[]
  readonly #onPress: readonly Lookout[]
  readonly #watching: readonly Lookout[]
  readonly #moves: Moves | null
  readonly #regs: Int32Array
  /** What the move that is being tried has shown so far. */
  #inMove: [Lookout, string][] = []

  constructor(
    search: Search,
    lookouts: readonly Lookout[],
    see: (lookout: Lookout, key: string, place: Place) => void,
  ) {
    this.#search = search
    this.#see = see
    this.#onSituation = lookouts.filter(({ onSituation }) => onSituation)
    this.#onPress = lookouts.filter(({ onPress }) => onPress)
    this.#watching = lookouts.filter(({ watches }) => watches)
    this.#moves = this.#watching.length === 0 ? null : search.movesAnew(this.#watcher())
    this.#regs = new Int32Array(search.stage.tables.at.size)
  }

  look(index: number): void {
    const { tables } = this.#search.stage
    const regs = this.#regs
    const patch = this.#search.read(index, regs)
    for (const lookout of this.#onSituation) {
      lookout.onSituation!(regs, (key) => {
        this.#see(lookout, key, { index, kind: -1, what: -1, to: -1 })
      })
    }
    if (this.#onPress.length > 0) {
      for (let actor = 0; actor < tables.at.characters; actor++) this.#lookAtPresses(index, actor, patch)
    }
    if (this.#moves && this.#watching.some(({ watches }) => watches!(regs))) this.#lookAtMoves(index, patch)
  }

  #lookAtPresses(index: number, actor: number, patch: number): void {
    const { tables } = this.#search.stage
    const regs = this.#regs
    if (regs[tables.at.held(actor)] !== 0) return
    const sign = this.#search.signOf(actor, regs, patch)
    eachPress(tables, sign, regs, actor, (machine, ask, looking) => {
      const state = tables.states[machine]![regs[machine]!]!
      const rows = state.presses[ask]!.filter((row) => isOffered(row, regs, actor))
      for (const lookout of this.#onPress) {
        lookout.onPress!({ regs, actor, machine, ask, rows }, (key) => {
          const what = this.#search.moves.inputs.press(actor, machine, ask, looking, false)
          this.#see(lookout, key, { index, kind: lookout.isBeforePress ? -1 : moveKind.press, what, to: -1 })
        })
      }
    })
  }

  #lookAtMoves(index: number, patch: number): void {
    this.#moves!.each(this.#regs, patch, (after, on, kind, what) => {
      if (this.#inMove.length === 0) return
      const target = this.#search.find(after, on)
      const place = { index, kind, what, to: target === index ? -1 : target }
      for (const [lookout, key] of this.#inMove) this.#see(lookout, key, place)
    })
  }

  /** Gives what a step does to all that watch it. */
  #watcher(): MoveWatcher {
    const parts = this.#watching.map((lookout) =>
      lookout.watcher!((key) => {
        this.#inMove.push([lookout, key])
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
      pushed: (...told) => parts.forEach((part) => part.pushed?.(...told)),
      crossed: (...told) => parts.forEach((part) => part.crossed?.(...told)),
      sent: (...told) => parts.forEach((part) => part.sent?.(...told)),
      heard: (...told) => parts.forEach((part) => part.heard?.(...told)),
    }
  }
}

/** Looks out for all that is asked, and plays the ways to what was seen. Those in `known` are kept as they are. */
export function* findSights(
  search: Search,
  backward: Backward,
  cover: Coverage,
  calm: CalmRoutes,
  lookouts: readonly Lookout[],
  known: ReadonlyMap<string, Sight>,
): Generator<undefined, Map<string, Sight>> {
  const seen = yield* lookOut(search, backward, lookouts)
  const faults = [...seen].some(([key, { isFault }]) => isFault && !known.get(key)?.shown)
  const fewest = faults ? yield* FewestSteps.of(search, backward, null) : null
  const sights = new Map<string, Sight>(known)
  for (const [key, { lookout, isFault, places }] of seen) {
    if (known.get(key)?.shown) continue
    if (lookout.isKnown?.(key, cover.moments)) {
      sights.set(key, { shown: { steps: [], short: false } })
      continue
    }
    const among = lookout.forGood?.(key) ? new Set(places.map(({ index }) => index)) : null
    const guide = new Guide(search, cover, lookout, key, among)
    const shown = fewest && isFault ? yield* guide.inFewest(fewest, calm, places) : yield* guide.somehow(calm, places)
    sights.set(key, { shown })
    yield
  }
  return sights
}

/** Brings Play to something that was seen. */
class Guide {
  readonly #search: Search
  readonly #cover: Coverage
  readonly #lookout: Lookout
  readonly #key: string
  readonly #isShown: (play: Play) => boolean

  /** `among`: the situations of which Play must have come to one; null: it is enough that it looks so. */
  constructor(search: Search, cover: Coverage, lookout: Lookout, key: string, among: ReadonlySet<number> | null) {
    this.#search = search
    this.#cover = cover
    this.#lookout = lookout
    this.#key = key
    this.#isShown = (play) => lookout.isShown(key, play) && (among === null || among.has(situationOf(search, play)))
  }

  /** By the calmest way; what it takes is not kept. */
  *somehow(calm: CalmRoutes, places: readonly Place[]): Generator<undefined, Shown | null> {
    for (const place of places.slice(0, tries)) {
      const route = yield* this.#calmly(calm, place)
      const rehearsal = yield* this.#cover.play(this.#search, route, false, this.#isShown)
      if (rehearsal) return { steps: [], short: false }
    }
    const steps = yield* this.#seek(places)
    return steps ? { steps: [], short: false } : null
  }

  *inFewest(fewest: FewestSteps, calm: CalmRoutes, places: readonly Place[]): Generator<undefined, Shown | null> {
    const ranked = places.map((place) => ({ place, steps: fewest.through(place.index, place.kind) }))
    ranked.sort((a, b) => a.steps - b.steps || a.place.index - b.place.index)
    const least = ranked[0]!.steps - (ranked[0]!.place.kind < 0 ? 1 : 0)
    for (const { place } of ranked.slice(0, tries)) {
      const route =
        place.to >= 0 ? fewest.route(place.index, place.to) : this.#onwards(fewest.route(place.index, null), place)
      const rehearsal = yield* this.#cover.play(this.#search, route, true, this.#isShown)
      const shown = rehearsal && (yield* this.#shown(rehearsal.steps, least))
      if (shown) return shown
    }
    for (const { place } of ranked.slice(0, tries)) {
      const rehearsal = yield* this.#cover.play(this.#search, yield* this.#calmly(calm, place), false, this.#isShown)
      const shown = rehearsal && (yield* this.#shown(rehearsal.steps, least))
      if (shown) return shown
    }
    const steps = yield* this.#seek(places)
    return steps ? yield* this.#shown(steps, least) : null
  }

  /** The calmest way to a place, and on with what is done there. */
  *#calmly(calm: CalmRoutes, place: Place): Generator<undefined, Route> {
    if (place.to >= 0) return yield* calm.through(place.index, place.to)
    return this.#onwards(yield* calm.to(place.index), place)
  }

  /** A route, and on with what is done at a place. */
  #onwards(to: Route, { index, kind, what }: Place): Route {
    if (kind < 0) return to
    const patch = kind === moveKind.walk ? this.#search.moves.inputs.readWalk(what).to : -1
    return { nodes: [...to.nodes, index], moves: [...to.moves, { kind, what, patch, ms: -1 }] }
  }

  *#shown(steps: readonly PlayStep[], least: number): Generator<undefined, Shown | null> {
    const { stage } = this.#search
    const short = steps.length > least
    const kept = short ? yield* shortened(stage, steps, this.#isShown) : steps
    const tidy = yield* grouped(stage, kept, this.#isShown)
    const more = this.#lookout.goOn ? this.#lookout.goOn(this.#key, replay(stage, tidy)) : []
    if (more === null) return null
    return { steps: [...tidy, ...more], short: short && tidy.length > least }
  }

  /** Looks for sure moves to one of the places, and does there what is to be done. */
  *#seek(places: readonly Place[]): Generator<undefined, PlayStep[] | null> {
    const { stage, moves } = this.#search
    // Where a walk or a wait leads to it, it is enough to come to what that leads to.
    const wanted = new Map(places.map((place) => [place.to >= 0 ? place.to : place.index, place]))
    const last: PlayStep[] = []
    const rehearsal = yield* this.#cover.seek(
      (regs, patch, _held, _taken, atRest) => {
        const place = atRest ? wanted.get(this.#search.find(regs, patch)) : undefined
        if (place === undefined) return false
        if (place.to >= 0 || place.kind < 0) return true
        if (place.kind !== moveKind.press) return false
        last.push(inputStep(stage, moves.inputs.read(place.what)))
        return true
      },
      (play) => {
        for (const step of last.slice(0, 1)) for (const one of [...dismissal(play, step.who), step]) perform(play, one)
        return this.#isShown(play)
      },
    )
    if (!rehearsal) return null
    const [press] = last
    const steps = press ? [...rehearsal.steps, ...dismissal(replay(stage, rehearsal.steps), press.who), press] : []
    const all = press ? steps : [...rehearsal.steps]
    return this.#isShown(replay(stage, all)) ? all : null
  }
}
