import type { Placed, PlacedCharacter } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import {
  canStand,
  distance,
  farthestReach,
  fromHand,
  inPolygon,
  middleOf,
  nearnessFrom,
  type Point,
  pointsFor,
  screensBetween,
} from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { likely, valueIn } from '../shared/edits.ts'
import { inCentimetres, spotText } from '../shared/ground.ts'

/** What is known of a finding of this rule. */
export interface ReachThroughFacts {
  readonly interactable: string
  /** The room that it is in, and the one from which it is pressed. */
  readonly room: string
  readonly from: string
  /** Where somebody stands who does it, and how far the handle is from there; metres: on the ground, or, through a floor, from the hand. */
  readonly at: Point
  readonly distance: number
  readonly through: 'wall' | 'floor'
}

/** Something that is pressed through a wall or a floor, out of another room: its range does not heed what is in between. */
export const reachThrough: Rule<ReachThroughFacts> = {
  name: 'reach-through',
  severity: 'warning',
  isByLevel: true,
  ask({ stage }) {
    const people = stage.expanded.characters.flatMap((one, who) => (one.role === 'player' ? [{ one, who }] : []))
    return stage.expanded.interactables.flatMap((placed) => {
      const { handle, pressable } = stage.space.layout.figures[placed.index]!
      if (!pressable || !handle || placed.sight) return []
      const room = roomAt(stage, [handle[0], handle[1]])
      if (room === null) return []
      const spots = people.flatMap(({ one, who }) => spotsThrough(stage, placed, one, who, room))
      const [nearest] = spots.sort((a, b) => a.distance - b.distance)
      if (!nearest) return [ruledOut(placed.name)]
      const facts = { interactable: placed.name, room, ...nearest }
      const text = `${nearest.distance.toFixed(2)} m through the ${nearest.through}`
      const path = `${placed.path}.range.sight`
      const isOwn = valueIn(stage, path) !== undefined
      return [
        found(placed.name, {
          path: isOwn ? path : placed.path,
          isAboutKey: !isOwn,
          facts,
          steps: [],
          grant: null,
          spots: [{ at: nearest.at, text }],
        }),
      ]
    })
  },
  says({ interactable, room, from, at, distance: far, through }) {
    const away = through === 'wall' ? 'm away' : 'm from the hand'
    return `${interactable}, in ${room}, can be pressed through the ${through} from ${from}: at ${spotText(at)} its handle is ${far.toFixed(2)} ${away}.`
  },
  fix() {
    return 'Let its range heed walls and floors (sight: true), or make it smaller.'
  },
  edit({ stage, path }) {
    return valueIn(stage, path) === false ? likely({ do: 'replace', path, value: true }) : null
  },
}

/** Spots in other rooms from which a press goes there though a wall or a floor is in between. */
function spotsThrough({ space }: Stage, placed: Placed, person: PlacedCharacter, who: number, room: string): Through[] {
  const { layout } = space
  const { handle, storey } = layout.figures[placed.index]!
  const near = nearnessFrom(layout, placed, person)
  if (!handle || !near) return []
  const to: Point = [handle[0], handle[1]]
  const { grid } = space.patches[who]!
  const spots: Through[] = []
  for (let cell = 0; cell < grid.stands.length; cell++) {
    if (grid.stands[cell] === 0) continue
    const at = middleOf(grid, cell)
    const points = pointsFor(layout, placed.index, at)
    if (!points) continue
    const isElsewhere = layout.storeys !== null && layout.storeys.at(at) !== storey
    const far = isElsewhere ? fromHand(at, person.hand, points.handle) : distance(at, to)
    if (far > farthestReach(person) || !canStand(layout, at, person.radius) || near(at).answers !== 'yes') continue
    const own = layout.rooms.find(({ outline }) => inPolygon(at, outline))
    if (!own || own.name === room || !(isElsewhere || screensBetween(layout, at, to))) continue
    spots.push({ from: own.name, at: inCentimetres(at), distance: far, through: isElsewhere ? 'floor' : 'wall' })
  }
  return spots
}

/** A spot from which something is pressed through a wall or a floor. */
type Through = Pick<ReachThroughFacts, 'from' | 'at' | 'distance' | 'through'>

function roomAt({ space }: Stage, p: Point): string | null {
  return space.layout.rooms.find(({ outline }) => inPolygon(p, outline))?.name ?? null
}
