import { type LaidOut, inPolygon, type Point } from '../space/index.ts'

/** Where things are on a plan: pixels for metres. */
export interface PlanFrame {
  readonly width: number
  readonly height: number
  readonly scale: number
  /** The pixel of a spot in metres. */
  readonly toPlan: (p: Point) => Point
  /** The spot under a pixel, in metres. */
  readonly toGround: (p: Point) => Point
  /** Whether a spot is on what is drawn. */
  readonly isOn: (p: Point) => boolean
  /** What is drawn, in pixels: of a storey, not the whole page. */
  readonly shown: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
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
 * (pixels a metre), it is as large as the ground and what reaches beyond it. With a storey, only that is drawn.
 */
export function planFrame(stage: LaidOut, scale?: number, storey?: string): PlanFrame {
  const points = extent(stage, storey)
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
    shown: { x: x0, y: y0, width: wide * chosen, height: deep * chosen },
    isOn: ([x, y]) => x >= left && x <= right && y >= low && y <= high,
  }
}

/** The ground of the level, or of one of its storeys, and how far ranges reach beyond it. */
function extent({ space, expanded }: LaidOut, storey?: string): Point[] {
  const { rooms, doorways, figures } = space.layout
  const isMeant = (room: string): boolean => storey === undefined || expanded.level.rooms[room]?.storey === storey
  const own = rooms.filter(({ name }) => isMeant(name))
  const joining = doorways.filter(({ rooms: joined }) => joined.every(isMeant))
  const points = [...own, ...joining].flatMap(({ outline }) => outline)
  for (const { index, radius } of expanded.interactables) {
    const { rangeFrom, pressable } = figures[index]!
    if (!rangeFrom || !pressable) continue
    const at: Point = [rangeFrom[0], rangeFrom[1]]
    if (storey !== undefined && ![...own, ...joining].some(({ outline }) => inPolygon(at, outline))) continue
    // A range of the whole level is not worth a margin as wide.
    const shown = Math.min(radius, 1.6)
    points.push([at[0] - shown, at[1] - shown], [at[0] + shown, at[1] + shown])
  }
  return points
}
