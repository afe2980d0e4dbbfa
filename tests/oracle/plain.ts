import type { Condition, Effect, Level, TypeDefinition } from '../../src/model/index.ts'
import { type Ground, lookAround, type Place } from './ground.ts'

/**
 * A plain explorer, written apart from the real one: maps and strings, its own step, its own geometry. It takes levels
 * whose types are all spelt out in the file, whose rooms are rectangles, and whose times are whole ticks of 100 ms.
 */

const tick = 100

/** What the oracle says of one question; null: it does not know. */
export type Known = 'found' | 'absent' | null

export interface Verdict {
  readonly states: Readonly<Record<string, Known>>
  readonly transitions: Readonly<Record<string, Known>>
  readonly goals: Readonly<Record<string, Known>>
  readonly softLocks: Readonly<Record<string, Known>>
  readonly situations: number
  /** Whether a timer ran out somewhere, and whether one event set off two signals or more. */
  readonly sawTimer: boolean
  readonly sawCascade: boolean
}

interface Row {
  readonly id: string
  readonly from: readonly string[]
  readonly to: string | null
  readonly on: string
  readonly guard: Condition | undefined
  readonly effects: readonly Effect[]
  /** Ticks, for a timer or a press that is kept down. */
  readonly after: number
  /** Whether its clock runs only while a press is kept down. */
  readonly kept: boolean
  readonly becomes: Condition | null
}

interface Machine {
  readonly name: string
  readonly type: TypeDefinition
  readonly rows: readonly Row[]
  readonly initial: string
}

/** A situation: plain, and copied at every move. */
interface Situation {
  at: number
  state: Record<string, string>
  waiting: Record<string, string>
  flags: Record<string, boolean>
  items: Record<string, number>
  counters: Record<string, number>
  /** By machine and wheel, from 0. */
  wheels: Record<string, number>
  /** The machine whose press is kept down; '' for none. */
  held: { by: string }
  /** The zones that somebody is in. */
  inside: Record<string, true>
  /** By row: whether what it waits for held at the last look. */
  awaited: Record<string, boolean>
  /** For a motion the key is the machine; for a timer the machine and the row. Ticks left. */
  clocks: Record<string, number>
  pose: Record<string, number>
}

interface Next {
  readonly situation: Situation
  readonly taken: readonly string[]
  readonly kind: 'walk' | 'press' | 'time'
  readonly ticks: number
}

export function judge(level: Level): Verdict | null {
  const oracle = new Oracle(level)
  return oracle.judge()
}

class Oracle {
  readonly level: Level
  readonly machines: readonly Machine[]
  readonly ground: Ground
  sawTimer = false
  sawCascade = false

  constructor(level: Level) {
    this.level = level
    this.machines = Object.entries(level.interactables ?? {}).map(([name, copy]) =>
      machine(level, name, copy.type, copy.starts),
    )
    const places = Object.entries(level.interactables ?? {}).map(([name, copy], i) =>
      placeOf(level, name, copy, this.machines[i]!),
    )
    this.ground = lookAround(level, places)
  }

  judge(): Verdict | null {
    const start = this.start()
    if (start === null) return null
    const all = this.explore(start.situation, false)
    const sure = this.explore(start.situation, true)
    if (!all || !sure) return null
    for (const id of start.taken) {
      all.taken.add(id)
      sure.taken.add(id)
    }
    const rows = this.machines.flatMap((m) => m.rows.map((row) => row.id))
    const transitions = this.known(
      rows,
      (id) => all.taken.has(id),
      (id) => sure.taken.has(id),
    )
    const reached = (graph: Graph, m: Machine, state: string): boolean =>
      state === m.initial || m.rows.some((row) => row.to === state && graph.taken.has(row.id))
    const stateNames = this.machines.flatMap((m) => Object.keys(m.type.states ?? {}).map((state) => ({ m, state })))
    const states = Object.fromEntries(
      stateNames.map(({ m, state }) => [
        `${m.name}/${state}`,
        knownOf(reached(all, m, state), reached(sure, m, state)),
      ]),
    )
    const goalNames = Object.keys(this.level.goals ?? {})
    const met = (graph: Graph, goal: string): boolean =>
      graph.nodes.some((one) => this.holds(this.level.goals![goal]!, one.situation))
    const goals = this.known(
      goalNames,
      (goal) => met(all, goal),
      (goal) => met(sure, goal),
    )
    const softLocks = Object.fromEntries(
      goalNames.filter((goal) => met(all, goal)).map((goal) => [goal, this.softLock(goal, all, sure)]),
    )
    return {
      states,
      transitions,
      goals,
      softLocks,
      situations: all.nodes.length,
      sawTimer: this.sawTimer,
      sawCascade: this.sawCascade,
    }
  }

