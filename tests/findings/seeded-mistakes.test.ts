import { expect, test } from '@jest/globals'
import { project, textOf } from '../levels.ts'

interface SeededMistake {
  readonly file: string
  readonly does: string
  readonly text: string
}

interface Verdict {
  readonly outcome: string
  readonly rules: readonly string[]
}

// The script runs on the built library, as it does by itself.
const script = (await import(`${project}scripts/seeded-mistakes.mjs`)) as {
  seededMistakes(): Promise<SeededMistake[]>
  judged(mistake: SeededMistake): Promise<Verdict>
  line(mistake: SeededMistake, verdict: Verdict, number: number): string
}

/** A line of a table without the padding of its columns. */
const bare = (line: string): string => line.replaceAll(/\s+/g, ' ').trim()

test('the table of seeded mistakes is what the script makes of them: every twentieth is checked again', async () => {
  const lines = new Set(textOf('docs/seeded-mistakes.md').split('\n').map(bare))
  const all = await script.seededMistakes()
  expect(all).toHaveLength(200)
  for (let i = 0; i < all.length; i += 20) {
    const verdict = await script.judged(all[i]!)
    expect([...lines]).toContain(bare(script.line(all[i]!, verdict, i + 1)))
  }
}, 120_000)

test('every mistake that is not found is explained', () => {
  expect(textOf('docs/seeded-mistakes.md')).not.toContain('NOT EXPLAINED')
  const found = /- found: (\d+)/.exec(textOf('docs/seeded-mistakes.md'))
  expect(Number(found?.[1])).toBeGreaterThan(110)
})
