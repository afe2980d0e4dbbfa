import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { Play } from '../../src/play/index.ts'
import { canStand, signatureAt, surroundings } from '../../src/space/index.ts'
import { answerTo, checked, staged, textOf, twoRooms } from '../levels.ts'

const mill = staged(textOf('examples/levels/tide-mill.level.yaml'))
const { layout } = mill.space
const keeper = mill.expanded.characters[0]!

/** Chests so far apart that there is just a lane of 10 cm between them for whoever stands there. */
const chests = `
zintel: 1
title: Chests
rooms: { hall: { outline: [[0, 0], [6, 0], [6, 5], [0, 5]] } }
interactables:
  one: { type: chest, at: [1.5, 0.4], set: { gives: [] } }
  two: { type: chest, at: [3.1, 0.4], set: { gives: [] } }
characters:
  keeper: { role: player, start: [1, 4], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
goals: { opened: { interactable: two, is: open } }
`

describe('patches', () => {
  test('every spot where one can stand is on a patch with the signature of that spot', () => {
    const { patchAt, patches } = mill.space.patches[0]!
    const x = fc.integer({ min: 0, max: 25_000 }).map((mm) => mm / 1000)
    const y = fc.integer({ min: 0, max: 14_000 }).map((mm) => mm / 1000)
    let stood = 0
    fc.assert(
      fc.property(x, y, (px, py) => {
        if (!canStand(layout, [px, py], keeper.radius)) return
        stood++
        const patch = patches[patchAt([px, py])]
        expect(patch?.signature).toEqual(signatureAt(mill.expanded, layout, keeper, [px, py]))
      }),
      { numRuns: 4000, seed: 3 },
    )
    expect(stood).toBeGreaterThan(1000)
  })

  test('ground is not sure where a slit, too narrow by half a centimetre, may be all that leads on', () => {
    const slit = staged(textOf('tests/verdicts/levels/slit.level.yaml'))
    const { patches, patchAt } = slit.space.patches[0]!
    const corner = patches[patchAt([0.44, 0.3])]!
    expect(corner.sure).toBe(false)
    const play = new Play(slit)
    play.steer(0, [1, 0])
    play.advance(5000)
    expect(play.spotOf(0)[0]).toBeLessThan(0.5)
    expect(patches[patchAt([1.25, 0.45])]!.sure).toBe(true)
  })

  test('whoever stands in the lane between two chests against a wall has a way out of it', () => {
    const { patches, escapes } = staged(chests).space.patches[0]!
    const unsure = [...patches.keys()].filter((patch) => !patches[patch]!.sure)
    expect(unsure.length).toBeGreaterThan(0)
    for (const patch of unsure) {
      expect(escapes(patch).length).toBeGreaterThan(0)
      for (const ways of escapes(patch)) expect(ways.length).toBeGreaterThan(0)
    }
  })

  test.each([
    ['in a corner, a metre from both walls', '[5, 4]', ''],
    ['across a corner', '[5, 4]', ', turn: 90'],
    ['along a wall, just so wide that there is a lane to its left', '[1, 2.5]', ', body: { size: [0.8, 1] }'],
  ])('whoever stands beside a chest in a lane just as wide as the character has a way out: %s', (_, at, more) => {
    const stage = staged(`
zintel: 1
title: A chest in a corner
rooms: { hall: { outline: [[0, 0], [6, 0], [6, 5], [0, 5]] } }
interactables:
  chest: { type: chest, at: ${at}${more} }
characters:
  keeper: { role: player, start: [3, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
goals: { opened: { interactable: chest, is: open } }
`)
    const { patches, escapes } = stage.space.patches[0]!
    const unsure = [...patches.keys()].filter((patch) => !patches[patch]!.sure)
    expect(unsure.length).toBeGreaterThan(0)
    for (const patch of unsure) {
      expect(escapes(patch).length).toBeGreaterThan(0)
      for (const ways of escapes(patch)) expect(ways.length).toBeGreaterThan(0)
    }
  })

  test('whoever stands where the ring round a door that opens by touch meets the wall has a way out', () => {
    const { patches, escapes } = staged(`
zintel: 1
title: Touch
rooms:
  shed: { outline: [[0, 0], [6, 0], [6, 5], [0, 5]] }
  loft: { outline: [[6.3, 0], [10, 0], [10, 5], [6.3, 5]] }
doorways: { gap: { joins: [shed, loft], at: [6.15, 2.5], width: 1.2, depth: 0.3 } }
interactables:
  flap: { type: door, in: gap, set: { opened-by: [touch], stays-open: true } }
characters: { keeper: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
`).space.patches[0]!
    const unsure = [...patches.keys()].filter((patch) => !patches[patch]!.sure)
    expect(unsure.length).toBeGreaterThan(0)
    for (const patch of unsure) {
      expect(escapes(patch).length).toBeGreaterThan(0)
      for (const ways of escapes(patch)) expect(ways.length).toBeGreaterThan(0)
    }
  })

  test.each([0.64, 0.62, 0.61])('a lane of %d m is walked by a character of 0.60 m', (width) => {
    const report = checked(`
zintel: 1
title: A lane
rooms: { hall: { outline: [[-0.987, 2.105], [0.541, 2.105], [0.541, 4.448], [-0.987, 4.448]] } }
obstacles:
  crate: { outline: [[-0.987, 2.941], [${String(0.541 - width)}, 2.941], [${String(0.541 - width)}, 3.341], [-0.987, 3.341]] }
interactables:
  lever: { type: lever, at: [-0.5, 4.4, 1] }
characters:
  keeper: { role: player, start: [0.106, 2.6], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
goals: { pulled: { interactable: lever, is: on } }
`)
    expect(answerTo(report, 'unreachable-goal', 'pulled')).toBe('ruled-out')
    expect(answerTo(report, 'soft-lock', 'pulled')).toBe('ruled-out')
  })

  test('of two handles close together it is sure everywhere which of them is nearer', () => {
    const stage = staged(`
zintel: 1
title: Two levers
rooms: { hall: { outline: [[0, 0], [3, 0], [3, 3], [0, 3]] } }
interactables:
  one: { type: lever, at: [1.52, 1.5, 1], range: { radius: 3 } }
  two: { type: lever, at: [1.47, 1.518, 1], range: { radius: 3 } }
characters:
  keeper: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 1.4 }
goals: { pulled: { interactable: two, is: on } }
`)
    const { patches } = stage.space.patches[0]!
    expect(patches.filter(({ sure, signature: { candidates } }) => !sure && candidates.length === 2)).toEqual([])
    const first = patches.map(({ signature: { candidates } }) => candidates[0]?.interactable)
    expect(first).toEqual(expect.arrayContaining([0, 1]))
  })

  test('whoever stands in a pocket whose mouth is too narrow has none', () => {
    const stage = staged(textOf('tests/verdicts/levels/nook.level.yaml'))
    const { patches, patchAt, escapes } = stage.space.patches[0]!
    const inside = patchAt([4.65, 1.92])
    expect(patches[inside]!.sure || escapes(inside).some((ways) => ways.length === 0)).toBe(true)
    // Wherever ways lead from there, it is not out through the mouth.
    for (const to of escapes(inside).flat()) expect(patches[to]!.spot[0]).toBeGreaterThan(4)
  })

  test('walking from any patch beside another changes at most one zone or body', () => {
    const { patches, beside } = mill.space.patches[0]!
    for (const [from, all] of beside.entries()) {
      for (const to of all) {
        const [a, b] = [patches[from]!.signature, patches[to]!.signature]
        const apart = (one: readonly number[], other: readonly number[]): number =>
          one.filter((index) => !other.includes(index)).length
        const zones = apart(a.zones, b.zones) + apart(b.zones, a.zones)
        const bodies = apart(a.bodies, b.bodies) + apart(b.bodies, a.bodies)
        expect(zones + bodies).toBeLessThanOrEqual(1)
        expect(beside[to]).toContain(from)
      }
    }
  })

  test('every hop between standing spots takes Play just the time it says, past just what it says', () => {
    const { patches, patchAt } = mill.space.patches[0]!
    const hops = patches
      .filter(({ sure }) => sure)
      .flatMap(({ index, spot }) => mill.space.hops(0, index).map((hop) => ({ spot, hop })))
    // Shut doors would stop a play that starts anywhere.
    const free = hops.filter(
      ({ spot, hop }) =>
        surroundings(mill.space, keeper, spot).bodies.length === 0 && !hop.events.some(({ kind }) => kind === 'body'),
    )
    expect(free.length).toBeGreaterThan(20)
    for (const { spot, hop } of free) {
      const layout = { ...mill.space.layout, starts: [spot] }
      const play = new Play({ ...mill, space: { ...mill.space, layout } })
      play.walk(0, hop.via)
      play.advance(hop.ms - 1)
      expect(play.isWalking(0)).toBe(true)
      play.advance(1)
      expect(play.isWalking(0)).toBe(false)
      expect(patchAt(play.spotOf(0))).toBe(hop.to)
      const zones = play.log.filter((entry) => entry.what === 'zone').map(({ at }) => at)
      expect(zones).toEqual(hop.events.map(({ ms }) => ms))
    }
  })
})

