import type { Level, TypeDefinition, ZoneDefinition } from '../../src/model/index.ts'
import { Random } from './random.ts'

type Point = [number, number]
type Instance = NonNullable<Level['interactables']>[string]
type Effect = Record<string, unknown>

/** What a random level has: counted, so that each is seen to come often enough. */
export type Feature =
  | 'thin gap'
  | 'concave room'
  | 'shared wall'
  | 'shared corner'
  | 'odd angle'
  | 'deep doorway'
  | 'sight-only obstacle'
  | 'handle in a wall'
  | 'overlapping zones'
  | 'box'
  | 'sector'
  | 'ring'
  | 'stands in'
  | 'chance'
  | 'high speed'
  | 'low speed'
  | 'timer of 1 ms'
  | 'timer of exact ticks'
  | 'place'
  | 'several characters'
  | 'push'
  | 'reopen'
  | 'memory'
  | 'contents'
  | 'dial'
  | 'option'
  | 'hold'

export const features: readonly Feature[] = [
  'thin gap',
  'concave room',
  'shared wall',
  'shared corner',
  'odd angle',
  'deep doorway',
  'sight-only obstacle',
  'handle in a wall',
  'overlapping zones',
  'box',
  'sector',
  'ring',
  'stands in',
  'chance',
  'high speed',
  'low speed',
  'timer of 1 ms',
  'timer of exact ticks',
  'place',
  'several characters',
  'push',
  'reopen',
  'memory',
  'contents',
  'dial',
  'option',
  'hold',
]

/** A random small level, and what it has. */
export function randomLevel(seed: number): { readonly level: Level; readonly has: ReadonlySet<Feature> } {
  const maker = new Maker(new Random(seed))
  return { level: maker.level(), has: maker.has }
}

const radius = 0.3

class Maker {
  readonly has = new Set<Feature>()
  readonly #random: Random
  readonly #rooms: Record<string, { outline: Point[] }> = {}
  readonly #doorways: NonNullable<Level['doorways']> = {}
  readonly #obstacles: NonNullable<Level['obstacles']> = {}
  readonly #places: NonNullable<Level['places']> = {}
  readonly #types: Record<string, TypeDefinition> = {}
  readonly #things: Record<string, Instance> = {}
  /** Rectangles that things may stand in: left, low, right, high. */
  readonly #spaces: [number, number, number, number][] = []
  /** Degrees that all is turned by, and where to. */
  readonly #turn: number
  readonly #moved: Point

  constructor(random: Random) {
    this.#random = random
    const isOdd = random.chance(0.25)
    this.#turn = isOdd ? random.between(1, 89) : random.pick([0, 0, 0, 90, 180, 270])
    if (isOdd) this.has.add('odd angle')
    this.#moved = random.chance(0.5) ? [0, 0] : [random.between(-3, 3), random.between(-3, 3)]
  }

