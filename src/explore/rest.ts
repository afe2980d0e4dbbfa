import type { Row, Tables } from '../machine/index.ts'
import { moveKind } from './moves.ts'
import type { Search } from './search.ts'
import type { Bits } from './store.ts'

/** Between so many rounds of a loop others get their turn. */
const round = 0x1fff

/** Whether waiting brings every situation among `among` to rest: time alone never goes in a circle. */
export function* comesToRest(search: Search, among: Bits): Generator<undefined, boolean> {
  if (search.isComplete && clocksRunDown(search.stage.tables)) return true
  return yield* allComeToRest(search, among)
}

/**
 * The same, by looking at every situation in which nobody keeps anything pressed: whoever does can let go at any time, and
 * what runs only as long as it is pressed stops then.
 */
export function* allComeToRest(search: Search, among: Bits): Generator<undefined, boolean> {
  const { count } = search.store
  const isHeld = holding(search)
  const left = new Int32Array(count)
  const backward: number[][] = []
  const done: number[] = []
  let running = 0
  for (let index = 0; index < count; index++) {
    if ((index & round) === round) yield
    if (!among.has(index) || search.isAtRest(index) || isHeld(index)) continue
    running++
    if (index >= search.expanded) return false
    const end = search.endEdge(index)
    for (let edge = search.firstEdge(index); edge < end; edge++) {
      const target = search.target(edge)
      if (search.kind(edge) !== moveKind.wait || search.isAtRest(target) || !among.has(target)) continue
      left[index]!++
      ;(backward[target] ??= []).push(index)
    }
    if (left[index] === 0) done.push(index)
  }
  let settled = 0
  for (let next = done.pop(); next !== undefined; next = done.pop()) {
    if ((++settled & round) === round) yield
    for (const source of backward[next] ?? []) {
      left[source]!--
      if (left[source] === 0) done.push(source)
    }
  }
  return settled === running
}

/** Whether somebody keeps something pressed in a situation. */
function holding(search: Search): (index: number) => boolean {
  const { at, canBeHeld } = search.stage.tables
  if (!canBeHeld.includes(true)) return () => false
  const regs = new Int32Array(at.size)
  return (index) => {
    search.read(index, regs)
    for (let character = 0; character < at.characters; character++) if (regs[at.held(character)] !== 0) return true
    return false
  }
}

/**
 * Whether it can be seen from the tables alone that time never goes in a circle: among the transitions that clocks set
 * off, and those that signals sent by these set off, no machine can come back to a state that it was in. True only
 * where that is certain; false says nothing. A press that is kept down and pressed again so often does not count: one can
 * let go of it.
 */
export function clocksRunDown(tables: Tables): boolean {
  if (tables.expanded.interactables.some(({ inTheWay }) => inTheWay === 'push')) return false
  const driven = rowsByThemselves(tables)
  // Whoever is moved crosses borders, and what that sets off is not followed here.
  if (driven.some(({ transition }) => transition.changes.some(({ kind }) => kind === 'move'))) return false
  return tables.states.every((own, machine) =>
    isAcyclic(
      own.length,
      driven.filter((row) => row.machine === machine),
    ),
  )
}

/** The rows that clocks set off, or conditions that come to hold, and those that signals sent by these set off. */
export function rowsByThemselves(tables: Tables): Row[] {
  const sent = new Set<number>()
  const driven = new Set<Row>()
  for (let before = -1; before < driven.size;) {
    before = driven.size
    for (const row of tables.rows) {
      const { when, changes } = row.transition
      const isDriven =
        when.kind === 'after' ||
        when.kind === 'moved' ||
        when.kind === 'hold' ||
        when.kind === 'becomes' ||
        (when.kind === 'signal' && sent.has(when.signal))
      if (!isDriven || driven.has(row)) continue
      driven.add(row)
      for (const change of changes) if (change.kind === 'send') sent.add(change.signal)
    }
  }
  return [...driven]
}

/** Whether transitions between so many states never lead back; one that restarts timers where it is does. */
function isAcyclic(states: number, rows: readonly Row[]): boolean {
  const next = Array.from({ length: states }, (): number[] => [])
  for (const { to, transition } of rows) {
    for (const from of transition.from) {
      if (to >= 0 && to !== from) next[from]!.push(to)
      else if (transition.restarts) return false
    }
  }
  // Takes away states that lead nowhere, until none is left, or those in circles.
  const left = new Set(next.keys())
  for (let before = -1; before !== left.size;) {
    before = left.size
    for (const state of left) if (!next[state]!.some((to) => left.has(to))) left.delete(state)
  }
  return left.size === 0
}
