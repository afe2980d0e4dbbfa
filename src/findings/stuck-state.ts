import { stuckKey } from '../explore/index.ts'
import { undecided, type Rule, witnessed } from './rule.ts'
import { setOffBy } from './steps.ts'

/** A machine in a state that nothing could make it leave any more, though the table says that something does. */
export const stuckState: Rule = {
  name: 'stuck-state',
  severity: 'warning',
  ask(context) {
    const { stage, evidence } = context
    return stage.expanded.interactables.flatMap((placed, machine) =>
      placed.states.flatMap(({ name, lasting, path }, state) => {
        const isLeft = stage.tables.rowsOf[machine]!.some(
          (row) => row.to >= 0 && row.to !== state && row.transition.from.includes(state),
        )
        if (lasting || !isLeft) return []
        const subject = `${placed.name}/${name}`
        const key = stuckKey + subject
        const why = evidence.untold.get(key)
        if (why !== undefined) return [undecided(subject, why)]
        const facts = { rule: 'stuck-state', interactable: placed.name, state: name } as const
        const asked = witnessed(context, subject, [key], () => ({ path, facts, grant: null }))
        const found = asked.found.map((one) => {
          // The step from which on nothing leads out of it is to blame, not the last one.
          const row = setOffBy(stage, one.steps.slice(0, evidence.witnesses.get(key)?.shown?.lostAfter))
          if (!row) return one
          return {
            ...one,
            isPlacedBySteps: true,
            path: row.transition.path,
            grant: { grant: 'harmless', row: row.index } as const,
          }
        })
        return [{ ...asked, found }]
      }),
    )
  },
}
