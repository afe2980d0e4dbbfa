import { describe, expect, test } from '@jest/globals'
import { expandLevel, inLevel, joinLevels, ownSpot, readLevel } from '../../src/interactables/index.ts'
import { begunAt, Journey, makeStage, Play, readProject } from '../../src/play/index.ts'

/** A yard with a gate that rises for ten seconds and a plate under the way out, and a field behind it. */
const yard = `zintel: 1
title: The yard
rooms: { yard: { outline: [[0, 0], [8, 0], [8, 6], [0, 6]] } }
places: { door: { at: [2, 2] }, on-plate: { at: [6, 3] } }
characters: { sam: { role: player, start: [6, 3], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
types:
  gate:
    states: { down: {}, rising: {}, up: { lasting: true } }
    transitions:
      - { from: down, to: rising, trigger: { signal: rise } }
      - { from: rising, to: up, trigger: { after: 10 } }
  bell:
    states: { quiet: {}, rung: { lasting: true } }
    transitions: [{ from: quiet, to: rung, trigger: { after: 30 } }]
interactables:
  bell: { type: bell, at: [1, 1] }
  crank: { type: button, at: [6, 5.6, 1], set: { sends: rise } }
  gate: { type: gate, at: [1, 5] }
  plate: { type: pressure-plate, at: [6, 3] }
  round: { type: exit, at: [3, 5.6], set: { exit-to: { level: yard, place: on-plate } } }
  out: { type: exit, at: [6.6, 3], set: { exit-to: { level: field, place: stile } } }
`
const field = `zintel: 1
title: The field
rooms: { field: { outline: [[0, 0], [8, 0], [8, 6], [0, 6]] } }
places: { stile: { at: [6, 3] } }
characters: { sam: { role: player, start: [2, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
types:
  scarecrow:
    states: { still: {}, turned: { lasting: true } }
    transitions: [{ from: still, to: turned, trigger: { becomes: { inside: near } } }]
    zones: { near: { radius: 1 } }
interactables:
  scarecrow: { type: scarecrow, at: [2, 2] }
  back: { type: exit, at: [6.6, 3], set: { exit-to: { level: yard, place: door } } }
`
const parts = Object.entries({ yard, field }).map(([name, text]) => {
  const { value, source } = readLevel(text)
  return { name, expanded: expandLevel(value!, source) }
})
const project = readProject(
  'project: 1\ntitle: The farm\nstart: yard\nlevels: { yard: { file: a }, field: { file: b } }\n',
).value!

/** The state of an interactable of a level in a play of all of them. */
function stateIn(play: Play, level: string, name: string): string {
  return play.stateOf(play.stage.expanded.interactables.findIndex((one) => one.name === inLevel(level, name)))
}

test('time stands still in a level while nobody is there, and goes on when somebody comes back', () => {
  const play = new Play(makeStage(joinLevels('The farm', parts, [{ name: 'start', level: 'yard' }])))
  play.walkTo(0, inLevel('yard', 'crank'))
  play.advance(3000)
  play.press(0)
  expect(stateIn(play, 'yard', 'gate')).toBe('rising')
  play.walkTo(0, inLevel('yard', 'out'))
  play.advance(3000)
  play.press(0)
  expect(play.log.some(({ what }) => what === 'leaves')).toBe(true)
  play.advance(60_000)
  expect(stateIn(play, 'yard', 'gate')).toBe('rising')
  expect(play.nextDue()).toBe(null)
  play.walkTo(0, inLevel('field', 'back'))
  play.advance(3000)
  play.press(0)
  expect(play.nextDue()).toBeGreaterThan(6000)
  play.advance(7100)
  expect(stateIn(play, 'yard', 'gate')).toBe('up')
})

test('whoever leaves a level leaves its zones; one that is come to begins with whoever comes, where that one comes to', () => {
  const stages = Object.fromEntries(parts.map(({ name, expanded }) => [name, makeStage(expanded)]))
  const journey = new Journey(project, stages)
  const state = (name: string): string => {
    const { stage } = journey.play
    return journey.play.stateOf(stage.expanded.interactables.findIndex((one) => one.name === name))
  }
  journey.play.walk(0, [
    [3, 3],
    [6, 3],
  ])
  journey.advance(5000)
  expect(state('plate')).toBe('down')
  journey.play.press(0)
  while (journey.follow());
  expect(journey.level).toBe('field')
  // Nobody stands at the start of the field, beside the scarecrow.
  expect(state('scarecrow')).toBe('still')
  journey.play.walk(0, [[2, 2]])
  journey.advance(5000)
  expect(state('scarecrow')).toBe('turned')
  journey.play.walk(0, [[6, 3]])
  journey.advance(5000)
  journey.play.press(0)
  while (journey.follow());
  expect(journey.level).toBe('yard')
  expect(state('plate')).toBe('up')
})

