import { expect, test } from '@jest/globals'
import { SureMoves } from '../../src/explore/sure.ts'
import { expandLevel, inLevel, joinLevels, readLevel } from '../../src/interactables/index.ts'
import { makeStage, Play } from '../../src/play/index.ts'

/** A hall with a lamp that burns for a while, and a way to a porch, whose own way back lies where one comes in. */
const hall = `zintel: 1
title: The hall
rooms: { room: { outline: [[0, 0], [6, 0], [6, 5], [0, 5]] } }
places: { door: { at: [3, 2.5] } }
characters: { sam: { role: player, start: [3, 2.5], radius: 0.3, speed: 3, hand: 1.2, reach: 1.2 } }
interactables:
  way: { type: exit, at: [3, 3.2], set: { exit-to: { level: porch, place: door } } }
  lamp: { type: lamp, at: [3, 2.2] }
types:
  lamp:
    states: { dark: {}, lit: {} }
    transitions: [{ from: dark, to: lit, trigger: press }, { name: burnt, from: lit, to: dark, trigger: { after: 2.5 } }]
`
const porch = `zintel: 1
title: The porch
rooms: { room: { outline: [[0, 0], [6, 0], [6, 5], [0, 5]] } }
places: { door: { at: [3, 2.5] } }
characters: { sam: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 1.2 } }
interactables:
  back: { type: exit, at: [3, 2.5], set: { exit-to: { level: hall, place: door }, taken-by: [enter] } }
`

test('what runs in a level that is left and come back to at the same moment is not due at once', () => {
  const parts = Object.entries({ hall, porch }).map(([name, text]) => {
    const { value, source, diagnostics } = readLevel(text)
    expect(diagnostics).toEqual([])
    return { name, expanded: expandLevel(value!, source) }
  })
  const stage = makeStage(joinLevels('Both', parts, [{ name: 'start', level: 'hall' }]))
  const { interactables } = stage.expanded
  const indexOf = (name: string): number => interactables.findIndex((one) => one.name === inLevel('hall', name))
  const play = new Play(stage)
  const { patches, patchAt } = stage.space.patches[0]!
  play.walk(0, [patches[patchAt(play.spotOf(0))]!.spot])
  play.advance(1000)
  play.face(0, inLevel('hall', 'lamp'))
  play.press(0)
  expect(play.stateOf(indexOf('lamp'))).toBe('lit')
  const burnt = stage.tables.rowsOf[indexOf('lamp')]!.find(({ transition: { name } }) => name === 'burnt')!.index
  const leave = stage.tables.rowsOf[indexOf('way')]![0]!.index
  let seen = 0
  const sure = new SureMoves(stage)
  sure.each(play.registers(), patchAt(play.spotOf(0)), true, (_regs, _patch, { taken, ms }) => {
    if (!taken.includes(leave)) return
    seen++
    if (taken.includes(burnt)) expect(ms).toBeGreaterThanOrEqual(2500)
  })
  expect(seen).toBeGreaterThan(0)
})
