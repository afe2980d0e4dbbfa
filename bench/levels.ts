/**
 * A level with many situations: a row of rooms, timed doors between them, tallies to pick up, and keyholes that spend
 * them, one of which is the wrong one. Returned as YAML text, so that it is read as any level is.
 */
export function manySituations(tallies: number): string {
  const rooms = ['store', 'walk', 'wheelhouse']
  const lines = [
    'zintel: 1',
    'title: Many situations',
    'rooms:',
    ...rooms.map((room, i) => `  ${room}: { outline: [[${x(i)}, 0], [${x(i, 8)}, 0], [${x(i, 8)}, 6], [${x(i)}, 6]] }`),
    'doorways:',
    ...rooms
      .slice(1)
      .map(
        (room, i) =>
          `  gap-${String(i)}: { joins: [${rooms[i] ?? ''}, ${room}], at: [${x(i, 8.15)}, 3], width: 1.4, depth: 0.3 }`,
      ),
    'items: { tally: { stacks: 15 } }',
    'types:',
    '  bell:',
    '    states: { silent: {}, ringing: {} }',
    '    transitions:',
    '      - { from: silent, to: ringing, trigger: { signal: rung } }',
    '      - { from: ringing, to: silent, trigger: { after: 1.5 } }',
    'interactables:',
    '  door-0: { type: door, in: gap-0, set: { closes: { after: 4 }, closed-by: [] }, feedback: *said }',
    '  door-1: { type: door, in: gap-1, set: { lock: { item: tally, item-use: consume }, stays-open: true }, feedback: *said }',
    '  bell: { type: bell, at: [1, 5.5] }',
    ...Array.from({ length: tallies }, (_, i) => {
      const room = i % 2
      const along = 1.2 + (Math.floor(i / 2) % 4) * 1.8
      const up = i < 8 ? 0.4 : 5.6
      return `  tally-${String(i)}: { type: pickup, at: [${x(room, along)}, ${String(up)}, 1], set: { gives: tally } }`
    }),
    `  right-lock: { type: keyhole, at: [${x(2, 4)}, 6, 1.2], set: { item: tally, count: 3, item-use: consume }, feedback: *said }`,
    `  wrong-lock: { type: keyhole, at: [${x(1, 7)}, 0, 1.2], set: { item: tally, count: ${String(tallies - 3)}, item-use: consume, sends: rung }, feedback: *said }`,
    'characters:',
    '  keeper: { role: player, start: [1, 3], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }',
    'goals:',
    '  opened: { interactable: right-lock, is: turned }',
    '  first-tally: { interactable: tally-0, is: taken }',
  ]
  // The first use of the feedback carries the anchor.
  return lines.join('\n').replace('*said', '&said { refused: [{ sound: knock }] }') + '\n'
}

function x(room: number, along = 0): string {
  return String(Math.round((room * 8.3 + along) * 100) / 100)
}

/** Numbers that are the same each time, for a seed. */
function numbers(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fff_ffff
    return Math.floor((state / 0x8000_0000) * below)
  }
}

/** Rooms on both sides of a corridor, each with a door that opens and shuts as one likes. */
export function doorsAlongCorridor(doors: number): string {
  const length = Math.ceil(doors / 2) * 4.3
  const lines = ['zintel: 1', 'title: Doors along a corridor', 'rooms:']
  lines.push(`  corridor: { outline: [[0, 0], [${at(length)}, 0], [${at(length)}, 2.4], [0, 2.4]] }`)
  const gaps: string[] = []
  for (let i = 0; i < doors; i++) {
    const left = Math.floor(i / 2) * 4.3
    const [low, high, wall] = i % 2 === 0 ? [2.7, 6.7, 2.55] : [-4.3, -0.3, -0.15]
    const [w, e] = [at(left + 0.15), at(left + 4.15)]
    lines.push(
      `  room-${String(i)}: { outline: [[${w}, ${at(low)}], [${e}, ${at(low)}], [${e}, ${at(high)}], [${w}, ${at(high)}]] }`,
    )
    gaps.push(
      `  gap-${String(i)}: { joins: [corridor, room-${String(i)}], at: [${at(left + 2.15)}, ${at(wall)}], width: 1.2, depth: 0.3 }`,
    )
  }
  lines.push('doorways:', ...gaps, 'interactables:')
  for (let i = 0; i < doors; i++) {
    lines.push(`  door-${String(i)}: { type: door, in: gap-${String(i)}, set: { motion: { kind: slide } } }`)
  }
  lines.push(...keeper('1, 1.2'), 'goals:', `  opened: { interactable: door-${String(doors - 1)}, is: open }`)
  return `${lines.join('\n')}\n`
}

