import * as fc from 'fast-check'
import type { Condition, Effect, Level, TypeDefinition } from '../../src/model/index.ts'

/** A random small level, twice: with built-in types for Zintel, and with every type spelt out for the oracle. */
export interface Pair {
  readonly level: Level
  readonly spelt: Level
}

type Instance = NonNullable<Level['interactables']>[string]
interface Thing {
  readonly instance: Instance
  readonly own: TypeDefinition | null
  readonly spelt: TypeDefinition
}
type Rows = NonNullable<TypeDefinition['transitions']>
type States = NonNullable<TypeDefinition['states']>

const item = fc.constantFrom('key', 'key', 'key', 'coin')
const signal = fc.constantFrom('ping', 'pong', 'hum')
const time = fc.constantFrom(0.2, 0.5, 1, 3)

const slots: readonly (readonly [number, number])[] = [
  [0.5, 0.5],
  [3.5, 0.5],
  [0.5, 3.5],
  [1.4, 3.6],
  [3.5, 3.5],
  [2, 0.4],
]

interface DoorSpec {
  readonly lock: 'none' | 'item' | 'keyhole'
  readonly item: string
  readonly then: 'keep' | 'consume'
  readonly over: number
  readonly after: number | null
  readonly byPress: boolean
  readonly locks: boolean
  readonly staysOpen: boolean
  readonly again: 'ignore' | 'reverse'
  readonly way: 'wait' | 'reopen' | 'push'
}

const door: fc.Arbitrary<DoorSpec> = fc.record({
  lock: fc.constantFrom('none', 'item', 'item', 'item', 'item', 'item', 'keyhole'),
  item,
  then: fc.constantFrom('keep', 'consume', 'consume', 'consume'),
  over: fc.constantFrom(0.2, 0.5),
  after: fc.option(fc.constantFrom(0.3, 1, 4)),
  byPress: fc.boolean(),
  locks: fc.boolean(),
  staysOpen: fc.boolean(),
  again: fc.constantFrom('ignore', 'ignore', 'reverse'),
  way: fc.constantFrom('wait', 'reopen', 'push'),
})

const thing: fc.Arbitrary<(i: number) => Thing> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ item, count: fc.constantFrom(1, 1, 2), enter: fc.boolean() }).map(pickup) },
  {
    weight: 4,
    arbitrary: fc
      .record({ item, then: fc.constantFrom('keep', 'consume', 'consume', 'consume'), sends: fc.option(signal) })
      .map(keyhole),
  },
  { weight: 1, arbitrary: fc.record({ item, over: fc.constantFrom(0.2, 0.6) }).map(chest) },
  {
    weight: 3,
    arbitrary: fc
      .record({
        sends: signal,
        spends: fc.option(fc.constant('key'), { freq: 3 }),
        flag: fc.boolean(),
        back: fc.boolean(),
      })
      .map(lever),
  },
  { weight: 3, arbitrary: fc.record({ hears: signal, sends: fc.option(signal), guarded: fc.boolean() }).map(relay) },
  {
    weight: 3,
    arbitrary: fc.record({ hears: signal, after: time, sends: fc.option(signal), lastly: fc.boolean() }).map(timer),
  },
  { weight: 1, arbitrary: fc.record({ sends: signal, once: fc.boolean() }).map(mat) },
  { weight: 1, arbitrary: fc.record({ sends: signal, closes: fc.boolean() }).map(dialBox) },
  { weight: 1, arbitrary: fc.record({ at: fc.constantFrom(1, 2), item: fc.option(item) }).map(tally) },
  { weight: 1, arbitrary: fc.record({ wants: item, sends: signal }).map(lid) },
  { weight: 1, arbitrary: fc.record({ gives: item, sends: signal }).map(board) },
  { weight: 1, arbitrary: fc.record({ over: time, sends: fc.option(signal), back: fc.boolean() }).map(crank) },
  { weight: 1, arbitrary: fc.record({ item: fc.option(item), sends: signal }).map(lamp) },
  { weight: 2, arbitrary: fc.record({ sends: signal }).map(stash) },
  { weight: 1, arbitrary: fc.record({ gives: item }).map(relic) },
  { weight: 2, arbitrary: fc.record({ gives: item, sends: signal, asks: fc.boolean(), again: fc.boolean() }).map(urn) },
  { weight: 1, arbitrary: fc.record({ sends: signal }).map(gong) },
  { weight: 2, arbitrary: fc.record({ steps: fc.boolean(), catches: fc.boolean() }).map(ladder) },
  { weight: 1, arbitrary: fc.constantFrom('top', 'low').map(checkpoint) },
  { weight: 1, arbitrary: fc.record({ sends: signal }).map(post) },
  { weight: 1, arbitrary: fc.record({ over: fc.constantFrom(0.5, 1), sends: fc.option(signal) }).map(blinker) },
  {
    weight: 1,
    arbitrary: fc
      .record({ wants: item, sends: signal, range: fc.constantFrom<Asked>({ aim: 15 }, { aim: 60 }) })
      .map(dialPlate),
  },
  {
    weight: 2,
    arbitrary: fc
      .record({ wants: item, sends: signal, range: fc.constant<Asked>({ radius: 0.5, until: 0.8 }) })
      .map(dialPlate),
  },
)