  level(): Level {
    const random = this.#random
    this.#ground()
    const count = 2 + random.below(3)
    for (let i = 0; i < count; i++) this.#thing(i)
    const names = Object.keys(this.#things)
    const states = (name: string): string[] => Object.keys(this.#types[this.#things[name]!.type]?.states ?? {})
    const own = names.filter((name) => states(name).length > 1)
    const goal = own.length > 0 && random.chance(0.8) ? random.pick(own) : null
    const is = goal === null ? '' : random.pick(states(goal).slice(1))
    return {
      zintel: 1,
      title: 'random',
      rooms: this.#rooms,
      doorways: this.#doorways,
      obstacles: this.#obstacles,
      items: { key: {}, coin: { stacks: 3 } },
      flags: { up: {} },
      counters: { tally: { most: 2 } },
      places: this.#places,
      types: this.#types,
      interactables: this.#things,
      characters: this.#characters(),
      goals: { goal: goal === null ? { carries: 'key' } : { interactable: goal, is } },
    }
  }

  /** A zone of some shape, off its middle now and then. */
  #shape(feature: Feature | null = null): ZoneDefinition {
    const random = this.#random
    if (feature) this.has.add(feature)
    const kind = random.pick(['box', 'sector', 'ring'] as const)
    this.has.add(kind)
    const at = random.chance(0.3) ? { at: [random.between(-0.5, 0.5), random.between(-0.5, 0.5)] as Point } : {}
    if (kind === 'box') {
      const box: Point = [random.between(0.3, 1.5), random.between(0.3, 1.5)]
      return { box, ...(random.chance(0.5) ? { turn: random.between(-90, 90) } : {}), ...at }
    }
    if (kind === 'ring') {
      const from = random.between(0.2, 0.8)
      return { ring: { from, to: from + random.between(0.1, 0.8) }, ...at }
    }
    const facing = random.chance(0.5) ? { facing: random.pick([0, 180, 270, random.between(0, 360)]) } : {}
    return {
      sector: { radius: random.between(0.5, 1.6), degrees: random.pick([30, 90, 120, 200, 300]), ...facing },
      ...at,
    }
  }

  /** A point of the level as it is laid out, turned and moved. */
  #at([x, y]: Point): Point {
    const angle = (this.#turn * Math.PI) / 180
    const [c, s] = [Math.cos(angle), Math.sin(angle)]
    const rounded = (metres: number): number => Math.round(metres * 1e6) / 1e6
    return [rounded(x * c - y * s + this.#moved[0]), rounded(x * s + y * c + this.#moved[1])]
  }

  #box(left: number, low: number, right: number, high: number): Point[] {
    return this.#outline([
      [left, low],
      [right, low],
      [right, high],
      [left, high],
    ])
  }

  /** Corners from anywhere on, either way round. */
  #outline(corners: Point[]): Point[] {
    const random = this.#random
    const at = corners.map((corner) => this.#at(corner))
    const shift = random.below(at.length)
    const turned = [...at.slice(shift), ...at.slice(0, shift)]
    return random.chance(0.3) ? turned.reverse() : turned
  }

