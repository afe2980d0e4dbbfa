import type { Patch } from '../space/index.ts'
import type { Search } from './search.ts'
import { moveKind } from './successors.ts'
import type { SureMoves } from './sure.ts'

/** Which moves of a search can be made for certain just as they are, and where everybody stands well for that. */
export class SureEdges {
  readonly #search: Search
  readonly #sure: SureMoves
  readonly #regs: Int32Array
  /** Whether anything in the level asks to be looked at, may answer from farther off, or anybody in it cannot be relied on. */
  readonly #mustLookClosely: boolean
  /** Whether anything pushes people: a move may then lead to several situations. */
  readonly #pushesPeople: boolean

  constructor(search: Search, sure: SureMoves) {
    this.#search = search
    this.#sure = sure
    this.#regs = new Int32Array(search.stage.tables.at.size)
    const { interactables, characters } = search.stage.expanded
    this.#pushesPeople = interactables.some(({ inTheWay }) => inTheWay === 'push')
    this.#mustLookClosely =
      interactables.some(({ aim, radius, until }) => aim !== null || until > radius) ||
      characters.some(({ probe }, who) => probe !== null || !sure.isSureOf(who))
  }

  /**
   * Whether everybody can for certain walk to the standing spot of the patch they are on; but for those of whom nobody can
   * be sure, who stay where they are.
   */
  isOnSurePatch(index: number): boolean {
    return this.#areOn(index, ({ sure }) => sure)
  }

  /** Whether everybody is on a patch with a standing spot. */
  isOnFirmPatch(index: number): boolean {
    return this.#areOn(index, ({ firm }) => firm)
  }

  /** Whether a move from a situation, in which everybody is on firm patches, is made for certain just as it is. */
  isSure(from: number, edge: number): boolean {
    if (this.#pushesPeople) return false
    const search = this.#search
    const kind = search.kind(edge)
    if (kind === moveKind.press) return !this.#mustLookClosely || this.#isSurelyAnswered(from, edge)
    const to = search.target(edge)
    if (kind !== moveKind.walk || !this.isOnFirmPatch(to)) return false
    const { actor: who, to: wanted } = search.moves.inputs.readWalk(search.input(edge))
    const before = search.placeOf(who, this.#regs, search.read(from, this.#regs))
    const after = search.placeOf(who, this.#regs, search.read(to, this.#regs))
    // Whoever is moved on the way ends elsewhere.
    return after === wanted && this.#sure.isPlainHop(who, before, after)
  }

  /**
   * Whether what is done on the spot goes just where it should: it is by somebody on whom one can rely, not only by one who looks the right way
   * (another thing might answer first then), and nothing comes first, or answers, only if one has been nearer before.
   */
  #isSurelyAnswered(from: number, edge: number): boolean {
    const search = this.#search
    const input = search.moves.inputs.read(search.input(edge))
    if (!this.#sure.isSureOf(input.actor) || (input.do === 'press' && input.looking)) return false
    if (input.do === 'release') return true
    const { expanded } = search.stage
    const machine = input.do === 'press' ? input.machine : expanded.wheels[input.wheel]!.interactable
    const { candidates } = search.signatureOf(input.actor, this.#regs, search.read(from, this.#regs))
    const at = candidates.findIndex(({ interactable }) => interactable === machine)
    const before = input.do === 'press' ? candidates.slice(0, at + 1) : candidates.slice(at, at + 1)
    return before.every(({ lingers }) => !lingers)
  }

  #areOn(index: number, isWanted: (patch: Patch) => boolean): boolean {
    const search = this.#search
    const { space } = search.stage
    if (space.patches.length === 1) return isWanted(space.patches[0]!.patches[search.patchOf(index)]!)
    const patch = search.read(index, this.#regs)
    return space.patches.every(({ patches }, who) => {
      return !this.#sure.isSureOf(who) || isWanted(patches[search.placeOf(who, this.#regs, patch)]!)
    })
  }
}
