import { expect, test } from '@jest/globals'
import { Diagrams } from '../../src/explore/sets/diagrams.ts'
import { Random } from '../soak/random.ts'

/** Sets of assignments to so few bits that all of them can be listed: the plain twin of diagrams. */
const bits = 7
const all = Array.from({ length: 1 << bits }, (_, number) => number)
const bitOf = (number: number, bit: number): number => (number >> bit) & 1
const literalsOf = (number: number): number[] => Array.from({ length: bits }, (_, bit) => 2 * bit + bitOf(number, bit))

/** A random set, listed and as a diagram. */
function randomSet(diagrams: Diagrams, random: Random): { listed: Set<number>; set: number } {
  const share = random.next()
  const listed = new Set(all.filter(() => random.next() < share))
  let set = 0
  for (const number of listed) set = diagrams.union(set, diagrams.cube(literalsOf(number)))
  return { listed, set }
}

/** All that is in a diagram. */
function listed(diagrams: Diagrams, set: number): number[] {
  return all.filter((number) => {
    return diagrams.has(
      set,
      Uint8Array.from({ length: bits }, (_, bit) => bitOf(number, bit)),
    )
  })
}

test('operations on sets give what they give one by one', () => {
  const diagrams = new Diagrams(bits)
  const random = new Random(7)
  const picked = new Uint8Array(bits)
  for (let round = 0; round < 300; round++) {
    const [a, b] = [randomSet(diagrams, random), randomSet(diagrams, random)]
    const both = all.filter((number) => a.listed.has(number) && b.listed.has(number))
    const rest = all.filter((number) => a.listed.has(number) && !b.listed.has(number))
    expect(listed(diagrams, diagrams.union(a.set, b.set))).toEqual(
      all.filter((number) => a.listed.has(number) || b.listed.has(number)),
    )
    expect(listed(diagrams, diagrams.intersection(a.set, b.set))).toEqual(both)
    expect(listed(diagrams, diagrams.difference(a.set, b.set))).toEqual(rest)
    expect(diagrams.meet(a.set, b.set)).toBe(both.length > 0)
    expect(diagrams.isWithin(a.set, b.set)).toBe(rest.length === 0)
    expect(diagrams.size(a.set)).toBe(a.listed.size)
    expect(diagrams.pickOutside(a.set, b.set, picked)).toBe(rest.length > 0)
    if (rest.length > 0) expect(rest).toContain(picked.reduce((number, value, bit) => number | (value << bit), 0))
  }
})

test('changes lead from and to what they lead to one by one', () => {
  const diagrams = new Diagrams(bits)
  const random = new Random(8)
  for (let round = 0; round < 300; round++) {
    const { listed: from, set } = randomSet(diagrams, random)
    const some = (): number[] =>
      Array.from({ length: bits }, (_, bit) => bit).flatMap((bit) =>
        random.below(3) === 0 ? [2 * bit + random.below(2)] : [],
      )
    const [reads, writes] = [some(), some()]
    const change = diagrams.change(reads, writes)
    const holds = (number: number): boolean => reads.every((literal) => bitOf(number, literal >> 1) === (literal & 1))
    const after = (number: number): number =>
      writes.reduce((made, literal) => (made & ~(1 << (literal >> 1))) | ((literal & 1) << (literal >> 1)), number)
    const image = new Set([...from].filter(holds).map(after))
    expect(listed(diagrams, diagrams.image(set, change))).toEqual(all.filter((number) => image.has(number)))
    const before = all.filter((number) => holds(number) && from.has(after(number)))
    expect(listed(diagrams, diagrams.preimage(set, change))).toEqual(before)
  }
})
