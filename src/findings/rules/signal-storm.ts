import { stormKey } from '../../explore/index.ts'
import { rowTitle } from '../shared/rows.ts'
import { keysOf, type Rule, witnessed } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface SignalStormFacts {
  readonly interactable: string | null
  readonly transition: string | null
  readonly signals: readonly string[]
}

/** Signals that set one another off without end: the play stops. */
export const signalStorm: Rule<SignalStormFacts> = {
  name: 'signal-storm',
  severity: 'error',
  ask(context) {
    const { expanded, tables } = context.stage
    if (expanded.signals.length === 0) return []
    const keys = keysOf(context, stormKey)
    return [
      witnessed(context, 'level', keys, (key) => {
        const [name, place] = key.slice(stormKey.length).split('/')
        const row = tables.rows.find(
          (one) => expanded.interactables[one.machine]!.name === name && String(one.place) === place,
        )
        const sends = (row?.transition.changes ?? []).flatMap((change) => (change.kind === 'send' ? [change] : []))
        return {
          path: sends[0]?.path ?? row?.transition.path ?? null,
          facts: {
            interactable: row ? expanded.interactables[row.machine]!.name : null,
            transition: row ? rowTitle(context.stage, row) : null,
            signals: [...new Set(sends.map(({ signal }) => expanded.signals[signal]!))],
          },
          grant: row ? { grant: 'muted', row: row.index } : null,
        }
      }),
    ]
  },
  says(facts) {
    return `Signals set one another off without end${facts.interactable === null ? '' : `, by way of ${facts.interactable} (${facts.transition ?? ''})`}: the play stops there.`
  },
  fix() {
    return 'Let one of the transitions in the circle send nothing, or hear nothing in that state.'
  },
}
