import { addAsked, looseClocks } from '../../machine/index.ts'
import { levelOfPatch, type Stage } from '../../play/index.ts'
import type { Signature } from '../../space/index.ts'
import type { Passive } from '../passive.ts'
import { type MoveVisitor, type MoveWatcher, type Part, type Scratch, Successors } from '../successors.ts'
import type { Way } from '../walks.ts'
import {
  type LiftedChange,
  LiftedPart,
  type LiftingSpace,
  type Outcome,
  type Run,
  type Surroundings,
} from './lifting.ts'
import type { NotingRegisters } from './noting.ts'
import type { Places } from './places.ts'

/** A part of the moves that can be made at a place of the first character, and where it leads that character. */
export interface PartAt {
  readonly part: LiftedPart
  /** The place that it leads to where its outcome says so. */
  readonly there: number
  readonly run: Run
  /** What the part does, on which patch; parts with the same key do alike. */
  readonly key: string
  readonly made: Part
  readonly patch: number
}

/** All possible moves, lifted: what can be done, or happen, while the first character is at a place. */
export class PlaceMoves {
  readonly #stage: Stage
  readonly #space: LiftingSpace
  readonly #places: readonly Places[]
  readonly #passive: Passive | null
  readonly #noting: NotingRegisters
  readonly #scratch: Scratch
  readonly #moves: Successors
  readonly #parts = new Map<string, LiftedPart>()
  readonly #partsAt: (readonly PartAt[] | undefined)[] = []
  readonly #has: (ReadonlySet<LiftedPart> | undefined)[] = []
  /** By place of the first character, the bodies in whose way it is there. */
  readonly #around: (ReadonlySet<number> | undefined)[] = []
  /** Whether anything moves people to places, or pushes them. */
  readonly #movesPeople: boolean
  #isWalking = false
  /** What came of the run that is being made. */
  #outcomes: Outcome[] = []

