import { type Play, startRegisters } from '../play/index.ts'
import type { CompiledTransition } from '../machine/index.ts'
import type { Coverage, StandingStart } from './cover.ts'
import { mostGoals } from './search.ts'
import { rehearse } from './steps.ts'
import { type Made, novelTrails } from './sure-search.ts'
import type { TrailMove } from './trail.ts'

/** Situations that roaming goes on from. */
const mostSituations = 20_000

/** Told of a sure move that leads to something new, with the way to where it was made; whether that is enough. */
export type OnMade = (made: Made, before: StandingStart) => boolean

/**
 * Plays transitions and goals that sure moves come to far off, in levels that are too large to look at everything. `possible`: for each
 * row whether it can ever be taken.
 */
export function* roam(cover: Coverage, possible: Uint8Array): Generator<undefined, void> {
  for (const character of cover.far.actors) yield* cover.stage.space.findHops(character)
  const start = yield* cover.standingStart()
  if (!start) return
  const far = yield* wander(cover, start, () => false, { possible })
  yield* rehearsed(cover, far.moves, true)
  yield* roamFrom(cover, far, possible)
  yield* roamFrom(cover, start, possible)
}

/** Plays on from some moves to all transitions and goals that were not yet played and that it finds a trail to. */
function* roamFrom(cover: Coverage, start: StandingStart, possible: Uint8Array): Generator<undefined, void> {
  const goals = cover.stage.expanded.goals.slice(0, mostGoals)
  for (const pairs of [false, true]) {
    const missing = [...possible.keys()].filter((row) => possible[row] !== 0 && !cover.rows.has(row)).length
    const unmet = goals.filter(({ name }) => !cover.goals.has(name)).length
    if (missing + unmet === 0) return
    const trails = new Map<string, TrailMove[]>()
    const note = (key: string, isKnown: boolean, trail: () => TrailMove[]): void => {
      if (!isKnown && !trails.has(key)) trails.set(key, trail())
    }
    const limits = { situations: mostSituations, pairs }
    yield* novelTrails(cover.far, start.regs, start.patch, limits, (made) => {
      for (const row of made.taken) note(`row ${String(row)}`, cover.rows.has(row), made.trail)
      for (const [goal, { name }] of goals.entries()) {
        if ((made.held & (1 << goal)) !== 0) note(`goal ${name}`, cover.goals.has(name), made.trail)
      }
      return trails.size === missing + unmet
    })
    // The longest first: what lies on its way is seen as well.
    for (const [key, trail] of [...trails].sort((a, b) => b[1].length - a[1].length)) {
      const [kind, name] = key.split(' ') as [string, string]
      const isKnown = (): boolean => (kind === 'row' ? cover.rows.has(Number(name)) : cover.goals.has(name))
      for (const exact of [false, true]) if (!isKnown()) yield* rehearsed(cover, [...start.moves, ...trail], exact)
      yield
    }
  }
}

/** Plays moves; what Play does before it goes another way was done all the same. */
function* rehearsed(cover: Coverage, moves: readonly TrailMove[], exact: boolean): Generator<undefined, void> {
  const onAstray = (play: Play): void => void cover.played({ play, steps: [] })
  const manner = { direct: false, exact, hasWaited: () => true, onAstray }
  const rehearsal = yield* rehearse(cover.stage, moves, manner)
  if (rehearsal) cover.played(rehearsal)
}

/** How somebody wanders. */
interface Wandering {
  /** Whether nothing is taken until there is nothing else to do. */
  readonly isEmptyHanded?: boolean
  /** For each row whether it can ever be taken: when all that lead on have been, it is over. Null: that is not known. */
  readonly possible?: Uint8Array | null
}

/** The rows that leave states to which rows that lead on come, from the first states on. */
function forwards(
  rowsOf: readonly (readonly CompiledTransition[])[],
  first: Int32Array,
  leadsOn: (row: number) => boolean,
): number[] {
  return rowsOf.flatMap((own, machine) => {
    const on = own.filter(({ index }) => leadsOn(index))
    const states = new Set([first[machine]!])
    for (const state of states)
      for (const { to, transition } of on) if (to >= 0 && transition.from.includes(state)) states.add(to)
    return on.filter(({ transition }) => transition.from.some((state) => states.has(state))).map(({ index }) => index)
  })
}

/**
 * Goes on and on, each time by the first trail found to a transition that was not yet taken on this way, until none is
 * found: what was done before is kept, so that each stretch is short however far off its end is from the start (serialized
 * search: Lipovetzky and Geffner 2012). What leads back to how things stood at the start is left out: doors stay open, and
 * levers down. Tells of what is new on the way, and gives where it ends.
 */
export function* wander(
  cover: Coverage,
  start: StandingStart,
  onNew: OnMade,
  { isEmptyHanded = false, possible = null }: Wandering = {},
): Generator<undefined, StandingStart> {
  const { rows, rowsOf, states } = cover.stage.tables
  const first = startRegisters(cover.stage)
  const leadsBack = (row: number): boolean => {
    const { machine, to } = rows[row]!
    if (to < 0) return false
    const { moved } = states[machine]![to]!
    return to === first[machine] || (moved.length > 0 && moved.every((next) => next.to === first[machine]))
  }
  const gives = (row: number): boolean => rows[row]!.transition.changes.some(({ kind }) => kind === 'give')
  const taken = new Set<number>()
  const isLeft = (row: number): boolean => !taken.has(row) && !leadsBack(row)
  const left = possible && new Set(forwards(rowsOf, first, isLeft).filter((row) => possible[row] !== 0))
  let here = start
  let isEnough = false
  for (let isOn = true; isOn && !isEnough && left?.size !== 0;) {
    isOn = false
    const from = here
    for (const isTaking of isEmptyHanded ? [false, true] : [true]) {
      for (const pairs of [false, true]) {
        if (isOn || isEnough) break
        yield* novelTrails(cover.far, from.regs, from.patch, { situations: mostSituations, pairs }, (made) => {
          if (made.isNew) isEnough = onNew(made, from)
          if (isEnough) return true
          if (made.taken.every((row) => taken.has(row)) || made.taken.some(leadsBack)) return false
          if (!isTaking && made.taken.some(gives)) return false
          for (const row of made.taken) {
            taken.add(row)
            left?.delete(row)
          }
          here = { ...from, regs: made.regs.slice(), patch: made.patch, moves: [...from.moves, ...made.trail()] }
          return (isOn = true)
        })
      }
    }
  }
  return here
}
