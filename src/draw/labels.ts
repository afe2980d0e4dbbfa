/** A text that wants to stand near a point, in pixels. */
export interface Label {
  readonly text: string
  readonly at: readonly [number, number]
  readonly size: number
  /** How far from the point the text must stay; 0: it may stand on it. */
  readonly gap: number
  readonly kind: 'thing' | 'person' | 'room'
}

/** A label with the middle of its text. */
export interface PlacedLabel {
  readonly label: Label
  readonly x: number
  readonly y: number
}

interface Box {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}

/** Puts labels where they cover neither one another, nor the points of others, nor what is taken, as far as there is room. */
export function placeLabels(
  labels: readonly Label[],
  { width, height }: { readonly width: number; readonly height: number },
  outlines: readonly (readonly (readonly [number, number])[])[],
): PlacedLabel[] {
  const taken: Box[] = labels
    .filter((label) => label.gap > 0)
    .map(({ at: [x, y] }) => ({ left: x - 5, right: x + 5, top: y - 5, bottom: y + 5 }))
  for (const outline of outlines) taken.push(boxRound(outline))
  return labels.map((label) => {
    const choices = spots(label)
    const cost = ([x, y]: readonly [number, number]): number => {
      const box = boxAt(label, x, y)
      const off = box.left < 2 || box.right > width - 2 || box.top < 2 || box.bottom > height - 2
      return (off ? 1e6 : 0) + taken.reduce((sum, other) => sum + overlap(box, other), 0)
    }
    const [x, y] = choices.reduce((best, next) => (cost(next) < cost(best) ? next : best))
    taken.push(boxAt(label, x, y))
    return { label, x, y }
  })
}

function spots({ at: [x, y], size, gap, text }: Label): (readonly [number, number])[] {
  const half = textWidth(text, size) / 2
  if (gap === 0) {
    return [0, -40, 40, -80, 80, -120, 120].flatMap((dy) => [0, -60, 60].map((dx) => [x + dx, y + dy] as const))
  }
  const up = gap + size / 2
  return [
    [x, y - up],
    [x, y + up],
    [x + gap + half, y],
    [x - gap - half, y],
    [x + gap + half, y - up],
    [x - gap - half, y - up],
    [x + gap + half, y + up],
    [x - gap - half, y + up],
    [x, y - up - size - 2],
    [x, y + up + size + 2],
  ]
}

function boxAt({ text, size }: Label, x: number, y: number): Box {
  const half = textWidth(text, size) / 2
  return { left: x - half, right: x + half, top: y - size / 2 - 1, bottom: y + size / 2 + 1 }
}

function boxRound(points: readonly (readonly [number, number])[]): Box {
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