/** Too many beats in one go, or together, or neither. */
const drums = fc.constantFrom<readonly (number | null)[]>([null], [700, 700], [400, 400], [700])

interface Spec {
  readonly rooms: number
  readonly doors: readonly (DoorSpec | null)[]
  readonly first: (i: number) => Thing
  readonly more: readonly ((i: number) => Thing)[]
  readonly slots: readonly number[]
  /** Two locks for one key, of which only the second is the goal. */
  readonly trap: boolean
  /** A lever whose signal sets off another, which sets off a timer. */
  readonly chain: boolean
  /** Drums that roll after one signal: so many beats; null: without end. */
  readonly drums: readonly (number | null)[]
  readonly goal: number
  readonly goalState: number
  readonly carries: boolean
  /** Whether somebody goes along, who may use every second thing; and whether coins are held together then. */
  readonly company: boolean
  readonly limit: number | null
  /** Whether the hand reaches from ahead, and not what is close by. */
  readonly ahead: boolean
  /** Whether it presses only what it looks straight at. */
  readonly probes: boolean
  /** Where ladders lead. */
  readonly top: number
}

/** Random small levels. */
export const pairs: fc.Arbitrary<Pair> = fc
  .record({
    rooms: fc.constantFrom(1, 2, 2, 2, 3),
    doors: fc.tuple(fc.option(door, { freq: 6 }), fc.option(door, { freq: 6 })),
    first: fc.record({ item: fc.constant('key'), count: fc.constant(1), enter: fc.boolean() }).map(pickup),
    more: fc.array(thing, { minLength: 3, maxLength: 5 }),
    slots: fc.shuffledSubarray([...Array(18).keys()], { minLength: 18 }),
    trap: fc.nat(4).map((n) => n === 0),
    chain: fc.nat(3).map((n) => n === 0),
    drums: fc.oneof({ weight: 5, arbitrary: fc.constant([]) }, { weight: 1, arbitrary: drums }),
    goal: fc.nat(20),
    goalState: fc.nat(20),
    carries: fc.boolean(),
    company: fc.nat(5).map((n) => n === 0),
    limit: fc.option(fc.constantFrom(1, 2), { freq: 2 }),
    ahead: fc.integer({ min: 0, max: 4 }).map((die) => die === 0),
    probes: fc.integer({ min: 0, max: 5 }).map((die) => die === 0),
    top: fc.nat(2),
  })
  .map(build)

