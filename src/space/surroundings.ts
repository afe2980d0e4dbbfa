import type { PlacedCharacter } from '../interactables/index.ts'
import { boxAround } from './boxes.ts'
import type { Point } from './geometry.ts'
import type { Layout } from './layout.ts'
import { handsBreadth, inZone, onBody } from './zone-shapes.ts'

/** What is so at a spot for a character: the zones it is in, and the bodies it is in the way of, both ascending. */
export function surroundings(
  { layout }: { readonly layout: Layout },
  { radius }: PlacedCharacter,
  p: Point,
): { zones: number[]; bodies: number[] } {
  const { near, zones } = layout
  const box = boxAround(p, radius + handsBreadth)
  return {
    zones: near.zones.near(box, 0).filter((zone) => inZone(zones[zone]!, p, radius)),
    bodies: bodiesOn(layout, p, radius),
  }
}

/** The bodies that come and go on which a character of some radius is at a spot. */
export function bodiesOn({ near, figures }: Layout, p: Point, radius: number): number[] {
  return near.bodies
    .near(boxAround(p, radius + handsBreadth), 0)
    .filter((body) => onBody(figures[body]!.body!, p, radius))
}
