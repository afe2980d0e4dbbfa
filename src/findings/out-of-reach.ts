import type { Stage } from '../play/index.ts'
import { fromHand, nearestStanding, nearness, type Patch } from '../space/index.ts'
import { ruledOut, type Asked, type Facts, found, type Rule } from './rule.ts'

/** An interactable that asks for a press, but no spot is in range, in reach and in sight of it. */
export const outOfReach: Rule = {
  name: 'out-of-reach',
  severity: 'error',
  ask({ stage }) {
    const pressable = stage.expanded.interactables.filter(({ index }) => stage.space.layout.figures[index]!.pressable)
    const answering = stage.space.patches.map(({ patches }) => answeringOn(patches))
    return pressable.map(({ index }) => askOne(stage, index, answering))
  },
}

function askOne(stage: Stage, machine: number, answering: readonly ReadonlySet<number>[]): Asked {
  const { name, path } = stage.expanded.interactables[machine]!
  // Patches name what is within reach of some spot in them just where there is such a spot.
  if (whoMayAsk(stage, machine).some((who) => answering[who]!.has(machine))) return ruledOut(name)
  const facts: Facts = { rule: 'out-of-reach', interactable: name, nearest: nearestSpot(stage, machine) }
  return found(name, { path: `${path}.at`, facts, steps: [], grant: { grant: 'reach', machine } })
}

/** What is within reach on some of these patches. */
function answeringOn(patches: readonly Patch[]): Set<number> {
  return new Set(patches.flatMap(({ signature }) => signature.candidates.map(({ interactable }) => interactable)))
}

/** The characters that may set something of an interactable off by a press; all, where none may. */
export function whoMayAsk({ expanded }: Pick<Stage, 'expanded'>, machine: number): number[] {
  const { transitions } = expanded.interactables[machine]!
  const roles = new Set(transitions.flatMap((row) => row.roles))
  const may = expanded.characters.flatMap(({ role }, who) => (roles.has(role) ? [who] : []))
  return may.length > 0 ? may : expanded.characters.map((_, who) => who)
}

/** The spot nearest to the handle, and why it does not answer there. */
function nearestSpot({ space, expanded }: Stage, machine: number): Extract<Facts, { rule: 'out-of-reach' }>['nearest'] {
  const placed = expanded.interactables[machine]!
  const person = expanded.characters[whoMayAsk({ expanded }, machine)[0]!]!
  const { handle, rangeFrom } = space.layout.figures[machine]!
  const at = handle && nearestStanding(space.layout, [handle[0], handle[1]], person.radius)
  const near = at && nearness(space.layout, placed, person, at)
  if (!near || !rangeFrom) return null
  const why = near.why ?? 'behind-a-wall'
  return why === 'out-of-range'
    ? { at, distance: fromHand(at, person.hand, rangeFrom), limit: placed.radius, why }
    : { at, distance: near.distance, limit: person.reach, why }
}