/** Chests along the walls of one hall. */
export function chestsInHall(chests: number): string {
  const side = Math.ceil(chests / 2)
  const length = side * 1.6 + 2
  const lines = ['zintel: 1', 'title: Chests in a hall', 'rooms:']
  lines.push(`  hall: { outline: [[0, 0], [${at(length)}, 0], [${at(length)}, 8], [0, 8]] }`)
  lines.push('items: { coin: {} }', 'interactables:')
  for (let i = 0; i < chests; i++) {
    const along = 1.5 + Math.floor(i / 2) * 1.6
    lines.push(
      `  chest-${String(i)}: { type: chest, at: [${at(along)}, ${i % 2 === 0 ? '0.4' : '7.6'}], set: { gives: ${i === 0 ? '[{ item: coin }]' : '[]'} } }`,
    )
  }
  lines.push(...keeper('1, 4'), 'goals:', `  opened: { interactable: chest-${String(chests - 1)}, is: open }`)
  return `${lines.join('\n')}\n`
}

function at(metres: number): string {
  return String(Math.round(metres * 100) / 100)
}

function keeper(start: string): string[] {
  return ['characters:', `  keeper: { role: player, start: [${start}], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }`]
}

/** What a level of many rooms is made of. */
export interface RoomsWanted {
  readonly rooms: number
  readonly interactables: number
  readonly seed: number
  /** Whether somebody comes along, and something roams. */
  readonly company?: boolean
}

/**
 * Rooms in a grid, joined as a tree by doors: some open and shut as one likes, some shut by themselves, some want a key that
 * is kept or a tally that is spent, some stand open while a lever is down. Whatever opens a door lies in a room before it,
 * and for each two keyholes of a room there are two tallies before both, so that nothing can be lost.
 */