function build(spec: Spec): Pair {
  const rooms = Object.fromEntries(
    Array.from({ length: spec.rooms }, (_, i) => [`room-${String(i)}`, { outline: square(i) }]),
  )
  const gaps = spec.rooms - 1
  const doorways = Object.fromEntries(
    Array.from({ length: gaps }, (_, i) => [
      `gap-${String(i)}`,
      {
        joins: [`room-${String(i)}`, `room-${String(i + 1)}`] as [string, string],
        at: [i * 4.3 + 4.15, 2] as [number, number],
        width: 1.4,
        depth: 0.3,
      },
    ]),
  )
  const things = new Map<string, Thing>()
  for (const [i, make] of [
    spec.first,
    ...(spec.trap ? [lock, lock] : []),
    ...(spec.chain ? chain : []),
    ...spec.drums.map(drum),
    ...(spec.drums.length > 0 ? [drumstick] : []),
    ...spec.more,
  ]
    .slice(0, spec.company ? 3 : 6)
    .entries()) {
    const made = make(i)
    const slot = spec.slots.filter((one) => one < spec.rooms * 6)[i]
    if (slot === undefined) continue
    const [x, y] = slots[slot % 6]!
    const at: [number, number, number] = [x + Math.floor(slot / 6) * 4.3, y, made.instance.at?.[2] ?? 1]
    const who = spec.company && i % 2 === 0 ? { who: ['player' as const, 'companion' as const] } : {}
    things.set(`thing-${String(i)}`, { ...made, instance: { ...made.instance, ...who, at } })
  }
  const keyholes = [...things].filter(([, one]) => one.instance.type === 'keyhole').map(([name]) => name)
  for (let i = 0; i < gaps; i++) {
    const one = spec.doors[i]
    if (one) things.set(`door-${String(i)}`, doorThing(one, i, keyholes[0] ?? null))
  }
  const names = [...things.keys()]
  const drumNames = names.filter((name) => things.get(name)!.spelt.states?.rolling !== undefined)
  const goalName = spec.trap && names.includes('thing-2') ? 'thing-2' : names[1 + (spec.goal % (names.length - 1))]!
  const states = Object.keys(things.get(goalName)!.spelt.states ?? {})
  const condition: Condition =
    !spec.trap && spec.carries && spec.goal % 3 === 0
      ? { carries: spec.goal % 2 === 0 ? 'key' : 'coin' }
      : {
          interactable: goalName,
          is: states[spec.goalState % 10 === 0 ? 0 : 1 + (spec.goalState % (states.length - 1))]!,
        }
  const base = {
    zintel: 1 as const,
    title: 'random',
    rooms,
    doorways,
    items: { key: {}, coin: { stacks: 3, shared: spec.company } },
    places: {
      low: { at: [1.8, 1.9] as [number, number] },
      top: { at: [0.9 + 4.3 * Math.min(spec.top, spec.rooms - 1), 1.7] as [number, number] },
    },
    flags: { up: {} },
    counters: { tally: { most: 2 }, ...Object.fromEntries(drumNames.map((name) => [name, { most: 999 }])) },
    characters: {
      someone: {
        role: 'player' as const,
        start: [1.8, 1.9] as [number, number],
        radius: 0.3,
        speed: 3,
        hand: 1.2,
        ...(spec.ahead ? { reach: 0.45, 'reach-offset': 0.5 } : { reach: 0.9 }),
        ...(spec.probes ? { probe: 0.1 } : {}),
        ...(spec.limit === null ? {} : { 'carries-most': spec.limit }),
      },
      ...(spec.company ? { other: companion } : {}),
    },
    goals: { goal: condition },
  }
  const own = [...things].filter(([, one]) => one.own !== null)
  return {
    level: {
      ...base,
      types: Object.fromEntries(own.map(([name, one]) => [`${name}-type`, one.own!])),
      interactables: Object.fromEntries(
        [...things].map(([name, one]) => [name, typed(one, one.own ? `${name}-type` : one.instance.type)]),
      ),
    },
    spelt: {
      ...base,
      types: Object.fromEntries([...things].map(([name, one]) => [`${name}-type`, one.spelt])),
      interactables: Object.fromEntries(
        [...things].map(([name, one]) => [name, { ...typed(one, `${name}-type`), set: {} }]),
      ),
    },
  }
}

