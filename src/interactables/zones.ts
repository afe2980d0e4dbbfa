import type { Level } from '../model/index.ts'
import type { Draft } from './draft.ts'
import type { Wheel, ZoneOf } from './placed.ts'
import type { Row } from './present.ts'
import { zoneAsked } from './rows.ts'
import { scaledZone } from './scale.ts'
import { filledIn } from './template.ts'

/** The zones that something asks about, whoever's they are; a zone that nothing asks about leaves no trace. */
export function placeZones(
  level: Level,
  drafts: readonly Draft[],
  rows: readonly (readonly Row[])[],
): { zones: Omit<ZoneOf, 'asked'>[]; zonesOf: Record<string, number>[] } {
  const inside = insideNames([rows.flat().map(({ definition }) => definition), level.goals ?? {}])
  const zones: Omit<ZoneOf, 'asked'>[] = []
  const zonesOf = drafts.map((one, interactable) => {
    const asked = new Set((rows[interactable] ?? []).map(({ definition }) => zoneAsked(definition)))
    const placed: Record<string, number> = {}
    for (const [name, shape] of Object.entries({ ...one.type.zones, ...one.copy.zones })) {
      if (!asked.has(name) && !inside.has(name)) continue
      placed[name] = zones.push({ interactable, name, shape: scaledZone(shape, one.copy.scale ?? 1) }) - 1
    }
    if (asked.has('touch')) placed.touch = zones.push({ interactable, name: 'touch', shape: 'skin' }) - 1
    return placed
  })
  return { zones, zonesOf }
}

/** The names of all zones that conditions in some value ask about. */
function insideNames(value: unknown): Set<string> {
  if (typeof value !== 'object' || value === null) return new Set()
  const names = new Set<string>()
  for (const [key, part] of Object.entries(value)) {
    if (key === 'inside' && typeof part === 'string') names.add(part)
    for (const name of insideNames(part)) names.add(name)
  }
  return names
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
