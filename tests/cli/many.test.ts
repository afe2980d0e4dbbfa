import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { verdictSchema } from '../../src/play/index.ts'
import { tangled } from '../../bench/levels.ts'
import { project, twoRooms } from '../levels.ts'
import type { Helper } from '../../src/cli/world.ts'
import { startZintel, zintel, zintelProcess } from './zintel.ts'

let folder = ''

const pulled = 'goals: { pulled: { interactable: lever, is: on } }\n'
const lever = 'interactables:\n  lever: { type: lever, at: [1, 1], feedback: { accepted: [{ sound: clack }] } }\n'
const fine = twoRooms(lever + pulled)
const bad = twoRooms(`items: { key: {} }\n${lever.replace('set: {}', '')}${pulled}`).replace('is: on', 'is: onn')
const walk = (title: string, more = ''): string =>
  `walkthrough: 1\ntitle: ${title}\n${more}steps:\n  - walk-to: lever\n  - press: lever\n  - expect: { interactable: lever, is: on }\n`

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zintel-many-'))
  mkdirSync(join(folder, 'more/node_modules/x'), { recursive: true })
  writeFileSync(join(folder, 'a.level.yaml'), fine)
  writeFileSync(join(folder, 'a.first.walkthrough.yaml'), walk('First'))
  writeFileSync(join(folder, 'settings.yaml'), 'some: thing\n')
  writeFileSync(join(folder, 'more/b.level.yaml'), bad)
  writeFileSync(join(folder, 'more/elsewhere.yaml'), walk('Elsewhere', 'level: ../a.level.yaml\n'))
  writeFileSync(join(folder, 'more/node_modules/x/c.level.yaml'), bad)
})

afterAll(() => {
  rmSync(folder, { recursive: true, force: true })
})

describe('several at a time', () => {
  test('says the same in the same order as one after the other', async () => {
    const files = [join(folder, 'more/b.level.yaml'), join(folder, 'a.level.yaml')]
    const inTurn = await zintel(['check', ...files, join(folder, 'missing.yaml')])
    const together = zintelProcess(['check', ...files, join(folder, 'missing.yaml')])
    expect([together.status, together.stdout]).toEqual([inTurn.code, inTurn.out])
    expect(together.stderr).toBe(inTurn.err)
  }, 60_000)

  test('shares files out to as many threads as are worth having, and passes an interrupt on', async () => {
    const files = ['a', 'b', 'c', 'd'].map((name) => {
      const file = join(folder, `${name}.shared.yaml`)
      writeFileSync(file, fine)
      return file
    })
    const signal = { aborted: false }
    let [running, most, started, ended, interrupts] = [0, 0, 0, 0, 0]
    const start = (): Helper => {
      started++
      return {
        // The first file takes longest: what is said of it still comes first. The last is interrupted.
        check: async (file) => {
          most = Math.max(most, ++running)
          if (file === files[3]) signal.aborted = true
          await new Promise((resume) => setTimeout(resume, file === files[0] || file === files[3] ? 150 : 10))
          running--
          return { checked: [], err: `${file}\n` }
        },
        interrupt: () => void interrupts++,
        end: () => Promise.resolve(void ended++),
      }
    }
    const { code, err } = await zintel(['check', ...files], { helpers: { most: 2, start }, signal })
    for (const file of files) rmSync(file)
    expect([started, most, ended]).toEqual([2, 2, 2])
    expect(err).toBe(files.map((file) => `${file}\n`).join(''))
    expect(interrupts).toBeGreaterThan(0)
    expect(code).toBe(130)
  })

  test('ends at an interrupt, with what is known', async () => {
    const apart = mkdtempSync(join(tmpdir(), 'zintel-large-'))
    for (const name of ['one', 'two', 'three']) writeFileSync(join(apart, `${name}.large.yaml`), tangled(18))
    const child = startZintel('check', apart)
    let out = ''
    child.stdout.on('data', (part: Buffer) => (out += part.toString()))
    await new Promise((resume) => setTimeout(resume, 4000))
    const since = performance.now()
    child.kill('SIGINT')
    const code = await new Promise((resume) => child.on('close', resume))
    expect(code).toBe(130)
    expect(performance.now() - since).toBeLessThan(4000)
    rmSync(apart, { recursive: true })
    expect(out).toContain('one.large.yaml')
    expect(out).toContain('Interrupted')
  }, 60_000)
})

