import type { Check } from '../interactables/index.ts'
import type { CompiledTransition, Tables } from '../machine/index.ts'

/**
 * All that can have a say in what a machine does: nothing outside of it makes any difference to it, but where characters stand
 * and what they carry.
 */
export interface Slice {
  readonly machines: readonly number[]
  readonly flags: readonly number[]
  readonly counters: readonly number[]
  readonly wheels: readonly number[]
  /** What is in its interactables, and what they remember of characters. */
  readonly contents: readonly number[]
  readonly memories: readonly number[]
  /** The conditions that it waits for. */
  readonly awaited: readonly number[]
  /** The zones that its conditions ask about. */
  readonly zones: readonly number[]
  /** The items that its conditions ask about, and the most that is asked for. */
  readonly items: ReadonlyMap<number, number>
  /** Whether its conditions ask what there is room for. */
  readonly asksRoom: boolean
  readonly rows: readonly CompiledTransition[]
  /** The registers of everything in it, but for where characters stand and what they carry. */
  readonly registers: readonly number[]
}

/** The slice of a machine: what its rows ask about, what changes that, and so on. */
export function sliceOf(tables: Tables, machine: number): Slice {
  const parts = new Parts(tables, machine)
  while (parts.grow());
  const sorted = (all: Iterable<number>): number[] => [...all].sort((a, b) => a - b)
  const { machines, flags, counters, wheels, zones, items, asksRoom } = parts
  const owned = (all: readonly { readonly interactable: number }[]): number[] =>
    all.flatMap(({ interactable }, i) => (machines.has(interactable) ? [i] : []))
  const slice = {
    machines: sorted(machines),
    flags: sorted(flags),
    counters: sorted(counters),
    wheels: sorted(wheels),
    contents: owned(tables.expanded.contents),
    memories: owned(tables.expanded.memories),
    awaited: tables.awaited.flatMap(({ row }, i) => (machines.has(row.machine) ? [i] : [])),
    zones: sorted(zones),
    items,
    asksRoom,
    rows: tables.rows.filter((row) => machines.has(row.machine)),
  }
  return { ...slice, registers: registersOf(tables, slice) }
}

/** What has been gathered of a slice so far. */
class Parts {
  readonly machines: Set<number>
  readonly flags = new Set<number>()
  readonly counters = new Set<number>()
  readonly wheels = new Set<number>()
  readonly zones = new Set<number>()
  readonly items = new Map<number, number>()
  asksRoom = false
  readonly #signals = new Set<number>()
  readonly #tables: Tables

  constructor(tables: Tables, machine: number) {
    this.#tables = tables
    this.machines = new Set([machine])
  }

  /** Looks at all rows once more; false where that brought nothing new. */
  grow(): boolean {
    const before = this.#size()
    for (const row of this.#tables.rows) {
      if (!this.machines.has(row.machine) && this.#isChangedBy(row)) this.machines.add(row.machine)
      if (!this.machines.has(row.machine)) continue
      const { guard, when, changes } = row.transition
      this.#ask(guard)
      if (when.kind === 'becomes') this.#ask(when.check)
      if (when.kind === 'press' && when.offered) this.#ask(when.offered)
      if (when.kind === 'signal') this.#signals.add(when.signal)
      // How much is taken out hangs on how much there is room for.
      for (const change of changes) {
        if (change.kind === 'take-out') this.#askContents([change.content])
        // Where somebody comes hangs on which checkpoint is remembered.
        if (change.kind === 'move-to')
          for (const { memory } of change.checkpoints ?? []) this.machines.add(this.#ownerOf(memory))
      }
    }
    return this.#size() > before
  }

  #size(): number {
    const { machines, flags, counters, wheels, zones, items } = this
    return [machines, flags, counters, wheels, zones, items, this.#signals].reduce((sum, { size }) => sum + size, 0)
  }

  #isChangedBy({ transition: { changes } }: CompiledTransition): boolean {
    return changes.some(
      (change) =>
        (change.kind === 'set' && this.flags.has(change.flag)) ||
        (change.kind === 'count' && this.counters.has(change.counter)) ||
        (change.kind === 'send' && this.#signals.has(change.signal)) ||
        (change.kind === 'remember' && this.machines.has(this.#ownerOf(change.memory))),
    )
  }

  #ownerOf(memory: number): number {
    return this.#tables.expanded.memories[memory]!.interactable
  }

  #ask(check: Check): void {
    switch (check.kind) {
      case 'all':
      case 'any':
        for (const part of check.checks) this.#ask(part)
        return
      case 'not':
        this.#ask(check.check)
        return
      case 'state':
        this.machines.add(check.interactable)
        return
      case 'flag':
        this.flags.add(check.flag)
        return
      case 'counter':
        this.counters.add(check.counter)
        return
      case 'dial':
        check.digits.forEach((_, i) => this.wheels.add(check.wheel + i))
        this.machines.add(this.#tables.expanded.wheels[check.wheel]!.interactable)
        return
      case 'carries':
        this.#askItem(check.item, check.count)
        return
      case 'room':
        this.asksRoom = true
        this.#askItem(check.item, 0)
        return
      case 'inside':
        this.zones.add(check.zone)
        if (check.item >= 0) this.#askItem(check.item, 1)
        return
      case 'contains':
        this.machines.add(this.#tables.expanded.contents[check.content]!.interactable)
        return
      case 'empty':
        for (const content of check.contents) this.machines.add(this.#tables.expanded.contents[content]!.interactable)
        return
      case 'fits':
        this.#askContents(check.contents)
        return
      case 'remembers':
        this.machines.add(this.#ownerOf(check.memory))
        return
      case 'role':
      case 'never':
    }
  }

  #askContents(contents: readonly number[]): void {
    this.asksRoom = true
    for (const content of contents) {
      const { interactable, item } = this.#tables.expanded.contents[content]!
      this.machines.add(interactable)
      this.#askItem(item, 0)
    }
  }

  #askItem(item: number, count: number): void {
    this.items.set(item, Math.max(count, this.items.get(item) ?? 0))
  }
}

function registersOf({ at, clocksOf, knowsLast }: Tables, slice: Omit<Slice, 'registers'>): number[] {
  const registers: number[] = []
  for (const machine of slice.machines) {
    registers.push(at.state(machine), at.waiting(machine), at.pose(machine))
    if (knowsLast[machine]) registers.push(at.last(machine))
    for (const clock of clocksOf[machine]!) registers.push(at.clock(clock))
  }
  for (const flag of slice.flags) registers.push(at.flag(flag))
  for (const counter of slice.counters) registers.push(at.counter(counter))
  for (const wheel of slice.wheels) registers.push(at.wheel(wheel))
  for (const content of slice.contents) registers.push(at.content(content))
  for (const awaited of slice.awaited) registers.push(at.holding(awaited))
  for (let character = 0; character < at.characters; character++) {
    registers.push(at.held(character))
    for (const memory of slice.memories) registers.push(at.memory(character, memory))
  }
  return registers
}

/** What everything in a slice stands at, but for where characters stand and what they carry. */
export function settingOf({ at }: Tables, { registers, machines }: Slice, regs: Int32Array): string {
  const last = at.held(at.characters - 1)
  const standsAt = (register: number): number => {
    const value = regs[register]!
    // That something else is held makes no difference.
    const isHeld = register >= at.held(0) && register <= last
    return isHeld && !machines.includes(value - 1) ? 0 : value
  }
  return registers.map(standsAt).join(' ')
}
