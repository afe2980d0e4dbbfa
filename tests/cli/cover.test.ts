import { describe, expect, test } from '@jest/globals'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { project } from '../levels.ts'
import { zintel } from './zintel.ts'

const mill = `${project}examples/levels/tide-mill.level.yaml`
const rightWay = `${project}examples/levels/tide-mill.right-way.walkthrough.yaml`

async function inFolder(run: (folder: string) => Promise<void>): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'zintel-cover-'))
  try {
    await run(folder)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

describe('cover', () => {
  test('prints shares, and by interactable what is not exercised', async () => {
    const { code, out } = await zintel(['cover', mill, rightWay])
    expect(code).toBe(1)
    expect(out).toMatch(/^The tide mill {2}1 walkthrough\n/)
    expect(out).toContain('  states          35 of 35  100 %\n')
    expect(out).toContain('  refusals          0 of 6    0 %\n')
    expect(out).toContain('  mill-door\n    transition  open (closed → opening)\n')
    expect(out).toContain('refusal     light refused in dark (item missing: lamp oil)')
    expect(out).toContain('Add --write FOLDER to write walkthroughs for the rest.')
  })

  test('writes walkthroughs for the rest, with which nothing is left', async () => {
    await inFolder(async (folder) => {
      const to = join(folder, 'more')
      const { code, out } = await zintel(['cover', mill, rightWay, '--write', to])
      expect(code).toBe(0)
      expect(out).toContain('Wrote 1 walkthrough:\n')
      expect(out).toContain('With it, everything that can happen is exercised.\n')
      expect(readdirSync(to)).toEqual(['tide-mill.cover-1.walkthrough.yaml'])
      const file = join(to, 'tide-mill.cover-1.walkthrough.yaml')
      expect(readFileSync(file, 'utf8')).toContain(
        '  # beacon: light refused in dark (item missing: lamp oil); feedback refused\n  - press: beacon\n  - expect: { refused: beacon }\n',
      )
      const played = await zintel(['play', mill, file])
      expect(played.code).toBe(0)
      const both = await zintel(['cover', mill, rightWay, file])
      expect(both.code).toBe(0)
      expect(both.out).not.toContain('Not exercised')
      expect(both.out).not.toContain('--write')
    })
  })

  test('overwrites nothing, and then writes nothing at all', async () => {
    await inFolder(async (folder) => {
      const file = join(folder, 'tide-mill.cover-1.walkthrough.yaml')
      writeFileSync(file, 'mine')
      const { code, err } = await zintel(['cover', mill, '--write', folder])
      expect(code).toBe(2)
      expect(err).toBe(`zintel: ${file}: there is something of that name already.\n`)
      expect(readdirSync(folder)).toHaveLength(1)
      expect(readFileSync(file, 'utf8')).toBe('mine')
    })
  })

  test('gives totals and each thing as JSON', async () => {
    const { code, out } = await zintel(['cover', mill, rightWay, '--format', 'json'])
    expect(code).toBe(1)
    const { totals, items, walkthroughs, written } = JSON.parse(out) as {
      totals: Record<string, { possible: number; exercised: number; undecided: number }>
      items: { kind: string; by: number[] }[]
      walkthroughs: { file: string; passed: boolean }[]
      written: string[]
    }
    expect(totals.refusal).toEqual({ possible: 6, exercised: 0, undecided: 0 })
    for (const [kind, { possible }] of Object.entries(totals)) {
      expect(items.filter((one) => one.kind === kind)).toHaveLength(possible)
    }
    expect(walkthroughs).toEqual([{ title: 'The tide mill, the right way', passed: true, file: rightWay }])
    expect(written).toEqual([])
  })

  test('a walkthrough that fails decides the exit code, and says where to look', async () => {
    const text = 'walkthrough: 1\ntitle: Too early\nsteps: [{ expect: { interactable: mill-door, is: open } }]\n'
    const { code, out } = await zintel(['cover', mill, 'early.yaml'], {
      readText: (file) => Promise.resolve(file === 'early.yaml' ? text : readFileSync(file, 'utf8')),
    })
    expect(code).toBe(1)
    expect(out).toContain('not as expected: zintel play says why')
  })

  test('a budget that is too small leaves what it does not come to undecided, and says so', async () => {
    // Several characters act in it: sets cannot settle what the budget leaves open.
    const company = `${project}examples/levels/gallery/company`
    const files = [`${company}.level.yaml`, `${company}.right-way.walkthrough.yaml`]
    const { out } = await zintel(['cover', ...files, '--budget', '4'])
    expect(out).toContain('undecided')
    expect(out).toContain('Not everything was explored: the budget of 4 situations was used up')
  })

  test('a file that is no walkthrough is told, and nothing is played', async () => {
    const { code, out, err } = await zintel(['cover', mill, mill])
    expect(code).toBe(2)
    expect(out).toBe('')
    expect(err).toContain('tide-mill.level.yaml')
  })
})