test('a play that starts at a place begins with somebody who stands there, as the levels that are joined do', () => {
  const late = readProject(
    'project: 1\ntitle: The farm\nstart: { late: { level: field, place: stile } }\nlevels: { yard: { file: a }, field: { file: b } }\n',
  ).value!
  const stages = Object.fromEntries(parts.map(({ name, expanded }) => [name, makeStage(expanded)]))
  const journey = new Journey(late, stages)
  const joined = new Play(makeStage(joinLevels('The farm', parts, [{ name: 'start', level: 'field', place: 'stile' }])))
  expect(journey.play.spotOf(0)).toEqual([6, 3])
  expect(journey.play.log).toEqual([])
  expect(joined.log).toEqual([])
  journey.play.walk(0, [[2, 2]])
  journey.advance(5000)
  joined.walkTo(0, inLevel('field', 'scarecrow'))
  joined.advance(5000)
  const { stage } = journey.play
  const scarecrow = stage.expanded.interactables.findIndex(({ name }) => name === 'scarecrow')
  expect([journey.play.stateOf(scarecrow), stateIn(joined, 'field', 'scarecrow')]).toEqual(['turned', 'turned'])
  // The plate of the yard is under its own start, where nobody stands who starts elsewhere.
  expect(stateIn(joined, 'yard', 'plate')).toBe('up')
  const onPlate = readProject(
    'project: 1\ntitle: The farm\nstart: { late: { level: yard, place: door } }\nlevels: { yard: { file: a }, field: { file: b } }\n',
  ).value!
  const elsewhere = new Journey(onPlate, stages)
  const plate = elsewhere.play.stage.expanded.interactables.findIndex(({ name }) => name === 'plate')
  expect(elsewhere.play.stateOf(plate)).toBe('up')
})

test('whoever starts in another level carries what is carried at first there', () => {
  const laden = readLevel(
    field.replace('characters: { sam: {', 'items: { scythe: {} }\ncharacters: { sam: { carries: { scythe: 1 },'),
  )
  expect(laden.diagnostics).toEqual([])
  const both = [parts[0]!, { name: 'field', expanded: expandLevel(laden.value!, laden.source) }]
  const starts = [
    { name: 'usual', level: 'yard' },
    { name: 'late', level: 'field' },
    { name: 'later', level: 'field', place: 'stile' },
  ]
  const stage = makeStage(joinLevels('The farm', both, starts))
  expect(new Play(stage).carried(0, 0)).toBe(0)
  for (const [start, spot] of [
    ['late', [2, 2]],
    ['later', [6, 3]],
  ] as const) {
    const play = new Play(begunAt(stage, start))
    expect(play.carried(0, 0)).toBe(1)
    expect(ownSpot(stage.expanded, play.spotOf(0))).toEqual(spot)
  }
})

test('whoever leaves crosses nothing more at that moment', () => {
  // The way out and the tripwire begin at the same distance, the way out first.
  const wired = readLevel(
    yard
      .replace(
        'types:',
        'types:\n  wire:\n    states: { taut: {}, torn: { lasting: true } }\n    transitions: [{ from: taut, to: torn, trigger: { enter: near } }]\n    zones: { near: { radius: 0.5 } }',
      )
      .replace(
        / {2}out: .*\n/,
        '  out: { type: exit, at: [6.6, 3], set: { exit-to: { level: field, place: stile }, taken-by: [enter] } }\n  wire: { type: wire, at: [6.6, 3] }\n',
      )
      .replace('start: [6, 3]', 'start: [2, 3]'),
  )
  expect(wired.diagnostics).toEqual([])
  const both = [{ name: 'yard', expanded: expandLevel(wired.value!, wired.source) }, parts[1]!]
  const journey = new Journey(
    project,
    Object.fromEntries(both.map(({ name, expanded }) => [name, makeStage(expanded)])),
  )
  const joined = new Play(makeStage(joinLevels('The farm', both, [{ name: 'start', level: 'yard' }])))
  const wire = journey.play.stage.expanded.interactables.findIndex(({ name }) => name === 'wire')
  const { play } = journey
  play.walk(0, [[6.6, 3]])
  journey.advance(5000)
  joined.walk(0, [[6.6, 3]])
  joined.advance(5000)
  expect(journey.level).toBe('field')
  expect([play.stateOf(wire), stateIn(joined, 'yard', 'wire')]).toEqual(['taut', 'taut'])
})

