import type { Stage } from '../play/index.ts'
import type { Point } from '../space/index.ts'

/** Where things are on a plan: pixels for metres. */
export interface PlanFrame {
  readonly width: number
  readonly height: number
  readonly scale: number
  /** The pixel of a spot in metres. */
  readonly toPlan: (p: Point) => Point
  /** The spot under a pixel, in metres. */
  readonly toGround: (p: Point) => Point
}

/** The size of a plan that fills its page, in pixels. */
const page = { width: 1280, height: 800 }

/** What stays free round the ground, and below it, in pixels. */
export const margin = 28
/** The height of the key below the ground, in pixels. */
export const footer = 46

/** The most pixels that a metre is drawn as. */
const mostPixels = 120

/**
 * Where the plan of a stage puts things. Without a scale it fills a page of 1280 × 800 pixels, with the ground in the middle; with one
 * (pixels a metre), it is as large as the ground and what reaches beyond it.
 */
export function planFrame(stage: Stage, scale?: number): PlanFrame {
  const points = extent(stage)
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])]
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const [wide, deep] = [right - left, high - low]
  const free = { width: page.width - 2 * margin, height: page.height - 2 * margin - footer }
  const chosen = scale ?? Math.min(free.width / wide, free.height / deep, mostPixels)
  const width = scale === undefined ? page.width : wide * chosen + 2 * margin
  const height = scale === undefined ? page.height : deep * chosen + 2 * margin + footer
  const x0 = (width - wide * chosen) / 2
  const y0 = (height - footer - deep * chosen) / 2
  return {
    width,
    height,
    scale: chosen,
    toPlan: ([x, y]) => [x0 + (x - left) * chosen, y0 + (high - y) * chosen],
    toGround: ([x, y]) => [left + (x - x0) / chosen, high - (y - y0) / chosen],
  }
}

/** The ground, and how far ranges and leaves reach beyond it. */
function extent({ space, expanded }: Stage): Point[] {
  const { rooms, doorways, figures } = space.layout
  const points = [...rooms, ...doorways].flatMap(({ outline }) => outline)
  for (const { index, radius } of expanded.interactables) {
    const { rangeFrom, pressable } = figures[index]!
    if (!rangeFrom || !pressable) continue
    // A range of the whole level is not worth a margin as wide.
    const shown = Math.min(radius, 1.6)
    points.push([rangeFrom[0] - shown, rangeFrom[1] - shown], [rangeFrom[0] + shown, rangeFrom[1] + shown])
  }
  return points
}
