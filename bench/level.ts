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
    '  door-0: { type: door, in: gap-0, set: { closes: { after: 4, by-press: false } }, feedback: *said }',
    '  door-1: { type: door, in: gap-1, set: { lock: { item: tally, then: spend }, stays-open: true }, feedback: *said }',
    '  bell: { type: bell, at: [1, 5.5] }',
    ...Array.from({ length: tallies }, (_, i) => {
      const room = i % 2
      const along = 1.2 + (Math.floor(i / 2) % 4) * 1.8
      const up = i < 8 ? 0.4 : 5.6
      return `  tally-${String(i)}: { type: pickup, at: [${x(room, along)}, ${String(up)}, 1], set: { gives: tally } }`
    }),
    `  right-lock: { type: keyhole, at: [${x(2, 4)}, 6, 1.2], set: { item: tally, count: 3, then: spend }, feedback: *said }`,
    `  wrong-lock: { type: keyhole, at: [${x(1, 7)}, 0, 1.2], set: { item: tally, count: ${String(tallies - 3)}, then: spend, sends: rung }, feedback: *said }`,
    'characters:',
    '  keeper: { role: player, start: [1, 3], girth: 0.6, speed: 3, hand: 1.2, reach: 0.9 }',
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
