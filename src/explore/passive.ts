import { isActed } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import type { Patches, Signature } from '../space/index.ts'
import { canWait } from './waiting.ts'

/**
 * Characters who can do nothing but stand in the way of bodies: nothing answers them, nothing asks where they are, nothing moves them,
 * and they carry nothing. Of them all only this is kept: for each body that has to wait, whether one of them is in its way.
 *
 * For possible moves that is enough, and more than can be: one of them may come into the way of any body that does not bar the way
 * there just then, from wherever it is, and leave again, as if it were the last. Whatever the real ones do is among that. For sure
 * moves they stand where they are, as those do of whom nobody can be sure.
 */
export interface Passive {
  readonly characters: ReadonlySet<number>
  /** The interactables whose bodies may have to wait for them. */
  readonly bodies: readonly number[]
}

/** The characters of a level that are passive; null where none is. */
export function passiveOf({ tables, expanded, space }: Stage): Passive | null {
  const { at, rows, states, canBeHeld, movesPeople } = tables
  const pushes = expanded.interactables.some(({ inTheWay }) => inTheWay === 'push')
  // A character that is pushed, or moved, comes out elsewhere at the same moment.
  if (movesPeople || pushes || at.askedZones.length > 0) return null
  // What ignores a press answers everybody, which matters where it can be kept down.
  if (states.some((own, machine) => canBeHeld[machine]! && own.some(({ ignoresPress }) => ignoresPress))) return null
  const characters = new Set(
    expanded.characters.flatMap(({ role, carries }, character) => {
      const isIdle = character > 0 && role !== 'player' && carries.every((count) => count === 0)
      return isIdle && !rows.some(({ may, transition }) => may[character]! && isActed(transition)) ? [character] : []
    }),
  )
  if (characters.size === 0) return null
  const { figures } = space.layout
  const mayWait = (machine: number): boolean => figures[machine]!.comesAndGoes && canWait(tables, machine).length > 0
  return { characters, bodies: expanded.interactables.flatMap(({ index }) => (mayWait(index) ? [index] : [])) }
}

/** The level with those who are passive put where nothing is. */
export function withoutPassive(stage: Stage, { characters }: Passive): Stage {
  const { space } = stage
  const patches = space.patches.map((ground, who) => (characters.has(who) ? nowhere(ground) : ground))
  return {
    ...stage,
    space: {
      ...space,
      patches,
      hops: (who, patch) => (characters.has(who) ? [] : space.hops(who, patch)),
      strides: (who, patch) => (characters.has(who) ? [] : space.strides(who, patch)),
    },
  }
}

/** The bodies in whose way passive characters are, in registers that say on which patch each of them is. */
function barredIn({ space, tables }: Stage, passive: Passive, regs: Int32Array): ReadonlySet<number> {
  const on = [...passive.characters].flatMap((who) => {
    const patch = regs[tables.at.place(who)]!
    return space.patches[who]!.patches[patch]?.signature.bodies ?? []
  })
  return new Set(on.filter((body) => passive.bodies.includes(body)))
}

/** Registers as they are where only what passive characters are in the way of is kept. */
export function keptIn(stage: Stage, passive: Passive, regs: Int32Array): Int32Array {
  const { at } = stage.tables
  const kept = regs.slice()
  const barred = barredIn(stage, passive, regs)
  for (const body of passive.bodies) kept[at.barred(body)] = barred.has(body) ? 1 : 0
  for (const who of passive.characters) kept[at.place(who)] = 0
  return kept
}

const nothing: Signature = { zones: [], bodies: [], candidates: [] }

/** A ground of one patch on which nothing is. */
function nowhere({ grid }: Patches): Patches {
  return {
    grid,
    patches: [{ index: 0, signature: nothing, firm: true, sure: true, spot: [0, 0], cells: 1 }],
    beside: [[]],
    sureAt: new Int32Array(0),
    rims: [[]],
    thinAt: new Map(),
    tooCoarse: false,
    patchAt: () => 0,
    patchOf: () => 0,
    spotsOf: () => [],
    patchesIn: () => [],
    escapes: () => [],
  }
}
