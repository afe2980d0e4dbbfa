import { stormKey } from '../explore/index.ts'
import { rowTitle } from './dead-transition.ts'
import { keysOf, type Rule, witnessed } from './rule.ts'

/** Signals that set one another off without end: the play stops. */
export const signalStorm: Rule = {
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
            rule: 'signal-storm',
            interactable: row ? expanded.interactables[row.machine]!.name : null,
            transition: row ? rowTitle(context.stage, row) : null,
            signals: [...new Set(sends.map(({ signal }) => expanded.signals[signal]!))],
          },
          grant: row ? { grant: 'muted', row: row.index } : null,
        }
      }),
    ]
  },
}
