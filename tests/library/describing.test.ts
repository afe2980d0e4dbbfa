import { expect, test } from '@jest/globals'
import { shapesOnStorey } from '../../src/draw/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import {
  coveredGround,
  describeInteractable,
  describeTypes,
  drawMachine,
  listInteractables,
  planShapes,
  prepareLevel,
  startPlay,
} from '../../src/library/index.ts'
import { textOf, twoRooms } from '../levels.ts'

const mill = prepareLevel(readLevel(textOf('examples/levels/tide-mill.level.yaml')))

test('a plan has a shape for everything that stands somewhere, each with the part of the file that it is from', () => {
  const shapes = planShapes(mill)
  const of = (kind: string): string[] => shapes.flatMap((one) => (one.kind === kind ? [one.name] : []))
  const { rooms, doorways, characters } = readLevel(textOf('examples/levels/tide-mill.level.yaml')).value!
  expect(of('room')).toEqual(Object.keys(rooms))
  expect(of('doorway')).toEqual(Object.keys(doorways ?? {}))
  expect(of('start')).toEqual(Object.keys(characters))
  expect(of('handle')).toEqual(mill.contents.interactables.map(({ name }) => name))
  expect(shapes.find(({ kind, name }) => kind === 'body' && name === 'mill-door')).toMatchObject({
    path: 'interactables.mill-door',
    blocks: true,
  })
  expect(shapes.filter((one) => one.kind === 'wall').length).toBeGreaterThan(8)
})

test('bodies are drawn as they stand in the states that are given', () => {
  const open = planShapes(mill, { 'mill-door': 'open' }).find((one) => one.kind === 'body' && one.name === 'mill-door')
  expect(open).toMatchObject({ blocks: false })
})

test('a zone with corners has an outline, a round one a radius, a ring a hole', () => {
  const text = twoRooms(`interactables:
  plate: { type: pressure-plate, at: [1, 1], zones: { near: { radius: 0.5 } } }
  mat: { type: pressure-plate, at: [3, 1], zones: { near: { outline: [[0, 0], [1, 0], [0, 1]] } } }
  moat: { type: pressure-plate, at: [3, 3], zones: { near: { ring: { from: 0.4, to: 0.9 } } } }
`)
  const zones = planShapes(readLevel(text)).filter((one) => one.kind === 'zone')
  expect(zones.map(({ name, radius, inner, outline }) => [name, radius, inner, outline?.length ?? 0])).toEqual([
    ['plate/near', 0.5, 0, 0],
    ['mat/near', 0, 0, 3],
    ['moat/near', 0.9, 0.4, 0],
  ])
})

test('wherever ground is covered, a player who stands there gets an answer', () => {
  const level = prepareLevel(
    readLevel(
      twoRooms('interactables: { bell: { type: lever, at: [1.5, 1.2], feedback: { focused: [{ prompt: Ring }] } } }\n'),
    ),
  )
  const [outline] = coveredGround(level, 'bell')
  expect(outline!.length).toBeGreaterThan(8)
  const play = startPlay(level)
  const middle = outline!.reduce(([a, b], [x, y]) => [a + x / outline!.length, b + y / outline!.length], [0, 0])
  for (const [x, y] of outline!) {
    // A hair inside of the border.
    play.walkTo('sam', [x + (middle[0] - x) * 0.05, y + (middle[1] - y) * 0.05])
    play.advance(6000)
    expect(play.view('sam').candidates).toEqual(['bell'])
  }
  expect(() => coveredGround(level, 'ball')).toThrow('Did you mean "bell"?')
})

test('an interactable is described with all that a form for it asks', () => {
  const { type, states, initial, settings } = describeInteractable(mill, 'mill-door')
  expect([type, initial]).toEqual(['door', 'locked'])
  expect(states).toContain('open')
  const of = (path: string) => settings.find((one) => one.path === path)
  expect(of('lock.item')).toMatchObject({ kind: 'item', given: 'sluice-key', value: 'sluice-key' })
  expect(of('hinge')?.options).toEqual(['left', 'right'])
  expect(settings.every(({ about, kind }) => about !== '' || kind === 'group')).toBe(true)
  expect(() => describeInteractable(mill, 'mill-dor')).toThrow('Did you mean "mill-door"?')
})

test('types are described, built-in ones and those of the level', () => {
  expect(describeTypes().map(({ name }) => name)).toEqual(expect.arrayContaining(['door', 'chest', 'keyhole']))
  const own = twoRooms(
    'types: { gong: { states: { still: {} }, about: It hums. } }\ninteractables: { gong: { type: gong, at: [1, 1] } }\n',
  )
  expect(describeTypes(readLevel(own)).find(({ name }) => name === 'gong')?.about).toBe('It hums.')
  expect(listInteractables(readLevel(own)).map(({ name }) => name)).toEqual(['gong'])
})

test('a machine shows the state that it is in, without colour too', () => {
  const svg = drawMachine(mill, 'mill-door', 'locked')
  expect(svg).toMatch(/data-state="locked" data-now="true"><rect [^>]*rx="8"/)
  expect(svg.match(/data-now/g)).toHaveLength(1)
  expect(drawMachine(mill, 'mill-door')).not.toContain('data-now')
})

test('how it stands and is pressed is described as it is, with what the instance itself says', () => {
  const text = twoRooms(`interactables:
  gate: { type: door, in: gap, range: { radius: 0.9, from: centre } }
  bell: { type: lever, at: [1, 1], turn: 90, scale: 2, range: { from: [0, 0.2, 1] } }
`)
  const of = (name: string) =>
    Object.fromEntries(
      describeInteractable(readLevel(text), name).standing.map(({ path, given, value }) => [path, [given, value]]),
    )
  expect(of('gate')).toMatchObject({
    'range.radius': [0.9, 0.9],
    'range.from': ['centre', 'centre'],
    'range.sight': [undefined, true],
    priority: [undefined, 0],
  })
  // What fills a doorway is turned with it.
  expect(Object.keys(of('gate'))).not.toContain('turn')
  expect(of('bell')).toMatchObject({ turn: [90, 90], scale: [2, 2], 'range.from': [[0, 0.2, 1], 'a spot'] })
})

test('a storey has its rooms, and what stands in them or in their walls', () => {
  const text = twoRooms(`interactables:
  gate: { type: door, in: gap }
  bell: { type: lever, at: [1, 1] }
  lamp: { type: lamp, at: [8, 1] }
`)
    .replace('rooms:', 'storeys: { below: {}, above: {} }\nrooms:')
    .replace(/west: \{ /, 'west: { storey: below, ')
    .replace(/east: \{ /, 'east: { storey: above, ')
  const shapes = planShapes(readLevel(text))
  const on = (storey: string): string[] => [...new Set(shapesOnStorey(shapes, storey).map(({ name }) => name))].sort()
  expect(on('below')).toEqual(['', 'bell', 'gap', 'gate', 'sam', 'west'])
  expect(on('above')).toEqual(['', 'east', 'gap', 'gate', 'lamp'])
  expect(shapesOnStorey(shapes, 'attic')).toEqual([])
})
