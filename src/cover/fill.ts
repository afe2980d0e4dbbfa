import {
  Coverage,
  type Evidence,
  Onwards,
  perform,
  type PlayStep,
  type Wanted,
  writtenOneByOne,
  type WrittenStep,
  type WrittenWalkthrough,
} from '../explore/index.ts'
import {
  momentKey,
  momentObservation,
  focusedKey,
  focusedObservation,
  refusalObservation,
  refusalsOf,
  rowsFor,
} from '../findings/index.ts'
import { moments } from '../model/index.ts'
import { Play, type Stage } from '../play/index.ts'
import { exercisedBy } from './exercised.ts'
import { type Item, momentItemKey } from './items.ts'

/** A walkthrough that exercises what no other does, played. */
export interface FilledIn {
  readonly walkthrough: WrittenWalkthrough
  /** For each of its steps what it is the first to exercise of what was asked for, in words, one a line; empty for most. */
  readonly notes: readonly string[]
  /** The keys of all that it exercises. */
  readonly keys: ReadonlySet<string>
}

/** The most steps of a walkthrough from which needless ones are left out one by one: longer ones would take too long. */
const mostThinned = 200

/**
 * Finds few and short walkthroughs that exercise some items: each goes on to the nearest of them that is left, as far as it
 * comes; then those that the others make needless are left out, and of each the steps that nothing hangs on. What it does not
 * come to is left.
 */
export function* fillIn(
  stage: Stage,
  evidence: Evidence,
  items: readonly Item[],
): Generator<undefined, readonly FilledIn[]> {
  const cover = new Coverage(stage)
  const onwards = new Onwards(cover, [refusalObservation(stage), focusedObservation(stage), momentObservation(stage)])
  const targets = new Map(items.map((item) => [item.key, targetsOf(stage, evidence, item)]))
  const left = new Set(targets.keys())
  const failed = new Set<number | string>()
  const ways: (readonly PlayStep[])[] = []
  for (const [key, found] of targets) if (found.length === 0) left.delete(key)
  for (;;) {
    const steps = yield* longWay(stage, onwards, targets, left, failed)
    if (steps.length === 0) break
    ways.push(steps)
    for (const key of keysOf(stage, steps)) left.delete(key)
  }
  const wanted = new Set(items.map(({ key }) => key))
  const needed = withoutNeedless(stage, ways, wanted)
  const filled: FilledIn[] = []
  for (const [i, steps] of needed.entries()) {
    const others = needed.filter((_, other) => other !== i).flatMap((other) => [...keysOf(stage, other)])
    const own = new Set([...keysOf(stage, steps)].filter((key) => wanted.has(key) && !others.includes(key)))
    const short = yield* thinned(stage, steps, own)
    needed[i] = short
    const number = needed.length > 1 ? ` ${String(i + 1)} of ${String(needed.length)}` : ''
    filled.push(written(stage, short, items, `${stage.expanded.level.title}, cover${number}`))
  }
  return filled
}

/** Goes on and on to the nearest that is left, and notes what it could not be brought to from the start. */
function* longWay(
  stage: Stage,
  onwards: Onwards,
  targets: ReadonlyMap<string, readonly (number | string)[]>,
  left: ReadonlySet<string>,
  failed: Set<number | string>,
): Generator<undefined, readonly PlayStep[]> {
  let steps: readonly PlayStep[] = []
  let keys: ReadonlySet<string> = new Set()
  const skipped = new Set(failed)
  for (;;) {
    const missing = [...left].filter((key) => !keys.has(key)).flatMap((key) => targets.get(key)!)
    const wanted = wantedOf(missing.filter((target) => !skipped.has(target)))
    if (wanted.rows.size + wanted.keys.size === 0) return steps
    const onward = yield* onwards.next(steps, wanted, steps.length === 0)
    if (!onward) return steps
    const after = onward.steps && keysOf(stage, onward.steps)
    const isNearer = after !== null && [...left].some((key) => after.has(key) && !keys.has(key))
    if (isNearer) {
      steps = onward.steps!
      keys = after
      continue
    }
    skipped.add(onward.target)
    if (steps.length === 0) failed.add(onward.target)
  }
}

function wantedOf(targets: readonly (number | string)[]): Wanted {
  return {
    rows: new Set(targets.filter((target) => typeof target === 'number')),
    keys: new Set(targets.filter((target) => typeof target === 'string')),
  }
}

/** What leads to an item: transitions, and what observations see. */
function targetsOf(stage: Stage, evidence: Evidence, { kind, key, interactable }: Item): readonly (number | string)[] {
  const machine = stage.expanded.interactables.findIndex(({ name }) => name === interactable)
  if (kind === 'transition') return [Number(key.split(' ')[1])]
  if (kind === 'refusal') return [key]
  if (kind === 'state') {
    const state = Number(key.split(' ')[2])
    return stage.tables.rowsOf[machine]!.filter(({ to }) => to === state).map(({ index }) => index)
  }
  const moment = moments.find((one) => momentItemKey(machine, one) === key)!
  if (moment === 'focused') return [focusedKey(interactable)]
  const refusals = refusalsOf({ stage, evidence }, machine).filter((refusal) => refusal.moment === moment)
  const rows = rowsFor(stage, machine, moment).map(({ index }) => index)
  return [...rows, ...refusals.map((refusal) => refusal.key), momentKey(interactable, moment)]
}