const companion = {
  role: 'companion' as const,
  start: [2.3, 2.6] as [number, number],
  radius: 0.3,
  speed: 3,
  hand: 1.2,
  reach: 0.9,
}

const chain = [
  lever({ sends: 'ping', spends: null, flag: true, back: true }),
  relay({ hears: 'ping', sends: 'pong', guarded: false }),
  timer({ hears: 'pong', after: 1, sends: 'hum', lastly: false }),
]

const lock = keyhole({ item: 'key', then: 'consume', sends: null })

function typed({ instance, spelt }: Thing, type: string): Instance {
  const hears = spelt.transitions?.some(({ trigger }) => typeof trigger === 'object' && trigger.signal !== undefined)
  return { ...instance, type, tags: hears ? ['loud', 'all'] : ['all', 'loud'].slice(0, 1) }
}

function square(i: number): [number, number][] {
  const x = i * 4.3
  return [
    [x, 0],
    [x + 4, 0],
    [x + 4, 4],
    [x, 4],
  ]
}

function pickup({ item: gives, count, enter }: { item: string; count: number; enter: boolean }): () => Thing {
  const effects: Effect[] = [{ give: gives, count }]
  return () => ({
    instance: { type: 'pickup', at: [0, 0, 0.8], set: { gives, count, 'taken-by': [enter ? 'enter' : 'press'] } },
    own: null,
    spelt: {
      states: { available: { lasting: true }, taken: {} },
      transitions: [
        {
          name: 'take',
          from: 'available',
          to: 'taken',
          trigger: enter ? { enter: 'near' } : 'press',
          guard: { 'room-for': gives, count },
          effects,
        },
      ],
      ...(enter ? { zones: { near: { radius: 0.5 } } } : {}),
    },
  })
}

function keyhole({ item: wants, then, sends }: { item: string; then: string; sends: string | null }): () => Thing {
  const effects: Effect[] = [
    ...(then === 'consume' ? [{ consume: wants }] : []),
    ...(sends === null ? [] : [{ send: sends }]),
  ]
  return () => ({
    instance: {
      type: 'keyhole',
      at: [0, 0, 1],
      set: { item: wants, 'item-use': then, ...(sends === null ? {} : { sends }) },
    },
    own: null,
    spelt: {
      states: { empty: {}, turned: { lasting: true } },
      transitions: [
        { name: 'turn', from: 'empty', to: 'turned', trigger: 'press', guard: { carries: wants }, effects },
      ],
    },
  })
}

function chest({ item: gives, over }: { item: string; over: number }): () => Thing {
  return () => ({
    instance: {
      type: 'chest',
      at: [0, 0, 0.8],
      body: { size: [0.8, 0.5] },
      set: { gives: [{ item: gives }], motion: { over } },
    },
    own: null,
    spelt: {
      states: {
        closed: { blocks: ['walk'], pose: 0 },
        opening: { blocks: ['walk'], motion: { to: 1, over }, ignores: { press: true } },
        open: { blocks: ['walk'], pose: 1, lasting: true },
      },
      transitions: [
        { name: 'open', from: 'closed', to: 'opening', trigger: 'press' },
        { name: 'opened', from: 'opening', to: 'open', trigger: 'motion-end', effects: [{ give: gives }] },
      ],
    },
  })
}

function self(type: TypeDefinition): Thing {
  return { instance: { type: '', at: [0, 0, 1] }, own: type, spelt: type }
}

function lever(spec: { sends: string; spends: string | null; flag: boolean; back: boolean }): () => Thing {
  const guard: Condition | undefined = spec.spends === null ? undefined : { carries: spec.spends }
  const effects: Effect[] = [
    { send: spec.sends },
    ...(spec.spends === null ? [] : [{ consume: spec.spends }]),
    ...(spec.flag ? [{ set: 'up' }] : []),
  ]
  const rows: Rows = [{ name: 'pull', from: 'off', to: 'on', trigger: 'press', guard, effects }]
  if (spec.back)
    rows.push({ name: 'back', from: 'on', to: 'off', trigger: 'press', effects: [{ set: 'up', to: false }] })
  return () => self({ states: { off: {}, on: {} }, transitions: rows })
}

