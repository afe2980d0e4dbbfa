import type { Check } from '../interactables/index.ts'
import type { CompiledTransition, StateTable, Tables } from '../machine/index.ts'
import type { Play, Stage } from '../play/index.ts'
import { type Slice, sliceOf, settingOf } from './slice.ts'
import { type Predecessors, canComeTo, type Undone } from './graph.ts'
import { loosen } from './successors.ts'
import type { Search } from './search.ts'
import type { Observation, See } from './observation.ts'
import type { SetSearch } from './sets/set-search.ts'
import { Bits } from './store.ts'
import { OpenEnvironment } from './open-environment.ts'

/** Keys of machines that are stuck begin so, and go on with `interactable/state`. */
export const stuckKey = 'stuck '

/** The most settings of all machines that are followed, and the most that is tried with them. */
const most = { settings: 2_000, followed: 40_000, tried: 400_000 }

/** States in which machines can be stuck: what to look out for, and what could not be told. */
export interface Stuck {
  readonly observation: Observation
  /** Keys of which it could not be told, with the reason. */
  readonly untold: ReadonlyMap<string, string>
  /** Keys that may still be so, where not everything was explored. */
  readonly possible: ReadonlySet<string>
}

/** The settings of a slice in which a machine is stuck. */
interface Barred {
  readonly slice: Slice
  readonly settings: ReadonlySet<string>
}

/** A state of a machine that is not lasting and has a way out in the table, which may be barred. */
interface Candidate {
  readonly key: string
  readonly machine: number
  readonly state: number
  /** The transitions that lead out of it. */
  readonly out: readonly CompiledTransition[]
}

/**
 * Finds the states in which a machine can be stuck: nothing could make it leave, wherever characters stand and whatever
 * they carry. Only situations that moves lead to are looked at; from there all that has a say in the machine is followed, with
 * characters anywhere and carrying anything. `shown` are the transitions that plays have taken: where none of those that lead
 * out of a state was, what seems to lead out of it may not. `sets` hold all situations where `search` does not. With `undone`, some moves can also be taken back.
 */
export function* findStuck(
  search: Search,
  backward: Predecessors,
  shown: ReadonlySet<number>,
  undone: Undone = new Map(),
  sets: SetSearch | null = null,
): Generator<undefined, Stuck> {
  const { tables } = search.stage
  const barred = new Map<string, Barred>()
  const untold = new Map<string, string>()
  const possible = new Set<string>()
  const byKey = new Map<string, Candidate>()
  const followed = candidates(search.stage).map((one) => [one, sliceOf(tables, one.machine)] as const)
  const settings = yield* settingsThatStay(search, undone, followed)
  for (const [i, [candidate, slice]] of followed.entries()) {
    yield
    byKey.set(candidate.key, candidate)
    if (sets && !(yield* canAlwaysLeave(search.stage, sets, candidate, slice, shown))) possible.add(candidate.key)
    const staying = settings[i]!
    if (staying.size === 0) {
      if (isReached(search, candidate) && !candidate.out.some(({ index }) => shown.has(index))) {
        untold.set(candidate.key, 'it is not certain that any transition out of it can be taken')
      }
      continue
    }
    const stuck = yield* withoutWayOut(search.stage, candidate, slice, staying, 'possible')
    if (stuck === null) untold.set(candidate.key, 'it hangs on more than could be followed')
    else if (stuck.size > 0) barred.set(candidate.key, { slice, settings: stuck })
    else if (!(yield* leadsOutForCertain(search.stage, candidate, slice, staying))) {
      untold.set(candidate.key, 'it is not certain that anybody can stand where something would lead out of it')
    }
  }
  const observation = lookoutFor(tables, barred)
  const leave = (key: string): Generator<undefined, Bits> => canLeave(search, backward, undone, byKey.get(key)!)
  return { observation: { ...observation, canHappen: leave }, untold, possible }
}

/** The situations from which moves lead to where a machine leaves a state. */
function* canLeave(
  search: Search,
  backward: Predecessors,
  undone: Undone,
  { machine, state }: Candidate,
): Generator<undefined, Bits> {
  const regs = new Int32Array(search.stage.tables.at.size)
  const isIn = new Bits(search.store.count)
  for (let index = 0; index < search.store.count; index++) {
    if (index % 4096 === 4095) yield
    search.read(index, regs)
    if (regs[machine] === state) isIn.add(index)
  }
  const leaving: { readonly index: number }[] = []
  for (let index = 0; index < search.expanded; index++) {
    if (index % 4096 === 4095) yield
    if (!isIn.has(index)) continue
    const end = search.endEdge(index)
    for (let edge = search.firstEdge(index); edge < end; edge++) {
      if (isIn.has(search.target(edge))) continue
      leaving.push({ index })
      break
    }
  }
  return yield* canComeTo(search, backward, undone, leaving)
}

