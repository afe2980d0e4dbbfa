import type { Stage } from '../play/index.ts'
import { middleOf, nearness, type Sign } from '../space/index.ts'
import { absent, type Asked, found, open, type Facts, type Rule } from './rule.ts'

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
  const answering = grounds.flatMap(({ patches }) => patches.filter(({ sign }) => answersOn(sign, machine)))
  if (answering.some(({ sure }) => sure)) return absent(name)
  if (answering.length > 0 || grounds.some(({ tooCoarse }) => tooCoarse))
    return open(name, 'the spots in reach, if any, are smaller than the resolution tells')
  const facts: Facts = { rule: 'out-of-reach', interactable: name, nearest: nearestSpot(stage, machine) }
  return found(name, { path: `${path}.at`, facts, steps: [], grant: { grant: 'reach', machine } })
}

/** The characters that may set something of an interactable off by a press; all, where none may. */
export function whoMayAsk({ expanded }: Stage, machine: number): number[] {
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
function nearestSpot(stage: Stage, machine: number): Extract<Facts, { rule: 'out-of-reach' }>['nearest'] {
  const placed = stage.expanded.interactables[machine]!
  const who = whoMayAsk(stage, machine)[0]!
  const person = stage.expanded.characters[who]!
  const { grid } = stage.space.patches[who]!
  let best: { distance: number; why: string; limit: number } | null = null
  for (let cell = 0; cell < grid.stands.length; cell++) {
    if (grid.stands[cell] === 0) continue
    const near = nearness(stage.space.layout, placed, person, middleOf(grid, cell), 0)
    if (!near || (best && near.distance >= best.distance)) continue
    const limit = near.why === 'out-of-range' ? placed.radius : person.reach
    best = { distance: near.distance, why: near.why ?? 'out-of-reach', limit }
  }
  return best
}
