import type { Grid } from './grid.ts'

/** Pairs of a cell and a signature that its spots may have, numbered cell by cell. */
export class Nodes {
  readonly cells: readonly (readonly number[] | null)[]
  /** The first node of each cell. */
  readonly first: Int32Array
  /** For each node its cell. */
  readonly cellOf: Int32Array
  readonly count: number

  private constructor(cells: readonly (readonly number[] | null)[], first: Int32Array, cellOf: Int32Array) {
    this.cells = cells
    this.first = first
    this.cellOf = cellOf
    this.count = cellOf.length
  }

  static *of(cells: readonly (readonly number[] | null)[]): Generator<undefined, Nodes> {
    const first = new Int32Array(cells.length)
    let count = 0
    for (let cell = 0; cell < cells.length; cell++) {
      first[cell] = count
      count += cells[cell]?.length ?? 0
    }
    yield
    const cellOf = new Int32Array(count)
    for (let cell = 0; cell < cells.length; cell++) {
      const many = cells[cell]?.length ?? 0
      for (let i = 0; i < many; i++) cellOf[first[cell]! + i] = cell
    }
    yield
    return new Nodes(cells, first, cellOf)
  }

  /** The number of the signature of a node. */
  signatureOf(node: number): number {
    const cell = this.cellOf[node]!
    return this.cells[cell]![node - this.first[cell]!]!
  }

  /** The node of a signature in a cell; -1 where no spot of the cell may have it. */
  find(cell: number, signature: number): number {
    const at = this.cells[cell]?.indexOf(signature) ?? -1
    return at < 0 ? -1 : this.first[cell]! + at
  }
}

/** Sets of nodes that are joined step by step (union and find, with paths halved: Tarjan and van Leeuwen 1984). */
export class Joined {
  readonly #parent: Int32Array

  constructor(count: number) {
    this.#parent = new Int32Array(count)
    for (let node = 0; node < count; node++) this.#parent[node] = node
  }

  /** The least node of the set that a node is in. */
  root(node: number): number {
    const parent = this.#parent
    let at = node
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]!]!
      at = parent[at]!
    }
    return at
  }

  join(one: number, other: number): void {
    const [a, b] = [this.root(one), this.root(other)]
    if (a < b) this.#parent[b] = a
    else this.#parent[a] = b
  }
}

/** Between so many cells others get their turn. */
export const manyCells = 2048

/** Visits every pair of cells that touch, at sides or corners, each once. */
export function* touchingCells(
  { columns, rows }: Grid,
  visit: (cell: number, next: number) => void,
): Generator<undefined, void> {
  const count = columns * rows
  for (let cell = 0; cell < count; cell++) {
    if (cell % manyCells === 0) yield
    const column = cell % columns
    const isLast = column + 1 === columns
    if (!isLast) visit(cell, cell + 1)
    if (cell + columns >= count) continue
    if (column > 0) visit(cell, cell + columns - 1)
    visit(cell, cell + columns)
    if (!isLast) visit(cell, cell + columns + 1)
  }
}