  known(
    names: readonly string[],
    possible: (name: string) => boolean,
    sure: (name: string) => boolean,
  ): Record<string, Known> {
    return Object.fromEntries(names.map((name) => [name, knownOf(possible(name), sure(name))]))
  }

  softLock(name: string, all: Graph, sure: Graph): Known {
    const goal = this.level.goals![name]!
    const holds = (graph: Graph): Set<number> =>
      new Set(graph.nodes.flatMap((one, i) => (this.holds(goal, one.situation) ? [i] : [])))
    const met = holds(all)
    const can = backwards(all, met)
    const unmet = forwards(all, met)
    const lost = new Set([...unmet].filter((i) => !can.has(i)))
    const sureMet = holds(sure)
    const sureUnmet = forwards(sure, sureMet)
    for (const i of sureUnmet) {
      const at = all.index.get(sure.keys[i]!)
      if (at !== undefined && lost.has(at)) return 'found'
    }
    if (lost.size > 0) return null
    if (!comesToRest(all, unmet)) return null
    // From each situation at rest, walks that take their time must lead to the goal.
    const good = new Set<string>()
    for (const i of [...unmet].reverse()) {
      const { situation } = all.nodes[i]!
      if (Object.keys(situation.clocks).length > 0) continue
      const from = this.explore(situation, true, (one) => this.holds(goal, one) || good.has(keyOf(one)))
      if (!from?.metGoal) return null
      good.add(keyOf(situation))
    }
    return 'absent'
  }

  /** All situations from one; with `slow`, walks take their time and nothing may fall due on the way. */
  explore(start: Situation, slow: boolean, until: ((situation: Situation) => boolean) | null = null): Graph | null {
    const graph: Graph = {
      nodes: [],
      keys: [],
      index: new Map(),
      edges: [],
      kinds: [],
      taken: new Set(),
      metGoal: false,
    }
    const add = (situation: Situation): number => {
      const key = keyOf(situation)
      const known = graph.index.get(key)
      if (known !== undefined) return known
      graph.index.set(key, graph.nodes.length)
      graph.keys.push(key)
      graph.edges.push([])
      graph.kinds.push([])
      if (until?.(situation)) graph.metGoal = true
      return graph.nodes.push({ situation }) - 1
    }
    add(start)
    for (let i = 0; i < graph.nodes.length; i++) {
      if (graph.metGoal) return graph
      if (graph.nodes.length > 30_000) return null
      for (const next of this.moves(graph.nodes[i]!.situation, slow)) {
        for (const id of next.taken) graph.taken.add(id)
        const to = add(next.situation)
        graph.edges[i]!.push(to)
        graph.kinds[i]!.push(next.kind)
      }
    }
    return graph
  }

