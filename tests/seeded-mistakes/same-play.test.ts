import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { project, textOf } from '../levels.ts'

/** What can happen, as a graph: moves with the number of a label, 0 for what nobody perceives. The first situation is the start. */
interface Graph {
  readonly count: number
  readonly edges: readonly (readonly [from: number, label: number, to: number])[]
  readonly labels: Map<string, number>
}

const script = (await import(`${project}scripts/seeded-mistakes/main.mjs`)) as {
  isSamePlay(one: Graph, other: Graph): boolean
  graphOf(text: string, file: string, labels: Map<string, number>): Promise<Graph | null>
}

const labels = new Map<string, number>()
const graph = (count: number, ...edges: Graph['edges']): Graph => ({ count, edges, labels })

/** The same by the definition: the largest relation in which each move of one is followed by the other, after silent moves that change nothing. */
function isSamePlainly(one: Graph, other: Graph): boolean {
  const shift = one.count
  const count = one.count + other.count
  const moves = [...one.edges, ...other.edges.map(([a, label, b]) => [a + shift, label, b + shift] as const)]
  const from = (node: number): typeof moves => moves.filter(([a]) => a === node)
  let related = new Set<string>()
  const key = (a: number, b: number): string => `${String(a)} ${String(b)}`
  for (let a = 0; a < count; a++) for (let b = 0; b < count; b++) related.add(key(a, b))
  const isFollowed = (a: number, b: number): boolean =>
    from(a).every(([, label, to]) => {
      if (label === 0 && related.has(key(to, b))) return true
      const waiting = new Set([b])
      for (const node of waiting) {
        if (from(node).some(([, own, end]) => own === label && related.has(key(to, end)))) return true
        for (const [, own, end] of from(node)) if (own === 0 && related.has(key(a, end))) waiting.add(end)
      }
      return false
    })
  for (;;) {
    const next = new Set(
      [...related].filter((pair) => {
        const [a = 0, b = 0] = pair.split(' ').map(Number)
        return isFollowed(a, b) && isFollowed(b, a)
      }),
    )
    if (next.size === related.size) return related.has(key(0, shift))
    related = next
  }
}

const graphs = fc
  .integer({ min: 1, max: 5 })
  .chain((count) => {
    const node = fc.integer({ min: 0, max: count - 1 })
    const edge = fc.tuple(node, fc.integer({ min: 0, max: 2 }), node)
    return fc.tuple(fc.constant(count), fc.array(edge, { maxLength: 7 }))
  })
  .map(([count, edges]) => graph(count, ...edges.filter(([from, label, to]) => label !== 0 || from !== to)))

describe('whether the same can happen in two levels', () => {
  test('is told as by the definition, in random graphs', () => {
    let same = 0
    fc.assert(
      fc.property(graphs, graphs, (one, other) => {
        const is = script.isSamePlay(one, other)
        if (is) same++
        expect(is).toBe(isSamePlainly(one, other))
      }),
      { numRuns: 2000 },
    )
    expect(same).toBeGreaterThan(100)
  })

  test('a silent move that takes something away is not nothing', () => {
    const both = graph(3, [0, 1, 1], [0, 2, 2])
    expect(script.isSamePlay(both, graph(4, [0, 1, 1], [0, 2, 2], [0, 0, 3], [3, 1, 1]))).toBe(false)
    expect(script.isSamePlay(both, graph(4, [0, 0, 3], [3, 1, 1], [3, 2, 2]))).toBe(true)
  })

  const same: readonly [what: string, file: string, right: string, wrong: string, isSame: boolean][] = [
    ['the name of a transition', 'clock-tower', 'name: strike', 'name: ring', true],
    ['how long something lasts', 'clock-tower', 'after: 3', 'after: 1', true],
    ['where something stands', 'clock-tower', 'at: [3.5, 6.5]', 'at: [3, 6]', true],
    ['what is heard', 'clock-tower', 'sound: last-stroke', 'sound: stroke', false],
    ['how a state looks', 'clock-tower', 'look: still', 'look: quiet', false],
    ['a prompt', 'kennel', 'prompt: Open the run', 'prompt: Open', false],
    ['what a refusal says', 'kennel', 'They want a bone first.', 'No.', false],
    ['a goal', 'kennel', 'let-out: {', 'out: {', false],
    ['how many are given, where one is asked for', 'toll-booth', 'gives: penny }', 'gives: penny, count: 2 }', false],
  ]
  for (const [what, file, right, wrong, isSame] of same) {
    test(`${what}: ${isSame ? 'no difference' : 'a difference'}`, async () => {
      const text = textOf(`examples/levels/idioms/${file}.level.yaml`)
      expect(text.includes(right)).toBe(true)
      const known = new Map<string, number>()
      const one = await script.graphOf(text, file, known)
      const other = await script.graphOf(text.replace(right, wrong), file, known)
      expect(script.isSamePlay(one!, other!)).toBe(isSame)
    })
  }
})
