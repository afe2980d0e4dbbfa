import { Play } from '../play/index.ts'
import type { Shown, Witness } from './answers.ts'
import { type Coverage, situationOf } from './cover.ts'
import type { Predecessors } from './graph.ts'
import { lookOut, type Observation, type Place } from './observation.ts'
import { moveKind } from './successors.ts'
import { type UnhurriedPaths, FewestSteps, type Route } from './routes.ts'
import type { Search } from './search.ts'
import type { Bits } from './store.ts'
import { grouped, shortened } from './shorten.ts'
import { dismissal, inputStep, perform, type PlayStep, replay } from './steps.ts'

const tries = 4

/** Looks out for all that is asked, and plays the ways to what was seen; adds it to `witnesses`. What is shown there stays. */
export function* findWitnesses(
  search: Search,
  backward: Predecessors,
  cover: Coverage,
  calm: UnhurriedPaths,
  observations: readonly Observation[],
  witnesses: Map<string, Witness>,
): Generator<undefined, void> {
  const seen = yield* lookOut(search, backward, observations)
  const faults = [...seen].some(([key, { isFault }]) => isFault && !witnesses.get(key)?.shown)
  const fewest = faults ? yield* FewestSteps.of(search, backward, null) : null
  for (const [key, { observation, isFault, places }] of seen) {
    if (witnesses.get(key)?.shown) continue
    if (observation.isKnown?.(key, cover.moments)) {
      witnesses.set(key, { shown: { steps: [], short: false } })
      continue
    }
    const among = observation.forGood?.(key) ? new Set(places.map(({ index }) => index)) : null
    const guide = new Guide(search, cover, observation, key, among)
    const shown = fewest && isFault ? yield* guide.inFewest(fewest, calm, places) : yield* guide.somehow(calm, places)
    const within = shown && observation.canHappen ? yield* observation.canHappen(key) : null
    witnesses.set(key, { shown: shown && within ? { ...shown, ...lostAfter(search, shown.steps, within) } : shown })
    yield
  }
}

/** After how many steps a play has come to where what is within reach before never is any more; nothing where that is not seen. */
function lostAfter(search: Search, steps: readonly PlayStep[], within: Bits): { readonly lostAfter?: number } {
  const play = new Play(search.stage)
  for (const [i, step] of steps.entries()) {
    perform(play, step)
    const index = situationOf(search, play)
    if (index >= 0 && !within.has(index)) return { lostAfter: i + 1 }
  }
  return {}
}

/** Brings Play to something that was seen. */
class Guide {
  readonly #search: Search
  readonly #cover: Coverage
  readonly #observation: Observation
  readonly #key: string
  readonly #isShown: (play: Play) => boolean

  /** `among`: the situations of which Play must have come to one; null: it is enough that it looks so. */
  constructor(
    search: Search,
    cover: Coverage,
    observation: Observation,
    key: string,
    among: ReadonlySet<number> | null,
  ) {
    this.#search = search
    this.#cover = cover
    this.#observation = observation
    this.#key = key
    this.#isShown = (play) => observation.isShown(key, play) && (among === null || among.has(situationOf(search, play)))
  }

  /** By the calmest way; what it takes is not kept. */
  *somehow(calm: UnhurriedPaths, places: readonly Place[]): Generator<undefined, Shown | null> {
    for (const place of places.slice(0, tries)) {
      const route = yield* this.#calmly(calm, place)
      const rehearsal = yield* this.#cover.play(this.#search, route, false, this.#isShown)
      if (rehearsal) return { steps: [], short: false }
    }
    const steps = yield* this.#seek(places)
    return steps ? { steps: [], short: false } : null
  }

  *inFewest(fewest: FewestSteps, calm: UnhurriedPaths, places: readonly Place[]): Generator<undefined, Shown | null> {
    const ranked = places.map((place) => ({ place, steps: fewest.through(place.index, place.kind) }))
    ranked.sort((a, b) => a.steps - b.steps || a.place.index - b.place.index)
    const least = ranked[0]!.steps - (ranked[0]!.place.kind < 0 ? 1 : 0)
    for (const { place } of ranked.slice(0, tries)) {
      const route =
        place.to >= 0
          ? fewest.route(place.index, this.#edgeOf(place))
          : this.#onwards(fewest.route(place.index, null), place)
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
  *#calmly(calm: UnhurriedPaths, place: Place): Generator<undefined, Route> {
    if (place.to >= 0) return yield* calm.through(place.index, this.#edgeOf(place))
    return this.#onwards(yield* calm.to(place.index), place)
  }

  #edgeOf({ index, to, kind, what }: Place): number {
    return this.#search.edgeFor(index, to, kind, what)
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
    const more = this.#observation.goOn ? this.#observation.goOn(this.#key, replay(stage, tidy)) : []
    if (more === null) return null
    return { steps: [...tidy, ...more], short: short && tidy.length > least }
  }

  /** Looks for sure moves to one of the places, and does there what is to be done. */
  *#seek(places: readonly Place[]): Generator<undefined, PlayStep[] | null> {
    const { stage, moves, isGivenUp } = this.#search
    // Where only the first of very many situations were looked at, that is left to who looks farther.
    if (isGivenUp) return null
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
