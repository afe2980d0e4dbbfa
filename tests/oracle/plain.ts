import type { Condition, Effect, Level, TypeDefinition } from '../../src/model/index.ts'
import { type Ground, lookAround, type Place } from './ground.ts'
import { stuckStates } from './stuck.ts'

/**
 * A plain explorer, written apart from the real one: maps and strings, its own step, its own geometry. It takes levels
 * whose types are all spelt out in the file, whose rooms are rectangles, and whose times are whole ticks of 100 ms.
 */

const tick = 100

/** More events than these in one moment stop the play. */
const mostEvents = 1000

/** What the oracle says of one question; null: it does not know. */
export type Known = 'found' | 'ruled-out' | null

export interface Verdict {
  readonly states: Readonly<Record<string, Known>>
  readonly transitions: Readonly<Record<string, Known>>
  /** For each interactable that can be pressed: found where a press on it can be refused. */
  readonly refusals: Readonly<Record<string, Known>>
  /** For each item that an interactable gives, by `machine/item`: found where there may be no room for it. */
  readonly losses: Readonly<Record<string, Known>>
  readonly stuck: Readonly<Record<string, Known>>
  readonly goals: Readonly<Record<string, Known>>
  readonly softLocks: Readonly<Record<string, Known>>
  /** For each goal, found where it holds before anybody has done anything: nothing else is said of it then. */
  readonly atOnce: Readonly<Record<string, Known>>
  /** Found where signals may set one another off without end, in one moment. */
  readonly storms: Known
  readonly situations: number
  /** Whether a timer ran out somewhere, and whether one event set off two signals or more. */
  readonly sawTimer: boolean
  readonly sawCascade: boolean
  /** Whether a body pushed somebody somewhere. */
  readonly sawPush: boolean
  /** Whether something may run for ever before a goal is met; and whether only clocks that are due together storm. */
  readonly sawCycle: boolean
  readonly sawJointStorm: boolean
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
  /** For a press that is kept down: ticks after which it is pressed again; 0: it is not. */
  readonly every: number
  readonly becomes: Condition | null
  /** Who may set it off, where somebody does; empty: the players. */
  readonly who: readonly string[]
}

interface Machine {
  readonly name: string
  readonly type: TypeDefinition
  readonly rows: readonly Row[]
  readonly initial: string
}

/** A situation: plain, and copied at every move. */
export interface Situation {
  /** The region of each character. */
  at: number[]
  state: Record<string, string>
  waiting: Record<string, string>
  flags: Record<string, boolean>
  items: Record<string, number>
  counters: Record<string, number>
  /** By machine and wheel, from 0. */
  wheels: Record<string, number>
  /** For each character, by index, the machine whose press it keeps down. */
  held: Record<string, string>
  /** By character and zone: that it is in it. */
  inside: Record<string, true>
  /** By character, machine and name: that it is remembered. */
  memory: Record<string, true>
  /** By machine and item: how many are left in it. */
  contents: Record<string, number>
  /** By machine: who set it off last. */
  last: Record<string, number>
  /** By row: whether what it waits for held at the last look. */
  awaited: Record<string, boolean>
  /** For a motion the key is the machine; for a timer the machine and the row. Ticks left. */
  clocks: Record<string, number>
  pose: Record<string, number>
  /** Events that clocks have set off in this moment, while more of them are due in it. */
  moment: number
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

export class Oracle {
  readonly level: Level
  readonly machines: readonly Machine[]
  readonly ground: Ground
  readonly people: readonly NonNullable<Level['characters']>[string][]
  /** For each push that an event sets off, which of how many ways it goes. */
  choices: number[] = []
  options: number[] = []
  calls = 0
  /** Whether walks take their time; and whether the event that is tried hangs on what is not sure then. */
  slow = false
  unsure = false
  sawTimer = false
  sawCascade = false
  sawPush = false
  sawCycle = false
  sawJointStorm = false
  /** Events of the input, or of the clocks of a moment, that is tried; and whether there were ever too many. */
  sent = 0
  stormed = false
  /** The machines that a press was refused on, in the exploration that goes on. */
  refused = new Set<string>()
  /** What there was no room for where it was given, in the exploration that goes on, and in the event that is tried. */
  lost = new Set<string>()
  lostNow = new Set<string>()

  constructor(level: Level) {
    this.level = level
    this.people = Object.values(level.characters)
    this.machines = Object.entries(level.interactables ?? {}).map(([name, copy]) =>
      machine(level, name, copy.type, copy.initial),
    )
    const places = Object.entries(level.interactables ?? {}).map(([name, copy], i) =>
      placeOf(level, name, copy, this.machines[i]!),
    )
    this.ground = lookAround(level, places)
  }

