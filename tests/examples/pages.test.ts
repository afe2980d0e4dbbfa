import { afterAll, expect, test } from '@jest/globals'
import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { project, textOf } from '../levels.ts'

/** What the game loop of the page takes from its game. */
const game = `
import { readFileSync } from 'node:fs'
const levelText: string = readFileSync(process.argv[2]!, 'utf8')
const done: string[] = []
let presses = 1
const playSound = (name: string): void => void done.push('sound ' + name)
const showMessage = (text: string): void => void done.push('message ' + text)
const keysToDirection = (): [number, number] | null => (frames < 200 ? [1, 0.02] : null)
const wasPressed = (key: string): boolean => key === 'e' && frames > 250 && presses-- > 0
const drawInteractable = (name: string, pose: number, transform: { turn: number }): void => void done.push(name + String(pose + transform.turn))
const drawCharacter = (_name: string, position: readonly [number, number], _facing: readonly [number, number]): void => void (spot = position)
const showPrompts = (prompts: readonly { text: string }[]): void => void (seen = prompts.map(({ text }) => text))
let spot: readonly [number, number] = [0, 0]
let seen: string[] = []
let frames = 0
`
const end = `
for (; frames < 300; frames++) frame(1000 / 60)
console.log(JSON.stringify({ done, spot, seen }))
`

/** The programs of the pages: that of the first page, and the game loop with its game. */
const programs = {
  'gong.ts': (() => {
    const [define = '', play = ''] = [...textOf('README.md').matchAll(/```ts\n([^]*?)```/g)].map(([, code]) => code!)
    const [first = '', ...rest] = play.split('\n')
    return `${first}\n${define}${rest.join('\n')}`
  })(),
  'game.ts': (() => {
    const [, code = ''] = /```ts\n([^]*?)```/.exec(textOf('docs/in-a-game.md')) ?? []
    const [head = '', ...rest] = code.split('\n')
    return `${head}\n${game}${rest.join('\n')}${end}`
  })(),
}

/** A folder in which the package is installed, with the programs in it, compiled. */
const folder = mkdtempSync(join(tmpdir(), 'zintel-pages-'))

afterAll(() => {
  rmSync(folder, { recursive: true, force: true })
})

test('the TypeScript of the pages compiles', () => {
  mkdirSync(join(folder, 'node_modules'))
  symlinkSync(project, join(folder, 'node_modules/zintel'))
  symlinkSync(`${project}node_modules/@types`, join(folder, 'node_modules/@types'))
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }')
  for (const [name, code] of Object.entries(programs)) writeFileSync(join(folder, name), code)
  const options = ['--strict', '--module', 'nodenext', '--target', 'es2022', '--types', 'node']
  const tsc = [`${project}node_modules/typescript/bin/tsc`, ...options, ...Object.keys(programs)]
  const { stdout } = spawnSync(process.execPath, tsc, { cwd: folder, encoding: 'utf8' })
  expect(stdout).toBe('')
}, 120_000)

test('the program of the first page checks, and rings the gong', () => {
  const { stdout, stderr } = spawnSync(process.execPath, ['gong.js'], { cwd: folder, encoding: 'utf8' })
  expect([stderr, stdout]).toEqual(['', 'ringing\n'])
})

test('the game loop of the page runs, and meets the locked door', () => {
  const level = `${project}examples/levels/tide-mill.level.yaml`
  const { stdout, stderr } = spawnSync(process.execPath, ['game.js', level], { cwd: folder, encoding: 'utf8' })
  expect(stderr).toBe('')
  const { done, spot, seen } = JSON.parse(stdout) as { done: string[]; spot: [number, number]; seen: string[] }
  expect(spot[0]).toBeGreaterThan(8)
  expect(seen).toEqual(['Open the mill door'])
  expect(done).toEqual(['sound latch-rattle', 'message Locked. The sluice key would fit.'])
})
