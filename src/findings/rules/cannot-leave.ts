import { leavesLevel, leavingKey } from '../requirements/confined.ts'
import { type Context, type Rule } from '../rule.ts'
import { carriedIn } from '../shared/obstruction.ts'
import { askWayOut, type WayOutFacts } from '../shared/ways-out.ts'

/** A level of a project that a player can come to be unable to leave, while another level lies beyond its exits. */
export const cannotLeave: Rule<WayOutFacts> = {
  name: 'cannot-leave',
  severity: 'error',
  ask(context) {
    const isLeft = context.stage.expanded.interactables.some(({ transitions }) => transitions.some(leavesLevel))
    return !context.project || !isLeft || isHelpedFromElsewhere(context) ? [] : askWayOut(context, leavingKey, 'level')
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

/** Whether something in the level asks for an item that another level gives: with it, there may be a way. */
function isHelpedFromElsewhere({ stage, project }: Context): boolean {
  const { tables, expanded } = stage
  const asked = new Set(
    tables.rows.flatMap(({ transition }) => carriedIn(transition.guard).map((item) => expanded.items[item]!.name)),
  )
  return Object.entries(project!.levels).some(
    ([name, other]) =>
      name !== project!.level &&
      other.interactables.some(({ transitions }) =>
        transitions.some(({ changes }) =>
          changes.some((change) => change.kind === 'give' && asked.has(other.items[change.item]!.name)),
        ),
      ),
  )
}