function lookoutFor(tables: Tables, barred: ReadonlyMap<string, Barred>): Observation {
  const isIn = ({ slice, settings }: Barred, regs: Int32Array): boolean => settings.has(settingOf(tables, slice, regs))
  const look = (regs: Int32Array, see: See): void => {
    const now = loosen(tables, regs.slice())
    for (const [key, one] of barred) if (isIn(one, now)) see(key)
  }
  return {
    ...(barred.size > 0 ? { onSituation: [look] } : {}),
    isShown: (key, play: Play) => isIn(barred.get(key)!, loosen(tables, play.registers())),
    isFault: () => true,
  }
}

/** States with a way out that something else than characters can bar. */
function candidates(stage: Stage): Candidate[] {
  const { tables } = stage
  return tables.expanded.interactables.flatMap((placed, machine) =>
    placed.states.flatMap(({ name, lasting }, state): Candidate[] => {
      const out = waysOut(tables, machine, state)
      if (lasting || out.length === 0 || out.some((row) => isAlwaysOpen(stage, tables.states[machine]![state]!, row)))
        return []
      return [{ key: `${stuckKey}${placed.name}/${name}`, machine, state, out }]
    }),
  )
}

/** The rows that lead from a state to another one. */
function waysOut({ rowsOf }: Tables, machine: number, state: number): CompiledTransition[] {
  return rowsOf[machine]!.filter(
    ({ to, transition }) =>
      to >= 0 && to !== state && transition.from.includes(state) && transition.guard.kind !== 'never',
  )
}

/** Whether a row is taken by the character that stands at the right spot with the right thing, or by itself, whatever else is so. */
function isAlwaysOpen(
  { tables, space }: Stage,
  state: StateTable,
  { machine, transition, may }: CompiledTransition,
): boolean {
  const { when, guard } = transition
  const isFirst = (rows: readonly CompiledTransition[]): boolean => rows[0]?.transition === transition
  if (!canBeMet(tables, guard)) return false
  if (when.kind === 'motion-end') return state.motion !== null && isFirst(state.moved)
  if (when.kind === 'after') return true
  if (when.kind !== 'press' || when.offered !== null || !isFirst(state.presses[when.pressKind]!)) return false
  return space.patches.some(
    ({ patches }, actor) =>
      may[actor]! &&
      patches.some(
        ({ signature, firm }) =>
          firm && signature.candidates.some(({ interactable, lingers }) => interactable === machine && !lingers),
      ),
  )
}

/** Whether a condition asks for nothing, or for something that anybody could carry. */
function canBeMet(tables: Tables, guard: Check): boolean {
  const { items, characters } = tables.expanded
  if (guard.kind === 'all') {
    const [first, ...others] = guard.checks
    return first === undefined || (others.length === 0 && canBeMet(tables, first))
  }
  if (guard.kind !== 'carries') return false
  return guard.count <= Math.min(items[guard.item]!.most, ...characters.map(({ carriesMost }) => carriesMost))
}

/** Whether a machine is in a state anywhere. */
function isReached({ stage: { tables }, firstTaken }: Search, { machine, state }: Candidate): boolean {
  if (tables.expanded.interactables[machine]!.initial === state) return true
  return tables.rowsOf[machine]!.some(({ to, index }) => to === state && firstTaken[index]! >= 0)
}

/** Whether a machine is never stuck in a state, in all situations that sets hold: whatever else is so, something leads out of it. */
function* canAlwaysLeave(
  stage: Stage,
  sets: SetSearch,
  candidate: Candidate,
  slice: Slice,
  shown: ReadonlySet<number>,
): Generator<undefined, boolean> {
  const standings = yield* sets.standings(slice.registers, most.settings)
  if (!standings) return false
  const settings = new Map<string, Int32Array>()
  for (const regs of standings) {
    if (regs[candidate.machine] === candidate.state) settings.set(settingOf(stage.tables, slice, regs), regs)
  }
  if (settings.size === 0) return true
  if (!candidate.out.some(({ index }) => shown.has(index))) return false
  return (
    (yield* withoutWayOut(stage, candidate, slice, settings, 'possible'))?.size === 0 &&
    (yield* leadsOutForCertain(stage, candidate, slice, settings))
  )
}

/** Candidates are followed in groups of this size: a bit of a whole number each. */
const together = 31

