import { expect, test } from '@jest/globals'
import { type BitChange, Diagrams } from '../../src/explore/sets/diagrams.ts'
import { closedUnder, type Way } from '../../src/explore/sets/rounds.ts'
import { spread } from '../../src/explore/sets/spread.ts'
import { finish } from '../../src/model/index.ts'
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
  return { listed, set: setOf(diagrams, listed) }
}

function setOf(diagrams: Diagrams, listed: Iterable<number>): number {
  return [...listed].reduce((set, number) => diagrams.union(set, diagrams.cube(literalsOf(number))), 0)
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
    expect(diagrams.pickWithin(a.set, b.set, picked)).toBe(both.length > 0)
    if (both.length > 0) expect(both).toContain(picked.reduce((number, value, bit) => number | (value << bit), 0))
    const kept = random.below(1 << bits)
    const agreeing = new Set([...a.listed].map((number) => number & kept))
    const projected = listed(
      diagrams,
      diagrams.projected(a.set, (bit) => bitOf(kept, bit) === 1),
    )
    expect(projected).toEqual(
      Array.from({ length: 1 << bits }, (_, number) => number).filter((number) => agreeing.has(number & kept)),
    )
  }
})

interface ListedChange {
  readonly change: BitChange
  readonly holds: (number: number) => boolean
  readonly after: (number: number) => number
}

/** A random change of a few bits, and what it does to an assignment. */
function randomChange(diagrams: Diagrams, random: Random): ListedChange {
  const some = (): number[] =>
    Array.from({ length: bits }, (_, bit) => bit).flatMap((bit) =>
      random.below(3) === 0 ? [2 * bit + random.below(2)] : [],
    )
  const [reads, writes] = [some(), some()]
  return {
    change: diagrams.change(reads, writes),
    holds: (number) => reads.every((literal) => bitOf(number, literal >> 1) === (literal & 1)),
    after: (number) =>
      writes.reduce((made, literal) => (made & ~(1 << (literal >> 1))) | ((literal & 1) << (literal >> 1)), number),
  }
}

test('changes lead from and to what they lead to one by one', () => {
  const diagrams = new Diagrams(bits)
  const random = new Random(8)
  for (let round = 0; round < 300; round++) {
    const { listed: from, set } = randomSet(diagrams, random)
    const { change, holds, after } = randomChange(diagrams, random)
    const image = new Set([...from].filter(holds).map(after))
    expect(listed(diagrams, diagrams.image(set, change))).toEqual(all.filter((number) => image.has(number)))
    const before = all.filter((number) => holds(number) && from.has(after(number)))
    expect(listed(diagrams, diagrams.preimage(set, change))).toEqual(before)
  }
})

/** All that a set is closed to, one by one: forwards or backwards, with nothing in `without`. */
function closedOneByOne(
  from: ReadonlySet<number>,
  changes: readonly ListedChange[],
  way: Way,
  without: ReadonlySet<number>,
): number[] {
  const found = new Set(from)
  for (let before = -1; before !== found.size;) {
    before = found.size
    for (const { holds, after } of changes) {
      for (const number of all) {
        if (!holds(number)) continue
        const [source, target] = way === 'forwards' ? [number, after(number)] : [after(number), number]
        if (found.has(source) && !without.has(target)) found.add(target)
      }
    }
  }
  return [...found].sort((a, b) => a - b)
}

test('sets are closed under many changes to what they are closed to one by one, with and without something left out', () => {
  const diagrams = new Diagrams(bits)
  const random = new Random(9)
  const seen = { grown: 0, hindered: 0 }
  for (let round = 0; round < 600; round++) {
    const changes = Array.from({ length: 1 + random.below(6) }, () => randomChange(diagrams, random))
    const touching = changes.filter(({ change }) => change.bits.length > 0)
    const way: Way = round % 2 === 0 ? 'forwards' : 'backwards'
    // What is left out depends on a bit or two, as goals do.
    const left = randomChange(diagrams, random)
    const without = new Set(round % 3 === 0 ? [] : all.filter(left.holds))
    const from = new Set([...randomSet(diagrams, random).listed].filter((number) => !without.has(number)).slice(0, 3))
    const set = finish(
      closedUnder(
        diagrams,
        touching.map(({ change }) => change),
        way,
        setOf(diagrams, from),
        { nodes: Infinity, without: setOf(diagrams, without) },
      ),
    )!
    const wanted = closedOneByOne(from, touching, way, without)
    expect(listed(diagrams, set)).toEqual(wanted)
    if (wanted.length > from.size) seen.grown++
    if (wanted.length < closedOneByOne(from, touching, way, new Set()).length) seen.hindered++
  }
  expect(seen.grown).toBeGreaterThan(100)
  expect(seen.hindered).toBeGreaterThan(30)
})

