import { expect, test } from '@jest/globals'
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

/** A folder in which the package is installed, with a program in TypeScript that was compiled; what the compiler said. */
function compiled(code: string): { readonly folder: string; readonly said: string } {
  const folder = mkdtempSync(join(tmpdir(), 'zintel-pages-'))
  mkdirSync(join(folder, 'node_modules'))
  symlinkSync(project, join(folder, 'node_modules/zintel'))
  symlinkSync(`${project}node_modules/@types`, join(folder, 'node_modules/@types'))
  writeFileSync(join(folder, 'game.ts'), code)
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }')
  const options = ['--strict', '--module', 'nodenext', '--target', 'es2022', '--types', 'node', 'game.ts']
  const { stdout } = spawnSync(process.execPath, [`${project}node_modules/typescript/bin/tsc`, ...options], {
    cwd: folder,
    encoding: 'utf8',
  })
  return { folder, said: stdout }
}

test('the TypeScript of the first page compiles, checks, and rings the gong', () => {
  const [define = '', play = ''] = [...textOf('README.md').matchAll(/```ts\n([^]*?)```/g)].map(([, code]) => code!)
  const { folder, said } = compiled(play.split('\n')[0]! + '\n' + define + play.split('\n').slice(1).join('\n'))
  try {
    expect(said).toBe('')
    const { stdout, stderr } = spawnSync(process.execPath, ['game.js'], { cwd: folder, encoding: 'utf8' })
    expect([stderr, stdout]).toEqual(['', 'ringing\n'])
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}, 60_000)

test('the game loop of the page compiles, runs, and meets the locked door', () => {
  const [, code = ''] = /```ts\n([^]*?)```/.exec(textOf('docs/in-a-game.md')) ?? []
  const [head, ...rest] = code.split('\n')
  const { folder, said } = compiled(`${head!}\n${game}${rest.join('\n')}${end}`)
  try {
    expect(said).toBe('')
    const level = `${project}examples/levels/tide-mill.level.yaml`
    const { stdout, stderr } = spawnSync(process.execPath, ['game.js', level], { cwd: folder, encoding: 'utf8' })
    expect(stderr).toBe('')
    const { done, spot, seen } = JSON.parse(stdout) as { done: string[]; spot: [number, number]; seen: string[] }
    expect(spot[0]).toBeGreaterThan(8)
    expect(seen).toEqual(['Open the mill door'])
    expect(done).toEqual(['sound latch-rattle', 'message Locked. The sluice key would fit.'])
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}, 60_000)