describe('reach', () => {
  const answers = (thing: string, spot: [number, number], more = ''): boolean => {
    const stage = staged(
      twoRooms(`items: { key: {} }\ninteractables:\n  it: { type: pickup, ${thing}, set: { gives: key } ${more} }\n`),
    )
    const signature = signatureAt(stage.expanded, stage.space.layout, stage.expanded.characters[0]!, spot)
    return signature.candidates.length > 0
  }

  test('range and reach are measured in three dimensions from the hand', () => {
    expect(answers('at: [2, 2, 1.2]', [2.89, 2])).toBe(true)
    expect(answers('at: [2, 2, 1.2]', [2.91, 2])).toBe(false)
    expect(answers('at: [2, 2, 2.2]', [2, 2])).toBe(false)
    expect(answers('at: [2, 2, 1.7]', [2.74, 2])).toBe(true)
    expect(answers('at: [2, 2, 1.7]', [2.76, 2])).toBe(false)
    expect(answers('at: [2, 2, 1.2]', [2.6, 2], ', range: { radius: 0.5 }')).toBe(false)
  })

  test('walls cut it, unless sight does not count', () => {
    expect(answers('at: [5.6, 0.5, 1.2]', [4.7, 0.5])).toBe(false)
    expect(answers('at: [5.6, 0.5, 1.2]', [4.7, 0.5], ', range: { sight: false }')).toBe(true)
    expect(answers('at: [5, 0.5, 1.2]', [4.5, 0.5])).toBe(true)
  })
})

