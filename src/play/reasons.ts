import { type Check, zoneName } from '../interactables/index.ts'
import { fromReach, handlesWithin, nearness, pointsFor } from '../space/index.ts'
import type { NotAsked, Unmet } from './log.ts'
import type { Ongoing } from './ongoing.ts'

/** Interactables whose handles are farther away than this, in metres, are not near by. */
const nearBy = 4

/** Every pressable interactable near a character, nearest first, and why it is no candidate. */
export function nearby(play: Ongoing, character: number): NotAsked[] {
  const { expanded, space } = play.stage
  const person = expanded.characters[character]!
  const spot = play.spotOf(character)
  const close = new Set(handlesWithin(space, spot, nearBy))
  const found = expanded.interactables.flatMap((placed): NotAsked[] => {
    if (placed.radius <= nearBy && !close.has(placed.index)) return []
    if (!space.layout.figures[placed.index]!.pressable) return []
    const near = nearness(space.layout, placed, person, spot)
    if (!near || near.distance > Math.max(nearBy, placed.radius)) return []
    const hider = near.hiders.find(({ interactable }) => play.isHiding(interactable))
    const common = { interactable: placed.name, distance: Math.round(near.distance * 1000) / 1000 }
    const nothing = { limit: null, behind: null, state: null }
    if (near.why === 'out-of-range' && !play.within(character).includes(placed.index))
      return [{ ...common, ...nothing, why: near.why, limit: placed.radius }]
    const points = pointsFor(space.layout, placed.index, spot)
    if (near.why === 'out-of-reach' && points) {
      const distance = Math.round(fromReach(spot, person, points.handle) * 1000) / 1000
      return [{ ...common, distance, ...nothing, why: near.why, limit: person.reach }]
    }
    if (near.why === 'behind-a-wall' || near.why === 'stands-elsewhere' || near.why === 'at-another-height')
      return [{ ...common, ...nothing, why: near.why }]
    if (hider) {
      const behind = expanded.interactables[hider.interactable]!.name
      return [{ ...common, ...nothing, why: 'hidden', behind }]
    }
    if (play.isAnswering(placed.index, character)) return []
    if (expanded.characters.some((_, other) => play.isAnswering(placed.index, other))) {
      return [{ ...common, ...nothing, why: 'not-for-it', state: person.role }]
    }
    return [{ ...common, ...nothing, why: 'not-now', state: play.stateOf(placed.index) }]
  })
  return found.sort((a, b) => a.distance - b.distance)
}

/** A part of a condition that did not hold, in names. */
export function unmetNames(play: Ongoing, character: number, check: Check): Unmet {
  const { expanded } = play.stage
  switch (check.kind) {
    case 'carries': {
      const { name } = expanded.items[check.item]!
      return { carries: name, count: check.count, has: play.carried(character, check.item) }
    }
    case 'state': {
      const placed = expanded.interactables[check.interactable]!
      const is = check.states.map((state) => placed.states[state]!.name)
      return { interactable: placed.name, is, state: play.stateOf(check.interactable) }
    }
    case 'flag':
      return { flag: expanded.flags[check.flag]!.name, is: check.is }
    case 'room': {
      const { name, most } = expanded.items[check.item]!
      return { 'room-for': name, count: check.count, has: play.carried(character, check.item), most }
    }
    case 'counter': {
      const { name } = expanded.counters[check.counter]!
      return { counter: name, least: check.least, most: Math.min(check.most, 9999), is: play.countOf(check.counter) }
    }
    case 'inside': {
      return { inside: zoneName(expanded, check.zone), carrying: expanded.items[check.item]?.name ?? null }
    }
    case 'role':
      return { acts: check.roles, role: expanded.characters[character]!.role }
    case 'remembers': {
      const { interactable, name } = expanded.memories[check.memory]!
      return { remembers: name, of: expanded.interactables[interactable]!.name }
    }
    case 'contains': {
      const { interactable, item } = expanded.contents[check.content]!
      const of = expanded.interactables[interactable]!.name
      return { contains: expanded.items[item]!.name, of, count: check.count, has: play.leftIn(interactable, item) }
    }
    case 'fits':
      return {
        'room-in': expanded.interactables[expanded.contents[check.contents[0] ?? -1]?.interactable ?? -1]?.name ?? '',
      }
    case 'empty':
      return {
        empty: expanded.interactables[expanded.contents[check.contents[0] ?? -1]?.interactable ?? -1]?.name ?? '',
      }
    case 'dial': {
      const owner = expanded.interactables[expanded.wheels[check.wheel]!.interactable]!.name
      return { dial: owner }
    }
    case 'not':
      // Which of several parts holds is not told.
      return {
        not:
          check.check.kind === 'any' && check.check.checks.length > 1
            ? { unknown: '' }
            : unmetNames(play, character, check.check),
      }
    case 'never':
      return { unknown: check.name }
    default: {
      const [first] = check.checks
      return first ? unmetNames(play, character, first) : { unknown: '' }
    }
  }
}
