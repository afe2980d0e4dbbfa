import { isForOneSense, refusalsOf, tellingPath, toldBy } from './refusals.ts'
import { type Rule, witnessed } from './rule.ts'

/** A refusal that only an ear, or only a hand, perceives. */
export const oneChannel: Rule = {
  name: 'one-channel',
  severity: 'advice',
  ask(context) {
    return context.stage.expanded.interactables.flatMap((placed, machine) => {
      const all = refusalsOf(context, machine)
      if (all.length === 0) return []
      const narrow = all.filter((refusal) => isForOneSense(toldBy(refusal)))
      const asked = witnessed(
        context,
        placed.name,
        narrow.map(({ key }) => key),
        (key) => {
          const refusal = narrow.find((one) => one.key === key)!
          const channels = toldBy(refusal)
          return {
            path: tellingPath(context.stage, refusal),
            facts: { rule: 'one-channel', interactable: placed.name, moment: refusal.moment, channels },
            grant: null,
          }
        },
      )
      const [first] = asked.found
      return [{ ...asked, found: first ? [first] : [] }]
    })
  },
}
