import { expect, test } from '@jest/globals'
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'
import { project, textOf } from './levels.ts'

const patches = readdirSync(`${project}faults`).filter((name) => name.endsWith('.patch'))

test('there are at least sixty faults, and each still applies to the code and names tests that are there', () => {
  expect(patches.length).toBeGreaterThanOrEqual(60)
  for (const name of patches) {
    const { status, stderr } = spawnSync('git', ['apply', '--check', `faults/${name}`], {
      cwd: project,
      encoding: 'utf8',
    })
    expect(`${name}: ${String(status)} ${stderr}`).toBe(`${name}: 0 `)
    const tests = (/^# tests: (.*)$/m.exec(textOf(`faults/${name}`))?.[1] ?? '').split(' ')
    for (const test of tests)
      expect(`${test} ${String(existsSync(project + test) || existsSync(`${project}${test}.test.ts`))}`).toBe(
        `${test} true`,
      )
  }
})
