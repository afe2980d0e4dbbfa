import { goalText } from '../shared/texts.ts'
import { askLosses, lossOf, type LossFacts } from '../shared/losing.ts'
import type { Rule } from '../rule.ts'

/** A goal that a player can lose for good. */
export const softLock: Rule<LossFacts> = {
  name: 'soft-lock',
  severity: 'error',
  isAboutGoals: true,
  ask: (context) => askLosses(context, 'soft-lock'),
  losing: lossOf,
  says(facts) {
    return `${afterText(facts)} the goal ${goalText(facts)} can never be met any more, whatever the player does.`
  },
  fix({ chance }) {
    if (chance !== null) return 'Leave nothing that the goal needs to chance alone, or let it be drawn again.'
    return 'Keep the way back open: let it be undone, or let the transition ask for what must be done before.'
  },
}

function afterText({ interactable, transition, chance }: LossFacts): string {
  if (chance !== null) return `Where chance draws ${chance} from ${interactable ?? ''},`
  return interactable === null || transition === null
    ? 'A player can come to where'
    : `Once ${interactable} has made its transition ${transition} at the wrong time,`
}