describe('check', () => {
  test('takes folders and patterns: levels and projects, each once; a line for each, then the details, then all in one', async () => {
    const { code, out } = await zintel(['check', folder, join(folder, '*.level.yaml')])
    expect(code).toBe(1)
    const [first, second, empty] = out.split('\n')
    expect(first).toBe(`${join(folder, 'a.level.yaml')}: nothing found, nothing undecided`)
    expect(second).toMatch(/b\.level\.yaml: 1 error, 1 advice$/)
    expect(empty).toBe('')
    expect(out.trimEnd().split('\n').at(-1)).toBe('2 files: 1 error, 1 advice.')
    expect(out).not.toContain('node_modules')
    const alone = await zintel(['check', join(folder, '*.level.yaml')])
    expect(alone.out).toMatch(/^\S+a\.level\.yaml {2}Two rooms/)
  })

  test('a folder or a pattern with nothing to check in it is told', async () => {
    const { code, err } = await zintel(['check', join(folder, 'x*.yaml')])
    expect(code).toBe(2)
    expect(err).toContain('x*.yaml: there is no level or project in it.')
  })

  test('levels of a project are checked with it, and once', async () => {
    const round = `${project}examples/levels/gallery`
    const { out } = await zintel(['check', '--rule', 'unlisted-level', '--budget', '500', round])
    expect(out.match(/island\.level\.yaml: /g)).toHaveLength(1)
  })

  test('a project says how bad findings of a rule are', async () => {
    const at = join(folder, 'project')
    mkdirSync(at)
    writeFileSync(join(at, 'one.level.yaml'), twoRooms(`items: { coin: {} }\n${lever}${pulled}`))
    const text = (severities: string): string =>
      `project: 1\ntitle: One\nstart: one\nlevels: { one: { file: one.level.yaml } }\n${severities}`
    const file = join(at, 'the.project.yaml')
    writeFileSync(file, text(''))
    expect((await zintel(['check', file])).code).toBe(0)
    writeFileSync(file, text('severities: { unused-item: error }\n'))
    const strict = await zintel(['check', file])
    expect(strict.code).toBe(1)
    expect(strict.out).toContain('one.level.yaml: 1 error\n')
    writeFileSync(file, text('severities: { unused-itm: error }\n'))
    const lost = await zintel(['check', file])
    expect(lost.code).toBe(2)
    expect(lost.err).toContain('the.project.yaml:5:15: There is no rule "unused-itm". Did you mean "unused-item"?')
    rmSync(at, { recursive: true })
  })

  test('reads standard input', () => {
    const { status, stdout } = zintelProcess(['check', '-'], { input: fine })
    expect(status).toBe(0)
    expect(stdout).toContain('Nothing found, nothing undecided.')
  })

  test('what is found ends with 1 only where it is bad enough', async () => {
    const advice = join(folder, 'advice.yaml')
    writeFileSync(advice, twoRooms(lever))
    expect((await zintel(['check', advice])).code).toBe(0)
    expect((await zintel(['check', '--fail-on', 'advice', advice])).code).toBe(1)
    expect((await zintel(['check', '--fail-on', 'error', join(folder, 'more/b.level.yaml')])).code).toBe(1)
    expect((await zintel(['check', '--fail-on', 'worse', advice])).err).toContain(
      '--fail-on takes error, warning or advice',
    )
  })

  test('writes its report into a file, without colours', async () => {
    const out = join(folder, 'report.txt')
    const told = await zintel(['check', '--out', out, join(folder, 'more/b.level.yaml')], { colours: true })
    expect(told).toMatchObject({ code: 1, out: '' })
    // eslint-disable-next-line no-control-regex
    expect(readFileSync(out, 'utf8')).toMatch(/^[^\u001b]*unknown-name[^\u001b]*$/)
  })

  test('a baseline is written once; then only others count, and nothing is called clean that is not', async () => {
    const known = join(folder, 'known.json')
    const file = join(folder, 'more/b.level.yaml')
    const first = await zintel(['check', '--baseline', known, file])
    expect(first.code).toBe(0)
    expect(first.err).toContain('2 findings written to')
    const again = await zintel(['check', '--baseline', known, file])
    expect(again.code).toBe(0)
    expect(again.out).toContain('Nothing new found.\n2 findings known (--baseline).')
    expect(again.out).not.toContain('Nothing found')
    writeFileSync(file, bad.replace('{ key: {} }', '{ key: {}, coin: {} }'))
    const more = await zintel(['check', '--baseline', known, '--fail-on', 'advice', file])
    writeFileSync(file, bad)
    expect(more.code).toBe(1)
    expect(more.out).toContain('coin')
    writeFileSync(known, '{}')
    const broken = await zintel(['check', '--baseline', known, file])
    expect(broken).toMatchObject({ code: 2 })
    expect(broken.err).toContain('this is no baseline')
  })
})

