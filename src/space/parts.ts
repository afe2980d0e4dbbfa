import { type Disc, discOf } from './clear-walk.ts'
import type { Point } from './geometry.ts'
import type { Ground } from './ground.ts'
import { touching } from './layout.ts'
import { type Signature } from './alternatives.ts'
import { isSignature } from './signatures.ts'
import { isCloserThan, keepsOffSegment } from './squares.ts'

/** How often the parts of a cell are halved to look closely. */
export const mostHalvings = 3

/**
 * A cell of a node and its parts: of each it is looked at once whether the signature of the node is so in it. The cell is part 0;
 * the four quarters of part i are parts 4i + 1 to 4i + 4.
 */
export class Parts {
  readonly #ground: Ground
  readonly #cell: number
  readonly #signature: Signature
  /** By part: 0 not looked at yet; else one of `looks`. */
  readonly #known = new Uint8Array(1 + 4 + 16 + 64)

  constructor(ground: Ground, node: number) {
    this.#ground = ground
    this.#cell = ground.nodes.cellOf[node]!
    this.#signature = ground.signatures.all[ground.nodes.signatureOf(node)]!
    this.#known[0] = looks.some
  }

  /**
   * Whether something is so of the cell, or else of all parts of it in which the signature may be so for somebody; parts of
   * which it is not are halved, at most so often.
   */
  every(isSo: (disc: Disc) => boolean): boolean {
    const look = (part: number, disc: Disc, halvings: number): boolean => {
      if (this.#look(part, disc) === looks.none || isSo(disc)) return true
      return halvings < mostHalvings && quarters(disc).every((one, i) => look(4 * part + 1 + i, one, halvings + 1))
    }
    return look(0, discOf(this.#ground.terrain.grid, this.#cell), 0)
  }

  /** The middle of the largest part in which the signature is so for certain, with room all over; null where none was found. */
  spot(): Point | null {
    let parts: [part: number, disc: Disc][] = [[0, discOf(this.#ground.terrain.grid, this.#cell)]]
    for (let halvings = 0; parts.length > 0; halvings++) {
      const found = parts.find(([part, disc]) => this.#look(part, disc) === looks.all)
      if (found) return found[1].middle
      if (halvings === mostHalvings) return null
      parts = parts.flatMap(([part, disc]) =>
        this.#look(part, disc) === looks.none
          ? []
          : quarters(disc).map((one, i): [number, Disc] => [4 * part + 1 + i, one]),
      )
    }
    return null
  }

  #look(part: number, disc: Disc): number {
    return (this.#known[part] ||= this.#lookAt(disc))
  }

  #lookAt({ middle, slack }: Disc): number {
    const { terrain } = this.#ground
    if (hasNoRoom(terrain, this.#cell, middle, slack)) return looks.none
    const is = isSignature(terrain, this.#cell, middle, slack, this.#signature)
    if (is === 'no') return looks.none
    return is === 'yes' && hasRoom(terrain, this.#cell, middle, slack) ? looks.all : looks.some
  }
}

/** In which spots of a part a signature may be so. */
const looks = { none: 1, some: 2, all: 3 } as const

function quarters({ middle: [x, y], slack }: Disc): Disc[] {
  // The slack is half the diagonal: a quarter of a side is half of it, divided by the root of 2.
  const off = (slack / 2) * Math.SQRT1_2
  return [
    [x - off, y - off],
    [x + off, y - off],
    [x - off, y + off],
    [x + off, y + off],
  ].map(([px, py]) => ({ middle: [px!, py!], slack: slack / 2 }))
}

/*
 * Of a spot of a cell no wall parts its middle, which is on the ground: it would be too near for anybody to stand.
 */

/** Whether there is room for a character all over a part of a cell. */
function hasRoom({ layout, character, grid }: Ground['terrain'], cell: number, p: Point, slack: number): boolean {
  const room = character.radius - touching
  return (grid.walls[cell] ?? []).every((wall) => keepsOffSegment(p, slack, layout.walls[wall]!, room))
}

/** Whether one wall alone leaves no room for a character anywhere in a part of a cell. */
function hasNoRoom({ layout, character, grid }: Ground['terrain'], cell: number, p: Point, slack: number): boolean {
  const room = character.radius - touching
  return (grid.walls[cell] ?? []).some((wall) => isCloserThan(p, slack, layout.walls[wall]!, room))
}