function relay(spec: { hears: string; sends: string | null; guarded: boolean }): (i: number) => Thing {
  const guard: Condition | undefined = spec.guarded
    ? { any: [{ flag: 'up' }, { not: { carries: 'coin', count: 2 } }] }
    : undefined
  const effects: Effect[] = spec.sends === null || spec.sends === spec.hears ? [] : [{ send: spec.sends }]
  return () =>
    self({
      states: { idle: {}, struck: {} },
      transitions: [{ name: 'strike', from: 'idle', to: 'struck', trigger: { signal: spec.hears }, guard, effects }],
    })
}

function timer(spec: { hears: string; after: number; sends: string | null; lastly: boolean }): () => Thing {
  const states: States = spec.lastly ? { idle: {}, running: {}, over: {} } : { idle: {}, running: {} }
  const effects: Effect[] = spec.sends === null ? [] : [{ send: spec.sends }]
  return () =>
    self({
      states,
      transitions: [
        { name: 'begin', from: 'idle', to: 'running', trigger: { signal: spec.hears } },
        { name: 'stop', from: 'running', to: 'idle', trigger: 'press' },
        { name: 'end', from: 'running', to: spec.lastly ? 'over' : 'idle', trigger: { after: spec.after }, effects },
      ],
    })
}

/** Goes on and off for ever. */
function blinker(spec: { over: number; sends: string | null }): () => Thing {
  const effects: Effect[] = spec.sends === null ? [] : [{ send: spec.sends }]
  return () =>
    self({
      states: { dark: {}, bright: {} },
      transitions: [
        { name: 'shine', from: 'dark', to: 'bright', trigger: { after: spec.over }, effects },
        { name: 'dim', from: 'bright', to: 'dark', trigger: { after: spec.over } },
      ],
    })
}

/** Rolls some time after a signal, one beat setting off the next. */
function drum(beats: number | null): (i: number) => Thing {
  return (i) => {
    const name = `thing-${String(i)}`
    const beat: Effect = { send: 'beat', to: name }
    const guard: Condition | undefined = beats === null ? undefined : { counter: name, 'at-most': beats - 1 }
    return self({
      states: { still: {}, raised: {}, rolling: {} },
      transitions: [
        { name: 'raise', from: 'still', to: 'raised', trigger: { signal: 'roll' } },
        { name: 'strike', from: 'raised', to: 'rolling', trigger: { after: 0.5 }, effects: [beat] },
        {
          name: 'beat',
          from: 'rolling',
          trigger: { signal: 'beat' },
          guard,
          effects: [{ add: name }, beat],
        },
        {
          name: 'fade',
          from: 'rolling',
          to: 'still',
          trigger: { after: 1 },
          effects: [{ set: name, to: 0 }],
        },
      ],
    })
  }
}

function drumstick(): Thing {
  return lever({ sends: 'roll', spends: null, flag: false, back: false })()
}

function mat(spec: { sends: string; once: boolean }): () => Thing {
  const rows: Rows = [
    { name: 'step-on', from: 'up', to: 'down', trigger: { enter: 'pad' }, effects: [{ send: spec.sends }] },
  ]
  if (!spec.once) rows.push({ name: 'step-off', from: 'down', to: 'up', trigger: { leave: 'pad' } })
  return () => self({ states: { up: {}, down: {} }, transitions: rows, zones: { pad: { radius: 0.7 } } })
}

/** A dial that opens at its number, and perhaps closes when it is turned on. */
function dialBox(spec: { sends: string; closes: boolean }): () => Thing {
  const rows: Rows = [
    {
      name: 'fits',
      from: 'shut',
      to: 'free',
      trigger: { becomes: { dial: [1, 0] } },
      effects: [{ send: spec.sends }],
    },
  ]
  if (spec.closes) rows.push({ name: 'off', from: 'free', to: 'shut', trigger: { becomes: { not: { dial: [1, 0] } } } })
  const states: States = { shut: { dials: true }, free: spec.closes ? { dials: true } : {} }
  return () => self({ dial: { wheels: 2, positions: 4 }, states, transitions: rows })
}

