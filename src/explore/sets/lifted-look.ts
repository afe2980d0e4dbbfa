import type { LiftingSpace } from './lifting.ts'

/**
 * Something to be told of a situation, as far as that was looked at: a tree that asks for one register after the other, in the
 * order in which the look reads them, as in `LiftedPart`.
 */
export class LiftedLook<T> {
  readonly #space: LiftingSpace
  readonly #root: LookBranch<T> = newBranch()
  /** The set of all assignments of which `each` has told. */
  #told = 0

  constructor(space: LiftingSpace) {
    this.#space = space
  }

  /** Calls `visit` with all that is told in a set and was not told by this before, and with the set of all of which that holds. */
  each(set: number, look: (regs: Int32Array) => T, visit: (told: T, of: number) => void): void {
    const { diagrams, layout, noting } = this.#space
    while (this.#space.fillOutside(set, this.#told)) {
      noting.forget()
      const value = look(noting.base)
      const literals: number[] = []
      for (const register of noting.reads) {
        if (layout.has(register)) layout.literals(register, layout.code(register, noting.from[register]!), literals)
      }
      const cube = diagrams.cube(literals.sort((a, b) => a - b))
      this.#told = diagrams.union(this.#told, cube)
      visit(value, cube)
    }
  }

  /** Calls `visit` with all that is told in a set that is not empty, and the part of the set in which just that is told. */
  within(set: number, look: (regs: Int32Array) => T, visit: (told: T, part: number) => void): void {
    if (set !== 0) this.#within(this.#root, set, [], look, visit)
  }

  #within(
    branch: LookBranch<T>,
    set: number,
    path: readonly number[],
    look: (regs: Int32Array) => T,
    visit: (told: T, part: number) => void,
  ): void {
    if (branch.register < 0 && !branch.told) this.#look(branch, set, path, look)
    if (branch.told) {
      visit(branch.told.value, set)
      return
    }
    const { diagrams } = this.#space
    const { register } = branch
    for (let rest = set; rest !== 0;) {
      const code = this.#space.codeIn(rest, register)
      const own = this.#space.standing(register, code)
      let child = branch.children.get(code)
      if (!child) branch.children.set(code, (child = newBranch()))
      this.#within(child, diagrams.intersection(rest, own), [...path, register], look, visit)
      rest = diagrams.difference(rest, own)
    }
  }

  #look(branch: LookBranch<T>, set: number, path: readonly number[], look: (regs: Int32Array) => T): void {
    const { layout, noting } = this.#space
    this.#space.fill(set)
    noting.forget()
    const value = look(noting.base)
    let at = branch
    for (const register of noting.reads) {
      if (!layout.has(register) || path.includes(register)) continue
      at.register = register
      const child = newBranch<T>()
      at.children.set(layout.code(register, noting.from[register]!), child)
      at = child
    }
    at.told = { value }
  }
}

interface LookBranch<T> {
  /** The register that it asks for; -1: not known yet, or a leaf. */
  register: number
  readonly children: Map<number, LookBranch<T>>
  /** At a leaf, what is told. */
  told: { readonly value: T } | null
}

function newBranch<T>(): LookBranch<T> {
  return { register: -1, children: new Map(), told: null }
}
