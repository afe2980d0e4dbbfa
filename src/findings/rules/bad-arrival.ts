import { surroundings } from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { arrivalsAt } from '../shared/arrivals.ts'

/** What is known of a finding of this rule. */
export interface BadArrivalFacts {
  readonly place: string
  /** What leads there; null: the project starts there. */
  readonly by: string | null
  readonly body: string
  readonly state: string
}

/** A place at which a player arrives within a body that blocks the way: at first, before anybody has opened it. */
export const badArrival: Rule<BadArrivalFacts> = {
  name: 'bad-arrival',
  severity: 'warning',
  isByLevel: true,
  ask(context) {
    const { expanded, space, tables } = context.stage
    const person = expanded.characters[tables.firstPlayer]!
    return arrivalsAt(context).map(({ place, by }) => {
      const { name, at } = expanded.places[place]!
      const subject = `${name}/${by ?? 'start'}`
      const body = surroundings(space, person, at).bodies.find((one) => {
        const { states, initial } = expanded.interactables[one]!
        return states[initial]!.blocksWalk
      })
      if (body === undefined) return ruledOut(subject)
      const { name: other, states, initial } = expanded.interactables[body]!
      const facts = { place: name, by, body: other, state: states[initial]!.name }
      const spots = [{ at, text: `arrives in ${other}` }]
      return found(subject, { path: `places.${name}.at`, facts, steps: [], grant: null, spots })
    })
  },
  says({ place, by, body, state }) {
    const who = by === null ? 'A player who starts the project' : `A player who comes through ${by}`
    return `${who} arrives at ${place}, in the middle of ${body}, which is ${state} at first and blocks the way.`
  },
  fix({ body }) {
    return `Move the place away from ${body}.`
  },
}
