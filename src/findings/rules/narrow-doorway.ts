import type { Stage } from '../../play/index.ts'
import { inPolygon, middleOf, type Point } from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { likely } from '../shared/edits.ts'

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
  ask({ stage }) {
    const { level, characters } = stage.expanded
    const players = characters.filter(({ role }) => role === 'player')
    const needed = 2 * Math.min(...players.map(({ radius }) => radius))
    return Object.entries(level.doorways ?? {}).map(([name, { width, joins, at }]) => {
      if (width >= needed - 1e-6) return ruledOut(name)
      const facts = { doorway: name, rooms: joins, width, needed }
      const patches = patchesIn(stage, joins)
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

/** For each character the patches in some rooms. */
function patchesIn({ expanded, space }: Stage, rooms: readonly string[]): number[][] {
  const outlines = space.layout.rooms.flatMap(({ name, outline }) => (rooms.includes(name) ? [outline] : []))
  const isIn = (p: Point): boolean => outlines.some((outline) => inPolygon(p, outline))
  return expanded.characters.map((_, who) => {
    const { grid, patchesIn: own } = space.patches[who]!
    const all = new Set<number>()
    for (let cell = 0; cell < grid.stands.length; cell++) {
      if (grid.stands[cell] !== 0 && isIn(middleOf(grid, cell))) for (const patch of own(cell)) all.add(patch)
    }
    return [...all]
  })
}
