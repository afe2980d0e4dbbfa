import { leavesLevel, leavingKey } from '../requirements/confined.ts'
import type { Rule } from '../rule.ts'
import { askWayOut, type WayOutFacts } from '../shared/ways-out.ts'

/** A level of a project that a player can come to be unable to leave, while another level lies beyond its exits. */
export const cannotLeave: Rule<WayOutFacts> = {
  name: 'cannot-leave',
  severity: 'error',
  isByLevel: true,
  ask(context) {
    const isLeft = context.stage.expanded.interactables.some(({ transitions }) => transitions.some(leavesLevel))
    return context.project && isLeft ? askWayOut(context, leavingKey, 'level') : []
  },
  says({ by }) {
    return by === null
      ? 'A player can come to where no exit of the level can ever be taken any more.'
      : `Once ${by} has been taken at the wrong time, no exit of the level can ever be taken any more.`
  },
  fix() {
    return 'Keep the way to one of the exits open, whatever was done before.'
  },
}