export function manyRooms({ rooms, interactables, seed, company }: RoomsWanted): string {
  const below = numbers(seed)
  const columns = Math.ceil(Math.sqrt(rooms))
  const places = Array.from({ length: rooms }, (_, room) => ({
    x: (room % columns) * 6.3,
    y: Math.floor(room / columns) * 6.3,
    free: [0.8, 1.9, 4.1, 5.2].flatMap((along) => [
      { x: along, y: 0.4 },
      { x: along, y: 5.6 },
    ]),
    // So far from every doorway that nobody in one can pull a lever.
    corners: [
      { x: 0.4, y: 1.4 },
      { x: 5.6, y: 1.4 },
    ],
  }))
  const items = new Map<string, number>()
  const things: string[] = []
  const gaps: string[] = []
  const doors: string[] = []
  const put = (name: string, before: number, what: (spot: string) => string): void => {
    let room = below(before)
    while (places[room]!.free.length === 0) room = (room + 1) % before
    const place = places[room]!
    const [slot] = place.free.splice(below(place.free.length), 1)
    things.push(`  ${name}: ${what(`[${at(place.x + slot!.x)}, ${at(place.y + slot!.y)}]`)}`)
  }
  const give = (item: string, before: number): void => {
    items.set(item, (items.get(item) ?? 0) + 1)
    const name = `${item}-${String(items.get(item))}`
    const kind = below(3)
    put(`from-${name}`, before, (spot) =>
      kind > 0
        ? `{ type: chest, at: ${spot}, set: { gives: [{ item: ${item} }] } }`
        : `{ type: pickup, at: ${spot}, set: { gives: ${item} } }`,
    )
  }
  let levers = 0
  for (let room = 1; room < rooms; room++) {
    const left = room % columns > 0 ? room - 1 : -1
    const under = room >= columns ? room - columns : -1
    const parent = left < 0 ? under : under < 0 || below(2) === 0 ? left : under
    const { x, y } = places[room]!
    const spot = parent === left ? `[${at(x - 0.15)}, ${at(y + 3)}]` : `[${at(x + 3)}, ${at(y - 0.15)}]`
    const gap = `gap-${String(room)}`
    gaps.push(
      `  ${gap}: { joins: [room-${String(parent)}, room-${String(room)}], at: ${spot}, width: 1.2, depth: 0.3 }`,
    )
    const kind = below(20)
    let set: string
    if (kind < 5) set = 'motion: { kind: slide }'
    else if (kind < 8) set = 'closes: { after: 4 }, closed-by: []'
    else if (kind < 14) {
      set = `lock: { item: key-${String(room)} }, stays-open: true`
      give(`key-${String(room)}`, room)
    } else if (kind < 17) {
      const tally = `tally-${String(room >> 1)}`
      set = `lock: { item: ${tally}, item-use: consume }, stays-open: true`
      give(tally, Math.max(1, room & ~1))
    } else {
      if (kind === 17 || levers === 0) {
        levers++
        const lever = String(levers)
        let corner = below(room)
        while (places[corner]!.corners.length === 0) corner = (corner + 1) % room
        const { x: dx, y: dy } = places[corner]!.corners.pop()!
        const spot = `[${at(places[corner]!.x + dx)}, ${at(places[corner]!.y + dy)}]`
        things.push(
          `  lever-${lever}: { type: lever, at: ${spot}, set: { sends: on-${lever}, sends-back: off-${lever} } }`,
        )
      }
      const lever = String(levers)
      set = `opened-by: [{ signal: on-${lever} }], closed-by: [{ signal: off-${lever} }], motion: { kind: slide }`
    }
    doors.push(`  door-${String(room)}: { type: door, in: ${gap}, set: { ${set} } }`)
  }
  put('prize', rooms, (spot) => `{ type: chest, at: ${spot}, set: { gives: [{ item: prize }] } }`)
  items.set('prize', 1)
  for (let more = doors.length + things.length; more < interactables; more++) {
    const kind = below(3)
    put(`more-${String(more)}`, rooms, (spot) =>
      kind === 0
        ? `{ type: lever, at: ${spot}, set: {} }`
        : kind === 1
          ? `{ type: chest, at: ${spot}, set: { gives: [{ item: coin }] } }`
          : `{ type: pickup, at: ${spot}, set: { gives: coin } }`,
    )
  }
  items.set('coin', interactables)
  const lines = [
    'zintel: 1',
    'title: Many rooms',
    'rooms:',
    ...places.map(({ x, y }, room) => {
      const [w, s, e, n] = [at(x), at(y), at(x + 6), at(y + 6)]
      return `  room-${String(room)}: { outline: [[${w}, ${s}], [${e}, ${s}], [${e}, ${n}], [${w}, ${n}]] }`
    }),
    'doorways:',
    ...gaps,
    'items:',
    ...[...items].map(([item, count]) => `  ${item}: { ${count > 1 ? `stacks: ${String(Math.min(99, count))}` : ''} }`),
    'interactables:',
    ...doors,
    ...things,
    ...keeper('3, 3'),
    ...(company
      ? [
          '  mate: { role: companion, start: [2, 3], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }',
          '  eel: { role: creature, start: [4, 3], radius: 0.3, speed: 2, hand: 1.2, reach: 0.9 }',
        ]
      : []),
    'goals:',
    '  prize: { interactable: prize, is: open }',
    `  farthest: { interactable: door-${String(rooms - 1)}, is: open }`,
  ]
  return `${lines.join('\n')}\n`
}

