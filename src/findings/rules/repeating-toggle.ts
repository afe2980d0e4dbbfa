import type { CompiledTransition } from '../../machine/index.ts'
import { likely } from '../shared/edits.ts'
import { rowTitle } from '../shared/rows.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface RepeatingToggleFacts {
  readonly interactable: string
  readonly there: string
  readonly back: string
  /** In ms. */
  readonly every: number
}

/** A press that repeats while it is kept down, on something that it switches to and fro. */
export const repeatingToggle: Rule<RepeatingToggleFacts> = {
  name: 'repeating-toggle',
  severity: 'warning',
  isByLevel: true,
  ask({ stage }) {
    return stage.expanded.interactables.flatMap(({ name }, machine) => {
      const own = stage.tables.rowsOf[machine]!
      const repeating = own.filter((row) => everyOf(row) > 0)
      if (repeating.length === 0) return []
      for (const row of repeating) {
        const back = own.find((other) => isWayBack(row, other))
        if (!back) continue
        const facts = {
          interactable: name,
          there: rowTitle(stage, row),
          back: rowTitle(stage, back),
          every: everyOf(row),
        }
        return [found(name, { path: row.transition.path, facts, steps: [], grant: null })]
      }
      return [ruledOut(name)]
    })
  },
  says({ interactable, there, back, every }) {
    return `A press on ${interactable} repeats every ${String(every / 1000)} s while it is kept down, and takes ${there} and ${back} by turns: how it ends up is a matter of luck.`
  },
  fix() {
    return 'Leave out every:, or let the press lead on instead of back.'
  },
  edit({ path }) {
    return path.startsWith('types.') ? likely({ do: 'remove', path: `${path}.trigger.every` }) : null
  },
}

function everyOf({ transition: { when } }: CompiledTransition): number {
  return when.kind === 'press' ? when.every : 0
}

/** Whether the same press leads back from where a transition leads. */
function isWayBack(row: CompiledTransition, other: CompiledTransition): boolean {
  const [one, two] = [row.transition.when, other.transition.when]
  if (one.kind !== 'press' || two.kind !== 'press' || one.pressKind !== two.pressKind || row.to < 0) return false
  const leads = other.transition.from.includes(row.to) && row.transition.from.includes(other.to)
  return leads && !row.transition.from.includes(row.to)
}
