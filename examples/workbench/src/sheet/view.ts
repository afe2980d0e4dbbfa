import type { PlanShape } from 'zintel/draw'

export type Spot = readonly [number, number]

/** Which part of the ground is seen: the pixel of its origin, and pixels a metre. */
export interface View {
  readonly x: number
  readonly y: number
  readonly scale: number
}

export interface Size {
  readonly width: number
  readonly height: number
}

/** What stays free at the sides of the sheet, for the numbers along it, in pixels. */
export const border = 26

export const leastScale = 3
export const mostScale = 400

export function toScreen({ x, y, scale }: View, [east, north]: Spot): Spot {
  return [x + east * scale, y - north * scale]
}

export function toGround({ x, y, scale }: View, [px, py]: Spot): Spot {
  return [(px - x) / scale, (y - py) / scale]
}

/** The box round the ground of a level, and round what reaches beyond it. */
export function extentOf(
  shapes: readonly PlanShape[],
): readonly [west: number, south: number, east: number, north: number] {
  const spots = shapes.flatMap((one): Spot[] => {
    if (one.kind === 'room' || one.kind === 'obstacle' || one.kind === 'body') return [...one.outline]
    if (one.kind === 'range') {
      const shown = Math.min(one.radius, 1.2)
      return [
        [one.at[0] - shown, one.at[1] - shown],
        [one.at[0] + shown, one.at[1] + shown],
      ]
    }
    return one.kind === 'handle' || one.kind === 'start' || one.kind === 'place' ? [one.at] : []
  })
  if (spots.length === 0) return [0, 0, 10, 8]
  const [xs, ys] = [spots.map(([x]) => x), spots.map(([, y]) => y)]
  const least = (all: number[]): number => all.reduce((a, b) => Math.min(a, b))
  const greatest = (all: number[]): number => all.reduce((a, b) => Math.max(a, b))
  return [least(xs), least(ys), greatest(xs), greatest(ys)]
}

/** The view in which all of the ground is seen. */
export function fitting(shapes: readonly PlanShape[], { width, height }: Size): View {
  const [west, south, east, north] = extentOf(shapes)
  const [wide, deep] = [Math.max(1, east - west), Math.max(1, north - south)]
  const free = { width: width - 2 * border - 16, height: height - 2 * border - 64 }
  const scale = Math.min(mostScale, Math.max(leastScale, Math.min(free.width / wide, free.height / deep, 110)))
  return {
    scale,
    x: (width - wide * scale) / 2 - west * scale,
    y: border + 8 + (free.height - deep * scale) / 2 + north * scale,
  }
}

/** The view made larger or smaller about a pixel that stays where it is. */
export function zoomed(view: View, factor: number, [px, py]: Spot): View {
  const scale = Math.min(mostScale, Math.max(leastScale, view.scale * factor))
  const by = scale / view.scale
  return { scale, x: px - (px - view.x) * by, y: py - (py - view.y) * by }
}

/** A round number of metres for marks about `pixels` apart. */
export function roundMetres(scale: number, pixels: number): number {
  const wanted = pixels / scale
  return [0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100].find((metres) => metres >= wanted) ?? 200
}