test('a level that was left moves nobody any more, whatever leaving it sets off', () => {
  const sling = readLevel(
    yard
      .replace(
        'types:',
        'types:\n  sling:\n    states: { set: {} }\n    transitions: [{ from: set, trigger: { leave: near }, effects: [{ move-to: door }] }]\n    zones: { near: { radius: 1.5 } }',
      )
      .replace('  plate: {', '  sling: { type: sling, at: [6.6, 3] }\n  plate: {'),
  )
  expect(sling.diagnostics).toEqual([])
  const both = [{ name: 'yard', expanded: expandLevel(sling.value!, sling.source) }, parts[1]!]
  const journey = new Journey(
    project,
    Object.fromEntries(both.map(({ name, expanded }) => [name, makeStage(expanded)])),
  )
  const joined = new Play(makeStage(joinLevels('The farm', both, [{ name: 'start', level: 'yard' }])))
  journey.play.press(0)
  const left = journey.play
  while (journey.follow());
  joined.press(0)
  expect([journey.level, journey.play.spotOf(0)]).toEqual(['field', [6, 3]])
  expect(left.log.filter(({ what }) => what === 'moved')).toMatchObject([{ place: 'door', done: false }])
  const { by } = joined.stage.expanded.joined!.parts[1]!
  expect(joined.spotOf(0)).toEqual([6 + by, 3])
})

describe('those who stay in a level that is left', () => {
  const kennel = yard
    .replace('characters: {', 'items: { bone: {} }\ncharacters: {')
    .replace(
      ' } }\ntypes:',
      ' }, dog: { role: creature, start: [2, 4], radius: 0.2, speed: 2, hand: 1, reach: 1.2 } }\ntypes:',
    )
    .replace(
      'plate: { type: pressure-plate,',
      'bowl: { type: pickup, at: [4, 4.5], who: creature, set: { gives: bone } }\n  plate: { type: pressure-plate, who: [player, creature],',
    )
    .replace('start: [6, 3]', 'start: [4, 2]')

  /** The dog stands on the plate with the bone as sam leaves and comes back: level after level, and as one. */
  function afterwards(remembers: object): Record<string, unknown>[] {
    const reading = readLevel(kennel)
    expect(reading.diagnostics).toEqual([])
    const levels = { yard: { file: 'a', ...remembers }, field: { file: 'b' } }
    const known = readProject(JSON.stringify({ project: 1, title: 'The farm', start: 'yard', levels })).value!
    const both = [{ name: 'yard', expanded: expandLevel(reading.value!, reading.source) }, parts[1]!]
    const journey = new Journey(
      known,
      Object.fromEntries(both.map(({ name, expanded }) => [name, makeStage(expanded)])),
    )
    const all = both.map((part) => ({ ...part, remembered: known.levels[part.name] }))
    const joined = new Play(makeStage(joinLevels('The farm', all, [{ name: 'start', level: 'yard' }])))
    return [
      { play: () => journey.play, named: (_: string, name: string) => name },
      { play: () => joined, named: inLevel },
    ].map(({ play, named }) => {
      const advance = (ms: number): void => {
        if (play() === joined) joined.advance(ms)
        else journey.advance(ms)
      }
      const state = (name: string): string =>
        play().stateOf(play().stage.expanded.interactables.findIndex((one) => one.name === named('yard', name)))
      play().walkTo(1, named('yard', 'bowl'))
      advance(5000)
      play().press(1)
      play().walkTo(1, named('yard', 'plate/near'))
      advance(5000)
      const before = state('plate')
      play().walkTo(0, named('yard', 'out'))
      advance(5000)
      play().press(0)
      advance(0)
      play().walkTo(0, named('field', 'back'))
      advance(5000)
      play().press(0)
      advance(0)
      const [x, y] = play().spotOf(1)
      return { before, after: state('plate'), bowl: state('bowl'), dog: [x, y], bones: play().carried(1, 0) }
    })
  }

  test('go back to where they start, with what follows; what they carry they keep', () => {
    const so = { before: 'down', after: 'up', bowl: 'taken', dog: [2, 4], bones: 1 }
    expect(afterwards({})).toEqual([so, so])
  })

  test('carry what they carry at first where the level begins anew', () => {
    const so = { before: 'down', after: 'up', bowl: 'available', dog: [2, 4], bones: 0 }
    expect(afterwards({ remembers: 'nothing' })).toEqual([so, so])
  })
})

