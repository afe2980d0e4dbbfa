import type { BitChange, Diagrams } from './diagrams.ts'
import type { BitLayout } from './layout.ts'
import type { NotingRegisters } from './noting.ts'

/** What one run of a part of the moves came to. */
export interface Outcome {
  /** Registers that stand otherwise afterwards, with their values. */
  readonly writes: readonly (readonly [register: number, value: number])[]
  /** The place of the first character afterwards; -1: where it was; -2: where the part leads. */
  readonly to: number
  /** One of `moveKind`, and what is done: see `MoveVisitor`. */
  readonly kind: number
  readonly what: number
  /** The transitions that were taken. */
  readonly taken: readonly number[]
  /** Whether signals without end stop the play: then it leads nowhere. */
  readonly isStorm: boolean
  /** Whether the goal that was looked at held on the way. */
  readonly isMet?: boolean
  /** Whether it ended as it came to another level, where something may run. */
  readonly isArrival?: boolean
}

/** What a part may ask about the place of the first character: whether that is in the way of a body. */
export type Surroundings = ReadonlySet<number>

/** A change that holds wherever what it has read stands so. */
export interface LiftedChange extends Outcome {
  readonly change: BitChange
  /** Where it can happen: the set of all assignments that it has read. */
  readonly where: number
  /** What must be so of the place of the first character: the body, or ~body where it must not be in its way. */
  readonly asks: readonly number[]
}

/** A run of a part of the moves from the registers in `from` of the noting registers. */
export type Run = () => readonly Outcome[]

/**
 * What a part of the moves does, as far as it was tried: a tree that asks for one register after the other, in the order in
 * which the run reads them, with what the run did at its leaves. Since a run depends on nothing but what it reads, and reads
 * the next register depending on nothing but the earlier ones, a leaf holds for every situation that leads to it.
 */
export class LiftedPart {
  readonly #space: LiftingSpace
  readonly #root: Branch = newBranch()
  readonly #leaves: Leaf[] = []
  /** Bodies that some leaf asks about. */
  readonly #asked = new Set<number>()
  /** By those of them in whose way the first character is, the set of all that leaves hold for, of so many leaves. */
  readonly #covered = new Map<string, Covered>()
  readonly #changes = new Map<string, Lifted>()
  #list: readonly LiftedChange[] | null = null

  constructor(space: LiftingSpace) {
    this.#space = space
  }