describe('play', () => {
  test('of a folder: each walkthrough in the level that it names, or that is called as it is', async () => {
    const { code, out } = await zintel(['play', folder])
    expect(code).toBe(0)
    expect(out.trimEnd().split('\n').at(-1)).toBe('2 of 2 walkthroughs went as expected.')
    const only = await zintel(['play', '--only', 'Elsewhere', folder])
    expect(only.out).toContain('Elsewhere')
    expect(only.out).not.toContain('First')
    expect((await zintel(['play', '--only', 'nowhere', folder])).err).toContain(
      'there is no walkthrough with "nowhere"',
    )
  })

  test('of a walkthrough alone finds its level', async () => {
    expect((await zintel(['play', join(folder, 'a.first.walkthrough.yaml')])).code).toBe(0)
    const lost = join(folder, 'lost.yaml')
    writeFileSync(lost, walk('Lost'))
    const { code, err } = await zintel(['play', lost])
    rmSync(lost)
    expect(code).toBe(2)
    expect(err).toContain('there is no level for it')
  })

  test('as JSON it gives the verdicts too, which fit their schema', async () => {
    const { out } = await zintel(['play', '--format', 'json', folder])
    const lines = out
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as object)
    const verdicts = lines.filter((line) => 'zintel-verdict' in line)
    expect(verdicts).toHaveLength(2)
    for (const verdict of verdicts)
      expect(verdictSchema.parse(verdict)).toMatchObject({ passed: true, expectations: 1, met: 1 })
  })
})

test('play --watch plays again on each save, and only names what goes as before', async () => {
  const [level, first] = [join(folder, 'watched.level.yaml'), join(folder, 'watched.walkthrough.yaml')]
  writeFileSync(level, fine)
  writeFileSync(first, walk('Watched'))
  const child = startZintel('play', '--watch', level, first)
  let [out, err] = ['', '']
  child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()))
  child.stderr.on('data', (chunk: Buffer) => (err += chunk.toString()))
  const until = async (rounds: number): Promise<void> => {
    const isSo = (): boolean => err.split('Watching:').length - 1 >= rounds
    for (let i = 0; i < 300 && !isSo(); i++) await new Promise((resume) => setTimeout(resume, 100))
    expect(isSo()).toBe(true)
  }
  await until(1)
  expect(out).toContain('1 of 1 expectations met.')
  writeFileSync(level, fine.replace('title: Two rooms', 'title: Two halls'))
  await until(2)
  expect(out).toContain(`${first}: as before, all expectations met.`)
  // A file that cannot be used for a moment does not end it.
  writeFileSync(level, 'zintel: 1\n')
  await until(3)
  writeFileSync(level, fine.replace('sound: clack', 'sound: creak'))
  await until(4)
  expect(out.split('as before')[1]).toContain('sound "creak" from lever')
  child.kill('SIGINT')
  expect(await new Promise((resolve) => child.on('exit', resolve))).toBe(130)
  const other = await zintel(['play', '--watch', '--format', 'json', level, first])
  expect(other.code).toBe(2)
  expect(other.err).toContain('--watch prints text')
}, 60_000)