function keysOf(stage: Stage, steps: readonly PlayStep[]): ReadonlySet<string> {
  return new Set(exercisedBy(stage, steps).flatMap((added) => [...added]))
}

/** Without the ways that exercise nothing of what is wanted that the others do not. */
function withoutNeedless(
  stage: Stage,
  ways: readonly (readonly PlayStep[])[],
  wanted: ReadonlySet<string>,
): (readonly PlayStep[])[] {
  const all = ways.map((steps) => ({ steps, keys: keysOf(stage, steps) }))
  for (const one of [...all]) {
    const others = all.filter((other) => other !== one)
    const isNeedless = [...one.keys].every((key) => !wanted.has(key) || others.some(({ keys }) => keys.has(key)))
    if (isNeedless) all.splice(all.indexOf(one), 1)
  }
  return all.map(({ steps }) => steps)
}

/** Leaves out, from the end, each step without which the rest still exercises all of these. */
function* thinned(
  stage: Stage,
  steps: readonly PlayStep[],
  own: ReadonlySet<string>,
): Generator<undefined, readonly PlayStep[]> {
  let kept = steps
  if (steps.length > mostThinned) return kept
  for (let i = kept.length - 1; i >= 0; i--) {
    yield
    const fewer = kept.filter((_, at) => at !== i)
    const keys = keysOf(stage, fewer)
    if ([...own].every((key) => keys.has(key))) kept = fewer
  }
  return kept
}

/** Steps as a walkthrough, with what is expected after each that exercises something for the first time. */
function written(stage: Stage, steps: readonly PlayStep[], items: readonly Item[], title: string): FilledIn {
  const added = exercisedBy(stage, steps)
  const named = steps.map((step, i) => withTarget(stage, step, steps[i + 1], added[i + 1]!))
  const byKey = new Map(items.map((item) => [item.key, item]))
  const play = new Play(stage)
  const notes: string[] = []
  const all = writtenOneByOne(stage, named).flatMap((own, i) => {
    perform(play, steps[i]!)
    const fresh = [...added[i + 1]!].flatMap((key) => byKey.get(key) ?? [])
    const expected = expectations(play, fresh)
    notes.push(noteOf(fresh))
    notes.push(...Array.from({ length: own.length + expected.length - 1 }, () => ''))
    return [...own, ...expected]
  })
  return { walkthrough: { walkthrough: 1, title, steps: all }, notes, keys: new Set(added.flatMap((one) => [...one])) }
}

/** A walk, by the name of what is pressed or comes into focus at its end. */
function withTarget(
  { expanded }: Stage,
  step: PlayStep,
  next: PlayStep | undefined,
  added: ReadonlySet<string>,
): PlayStep {
  if (step.do !== 'walk-to') return step
  if (next?.do === 'press' || next?.do === 'dial') return { ...step, target: next.on }
  const focused = expanded.interactables.find(({ index }) => added.has(momentItemKey(index, 'focused')))
  return focused ? { ...step, target: focused.name } : step
}

/** What is exercised, one line for each interactable. */
function noteOf(fresh: readonly Item[]): string {
  const names = [...new Set(fresh.map(({ interactable }) => interactable))]
  return names
    .map((name) => {
      const own = fresh.filter((one) => one.interactable === name)
      const isMoved = own.some(({ kind }) => kind === 'transition')
      // A transition says which state it leads to.
      const said = own.filter(({ kind }) => kind !== 'state' || !isMoved)
      const feedback = said.filter(({ kind }) => kind === 'feedback').map(({ text }) => text)
      const rest = said.filter(({ kind }) => kind !== 'feedback').map(({ text }) => text)
      return `${name}: ${[...rest, ...(feedback.length > 0 ? [`feedback ${feedback.join(', ')}`] : [])].join('; ')}`
    })
    .join('\n')
}

/** What a play that has just exercised some items can be expected to show. */
function expectations(play: Play, fresh: readonly Item[]): WrittenStep[] {
  const { interactables } = play.stage.expanded
  const last = play.log.findLast(({ what }) => what === 'press')
  const names = new Set(
    fresh.filter(({ kind }) => kind === 'state' || kind === 'transition').map((one) => one.interactable),
  )
  const states = [...names].map((interactable): WrittenStep => {
    const machine = interactables.findIndex(({ name }) => name === interactable)
    return { expect: { interactable, is: play.stateOf(machine) } }
  })
  const isRefused = fresh.some(({ kind }) => kind === 'refusal')
  return last?.what === 'press' && isRefused ? [{ expect: { refused: last.interactable } }, ...states] : states
}
