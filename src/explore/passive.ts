import { levelOfZone } from '../interactables/index.ts'
import { isActed, type Moved, type Tables } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import type { Patches, Signature, Space } from '../space/index.ts'
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

/** The characters of a level that are passive; null where none is. Of levels that are joined, each is looked at with its own level alone. */
export function passiveOf(stage: Stage): Passive | null {
  const levels = [...stage.tables.clocksIn.keys()]
  const all = levels.flatMap((level) => passiveIn(stage, level) ?? [])
  if (all.length === 0) return null
  return {
    characters: new Set(all.flatMap(({ characters }) => [...characters])),
    bodies: all.flatMap(({ bodies }) => bodies),
  }
}

function passiveIn({ tables, expanded, space }: Stage, level: number): Passive | null {
  const { at, states, canBeHeld, levelOf, othersIn } = tables
  const isOwn = (machine: number): boolean => levelOf[machine] === level
  const rows = tables.rows.filter(({ machine }) => isOwn(machine))
  const pushes = expanded.interactables.some(({ index, inTheWay }) => isOwn(index) && inTheWay === 'push')
  // A character that is pushed, or moved, comes out elsewhere at the same moment. An exit takes only the player to another level.
  const moves = rows.some(({ transition: { changes } }) => changes.some((one) => one.kind === 'move-to' && !one.exit))
  if (moves || pushes || at.askedZones.some((zone) => levelOfZone(expanded, zone) === level)) return null
  // What ignores a press answers everybody, which matters where it can be kept down.
  const isKept = (own: Tables['states'][number], machine: number): boolean =>
    isOwn(machine) && canBeHeld[machine]! && own.some(({ ignoresPress }) => ignoresPress)
  if (states.some(isKept)) return null
  const others = expanded.joined ? othersIn[level]! : [...expanded.characters.keys()].slice(1)
  const idle = others.filter((who) => {
    const { role, carries } = expanded.characters[who]!
    const isIdle = role !== 'player' && carries.every((count) => count === 0)
    return isIdle && !rows.some(({ may, transition }) => may[who]! && isActed(transition))
  })
  const { figures } = space.layout
  const mayWait = (machine: number): boolean => figures[machine]!.comesAndGoes && canWait(tables, machine).length > 0
  const bodies = expanded.interactables.flatMap(({ index }) => (isOwn(index) && mayWait(index) ? [index] : []))
  // Where a level is left, those who stay go home one after the other: which of them is in whose way must be known for that.
  const isInOrder = !expanded.joined || (idle.length === others.length && (idle.length < 2 || bodies.length < 2))
  return idle.length > 0 && isInOrder ? { characters: new Set(idle), bodies } : null
}

/** The level with those who are passive put where nothing is. */
export function withoutPassive(stage: Stage, passive: Passive): Stage {
  const { characters, bodies } = passive
  const { space } = stage
  const patches = space.patches.map((ground, who) => (characters.has(who) ? nowhere(ground) : ground))
  const regs = new Int32Array(stage.tables.at.size)
  for (const who of characters) {
    regs[stage.tables.at.place(who)] = space.patches[who]!.patchAt(space.layout.starts[who]!)
  }
  return {
    ...stage,
    space: {
      ...space,
      patches,
      hops: (who, patch) => (characters.has(who) ? [] : space.hops(who, patch)),
      strides: (who, patch) => (characters.has(who) ? [] : space.strides(who, patch)),
      merged: { characters, bodies, barredAtFirst: barredIn(stage, passive, regs) },
    },
  }
}

/** Those of whom only that is kept go back to where they start, in a level that was left: the bodies whose way is clear by that. */
export function mergedGoHome(
  { at, levelOf, levelOfCharacter }: Tables,
  { bodies, barredAtFirst }: NonNullable<Space['merged']>,
  regs: Int32Array,
  who: number,
  isInTheWay: (machine: number) => boolean,
): Moved {
  const cleared = bodies.filter((body) => {
    if (levelOf[body] !== levelOfCharacter[who]) return false
    const was = regs[at.barred(body)] === 1
    const becomes = barredAtFirst.has(body)
    if (was !== becomes) regs[at.barred(body)] = becomes ? 1 : 0
    return was && !becomes && !isInTheWay(body)
  })
  return { left: [], entered: [], cleared }
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
