import { found, type Rule, ruledOut } from '../rule.ts'
import { likely } from '../shared/edits.ts'
import { patchesWithin } from '../shared/ground.ts'

/** What is known of a finding of this rule. */
export interface NarrowDoorwayFacts {
  readonly doorway: string
  readonly rooms: readonly string[]
  /** Metres: how wide it is, and how wide the slimmest player. */
  readonly width: number
  readonly needed: number
}

/** A doorway that is too narrow for every player. */
export const narrowDoorway: Rule<NarrowDoorwayFacts> = {
  name: 'narrow-doorway',
  severity: 'error',
  isByLevel: true,
  ask({ stage }) {
    const { level, characters } = stage.expanded
    const players = characters.filter(({ role }) => role === 'player')
    const needed = 2 * Math.min(...players.map(({ radius }) => radius))
    return Object.entries(level.doorways ?? {}).map(([name, { width, joins, at }]) => {
      if (width >= needed - 1e-6) return ruledOut(name)
      const facts = { doorway: name, rooms: joins, width, needed }
      const outlines = stage.space.layout.rooms.flatMap((room) => (joins.includes(room.name) ? [room.outline] : []))
      const patches = patchesWithin(stage, outlines)
      const path = `doorways.${name}.width`
      const spots = [{ at, text: `${width.toFixed(2)} m wide` }]
      return found(name, { path, facts, steps: [], grant: { grant: 'way', patches }, spots })
    })
  },
  says({ doorway, rooms, width, needed }) {
    return `Nobody gets through ${doorway}, from ${rooms.join(' to ')}: it is ${width.toFixed(2)} m wide, and the slimmest player ${needed.toFixed(2)} m.`
  },
  fix({ needed }) {
    return `Make it wider than ${needed.toFixed(2)} m.`
  },
  edit({ path, facts }) {
    return likely({ do: 'replace', path, value: Math.ceil((facts.needed + 0.3) * 10) / 10 })
  },
}
