import type { Placed } from '../../interactables/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { shutGround } from '../shared/cut-off.ts'
import { carriedIn } from '../shared/obstruction.ts'
import { rowSubject } from '../shared/rows.ts'
import { reaches, signalsOf } from '../shared/signals.ts'

/** What is known of a finding of this rule. */
export interface BypassedLockFacts {
  readonly interactable: string
  /** What it asks for, in the words for players. */
  readonly item: string
  /** The state that is left without it. */
  readonly state: string
  readonly signal: string
  /** What sends the signal. */
  readonly sender: string
}

/** A lock that asks for an item, and that a signal opens without it, sent by what everybody can work from the start. */
export const bypassedLock: Rule<BypassedLockFacts> = {
  name: 'bypassed-lock',
  severity: 'advice',
  ask: (context) => {
    const { stage, evidence } = context
    const { tables, expanded } = stage
    const { sent, heard } = signalsOf(stage)
    return heard.flatMap((listener) => {
      const row = tables.rows[listener.row]!
      const lock = lockLeft(tables.rowsOf[row.machine]!, row)
      if (lock === null) return []
      const subject = rowSubject(stage, row)
      const free = sent.find((sender) => reaches(sender, listener) && isFree(stage, tables.rows[sender.row]!))
      if (!free || evidence.dead[listener.row]!.answer === 'found') return [ruledOut(subject)]
      const facts = {
        interactable: listener.by.name,
        item: expanded.items[lock.item]!.title,
        state: listener.by.states[lock.state]!.name,
        signal: expanded.signals[listener.signal]!,
        sender: free.by.name,
      }
      return [found(subject, { path: listener.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, item, state, signal, sender }) {
    return `${interactable} asks for the ${item} while it is ${state}, but the signal "${signal}" opens it without: every player can work ${sender}, which sends it, from the start.`
  },
  fix({ sender }) {
    return `Put ${sender} behind the lock, let the signal unlock something else, or mark it test-only if it is there for trying things out.`
  },
}

/** The state that a transition leaves without an item that another one asks for there, and that item. */
function lockLeft(
  rows: readonly CompiledTransition[],
  { to, transition }: CompiledTransition,
): { readonly item: number; readonly state: number } | null {
  if (to < 0 || transition.isRefusal || carriedIn(transition.guard).length > 0) return null
  for (const other of rows) {
    const [item] = carriedIn(other.transition.guard)
    const isAsked = other.transition.when.kind === 'press' && other.to === to && !other.transition.isRefusal
    const state = other.transition.from.find((from) => from !== to && transition.from.includes(from))
    if (isAsked && item !== undefined && state !== undefined) return { item, state }
  }
  return null
}

/** Whether a player can set a transition off from the start, with everything as it is then, and needs nothing for it. */
function isFree(stage: Stage, { machine, transition }: CompiledTransition): boolean {
  const { expanded, space } = stage
  const { name, initial } = expanded.interactables[machine]!
  const isForTesting = expanded.level.interactables?.[name]?.['test-only'] === true
  const { when, guard, from, isRefusal } = transition
  if (isForTesting || isRefusal || when.kind !== 'press' || !from.includes(initial)) return false
  if (guard.kind !== 'all' || guard.checks.length > 0) return false
  return expanded.characters.some(({ role }, who) => {
    if (role !== 'player' || !transition.roles.includes(role)) return false
    const { patches } = space.patches[who]!
    return [...shutGround(stage, who)].some((patch) => answers(patches[patch]!.signature.candidates, machine))
  })
}

/** Whether something is what a press goes to, unless another thing hides it. */
function answers(candidates: readonly { readonly interactable: number }[], machine: Placed['index']): boolean {
  return candidates.some(({ interactable }) => interactable === machine)
}