  constructor(stage: Stage, space: LiftingSpace, places: readonly Places[], passive: Passive | null) {
    const { tables, expanded } = stage
    this.#stage = stage
    this.#space = space
    this.#places = places
    this.#passive = passive
    this.#noting = space.noting
    this.#scratch = {
      after: this.#noting.after,
      begin: () => {
        this.#noting.begin()
      },
    }
    this.#moves = this.watched(null)
    this.#moves.onAsked = (machine) => {
      if (!this.#isWalking) this.#noting.note(tables.at.size + machine)
    }
    this.#moves.onStorm = (kind, what, row) => {
      this.#outcomes.push({ writes: [], to: -1, kind, what, taken: [row], isStorm: true })
    }
    this.#movesPeople = tables.movesPeople || expanded.interactables.some(({ inTheWay }) => inTheWay === 'push')
  }

  /** All that can be done, or happen, while the first character is at a place. */
  at(place: number): readonly PartAt[] {
    return (this.#partsAt[place] ??= [...this.#list(place)])
  }

  /** The level, of those that are joined, in which the first character is at a place; 0 where there is one level. */
  #levelAt(place: number): number {
    const [patch] = this.#places[0]!.patches[place]!
    return levelOfPatch(this.#stage, patch!)
  }

  /** Whether a part is among what can be done at a place. */
  has(place: number, part: LiftedPart): boolean {
    return (this.#has[place] ??= new Set(this.at(place).map((one) => one.part))).has(part)
  }

  *#list(place: number): Generator<PartAt> {
    const { tables, space } = this.#stage
    const [own] = this.#places
    const patches = own!.patches[place]!
    const { signature } = space.patches[0]!.patches[patches[0]!]!
    // Where people are moved, outcomes name places, and are not shared between them.
    const here = this.#movesPeople ? `@${String(place)}` : ''
    const lifted = (key: string, made: Part, patch: number, put: Put | null, there: number): PartAt => {
      const part = this.#parts.get(key) ?? new LiftedPart(this.#space)
      this.#parts.set(key, part)
      return { key, part, there, run: () => this.#runOf(made, patch, put, there), made, patch }
    }
    const level = this.#levelAt(place)
    for (const register of tables.clocksIn[level]!) {
      const clock = register - tables.at.firstClock
      yield lifted(`due ${String(clock)} ${here}`, { do: 'due', clock }, patches[0]!, null, -1)
    }
    for (const machine of this.#passive?.bodies ?? []) {
      if (tables.levelOf[machine] !== level) continue
      yield lifted(`pass ${String(machine)} ${here}`, { do: 'pass', machine }, patches[0]!, null, -1)
    }
    for (let actor = 0; actor < tables.at.characters; actor++) {
      if (this.#passive?.characters.has(actor)) continue
      const stays = tables.levelOfCharacter[actor]!
      if (stays >= 0 && stays !== level) continue
      if (tables.canBeHeld.includes(true)) {
        yield lifted(`release ${String(actor)} ${here}`, { do: 'release', actor }, patches[0]!, null, -1)
      }
      const grounds = space.patches[actor]!
      const groups = actor === 0 ? [patches] : this.#places[actor]!.patches
      for (const group of groups) {
        for (const patch of group) {
          const put = actor === 0 ? null : { register: tables.at.place(actor), patch, group: group[0]! }
          const on = actor === 0 ? patch : patches[0]!
          const { candidates } = grounds.patches[patch]!.signature
          for (const [i, { interactable: machine }] of candidates.entries()) {
            const nearer = JSON.stringify(candidates.slice(0, i + 1))
            const key = `act ${String(actor)} ${put ? String(group[0]!) : ''} ${here} ${nearer}`
            yield lifted(key, { do: 'act', actor, machine }, on, put, -1)
          }
          for (const [way, one] of this.#moves.waysFrom(actor, patch).entries()) {
            const to = this.#places[actor]!.of[one.to]!
            if (to === this.#places[actor]!.of[patch]) continue
            const ground =
              actor === 0
                ? groundKey(signature, grounds.patches[one.to]!.signature)
                : `${String(patch)} ${String(one.to)}`
            const key = `walk ${String(actor)} ${here} ${ground} ${wayKey(one)}`
            yield lifted(key, { do: 'walk', actor, way }, on, put, actor === 0 ? to : -1)
          }
        }
      }
    }
  }

  /** Runs a part from the registers that are noted, with somebody else put on a patch of its place. */
  #runOf(part: Part, patch: number, put: Put | null, there: number): readonly Outcome[] {
    // Where the first character walks, its place is in the key of the part.
    this.#isWalking = part.do === 'walk' && put === null
    const { from } = this.#noting
    if (put) {
      // A character that is not at that place does not do that.
      const at = this.#noting.base[put.register]!
      if (at !== put.group) return []
      from[put.register] = put.patch
    }
    const outcomes = this.#outcomesOf(patch, there, (visit) => {
      this.#moves.eachOf(part, this.#noting.base, patch, visit)
    })
    if (put) from[put.register] = put.group
    return outcomes
  }

  #outcomesOf(patch: number, there: number, make: (visit: MoveVisitor) => void): readonly Outcome[] {
    const outcomes = (this.#outcomes = [] as Outcome[])
    const { of } = this.#places[0]!
    make((_regs, after, kind, what, taken) => {
      const writes: [number, number][] = []
      for (const register of this.#noting.written) {
        if (this.#space.has(register) && this.#noting.mayDiffer(register)) {
          writes.push([register, this.#noting.valueOf(register)])
        }
      }
      const at = of[after]!
      const to = at === of[patch] ? -1 : at === there ? -2 : at
      if (writes.length === 0 && to === -1 && taken.length === 0) return
      outcomes.push({ writes, to, kind, what, taken: [...taken], isStorm: false })
    })
    return outcomes
  }

  /** All that a walk of the first character from a patch onto another may lead to from a set, though that may not be beside it. */
  into(set: number, patch: number, to: number): readonly LiftedChange[] {
    const key = `into ${String(patch)} ${String(to)}`
    const part = this.#parts.get(key) ?? new LiftedPart(this.#space)
    this.#parts.set(key, part)
    part.learn(set, this.aroundOf(this.#places[0]!.of[patch]!), () => {
      this.#isWalking = true
      return this.#outcomesOf(patch, this.#places[0]!.of[to]!, (visit) => {
        this.#moves.into(this.#noting.base, patch, 0, to, visit)
      })
    })
    return part.changes
  }

  /** The moves of this search in the registers that note what is read, told to somebody who watches what they do. */
  watched(watcher: MoveWatcher | null): Successors {
    const { tables, space } = this.#stage
    const moves = new Successors(tables, space, looseClocks, false, null, watcher, this.#scratch)
    moves.mayHaveChanged = whatChanged(this.#stage, this.#noting)
    return moves
  }

  /** The bodies in whose way the first character is at a place. */
  aroundOf(place: number): Surroundings {
    const patch = this.#places[0]!.patches[place]![0]!
    return (this.#around[place] ??= new Set(this.#stage.space.patches[0]!.patches[patch]!.signature.bodies))
  }

  /** All changes that can happen at a place, with where they lead. */
  *changesAt(place: number): Generator<{ readonly change: LiftedChange; readonly to: number }> {
    const around = this.aroundOf(place)
    for (const { part, there } of this.at(place)) {
      for (const change of part.changesAt(around)) {
        yield { change, to: change.to === -1 ? place : change.to === -2 ? there : change.to }
      }
    }
  }
}

/** Another character than the first on a patch; its register names its place by the first patch of that. */
interface Put {
  readonly register: number
  readonly patch: number
  readonly group: number
}

/** What has a say in a walk of the first character beside what it crosses: whose way it stands in before and after. */
function groundKey(from: Signature, to: Signature): string {
  return `${from.zones.join()}/${from.bodies.join()} ${to.zones.join()}/${to.bodies.join()}`
}

function wayKey({ bodies, crossed, cleared }: Way): string {
  const borders = crossed.map(({ zone, inside }) => `${inside ? '+' : '-'}${String(zone)}`)
  return `${bodies.join()}/${borders.join()}/${cleared.join()}`
}

/** Whether a condition that is waited for mentions anything that the move has written: else it stands as before. */
export function whatChanged(
  { tables: { awaited, at, expanded, forgotten, levelOf } }: Stage,
  noting: NotingRegisters,
): (index: number) => boolean {
  const asked = awaited.map(({ row, asksItems }, index) => {
    const registers = new Set<number>()
    const { when } = row.transition
    if (when.kind === 'becomes') addAsked(when.check, at, expanded, registers)
    // What is carried is only looked at when the level is come to.
    if (at.here >= 0 && asksItems) registers.add(at.here)
    // What begins anew is looked at anew.
    if (forgotten[levelOf[row.machine]!]) registers.add(at.holding(index))
    return [...registers]
  })
  return (index) => asked[index]!.some((register) => noting.written.has(register))
}
