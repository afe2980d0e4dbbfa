import type { Check } from '../interactables/index.ts'
import { looseClocks, type Row, type Standing, Step, type Tables } from '../machine/index.ts'

/** All that can have a say in what a machine does: nothing outside of it makes any difference to it. */
export interface Cone {
  readonly machines: readonly number[]
  readonly flags: readonly number[]
  readonly counters: readonly number[]
  readonly wheels: readonly number[]
  readonly rows: readonly Row[]
}

/** The cone of a machine: what its rows ask about, what changes that, and so on. */
export function coneOf(tables: Tables, machine: number): Cone {
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
export function settingOf({ at, clocksOf }: Tables, cone: Cone, regs: Int32Array): string {
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

/** All that could come next, where everything that hangs on characters may be so or not. */
export function follow(tables: Tables, cone: Cone, regs: Int32Array): Int32Array[] {
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
