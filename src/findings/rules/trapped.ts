import { finish } from '../../model/index.ts'
import { inLevel } from '../../interactables/index.ts'
import { type Confined, openedFromOutside, roomKey } from '../requirements/confined.ts'
import { roomsAsked } from '../requirements/ways-out.ts'
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
  ask: (context) => finish(trapped.askInSlices!(context)),
  *askInSlices(context) {
    const rooms = yield* roomsAsked(context.stage, context.parts)
    return rooms.flatMap(({ room: one, part }) => {
      const named = (name: string): string => (part ? inLevel(part.name, name) : name)
      const outside = openedFromOutside(part?.stage ?? context.stage, one).map(named)
      return askWayOut(context, named(roomKey(one)), named(`${one.room}/${one.character}`)).map((asked) => ({
        ...asked,
        found: asked.found.map((each) => ({
          ...each,
          facts: { ...each.facts, room: named(one.room), character: one.character, outside },
        })),
      }))
    })
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