/** Counts presses, up to two, and changes by itself when there are enough. */
function tally(spec: { at: number; item: string | null }): () => Thing {
  const guard: Condition | undefined = spec.item === null ? undefined : { 'room-for': spec.item }
  const effects: Effect[] = [{ add: 'tally' }, ...(spec.item === null ? [] : [{ give: spec.item }])]
  return () =>
    self({
      states: { low: {}, high: {} },
      transitions: [
        { name: 'count', from: 'low', trigger: 'press', guard, effects },
        { name: 'enough', from: 'low', to: 'high', trigger: { becomes: { counter: 'tally', 'at-least': spec.at } } },
        { name: 'clear', from: 'high', to: 'low', trigger: 'press', effects: [{ set: 'tally', to: 0 }] },
      ],
    })
}

/** Can be pressed in two ways: one spends an item. */
function lid(spec: { wants: string; sends: string }): () => Thing {
  return () =>
    self({
      states: { shut: {}, ajar: {}, broken: {} },
      transitions: [
        { name: 'lift', from: 'shut', to: 'ajar', trigger: 'press', guard: { flag: 'up' } },
        {
          name: 'pry',
          from: 'shut',
          to: 'broken',
          trigger: { press: 'pry' },
          guard: { carries: spec.wants },
          effects: [{ consume: spec.wants }, { send: spec.sends, tagged: 'loud' }],
        },
      ],
    })
}

/** Chance decides what is drawn from it: an item that is put in and handed out, a signal, or nothing. */
function urn(spec: { gives: string; sends: string; asks: boolean; again: boolean }): () => Thing {
  return () =>
    self({
      states: { full: {}, drawn: { lasting: true } },
      contains: { items: [{ item: spec.gives }], empty: { all: [] } },
      transitions: [
        {
          name: 'draw-item',
          from: 'full',
          to: 'drawn',
          trigger: { chance: 'item' },
          ...(spec.asks ? { guard: { flag: 'up' } } : {}),
          effects: [{ 'put-in': spec.gives }, { 'take-out': true }],
        },
        {
          name: 'draw-noise',
          from: 'full',
          to: spec.again ? 'full' : 'drawn',
          trigger: { chance: 'noise' },
          ...(spec.asks ? { guard: { carries: 'coin' } } : {}),
          effects: [{ send: spec.sends }],
        },
      ],
    })
}

/** Offers a choice. */
function board(spec: { gives: string; sends: string }): () => Thing {
  return () =>
    self({
      states: { asking: {}, given: {}, told: {} },
      transitions: [
        { name: 'take', from: 'asking', to: 'given', trigger: { option: 'take' }, effects: [{ give: spec.gives }] },
        { name: 'tell', from: 'asking', to: 'told', trigger: { option: 'tell' }, effects: [{ send: spec.sends }] },
      ],
    })
}

/** Has to be kept pressed; letting go too soon may send it back. */
function crank(spec: { over: number; sends: string | null; back: boolean }): () => Thing {
  const effects: Effect[] = spec.sends === null ? [] : [{ send: spec.sends }]
  const rows: Rows = spec.back
    ? [
        { name: 'grip', from: 'still', to: 'turning', trigger: 'press' },
        { name: 'slip', from: 'turning', to: 'still', trigger: 'release' },
        { name: 'wind', from: 'turning', to: 'wound', trigger: { hold: spec.over }, effects },
      ]
    : [{ name: 'wind', from: 'still', to: 'wound', trigger: { hold: spec.over }, effects }]
  return () =>
    self({ states: spec.back ? { still: {}, turning: {}, wound: {} } : { still: {}, wound: {} }, transitions: rows })
}