describe('what is not remembered', () => {
  /** Both ways of playing: level after level, and as one. */
  function playedBoth(remembers: object): {
    does: (act: (play: Play) => void, ms: number) => void
    states: () => string[]
    /** Milliseconds until something is due. */
    due: () => (number | null)[]
  } {
    const levels = { yard: { file: 'a', ...remembers }, field: { file: 'b' } }
    const known = readProject(JSON.stringify({ project: 1, title: 'The farm', start: 'yard', levels })).value!
    const stages = Object.fromEntries(parts.map(({ name, expanded }) => [name, makeStage(expanded)]))
    const journey = new Journey(known, stages)
    const all = parts.map((part) => ({ ...part, remembered: known.levels[part.name] }))
    const joined = new Play(makeStage(joinLevels('The farm', all, [{ name: 'start', level: 'yard' }])))
    return {
      does(act, ms) {
        act(journey.play)
        while (journey.follow());
        act(joined)
        journey.advance(ms)
        joined.advance(ms)
      },
      due: () => [journey.play.nextDue(), joined.nextDue()],
      states: () => {
        const { stage } = journey.play
        return ['gate', 'plate'].flatMap((name) => {
          const own = stage.expanded.interactables.findIndex((one) => one.name === name)
          return [journey.play.stateOf(own), stateIn(joined, 'yard', name)]
        })
      },
    }
  }

  const walkTo =
    (level: string, name: string) =>
    (play: Play): void => {
      const mark = play.stage.expanded.joined ? inLevel(level, name) : name
      play.walkTo(0, mark)
    }
  const press = (play: Play): void => void play.press(0)

  /** Cranks, stays for so long, leaves, and comes back. */
  function backAgain(remembers: object, stays: number): { states: string[]; due: (number | null)[] } {
    const { does, states, due } = playedBoth(remembers)
    does(walkTo('yard', 'crank'), 3000)
    does(press, stays)
    does(walkTo('yard', 'out'), 3000)
    does(press, 20_000)
    does(walkTo('field', 'back'), 3000)
    does(press, 0)
    return { states: states(), due: due() }
  }

  test('begins anew when one comes back: the gate is down, and nobody stands on the plate under the start', () => {
    const anew = { states: ['down', 'down', 'up', 'up'], due: [30_000, 30_000] }
    expect(backAgain({ remembers: 'nothing' }, 12_000)).toEqual(anew)
    expect(backAgain({ except: ['gate', 'bell'] }, 1000)).toEqual(anew)
  })

  test('begins anew before somebody comes in, who may come from the level itself', () => {
    const { does, states, due } = playedBoth({ remembers: 'nothing' })
    does(walkTo('yard', 'round'), 5000)
    does(press, 0)
    expect([states(), due()]).toEqual([
      ['down', 'down', 'down', 'down'],
      [30_000, 30_000],
    ])
  })

  test('is as it was left where it is an exception, and its clocks go on', () => {
    // 3 s to the crank, 12 s there, 3 s to the way out.
    const { states, due } = backAgain({ remembers: 'nothing', except: ['gate', 'bell'] }, 12_000)
    expect([states, due]).toEqual([
      ['up', 'up', 'up', 'up'],
      [12_000, 12_000],
    ])
    const rising = backAgain({ remembers: 'nothing', except: ['gate'] }, 1000)
    expect(rising).toEqual({ states: ['rising', 'rising', 'up', 'up'], due: [6000, 6000] })
  })
})
