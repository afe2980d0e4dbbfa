import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { parse } from 'yaml'
import { project, textOf } from '../levels.ts'

const { converted } = (await import(`${project}scripts/convert.mjs`)) as { converted: (text: string) => string }
const before = 'tests/convert/before/'

describe('files in the words of before are turned into the new ones', () => {
  for (const file of readdirSync(project + before)) {
    test(`${file}: it means what the one of the gallery does, and every comment is kept`, () => {
      const old = textOf(before + file)
      const now = converted(old)
      expect(parse(now)).toEqual(parse(textOf(`examples/levels/gallery/${file}`)))
      const comments = (text: string): number => text.match(/# \S/g)?.length ?? 0
      // Lines that become one have one comment.
      expect(comments(now)).toBeGreaterThanOrEqual(comments(old) - 3)
      for (const [, id] of old.matchAll(/\[([a-z-]+)\](?=[^"]*$)/gm)) expect(now).toContain(`[${id!}]`)
      expect(converted(now)).toBe(now)
    })
  }
})

test('names of one’s own that are words of before are left alone', () => {
  const level = `zintel: 1
title: Own words
types:
  # Somebody who stands there.
  guard:
    states: { there: { lasting: true }, gone: { lasting: true } }
    transitions: [{ from: there, to: gone, trigger: { enter: area }, effects: [{ send: moved }] }]
    zones: { area: { radius: 1 } }
interactables:
  guard: { type: guard, at: [1, 1] } # there at first
goals: { alone: { interactable: guard, is: gone } }
`
  expect(converted(level)).toBe(level)
})

test('what is in neither words is left alone, and what is no YAML is an error', () => {
  expect(converted('just: text\n')).toBe('just: text\n')
  expect(() => converted('a: [1\n')).toThrow()
})