  start(): { situation: Situation; taken: string[] } | null {
    if (this.ground.start < 0) return null
    const [person] = Object.values(this.level.characters)
    const situation: Situation = {
      at: this.ground.start,
      state: {},
      waiting: {},
      flags: {},
      items: {},
      counters: {},
      wheels: {},
      held: { by: '' },
      inside: Object.fromEntries(this.ground.regions[this.ground.start]!.zones.map((zone) => [zone, true as const])),
      awaited: {},
      clocks: {},
      pose: {},
    }
    for (const [name, { starts }] of Object.entries(this.level.counters ?? {})) situation.counters[name] = starts ?? 0
    for (const [flag, { starts }] of Object.entries(this.level.flags ?? {})) situation.flags[flag] = starts ?? false
    for (const item of Object.keys(this.level.items ?? {})) situation.items[item] = person?.carries?.[item] ?? 0
    for (const m of this.machines) {
      situation.state[m.name] = m.initial
      situation.pose[m.name] = m.type.states?.[m.initial]?.pose ?? 0
      this.startClocks(situation, m)
      const motion = m.type.states?.[m.initial]?.motion
      if (motion) situation.clocks[m.name] = ticksOf(motion.over)
      for (let i = 0; i < Number(m.type.dial?.wheels ?? 0); i++) situation.wheels[`${m.name} ${String(i)}`] = 0
      for (const row of m.rows) if (row.becomes) situation.awaited[row.id] = false
    }
    const taken: string[] = []
    this.drain(situation, [], taken)
    return { situation, taken }
  }

  moves(from: Situation, slow: boolean): Next[] {
    const next: Next[] = []
    const due = Object.entries(from.clocks).filter(([, left]) => left === 0)
    const running = Object.keys(from.clocks).length > 0
    const here = this.ground.regions[from.at]!
    if (from.held.by !== '') this.event(from, 'release', from.held.by, 'press', next)
    else {
      for (const to of here.next) this.walk(from, to, slow, next)
      for (const ask of ['press', 'press pry', 'option']) this.press(from, ask, next)
      this.dials(from, next)
    }
    for (const clock of slow ? this.inOrder(due).slice(0, 1) : due.map(([name]) => name)) {
      this.event(from, `due ${clock}`, clock.split(' ')[0]!, 'time', next)
    }
    if (running && due.length === 0) {
      const later = copy(from)
      for (const clock of Object.keys(later.clocks)) later.clocks[clock]!--
      next.push({ situation: later, taken: [], kind: 'time', ticks: 1 })
    }
    // Play settles what is due before anybody acts.
    return slow && due.length > 0 ? next.filter(({ kind }) => kind === 'time') : next
  }

  /** Clocks that are due, in the order of Play: by machine, its motion first, then its timers by row. */
  inOrder(due: readonly (readonly [string, number])[]): string[] {
    const all = this.machines.flatMap((m) => [m.name, ...m.rows.map((row) => `${m.name} ${row.id}`)])
    return all.filter((clock) => due.some(([name]) => name === clock))
  }

  walk(from: Situation, to: number, slow: boolean, next: Next[]): void {
    const [here, there] = [this.ground.regions[from.at]!, this.ground.regions[to]!]
    const blocks = (name: string): boolean => this.stateOf(from, name).blocks?.includes('walk') ?? false
    if (there.bodies.some(blocks)) return
    const moved = copy(from)
    moved.at = to
    const [person] = Object.values(this.level.characters)
    if (slow && Object.keys(from.clocks).length > 0) {
      const ticks = Math.ceil(((this.ground.walk(from.at, to) / (person?.speed ?? 1)) * 1000) / tick) + 1
      if (Object.values(from.clocks).some((left) => left <= ticks)) return
      for (const clock of Object.keys(moved.clocks)) moved.clocks[clock]! -= ticks
    }
    const events = [
      ...here.zones.filter((zone) => !there.zones.includes(zone)).map((zone) => `leave ${zone}`),
      ...there.zones.filter((zone) => !here.zones.includes(zone)).map((zone) => `enter ${zone}`),
      ...here.bodies.filter((body) => !there.bodies.includes(body)).map((body) => `clear ${body}`),
    ]
    // Several borders on one line: any order may be so.
    const orders = slow ? (events.length > 1 ? [] : [events]) : permutations(events)
    for (const order of orders) {
      let situation = moved
      const taken: string[] = []
      for (const event of order) {
        const [kind, name] = event.split(' ') as [string, string]
        const made: Next[] = []
        this.event(situation, event, kind === 'clear' ? name : name.split('/')[0]!, 'walk', made)
        situation = made[0]!.situation
        taken.push(...made[0]!.taken)
      }
      next.push({ situation, taken, kind: 'walk', ticks: 0 })
    }
  }