/** Follows whether somebody stands before it, perhaps with an item. */
function lamp(spec: { item: string | null; sends: string }): () => Thing {
  const near: Condition = spec.item === null ? { inside: 'near' } : { inside: 'near', carrying: spec.item }
  return () =>
    self({
      states: { dark: {}, lit: {} },
      transitions: [
        { name: 'light', from: 'dark', to: 'lit', trigger: { becomes: near }, effects: [{ send: spec.sends }] },
        { name: 'fade', from: 'lit', to: 'dark', trigger: { becomes: { not: near } } },
      ],
      zones: { near: { radius: 0.7 } },
    })
}

/** Holds a key and two coins, and hands out what fits. */
function stash(spec: { sends: string }): () => Thing {
  return () =>
    self({
      contains: { items: [{ item: 'key' }, { item: 'coin', count: 2 }] },
      states: { shut: {}, open: {}, empty: {} },
      transitions: [
        { name: 'lift', from: 'shut', to: 'open', trigger: 'press', effects: [{ 'take-out': true }] },
        {
          name: 'take',
          from: 'open',
          trigger: 'press',
          guard: { 'something-fits': true },
          effects: [{ 'take-out': true }],
        },
        {
          name: 'bare',
          from: 'open',
          to: 'empty',
          trigger: { becomes: { empty: true } },
          effects: [{ send: spec.sends }],
        },
      ],
    })
}

/** Gives each who asks one thing, once. */
function relic({ gives }: { gives: string }): () => Thing {
  const guard: Condition = { all: [{ not: { remembers: 'gave' } }, { 'room-for': gives }] }
  const spelt: TypeDefinition = {
    remembers: ['gave'],
    states: { there: {}, never: {} },
    transitions: [
      { name: 'take', from: 'there', trigger: 'press', guard, effects: [{ give: gives }, { remember: 'gave' }] },
      { name: 'break', from: 'there', to: 'never', trigger: { press: 'pry' }, guard: { remembers: 'gave' } },
    ],
  }
  return () => self(spelt)
}

/** Kept pressed, it sounds again and again, and cracks. */
function gong(spec: { sends: string }): () => Thing {
  return () =>
    self({
      states: { whole: {}, dented: {}, cracked: {} },
      transitions: [
        { name: 'dent', from: 'whole', to: 'dented', trigger: { press: 'use', every: 0.5 } },
        {
          name: 'crack',
          from: 'dented',
          to: 'cracked',
          trigger: { press: 'use', every: 0.5 },
          effects: [{ send: spec.sends }],
        },
      ],
    })
}

/** Stands in the way, and notices being touched. */
function post(spec: { sends: string }): () => Thing {
  const thing = self({
    states: { still: { blocks: ['walk'] }, swaying: { blocks: ['walk'] } },
    transitions: [
      { name: 'nudge', from: 'still', to: 'swaying', trigger: 'touch', effects: [{ send: spec.sends }] },
      { name: 'steady', from: 'swaying', to: 'still', trigger: 'press' },
    ],
  })
  return () => ({ ...thing, instance: { ...thing.instance, body: { size: [0.4, 0.4] } } })
}

type Asked = NonNullable<NonNullable<Level['interactables']>[string]['range']>

/** Answers only those who look at it, or longer those who have been near, and takes something from them. */
function dialPlate(spec: { wants: string; sends: string; range: Asked }): () => Thing {
  const thing = self({
    states: { blank: {}, read: {} },
    transitions: [
      {
        name: 'read',
        from: 'blank',
        to: 'read',
        trigger: 'press',
        guard: { carries: spec.wants },
        effects: [{ consume: spec.wants }, { send: spec.sends }],
      },
    ],
  })
  return () => ({ ...thing, instance: { ...thing.instance, range: spec.range } })
}

/** Sets a checkpoint. */
function checkpoint(place: string): () => Thing {
  return () =>
    self({
      states: { there: {} },
      transitions: [{ name: 'pass', from: 'there', trigger: 'press', effects: [{ checkpoint: place }] }],
    })
}

