import { spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from './build.mjs'
import { root } from './run.mjs'

// Each patch in faults/ is a mistake in one line. It names, in its first line, the tests that must turn red.
// A mistake may leave a name unused: that alone is not what it is to be caught by.
const types = ['-p', 'tsconfig.json', '--noUnusedLocals', 'false', '--noUnusedParameters', 'false']
await build()
const wanted = process.argv.slice(2)
const patches = readdirSync(`${root}faults`).filter((name) => name.endsWith('.patch'))
const chosen = patches.filter((name) => wanted.length === 0 || wanted.some((part) => name.includes(part)))
const missed = chosen.filter((name) => !isCaught(name))
console.log(`${String(chosen.length - missed.length)} of ${String(chosen.length)} faults turn a test red.`)
process.exitCode = missed.length > 0 ? 1 : 0

function isCaught(name) {
  const patch = `${root}faults/${name}`
  const tests = (/^# tests: (.*)$/m.exec(readFileSync(patch, 'utf8'))?.[1] ?? 'tests').split(' ')
  const copy = mkdtempSync(join(tmpdir(), 'zintel-fault-'))
  try {
    for (const part of [
      'src',
      'tests',
      'bench',
      'examples/levels',
      'examples/workbench/src',
      'docs',
      'scripts',
      'schemas',
      'dist',
      'package.json',
      'jest.config.js',
      'tsconfig.json',
    ]) {
      cpSync(root + part, join(copy, part), { recursive: true })
    }
    symlinkSync(`${root}node_modules`, join(copy, 'node_modules'))
    if (ran('git', ['apply', '--whitespace=nowarn', patch], copy) !== 0) return told(name, 'the patch does not apply')
    if (ran(join(root, 'node_modules/.bin/tsc'), types, copy) !== 0) return told(name, 'it does not compile')
    const jest = spawnSync(join(root, 'node_modules/.bin/jest'), ['--ci', '--bail', ...tests], {
      cwd: copy,
      encoding: 'utf8',
      env: { ...process.env, NODE_OPTIONS: '--experimental-vm-modules --no-warnings', ZINTEL_ORACLE_RUNS: '60' },
    })
    const red = [...jest.stderr.matchAll(/^ {2}● (.*)$/gm)].map((match) => match[1])
    if (red.includes('Test suite failed to run')) return told(name, 'a test file does not run at all')
    if (jest.status === 0 || red.length === 0) return told(name, 'no test turns red')
    console.log(`caught  ${name}: ${[...new Set(red)].slice(0, 2).join('; ')}`)
    return true
  } finally {
    rmSync(copy, { recursive: true, force: true })
  }
}

function ran(command, args, cwd) {
  const result = spawnSync(command, args, { cwd, encoding: 'utf8' })
  if (result.status !== 0) console.log(result.stdout + result.stderr)
  return result.status
}

function told(name, why) {
  console.log(`MISSED  ${name}: ${why}`)
  return false
}