  /** All that a press of some kind can do: kept down or not, and each option. */
  press(from: Situation, ask: string, next: Next[]): void {
    const name = this.answering(from, ask)
    if (name === null) return
    const m = this.machines.find((one) => one.name === name)!
    const here = m.rows.filter((row) => row.from.includes(from.state[name]!))
    const ons =
      ask === 'option' ? [...new Set(here.map((row) => row.on))].filter((on) => on.startsWith('option ')) : [ask]
    for (const on of ons) {
      if (ask !== 'press' || !m.rows.some((row) => row.kept || row.on === 'release')) {
        this.event(from, on, name, 'press', next)
        continue
      }
      const rows = here.filter((row) => row.on === 'press')
      const holds = rows.some((row) => row.guard === undefined || this.holds(row.guard, from, name))
      if (rows.length > 0 && !holds) continue
      const made: Next[] = []
      this.event(from, 'press down', name, 'press', made)
      this.event(made[0]!.situation, 'release', name, 'press', made)
      next.push(made[0]!, { ...made[1]!, taken: [...made[0]!.taken, ...made[1]!.taken] })
    }
  }

  /** Every wheel within reach, set to every number. */
  dials(from: Situation, next: Next[]): void {
    for (const { name, hiddenBy } of this.ground.regions[from.at]!.candidates) {
      if (!this.stateOf(from, name).dials || this.isHidden(from, hiddenBy)) continue
      const { wheels, positions } = this.machines.find((one) => one.name === name)!.type.dial!
      for (let wheel = 0; wheel < Number(wheels); wheel++) {
        for (let to = 0; to < Number(positions); to++) {
          const set = copy(from)
          set.wheels[`${name} ${String(wheel)}`] = to
          this.event(set, 'dial', name, 'press', next)
        }
      }
    }
  }

  isHidden(situation: Situation, hiddenBy: readonly string[]): boolean {
    return hiddenBy.some((other) => this.stateOf(situation, other).blocks?.includes('sight'))
  }

  answering(situation: Situation, ask: string): string | null {
    for (const { name, hiddenBy } of this.ground.regions[situation.at]!.candidates) {
      const m = this.machines.find((one) => one.name === name)!
      const fits = (row: Row): boolean =>
        row.on === ask ||
        (ask === 'option' && row.on.startsWith('option ')) ||
        (ask === 'press' && (row.kept || row.on === 'release'))
      const asks = m.rows.some((row) => fits(row) && row.from.includes(situation.state[name]!))
      if (!asks && (ask !== 'press' || this.stateOf(situation, name).ignores === undefined)) continue
      if (!this.isHidden(situation, hiddenBy)) return name
    }
    return null
  }

  /** Offers one event, and the signals that follow, first in first out. */
  event(from: Situation, event: string, name: string, kind: Next['kind'], next: Next[]): void {
    const situation = copy(from)
    const taken: string[] = []
    const queue: Sent[] = []
    const m = this.machines.find((one) => one.name === name)!
    if (event.startsWith('due ')) {
      delete situation.clocks[event.slice(4)]
      const [, row] = event.slice(4).split(' ')
      this.sawTimer ||= row !== undefined
      this.offer(
        situation,
        this.machines.find((m) => m.name === name)!,
        row === undefined ? 'moved' : `after ${row}`,
        taken,
        queue,
      )
    } else if (event.startsWith('clear ')) {
      const id = situation.waiting[name]
      delete situation.waiting[name]
      if (id !== undefined)
        this.offer(
          situation,
          this.machines.find((m) => m.name === name)!,
          `row ${id}`,
          taken,
          queue,
        )
    } else if (event === 'press down') {
      this.offer(situation, m, 'press', taken, queue)
      situation.held.by = name
      this.startClocks(situation, m, true)
    } else if (event === 'release') {
      situation.held.by = ''
      for (const row of m.rows) if (row.kept) delete situation.clocks[`${name} ${row.id}`]
      this.offer(situation, m, 'release', taken, queue)
    } else if (event === 'press' || event.startsWith('press ') || event.startsWith('option ')) {
      this.offer(situation, m, event, taken, queue)
    } else if (event !== 'dial') {
      const [how, zone] = event.split(' ') as [string, string]
      if (how === 'enter') situation.inside[zone] = true
      else delete situation.inside[zone]
      this.offer(
        situation,
        this.machines.find((m) => m.name === name)!,
        `${how} ${zone.split('/')[1]!}`,
        taken,
        queue,
      )
    }
    if (this.drain(situation, queue, taken)) next.push({ situation, taken, kind, ticks: 0 })
  }

