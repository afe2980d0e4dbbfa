import { isOffered } from '../../machine/index.ts'
import { eachPress } from '../inputs.ts'
import type { Observation } from '../observation.ts'
import type { MoveWatcher } from '../successors.ts'
import { LiftedLook } from './lifted-look.ts'
import type { PartAt } from './place-moves.ts'
import type { SetSearch } from './set-search.ts'

/** All that may be seen in what was found. */
export interface PossibleKeys {
  /** What is not among these never is. */
  readonly keys: ReadonlySet<string>
  /** For what is seen in presses, an interactable on which. */
  readonly presses: ReadonlyMap<string, number>
}

/** A press on one of the candidates of a patch, by its place among them. */
export interface PressOn {
  readonly patch: number
  readonly candidate: number
}

/** Finds all that may be seen. Only for levels with one character: null for others. Pauses now and then. */
export function* possibleKeys(
  search: SetSearch,
  observations: readonly Observation[],
): Generator<undefined, PossibleKeys | null> {
  if (search.acting > 1) return null
  const keys = new Set<string>()
  const presses = new Map<string, number>()
  yield* inSituations(search, observations, keys)
  yield* inPresses(search, observations, keys, presses)
  yield* inMoves(search, observations, keys)
  yield* inVain(search, observations, keys)
  return { keys, presses }
}

/** What may be seen in presses of those who are passive: on what ignores a press in some state, wherever they are. */
function* inVain(
  { stage: { tables }, passive, reached, space }: SetSearch,
  observations: readonly Observation[],
  keys: Set<string>,
): Generator<undefined, void> {
  const pressing = observations.flatMap(({ onPress }) => (onPress ? [onPress] : []))
  if (!passive || pressing.length === 0) return
  for (const [machine, states] of tables.states.entries()) {
    if (!states.some(({ ignoresPress }) => ignoresPress)) continue
    const look = new LiftedLook<readonly string[]>(space)
    const told = (regs: Int32Array): readonly string[] =>
      keysSeen((see) => {
        const state = states[regs[machine]!]!
        if (!state.ignoresPress) return
        for (const actor of passive.characters) {
          if (tables.othersIn.length > 1 && tables.levelOfCharacter[actor] !== tables.levelOf[machine]) continue
          const rows = state.presses[0]!.filter((row) => isOffered(row, regs, actor))
          for (const onPress of pressing) onPress({ regs, actor, machine, pressKind: 0, rows }, see)
        }
      })
    for (const set of reached) {
      yield
      look.each(set, told, (seen) => {
        addAll(keys, seen)
      })
    }
  }
}

/** All ground from which a press on an interactable shows something: by patch, in what part of what was found. Pauses now and then. */
export function* pressesThatShow(
  search: SetSearch,
  { onPress }: Observation,
  key: string,
  interactable: number,
): Generator<undefined, { readonly patch: number; readonly set: number }[]> {
  const shows: { patch: number; set: number }[] = []
  const looks = new Map<string, LiftedLook<readonly string[]>>()
  const { patches } = search.stage.space.patches[0]!
  for (const [patch, { signature, sure }] of patches.entries()) {
    const candidate = signature.candidates.findIndex((one) => one.interactable === interactable)
    const found = search.reached[search.places[0]!.of[patch]!]!
    if (candidate < 0 || !sure || found === 0) continue
    yield
    const nearer = JSON.stringify(signature.candidates.slice(0, candidate + 1))
    const look = looks.get(nearer) ?? new LiftedLook<readonly string[]>(search.space)
    looks.set(nearer, look)
    const told = pressTeller(search, onPress ? [{ onPress }] : [], { patch, candidate })
    let set = 0
    look.within(found, told, (seen, part) => {
      if (seen.includes(key)) set = search.diagrams.union(set, part)
    })
    if (set !== 0) shows.push({ patch, set })
  }
  return shows
}

function* inSituations(
  search: SetSearch,
  observations: readonly Observation[],
  keys: Set<string>,
): Generator<undefined, void> {
  for (const onSituation of observations.flatMap(({ onSituation = [] }) => onSituation)) {
    const look = new LiftedLook<readonly string[]>(search.space)
    yield
    look.each(
      search.anywhere,
      (regs) =>
        keysSeen((see) => {
          onSituation(regs, see)
        }),
      (seen) => {
        addAll(keys, seen)
      },
    )
  }
}

