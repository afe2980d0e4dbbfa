import { type Box, boxAround, boxOf } from './boxes.ts'
import { distance, inPolygon, type Point, toPolygon } from './geometry.ts'
import { type Shape, touching } from './layout.ts'
import type { Tri } from './sight.ts'
import { bodyWithin, isOnBorder, pointWithin } from './squares.ts'

/** Metres between the side of a character and a body that it touches. */
export const handsBreadth = 0.1

/** Whether a character, by its centre, is in a zone, its border included. */
export function inZone(zone: Shape, p: Point, radius: number): boolean {
  switch (zone.kind) {
    case 'skin':
      return onBody(zone.body, p, radius + handsBreadth)
    case 'circle':
      return distance(p, zone.at) <= zone.radius
    case 'ring': {
      const off = distance(p, zone.at)
      return off <= zone.radius && off >= zone.inner
    }
    case 'polygon':
      return inPolygon(p, zone.outline)
  }
}

/** Whether a character would be in the way of a body. */
export function onBody(body: readonly Point[], p: Point, radius: number): boolean {
  return toPolygon(p, body) < radius - touching
}

/** Whether all spots of a square, or none, are in a zone; see `pointWithin`. With a slack of 0: whether the one spot is. */
export function zoneHolds(zone: Shape, p: Point, radius: number, slack: number): Tri {
  if (slack === 0) return inZone(zone, p, radius) ? 'yes' : 'no'
  switch (zone.kind) {
    case 'skin':
      return bodyWithin(p, slack, zone.body, radius + handsBreadth - touching)
    case 'circle':
      return pointWithin(p, slack, zone.at, zone.radius)
    case 'ring': {
      const [outer, inner] = [pointWithin(p, slack, zone.at, zone.radius), pointWithin(p, slack, zone.at, zone.inner)]
      if (outer === 'no' || inner === 'yes') return 'no'
      return outer === 'yes' && inner === 'no' ? 'yes' : 'maybe'
    }
    case 'polygon':
      if (isOnBorder(p, slack, zone.outline)) return 'maybe'
      return inPolygon(p, zone.outline) ? 'yes' : 'no'
  }
}

/** The box round a zone; of a skin, the box round the body. */
export function zoneBox(zone: Shape): Box {
  if (zone.kind === 'circle' || zone.kind === 'ring') return boxAround(zone.at, zone.radius)
  return boxOf(zone.kind === 'skin' ? zone.body : zone.outline)
}
