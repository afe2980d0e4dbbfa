import { expect, test } from '@jest/globals'
import { existsSync, readdirSync } from 'node:fs'
import { project, textOf } from './levels.ts'

const patches = readdirSync(`${project}faults`).filter((name) => name.endsWith('.patch'))

test('there are at least sixty faults, and each still applies to the code and names tests that are there', () => {
  expect(patches.length).toBeGreaterThanOrEqual(60)
  const wrong = patches.flatMap((name) => {
    const patch = textOf(`faults/${name}`)
    const tests = (/^# tests: (.*)$/m.exec(patch)?.[1] ?? '').split(' ')
    const missing = tests.filter((file) => !existsSync(project + file) && !existsSync(`${project}${file}.test.ts`))
    return [...missing.map((file) => `${name} names ${file}`), ...misplaced(patch).map((place) => `${name}: ${place}`)]
  })
  expect(wrong).toEqual([])
})

/** The places of a patch whose lines, before the change, are not just once in the file. */
function misplaced(patch: string): string[] {
  const files = patch.split(/^--- a\//m).slice(1)
  if (files.length === 0) return ['nothing is changed']
  return files.flatMap((file) => {
    const path = file.slice(0, file.indexOf('\n'))
    const code = existsSync(project + path) ? textOf(path) : ''
    const hunks = file.split(/^@@ .*\n/m).slice(1)
    if (hunks.length === 0) return [`${path} is not changed`]
    return hunks.filter((hunk) => code.split(before(hunk)).length !== 2).map((hunk) => `${path}: ${before(hunk)}`)
  })
}

/** The lines that a hunk expects. */
function before(hunk: string): string {
  const lines = hunk.replace(/\n+$/, '').split('\n')
  return `${lines
    .filter((line) => !line.startsWith('+'))
    .map((line) => line.slice(1))
    .join('\n')}\n`
}
