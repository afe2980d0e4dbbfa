import type { Check } from '../interactables/index.ts'
import { looseClocks, type Row, Step, type Standing, type Tables } from '../machine/index.ts'
import type { Play } from '../play/index.ts'
import type { Backward, Undone } from './graph.ts'
import type { Search } from './search.ts'
import type { Lookout } from './sights.ts'
import { Bits } from './store.ts'

/** Keys of machines that are stuck begin so, and go on with `interactable/state`. */
export const stuckKey = 'stuck '

/** The most settings of all machines that are followed, wherever characters stand and whatever they carry. */
const mostFollowed = 40_000

/** States in which machines can be stuck: what to look out for, and what could not be told. */
export interface Stuck {
  readonly lookout: Lookout
  /** Keys of which it could not be told. */
  readonly untold: ReadonlySet<string>
}

/** The settings of a cone in which a machine is stuck. */
interface Barred {
  readonly cone: Cone
  readonly settings: ReadonlySet<string>
}

/** All that can have a say in what a machine does: nothing outside of it makes any difference to it. */
interface Cone {
  readonly machines: readonly number[]
  readonly flags: readonly number[]
  readonly counters: readonly number[]
  readonly wheels: readonly number[]
  readonly rows: readonly Row[]
}

/** A state of a machine that is not lasting and has a way out in the table, which may be barred. */
interface Candidate {
  readonly key: string
  readonly machine: number
  readonly state: number
}

/**
 * Finds the states in which a machine can be stuck: nothing could make it leave, wherever characters stand and whatever
 * they carry. Only situations that moves lead to are looked at; from there machines, flags, counters and wheels are
 * followed with everything that hangs on characters taken as possible. With `undone`, some moves can also be taken back.
 */
export function* findStuck(
  search: Search,
  backward: Backward,
  undone: Undone = new Map(),
): Generator<undefined, Stuck> {
  const { tables } = search.stage
  const barred = new Map<string, Barred>()
  const untold = new Set<string>()
  for (const candidate of candidates(tables)) {
    const cone = coneOf(tables, candidate.machine)
    const staying = yield* settingsThatStay(search, backward, undone, candidate, cone)
    if (staying.size === 0) continue
    const stuck = yield* withoutWayOut(tables, candidate, cone, staying)
    if (stuck === null) untold.add(candidate.key)
    else if (stuck.size > 0) barred.set(candidate.key, { cone, settings: stuck })
  }
  return { lookout: lookoutFor(tables, barred), untold }
}

function lookoutFor(tables: Tables, barred: ReadonlyMap<string, Barred>): Lookout {
  const isIn = ({ cone, settings }: Barred, regs: Int32Array): boolean => settings.has(settingOf(tables, cone, regs))
  const onSituation: Lookout['onSituation'] = (regs, see) => {
    const now = loose(tables, regs.slice())
    for (const [key, one] of barred) if (isIn(one, now)) see(key)
  }
  return {
    ...(barred.size > 0 ? { onSituation } : {}),
    isShown: (key, play: Play) => isIn(barred.get(key)!, loose(tables, play.registers())),
    isFault: () => true,
  }
}

/** Clocks as a search without ticks has them: they run, or not. */
function loose({ at }: Tables, regs: Int32Array): Int32Array {
  for (let i = at.firstClock; i < at.size; i++) if (regs[i]! > 0) regs[i] = 1
  return regs
}

/** States with a way out that something else than characters can bar. */
function candidates(tables: Tables): Candidate[] {
  return tables.expanded.interactables.flatMap((placed, machine) =>
    placed.states.flatMap(({ name, lasting }, state): Candidate[] => {
      const out = waysOut(tables, machine, state)
      if (lasting || out.length === 0 || out.some(isAlwaysOpen)) return []
      return [{ key: `${stuckKey}${placed.name}/${name}`, machine, state }]
    }),
  )
}

/** The rows that lead from a state to another one. */
function waysOut({ rows }: Tables, machine: number, state: number): Row[] {
  return rows.filter(
    ({ machine: of, to, transition }) =>
      of === machine && to >= 0 && to !== state && transition.from.includes(state) && transition.guard.kind !== 'never',
  )
}

/** Whether a row can be taken some time wherever all else stands. */
function isAlwaysOpen({ transition: { when, guard } }: Row): boolean {
  const isAsked = ['press', 'hold', 'release', 'enter', 'leave', 'moved', 'after'].includes(when.kind)
  return isAsked && isUpToCharacters(guard)
}

/** Whether a condition can be made to hold by where characters stand, what they carry and who they are. */
function isUpToCharacters(check: Check): boolean {
  if (check.kind === 'all') return check.checks.every(isUpToCharacters)
  if (check.kind === 'any') return check.checks.length === 0 || check.checks.some(isUpToCharacters)
  return ['carries', 'room', 'role', 'inside'].includes(check.kind)
}

