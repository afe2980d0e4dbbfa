import type { Level } from '../model/index.ts'
import type { Draft } from './draft.ts'
import type { Wheel, ZoneOf } from './placed.ts'
import type { Row } from './present.ts'
import { zoneAsked } from './rows.ts'
import { scaledZone } from './scale.ts'
import { filledIn } from './template.ts'

/** The zones that something asks about, whatever they belong to, and the rooms; what nothing asks about leaves no trace. */
export function placeZones(
  level: Level,
  drafts: readonly Draft[],
  rows: readonly (readonly Row[])[],
): { zones: Omit<ZoneOf, 'asked'>[]; zonesOf: Record<string, number>[]; zoneOfRoom: Record<string, number> } {
  const inside = new Set(
    drafts.flatMap(({ name }, i) => (rows[i] ?? []).flatMap(({ definition }) => [...insideZones(definition, name)])),
  )
  for (const asking of [level.goals, level.requirements]) {
    for (const zone of insideZones(asking ?? {}, '')) inside.add(zone)
  }
  const zones: Omit<ZoneOf, 'asked'>[] = []
  const zonesOf = drafts.map((one, interactable) => {
    const asked = new Set((rows[interactable] ?? []).map(({ definition }) => zoneAsked(definition)))
    const placed: Record<string, number> = {}
    for (const [name, shape] of Object.entries({ ...one.type.zones, ...one.instance.zones })) {
      if (!asked.has(name) && !inside.has(`${one.name}/${name}`)) continue
      placed[name] = zones.push({ interactable, name, shape: scaledZone(shape, one.instance.scale ?? 1) }) - 1
    }
    if (asked.has('touch')) placed.touch = zones.push({ interactable, name: 'touch', shape: 'skin' }) - 1
    return placed
  })
  const named = new Set([...inside].map((one) => one.slice(one.indexOf('/') + 1)))
  const asked = Object.entries(level.rooms).filter(([name]) => named.has(name))
  const zoneOfRoom = Object.fromEntries(
    asked.map(([name, { outline }]) => [name, zones.push({ interactable: -1, name, shape: { outline } }) - 1]),
  )
  return { zones, zonesOf, zoneOfRoom }
}

/** All zones that conditions in some value ask about, such as `mill-door/near`; those that name no owner ask about `own`. */
function insideZones(value: unknown, own: string): Set<string> {
  if (typeof value !== 'object' || value === null) return new Set()
  const zones = new Set<string>()
  const { inside, of = own } = value as { inside?: unknown; of?: unknown }
  if (typeof inside === 'string') zones.add(`${String(of)}/${inside}`)
  for (const part of Object.values(value)) for (const zone of insideZones(part, own)) zones.add(zone)
  return zones
}

/** The wheels of all dials. */
export function placeWheels(drafts: readonly Draft[]): { wheels: Wheel[]; wheelsOf: number[][] } {
  const wheels: Wheel[] = []
  const wheelsOf = drafts.map(({ type, values }, interactable) => {
    const dial = filledIn(type.dial, values, [])
    if (!dial) return []
    const positions = Number(dial.positions ?? 10)
    const initial = Array.isArray(dial.initial) ? dial.initial : []
    return Array.from({ length: Number(dial.wheels) }, (_, i) => {
      return wheels.push({ interactable, positions, initial: Math.min(initial[i] ?? 0, positions - 1) }) - 1
    })
  })
  return { wheels, wheelsOf }
}
