import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { rowSubject, rowTitle } from '../shared/rows.ts'
import { implies, withoutPlaces } from '../shared/implied.ts'
import { type Rule, witnessed } from '../rule.ts'
import { pressOn } from '../shared/steps.ts'

/** What is known of a finding of this rule. */
export interface OverlappingGuardsFacts {
  readonly interactable: string
  readonly state: string
  readonly first: string
  readonly second: string
}

/** Two transitions for one press that both hold at a time, and neither is a special case of the other. */
export const overlappingGuards: Rule<OverlappingGuardsFacts> = {
  name: 'overlapping-guards',
  severity: 'warning',
  observation(stage) {
    const pairs = pairsOf(stage)
    const isSo = ({ first, second }: Pair, regs: Int32Array, actor: number): boolean =>
      first.guard(regs, actor) && second.guard(regs, actor)
    return {
      isBeforePress: true,
      isFault: () => true,
      onPress: ({ regs, actor, rows }, see) => {
        for (const pair of pairs) {
          if (rows.includes(pair.first) && rows.includes(pair.second) && isSo(pair, regs, actor)) see(pair.key)
        }
      },
      isShown: (key, play) => {
        const pair = pairs.find((one) => one.key === key)!
        const { machine, transition } = pair.first
        if (transition.when.kind !== 'press') return false
        const press = pressOn(play, machine, transition.when.pressKind)
        const regs = play.registers()
        return press !== null && transition.from.includes(regs[machine]!) && isSo(pair, regs, press.who)
      },
      goOn: (key, play) => {
        const { first } = pairs.find((one) => one.key === key)!
        const press = pressOn(
          play,
          first.machine,
          first.transition.when.kind === 'press' ? first.transition.when.pressKind : 0,
        )
        return press ? [press] : []
      },
    }
  },
  ask(context) {
    const { stage } = context
    const pairs = pairsOf(stage)
    return pairs.map((pair) =>
      witnessed(context, pair.key.slice(start.length), [pair.key], () => {
        const placed = stage.expanded.interactables[pair.first.machine]!
        const shared = pair.second.transition.from.find((state) => pair.first.transition.from.includes(state)) ?? 0
        return {
          path: pair.second.transition.path,
          facts: {
            interactable: placed.name,
            state: placed.states[shared]!.name,
            first: rowTitle(stage, pair.first),
            second: rowTitle(stage, pair.second),
          },
          grant: null,
        }
      }),
    )
  },
  says(facts) {
    return `While ${facts.interactable} is ${facts.state}, ${facts.first} and ${facts.second} can both be allowed at once, and always ${facts.first} is taken: only the order of the lines decides.`
  },
  fix() {
    return 'Ask in each for what sets it apart from the other, or make one a special case of the other.'
  },
}

const start = 'overlap '

interface Pair {
  readonly key: string
  readonly first: CompiledTransition
  readonly second: CompiledTransition
}

/** Rows for the same press from the same state that do different things, where neither guard implies the other. */
function pairsOf(stage: Stage): Pair[] {
  const presses = stage.tables.rows.filter((row) => row.transition.when.kind === 'press' && asks(row))
  return presses.flatMap((first, at) =>
    presses.slice(at + 1).flatMap((second): Pair[] => {
      if (!meet(first, second) || alike(first, second) || isSameInTheEnd(stage, first, second)) return []
      const [one, other] = [first.transition.guard, second.transition.guard]
      if (implies(one, other) || implies(other, one)) return []
      return [{ key: `${start}${rowSubject(stage, first)} ${rowTitle(stage, second)}`, first, second }]
    }),
  )
}

function asks({ transition: { guard, isRefusal } }: CompiledTransition): boolean {
  return !isRefusal && guard.kind !== 'never' && (guard.kind !== 'all' || guard.checks.length > 0)
}

function meet(first: CompiledTransition, second: CompiledTransition): boolean {
  const [one, other] = [first.transition.when, second.transition.when]
  const isSame = one.kind === 'press' && other.kind === 'press' && one.pressKind === other.pressKind
  const together = first.may.some((may, who) => may && second.may[who])
  return (
    isSame &&
    together &&
    first.machine === second.machine &&
    first.transition.from.some((state) => second.transition.from.includes(state))
  )
}

function alike(first: CompiledTransition, second: CompiledTransition): boolean {
  const what = ({ to, transition: { changes, feedback } }: CompiledTransition): string =>
    JSON.stringify([to, changes, feedback])
  return what(first) === what(second)
}

/** Whether it makes no difference which comes first: each can follow the other, and both ways round lead to the same state. */
function isSameInTheEnd({ tables }: Stage, first: CompiledTransition, second: CompiledTransition): boolean {
  if (first.to < 0 || second.to < 0) return false
  const own = tables.rowsOf[first.machine]!
  const after = (one: CompiledTransition, other: CompiledTransition): number[] =>
    own.flatMap((row) => (row.transition.from.includes(one.to) && doesTheSame(row, other) ? [row.to] : []))
  const ends = after(first, second)
  return after(second, first).some((end) => end >= 0 && ends.includes(end))
}

function doesTheSame({ transition: one }: CompiledTransition, { transition: other }: CompiledTransition): boolean {
  const what = ({ when, guard, changes, roles }: typeof one): string =>
    JSON.stringify([when, withoutPlaces(guard), changes, roles])
  return what(one) === what(other)
}