/** The settings of the situations in a state from which no moves lead out of it. */
function* settingsThatStay(
  search: Search,
  backward: Backward,
  undone: Undone,
  { machine, state }: Candidate,
  cone: Cone,
): Generator<undefined, Map<string, Int32Array>> {
  const { count } = search.store
  const regs = new Int32Array(search.stage.tables.at.size)
  const own: number[] = []
  const leaves = new Bits(count)
  const queue: number[] = []
  for (let index = 0; index < count; index++) {
    if (index % 4096 === 4095) yield
    search.read(index, regs)
    if (regs[machine] !== state || index >= search.expanded) {
      leaves.add(index)
      queue.push(index)
    } else own.push(index)
  }
  let visited = 0
  for (let index = queue.pop(); index !== undefined; index = queue.pop()) {
    if (++visited % 4096 === 0) yield
    const end = backward.end(index)
    for (let at = backward.first(index); at < end; at++) {
      const source = backward.source(at)
      if (leaves.add(source)) queue.push(source)
    }
    for (const back of undone.get(index) ?? []) if (leaves.add(back)) queue.push(back)
  }
  const settings = new Map<string, Int32Array>()
  for (const index of own) {
    if (leaves.has(index)) continue
    search.read(index, regs)
    const looseRegs = loose(search.stage.tables, regs.slice())
    settings.set(settingOf(search.stage.tables, cone, looseRegs), looseRegs)
  }
  return settings
}

/** The cone of a machine: what its rows ask about, what changes that, and so on. */
function coneOf(tables: Tables, machine: number): Cone {
  const machines = new Set([machine])
  const flags = new Set<number>()
  const counters = new Set<number>()
  const wheels = new Set<number>()
  const signals = new Set<number>()
  const ask = (check: Check): void => {
    if (check.kind === 'all' || check.kind === 'any') check.checks.forEach(ask)
    else if (check.kind === 'not') ask(check.check)
    else if (check.kind === 'state') machines.add(check.interactable)
    else if (check.kind === 'flag') flags.add(check.flag)
    else if (check.kind === 'counter') counters.add(check.counter)
    else if (check.kind === 'dialled') check.digits.forEach((_, i) => wheels.add(check.wheel + i))
  }
  const changes = ({ transition }: Row): boolean =>
    transition.changes.some(
      (change) =>
        (change.kind === 'set' && flags.has(change.flag)) ||
        (change.kind === 'count' && counters.has(change.counter)) ||
        (change.kind === 'send' && signals.has(change.signal)),
    )
  for (let before = -1; before < machines.size + flags.size + counters.size + signals.size;) {
    before = machines.size + flags.size + counters.size + signals.size
    for (const row of tables.rows) {
      if (!machines.has(row.machine) && changes(row)) machines.add(row.machine)
      if (!machines.has(row.machine)) continue
      const { guard, when } = row.transition
      ask(guard)
      if (when.kind === 'becomes') ask(when.check)
      if (when.kind === 'press' && when.offered) ask(when.offered)
      if (when.kind === 'signal') signals.add(when.signal)
    }
  }
  const sorted = (all: ReadonlySet<number>): number[] => [...all].sort((a, b) => a - b)
  return {
    machines: sorted(machines),
    flags: sorted(flags),
    counters: sorted(counters),
    wheels: sorted(wheels),
    rows: tables.rows.filter((row) => machines.has(row.machine)),
  }
}

/** What everything in a cone stands at that does not hang on characters, and which clocks of it run. */
function settingOf({ at, clocksOf }: Tables, cone: Cone, regs: Int32Array): string {
  const parts: number[] = []
  for (const machine of cone.machines) {
    parts.push(regs[machine]!, regs[at.waiting(machine)]!)
    for (const clock of clocksOf[machine]!) parts.push(regs[at.clock(clock)]!)
  }
  for (const flag of cone.flags) parts.push(regs[at.flag(flag)]!)
  for (const counter of cone.counters) parts.push(regs[at.counter(counter)]!)
  for (const wheel of cone.wheels) parts.push(regs[at.wheel(wheel)]!)
  return parts.join(' ')
}

/** Nobody is ever in the way, and nobody is moved. */
const nobody: Standing = { isInTheWay: () => false, move: () => null, push: () => [] }

/**
 * Of some settings, those from which nothing leads out of the state, whatever characters do. Null where that could not
 * be told: there are too many, or it hangs on what interactables hold or remember.
 */
function* withoutWayOut(
  tables: Tables,
  { machine, state }: Candidate,
  cone: Cone,
  from: ReadonlyMap<string, Int32Array>,
): Generator<undefined, Set<string> | null> {
  const all = new Map(from)
  const before = new Map<string, string[]>()
  const out: string[] = []
  let followed = 0
  for (const [setting, regs] of all) {
    if (all.size > mostFollowed) return null
    if (++followed % 256 === 0) yield
    if (regs[machine] !== state) {
      out.push(setting)
      continue
    }
    for (const after of follow(tables, cone, regs)) {
      const next = settingOf(tables, cone, after)
      if (!all.has(next)) all.set(next, after)
      const known = before.get(next)
      if (known) known.push(setting)
      else before.set(next, [setting])
    }
  }
  const leaves = new Set(out)
  for (let next = out.pop(); next !== undefined; next = out.pop()) {
    for (const source of before.get(next) ?? []) {
      if (leaves.has(source)) continue
      leaves.add(source)
      out.push(source)
    }
  }
  const stuck = new Set([...from.keys()].filter((setting) => !leaves.has(setting)))
  return stuck.size < from.size && cone.rows.some(hangsOnKept) ? null : stuck
}

