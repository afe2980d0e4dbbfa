import type { CompiledTransition } from '../../machine/index.ts'
import { channelOf, type Feedback } from '../../model/index.ts'
import { type Stage, toldTo } from '../../play/index.ts'
import { found, type Rule, ruledOut, undecided } from '../rule.ts'
import { areSameLook } from './same-look.ts'
import { likely } from '../shared/edits.ts'
import { looksAlike } from '../shared/looks.ts'
import { rowSubject, rowTitle } from '../shared/rows.ts'
import { listed } from '../shared/texts.ts'
import { toldBySuccess } from '../shared/told.ts'

/** What is known of a finding of this rule. */
export interface UntoldOthersFacts {
  readonly interactable: string
  readonly transition: string
  readonly from: string
  readonly to: string
  /** What the one who acts perceives: the channels. */
  readonly told: readonly string[]
  /** Why it concerns them: it blocks differently, or answers them differently. */
  readonly concern: 'blocks' | 'answers'
}

/** A change of state that concerns other players, and of which only the player who acts perceives anything. */
export const untoldOthers: Rule<UntoldOthersFacts> = {
  name: 'untold-others',
  severity: 'warning',
  ask({ stage, evidence }) {
    const { expanded, tables } = stage
    return tables.rows.flatMap((row) => {
      const concerned = concernedBy(stage, row)
      if (!concerned) return []
      const subject = rowSubject(stage, row)
      const entries = toldBySuccess(stage, row)
      const answer = evidence.dead[row.index]!
      if (entries.length === 0 || !entries.every(isForActor) || answer.answer === 'found') return [ruledOut(subject)]
      if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
      const placed = expanded.interactables[row.machine]!
      const facts = {
        interactable: placed.name,
        transition: rowTitle(stage, row),
        from: placed.states[concerned.from]!.name,
        to: placed.states[row.to]!.name,
        told: [...new Set(entries.map(channelOf))],
        concern: concerned.concern,
      } as const
      return [found(subject, { path: row.transition.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, transition, from, to, told, concern }) {
    const why = concern === 'blocks' ? 'blocks differently' : 'answers differently'
    return `When a player takes ${interactable} from ${from} to ${to} (${transition}), other players perceive nothing of it, although it ${why} from then on: the ${listed(told)} ${told.length > 1 ? 'are' : 'is'} for the player who acts, and nothing that can be seen changes.`
  },
  fix() {
    return 'Add a sound, or say to: all at what is told, or let the two states look different.'
  },
  edit({ stage, path, facts }) {
    const placed = stage.expanded.interactables.find(({ name }) => name === facts.interactable)
    const own = placed?.transitions.find((row) => row.path === path)?.feedback ?? []
    return path.startsWith('types.') && own.length > 0
      ? likely({ do: 'add', path: `${path}.feedback.0`, key: 'to', value: 'all' })
      : null
  },
}

/** What somebody has to do for a transition: there is one who acts, and the others are not that one. */
const acts = ['press', 'hold', 'release', 'enter', 'leave']

function isForActor(entry: Feedback): boolean {
  return toldTo(entry) === 'actor'
}

/** The players whom a change of state concerns that looks like none; null where it concerns nobody but the one who acts. */
function concernedBy(
  { expanded }: Stage,
  { machine, to, transition }: CompiledTransition,
): { readonly from: number; readonly concern: UntoldOthersFacts['concern'] } | null {
  const placed = expanded.interactables[machine]!
  const players = expanded.characters.filter(({ role }) => role === 'player')
  const isPlaced = placed.at !== null || placed.doorway !== null
  if (players.length < 2 || !isPlaced || transition.isRefusal || to < 0 || !acts.includes(transition.when.kind))
    return null
  const from = transition.from.find((one) => one !== to && looksAlike(placed, one, to) && !areSameLook(placed, one, to))
  if (from === undefined) return null
  const [before, after] = [placed.states[from]!, placed.states[to]!]
  if (before.blocksWalk !== after.blocksWalk || before.blocksSight !== after.blocksSight) {
    return { from, concern: 'blocks' }
  }
  const isAsked = placed.transitions.some(
    (row) =>
      row.from.includes(from) !== row.from.includes(to) && row.roles.includes('player') && acts.includes(row.when.kind),
  )
  return isAsked ? { from, concern: 'answers' } : null
}
