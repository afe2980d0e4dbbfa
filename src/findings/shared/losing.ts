import type { Loss, Possible } from '../../explore/index.ts'
import type { Stage } from '../../play/index.ts'
import { rowSubject, rowTitle } from './rows.ts'
import { listed } from './texts.ts'
import { ruledOut, type Asked, type Context, found, type Found, undecided } from '../rule.ts'

/** What is known of a goal that can be lost. */
export interface LossFacts {
  readonly goal: string
  readonly title: string | null
  readonly interactable: string | null
  readonly transition: string | null
  /** What chance draws for it, where chance decides. */
  readonly chance: string | null
  /** What it spends. */
  readonly items: readonly string[]
}

/**
 * The questions about losing goals: `wasted-item` where the losing transition spends something, else `soft-lock`.
 * Goals that cannot be met anyway are not asked about.
 */
export function askLosses({ stage, evidence }: Context, rule: 'soft-lock' | 'wasted-item'): Asked<LossFacts>[] {
  return stage.expanded.goals.flatMap(({ name }, goal) => {
    const answer = evidence.softLocks[goal]
    if (!answer) return []
    if (answer.answer === 'undecided') return [undecided(name, answer.why)]
    const own = evidence.losses[goal]!.filter((loss) => spentBy(stage, loss).length > 0 === (rule === 'wasted-item'))
    const without = evidence.byStart.filter((one) => one.evidence.unreachable[goal]!.answer === 'found')
    const but = without.length > 0 ? `not by a player who starts at ${listed(without.map(({ start }) => start))}` : null
    return [
      own.length === 0 ? ruledOut(name, but) : found(name, ...own.map((loss) => foundLoss(stage, goal, loss, rule))),
    ]
  })
}

function foundLoss(stage: Stage, goal: number, loss: Loss, rule: 'soft-lock' | 'wasted-item'): Found<LossFacts> {
  const { name, title, path } = stage.expanded.goals[goal]!
  const row = loss.row === null ? null : stage.tables.rows[loss.row]!
  return {
    path: row ? ((rule === 'wasted-item' ? row.transition.spends : null) ?? row.transition.path) : path,
    facts: {
      goal: name,
      title,
      interactable: row ? stage.expanded.interactables[row.machine]!.name : null,
      transition: row ? rowTitle(stage, row) : null,
      chance:
        row?.transition.when.kind === 'press' ? stage.expanded.pressKinds[row.transition.when.pressKind]!.chance : null,
      items: spentBy(stage, loss),
    },
    steps: loss.steps,
    short: loss.short,
    lastSafe: loss.lastSafe,
    grant: row ? { grant: 'harmless', row: row.index } : null,
  }
}

function spentBy({ tables, expanded }: Stage, loss: Loss): string[] {
  if (loss.row === null) return []
  return tables.rows[loss.row]!.transition.changes.flatMap((change) =>
    change.kind === 'consume' ? [expanded.items[change.item]!.title] : [],
  )
}

/** The goal that is lost, and the transition that loses it. */
export function lossOf({ goal, interactable, transition }: LossFacts): { goal: string; subject: string | null } {
  return { goal, subject: interactable === null ? null : `${interactable}/${transition ?? ''}` }
}

/** Whether a goal is lost by a transition where so much is possible; null: without a transition to blame. */
export function isLosing(
  { expanded, tables }: Stage,
  now: Possible,
  { goal, subject }: { readonly goal: string; readonly subject: string | null },
): boolean {
  const losing = now.losing[expanded.goals.findIndex(({ name }) => name === goal)]!
  if (subject === null) return losing.has(-1)
  return [...losing].some((row) => row >= 0 && rowSubject({ expanded, tables }, tables.rows[row]!) === subject)
}