/** All that could come next, where everything that hangs on characters may be so or not. */
function follow(tables: Tables, cone: Cone, regs: Int32Array): Int32Array[] {
  const next: Int32Array[] = []
  const attempt = (act: (step: Step) => void): void => {
    const after = regs.slice()
    const step = new Step(tables, after, looseClocks, nobody)
    act(step)
    if (!step.storm) next.push(after)
  }
  for (const row of cone.rows) {
    if (!row.transition.from.includes(regs[row.machine]!) || !mayComeUp(tables, regs, row)) continue
    if (mayBe(row.transition.guard, tables, regs).yes) {
      attempt((step) => {
        step.grant(row)
      })
    }
  }
  for (const clock of cone.machines.flatMap((machine) => tables.clocksOf[machine]!)) {
    if (regs[tables.at.clock(clock)] === 0) continue
    attempt((step) => {
      step.due(clock)
    })
    const { machine } = tables.clocks[clock]!
    const own = tables.rows.filter((row) => row.machine === machine)
    if (!own.some(({ transition }) => hangsOnCharacters(transition.guard))) continue
    const lost = regs.slice()
    lost[tables.at.clock(clock)] = 0
    next.push(lost)
  }
  for (const wheel of cone.wheels) {
    for (const to of tables.wheelValues[wheel]!) {
      if (to !== regs[tables.at.wheel(wheel)])
        attempt((step) => {
          step.dial(wheel, to)
        })
    }
  }
  for (const machine of cone.machines) {
    if (regs[tables.at.waiting(machine)] !== 0)
      attempt((step) => {
        step.cleared(machine)
      })
  }
  return next
}

/** Whether a row's trigger may come up by itself, or by what characters do; not by a signal, which rows send. */
function mayComeUp(tables: Tables, regs: Int32Array, { machine, transition: { when } }: Row): boolean {
  switch (when.kind) {
    case 'press':
    case 'hold':
    case 'release':
    case 'enter':
    case 'leave':
      return true
    case 'moved':
    case 'after':
      return tables.clocksOf[machine]!.some((clock) => regs[tables.at.clock(clock)] !== 0)
    // Whoever acts when a signal comes, or a condition comes to hold, may be anybody: then it may be so at any time.
    case 'signal':
    case 'becomes':
      return tables.rows.some((row) => row.machine === machine && isMoot(row))
  }
}

/** Whether it hangs on characters if a row is taken where a signal comes, or a condition comes to hold. */
function isMoot({ transition: { when, guard } }: Row): boolean {
  if (when.kind === 'becomes') return hangsOnCharacters(guard) || hangsOnCharacters(when.check)
  return when.kind === 'signal' && hangsOnCharacters(guard)
}

/** Whether a row asks about what interactables hold, or remember of characters: that is not followed. */
function hangsOnKept({ transition: { guard, when } }: Row): boolean {
  const asks = (check: Check): boolean => {
    if (check.kind === 'all' || check.kind === 'any') return check.checks.some(asks)
    return check.kind === 'not' ? asks(check.check) : ['remembers', 'holds', 'empty', 'fits'].includes(check.kind)
  }
  return asks(guard) || (when.kind === 'becomes' && asks(when.check))
}

function hangsOnCharacters(check: Check): boolean {
  if (check.kind === 'all' || check.kind === 'any') return check.checks.some(hangsOnCharacters)
  if (check.kind === 'not') return hangsOnCharacters(check.check)
  return !['state', 'flag', 'counter', 'dialled', 'never'].includes(check.kind)
}

/** Whether a condition may hold, and may not, where all that hangs on characters may be so or not (after Kleene 1938). */
function mayBe(check: Check, tables: Tables, regs: Int32Array): { readonly yes: boolean; readonly no: boolean } {
  const { at } = tables
  const is = (yes: boolean) => ({ yes, no: !yes })
  switch (check.kind) {
    case 'never':
      return is(false)
    case 'state':
      return is(check.states.includes(regs[check.interactable]!))
    case 'flag':
      return is((regs[at.flag(check.flag)] === 1) === check.is)
    case 'counter': {
      const value = regs[at.counter(check.counter)]!
      return is(value >= check.least && value <= check.most)
    }
    case 'dialled':
      return is(check.digits.every((digit, i) => regs[at.wheel(check.wheel) + i] === digit))
    case 'not': {
      const { yes, no } = mayBe(check.check, tables, regs)
      return { yes: no, no: yes }
    }
    case 'all': {
      const parts = check.checks.map((part) => mayBe(part, tables, regs))
      return { yes: parts.every(({ yes }) => yes), no: parts.some(({ no }) => no) }
    }
    case 'any': {
      const parts = check.checks.map((part) => mayBe(part, tables, regs))
      return { yes: parts.some(({ yes }) => yes), no: parts.every(({ no }) => no) }
    }
    default:
      return { yes: true, no: true }
  }
}