function* inPresses(
  search: SetSearch,
  observations: readonly Observation[],
  keys: Set<string>,
  presses: Map<string, number>,
): Generator<undefined, void> {
  const pressing = observations.flatMap(({ onPress }) => (onPress ? [{ onPress }] : []))
  if (pressing.length === 0) return
  const { space } = search.stage
  const together = new Together<PressOn>(search)
  for (const [place, set] of search.reached.entries()) {
    if (set === 0) continue
    for (const patch of search.places[0]!.patches[place]!) {
      const { candidates } = space.patches[0]!.patches[patch]!.signature
      for (const candidate of candidates.keys()) {
        together.add(JSON.stringify(candidates.slice(0, candidate + 1)), set, { patch, candidate })
      }
    }
    yield
  }
  for (const { one, set } of together.all()) {
    const { interactable } = space.patches[0]!.patches[one.patch]!.signature.candidates[one.candidate]!
    new LiftedLook<readonly string[]>(search.space).each(set, pressTeller(search, pressing, one), (seen) => {
      for (const key of seen) if (!presses.has(key)) presses.set(key, interactable)
      addAll(keys, seen)
    })
    yield
  }
}

/** What is alike at several places, with all that was found at these. */
class Together<T> {
  readonly #search: SetSearch
  readonly #all = new Map<string, { readonly one: T; set: number }>()

  constructor(search: SetSearch) {
    this.#search = search
  }

  /** Adds what was found at a place where something can be done that is alike wherever it has the same key. */
  add(key: string, set: number, one: T): void {
    const known = this.#all.get(key)
    if (known) known.set = this.#search.diagrams.union(known.set, set)
    else this.#all.set(key, { one, set })
  }

  /** What can be done, by the first place where that was so, and where: each thing once. */
  all(): Iterable<{ readonly one: T; readonly set: number }> {
    return this.#all.values()
  }
}

/** Tells what is seen in presses on one candidate of a patch. */
function pressTeller(
  { stage: { tables, space } }: SetSearch,
  pressing: readonly Required<Pick<Observation, 'onPress'>>[],
  { patch, candidate }: PressOn,
): (regs: Int32Array) => readonly string[] {
  const { signature } = space.patches[0]!.patches[patch]!
  const { interactable } = signature.candidates[candidate]!
  const nearer = { ...signature, candidates: signature.candidates.slice(0, candidate + 1) }
  return (regs) =>
    keysSeen((see) => {
      if (regs[tables.at.held(0)] !== 0) return
      eachPress(tables, nearer, regs, 0, (machine, pressKind) => {
        if (machine !== interactable) return
        const state = tables.states[machine]![regs[machine]!]!
        const rows = state.presses[pressKind]!.filter((row) => isOffered(row, regs, 0))
        for (const { onPress } of pressing) onPress({ regs, actor: 0, machine, pressKind, rows }, see)
      })
    })
}

function* inMoves(
  search: SetSearch,
  observations: readonly Observation[],
  keys: Set<string>,
): Generator<undefined, void> {
  const watching = observations.filter(({ watcher }) => watcher)
  if (watching.length === 0) return
  let [seen, all]: string[][] = [[], []]
  const moves = search.moves.watched(
    watcherOf(
      watching,
      (key) => seen!.push(key),
      () => {
        seen = []
      },
    ),
  )
  const together = new Together<PartAt>(search)
  for (const [place, set] of search.reached.entries()) {
    if (set === 0) continue
    const bodies = [...search.moves.aroundOf(place)].join()
    // Whose way the first character is in is not asked for here: looks are not shared between such places.
    for (const part of search.moves.at(place)) together.add(`${part.key} ${bodies}`, set, part)
    yield
  }
  for (const { one, set } of together.all()) {
    const { made, patch } = one
    const told = (regs: Int32Array): readonly string[] => {
      all = []
      moves.eachOf(made, regs, patch, () => all!.push(...seen!))
      return all
    }
    new LiftedLook<readonly string[]>(search.space).each(set, told, (found) => {
      addAll(keys, found)
    })
    yield
  }
}

/** Gives what a step does to all that watch it. */
function watcherOf(watching: readonly Observation[], see: (key: string) => void, begins: () => void): MoveWatcher {
  const parts = watching.map(({ watcher }) => watcher!(see))
  const names = [
    'taken',
    'waits',
    'notTaken',
    'item',
    'flag',
    'counter',
    'content',
    'moved',
    'leaves',
    'letsGo',
    'pushed',
    'crossed',
    'sent',
    'heard',
  ] as const
  const told = names.map((name) => [
    name,
    (...what: unknown[]): void => {
      for (const part of parts) {
        const tell = part[name]
        if (tell) Reflect.apply(tell, part, what)
      }
    },
  ])
  return { ...Object.fromEntries(told), begins } as MoveWatcher
}

function keysSeen(look: (see: (key: string) => void) => void): readonly string[] {
  const keys: string[] = []
  look((key) => keys.push(key))
  return keys
}

function addAll(keys: Set<string>, more: readonly string[]): void {
  for (const key of more) keys.add(key)
}