test('a set that is nearly closed is closed without trying what need not be tried', () => {
  const diagrams = new Diagrams(bits)
  const random = new Random(10)
  let more = 0
  for (let round = 0; round < 600; round++) {
    const changes = Array.from({ length: 2 + random.below(5) }, () => randomChange(diagrams, random)).filter(
      ({ change }) => change.bits.length > 0,
    )
    const closed = new Set(closedOneByOne(new Set([random.below(1 << bits)]), changes, 'forwards', new Set()))
    // What one more change leads to from there is closed under all that touches other bits.
    const { change, holds, after } = randomChange(diagrams, random)
    const from = new Set([...closed].filter(holds).map(after))
    const changed = new Uint8Array(bits)
    for (const bit of change.bits) changed[bit] = 1
    const own = changes.map((one) => one.change)
    const options = { nodes: Infinity, changed, wasClosed: () => true }
    const set = finish(closedUnder(diagrams, own, 'forwards', setOf(diagrams, from), options))!
    const wanted = closedOneByOne(from, changes, 'forwards', new Set())
    expect(listed(diagrams, set)).toEqual(wanted)
    if (wanted.length > from.size) more++
  }
  expect(more).toBeGreaterThan(50)
})

test('sets that are spread over places come to what they come to one by one', () => {
  const diagrams = new Diagrams(bits)
  const random = new Random(11)
  const places = 4
  let most = 0
  for (let round = 0; round < 1000; round++) {
    // The same changes are at several places, as they are in a level.
    const pool = Array.from({ length: 5 }, () => randomChange(diagrams, random))
    const moves = Array.from({ length: 20 }, (_, i) => {
      const one = pool[random.below(pool.length)]!
      return { ...one, from: i % places, to: i < 12 ? i % places : random.below(places) }
    })
    const way: Way = round % 2 === 0 ? 'forwards' : 'backwards'
    const left = randomChange(diagrams, random)
    const without = new Set(way === 'backwards' || round % 3 === 0 ? [] : all.filter(left.holds))
    const start = Array.from({ length: places }, () => new Set<number>())
    for (let i = 0; i < 4; i++) {
      const number = random.below(1 << bits)
      if (!without.has(number)) start[random.below(places)]!.add(number)
    }
    const found = start.map((set) => new Set(set))
    for (let before = -1, count = 0; before !== count;) {
      before = count
      for (const { from, to, holds, after } of moves) {
        for (const number of all.filter(holds)) {
          const [source, target] = way === 'forwards' ? [from, to] : [to, from]
          const [first, then] = way === 'forwards' ? [number, after(number)] : [after(number), number]
          if (found[source]!.has(first) && !without.has(then)) found[target]!.add(then)
        }
      }
      count = found.reduce((sum, set) => sum + set.size, 0)
      most = Math.max(most, count)
    }
    const leftOut = setOf(diagrams, without)
    const spreadFrom = (from: Int32Array, before?: Int32Array): Int32Array =>
      finish(
        spread({ diagrams, nodes: Infinity }, from, moves, {
          way,
          without: leftOut,
          next: ({ change }, set) =>
            diagrams.difference(
              way === 'forwards' ? diagrams.image(set, change) : diagrams.preimage(set, change),
              leftOut,
            ),
          spread: before,
        }),
      )!
    const from = Int32Array.from(start, (set) => setOf(diagrams, set))
    const expected = found.map((set) => [...set].sort((a, b) => a - b))
    expect([...spreadFrom(from)].map((set) => listed(diagrams, set))).toEqual(expected)
    // In two goes: what was spread before need not be spread again.
    const some = from.map((set, place) => (place < 2 ? set : 0))
    const before = spreadFrom(some)
    const both = from.map((set, place) => diagrams.union(set, before[place]!))
    expect([...spreadFrom(both, before)].map((set) => listed(diagrams, set))).toEqual(expected)
  }
  expect(most).toBeGreaterThan(60)
})

test('the bits that decide what is in a set are told', () => {
  const diagrams = new Diagrams(bits)
  expect([...diagrams.bitsOf(0)]).toEqual([])
  expect([...diagrams.bitsOf(1)]).toEqual([])
  const set = diagrams.union(diagrams.cube([2 * 1 + 1, 2 * 4]), diagrams.cube([2 * 1, 2 * 6 + 1]))
  expect([...diagrams.bitsOf(set)].sort()).toEqual([1, 4, 6])
})