  judge(): Verdict | null {
    const start = this.start()
    if (start === null) return null
    const all = this.explore([start.situation], false)
    const mayStorm = this.stormed
    this.stormed = false
    const sure = this.explore([start.situation], true)
    if (!all || !sure) return null
    const storms = this.stormed ? 'found' : mayStorm ? null : 'ruled-out'
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
    const isAtOnce = (goal: string): boolean => this.holds(this.level.goals![goal]!, start.situation)
    const softLocks = Object.fromEntries(
      goalNames
        .filter((goal) => met(all, goal) && !isAtOnce(goal))
        .map((goal): [string, Known] => {
          const known = this.softLock(goal, all, sure)
          // A storm ends the play, wherever it happens.
          return [goal, known === 'ruled-out' && storms !== 'ruled-out' ? null : known]
        }),
    )
    const atOnce = Object.fromEntries(
      goalNames.map((goal): [string, Known] => [goal, isAtOnce(goal) ? 'found' : 'ruled-out']),
    )
    const pressed = this.machines.filter((m) => m.rows.some((row) => /^(press|option|chance)/.test(row.on)))
    const refusals = Object.fromEntries(
      pressed.map(({ name }): [string, Known] => {
        if (!all.refused.has(name)) return [name, 'ruled-out']
        return [name, sure.refused.has(name) ? 'found' : null]
      }),
    )
    const given = this.machines.flatMap(({ name, rows: own }) =>
      own.flatMap(({ effects }) =>
        effects.flatMap(({ give }) => (typeof give === 'string' ? [`${name}/${give}`] : [])),
      ),
    )
    const losses = Object.fromEntries(
      given.map((key): [string, Known] => [
        key,
        !all.lost.has(key) ? 'ruled-out' : sure.lost.has(key) ? 'found' : null,
      ]),
    )
    return {
      states,
      transitions,
      refusals,
      losses,
      stuck: stuckStates(this, all, sure),
      goals,
      softLocks,
      atOnce,
      storms,
      situations: all.nodes.length,
      sawTimer: this.sawTimer,
      sawCascade: this.sawCascade,
      sawPush: this.sawPush,
      sawCycle: this.sawCycle,
      sawJointStorm: this.sawJointStorm,
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
    // From each situation at rest, walks that take their time must lead to the goal; where there need be none, from each.
    const runsForEver = !comesToRest(all, unmet)
    this.sawCycle ||= runsForEver
    const seeds = [...unmet].flatMap((i) => {
      const { situation } = all.nodes[i]!
      return runsForEver || Object.keys(situation.clocks).length === 0 ? [situation] : []
    })
    const ways = this.explore(seeds, true)
    if (!ways) return null
    const good = backwards(ways, holds(ways))
    if (seeds.some((seed) => !good.has(ways.index.get(keyOf(seed))!))) return null
    return 'ruled-out'
  }

  /** All situations from some; with `slow`, walks take their time and nothing may fall due on the way. */
  explore(starts: readonly Situation[], slow: boolean): Graph | null {
    const graph: Graph = {
      nodes: [],
      keys: [],
      index: new Map(),
      edges: [],
      kinds: [],
      taken: new Set(),
      refused: new Set(),
      lost: new Set(),
    }
    this.refused = graph.refused
    this.lost = graph.lost
    const add = (situation: Situation): number => {
      const key = keyOf(situation)
      const known = graph.index.get(key)
      if (known !== undefined) return known
      graph.index.set(key, graph.nodes.length)
      graph.keys.push(key)
      graph.edges.push([])
      graph.kinds.push([])
      return graph.nodes.push({ situation }) - 1
    }
    for (const start of starts) add(start)
    for (let i = 0; i < graph.nodes.length; i++) {
      if (graph.nodes.length > 4_000 + 2 * starts.length) return null
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
    const at = this.people.map(({ start }) => this.ground.regionAt(start))
    if (at.includes(-1)) return null
    const situation: Situation = {
      at,
      state: {},
      waiting: {},
      flags: {},
      items: {},
      counters: {},
      wheels: {},
      held: {},
      inside: Object.fromEntries(
        at.flatMap((region, who) =>
          this.ground.regions[region]!.zones.map((zone) => [`${String(who)} ${zone}`, true as const]),
        ),
      ),
      memory: {},
      contents: {},
      last: {},
      awaited: {},
      clocks: {},
      pose: {},
      moment: 0,
    }
    for (const [name, { initial }] of Object.entries(this.level.counters ?? {})) situation.counters[name] = initial ?? 0
    for (const [flag, { initial }] of Object.entries(this.level.flags ?? {})) situation.flags[flag] = initial ?? false
    for (const [who, person] of this.people.entries()) {
      for (const item of Object.keys(this.level.items ?? {})) {
        situation.items[this.pocket(who, item)] ??= 0
        situation.items[this.pocket(who, item)]! += person.carries?.[item] ?? 0
      }
    }
    for (const m of this.machines) {
      situation.state[m.name] = m.initial
      situation.last[m.name] = 0
      const holds = m.type.contains?.items
      for (const { item, count } of Array.isArray(holds) ? holds : [])
        situation.contents[`${m.name}/${item}`] = m.type.contains?.empty === undefined ? (count ?? 1) : 0
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
    this.slow = slow
    const due = Object.entries(from.clocks).filter(([, left]) => left === 0)
    const running = Object.keys(from.clocks).length > 0
    for (const who of this.people.keys()) {
      const held = from.held[who]
      if (held !== undefined) {
        const free: Next[] = []
        this.event(from, 'release', held, 'press', free, who)
        next.push(...free)
        // Whoever steers elsewhere lets go, and walks.
        for (const { situation, taken } of free) {
          const walked: Next[] = []
          for (const to of this.ground.regions[situation.at[who]!]!.next) this.walk(situation, who, to, slow, walked)
          next.push(...walked.map((one) => ({ ...one, taken: [...taken, ...one.taken] })))
        }
        continue
      }
      for (const to of this.ground.regions[from.at[who]!]!.next) this.walk(from, who, to, slow, next)
      for (const ask of ['press', 'press pry', 'option']) this.press(from, who, ask, slow, next)
      this.dials(from, who, next)
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

  walk(from: Situation, who: number, to: number, slow: boolean, next: Next[]): void {
    const [here, there] = [this.ground.regions[from.at[who]!]!, this.ground.regions[to]!]
    const blocks = (name: string): boolean => this.stateOf(from, name).blocks?.includes('walk') ?? false
    if (there.bodies.some(blocks)) return
    const moved = copy(from)
    moved.at[who] = to
    const person = this.people[who]
    if (slow && Object.keys(from.clocks).length > 0) {
      const ticks = Math.ceil(((this.ground.walk(from.at[who]!, to) / (person?.speed ?? 1)) * 1000) / tick) + 1
      if (Object.values(from.clocks).some((left) => left <= ticks)) return
      for (const clock of Object.keys(moved.clocks)) moved.clocks[clock]! -= ticks
    }
    const events = [
      ...here.zones.filter((zone) => !there.zones.includes(zone)).map((zone) => `leave ${zone}`),
      ...there.zones.filter((zone) => !here.zones.includes(zone)).map((zone) => `enter ${zone}`),
      ...here.bodies
        .filter((body) => !there.bodies.includes(body) && !this.isInTheWay(moved, body))
        .map((body) => `clear ${body}`),
    ]
    // Several borders on one line: any order may be so.
    const orders = slow ? (events.length > 1 ? [] : [events]) : permutations(events)
    for (const order of orders) this.crossAll(moved, who, to, order, [], next)
  }

  /** Crosses borders one after the other, each with all that it may lead to. */
  crossAll(
    from: Situation,
    who: number,
    to: number,
    events: readonly string[],
    taken: readonly string[],
    next: Next[],
  ): void {
    const [event, ...rest] = events
    // Whoever was moved elsewhere crosses nothing more on this way.
    if (event === undefined || from.at[who] !== to) {
      next.push({ situation: from, taken, kind: 'walk', ticks: 0 })
      return
    }
    const [kind, name] = event.split(' ') as [string, string]
    const made: Next[] = []
    this.event(from, event, kind === 'clear' ? name : name.split('/')[0]!, 'walk', made, who)
    for (const one of made) this.crossAll(one.situation, who, to, rest, [...taken, ...one.taken], next)
  }

  /** All that a press of some kind can do: kept down or not, and each option. */
  press(from: Situation, who: number, ask: string, slow: boolean, next: Next[]): void {
    for (const name of this.answering(from, who, ask, slow)) this.pressOn(from, who, name, ask, next)
  }

  pressOn(from: Situation, who: number, name: string, ask: string, next: Next[]): void {
    const m = this.machines.find((one) => one.name === name)!
    const here = m.rows.filter((row) => row.from.includes(from.state[name]!) && this.may(row, who))
    const drawn = ask === 'press' ? here.filter((row) => row.on.startsWith('chance ')) : []
    if (drawn.length > 0) {
      this.draw(from, who, m, drawn, next)
      return
    }
    const ons =
      ask === 'option' ? [...new Set(here.map((row) => row.on))].filter((on) => on.startsWith('option ')) : [ask]
    for (const on of ons) {
      const asked = here.filter((row) => row.on === on)
      const isAllowed = (row: Row): boolean => row.guard === undefined || this.holds(row.guard, from, name, who)
      if (asked.length > 0 && !asked.some(isAllowed)) this.refused.add(name)
      if (ask !== 'press' || !m.rows.some((row) => row.kept || row.every > 0 || row.on === 'release')) {
        this.event(from, on, name, 'press', next, who)
        continue
      }
      const rows = here.filter((row) => row.on === 'press')
      const holds = rows.some((row) => row.guard === undefined || this.holds(row.guard, from, name, who))
      if (rows.length > 0 && !holds) continue
      const made: Next[] = []
      this.event(from, 'press down', name, 'press', made, who)
      for (const down of made) {
        const up: Next[] = []
        this.event(down.situation, 'release', name, 'press', up, who)
        next.push(down, ...up.map((one) => ({ ...one, taken: [...down.taken, ...one.taken] })))
      }
    }
  }

  /** Chance draws each that can be taken; where none can, the press is refused. */
  draw(from: Situation, who: number, m: Machine, rows: readonly Row[], next: Next[]): void {
    const open = rows.filter((row) => row.guard === undefined || this.holds(row.guard, from, m.name, who))
    if (open.length === 0) this.refused.add(m.name)
    for (const on of new Set(open.map((row) => row.on))) this.event(from, on, m.name, 'press', next, who)
  }

  /** Every wheel within reach, set to every number. */
  dials(from: Situation, who: number, next: Next[]): void {
    if (this.people[who]!.role !== 'player') return
    for (const { name, hiddenBy } of this.ground.regions[from.at[who]!]!.candidates) {
      if (!this.stateOf(from, name).dials || this.isHidden(from, hiddenBy)) continue
      const { wheels, positions } = this.machines.find((one) => one.name === name)!.type.dial!
      for (let wheel = 0; wheel < Number(wheels); wheel++) {
        for (let to = 0; to < Number(positions); to++) {
          const set = copy(from)
          set.wheels[`${name} ${String(wheel)}`] = to
          this.event(set, 'dial', name, 'press', next, who)
        }
      }
    }
  }

  isHidden(situation: Situation, hiddenBy: readonly string[]): boolean {
    return hiddenBy.some((other) => this.stateOf(situation, other).blocks?.includes('sight'))
  }

  /** What may answer: those that one may look past, or whose range may have ended, or the first behind them; with `slow`, only what surely does. */
  answering(situation: Situation, who: number, ask: string, slow: boolean): string[] {
    const names: string[] = []
    const { probe } = this.people[who]!
    for (const { name, hiddenBy, lingers } of this.ground.regions[situation.at[who]!]!.candidates) {
      const m = this.machines.find((one) => one.name === name)!
      const fits = (row: Row): boolean =>
        row.on === ask ||
        (ask === 'option' && row.on.startsWith('option ')) ||
        (ask === 'press' && (row.kept || row.on === 'release' || row.on.startsWith('chance ')))
      const asks = m.rows.some((row) => fits(row) && this.may(row, who) && row.from.includes(situation.state[name]!))
      if (!asks && (ask !== 'press' || this.stateOf(situation, name).ignores === undefined)) continue
      if (this.isHidden(situation, hiddenBy)) continue
      if (slow && lingers) return names
      names.push(name)
      const isPassedBy = lingers || probe !== undefined || this.level.interactables?.[name]?.range?.aim !== undefined
      if (slow || !isPassedBy) return names
    }
    return names
  }

  /** Offers one event, and the signals that follow, first in first out. */
  /** All that one event may lead to: several things, where somebody may be pushed to several places. */
  event(from: Situation, event: string, name: string, kind: Next['kind'], next: Next[], who = 0): void {
    this.choices = []
    do {
      this.calls = 0
      this.unsure = false
      this.eventOnce(from, event, name, kind, next, who)
    } while (this.goesOtherwise())
  }

  goesOtherwise(): boolean {
    while (this.choices.length > this.calls) this.choices.pop()
    for (let last = this.choices.pop(); last !== undefined; last = this.choices.pop()) {
      if (last + 1 < this.options[this.choices.length]!) return this.choices.push(last + 1) > 0
    }
    return false
  }

  /** Pushes everybody out of the way, somewhere beside the body; false where they stay, and it waits. */
  push(situation: Situation, m: Machine, queue: Sent[]): boolean {
    // Just where to, only the other explorer says: this one takes nothing for sure.
    if (this.slow) this.unsure = true
    for (const [who, region] of situation.at.entries()) {
      if (!this.ground.regions[region]!.bodies.includes(m.name)) continue
      const targets = this.besides(region, m.name)
      const call = this.calls++
      this.options[call] = targets.length + 1
      const to = targets[(this.choices[call] ??= 0)]
      if (to === undefined) return false
      this.moveTo(situation, who, to, queue)
      this.sawPush = true
    }
    return true
  }

  /** The regions that are clear of a body, next to the ground of it that a region belongs to. */
  besides(region: number, body: string): number[] {
    const ground = new Set([region])
    const clear = new Set<number>()
    for (const one of ground) {
      for (const to of this.ground.regions[one]!.next) {
        if (this.ground.regions[to]!.bodies.includes(body)) ground.add(to)
        else clear.add(to)
      }
    }
    return [...clear].sort((a, b) => a - b)
  }

  eventOnce(from: Situation, event: string, name: string, kind: Next['kind'], next: Next[], who: number): void {
    const situation = copy(from)
    const taken: string[] = []
    const queue: Sent[] = []
    this.lostNow.clear()
    // The events of all clocks that are due in one moment count together; the order of Play is tried with care alone.
    this.sent = kind === 'time' && this.slow ? from.moment + 1 : 1
    const m = this.machines.find((one) => one.name === name)!
    if (event.startsWith('due ')) {
      delete situation.clocks[event.slice(4)]
      const [, row] = event.slice(4).split(' ')
      this.sawTimer ||= row !== undefined
      this.due(situation, m, row, taken, queue)
    } else if (event.startsWith('clear ')) this.clear(situation, m, taken, queue)
    else if (event === 'press down') {
      this.offer(situation, m, 'press', taken, queue, who)
      situation.held[who] = name
      this.startClocks(situation, m, true)
    } else if (event === 'release') {
      this.letGo(situation, m, taken, queue, who)
    } else if (event === 'press' || /^(press|option|chance) /.test(event)) {
      this.offer(situation, m, event, taken, queue, who)
    } else if (event !== 'dial') this.cross(situation, event, who, taken, queue)
    const ends = this.drain(situation, queue, taken)
    if (!ends && !this.unsure) this.stormed = true
    if (!ends || this.unsure) return
    const more = kind === 'time' && Object.values(situation.clocks).includes(0)
    situation.moment = this.slow && more ? this.sent : 0
    for (const one of this.lostNow) this.lost.add(one)
    next.push({ situation, taken, kind, ticks: 0 })
  }

  /** Whoever lets go stops what runs only as long as somebody keeps it pressed. */
  letGo(situation: Situation, m: Machine, taken: string[], queue: Sent[], who: number): void {
    if (situation.held[who] !== m.name) return
    delete situation.held[who]
    const isHeld = Object.values(situation.held).includes(m.name)
    for (const row of m.rows) if ((row.kept || row.every > 0) && !isHeld) delete situation.clocks[`${m.name} ${row.id}`]
    this.offer(situation, m, 'release', taken, queue, who)
  }

  due(situation: Situation, m: Machine, id: string | undefined, taken: string[], queue: Sent[]): void {
    const row = m.rows.find((one) => one.id === id)
    if (!row?.kept && !row?.every) {
      const on = id === undefined ? 'motion-end' : `after ${id}`
      this.offer(situation, m, on, taken, queue, situation.last[m.name]!)
      return
    }
    const holder = Object.entries(situation.held).find(([who, name]) => name === m.name && this.may(row, Number(who)))
    if (!holder) return
    this.offer(situation, m, row.kept ? `after ${row.id}` : 'press', taken, queue, Number(holder[0]))
    if (!row.kept) this.startClocks(situation, m, true, true)
  }

  /** The way is clear: what waits is asked again, or its state starts again. */
  clear(situation: Situation, m: Machine, taken: string[], queue: Sent[]): void {
    const id = situation.waiting[m.name]
    delete situation.waiting[m.name]
    if (id === undefined) return
    if (m.type['in-the-way'] === 'reopen') this.startClocks(situation, m)
    else this.offer(situation, m, `row ${id}`, taken, queue, situation.last[m.name]!)
  }

  cross(situation: Situation, event: string, who: number, taken: string[], queue: Sent[]): void {
    const [how, zone] = event.split(' ') as [string, string]
    const [owner, name] = zone.split('/') as [string, string]
    if (how === 'enter') situation.inside[`${String(who)} ${zone}`] = true
    else delete situation.inside[`${String(who)} ${zone}`]
    this.offer(
      situation,
      this.machines.find((m) => m.name === owner)!,
      `${how} ${name}`,
      taken,
      queue,
      who,
    )
  }

  isInTheWay(situation: Situation, name: string): boolean {
    return situation.at.some((region) => this.ground.regions[region]!.bodies.includes(name))
  }

  may(row: Row, who: number): boolean {
    const { role } = this.people[who]!
    return row.who.length === 0 ? role === 'player' : row.who.includes(role)
  }

  /** Under which key a character's items are kept: those that are shared under one for all. */
  pocket(who: number, item: string): string {
    return this.level.items?.[item]?.shared ? item : `${String(who)} ${item}`
  }

  /** How many more of an item somebody could carry. */
  room(situation: Situation, who: number, item: string): number {
    const { stacks = false, shared = false } = this.level.items?.[item] ?? {}
    const room = (typeof stacks === 'number' ? stacks : stacks ? 99 : 1) - situation.items[this.pocket(who, item)]!
    const most = this.people[who]!['carries-most']
    if (most === undefined || shared) return room
    const own = Object.entries(situation.items).filter(([key]) => key.startsWith(`${String(who)} `))
    return Math.max(0, Math.min(room, most - own.reduce((sum, [, count]) => sum + count, 0)))
  }

  /** Offers signals, and what has come to hold, until there is no more; false where there is no end to it. */
  drain(situation: Situation, queue: Sent[], taken: string[]): boolean {
    for (let i = 0; ; i++) {
      if (i === queue.length) {
        for (const m of this.machines) {
          for (const row of m.rows) {
            if (!row.becomes) continue
            const { becomes } = row
            const holds = this.people.some(
              ({ role }, who) => role === 'player' && this.holds(becomes, situation, m.name, who),
            )
            if (holds && !situation.awaited[row.id]) queue.push({ on: '', to: m.name, tag: null, row: row.id, who: -1 })
            situation.awaited[row.id] = holds
          }
        }
        if (i === queue.length) return true
      }
      const one = queue[i]!
      if (++this.sent > mostEvents) {
        this.sawJointStorm ||= i < mostEvents - 1
        return false
      }
      if (/^(enter|leave|clear|let) /.test(one.on)) {
        const m = this.machines.find(({ name }) => name === one.to)!
        if (one.on === 'let go') this.letGo(situation, m, taken, queue, one.who)
        else if (one.on.startsWith('clear ')) this.clear(situation, m, taken, queue)
        else this.cross(situation, one.on, one.who, taken, queue)
        continue
      }
      if (one.row === null && i >= 1) this.sawCascade = true
      for (const m of this.machines) {
        const tags = this.level.interactables?.[m.name]?.tags ?? []
        if ((one.to !== null && one.to !== m.name) || (one.tag !== null && !tags.includes(one.tag))) continue
        const who = one.row === null ? one.who : situation.last[m.name]!
        this.offer(situation, m, one.row === null ? `signal ${one.on}` : `row ${one.row}`, taken, queue, who)
      }
    }
  }

  offer(situation: Situation, m: Machine, on: string, taken: string[], queue: Sent[], who: number): void {
    const here = situation.state[m.name]!
    const rows = on.startsWith('row ')
      ? m.rows.filter((row) => row.id === on.slice(4))
      : m.rows.filter((row) => row.on === on)
    const row = rows.find(
      (one) =>
        one.from.includes(here) &&
        (!/^(press|option|chance|release|enter|leave)/.test(on) || this.may(one, who)) &&
        (one.guard === undefined || this.holds(one.guard, situation, m.name, who)),
    )
    if (!row) return
    const to = row.to ?? here
    const states = m.type.states ?? {}
    const closes = states[to]?.blocks?.includes('walk') && !states[here]?.blocks?.includes('walk')
    situation.last[m.name] = who
    const pushes = m.type['in-the-way'] === 'push'
    if (closes && this.isInTheWay(situation, m.name) && !(pushes && this.push(situation, m, queue))) {
      situation.waiting[m.name] = row.id
      return
    }
    if (to === here) this.startClocks(situation, m)
    else this.enter(situation, m, here, to)
    taken.push(row.id)
    for (const effect of row.effects) this.apply(situation, m, effect, queue, who)
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

  /** Starts timers; or, with `kept`, what a press kept down sets off; with `again`, only what is pressed again. */
  startClocks(situation: Situation, m: Machine, kept = false, again = false): void {
    for (const row of m.rows) {
      if (!row.from.includes(situation.state[m.name]!)) continue
      if (row.after > 0 && row.kept === kept && !again) situation.clocks[`${m.name} ${row.id}`] = row.after
      if (row.every > 0 && kept) situation.clocks[`${m.name} ${row.id}`] = row.every
    }
  }

  apply(situation: Situation, m: Machine, effect: Effect, queue: Sent[], who: number): void {
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
      queue.push({ on: effect.send, to, tag: typeof effect.tagged === 'string' ? effect.tagged : null, row: null, who })
    }
    const change = (item: string, by: number): number => {
      const pocket = this.pocket(who, item)
      const given = by > 0 ? Math.min(by, this.room(situation, who, item)) : Math.max(by, -situation.items[pocket]!)
      situation.items[pocket]! += given
      return given
    }
    if (effect['take-out'] === true) {
      for (const key of Object.keys(situation.contents)) {
        const [owner, item] = key.split('/') as [string, string]
        if (owner === m.name && situation.contents[key]! > 0) {
          situation.contents[key]! -= change(item, situation.contents[key]!)
        }
      }
    }
    if (typeof effect['put-in'] === 'string') {
      const key = `${m.name}/${effect['put-in']}`
      const held = m.type.contains?.items
      const most = Array.isArray(held) ? (held.find(({ item }) => item === effect['put-in'])?.count ?? 1) : 0
      situation.contents[key] = Math.min(most, situation.contents[key]! + count)
    }
    if (effect.remember !== undefined) situation.memory[`${String(who)} ${m.name}/${effect.remember}`] = true
    const passed = `${String(who)} checkpoint/`
    if (typeof effect.checkpoint === 'string') {
      for (const key of Object.keys(situation.memory)) if (key.startsWith(passed)) delete situation.memory[key]
      situation.memory[passed + effect.checkpoint] = true
    }
    if (typeof effect['back-to-checkpoint'] === 'string') {
      const last = Object.keys(situation.memory).find((key) => key.startsWith(passed))
      this.move(situation, who, last?.slice(passed.length) ?? effect['back-to-checkpoint'], queue)
    }
    if (typeof effect['move-to'] === 'string') this.move(situation, who, effect['move-to'], queue)
    if (typeof effect.give === 'string' && change(effect.give, count) < count) {
      this.lostNow.add(`${m.name}/${effect.give}`)
    }
    if (typeof effect.consume === 'string') change(effect.consume, -count)
    if (typeof effect.remove === 'string') change(effect.remove, -count)
  }

  move(situation: Situation, who: number, place: string, queue: Sent[]): void {
    const to = this.ground.regionAt(this.level.places![place]!.at)
    if (to >= 0) this.moveTo(situation, who, to, queue)
  }

  moveTo(situation: Situation, who: number, to: number, queue: Sent[]): void {
    const [here, there] = [this.ground.regions[situation.at[who]!]!, this.ground.regions[to]!]
    situation.at[who] = to
    const send = (on: string, name: string): void => void queue.push({ on, to: name, tag: null, row: null, who })
    const held = situation.held[who]
    if (held !== undefined) send('let go', held)
    const isIn = (zone: string): boolean => situation.inside[`${String(who)} ${zone}`] === true
    const left = this.zones().filter((zone) => isIn(zone) && !there.zones.includes(zone))
    for (const zone of left) send(`leave ${zone}`, zone.split('/')[0]!)
    for (const zone of there.zones.filter((one) => !isIn(one))) send(`enter ${zone}`, zone.split('/')[0]!)
    for (const body of here.bodies) {
      if (!there.bodies.includes(body) && !this.isInTheWay(situation, body)) send(`clear ${body}`, body)
    }
  }

  /** All zones, in file order. */
  zones(): string[] {
    return this.machines.flatMap((m) =>
      [...Object.keys(m.type.zones ?? {}), 'touch'].map((zone) => `${m.name}/${zone}`),
    )
  }

  /** Whether something holds for somebody; for a goal, for any player. */
  holds(condition: Condition, situation: Situation, own = '', who: number | null = null): boolean {
    if (who === null) {
      return this.people.some(({ role }, one) => role === 'player' && this.holds(condition, situation, own, one))
    }
    if (condition.all) return condition.all.every((one) => this.holds(one, situation, own, who))
    if (condition.any) return condition.any.some((one) => this.holds(one, situation, own, who))
    if (condition.not) return !this.holds(condition.not, situation, own, who)
    if (condition.remembers !== undefined) {
      return situation.memory[`${String(who)} ${own}/${condition.remembers}`] === true
    }
    const rest = Object.entries(situation.contents).filter(([key, left]) => key.startsWith(`${own}/`) && left > 0)
    if (condition.empty) return rest.length === 0
    if (condition['something-fits']) return rest.some(([key]) => this.room(situation, who, key.split('/')[1]!) > 0)
    if (typeof condition.counter === 'string') {
      const count = situation.counters[condition.counter]!
      if (typeof condition.is === 'number') return count === condition.is
      return count >= Number(condition['at-least'] ?? 0) && count <= Number(condition['at-most'] ?? 9999)
    }
    if (condition.inside !== undefined) {
      const { inside, carrying } = condition
      return this.people.some(
        (_, one) =>
          situation.inside[`${String(one)} ${own}/${inside}`] === true &&
          (typeof carrying !== 'string' || situation.items[this.pocket(one, carrying)]! > 0),
      )
    }
    if (Array.isArray(condition.dial)) {
      return condition.dial.every((digit, i) => situation.wheels[`${own} ${String(i)}`] === digit)
    }
    if (typeof condition['room-for'] === 'string') {
      return this.room(situation, who, condition['room-for']) >= Number(condition.count ?? 1)
    }
    if (typeof condition.carries === 'string')
      return situation.items[this.pocket(who, condition.carries)]! >= Number(condition.count ?? 1)
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
  /** Who set it off. */
  readonly who: number
}

export interface Graph {
  readonly nodes: { readonly situation: Situation }[]
  readonly keys: string[]
  readonly index: Map<string, number>
  readonly edges: number[][]
  readonly kinds: Next['kind'][][]
  readonly taken: Set<string>
  /** The machines that a press was refused on. */
  readonly refused: Set<string>
  /** What there was no room for, by `machine/item`. */
  readonly lost: Set<string>
}

function machine(level: Level, name: string, typeName: string, starts: string | undefined): Machine {
  const type = level.types?.[typeName] ?? {}
  const rows = (type.transitions ?? []).map((row, i): Row => {
    const trigger: Partial<Exclude<typeof row.trigger, string>> = typeof row.trigger === 'string' ? {} : row.trigger
    const [[kind, value] = ['', '']] = Object.entries(trigger)
    const isUsual = trigger.press === 'use'
    const on =
      row.trigger === 'touch'
        ? 'enter touch'
        : typeof row.trigger === 'string'
          ? row.trigger
          : isUsual
            ? 'press'
            : `${kind} ${typeof value === 'string' ? value : ''}`
    const clock = trigger.after ?? trigger.hold
    const after = typeof clock === 'number' ? ticksOf(clock) : 0
    const id = `${name}/${row.name ?? `transition-${String(i + 1)}`}`
    return {
      id,
      from: [row.from].flat(),
      to: row.to ?? null,
      on: after > 0 ? `after ${id}` : on,
      kept: trigger.hold !== undefined,
      every: typeof trigger.every === 'number' ? ticksOf(trigger.every) : 0,
      who: [row.who ?? level.interactables?.[name]?.who ?? []].flat(),
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
    radius: copy.range?.radius ?? 1.5,
    until: copy.range?.until ?? copy.range?.radius ?? 1.5,
    asks:
      m.rows.some((row) => /^(press|release|option|chance)/.test(row.on) || row.kept) ||
      states.some((state) => state.ignores !== undefined || state.dials),
    doorway: copy.in ?? null,
    comesAndGoes: blocking > 0 && blocking < states.length,
    solid: copy.body && blocking === states.length ? copy.body.size : null,
    touches: m.rows.some((row) => row.on === 'enter touch'),
    hides: states.some((state) => state.blocks?.includes('sight')),
    zones: Object.entries(m.type.zones ?? {}).map(([zone, { radius }]) => ({ name: zone, radius: radius ?? 1 })),
  }
}

function ticksOf(seconds: unknown): number {
  return Math.round((Number(seconds) * 1000) / tick)
}

/** A situation in one string. What comes and goes is put in order; everything else is always there, in one order. */
export function keyOf(situation: Situation): string {
  const { at, state, flags, items, counters, wheels, contents, last, awaited, pose, moment } = situation
  let key = `${at.join()}|${String(moment)}`
  for (const part of [state, flags, items, counters, wheels, contents, last, awaited, pose]) {
    key += `|${Object.values(part).join()}`
  }
  for (const part of [situation.waiting, situation.held, situation.inside, situation.memory, situation.clocks]) {
    const names = Object.keys(part)
    if (names.length > 1) names.sort()
    key += '|'
    for (const name of names) key += `${name}=${String((part as Record<string, unknown>)[name])},`
  }
  return key
}

export function copy(situation: Situation): Situation {
  const { at, state, waiting, flags, items, counters, wheels, held, inside, awaited, clocks, pose } = situation
  const { memory, contents, last, moment } = situation
  return {
    at: [...at],
    state: { ...state },
    waiting: { ...waiting },
    flags: { ...flags },
    items: { ...items },
    counters: { ...counters },
    wheels: { ...wheels },
    held: { ...held },
    inside: { ...inside },
    memory: { ...memory },
    contents: { ...contents },
    last: { ...last },
    awaited: { ...awaited },
    clocks: { ...clocks },
    pose: { ...pose },
    moment,
  }
}

function knownOf(possible: boolean, sure: boolean): Known {
  return possible ? (sure ? 'ruled-out' : null) : 'found'
}

function permutations<T>(all: readonly T[]): T[][] {
  if (all.length < 2) return [[...all]]
  return all.flatMap((one, i) => permutations(all.filter((_, j) => j !== i)).map((rest) => [one, ...rest]))
}

export function backwards(graph: Graph, from: ReadonlySet<number>): Set<number> {
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