/** By candidate, the settings of the situations in its state from which no moves lead out of it. */
function* settingsThatStay(
  search: Search,
  undone: Undone,
  followed: readonly (readonly [Candidate, Slice])[],
): Generator<undefined, Map<string, Int32Array>[]> {
  const settings = followed.map(() => new Map<string, Int32Array>())
  const regs = new Int32Array(search.stage.tables.at.size)
  for (let first = 0; first < followed.length; first += together) {
    const group = followed.slice(first, first + together)
    const leaves = yield* whatLeaves(search, undone, group)
    const all = 2 ** group.length - 1
    for (let index = 0; index < search.expanded; index++) {
      if (index % 4096 === 4095) yield
      if (leaves[index] === all) continue
      search.read(index, regs)
      const looseRegs = loosen(search.stage.tables, regs.slice())
      for (const [i, [, slice]] of group.entries()) {
        if ((leaves[index]! & (1 << i)) !== 0) continue
        settings[first + i]!.set(settingOf(search.stage.tables, slice, looseRegs), looseRegs)
      }
    }
  }
  return settings
}

/** By situation, a bit for each candidate where it is in another state, or moves lead there, or to what was not looked at. */
function* whatLeaves(
  search: Search,
  undone: Undone,
  group: readonly (readonly [Candidate, Slice])[],
): Generator<undefined, Int32Array> {
  const { store, expanded } = search
  const leaves = new Int32Array(store.count).fill(2 ** group.length - 1)
  const states = group.map(([{ machine, state }], i) => ({ stateIn: search.readerOf(machine), state, bit: 1 << i }))
  for (let index = 0; index < expanded; index++) {
    if (index % 4096 === 4095) yield
    let own = 0
    for (const { stateIn, state, bit } of states) if (stateIn(index) !== state) own |= bit
    leaves[index] = own
  }
  // To and fro: moves lead to what was found later, and back to what was found earlier.
  let isChanged = true
  const follow = (index: number): void => {
    const before = leaves[index]!
    let own = before
    const end = search.endEdge(index)
    for (let edge = search.firstEdge(index); edge < end; edge++) own |= leaves[search.target(edge)]!
    if (own === before) return
    leaves[index] = own
    isChanged = true
  }
  while (isChanged) {
    isChanged = false
    for (let index = expanded - 1; index >= 0; index--) {
      if (index % 4096 === 4095) yield
      follow(index)
    }
    for (const [index, backs] of undone) {
      for (const back of backs) {
        if ((leaves[index]! & ~leaves[back]!) === 0) continue
        leaves[back]! |= leaves[index]!
        isChanged = true
      }
    }
    for (let index = 0; index < expanded; index++) {
      if (index % 4096 === 4095) yield
      follow(index)
    }
  }
  return leaves
}

/** Whether something leads out of all of these settings on certain ground alone, where something does on all ground. */
function* leadsOutForCertain(
  stage: Stage,
  candidate: Candidate,
  slice: Slice,
  settings: ReadonlyMap<string, Int32Array>,
): Generator<undefined, boolean> {
  const [certain, possible] = [
    new OpenEnvironment(stage, slice, 'certain'),
    new OpenEnvironment(stage, slice, 'possible'),
  ]
  if (certain.isLike(possible)) return true
  return (yield* withoutWayOut(stage, candidate, slice, settings, 'certain'))?.size === 0
}

/**
 * Of some settings, those from which nothing leads out of the state, whatever characters do on certain ground, or on all that
 * is possible. Null where that could not be told, since there is too much to try.
 */
function* withoutWayOut(
  stage: Stage,
  { machine, state }: Candidate,
  slice: Slice,
  from: ReadonlyMap<string, Int32Array>,
  ground: 'certain' | 'possible',
): Generator<undefined, Set<string> | null> {
  const environment = new OpenEnvironment(stage, slice, ground)
  if (environment.isTooMuch) return null
  const all = new Map(from)
  const before = new Map<string, string[]>()
  const out: string[] = []
  let tried = 0
  for (const [setting, regs] of all) {
    if (all.size > most.followed || tried > most.tried) return null
    yield
    if (regs[machine] !== state) {
      out.push(setting)
      continue
    }
    for (const after of environment.after(regs)) {
      if (++tried % 64 === 0) yield
      const next = settingOf(stage.tables, slice, after)
      if (!all.has(next)) all.set(next, after)
      const known = before.get(next)
      if (known) known.push(setting)
      else before.set(next, [setting])
    }
  }
  const leaves = new Set(out)
  for (let next = out.pop(); next !== undefined; next = out.pop()) {
    for (const source of before.get(next) ?? []) {
      if (leaves.has(source)) continue
      leaves.add(source)
      out.push(source)
    }
  }
  return new Set([...from.keys()].filter((setting) => !leaves.has(setting)))
}