/** Doors on one way that shut by themselves; the goal needs the last three of them open at the same time. */
export function doorsInTime(doors = 10): string {
  const lasting = [doors - 3, doors - 2, doors - 1]
  const lines = ['zintel: 1', 'title: Doors in time', 'tick: 0.5', 'rooms:']
  for (let i = 0; i <= doors; i++) {
    lines.push(
      `  room-${String(i)}: { outline: [[${at(i * 3.3)}, 0], [${at(i * 3.3 + 3)}, 0], [${at(i * 3.3 + 3)}, 4], [${at(i * 3.3)}, 4]] }`,
    )
  }
  lines.push('doorways:')
  for (let i = 0; i < doors; i++) {
    lines.push(
      `  gap-${String(i)}: { joins: [room-${String(i)}, room-${String(i + 1)}], at: [${at(i * 3.3 + 3.15)}, 2], width: 1.2, depth: 0.3 }`,
    )
  }
  lines.push('types:', '  bell:', '    states: { silent: {}, rung: { lasting: true } }', '    transitions:')
  lines.push(
    `      - { from: silent, to: rung, trigger: press, guard: { all: [${lasting.map((i) => `{ interactable: door-${String(i)}, is: open }`).join(', ')}] } }`,
  )
  lines.push('    handle: [0, 0, 1]', 'interactables:')
  for (let i = 0; i < doors; i++) {
    lines.push(
      `  door-${String(i)}: { type: door, in: gap-${String(i)}, set: { motion: { kind: slide }, closes: { after: ${lasting.includes(i) ? '8' : '3'} }, closed-by: [] } }`,
    )
  }
  lines.push(`  bell: { type: bell, at: [${at(doors * 3.3 + 1)}, 0.3] }`, ...keeper('1, 2'))
  lines.push('goals:', '  rung: { interactable: bell, is: rung }')
  return `${lines.join('\n')}\n`
}

/** Levers each of which changes, and asks about, many of the others: nothing in it can be looked at apart. */
export function tangled(levers: number, seed = 5): string {
  const below = numbers(seed)
  const lines = [
    'zintel: 1',
    'title: A tangle',
    'rooms:',
    `  hall: { outline: [[0, 0], [${at(levers * 0.8 + 2)}, 0], [${at(levers * 0.8 + 2)}, 8], [0, 8]] }`,
  ]
  lines.push('counters: { pulled: { most: 9 } }', 'types:')
  for (let i = 0; i < levers; i++) {
    const [a, b] = [below(levers), below(levers)]
    lines.push(
      `  wheel-${String(i)}:`,
      '    states: { a: {}, b: {}, c: {} }',
      '    transitions:',
      `      - { from: a, to: b, trigger: press, guard: { not: { interactable: wheel-${String(a)}, is: b } }, effects: [{ send: turn-${String(i)} }] }`,
      `      - { from: b, to: c, trigger: press, guard: { not: { interactable: wheel-${String(b)}, is: c } }, effects: [{ send: turn-${String(i)} }] }`,
      '      - { from: c, to: a, trigger: press }',
      `      - { from: a, to: c, trigger: { signal: turn-${String(a)} } }`,
      `      - { from: b, to: a, trigger: { signal: turn-${String(b)} } }`,
      '    handle: [0, 0, 1]',
    )
  }
  lines.push('interactables:')
  for (let i = 0; i < levers; i++) {
    lines.push(
      `  wheel-${String(i)}: { type: wheel-${String(i)}, at: [${at(1.5 + Math.floor(i / 2) * 1.6)}, ${i % 2 === 0 ? '0.4' : '7.6'}] }`,
    )
  }
  lines.push(
    ...keeper('1, 4'),
    'goals:',
    `  all: { all: [${Array.from({ length: levers }, (_, i) => `{ interactable: wheel-${String(i)}, is: b }`).join(', ')}] }`,
  )
  return `${lines.join('\n')}\n`
}
