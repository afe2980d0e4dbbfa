import { finish } from '../../model/index.ts'
import { type Confined, confiningRooms, openedFromOutside, roomKey } from '../requirements/confined.ts'
import { type Rule } from '../rule.ts'
import { listed } from '../shared/texts.ts'
import { askWayOut, type WayOutFacts } from '../shared/ways-out.ts'

/** What is known of a finding of this rule. */
export interface TrappedFacts extends WayOutFacts, Confined {
  /** What shuts its doorways and can be pressed from elsewhere, but not from inside. */
  readonly outside: readonly string[]
}

/** A room that a player can come into, or be in, and can never get out of again. */
export const trapped: Rule<TrappedFacts> = {
  name: 'trapped',
  severity: 'error',
  isByLevel: true,
  ask: (context) => finish(trapped.askInSlices!(context)),
  *askInSlices(context) {
    const rooms = yield* confiningRooms(context.stage)
    return rooms.flatMap((one) =>
      askWayOut(context, roomKey(one), `${one.room}/${one.character}`).map((asked) => ({
        ...asked,
        found: asked.found.map((each) => ({
          ...each,
          facts: { ...each.facts, ...one, outside: openedFromOutside(context.stage, one) },
        })),
      })),
    )
  },
  says({ room, character, by, outside }) {
    const when = by === null ? '' : `: once ${by} has been taken at the wrong time, nothing lets that player out`
    const pressed = outside.length === 0 ? '' : ` From inside, ${listed(outside)} cannot be pressed.`
    return `${character} can be trapped in ${room} for good${when}.${pressed}`
  },
  fix({ room }) {
    return `Let something in ${room} open a way out, whatever was done before.`
  },
}
