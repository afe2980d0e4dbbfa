import type { Change, Check } from '../interactables/index.ts'
import type { CompiledTransition, Tables } from '../machine/index.ts'
import { moveKind } from './successors.ts'
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
 * The same, by looking at every situation in which nobody keeps anything pressed: the character that does can let go at any time, and
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
 * Whether it can be seen from the tables alone that time never goes in a circle: that each transition which comes by itself
 * comes only so often, however long nobody does anything. True only where that is certain; false says nothing. A press that is
 * kept down and pressed again so often does not count: one can let go of it.
 *
 * The argument, by induction over the order in which transitions are added to those that end: a transition that waits for a
 * condition comes at most as often as what the condition asks about changes, and one that is set off by a signal at most as often as that
 * is sent. Between two of those that end a machine takes only others; where these never lead back to a state that it was in, they end, too.
 */
export function clocksRunDown(tables: Tables): boolean {
  if (tables.expanded.interactables.some(({ inTheWay }) => inTheWay === 'push')) return false
  const driven = rowsByThemselves(tables)
  // A character that is moved crosses borders, and what that sets off is not followed here.
  if (driven.some(({ transition }) => transition.changes.some(({ kind }) => kind === 'move-to'))) return false
  const endless = new Set(driven)
  for (let before = -1; before !== endless.size;) {
    before = endless.size
    for (const row of endless) if (isEndingWith(row, endless)) endless.delete(row)
    for (const [machine, own] of tables.states.entries()) {
      const rows = [...endless].filter((row) => row.machine === machine)
      if (isAcyclic(own.length, rows)) for (const row of rows) endless.delete(row)
    }
  }
  return endless.size === 0
}

/** Whether a transition is set off by a signal, or waits for a condition, on which none of those that may be endless has a say. */
function isEndingWith({ transition: { when } }: CompiledTransition, endless: ReadonlySet<CompiledTransition>): boolean {
  const all = [...endless]
  const changes = all.flatMap(({ transition }) => transition.changes)
  if (when.kind === 'signal') return !changes.some((change) => change.kind === 'send' && change.signal === when.signal)
  if (when.kind !== 'becomes') return false
  const isSteady = (check: Check): boolean => {
    switch (check.kind) {
      case 'all':
      case 'any':
        return check.checks.every(isSteady)
      case 'not':
        return isSteady(check.check)
      case 'state':
        return !all.some(({ machine }) => machine === check.interactable)
      case 'flag':
        return !changes.some((change) => change.kind === 'set' && change.flag === check.flag)
      case 'counter':
        return !changes.some((change) => change.kind === 'count' && change.counter === check.counter)
      case 'dial':
      case 'role':
      case 'never':
        return true
      // Of what is carried, held or remembered it is enough that nothing changes any of it.
      case 'carries':
      case 'room':
      case 'remembers':
      case 'contains':
      case 'empty':
      case 'fits':
      case 'inside':
        return !changes.some(({ kind }) => carrying.includes(kind))
    }
  }
  return isSteady(when.check)
}

/** Changes of what somebody carries, of what is held in something, and of what it remembers. */
const carrying: readonly Change['kind'][] = ['give', 'remove', 'consume', 'take-out', 'remember', 'exit-to']

/** The rows that clocks set off, or conditions that come to hold, and those that signals sent by these set off. */
export function rowsByThemselves(tables: Tables): CompiledTransition[] {
  const sent = new Set<number>()
  const driven = new Set<CompiledTransition>()
  for (let before = -1; before < driven.size;) {
    before = driven.size
    for (const row of tables.rows) {
      const { when, changes } = row.transition
      const isDriven =
        when.kind === 'after' ||
        when.kind === 'motion-end' ||
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
function isAcyclic(states: number, rows: readonly CompiledTransition[]): boolean {
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
