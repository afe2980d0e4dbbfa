import { describe, expect, test } from '@jest/globals'
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { readLevel } from '../../src/interactables/index.ts'
import { project, textOf } from '../levels.ts'
import { startZintel, zintel } from './zintel.ts'

const own = 'examples/levels/cottages/'

/** A folder with the cottages, of which one file may be changed. */
function cottages(file = '', right = '', wrong = ''): string {
  const folder = mkdtempSync(join(tmpdir(), 'zintel-common-'))
  cpSync(project + own, folder, { recursive: true })
  if (file !== '') {
    const text = readFileSync(join(folder, file), 'utf8')
    expect(text.includes(right)).toBe(true)
    writeFileSync(join(folder, file), text.replace(right, wrong))
  }
  return folder
}

const common = 'cottages.common.yaml'

describe('what levels have in common', () => {
  test('is theirs: they are checked, played, drawn and listed with it, and what one does not use is not told', async () => {
    const folder = cottages(common, 'items:\n', 'items:\n  poker: { title: poker }\n')
    const { code, out } = await zintel(['check', folder])
    expect([code, out]).toEqual([0, expect.stringContaining('2 files: nothing found.')])
    const upper = join(folder, 'upper.level.yaml')
    const route = await zintel(['route', upper, 'out'])
    expect(route.out).toContain('Press: stove uses up the peat.')
    expect((await zintel(['list', upper])).out).toContain('stove  1 instance')
  })

  test('points at its own lines where it is wrong, and is not fixed from a level', async () => {
    const folder = cottages(common, 'carries: matches', 'carries: mathces')
    const { code, out } = await zintel(['check', join(folder, 'lower.level.yaml')])
    expect(code).toBe(1)
    expect(out).toContain(`${join(folder, common)}:`)
    expect(out).toContain('There is no item "mathces".')
    expect(out).not.toContain('--fix does it')
    const fixing = await zintel(['check', '--fix', '--yes', join(folder, 'lower.level.yaml')])
    expect(fixing.out).toContain('No automatic fixes.')
    expect(readFileSync(join(folder, common), 'utf8')).toContain('mathces')
  })

  test('a level with it is fixed as any other', async () => {
    const folder = cottages('lower.level.yaml', 'gives: peat', 'gives: paet')
    const file = join(folder, 'lower.level.yaml')
    expect((await zintel(['check', '--fix', '--yes', file])).code).toBe(0)
    expect(readFileSync(file, 'utf8')).toContain('gives: peat')
  })
})

describe('a common file that cannot be used is told at its place', () => {
  const told = async (folder: string): Promise<string> => {
    const { code, err } = await zintel(['check', join(folder, 'lower.level.yaml')])
    expect(code).toBe(2)
    return err
  }

  test('one that is not there', async () => {
    const folder = cottages()
    rmSync(join(folder, common))
    const err = await told(folder)
    expect(err).toContain('lower.level.yaml:4:10: The common file "cottages.common.yaml" cannot be read.')
    expect(err).toContain('4 | common: [cottages.common.yaml]')
  })

  test('a wrong shape, another kind of file, another version', async () => {
    const shape = await told(cottages(common, 'states:\n', 'status:\n'))
    expect(shape).toContain(`${common}:12:5`)
    // A line of the level would be the wrong one to show.
    expect(shape).not.toContain('12 |')
    expect(await told(cottages(common, 'common: 1', 'zintel: 1'))).toContain('This is a level, not a common file.')
    expect(await told(cottages(common, 'common: 1', 'common: 2'))).toContain(`${common}:2:`)
  })

  test('a name that is defined in both', async () => {
    const folder = cottages('lower.level.yaml', 'rooms:', 'items:\n  peat: { title: turf }\nrooms:')
    expect(await told(folder)).toMatch(
      /lower\.level\.yaml:6:3: The item "peat" is in .*cottages\.common\.yaml already\./,
    )
  })
})

test('read as text, a level has the common files that it is given', () => {
  const level = textOf(`${own}lower.level.yaml`)
  const { value, source } = readLevel(level, 'a/lower.level.yaml', { [common]: textOf(own + common) })
  expect(Object.keys(value!.types!)).toEqual(['stove'])
  expect(source.place('types.stove')).toMatchObject({ file: 'a/cottages.common.yaml', line: 9 })
  expect(source.isElsewhere('types.stove.states.cold')).toBe(true)
  expect(source.isElsewhere('interactables.stove')).toBe(false)
  expect(readLevel(level).diagnostics.map(({ code }) => code)).toEqual(['not-readable'])
})

test('watching a level watches what it has in common with others', async () => {
  const folder = cottages()
  const child = startZintel('check', '--watch', join(folder, 'lower.level.yaml'))
  let [out, err] = ['', '']
  child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()))
  child.stderr.on('data', (chunk: Buffer) => (err += chunk.toString()))
  const until = async (rounds: number): Promise<void> => {
    for (let i = 0; i < 400 && err.split('Watching:').length - 1 < rounds; i++)
      await new Promise((resume) => setTimeout(resume, 100))
    expect(err.split('Watching:').length - 1).toBeGreaterThanOrEqual(rounds)
  }
  await until(1)
  const file = join(folder, common)
  writeFileSync(file, readFileSync(file, 'utf8').replace('carries: matches', 'carries: mathces'))
  await until(2)
  expect(out).toContain('There is no item "mathces".')
  child.kill('SIGINT')
}, 120_000)
