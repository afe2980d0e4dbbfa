import { describe, expect, test } from '@jest/globals'
import { loadLevel, readLevel } from '../../src/interactables/index.ts'
import { type LevelPlay, prepareLevel, type SavedPlay, startPlay, startProject } from '../../src/library/index.ts'
import { readProject } from '../../src/play/index.ts'
import { textOf, twoRooms } from '../levels.ts'
import { randomLevel } from '../soak/levels.ts'

const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** Whole numbers below a limit, the same ones for the same seed. */
function numbers(from: number): (below: number) => number {
  let state = from * 2_654_435_761 + 1
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return Math.floor((state / 2 ** 32) * below)
  }
}

/** Something that a player may do, drawn at random; the same for plays that stand alike. */
function acted(play: LevelPlay, below: (limit: number) => number): void {
  const who = play.characters[below(play.characters.length)]!
  const thing = play.interactables[below(play.interactables.length)] ?? ''
  const { options, dials, popup } = play.view(who)
  const what = below(8)
  if (popup !== null && what < 4) play.dismiss(who)
  else if (what === 0) play.steer(who, [below(3) - 1, below(3) - 1])
  else if (what < 3 && thing !== '') play.walkTo(who, thing)
  else if (what === 3 && options[0] !== undefined) play.choose(who, options[0])
  else if (what === 4 && dials[0]) play.dial(who, dials[0].interactable, 1, below(dials[0].wheels[0]!.positions))
  else if (what === 5) play.hold(who)
  else play.press(who)
  play.advance([0, 1, 16.7, 250, 1800][below(5)]!)
}

/** Saves after some inputs, goes on, and goes on from the saved play in another one: both must have happened alike. */
function goesOnAlike(begin: () => LevelPlay, number: number): { readonly entries: number } {
  const below = numbers(number)
  const one = begin()
  for (let i = below(20); i > 0; i--) acted(one, below)
  const saved = JSON.stringify(one.save())
  const other = begin()
  other.restore(JSON.parse(saved) as SavedPlay)
  const both = [one, other].map((play) => {
    const again = numbers(number + 1)
    for (let i = 0; i < 20; i++) acted(play, again)
    const now = play.characters.map((name) => [play.character(name), play.view(name)])
    return JSON.stringify([
      play.log,
      play.time,
      play.goalsMet(),
      play.interactables.map((name) => play.interactable(name)),
      now,
    ])
  })
  expect(both[1]).toBe(both[0])
  return { entries: one.log.length }
}

describe('a saved play', () => {
  test('goes on just as the one that was saved, in random levels and with random inputs', () => {
    let entries = 0
    for (let number = seed; number < seed + 30; number++) {
      const level = prepareLevel(loadLevel(randomLevel(number).level))
      if (level.diagnostics.length > 0) continue
      entries += goesOnAlike(() => startPlay(level), number).entries
    }
    expect(entries).toBeGreaterThan(400)
  }, 120_000)

  test.each(['telling', 'asking', 'choosing', 'moving', 'holding', 'perceiving', 'locks', 'opening'])(
    'goes on in the gallery level %s',
    (name) => {
      const level = prepareLevel(readLevel(textOf(`examples/levels/gallery/${name}.level.yaml`)))
      for (let number = 1; number <= 5; number++) goesOnAlike(() => startPlay(level), number)
    },
  )

  test('of a project goes on in all its levels', () => {
    const folder = 'examples/levels/gallery/'
    const project = readProject(textOf(`${folder}crossing.project.yaml`), null)
    const levels = Object.fromEntries(
      Object.entries(project.value!.levels).map(([name, { file }]) => [
        name,
        prepareLevel(readLevel(textOf(folder + file))),
      ]),
    )
    for (let number = 1; number <= 15; number++) goesOnAlike(() => startProject(project, levels), number)
  }, 60_000)

  test('goes on with a walk round corners, with a press that is kept down, and with a motion', () => {
    const text = `zintel: 1
title: Round the corner
rooms: { hall: { outline: [[0, 0], [8, 0], [8, 8], [6, 8], [6, 2], [0, 2]] } }
interactables:
  wheel: { type: lever, at: [1, 0.2, 1], set: { hold: 2 } }
  gate: { type: chest, at: [1, 1.8, 1], range: { radius: 0.5 }, set: { motion: { over: 3 } } }
characters:
  sam: { role: player, start: [1, 1], radius: 0.3, speed: 1, hand: 1.2, reach: 0.9 }
`
    const level = prepareLevel(readLevel(text))
    const restored = (play: LevelPlay): LevelPlay => {
      const other = startPlay(level)
      other.restore(JSON.parse(JSON.stringify(play.save())) as SavedPlay)
      return other
    }
    const walking = startPlay(level)
    walking.walkTo('sam', [7, 7])
    walking.advance(2000.4)
    const holding = startPlay(level)
    holding.hold('sam')
    holding.advance(900)
    for (const play of [walking, holding]) {
      const other = restored(play)
      play.advance(20_000.3)
      other.advance(20_000.3)
      expect(JSON.stringify(other.save())).toBe(JSON.stringify(play.save()))
    }
    expect(walking.character('sam').position).toEqual([7, 7])
    expect(holding.state('wheel')).toBe('on')
  })

  test('is refused in another level, and where it is damaged; nothing changes then', () => {
    const level = readLevel(twoRooms('interactables:\n  lever: { type: lever, at: [1, 0.4] }\n'))
    const play = startPlay(level)
    play.advance(500)
    const saved = play.save()
    const elsewhere = startPlay(readLevel(twoRooms('interactables:\n  lever: { type: lever, at: [1.5, 0.4] }\n')))
    expect(() => {
      elsewhere.restore(saved)
    }).toThrow('saved in another level')
    play.advance(250)
    const before = JSON.stringify(play.save())
    const damaged = { ...saved, play: { ...(saved.play as object), walkers: [] } } as SavedPlay
    expect(() => {
      play.restore(damaged)
    }).toThrow('damaged')
    expect(() => {
      play.restore({} as SavedPlay)
    }).toThrow('not a saved play')
    expect(JSON.stringify(play.save())).toBe(before)
    play.restore(saved)
    expect(play.time).toBe(500)
  })

  test('tells listeners nothing, and lists what looks otherwise than before', () => {
    const play = startPlay(readLevel(textOf('examples/levels/tide-mill.level.yaml')))
    const saved = play.save()
    const told: string[] = []
    play.on('any', ({ what }) => told.push(what))
    play.walkTo('keeper', 'quay-tally')
    play.advance(3000)
    play.press('keeper')
    play.changes()
    told.length = 0
    play.restore(saved)
    expect(told).toEqual([])
    const { interactables, characters, entries } = play.changes()
    expect(interactables.map(({ name }) => name)).toContain('quay-tally')
    expect([characters.map(({ name }) => name), entries]).toEqual([['keeper'], []])
  })
})
