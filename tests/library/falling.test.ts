import { expect, test } from '@jest/globals'
import { readLevel } from '../../src/interactables/index.ts'
import { type LevelPlay, prepareLevel, startPlay } from '../../src/library/index.ts'

const level = prepareLevel(
  readLevel(`zintel: 1
title: Ledge
rooms: { ledge: { outline: [[0, 0], [20, 0], [20, 5], [0, 5]] } }
places: { foot: { at: [1, 1] }, first: { at: [6, 4] }, second: { at: [16, 4] } }
items: { rope: { stacks: 5 } }
interactables:
  first-post: { type: checkpoint, at: [6, 4], set: { place: first } }
  second-post: { type: checkpoint, at: [16, 4], set: { place: second, needs: { carries: rope } } }
  gap: { type: pit, at: [10, 1], set: { back-to: foot, loses: [{ item: rope, count: 2 }] } }
characters:
  sam: { role: player, start: [2, 1], radius: 0.3, speed: 10, hand: 1.2, reach: 0.9, carries: { rope: 3 } }
  kim: { role: player, start: [3, 1], radius: 0.3, speed: 10, hand: 1.2, reach: 0.9 }
goals: { there: { inside: ledge } }
`),
)

function spotOf(play: LevelPlay, who: string): readonly [number, number] {
  return play.character(who).position
}

test('each is back at its own last checkpoint, and loses what is lost in the fall', () => {
  const play = startPlay(level)
  const fall = (who: string): readonly [number, number] => {
    play.walkTo(who, [10, 1])
    play.advance(5000)
    return spotOf(play, who)
  }
  expect(fall('sam')).toEqual([1, 1])
  expect(play.carried('sam')).toEqual({ rope: 1 })
  play.walkTo('sam', [6, 4])
  play.advance(3000)
  expect(fall('sam')).toEqual([6, 4])
  expect(play.carried('sam')).toEqual({})
  // Without a rope the second does not count.
  play.walkTo('sam', [16, 4])
  play.advance(3000)
  expect(fall('sam')).toEqual([6, 4])
  // Nobody else has passed it.
  expect(fall('kim')).toEqual([1, 1])
  const saved = play.save()
  expect(fall('sam')).toEqual([6, 4])
  const again = startPlay(level)
  again.restore(saved)
  again.walkTo('sam', [10, 1])
  again.advance(5000)
  expect(spotOf(again, 'sam')).toEqual([6, 4])
})
