import { expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { readdirSync } from 'node:fs'
import { parse } from 'yaml'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { project, textOf } from '../levels.ts'

const folders = ['examples/levels/', 'examples/levels/gallery/']
const levels = folders.flatMap((folder) =>
  readdirSync(project + folder)
    .filter((file) => file.endsWith('.level.yaml'))
    .map((file) => textOf(folder + file)),
)

const oddTexts = [
  '',
  ' ',
  'Ünï-cödé',
  '\u202e',
  '\u0000',
  '🗝️',
  '__proto__',
  'constructor',
  '{',
  '&a',
  '*a',
  '!!js',
  'a'.repeat(5000),
]
const oddValues: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom(...oddTexts),
  fc.constantFrom(-1, 0, 1e-9, 1e308, -1e308, 0.1234567, 2 ** 53, -0, 99999),
  fc.constantFrom(null, true, false, [], {}, [[]], [1, 2], { a: 1 }, [null]),
  fc.integer({ min: 1, max: 60 }).map((depth) => nested(depth)),
  fc.string({ unit: 'binary', maxLength: 30 }),
)

function nested(depth: number): unknown {
  return depth === 0 ? 1 : depth % 2 === 0 ? [nested(depth - 1)] : { all: nested(depth - 1) }
}

interface Mutation {
  readonly level: number
  readonly at: number
  readonly how: 'drop' | 'replace' | 'misspell' | 'rename' | 'line' | 'swap' | 'insert'
  readonly value: unknown
}

const mutation: fc.Arbitrary<Mutation> = fc.record({
  level: fc.nat(levels.length - 1),
  at: fc.nat(100_000),
  how: fc.constantFrom('drop', 'replace', 'replace', 'misspell', 'rename', 'line', 'swap', 'insert'),
  value: oddValues,
})

/** A level with one thing changed: in its value, written anew as JSON, or in its text. */
function mutated({ level, at, how, value }: Mutation): string {
  const text = levels[level]!
  const lines = text.split('\n')
  const line = at % lines.length
  if (how === 'line') return lines.filter((_, i) => i !== line).join('\n')
  if (how === 'swap')
    return lines.map((one, i) => (i === line ? (lines[i + 1] ?? '') : i === line + 1 ? lines[line]! : one)).join('\n')
  if (how === 'insert') return lines.map((one, i) => (i === line ? `${one}${String(value)}` : one)).join('\n')
  const root = parse(text) as Record<string, unknown>
  const places: { holder: Record<string, unknown>; key: string }[] = []
  const walk = (holder: Record<string, unknown>): void => {
    for (const key of Object.keys(holder)) {
      places.push({ holder, key })
      if (typeof holder[key] === 'object' && holder[key] !== null) walk(holder[key] as Record<string, unknown>)
    }
  }
  walk(root)
  const { holder, key } = places[at % places.length]!
  const old = holder[key]
  if (how === 'drop') {
    if (Array.isArray(holder)) holder.splice(Number(key), 1)
    else Reflect.deleteProperty(holder, key)
  } else if (how === 'misspell' && typeof old === 'string') {
    const i = at % Math.max(1, old.length)
    holder[key] = old.slice(0, i) + old.slice(i + 1)
  } else if (how === 'rename' && !Array.isArray(holder)) {
    Reflect.deleteProperty(holder, key)
    Object.defineProperty(holder, `${key}x`, { value: old, enumerable: true })
  } else holder[key] = value
  return JSON.stringify(root)
}

/** What comes of a text: reads it, and spells it out where that can be done. */
function timed(text: string): { took: number; told: boolean } {
  const since = performance.now()
  const { value, source, diagnostics } = readLevel(text, 'mutated')
  if (value) expandLevel(value, source)
  const took = performance.now() - since
  if (!value) {
    expect(diagnostics.length).toBeGreaterThan(0)
    for (const { place, message } of diagnostics) {
      expect(place).toMatchObject({ file: 'mutated' })
      expect(place.line).toBeGreaterThan(0)
      expect(place.column).toBeGreaterThan(0)
      expect(message.length).toBeGreaterThan(10)
    }
  }
  return { took, told: !value }
}

const runs = Number(process.env.ZINTEL_MUTATIONS ?? 500)

test(`${String(runs)} levels with seeded mistakes: each is told with its place or can be used, none throws, each under 200 ms`, () => {
  for (const text of levels) timed(text)
  let told = 0
  fc.assert(
    fc.property(mutation, (one) => {
      const text = mutated(one)
      // The machine may be busy with something else: only what is slow every time is slow.
      const first = timed(text)
      if (first.took > 200) expect(Math.min(...[1, 2, 3].map(() => timed(text).took))).toBeLessThan(200)
      if (first.told) told++
    }),
    { numRuns: runs, seed: 11 },
  )
  expect(told).toBeGreaterThan(runs / 5)
})
