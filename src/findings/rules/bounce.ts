import type { Stage } from '../../play/index.ts'
import { surroundings } from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { arrivalsAt } from '../shared/arrivals.ts'

/** What is known of a finding of this rule. */
export interface BounceFacts {
  readonly place: string
  /** What leads there, and from which level. */
  readonly by: string
  readonly from: string
  /** What sends the player on at once, and where to. */
  readonly exit: string
  readonly zone: string
  readonly to: string
}

/** A place at which a player arrives within the zone of an exit, and is sent on, or back, at once. */
export const bounce: Rule<BounceFacts> = {
  name: 'bounce',
  severity: 'error',
  isByLevel: true,
  ask(context) {
    const { stage } = context
    const { expanded, space, tables } = stage
    const person = expanded.characters[tables.firstPlayer]!
    return arrivalsAt(context).flatMap(({ place, from, by }) => {
      const { name, at } = expanded.places[place]!
      if (by === null || from === null) return []
      const { zones } = surroundings(space, person, at)
      const sender = zones.flatMap((zone) => tables.rows.flatMap((row) => sendingOn(stage, row, zone)))[0]
      const subject = `${name}/${by}`
      if (!sender) return [ruledOut(subject)]
      const facts = {
        place: name,
        by,
        from,
        exit: sender.exit,
        zone: expanded.zones[sender.zone]!.name,
        to: sender.to,
      }
      const spots = [{ at, text: `arrives in ${sender.exit}` }]
      const grant = { grant: 'idle', row: sender.row } as const
      return [found(subject, { path: `places.${name}.at`, facts, steps: [], grant, spots })]
    })
  },
  says({ place, by, from, exit, zone, to }) {
    return `A player who comes through ${by} from ${from} arrives at ${place}, within ${exit}/${zone}, and is sent to ${to} at once.`
  },
  fix({ exit }) {
    return `Move the place out of ${exit}, or let ${exit} ask for a press.`
  },
}

/** Where an exit sends a player who comes into a zone, whatever is carried: in its first state, without a guard. */
function sendingOn(
  { expanded }: Stage,
  { index: row, machine, transition }: Stage['tables']['rows'][number],
  zone: number,
): { row: number; exit: string; zone: number; to: string }[] {
  const { from, when, guard, changes } = transition
  const { name, initial } = expanded.interactables[machine]!
  const isFree = guard.kind === 'all' && guard.checks.length === 0
  if (when.kind !== 'enter' || when.zone !== zone || !from.includes(initial) || !isFree) return []
  return changes.flatMap((change) => (change.kind === 'exit-to' ? [{ row, exit: name, zone, to: change.level }] : []))
}
