import type { Check, Placed } from '../interactables/index.ts'
import { compileInSlices } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import { Search } from './search.ts'
import { type PlayStep, replay } from './steps.ts'

/** What one interactable on the way to a goal needs before it can do what it does there. */
export interface Need {
  readonly interactable: string
  /** The interactables without which it cannot; those that others of these need themselves are left out. */
  readonly needs: readonly string[]
  /** The items that its transitions ask for, and every interactable that gives one. */
  readonly items: readonly { readonly item: string; readonly count: number; readonly from: readonly string[] }[]
  /** Whether there is no way to the goal without it. */
  readonly isInevitable: boolean
}

/** Situations that are looked at in all to find out what is needed. */
const most = 4_000_000

/**
 * What each interactable needs that some steps use, in the order in which they do; the goal comes last, as an interactable of
 * that name. To find out, every one of them is kept as it is at the start, and all that is possible then is explored: what
 * cannot happen any more needs it. Null where that takes too long. `search` is complete. Yields now and then.
 */
export function* neededOn(
  search: Search,
  goal: number,
  steps: readonly PlayStep[],
): Generator<undefined, readonly Need[] | null> {
  const { stage } = search
  const { tables, expanded } = stage
  const rows = new Set(replay(stage, steps).taken)
  const used = [...new Set([...rows].map((row) => tables.rows[row]!.machine))]
  if (search.store.count * used.length > most) return null
  /** By interactable, those that cannot do all that they do in these steps once it is kept as it is; -1: the goal. */
  const hindered = new Map<number, ReadonlySet<number>>()
  for (const kept of used) {
    const without = yield* withoutMoving(stage, kept, search.budget)
    if (!without) return null
    const missing = [...rows].filter((row) => without.firstTaken[row]! < 0).map((row) => tables.rows[row]!.machine)
    hindered.set(kept, new Set([...missing, ...(isEverMet(without, goal) ? [] : [-1])]))
    yield
  }
  const needsOf = (machine: number): number[] =>
    used.filter((one) => one !== machine && hindered.get(one)!.has(machine))
  const nameOf = (machine: number): string => expanded.interactables[machine]!.name
  const directly = (machine: number): string[] => {
    const all = needsOf(machine)
    // What another one of them needs is needed by that; of two that need each other, both stay.
    const isPassedOn = (one: number): boolean =>
      all.some((other) => other !== one && needsOf(other).includes(one) && !needsOf(one).includes(other))
    return all.filter((one) => !isPassedOn(one)).map(nameOf)
  }
  const own = used.map((machine): Need => ({
    interactable: nameOf(machine),
    needs: directly(machine),
    items: itemsOf(search, expanded.interactables[machine]!, rows),
    isInevitable: hindered.get(machine)!.has(-1),
  }))
  return [...own, { interactable: expanded.goals[goal]!.name, needs: directly(-1), items: [], isInevitable: true }]
}

/** Everything that is possible while one interactable stays as it is; null where the budget is not enough. */
function* withoutMoving(stage: Stage, machine: number, budget: number): Generator<undefined, Search | null> {
  const { expanded, space } = stage
  const interactables = expanded.interactables.map((placed) => (placed.index === machine ? barred(placed) : placed))
  const kept = { ...expanded, interactables }
  const search = new Search({ expanded: kept, tables: yield* compileInSlices(kept), space }, 'loose', budget)
  while (!search.advance(100)) yield
  return search.isComplete ? search : null
}

function barred(placed: Placed): Placed {
  const guard: Check = { kind: 'never', name: '' }
  return { ...placed, transitions: placed.transitions.map((transition) => ({ ...transition, guard })) }
}

function isEverMet(search: Search, goal: number): boolean {
  for (let index = 0; index < search.store.count; index++) if (search.holds(index, goal)) return true
  return false
}

/** The items that the transitions ask for that were taken, and who gives them. */
function itemsOf({ stage, firstTaken }: Search, { index }: Placed, rows: ReadonlySet<number>): Need['items'] {
  const { tables, expanded } = stage
  const asked = new Map<number, number>()
  const ask = (check: Check): void => {
    if (check.kind === 'all') for (const part of check.checks) ask(part)
    if (check.kind === 'carries') asked.set(check.item, Math.max(check.count, asked.get(check.item) ?? 0))
  }
  for (const { index: row, transition } of tables.rowsOf[index]!) if (rows.has(row)) ask(transition.guard)
  return [...asked].map(([item, count]) => {
    const gives = tables.rows.filter(
      ({ index: row, transition }) =>
        firstTaken[row]! >= 0 &&
        transition.changes.some(
          (change) =>
            (change.kind === 'give' && change.item === item) ||
            (change.kind === 'take-out' && expanded.contents[change.content]!.item === item),
        ),
    )
    const from = [...new Set(gives.map(({ machine }) => expanded.interactables[machine]!.name))]
    return { item: expanded.items[item]!.title, count, from }
  })
}