test('a doorway that reaches neither room, an outline that crosses itself and a start in a wall are told', () => {
  const text = twoRooms('').replace('at: [5.15, 2]', 'at: [7, 2]').replace('start: [1.5, 2]', 'start: [0.1, 2]')
  const told = staged(text).space.layout.problems.map((one) => (one.rule === 'bad-value' ? one.wrong.is : one.rule))
  expect(told).toEqual(['doorway-apart', 'blocked-start'])
  const crossed = twoRooms('').replace(
    '[[5.3, 0], [10, 0], [10, 4], [5.3, 4]]',
    '[[5.3, 0], [10, 4], [10, 0], [5.3, 4]]',
  )
  expect(staged(crossed).space.layout.problems.map((one) => one.path)).toContain('rooms.east.outline')
})

test('a hinge is left or right as seen from the first room, however the level lies', () => {
  /** Where the hinge is, in the frame of the level before it was turned. */
  const hinge = (quarters: number, text: string): readonly number[] => {
    let turned = text
    for (let i = 0; i < quarters; i++) {
      turned = turned.replaceAll(
        /\[(-?[\d.]+), (-?[\d.]+)\]/g,
        (_, x: string, y: string) => `[${String(-Number(y))}, ${x}]`,
      )
    }
    let [x, y] = staged(turned).space.layout.figures[0]!.pivot!
    for (let i = 0; i < quarters; i++) [x, y] = [y, -x]
    return [Number(x.toFixed(6)), Number(y.toFixed(6))]
  }
  const left = twoRooms('interactables: { door: { type: door, in: gap } }\n')
  const right = twoRooms('interactables: { door: { type: door, in: gap, set: { hinge: right } } }\n')
  for (const quarters of [0, 1, 2, 3]) {
    expect(hinge(quarters, left)).toEqual([5.15, 2.7])
    expect(hinge(quarters, right)).toEqual([5.15, 1.3])
    expect(hinge(quarters, left.replace('[west, east]', '[east, west]'))).toEqual([5.15, 1.3])
  }
})
