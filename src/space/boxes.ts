import Flatbush from 'flatbush'
import type { Point } from './geometry.ts'

/** A rectangle along the axes. */
export interface Box {
  readonly from: Point
  readonly to: Point
}

/** The box round some points; there must be one. */
export function boxOf(points: readonly Point[]): Box {
  let [left, low, right, high] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [x, y] of points) {
    if (x < left) left = x
    if (x > right) right = x
    if (y < low) low = y
    if (y > high) high = y
  }
  return { from: [left, low], to: [right, high] }
}

/** The box round a circle, or (with a radius of 0) a point. */
export function boxAround([x, y]: Point, radius: number): Box {
  return { from: [x - radius, y - radius], to: [x + radius, y + radius] }
}

/** Fewer boxes than this are looked at one by one, which is quicker. */
const few = 12

/** Boxes of which several may belong to the same thing; things are known by their index. */
export class BoxesOfThings {
  readonly #boxes: Boxes
  readonly #things: readonly number[]

  constructor(all: readonly { readonly thing: number; readonly box: Box }[]) {
    this.#boxes = new Boxes(all.map(({ box }) => box))
    this.#things = all.map(({ thing }) => thing)
  }

  /** The things of which a box comes within `margin` metres of a box, ascending, each once; empty where none does. */
  near(box: Box, margin: number): readonly number[] {
    const found = this.#boxes.near(box, margin).map((index) => this.#things[index]!)
    return [...new Set(found)].sort((a, b) => a - b)
  }
}

/**
 * Boxes by their places, so that those near a spot are found without looking at all: a packed Hilbert R-tree (Kamel and
 * Faloutsos 1993). Boxes are known by their index; null stands nowhere and is never found.
 */
export class Boxes {
  readonly #boxes: readonly (Box | null)[]
  readonly #index: Flatbush | null
  /** The boxes that stand somewhere, in the order in which they are in the tree. */
  readonly #placed: readonly number[]

  constructor(boxes: readonly (Box | null)[]) {
    this.#boxes = boxes
    this.#placed = boxes.flatMap((box, i) => (box ? [i] : []))
    if (this.#placed.length < few) {
      this.#index = null
      return
    }
    this.#index = new Flatbush(this.#placed.length)
    for (const i of this.#placed) {
      const { from, to } = boxes[i]!
      this.#index.add(from[0], from[1], to[0], to[1])
    }
    this.#index.finish()
  }

  /** The boxes that come within `margin` metres of a box, ascending; empty where none does. */
  near({ from, to }: Box, margin: number): readonly number[] {
    const [left, low, right, high] = [from[0] - margin, from[1] - margin, to[0] + margin, to[1] + margin]
    if (this.#index) {
      const found = this.#index.search(left, low, right, high)
      for (let i = 0; i < found.length; i++) found[i] = this.#placed[found[i]!]!
      return found.sort((a, b) => a - b)
    }
    const found: number[] = []
    for (const i of this.#placed) {
      const box = this.#boxes[i]!
      if (box.from[0] > right || box.to[0] < left || box.from[1] > high || box.to[1] < low) continue
      found.push(i)
    }
    return found
  }
}