  /** Offers signals, and what has come to hold, until there is no more; false where there is no end to it. */
  drain(situation: Situation, queue: Sent[], taken: string[]): boolean {
    let sent = 0
    for (let i = 0; ; i++) {
      if (i === queue.length) {
        for (const m of this.machines) {
          for (const row of m.rows) {
            if (!row.becomes) continue
            const holds = this.holds(row.becomes, situation, m.name)
            if (holds && !situation.awaited[row.id]) queue.push({ on: '', to: m.name, tag: null, row: row.id })
            situation.awaited[row.id] = holds
          }
        }
        if (i === queue.length) return true
      }
      const one = queue[i]!
      if (++sent > 900) return false
      if (one.row === null && i >= 1) this.sawCascade = true
      for (const m of this.machines) {
        const tags = this.level.interactables?.[m.name]?.tags ?? []
        if ((one.to !== null && one.to !== m.name) || (one.tag !== null && !tags.includes(one.tag))) continue
        this.offer(situation, m, one.row === null ? `signal ${one.on}` : `row ${one.row}`, taken, queue)
      }
    }
  }

  offer(situation: Situation, m: Machine, on: string, taken: string[], queue: Sent[]): void {
    const here = situation.state[m.name]!
    const rows = on.startsWith('row ')
      ? m.rows.filter((row) => row.id === on.slice(4))
      : m.rows.filter((row) => row.on === on)
    const row = rows.find(
      (one) => one.from.includes(here) && (one.guard === undefined || this.holds(one.guard, situation, m.name)),
    )
    if (!row) return
    const to = row.to ?? here
    const states = m.type.states ?? {}
    const closes = states[to]?.blocks?.includes('walk') && !states[here]?.blocks?.includes('walk')
    if (closes && this.ground.regions[situation.at]!.bodies.includes(m.name)) {
      situation.waiting[m.name] = row.id
      return
    }
    if (to === here) this.startClocks(situation, m)
    else this.enter(situation, m, here, to)
    taken.push(row.id)
    for (const effect of row.effects) this.apply(situation, effect, queue)
  }

  enter(situation: Situation, m: Machine, here: string, to: string): void {
    const states = m.type.states ?? {}
    const [before, after] = [states[here]?.motion, states[to]?.motion]
    const left = situation.clocks[m.name]
    const pose = before ? (before.to ?? 1) : (states[here]?.pose ?? situation.pose[m.name]!)
    for (const clock of Object.keys(situation.clocks))
      if (clock.split(' ')[0] === m.name) delete situation.clocks[clock]
    delete situation.waiting[m.name]
    situation.state[m.name] = to
    situation.pose[m.name] = after ? 0 : (states[to]?.pose ?? pose)
    this.startClocks(situation, m)
    if (!after) return
    const whole = ticksOf(after.over)
    if (before && left !== undefined) {
      situation.clocks[m.name] = (before.to ?? 1) === (after.to ?? 1) ? left : Math.max(1, whole - left)
    } else situation.clocks[m.name] = pose === (after.to ?? 1) ? 1 : whole
  }

  startClocks(situation: Situation, m: Machine, kept = false): void {
    for (const row of m.rows) {
      if (row.after > 0 && row.kept === kept && row.from.includes(situation.state[m.name]!))
        situation.clocks[`${m.name} ${row.id}`] = row.after
    }
  }

