import type { Answer, Evidence } from '../explore/index.ts'
import { happens, leadingTo, reasonTexts, type Refusal, refusalsOf, rowTitle } from '../findings/index.ts'
import type { CompiledTransition } from '../machine/index.ts'
import { mapped, type Moment, moments } from '../model/index.ts'
import type { Stage } from '../play/index.ts'

/** What a walkthrough can exercise. */
export const coverKinds = ['state', 'transition', 'refusal', 'feedback'] as const

/** A kind of thing that walkthroughs exercise. */
export type CoverKind = (typeof coverKinds)[number]

/** Something that can happen in a level. */
export interface Item {
  readonly kind: CoverKind
  /** What a play that came to it is known by: see `Exercised`. */
  readonly key: string
  readonly interactable: string
  /** In words, without the interactable. */
  readonly text: string
  /** Whether a play has shown that it can happen; else that is undecided. */
  readonly isPossible: boolean
}

export const stateKey = (machine: number, state: number): string => `state ${String(machine)} ${String(state)}`
export const rowKey = (row: number): string => `row ${String(row)}`
export const momentItemKey = (machine: number, moment: Moment): string => `moment ${String(machine)} ${moment}`

/** All that can happen in a level as far as it was explored, by interactable; what was ruled out is not in it. */
export function* itemsOf(stage: Stage, evidence: Evidence): Generator<undefined, Item[]> {
  const all = yield* mapped(stage.expanded.interactables, (_, machine) => [
    ...statesOf(stage, evidence, machine),
    ...transitionsOf(stage, evidence, machine),
    ...refusedOf(stage, evidence, machine),
    ...feedbackOf(stage, evidence, machine),
  ])
  return all.flat()
}

function statesOf({ expanded, tables }: Stage, { dead }: Evidence, machine: number): Item[] {
  const { name, states, initial } = expanded.interactables[machine]!
  return states.flatMap((state, index): Item[] => {
    const answers = leadingTo(tables, machine, index).map((row) => dead[row]!.answer)
    const isPossible = index === initial || answers.includes('ruled-out')
    if (!isPossible && !answers.includes('undecided')) return []
    return [{ kind: 'state', key: stateKey(machine, index), interactable: name, text: state.name, isPossible }]
  })
}

function transitionsOf(stage: Stage, { dead }: Evidence, machine: number): Item[] {
  const { name } = stage.expanded.interactables[machine]!
  return stage.tables.rowsOf[machine]!.flatMap((row): Item[] => {
    const { answer } = dead[row.index]!
    if (row.transition.isRefusal || answer === 'found') return []
    const text = transitionText(stage, row)
    return [
      { kind: 'transition', key: rowKey(row.index), interactable: name, text, isPossible: answer === 'ruled-out' },
    ]
  })
}

function transitionText(stage: Stage, row: CompiledTransition): string {
  const { states } = stage.expanded.interactables[row.machine]!
  const from = row.transition.from.map((state) => states[state]!.name).join(' or ')
  const title = rowTitle(stage, row)
  return row.to < 0 ? `${title} (in ${from})` : `${title} (${from} → ${states[row.to]!.name})`
}

function refusedOf(stage: Stage, evidence: Evidence, machine: number): Item[] {
  const { name } = stage.expanded.interactables[machine]!
  return refusalsOf({ stage, evidence }, machine).map((refusal) => ({
    kind: 'refusal',
    key: refusal.key,
    interactable: name,
    text: refusalText(stage, refusal),
    isPossible: (evidence.witnesses.get(refusal.key)?.shown ?? null) !== null,
  }))
}

function refusalText(stage: Stage, { row, reasons, missing, crowded }: Refusal): string {
  const { expanded } = stage
  const { states } = expanded.interactables[row.machine]!
  const titles = (items: readonly number[]): string => items.map((item) => expanded.items[item]!.title).join(', ')
  const parts = reasons.flatMap((reason) => {
    if (reason === 'carries' && missing.length > 0) return [`item missing: ${titles(missing)}`]
    if (reason === 'room-for' && crowded.length > 0) return [`no room: ${titles(crowded)}`]
    return reasonTexts[reason] === '' ? [] : [reasonTexts[reason]]
  })
  const from = row.transition.from.map((state) => states[state]!.name).join(' or ')
  return `${rowTitle(stage, row)} refused in ${from}${parts.length === 0 ? '' : ` (${parts.join('; ')})`}`
}

/** The moments that something is to be perceived of, and that can come. */
function feedbackOf(stage: Stage, evidence: Evidence, machine: number): Item[] {
  const { name, feedback } = stage.expanded.interactables[machine]!
  return moments.flatMap((moment): Item[] => {
    if ((feedback[moment] ?? []).length === 0) return []
    const { answer }: Answer = happens({ stage, evidence }, machine, moment)
    if (answer === 'found') return []
    const key = momentItemKey(machine, moment)
    return [{ kind: 'feedback', key, interactable: name, text: moment, isPossible: answer === 'ruled-out' }]
  })
}