  #ground(): void {
    const random = this.#random
    const rooms = 1 + random.below(2)
    const high = random.between(1.4, 3)
    let left = 0
    for (let i = 0; i < rooms; i++) {
      const wide = random.between(1.6, 3)
      const right = left + wide
      if (random.chance(0.3)) {
        this.has.add('concave room')
        const [x, y] = [left + wide * random.between(0.35, 0.65), high * random.between(0.35, 0.65)]
        const corners: Point[] = [
          [left, 0],
          [right, 0],
          [right, high],
          [x, high],
          [x, y],
          [left, y],
        ]
        this.#rooms[`room-${String(i)}`] = { outline: this.#outline(corners) }
        this.#spaces.push([left, 0, right, y])
      } else {
        this.#rooms[`room-${String(i)}`] = { outline: this.#box(left, 0, right, high) }
        this.#spaces.push([left, 0, right, high])
      }
      left = right
      if (i + 1 < rooms) left = this.#doorway(i, right, high)
    }
    if (random.chance(0.15)) {
      this.has.add('shared corner')
      this.#rooms['corner-room'] = { outline: this.#box(left, high, left + 1.5, high + 1.5) }
      this.#spaces.push([left, high, left + 1.5, high + 1.5])
    }
    if (random.chance(0.35)) this.#narrow()
    if (random.chance(0.25)) this.#curtain()
    if (random.chance(0.4)) {
      this.has.add('place')
      this.#places.spot = { at: this.#at(this.#spot()), ...(random.chance(0.3) ? { facing: 0 } : {}) }
      if (random.chance(0.5)) this.#places.den = { at: this.#at(this.#spot()) }
    }
  }

  /** Where the next room begins. */
  #doorway(i: number, right: number, high: number): number {
    const random = this.#random
    const gap = random.pick([0, 0, 0.3, 0.3, random.between(1.2, 2.5)])
    if (gap === 0) this.has.add('shared wall')
    if (gap > 1) this.has.add('deep doorway')
    const width = random.pick([0.58, 0.605, 0.64, 0.7, 0.9, 1.2])
    if (width < 0.72) this.has.add('thin gap')
    const depth = gap === 0 ? random.pick([0.1, 0.2, 0.4]) : gap
    const at: Point = [right + gap / 2, random.between(Math.min(0.7, high / 2), Math.max(high / 2, high - 0.7))]
    // What the file does not say is found out.
    const turn = random.chance(0.5) ? { turn: this.#turn } : {}
    this.#doorways[`gap-${String(i)}`] = {
      joins: random.chance(0.5)
        ? [`room-${String(i)}`, `room-${String(i + 1)}`]
        : [`room-${String(i + 1)}`, `room-${String(i)}`],
      at: this.#at(at),
      width,
      depth,
      ...turn,
    }
    if (random.chance(0.7)) this.#door(i)
    return right + gap
  }

  #door(i: number): void {
    const random = this.#random
    const way = random.pick(['wait', 'wait', 'reopen', 'push'])
    const closing = random.chance(0.6)
    if (closing && way === 'push') this.has.add('push')
    if (closing && way === 'reopen') this.has.add('reopen')
    const after = random.pick([0.001, 0.3, 1, 2.5])
    const closedBy = random.chance(0.5) ? ['press'] : []
    const closes = { 'in-the-way': way, ...(random.chance(0.7) ? { after } : {}) }
    this.#things[`door-${String(i)}`] = {
      type: 'door',
      in: `gap-${String(i)}`,
      set: {
        ...(random.chance(0.4) ? { lock: { item: 'key', 'item-use': random.pick(['keep', 'consume']) } } : {}),
        motion: { over: random.pick([0.001, 0.2, 0.8]), 'press-while-moving': random.pick(['ignore', 'reverse']) },
        ...(closing ? { closes, 'closed-by': closedBy } : { 'stays-open': true }),
        ...(random.chance(0.1) ? { 'opened-by': [{ signal: 'ping' }] } : {}),
      },
    }
  }

  /** An obstacle that leaves a gap about as wide as a character. */
  #narrow(): void {
    this.has.add('thin gap')
    const random = this.#random
    const [left, low, right, high] = random.pick(this.#spaces)
    const gap = random.pick([0.5, 0.57, 0.595, 0.601, 0.61, 0.64, 0.7])
    const x = random.between(left + 0.3, Math.max(left + 0.35, right - 0.5))
    const wide = random.pick([0.1, 0.4, 0.7])
    this.#obstacles.block = {
      outline: this.#box(x, low + gap, Math.min(x + wide, right), high - random.pick([0, 0, gap])),
    }
  }

  #curtain(): void {
    this.has.add('sight-only obstacle')
    const random = this.#random
    const [left, low, right, high] = random.pick(this.#spaces)
    const x = random.between(left + 0.2, right - 0.2)
    const to = random.chance(0.5) ? high : random.between(low + 0.3, high)
    this.#obstacles.curtain = { outline: this.#box(x, low, x + 0.02, to), blocks: ['sight'] }
  }

  /** Somewhere in a room: near a wall, in it, or anywhere. */
  #spot(): Point {
    const random = this.#random
    const [left, low, right, high] = random.pick(this.#spaces)
    return [random.between(left + 0.1, right - 0.1), random.between(low + 0.1, high - 0.1)]
  }

  #handleSpot(): Point {
    const random = this.#random
    const [left, low, right, high] = random.pick(this.#spaces)
    const x = random.between(left, right)
    if (!random.chance(0.25)) return this.#spot()
    this.has.add('handle in a wall')
    const off = random.pick([0, 0.05, -0.02])
    return random.chance(0.5) ? [x, low - off] : [x, high + off]
  }

  #characters(): Level['characters'] {
    const random = this.#random
    const speed = random.pick([0.4, 1, 3, 3, 3, 20, 90])
    if (speed < 1) this.has.add('low speed')
    if (speed > 3) this.has.add('high speed')
    const [left, low, right, high] = this.#spaces[0]!
    const start = (): Point =>
      this.#at([random.between(left + 0.31, right - 0.31), random.between(low + 0.31, high - 0.31)])
    const person = (role: 'player' | 'companion' | 'creature'): Level['characters'][string] => ({
      role,
      start: start(),
      radius,
      speed,
      hand: 1.2,
      reach: random.pick([0.7, 0.9, 1.4]),
      ...(random.chance(0.1) ? { 'reach-offset': random.pick([0.2, 0.6]) } : {}),
      ...(random.chance(0.1) ? { probe: random.pick([0.05, 0.3]) } : {}),
      ...(random.chance(0.2) ? { carries: { key: 1 } } : {}),
      ...(random.chance(0.2) ? { 'carries-most': 2 } : {}),
    })
    if (!random.chance(0.2)) return { someone: person('player') }
    this.has.add('several characters')
    return { someone: person('player'), other: person(random.pick(['player', 'companion', 'companion', 'creature'])) }
  }

  #time(): number {
    const random = this.#random
    const time = random.pick([0.001, 0.1, 0.3, 0.5, 1, 0.25, 1.337, 0.999])
    if (time === 0.001) this.has.add('timer of 1 ms')
    else if (Math.round(time * 1000) % 100 === 0) this.has.add('timer of exact ticks')
    return time
  }

  #effects(): Effect[] {
    const random = this.#random
    const effects: Effect[] = [
      { send: random.pick(['ping', 'pong']) },
      { set: 'up', to: random.chance(0.7) },
      { give: random.pick(['key', 'coin']) },
      { consume: 'coin' },
      { add: 'tally' },
    ]
    if (this.#places.spot) effects.push({ 'move-to': 'spot' }, { 'move-to': 'spot' })
    if (this.#places.den) effects.push({ checkpoint: 'den' }, { checkpoint: 'spot' }, { 'back-to-checkpoint': 'spot' })
    return random.chance(0.4) ? [] : [random.pick(effects), ...(random.chance(0.2) ? [random.pick(effects)] : [])]
  }

  #guard(): Record<string, unknown> {
    const random = this.#random
    const conditions = [
      { carries: 'key' },
      { flag: 'up' },
      { not: { carries: 'coin' } },
      { counter: 'tally', 'at-least': 1 },
    ]
    return random.chance(0.3) ? { guard: random.pick(conditions) } : {}
  }

  #thing(i: number): void {
    const random = this.#random
    const name = `thing-${String(i)}`
    const made = random.pick(makers)(this)
    const type = made.type as TypeDefinition
    this.#types[`${name}-type`] = type
    const [x, y] = this.#at(this.#handleSpot())
    this.#things[name] = {
      type: `${name}-type`,
      at: [x, y, random.pick([0.4, 1, 1.6])],
      turn: random.pick([0, 0, this.#turn, random.between(0, 359)]),
      ...(random.chance(0.2) ? { range: { radius: random.pick([0.5, 0.8, 3]), sight: random.chance(0.7) } } : {}),
      ...(random.chance(0.1) ? { range: { aim: random.pick([10, 45]) } } : {}),
      ...(random.chance(0.15) ? { range: { radius: random.pick([0.4, 0.6]), until: random.pick([0.7, 1.2]) } } : {}),
      ...(random.chance(0.15) ? { range: { radius: 1.5, 'stands-in': this.#shape('stands in') } } : {}),
      ...(random.chance(0.3) ? { who: ['player', 'companion'] as const } : {}),
      ...(made.instance ?? {}),
    }
  }

  /** What makers of things ask for. */
  readonly make = {
    random: (): Random => this.#random,
    time: (): number => this.#time(),
    effects: (): Effect[] => this.#effects(),
    guard: (): Record<string, unknown> => this.#guard(),
    shape: (): ZoneDefinition => this.#shape(),
    note: (feature: Feature): void => {
      this.has.add(feature)
    },
  }
}

interface Made {
  readonly type: unknown
  readonly instance?: Record<string, unknown>
}

const makers: readonly ((maker: Maker) => Made)[] = [
  // A thing to press, back and forth.
  ({ make }) => ({
    type: {
      states: { off: {}, on: {} },
      transitions: [
        { name: 'pull', from: 'off', to: 'on', trigger: 'press', ...make.guard(), effects: make.effects() },
        ...(make.random().chance(0.6)
          ? [{ name: 'back', from: 'on', to: 'off', trigger: 'press', effects: make.effects() }]
          : []),
      ],
    },
  }),
  // Gives something, once.
  ({ make }) => ({
    type: {
      states: { there: {}, taken: { lasting: true } },
      transitions: [
        {
          name: 'take',
          from: 'there',
          to: 'taken',
          trigger: 'press',
          guard: { 'room-for': 'key' },
          effects: [{ give: make.random().pick(['key', 'coin']) }],
        },
      ],
    },
  }),
  // A mat of an odd shape.
  ({ make }) => ({
    type: {
      zones: { odd: make.shape() },
      states: { up: {}, down: {} },
      transitions: [
        { name: 'on', from: 'up', to: 'down', trigger: { enter: 'odd' }, effects: make.effects() },
        { name: 'off', from: 'down', to: 'up', trigger: { leave: 'odd' }, ...make.guard() },
      ],
    },
  }),
  // What chance draws.
  ({ make }) => {
    make.note('chance')
    return {
      type: {
        contains: { items: [{ item: 'key' }, { item: 'coin', count: 2 }], empty: { all: [] } },
        states: { full: {}, drawn: { lasting: true } },
        transitions: [
          {
            name: 'key',
            from: 'full',
            to: 'drawn',
            trigger: { chance: 'key' },
            ...make.guard(),
            effects: [{ 'put-in': 'key' }, { 'take-out': true }],
          },
          {
            name: 'noise',
            from: 'full',
            to: make.random().pick(['full', 'drawn']),
            trigger: { chance: 'noise' },
            effects: make.effects(),
          },
          {
            name: 'more',
            from: 'drawn',
            trigger: 'press',
            guard: { 'something-fits': true },
            effects: [{ 'take-out': true }],
          },
        ],
      },
    }
  },
  // Two mats that lie over each other.
  ({ make }) => {
    make.note('overlapping zones')
    const random = make.random()
    const size = random.between(0.3, 1)
    const shape = random.chance(0.5)
      ? {
          outline: [
            [-size, -size],
            [size, -size],
            [size, size],
            [random.pick([-size, 0]), random.pick([size, 0.1])],
          ],
        }
      : { radius: size }
    return {
      type: {
        zones: { wide: shape, tight: { radius: random.pick([size / 2, size, 0.05]) } },
        states: { up: {}, down: {}, both: {} },
        transitions: [
          { name: 'on', from: ['up', 'both'], to: 'down', trigger: { enter: 'wide' }, effects: make.effects() },
          { name: 'off', from: 'down', to: 'up', trigger: { leave: 'wide' }, ...make.guard() },
          {
            name: 'deep',
            from: 'down',
            to: 'both',
            trigger: random.chance(0.5) ? { enter: 'tight' } : { becomes: { inside: 'tight' } },
          },
        ],
      },
    }
  },
  // Runs for a while once it hears something.
  ({ make }) => {
    const random = make.random()
    return {
      type: {
        states: { idle: {}, running: {}, over: {} },
        transitions: [
          {
            name: 'begin',
            from: 'idle',
            to: 'running',
            trigger: random.chance(0.5) ? 'press' : { signal: random.pick(['ping', 'pong']) },
          },
          {
            name: 'end',
            from: 'running',
            to: random.pick(['idle', 'over']),
            trigger: { after: make.time() },
            ...make.guard(),
            effects: make.effects(),
          },
          ...(random.chance(0.5) ? [{ name: 'stop', from: 'running', to: 'idle', trigger: 'press' }] : []),
        ],
      },
    }
  },
  // Blinks for ever.
  ({ make }) => ({
    type: {
      states: { a: {}, b: {} },
      transitions: [
        { name: 'tick', from: 'a', to: 'b', trigger: { after: make.time() } },
        {
          name: 'tock',
          from: 'b',
          to: 'a',
          trigger: { after: make.time() },
          effects: make.random().chance(0.3) ? make.effects() : [],
        },
      ],
    },
  }),
  // Has to be kept pressed.
  ({ make }) => {
    make.note('hold')
    const random = make.random()
    return {
      type: {
        states: { still: random.chance(0.3) ? { ignores: { press: true } } : {}, turning: {}, wound: {} },
        transitions: [
          ...(random.chance(0.5)
            ? [{ name: 'warm', from: 'still', to: 'turning', trigger: { after: make.time() } }]
            : []),
          { name: 'grip', from: 'still', to: 'turning', trigger: random.chance(0.5) ? 'press' : { hold: make.time() } },
          { name: 'slip', from: 'turning', to: 'still', trigger: 'release', ...make.guard() },
          { name: 'wind', from: 'turning', to: 'wound', trigger: { hold: make.time() }, effects: make.effects() },
          ...(random.chance(0.3)
            ? [{ name: 'beat', from: 'wound', to: 'still', trigger: { press: 'use', every: 0.3 } }]
            : []),
        ],
      },
    }
  },
  // Offers a choice.
  ({ make }) => {
    make.note('option')
    return {
      type: {
        states: { asking: {}, left: {}, right: {} },
        transitions: [
          { name: 'left', from: 'asking', to: 'left', trigger: { option: 'left' }, effects: make.effects() },
          {
            name: 'right',
            from: 'asking',
            to: 'right',
            trigger: { option: 'right' },
            ...make.guard(),
            effects: make.effects(),
          },
          { name: 'back', from: ['left', 'right'], to: 'asking', trigger: 'press' },
        ],
      },
    }
  },
  // Opens at its number.
  ({ make }) => {
    make.note('dial')
    return {
      type: {
        dial: { wheels: 2, positions: 3 },
        states: { shut: { dials: true }, free: make.random().chance(0.5) ? { dials: true } : {} },
        transitions: [
          {
            name: 'fits',
            from: 'shut',
            to: 'free',
            trigger: { becomes: { dial: [1, 2] } },
            effects: make.effects(),
          },
          { name: 'off', from: 'free', to: 'shut', trigger: { becomes: { not: { dial: [1, 2] } } } },
        ],
      },
    }
  },
  // Remembers who asked.
  ({ make }) => {
    make.note('memory')
    return {
      type: {
        remembers: ['gave'],
        states: { there: {}, spent: {} },
        transitions: [
          {
            name: 'take',
            from: 'there',
            trigger: 'press',
            guard: { not: { remembers: 'gave' } },
            effects: [{ give: 'coin' }, { remember: 'gave' }],
          },
          { name: 'end', from: 'there', to: 'spent', trigger: { press: 'pry' }, guard: { remembers: 'gave' } },
        ],
      },
    }
  },
  // Holds things, and hands out what fits.
  ({ make }) => {
    make.note('contents')
    return {
      type: {
        contains: { items: [{ item: 'key' }, { item: 'coin', count: 2 }] },
        states: { open: {}, empty: {} },
        transitions: [
          {
            name: 'take',
            from: 'open',
            trigger: 'press',
            guard: { 'something-fits': true },
            effects: [{ 'take-out': true }],
          },
          { name: 'bare', from: 'open', to: 'empty', trigger: { becomes: { empty: true } }, effects: make.effects() },
        ],
      },
    }
  },
  // Moves whoever steps on it, or asks.
  ({ make }) => ({
    type: {
      zones: { foot: { radius: make.random().between(0.2, 0.7) } },
      states: { there: {}, used: {} },
      transitions: [
        {
          name: 'climb',
          from: 'there',
          to: 'used',
          trigger: make.random().chance(0.5) ? 'press' : { enter: 'foot' },
          effects: make.effects(),
        },
        {
          name: 'again',
          from: 'used',
          to: 'there',
          trigger: make.random().chance(0.5) ? 'press' : { leave: 'foot' },
          effects: make.effects(),
        },
      ],
    },
  }),
  // A body that comes and goes, or stays and is touched.
  ({ make }) => {
    const random = make.random()
    const way = random.pick(['wait', 'reopen', 'push'])
    if (way === 'push') make.note('push')
    if (way === 'reopen') make.note('reopen')
    return {
      type: {
        states: { away: random.chance(0.3) ? { blocks: ['walk'] } : {}, here: { blocks: ['walk', 'sight'] } },
        transitions: [
          {
            name: 'come',
            from: 'away',
            to: 'here',
            trigger: random.pick(['press', { after: make.time() }, { signal: 'ping' }]),
          },
          {
            name: 'go',
            from: 'here',
            to: 'away',
            trigger: random.pick(['press', 'touch', { after: make.time() }]),
            effects: make.effects(),
          },
        ],
      },
      instance: { body: { size: [random.pick([0.1, 0.5, 1]), random.pick([0.1, 0.4])] }, 'in-the-way': way },
    }
  },
]
