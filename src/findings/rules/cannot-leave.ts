import { leavesLevel, leavingKey, roomKeyStart } from '../requirements/confined.ts'
import { inLevel, levelIn } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import type { Asked, Context, Rule } from '../rule.ts'
import { askWayOut, type WayOutFacts } from '../shared/ways-out.ts'

/** A level of a project that a player can come to be unable to leave, while another level lies beyond its exits. */
export const cannotLeave: Rule<WayOutFacts> = {
  name: 'cannot-leave',
  severity: 'error',
  ask(context) {
    const isLeft = (stage: Stage): boolean =>
      stage.expanded.interactables.some(({ transitions }) => transitions.some(leavesLevel))
    if (context.of === 'level') {
      return context.project && isLeft(context.stage) ? askLeaving(context, null) : []
    }
    return context.parts.flatMap(({ name, stage }) => (isLeft(stage) ? askLeaving(context, name) : []))
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

/** Whether the way out of a level can be lost, but for what shuts players in one of its rooms: that is told of the room. */
function askLeaving(context: Context, level: string | null): Asked<WayOutFacts>[] {
  const named = (name: string): string => (level === null ? name : inLevel(level, name))
  const rooms = [...context.watching.keys()].filter(
    (key) => key !== named(leavingKey) && levelIn(key).level === level && levelIn(key).name.startsWith(roomKeyStart),
  )
  const shutting = new Set(
    rooms.flatMap((key) => askWayOut(context, key, key).flatMap(({ found }) => found.map(({ facts }) => facts.by))),
  )
  return askWayOut(context, named(leavingKey), named('level')).flatMap((asked) => {
    const found = asked.found.filter(({ facts: { by } }) => by === null || !shutting.has(by))
    return asked.answer === 'found' && found.length === 0 ? [] : [{ ...asked, found }]
  })
}
