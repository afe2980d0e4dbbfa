import { type Play, startRegisters } from '../play/index.ts'
import type { Coverage, StandingStart } from './cover.ts'
import { rehearse } from './steps.ts'
import { type Made, novelTrails, type TrailMove } from './sure-search.ts'

/** Situations that roaming goes on from. */
const mostSituations = 20_000

/** Told of a sure move that leads to something new, with the way to where it was made; whether that is enough. */
export type OnMade = (made: Made, before: StandingStart) => boolean

/** Plays transitions and goals that sure moves come to far off, in levels that are too large to look at everything. */
export function* roam(cover: Coverage): Generator<undefined, void> {
  for (const character of cover.stage.space.patches.keys()) yield* cover.stage.space.findHops(character)
  const start = yield* cover.standingStart()
  if (!start) return
  const far = yield* wander(cover, start, () => false)
  yield* rehearsed(cover, far.moves, true)
  yield* roamFrom(cover, far)
  yield* roamFrom(cover, start)
}

/** Plays on from some moves to all transitions and goals that were not yet played and that it finds a trail to. */
function* roamFrom(cover: Coverage, start: StandingStart): Generator<undefined, void> {
  const { goals } = cover.stage.expanded
  for (const pairs of [false, true]) {
    const trails = new Map<string, TrailMove[]>()
    const note = (key: string, isKnown: boolean, trail: () => TrailMove[]): void => {
      if (!isKnown && !trails.has(key)) trails.set(key, trail())
    }
    const limits = { situations: mostSituations, pairs }
    yield* novelTrails(cover.sure, start.regs, start.patch, limits, (made) => {
      for (const row of made.taken) note(`row ${String(row)}`, cover.rows.has(row), made.trail)
      for (const [goal, { name }] of goals.entries()) {
        if ((made.held & (1 << goal)) !== 0) note(`goal ${name}`, cover.goals.has(name), made.trail)
      }
      return false
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

/**
 * Goes on and on, each time by the first trail found to a transition that was not yet taken on this way, until none is
 * found: what was done before is kept, so that each stretch is short however far off its end is from the start (serialized
 * search: Lipovetzky and Geffner 2012). What leads back to how things stood at the start is left out: doors stay open, and
 * levers down; with `isEmptyHanded`, nothing is taken until there is nothing else to do. Tells of what is new on the way, and
 * gives where it ends.
 */
export function* wander(
  cover: Coverage,
  start: StandingStart,
  onNew: OnMade,
  isEmptyHanded = false,
): Generator<undefined, StandingStart> {
  const { rows, states } = cover.stage.tables
  const first = startRegisters(cover.stage)
  const leadsBack = (row: number): boolean => {
    const { machine, to } = rows[row]!
    if (to < 0) return false
    const { moved } = states[machine]![to]!
    return to === first[machine] || (moved.length > 0 && moved.every((next) => next.to === first[machine]))
  }
  const gives = (row: number): boolean => rows[row]!.transition.changes.some(({ kind }) => kind === 'give')
  const taken = new Set<number>()
  let here = start
  let isEnough = false
  for (let isOn = true; isOn && !isEnough;) {
    isOn = false
    const from = here
    for (const isTaking of isEmptyHanded ? [false, true] : [true]) {
      for (const pairs of [false, true]) {
        if (isOn || isEnough) break
        yield* novelTrails(cover.sure, from.regs, from.patch, { situations: mostSituations, pairs }, (made) => {
          if (made.isNew) isEnough = onNew(made, from)
          if (isEnough) return true
          if (made.taken.every((row) => taken.has(row)) || made.taken.some(leadsBack)) return false
          if (!isTaking && made.taken.some(gives)) return false
          for (const row of made.taken) taken.add(row)
          here = { ...from, regs: made.regs.slice(), patch: made.patch, moves: [...from.moves, ...made.trail()] }
          return (isOn = true)
        })
      }
    }
  }
  return here
}
