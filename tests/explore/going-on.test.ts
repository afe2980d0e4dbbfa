import { expect, test } from '@jest/globals'
import { Search } from '../../src/explore/search.ts'
import type { Free } from '../../src/explore/successors.ts'
import { expandLevel, loadLevel } from '../../src/interactables/index.ts'
import { makeStage, type Stage } from '../../src/play/index.ts'
import { randomLevel } from '../soak/levels.ts'
import { Random } from '../soak/random.ts'

const wanted = Number(process.env.ZINTEL_TWINS ?? 8)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** The most situations of a level that is compared. */
const most = 20_000

/** Random moves that are made free, at least one of them. */
function randomFree({ tables, expanded }: Stage, random: Random): Free {
  const none: Free = { rows: [], states: [], item: -1, places: [], muted: -1, untimed: -1 }
  const { rows, states } = tables
  const { items } = expanded
  if (items.length > 0 && random.chance(0.3)) return { ...none, item: random.below(items.length) }
  if (random.chance(0.5)) return { ...none, rows: [random.below(rows.length)] }
  const machine = random.below(states.length)
  return { ...none, states: [{ machine, state: random.below(states[machine]!.length) }] }
}

/** All that a search has found, without regard to the order: situations with their marks, moves, and rows that are taken. */
function foundBy(search: Search): { situations: string[]; moves: string[]; taken: boolean[] } {
  const key = new Int32Array(search.packing.words)
  const names = Array.from({ length: search.store.count }, (_, index) => {
    search.store.read(index, key)
    return key.join()
  })
  const moves: string[] = []
  for (const [index, name] of names.entries()) {
    for (let edge = search.firstEdge(index); edge < search.endEdge(index); edge++) {
      const done = `${String(search.kind(edge))} ${String(search.input(edge))}`
      moves.push(`${name} -> ${names[search.target(edge)]!} by ${done}`)
    }
  }
  return {
    situations: names.map((name, index) => `${name}: ${String(search.marks.at(index))}`).sort(),
    moves: moves.sort(),
    taken: [...search.firstTaken].map((first) => first >= 0),
  }
}

function complete(search: Search): Search | null {
  while (!search.advance(1_000)) continue
  return search.isComplete ? search : null
}

test(`a search that goes on from another one finds what one from the start does: ${String(wanted)} random levels`, () => {
  const seen = { levels: 0, more: 0 }
  for (let number = seed; seen.levels < wanted; number++) {
    const reading = loadLevel(randomLevel(number).level)
    const stage = makeStage(expandLevel(reading.value!, reading.source))
    const plain = complete(new Search(stage, 'loose', most))
    if (!plain?.hasStart) continue
    const free = randomFree(stage, new Random(number))
    const anew = complete(new Search(stage, 'loose', most, free))
    if (!anew) continue
    seen.levels++
    const onwards = complete(new Search(stage, 'loose', most, free, plain))!
    expect({ number, ...foundBy(onwards) }).toEqual({ number, ...foundBy(anew) })
    if (anew.store.count > plain.store.count) seen.more++
  }
  console.info(JSON.stringify(seen))
  expect(seen.more).toBeGreaterThan(wanted / 4)
}, 600_000)
