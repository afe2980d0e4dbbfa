import type { Check, Expanded, Placed } from '../interactables/index.ts'
import { compileInSlices } from '../machine/index.ts'
import { channelOf, type Feedback } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { Predecessors, goalSets } from './graph.ts'
import { type Proof, SureProof } from './prove.ts'
import { comesToRest } from './time-cycles.ts'
import { Search } from './search.ts'
import { SureMoves } from './sure.ts'

/**
 * A search of a level without its bystanders: machines that have no say in anything but themselves, such as a lamp that blinks. Null
 * where there are none, or it does not come to its end.
 *
 * Why the answers about goals are the same: a bystander is not asked about by any other machine nor by a goal, and changes nothing
 * that one of them asks about; it never blocks walking or sight, answers no press and holds no item, so that it makes no difference to
 * what anybody can do; and it never halts the play, since a popup or a storm is not made by it. Leaving out its transitions
 * takes from each play just what it does by itself, at the same times, and so does putting them back.
 */
export class WithoutBystanders {
  readonly #search: Search
  readonly #backward: Predecessors
  readonly #sure: SureMoves

  /** The names of the machines that were left out. */
  readonly names: readonly string[]

  private constructor(search: Search, backward: Predecessors, sure: SureMoves, names: readonly string[]) {
    this.names = names
    this.#search = search
    this.#backward = backward
    this.#sure = sure
  }

  /** Searches the same level, as closely. Only for levels without storms. */
  static *of({ stage, fineness, budget }: Search): Generator<undefined, WithoutBystanders | null> {
    const bystanders = bystandersOf(stage)
    if (bystanders.size === 0) return null
    const { expanded, space } = stage
    const interactables = expanded.interactables.map((placed) =>
      bystanders.has(placed.index) ? { ...placed, transitions: [] } : placed,
    )
    const rest: Expanded = { ...expanded, interactables }
    const left: Stage = { expanded: rest, tables: yield* compileInSlices(rest), space }
    const search = new Search(left, fineness, budget)
    while (!search.advance(100)) yield
    if (!search.isComplete || search.storms.length > 0) return null
    const isSureOfAll = expanded.characters.every(({ role }) => role !== 'creature')
    const names = [...bystanders].map((index) => expanded.interactables[index]!.name)
    return new WithoutBystanders(
      search,
      yield* Predecessors.of(search),
      new SureMoves(left, { creatures: isSureOfAll }),
      names,
    )
  }

  /** Whether a goal is out of danger; null where something still runs for ever. */
  *proof(goal: number): Generator<undefined, Proof | null> {
    const sets = yield* goalSets(this.#search, this.#backward, goal)
    if (sets.lost > 0 || !sets.everMet || !(yield* comesToRest(this.#search, sets.unmet))) return null
    return yield* new SureProof(this.#search, this.#backward, this.#sure, sets, goal).run()
  }
}

/** The machines that have no say in anything but themselves and one another. */
function bystandersOf({ expanded, space }: Stage): ReadonlySet<number> {
  const isQuiet = (placed: Placed): boolean => {
    const { comesAndGoes, hides, pressable } = space.layout.figures[placed.index]!
    return !comesAndGoes && !hides && !pressable && isAlone(placed)
  }
  const all = new Set(expanded.interactables.filter(isQuiet).map(({ index }) => index))
  for (let before = -1; before !== all.size;) {
    before = all.size
    const asked = askedBy(expanded, all)
    for (const index of all) if (hasSay(expanded.interactables[index]!, asked)) all.delete(index)
  }
  return all
}

/** Whether a machine has nothing that others could get at, and says nothing that has to be dismissed. */
function isAlone({ wheels, contents, memories, inTheWay, feedback, transitions }: Placed): boolean {
  const told: readonly Feedback[] = [
    ...Object.values(feedback).flat(),
    ...transitions.flatMap((one) => [...one.feedback, ...(one.refused ?? [])]),
  ]
  const isPressed = transitions.some(({ when: { kind } }) => kind === 'press' || kind === 'hold' || kind === 'release')
  const holds = wheels.length + contents.length + Object.keys(memories).length > 0
  return !isPressed && !holds && inTheWay !== 'push' && told.every((one) => channelOf(one) !== 'popup')
}

/** What machines that are no bystanders ask about, and goals. */
interface Asked {
  readonly machines: Set<number>
  readonly flags: Set<number>
  readonly counters: Set<number>
  readonly signals: Set<number>
}

function askedBy({ interactables, goals }: Expanded, bystanders: ReadonlySet<number>): Asked {
  const asked: Asked = { machines: new Set(), flags: new Set(), counters: new Set(), signals: new Set() }
  const ask = (check: Check): void => {
    if (check.kind === 'all' || check.kind === 'any') for (const part of check.checks) ask(part)
    else if (check.kind === 'not') ask(check.check)
    else if (check.kind === 'state') asked.machines.add(check.interactable)
    else if (check.kind === 'flag') asked.flags.add(check.flag)
    else if (check.kind === 'counter') asked.counters.add(check.counter)
  }
  for (const { check } of goals) ask(check)
  for (const { index, transitions } of interactables) {
    if (bystanders.has(index)) continue
    for (const { guard, when } of transitions) {
      ask(guard)
      if (when.kind === 'becomes') ask(when.check)
      if (when.kind === 'press' && when.offered) ask(when.offered)
      if (when.kind === 'signal') asked.signals.add(when.signal)
    }
  }
  return asked
}

/** Whether a machine changes anything that is asked about, or that is not its own. */
function hasSay({ index, transitions }: Placed, asked: Asked): boolean {
  if (asked.machines.has(index)) return true
  return transitions.some(({ changes }) =>
    changes.some((change) => {
      if (change.kind === 'set') return asked.flags.has(change.flag)
      if (change.kind === 'count') return asked.counters.has(change.counter)
      return change.kind !== 'send' || asked.signals.has(change.signal)
    }),
  )
}
