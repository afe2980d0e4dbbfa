import { stuckKey } from '../../explore/index.ts'
import { type Asked, undecided, type Rule, witnessed } from '../rule.ts'
import { beginsAnew } from '../shared/remembered.ts'
import { setOffBy } from '../shared/steps.ts'

/** What is known of a finding of this rule. */
export interface StuckStateFacts {
  readonly interactable: string
  readonly state: string
}

/** A machine in a state that nothing could make it leave any more, though the table says that something does. */
export const stuckState: Rule<StuckStateFacts> = {
  name: 'stuck-state',
  severity: 'warning',
  ask(context) {
    const { stage, evidence } = context
    return stage.expanded.interactables.flatMap((placed, machine) =>
      placed.states.flatMap(({ name, lasting, path }, state): Asked<StuckStateFacts>[] => {
        const isLeft = stage.tables.rowsOf[machine]!.some(
          (row) => row.to >= 0 && row.to !== state && row.transition.from.includes(state),
        )
        // One that begins anew leaves all states so, as soon as somebody leaves the level: that nobody can is told by itself.
        if (lasting || !isLeft || beginsAnew(context, machine)) return []
        const subject = `${placed.name}/${name}`
        const key = stuckKey + subject
        const why = evidence.untold.get(key)
        if (why !== undefined) return [undecided(subject, why)]
        const facts = { interactable: placed.name, state: name } as const
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
  says(facts) {
    return `${facts.interactable} can come to be ${facts.state} for good: its transitions would lead on, but nothing can trigger them any more, wherever characters stand and whatever they carry.`
  },
  fix() {
    return 'Add a transition that leads on from there, or let what it waits for come again.'
  },
}
