import type { Point } from '../space/index.ts'

/** A text that wants to stand near a point, in pixels. */
export interface PlanLabel {
  readonly text: string
  readonly at: Point
  readonly size: number
  /** How far from the point the text must stay; 0: it may stand on it. */
  readonly gap: number
  /** Of a text that may stand on its point: how far off it may stand instead, across and up. */
  readonly within?: Point
  readonly kind: 'thing' | 'person' | 'room' | 'mark'
}

/** A label with the middle of its text. */
export interface PlacedLabel {
  readonly label: PlanLabel
  readonly x: number
  readonly y: number
  /** Where it stands far off, a line from its point to it; else null. */
  readonly leader: readonly [Point, Point] | null
}

interface Box {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}

/** Pixels from which on a line leads from a point to its label. */
const far = 30

/** The share of a text that may lie under another. */
const mostCovered = 0.08

/** Sizes of text, as shares of what is wanted, the largest first. */
const sizes = [1, 0.9, 0.8, 0.7, 0.6]

/**
 * Puts labels where they cover neither one another, nor the points of others, nor what is taken. Where there is much to name, all of them are
 * smaller; what even then has no room of its own is left out.
 */
export function placeLabels(
  labels: readonly PlanLabel[],
  bounds: { readonly width: number; readonly height: number },
  outlines: readonly (readonly Point[])[],
): PlacedLabel[] {
  let placed: PlacedLabel[] = []
  for (const share of sizes) {
    const smaller = labels.map((label) => ({ ...label, size: Math.round(label.size * share * 10) / 10 }))
    placed = placedAt(smaller, bounds, outlines)
    if (placed.length === labels.length) break
  }
  return placed
}

function placedAt(
  labels: readonly PlanLabel[],
  { width, height }: { readonly width: number; readonly height: number },
  outlines: readonly (readonly Point[])[],
): PlacedLabel[] {
  const taken: Box[] = labels
    .filter((label) => label.gap > 0)
    .map(({ at: [x, y], kind, gap }) => {
      const half = kind === 'person' ? Math.max(5, gap - 4) : 5
      return { left: x - half, right: x + half, top: y - half, bottom: y + half }
    })
  for (const outline of outlines) taken.push(boxRound(outline))
  const texts: Box[] = []
  return labels.flatMap((label): PlacedLabel[] => {
    const choices = spots(label)
    const cost = ([x, y]: Point, place: number): number => {
      const box = boxAt(label, x, y)
      const off = box.left < 2 || box.right > width - 2 || box.top < 2 || box.bottom > height - 2
      // Covering another text is worst; standing near is better than standing far off.
      const over = texts.reduce((sum, other) => sum + overlap(box, other), 0)
      return (off ? 1e6 : 0) + 20 * over + 2 * taken.reduce((sum, other) => sum + overlap(box, other), 0) + place * 3
    }
    const [x, y] = choices
      .map((spot, place) => ({ spot, cost: cost(spot, place) }))
      .reduce((best, next) => (next.cost < best.cost ? next : best)).spot
    const own = boxAt(label, x, y)
    const area = (own.right - own.left) * (own.bottom - own.top)
    const covered = texts.reduce((sum, other) => sum + overlap(own, other), 0)
    if (covered > mostCovered * area) return []
    texts.push(own)
    return [{ label, x, y, leader: leaderTo(label, x, y) }]
  })
}

/** A line to the nearest side of a text that stands far off. */
function leaderTo(label: PlanLabel, x: number, y: number): PlacedLabel['leader'] {
  const { at, gap } = label
  if (gap === 0) return null
  const { left, right, top, bottom } = boxAt(label, x, y)
  const end: Point = [Math.min(Math.max(at[0], left), right), Math.min(Math.max(at[1], top), bottom)]
  return Math.hypot(end[0] - at[0], end[1] - at[1]) > Math.max(far, gap + 12) ? [at, end] : null
}

/** Places for a label, the best first: close by all round, then in wider and wider rings. */
function spots({ at: [x, y], size, gap, text, within = [60, 120] }: PlanLabel): Point[] {
  const half = textWidth(text, size) / 2
  if (gap === 0) {
    const shares = [0, -0.35, 0.35, -0.7, 0.7, -1, 1]
    return shares.flatMap((up) => [0, -0.5, 0.5, -1, 1].map((on) => [x + on * within[0], y + up * within[1]] as const))
  }
  const ring = (off: number): Point[] => {
    const up = off + size / 2
    return [
      [x, y - up],
      [x, y + up],
      [x + off + half, y],
      [x - off - half, y],
      [x + off + half, y - up],
      [x - off - half, y - up],
      [x + off + half, y + up],
      [x - off - half, y + up],
    ]
  }
  return [gap, gap + 14, gap + 28, gap + 44, gap + 62].flatMap(ring)
}

function boxAt({ text, size }: PlanLabel, x: number, y: number): Box {
  const half = textWidth(text, size) / 2
  return { left: x - half, right: x + half, top: y - size / 2 - 1, bottom: y + size / 2 + 1 }
}

function boxRound(points: readonly Point[]): Box {
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) }
}

function textWidth(text: string, size: number): number {
  return text.length * size * 0.62
}

function overlap(a: Box, b: Box): number {
  const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left)
  const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top)
  return wide > 0 && high > 0 ? wide * high : 0
}
