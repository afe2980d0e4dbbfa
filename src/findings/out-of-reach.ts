import type { Stage } from '../play/index.ts'
import { fromHand, nearestStanding, nearness, type Sign } from '../space/index.ts'
import { absent, type Asked, type Facts, found, type Rule } from './rule.ts'

/** An interactable that asks for a press, but no spot is in range, in reach and in sight of it. */
export const outOfReach: Rule = {
  name: 'out-of-reach',
  severity: 'error',
  ask({ stage }) {
    const pressable = stage.expanded.interactables.filter(({ index }) => stage.space.layout.figures[index]!.pressable)
    return pressable.map(({ index }) => askOne(stage, index))
  },
}

function askOne(stage: Stage, machine: number): Asked {
  const { name, path } = stage.expanded.interactables[machine]!
  const grounds = whoMayAsk(stage, machine).map((who) => stage.space.patches[who]!)
  // Patches name what is within reach of some spot in them just where there is such a spot.
  if (grounds.some(({ patches }) => patches.some(({ sign }) => answersOn(sign, machine)))) return absent(name)
  const facts: Facts = { rule: 'out-of-reach', interactable: name, nearest: nearestSpot(stage, machine) }
  return found(name, { path: `${path}.at`, facts, steps: [], grant: { grant: 'reach', machine } })
}

/** The characters that may set something of an interactable off by a press; all, where none may. */
export function whoMayAsk({ expanded }: Pick<Stage, 'expanded'>, machine: number): number[] {
  const { transitions } = expanded.interactables[machine]!
  const roles = new Set(transitions.flatMap((row) => row.roles))
  const may = expanded.characters.flatMap(({ role }, who) => (roles.has(role) ? [who] : []))
  return may.length > 0 ? may : expanded.characters.map((_, who) => who)
}

/** Whether an interactable is within reach on a patch. */
export function answersOn({ candidates }: Sign, machine: number): boolean {
  return candidates.some(({ interactable }) => interactable === machine)
}

/** The spot nearest to the handle, and why it does not answer there. */
function nearestSpot({ space, expanded }: Stage, machine: number): Extract<Facts, { rule: 'out-of-reach' }>['nearest'] {
  const placed = expanded.interactables[machine]!
  const person = expanded.characters[whoMayAsk({ expanded }, machine)[0]!]!
  const { handle, rangeFrom } = space.layout.figures[machine]!
  const at = handle && nearestStanding(space.layout, [handle[0], handle[1]], person.girth)
  const near = at && nearness(space.layout, placed, person, at)
  if (!near || !rangeFrom) return null
  const why = near.why ?? 'behind-a-wall'
  return why === 'out-of-range'
    ? { at, distance: fromHand(at, person.hand, rangeFrom), limit: placed.radius, why }
    : { at, distance: near.distance, limit: person.reach, why }
}