  apply(situation: Situation, effect: Effect, queue: Sent[]): void {
    const count = typeof effect.count === 'number' ? effect.count : 1
    if (typeof effect.set === 'string') {
      if (typeof effect.to === 'number') situation.counters[effect.set] = effect.to
      else situation.flags[effect.set] = effect.to !== false
    }
    if (typeof effect.add === 'string') {
      const sum = situation.counters[effect.add]! + Number(effect.by ?? 1)
      situation.counters[effect.add] = Math.min(Math.max(sum, 0), this.level.counters![effect.add]!.most)
    }
    if (typeof effect.send === 'string') {
      const to = typeof effect.to === 'string' ? effect.to : null
      queue.push({ on: effect.send, to, tag: typeof effect.tagged === 'string' ? effect.tagged : null, row: null })
    }
    const change = (item: string, by: number): void => {
      const stacks = this.level.items?.[item]?.stacks ?? false
      const most = typeof stacks === 'number' ? stacks : stacks ? 99 : 1
      situation.items[item] = Math.max(0, Math.min(most, situation.items[item]! + by))
    }
    if (typeof effect.give === 'string') change(effect.give, count)
    if (typeof effect.spend === 'string') change(effect.spend, -count)
    if (typeof effect.take === 'string') change(effect.take, -count)
  }

  holds(condition: Condition, situation: Situation, own = ''): boolean {
    if (condition.all) return condition.all.every((one) => this.holds(one, situation, own))
    if (condition.any) return condition.any.some((one) => this.holds(one, situation, own))
    if (condition.not) return !this.holds(condition.not, situation, own)
    if (typeof condition.counter === 'string') {
      const count = situation.counters[condition.counter]!
      if (typeof condition.is === 'number') return count === condition.is
      return count >= Number(condition['at-least'] ?? 0) && count <= Number(condition['at-most'] ?? 9999)
    }
    if (condition.inside !== undefined) {
      const carried = typeof condition.carrying !== 'string' || situation.items[condition.carrying]! > 0
      return situation.inside[`${own}/${condition.inside}`] === true && carried
    }
    if (Array.isArray(condition.dialled)) {
      return condition.dialled.every((digit, i) => situation.wheels[`${own} ${String(i)}`] === digit)
    }
    if (typeof condition['room-for'] === 'string') {
      const most = this.level.items?.[condition['room-for']]?.stacks ?? 1
      return situation.items[condition['room-for']]! + Number(condition.count ?? 1) <= Number(most)
    }
    if (typeof condition.carries === 'string')
      return situation.items[condition.carries]! >= Number(condition.count ?? 1)
    if (typeof condition.flag === 'string') return situation.flags[condition.flag] === (condition.is !== false)
    return [condition.is].flat().includes(situation.state[condition.interactable as string])
  }

  stateOf(situation: Situation, name: string): NonNullable<TypeDefinition['states']>[string] {
    const m = this.machines.find((one) => one.name === name)!
    return m.type.states?.[situation.state[name]!] ?? {}
  }
}

/** A signal on its way, or a row whose condition has come to hold. */
interface Sent {
  readonly on: string
  readonly to: string | null
  readonly tag: string | null
  readonly row: string | null
}

interface Graph {
  readonly nodes: { readonly situation: Situation }[]
  readonly keys: string[]
  readonly index: Map<string, number>
  readonly edges: number[][]
  readonly kinds: Next['kind'][][]
  readonly taken: Set<string>
  metGoal: boolean
}

function machine(level: Level, name: string, typeName: string, starts: string | undefined): Machine {
  const type = level.types?.[typeName] ?? {}
  const rows = (type.transitions ?? []).map((row, i): Row => {
    const trigger: Partial<Exclude<typeof row.trigger, string>> = typeof row.trigger === 'string' ? {} : row.trigger
    const [[kind, value] = ['', '']] = Object.entries(trigger)
    const on = typeof row.trigger === 'string' ? row.trigger : `${kind} ${typeof value === 'string' ? value : ''}`
    const clock = trigger.after ?? trigger.hold
    const after = typeof clock === 'number' ? ticksOf(clock) : 0
    const id = `${name}/${row.name ?? `transition-${String(i + 1)}`}`
    return {
      id,
      from: [row.from].flat(),
      to: row.to ?? null,
      on: after > 0 ? `after ${id}` : on,
      kept: trigger.hold !== undefined,
      becomes: trigger.becomes ?? null,
      guard: row.guard,
      effects: row.effects ?? [],
      after,
    }
  })
  return { name, type, rows, initial: starts ?? Object.keys(type.states ?? {})[0]! }
}

