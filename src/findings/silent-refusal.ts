import { rowTitle } from './dead-transition.ts'
import { refusalLookout, refusalsOf } from './refusals.ts'
import { type Context, type Found, type Rule, sighted } from './rule.ts'

/** A press that is refused, and nothing tells the player so. */
export const silentRefusal: Rule = {
  name: 'silent-refusal',
  severity: 'warning',
  lookout: refusalLookout,
  ask(context) {
    return context.stage.expanded.interactables.flatMap((placed, machine) => {
      if (!placed.transitions.some(({ when }) => when.kind === 'press')) return []
      const silent = refusalsOf(context, machine).filter(({ entries }) => entries.length === 0)
      const keys = silent.map(({ key }) => key)
      const asked = sighted(context, placed.name, keys, (key) => {
        const refusal = silent.find((one) => one.key === key)!
        return toldOf(context, machine, refusal)
      })
      return [{ ...asked, found: fewestOfEach(asked.found) }]
    })
  },
}

function toldOf(
  { stage }: Context,
  machine: number,
  { row, reasons, missing }: ReturnType<typeof refusalsOf>[number],
): Omit<Found, 'steps'> {
  const placed = stage.expanded.interactables[machine]!
  return {
    path: row.transition.path,
    facts: {
      rule: 'silent-refusal',
      interactable: placed.name,
      transition: rowTitle(stage, row),
      state: placed.states[row.transition.from[0]!]!.name,
      reasons,
      items: missing.map((item) => stage.expanded.items[item]!.title),
    },
    grant: null,
  }
}

/** Refusals of one transition for several reasons that need the same words are told once: the one that is met first. */
function fewestOfEach(all: readonly Found[]): Found[] {
  const kept = new Map<string, Found>()
  for (const one of all) {
    const known = kept.get(one.path ?? '')
    if (!known || one.steps.length < known.steps.length) kept.set(one.path ?? '', one)
  }
  return [...kept.values()]
}
