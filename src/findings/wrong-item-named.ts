import { refusalsOf, tellingPath, wrongItem } from './refusals.ts'
import { type Rule, witnessed } from './rule.ts'

/** A refusal whose message names another item than the one that is missing, or that there is no room for. */
export const wrongItemNamed: Rule = {
  name: 'wrong-item-named',
  severity: 'warning',
  ask(context) {
    const { stage } = context
    return stage.expanded.interactables.flatMap((placed, machine) => {
      const all = refusalsOf(context, machine).filter(({ missing, crowded }) => missing.length + crowded.length > 0)
      if (all.length === 0) return []
      const wrong = all.filter((refusal) => wrongItem(stage, refusal) !== null)
      const asked = witnessed(
        context,
        placed.name,
        wrong.map(({ key }) => key),
        (key) => {
          const refusal = wrong.find((one) => one.key === key)!
          const { message, names } = wrongItem(stage, refusal)!
          const title = (item: number): string => stage.expanded.items[item]!.title
          return {
            path: tellingPath(stage, refusal),
            facts: {
              rule: 'wrong-item-named',
              interactable: placed.name,
              message,
              names: title(names),
              about: title(refusal.missing[0] ?? refusal.crowded[0]!),
              isMissing: refusal.missing.length > 0,
            },
            grant: null,
          }
        },
      )
      const [first] = asked.found
      return [{ ...asked, found: first ? [first] : [] }]
    })
  },
}