function placeOf(level: Level, name: string, copy: NonNullable<Level['interactables']>[string], m: Machine): Place {
  const states = Object.values(m.type.states ?? {})
  const doorway = copy.in === undefined ? undefined : level.doorways?.[copy.in]
  const blocking = states.filter((state) => state.blocks?.includes('walk')).length
  return {
    name,
    at: (doorway ? doorway.at : copy.at) as [number, number],
    height: copy.at?.[2] ?? 1,
    asks:
      m.rows.some((row) => /^(press|release|option)/.test(row.on) || row.kept) ||
      states.some((state) => state.ignores !== undefined || state.dials),
    doorway: copy.in ?? null,
    comesAndGoes: blocking > 0 && blocking < states.length,
    solid: copy.body && blocking === states.length ? copy.body.size : null,
    hides: states.some((state) => state.blocks?.includes('sight')),
    zones: Object.entries(m.type.zones ?? {}).map(([zone, { radius }]) => ({ name: zone, radius: radius ?? 1 })),
  }
}

function ticksOf(seconds: unknown): number {
  return Math.round((Number(seconds) * 1000) / tick)
}

function keyOf(situation: Situation): string {
  const sorted = (part: object): unknown[] => Object.entries(part).sort((a, b) => (a[0] < b[0] ? -1 : 1))
  const { at, ...rest } = situation
  return JSON.stringify([at, Object.values(rest).map(sorted)])
}

function copy(situation: Situation): Situation {
  const { at, state, waiting, flags, items, counters, wheels, held, inside, awaited, clocks, pose } = situation
  return {
    at,
    state: { ...state },
    waiting: { ...waiting },
    flags: { ...flags },
    items: { ...items },
    counters: { ...counters },
    wheels: { ...wheels },
    held: { ...held },
    inside: { ...inside },
    awaited: { ...awaited },
    clocks: { ...clocks },
    pose: { ...pose },
  }
}

function knownOf(possible: boolean, sure: boolean): Known {
  return possible ? (sure ? 'absent' : null) : 'found'
}

function permutations<T>(all: readonly T[]): T[][] {
  if (all.length < 2) return [[...all]]
  return all.flatMap((one, i) => permutations(all.filter((_, j) => j !== i)).map((rest) => [one, ...rest]))
}

function backwards(graph: Graph, from: ReadonlySet<number>): Set<number> {
  const sources: number[][] = graph.nodes.map(() => [])
  for (const [i, targets] of graph.edges.entries()) for (const to of targets) sources[to]!.push(i)
  const reached = new Set(from)
  for (const i of reached) for (const source of sources[i]!) reached.add(source)
  return reached
}

function forwards(graph: Graph, stops: ReadonlySet<number>): Set<number> {
  const reached = new Set(stops.has(0) ? [] : [0])
  for (const i of reached) for (const to of graph.edges[i]!) if (!stops.has(to)) reached.add(to)
  return reached
}

function comesToRest(graph: Graph, among: ReadonlySet<number>): boolean {
  const colour = new Map<number, 'open' | 'done'>()
  for (const root of among) {
    const stack: [number, number][] = [[root, 0]]
    while (stack.length > 0) {
      const top = stack[stack.length - 1]!
      const [node] = top
      if (top[1] === 0) {
        if (colour.get(node) === 'done') {
          stack.pop()
          continue
        }
        colour.set(node, 'open')
      }
      const targets = graph.edges[node]!.filter((to, i) => graph.kinds[node]![i] === 'time' && among.has(to))
      const next = targets[top[1]++]
      if (next === undefined) {
        colour.set(node, 'done')
        stack.pop()
      } else if (colour.get(next) === 'open') return false
      else if (colour.get(next) === undefined) stack.push([next, 0])
    }
  }
  return true
}
