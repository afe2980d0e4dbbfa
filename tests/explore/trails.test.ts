import { expect, test } from '@jest/globals'
import { doorsInTime } from '../../bench/levels.ts'
import { metIn } from '../../src/explore/sets/goal-sets.ts'
import { SetProof, whyNotBySets } from '../../src/explore/sets/set-proof.ts'
import { SetSearch } from '../../src/explore/sets/set-search.ts'
import { SureGraph } from '../../src/explore/sets/sure-graph.ts'
import { SureMoves } from '../../src/explore/sure.ts'
import { findTrail } from '../../src/explore/sure-search.ts'
import { expandLevel, loadLevel } from '../../src/interactables/index.ts'
import { finish } from '../../src/model/index.ts'
import { makeStage, startRegisters } from '../../src/play/index.ts'
import { answerTo, checked, staged } from '../levels.ts'
import { randomLevel } from '../soak/levels.ts'

const wanted = Number(process.env.ZINTEL_TWINS ?? 30)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

function proofFor(text: string): { readonly safe: (trails: boolean) => boolean } {
  const search = new SetSearch(staged(text))
  finish(search.run())
  expect(whyNotBySets(search)).toBeNull()
  const proof = new SetProof(new SureGraph(search))
  return { safe: (trails) => finish(proof.isSafe(0, metIn(search, 0), search.reached, trails)) }
}

test('what has to be done while doors stand open is proved over sets by trails', () => {
  const { safe } = proofFor(doorsInTime(4))
  expect(safe(false)).toBe(false)
  expect(safe(true)).toBe(true)
  expect(answerTo(checked(doorsInTime(4)), 'soft-lock', 'rung')).toBe('ruled-out')
}, 60_000)

test('what cannot be done before doors shut again is not proved', () => {
  const { safe } = proofFor(doorsInTime(4).replaceAll('closes: { after: 8 }', 'closes: { after: 1.2 }'))
  expect(safe(true)).toBe(false)
}, 60_000)

test(`a trail leads over sets where it leads move by move, on ${String(wanted)} random levels`, () => {
  const seen = { levels: 0, moves: 0 }
  const all: string[] = []
  for (let number = seed; seen.levels < wanted; number++) {
    const reading = loadLevel(randomLevel(number).level)
    const stage = makeStage(expandLevel(reading.value!, reading.source))
    if (stage.expanded.characters.length > 1 || stage.tables.canBeHeld.includes(true)) continue
    const start = startRegisters(stage)
    const from = stage.space.patches[0]!.patches.find(
      ({ firm, index }) => firm && stage.space.hops(0, index).length > 0,
    )
    if (!from) continue
    seen.levels++
    const [base, after] = [start.slice(), start.slice()]
    const begin = (): void => {
      after.set(base)
    }
    const noting = new SureMoves(stage, { scratch: { base, after, begin } })
    const plain = new SureMoves(stage)
    const packed = (regs: Int32Array, patch: number): string => {
      const words = new Int32Array(plain.packing.words)
      plain.packing.pack(regs, patch, words, 0)
      return words.join()
    }
    for (const nth of [2, 5, 9, 17, 40]) {
      let left = nth
      let there = ''
      const limits = { situations: 2_000, patient: nth % 2 === 0, stopAtRest: false }
      const end = finish(
        findTrail(
          plain,
          start,
          from.index,
          (regs, patch, _held, _taken, isAtRest) => {
            if (!isAtRest || --left > 0) return false
            there = packed(regs, patch)
            return true
          },
          limits,
        ),
      )
      if (typeof end !== 'object') continue
      base.set(start)
      let isSame = false
      noting.toRest({ do: 'follow', moves: end.moves }, from.index, (made, on) => {
        isSame = packed(made, on) === there
      })
      if (!isSame) all.push(`level ${String(number)}, ${String(nth)}: ${JSON.stringify(end.moves)}`)
      seen.moves += end.moves.length
    }
  }
  console.info(JSON.stringify(seen))
  expect(all).toEqual([])
  expect(seen.moves).toBeGreaterThan(wanted)
}, 3_600_000)

test('a way goes round a plate that must stay up, and through it only where there is no room beside it', () => {
  const hall = (radius: number): string => `zintel: 1
title: Hall
rooms: { hall: { outline: [[0, 0], [14, 0], [14, 5], [0, 5]] } }
characters:
  sam: { role: player, start: [1, 2.5], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
interactables:
  plate: { type: pressure-plate, at: [7, 2.5], set: { stays: true }, zones: { near: { radius: ${String(radius)} } } }
  lever: { type: lever, at: [13.8, 2.5, 1] }
goals: { dry: { all: [{ interactable: lever, is: "on" }, { interactable: plate, is: up }] } }
`
  expect(answerTo(checked(hall(1)), 'unreachable-goal', 'dry')).toBe('ruled-out')
  expect(answerTo(checked(hall(1.9)), 'unreachable-goal', 'dry')).toBe('ruled-out')
  expect(answerTo(checked(hall(2.6)), 'unreachable-goal', 'dry')).toBe('found')
})
