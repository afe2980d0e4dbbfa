import { expect, test } from '@jest/globals'
import { drawPlan } from '../../src/draw/index.ts'
import { planGoals, tracksOf } from '../../src/explore/index.ts'
import { finish } from '../../src/model/index.ts'
import type { Point } from '../../src/space/index.ts'
import { checked, inShort, replayed, staged, textOf } from '../levels.ts'

const granary = textOf('examples/levels/granary.level.yaml')
const draft = textOf('examples/levels/granary-draft.level.yaml')

test('nothing is found in the granary; in its draft the brake is pulled through the floor, from where Play does it', () => {
  const clean = checked(granary)
  expect([inShort(clean), clean.counts.undecided]).toEqual([[], 0])
  const report = checked(draft)
  expect(inShort(report)).toEqual(['reach-through brake'])
  const [{ spots, fix }] = report.findings as [(typeof report.findings)[number]]
  expect(fix.lines!.becomes).toEqual(['    range: { radius: 1.9, sight: true }'])
  const stage = staged(draft)
  const [x, y] = spots[0]!.at
  const play = replayed(draft, { ...report.findings[0]!, steps: [] })
  play.walkTo(0, [x, y])
  play.advance(5000)
  expect(play.candidates(0)).toContain(stage.expanded.interactables.findIndex(({ name }) => name === 'brake'))
})

test('a way over storeys is drawn in pieces: what is walked, and from the ladder or the stairs to where they lead', () => {
  const stage = staged(granary)
  const [plans] = finish(planGoals(stage, [0]))
  const at = (name: string): Point => stage.expanded.places.find((one) => one.name === name)!.at
  const [byLadder] = tracksOf(stage, plans!.quickest!.steps)
  expect(byLadder!.pieces.map((piece) => piece[0])).toEqual([[4, 5], at('ladder-top')])
  // The ladder is pressed at its foot, and nobody walks across the sheet.
  const texts = byLadder!.stops.map((stop) => [stop.text, stop.at[0] > 15])
  expect(texts).toEqual([
    ['1', false],
    ['2', false],
    ['3', false],
    ['4', false],
    ['5', true],
    ['6', true],
  ])
  const [byStairs] = tracksOf(stage, plans!.fewest!.steps)
  expect(byStairs!.pieces.map((piece) => [piece[0], piece.at(-1)!.map(Math.round)])).toEqual([
    [
      [4, 5],
      [12, 5],
    ],
    [at('landing'), [20, 1]],
  ])
  const drawn = drawPlan(stage, { tracks: [byLadder!] })
  expect(drawn.match(/stroke-dasharray="3 5"/g)).toHaveLength(1)
})