/** Leads to a place, or back to the last checkpoint: by a press, or by stepping on it. */
function ladder({ steps, catches }: { steps: boolean; catches: boolean }): () => Thing {
  const effects = catches ? [{ 'back-to-checkpoint': 'low' }] : [{ 'move-to': 'top' }]
  return () =>
    self({
      states: { there: {}, used: {} },
      transitions: [
        {
          name: 'climb',
          from: 'there',
          to: 'used',
          trigger: steps ? { enter: 'foot' } : 'press',
          effects,
        },
        {
          name: 'climb-again',
          from: 'used',
          trigger: steps ? { enter: 'foot' } : 'press',
          effects,
        },
      ],
      ...(steps ? { zones: { foot: { radius: 0.6 } } } : {}),
    })
}

function doorThing(spec: DoorSpec, i: number, keyhole: string | null): Thing {
  const lock = spec.lock === 'keyhole' && keyhole === null ? 'none' : spec.lock
  const closes = spec.staysOpen
    ? {}
    : {
        locks: spec.locks,
        'in-the-way': spec.way,
        ...(spec.after === null ? {} : { after: spec.after }),
      }
  const set = {
    ...(lock === 'item'
      ? { lock: { item: spec.item, 'item-use': spec.then } }
      : lock === 'keyhole'
        ? { lock: { keyhole } }
        : {}),
    motion: { over: spec.over, 'press-while-moving': spec.again },
    closes,
    ...(spec.staysOpen || spec.byPress ? {} : { 'closed-by': [] }),
    'stays-open': spec.staysOpen,
  }
  const closable = !spec.staysOpen && (spec.byPress || spec.after !== null)
  const relocks = lock !== 'none' && spec.locks
  const shut = { blocks: ['walk', 'sight'] as ('walk' | 'sight')[], pose: 0 as const }
  const moving = (to: 0 | 1): States[string] => ({
    blocks: ['walk', 'sight'],
    motion: { to, over: spec.over },
    ...(spec.again === 'ignore' ? { ignores: { press: true } } : {}),
  })
  const states: States = {
    ...(lock !== 'none' ? { locked: shut } : {}),
    ...(lock === 'none' || (closable && !spec.locks) ? { closed: shut } : {}),
    opening: moving(1),
    open: { pose: 1, lasting: true },
    ...(closable ? { closing: moving(0) } : {}),
  }
  const guard: Condition | undefined =
    lock === 'item' ? { carries: spec.item } : lock === 'keyhole' ? { interactable: keyhole!, is: 'turned' } : undefined
  const rows: Rows = []
  const spends = lock === 'item' && spec.then === 'consume'
  if (lock !== 'none') {
    const effects: Effect[] = spends ? [{ consume: spec.item }] : []
    rows.push({ name: 'unlock', from: 'locked', to: 'opening', trigger: 'press', guard, effects })
  }
  if ('closed' in states) rows.push({ name: 'open', from: 'closed', to: 'opening', trigger: 'press' })
  rows.push({ name: 'opened', from: 'opening', to: 'open', trigger: 'motion-end' })
  if (closable) {
    if (spec.byPress) rows.push({ name: 'close', from: 'open', to: 'closing', trigger: 'press' })
    if (spec.after !== null)
      rows.push({ name: 'close-by-itself', from: 'open', to: 'closing', trigger: { after: spec.after } })
    rows.push(
      relocks
        ? { name: 'shut-and-lock', from: 'closing', to: 'locked', trigger: 'motion-end' }
        : { name: 'shut', from: 'closing', to: 'closed', trigger: 'motion-end' },
    )
    if (spec.again === 'reverse') {
      rows.push({ name: 'turn-back', from: 'opening', to: 'closing', trigger: 'press' })
      rows.push({ name: 'turn-again', from: 'closing', to: 'opening', trigger: 'press' })
    }
  }
  const instance: Instance = { type: 'door', in: `gap-${String(i)}`, handle: [0, 0, 1], set }
  return { instance, own: null, spelt: { states, transitions: rows, 'in-the-way': spec.staysOpen ? 'wait' : spec.way } }
}