  /** All changes found so far; those that differ only in a bit that is read and stays as it was are one. */
  get changes(): readonly LiftedChange[] {
    return (this.#list ??= [...this.#changes.values()].map((one) => this.#made(one)))
  }

  /** Those of them that can happen where the first character is in the way of these bodies. */
  *changesAt(around: Surroundings): Generator<LiftedChange> {
    for (const change of this.changes) if (isAsked(change.asks, around)) yield change
  }

  /** Tries the part from a set of situations, as far as that is new: by runs where the first character is in these ways. */
  learn(set: number, around: Surroundings, run: Run): void {
    while (this.#space.fillOutside(set, this.#coveredIn(around).set)) this.#follow({ around, run })
  }

  /** The set of all that leaves hold for, where the first character is in these ways. */
  #coveredIn(around: Surroundings): Covered {
    const key = [...this.#asked].filter((body) => around.has(body)).join()
    let covered = this.#covered.get(key)
    if (!covered) this.#covered.set(key, (covered = { set: 0, leaves: 0, decides: { set: 0, bits: nowhere } }))
    for (; covered.leaves < this.#leaves.length; covered.leaves++) {
      const { cube, asks } = this.#leaves[covered.leaves]!
      if (isAsked(asks, around)) covered.set = this.#space.diagrams.union(covered.set, cube)
    }
    return covered
  }

  /**
   * The bits that decide whether leaves hold for a situation, where the first character is in these ways. What leaves hold for
   * a set of situations, they hold for what changes make of it that touch none of these bits.
   */
  decidingBits(around: Surroundings): ReadonlySet<number> {
    const covered = this.#coveredIn(around)
    if (covered.decides.set !== covered.set) {
      covered.decides = { set: covered.set, bits: this.#space.diagrams.bitsOf(covered.set) }
    }
    return covered.decides.bits
  }

  /** Whether all that leaves ask about the place of the first character is the same where it is in these ways and in those. */
  asksAlike(around: Surroundings, there: Surroundings): boolean {
    for (const body of this.#asked) if (around.has(body) !== there.has(body)) return false
    return true
  }

  /** Goes the way of the situation that was filled in, to where nothing is known, and runs the part from there. */
  #follow(here: Here): void {
    const { layout, noting, firstBody } = this.#space
    const from = noting.from.slice()
    const path: number[] = []
    let at = this.#root
    while (!at.isDone) {
      const { register } = at
      if (register < 0) {
        noting.from.set(from)
        this.#try(at, path, here)
        continue
      }
      path.push(register)
      // Of what is counted all that it can stand at is tried at once: else each number would have to be found first.
      for (const code of register < firstBody ? layout.counted(register) : []) {
        if (at.children.has(code)) continue
        const child = newBranch()
        at.children.set(code, child)
        noting.from.set(from)
        noting.from[register] = layout.value(register, code)
        this.#try(child, path, here)
      }
      const code =
        register < firstBody ? layout.code(register, from[register]!) : here.around.has(register - firstBody) ? 1 : 0
      let child = at.children.get(code)
      if (!child) at.children.set(code, (child = newBranch()))
      at = child
    }
  }

  /** Runs the part from the situation filled in: what it reads beyond the path makes new branches, what it does a leaf. */
  #try(branch: Branch, path: readonly number[], { around, run }: Here): void {
    const { layout, noting } = this.#space
    noting.forget()
    const outcomes = run()
    const { firstBody } = this.#space
    const reads = noting.reads.filter((register) => register >= firstBody || this.#space.has(register))
    let at = branch
    for (const register of reads) {
      if (path.includes(register)) continue
      at.register = register
      const child = newBranch()
      const isBody = register >= firstBody
      const code = isBody ? (around.has(register - firstBody) ? 1 : 0) : layout.code(register, noting.from[register]!)
      at.children.set(code, child)
      at = child
    }
    at.isDone = true
    const literals: number[] = []
    const asks: number[] = []
    for (const register of reads) {
      const body = register - firstBody
      if (body >= 0) asks.push(around.has(body) ? body : ~body)
      else layout.literals(register, layout.code(register, noting.from[register]!), literals)
    }
    const { diagrams } = this.#space
    const cube = diagrams.cube([...literals].sort((a, b) => a - b))
    this.#leaves.push({ cube, asks })
    const known = this.#asked.size
    for (const ask of asks) this.#asked.add(ask >= 0 ? ask : ~ask)
    if (this.#asked.size > known) this.#covered.clear()
    for (const outcome of outcomes) this.#add(outcome, literals, asks)
  }

  #add(outcome: Outcome, reads: readonly number[], asks: readonly number[]): void {
    const does = new Map<number, string>()
    for (const literal of reads) does.set(literal >> 1, (literal & 1) === 1 ? '1' : '0')
    const writes: number[] = []
    for (const [register, value] of outcome.writes) {
      const code = this.#space.layout.code(register, value)
      this.#space.layout.literals(register, code, writes)
    }
    for (const literal of writes) {
      const [bit, value] = [literal >> 1, (literal & 1) === 1 ? '1' : '0']
      const before = does.get(bit) ?? '?'
      if (before !== value) does.set(bit, before + value)
    }
    const asked = [...asks].sort((a, b) => a - b).join()
    const rest = `${asked} ${outcome.isStorm ? 'storm ' : outcome.isMet ? 'met ' : ''}${outcome.isArrival ? 'arrives ' : ''}${String(outcome.to)} ${String(outcome.kind)} ${String(outcome.what)} ${outcome.taken.join()}`
    this.#merge({ outcome, does, rest, asks })
    this.#list = null
    this.#space.found++
  }

  /** Adds a change; two that are alike but for a bit that they read and leave as it is make one that does not read it. */
  #merge(one: Lifted): void {
    for (const [bit, what] of one.does) {
      if (what.length > 1) continue
      const other = new Map(one.does).set(bit, what === '0' ? '1' : '0')
      if (!this.#changes.delete(liftedKey({ ...one, does: other }))) continue
      other.delete(bit)
      this.#merge({ ...one, does: other })
      return
    }
    this.#changes.set(liftedKey(one), one)
  }

  #made(one: Lifted): LiftedChange {
    if (one.change) return one.change
    const reads: number[] = []
    const writes: number[] = []
    for (const [bit, what] of one.does) {
      if (!what.startsWith('?')) reads.push(2 * bit + Number(what[0]))
      if (what.length > 1) writes.push(2 * bit + Number(what[1]))
    }
    const { diagrams } = this.#space
    const where = diagrams.cube(reads.sort((a, b) => a - b))
    one.change = { ...one.outcome, change: diagrams.change(reads, writes), where, asks: one.asks }
    return one.change
  }
}

/** Where parts are tried. */
interface Here {
  readonly around: Surroundings
  readonly run: Run
}

/** The set of all that so many leaves hold for, and the bits that decide what is in such a set. */
interface Covered {
  set: number
  leaves: number
  decides: { readonly set: number; readonly bits: ReadonlySet<number> }
}

const nowhere: ReadonlySet<number> = new Set()

/** A leaf of the tree: the set of all assignments that it holds for, and what it asks about the place. */
interface Leaf {
  readonly cube: number
  readonly asks: readonly number[]
}

/** Whether what is asked about the place of the first character is so where it is in these ways. */
function isAsked(asks: readonly number[], around: Surroundings): boolean {
  return asks.every((body) => (body >= 0 ? around.has(body) : !around.has(~body)))
}

/** A change with what it does to each bit: `0` and `1` are read and left, `01` is read and written, `?1` only written. */
interface Lifted {
  readonly outcome: Outcome
  readonly does: ReadonlyMap<number, string>
  /** All that must be alike in two changes beside the bits. */
  readonly rest: string
  readonly asks: readonly number[]
  change?: LiftedChange
}

function liftedKey({ does, rest }: Lifted): string {
  const bits = [...does].sort((a, b) => a[0] - b[0])
  return `${rest}|${bits.map(([bit, what]) => `${String(bit)}:${what}`).join(' ')}`
}

interface Branch {
  /** The register that it asks for; -1: not known yet, or a leaf. */
  register: number
  readonly children: Map<number, Branch>
  isDone: boolean
}

const newBranch = (): Branch => ({ register: -1, children: new Map(), isDone: false })

/** What all lifted parts share. */
export class LiftingSpace {
  readonly diagrams: Diagrams
  readonly layout: BitLayout
  readonly noting: NotingRegisters
  /** Beyond the registers, in what parts read, stands whether the first character is in the way of a body: from here on. */
  readonly firstBody: number
  /** What registers stand at that never change. */
  readonly #base: Int32Array
  readonly #bits: Uint8Array
  readonly #ignored: (register: number) => boolean
  /** How many changes have been found, by all parts. */
  found = 0
  /** By register and code, the set in which it stands there. */
  readonly #standing = new Map<number, number>()

  /** `ignored`: registers that stand at 0 in all that is looked at, and need not be asked for. */
  constructor(
    diagrams: Diagrams,
    layout: BitLayout,
    noting: NotingRegisters,
    base: Int32Array,
    ignored: (register: number) => boolean = () => false,
  ) {
    this.#ignored = ignored
    this.diagrams = diagrams
    this.layout = layout
    this.noting = noting
    this.#base = base
    this.firstBody = base.length
    this.#bits = new Uint8Array(layout.bits)
  }

  /** Whether a register is one that is asked for. */
  has(register: number): boolean {
    return this.layout.has(register) && !this.#ignored(register)
  }

  /** The set of all assignments in which a register stands at a code. */
  standing(register: number, code: number): number {
    const key = register * 65_536 + code
    const known = this.#standing.get(key)
    if (known !== undefined) return known
    const literals: number[] = []
    this.layout.literals(register, code, literals)
    const set = this.diagrams.cube(literals)
    this.#standing.set(key, set)
    return set
  }

  /** A code that a register stands at somewhere in a set that is not empty. */
  codeIn(set: number, register: number): number {
    this.diagrams.pick(set, this.#bits)
    return this.layout.read(register, this.#bits)
  }

  /** Puts one situation of a set that is not empty into the registers that runs start from. */
  fill(set: number): void {
    this.diagrams.pick(set, this.#bits)
    this.#fillIn()
  }

  /** Puts a situation that is in both of two sets into them; false where there is none. */
  fillWithin(set: number, other: number): boolean {
    if (!this.diagrams.pickWithin(set, other, this.#bits)) return false
    this.#fillIn()
    return true
  }

  /** The bits of some registers. */
  bitsOf(registers: readonly number[]): ReadonlySet<number> {
    const literals: number[] = []
    for (const register of registers) this.layout.literals(register, 0, literals)
    return new Set(literals.map((literal) => literal >> 1))
  }

  /** Puts a situation that is in a set and not in another into them; false where there is none. */
  fillOutside(set: number, other: number): boolean {
    if (!this.diagrams.pickOutside(set, other, this.#bits)) return false
    this.#fillIn()
    return true
  }

  #fillIn(): void {
    const { layout, noting } = this
    noting.from.set(this.#base)
    for (const register of layout.registers) {
      noting.from[register] = layout.value(register, layout.read(register, this.#bits))
    }
  }

  /** The set of just the situation with these registers. */
  single(regs: Int32Array): number {
    const literals: number[] = []
    for (const register of this.layout.registers) {
      this.layout.literals(register, this.layout.code(register, regs[register]!), literals)
    }
    return this.diagrams.cube(literals)
  }

  /** Whether the situation with these registers is in a set. */
  contains(set: number, regs: Int32Array): boolean {
    const { layout } = this
    for (const register of layout.registers) {
      layout.write(register, layout.code(register, regs[register]!), this.#bits)
    }
    return this.diagrams.has(set, this.#bits)
  }
}
