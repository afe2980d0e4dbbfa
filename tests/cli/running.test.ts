import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { World } from '../../src/cli/world.ts'
import { runInSlices, type Progress } from '../../src/explore/index.ts'
import { check, type FileReport } from '../../src/findings/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { gridOfRooms } from '../large.ts'
import { project, textOf, twoRooms } from '../levels.ts'
import { main, plainly, startZintel, zintel, zintelProcess } from './zintel.ts'

const draft = 'examples/levels/tide-mill-draft.level.yaml'
/** The longest that a check may go on without a pause, in ms. */
const longest = 400
const rooms300 = gridOfRooms(20, 15)
let folder = ''

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zintel-running-'))
})

afterAll(() => {
  rmSync(folder, { recursive: true, force: true })
})

function file(name: string, text: string): string {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}

function checking(text: string, budget?: number): Generator<Progress, FileReport> {
  const { value, source } = readLevel(text, 'level.yaml')
  return check(value!, source, { budget })
}

/**
 * The longest stretch, in ms, between two pauses of a check, or of the first `most` ms of it. Where one is longer than it may be,
 * each is measured again, and the shorter counts: the machine has other things to do, too. On a quiet one no stretch is longer than
 * about 50 ms; the limit leaves room for one that runs two test files at a time.
 */
function longestStretch(text: string, budget: number | undefined, most = Infinity): number {
  const least: number[] = []
  for (let run = 0; run === 0 || (run < 3 && Math.max(...least) >= longest); run++) {
    const work = checking(text, budget)
    const begun = performance.now()
    for (let i = 0, isDone = false; !isDone && performance.now() - begun < most; i++) {
      const since = performance.now()
      isDone = work.next().done ?? false
      least[i] = Math.min(least[i] ?? Infinity, performance.now() - since)
    }
  }
  return Math.max(...least)
}

describe('a check takes turns with others', () => {
  test('every few milliseconds: on the demo and the largest level of the gallery', () => {
    expect(longestStretch(textOf(draft), undefined)).toBeLessThan(longest)
    expect(longestStretch(textOf('examples/levels/gallery/locks.level.yaml'), undefined, 4000)).toBeLessThan(longest)
  }, 120_000)

  test('in a level of 300 rooms too, for the first six seconds', () => {
    expect(longestStretch(rooms300, 500, 6000)).toBeLessThan(longest)
  }, 240_000)

  test('one that is cancelled stops soon, wherever it is', async () => {
    for (const doing of ['laying out', 'exploring', 'replaying', 'judging', 'grouping'] as const) {
      const signal = { aborted: false }
      let since = Infinity
      const driven = await runInSlices(checking(textOf(draft)), {
        signal,
        now: () => performance.now(),
        pause: () => Promise.resolve(),
        onProgress: (progress) => {
          if (progress.doing !== doing || signal.aborted) return
          signal.aborted = true
          since = performance.now()
        },
      })
      expect(driven.done).toBe(false)
      expect(performance.now() - since).toBeLessThan(200)
    }
  }, 120_000)
})

describe('Ctrl-C', () => {
  /** Interrupts a check once it does something; what it wrote, and how long it took to end, in ms. */
  async function interrupted(text: string, doing: Progress['doing']) {
    const path = file('interrupted.yaml', text)
    const signal = { aborted: false }
    let since = Infinity
    const stop = (): void => {
      if (signal.aborted) return
      signal.aborted = true
      since = performance.now()
    }
    const steps = checking(text)
    let before = 0
    for (let next = steps.next(); !next.done && next.value.doing !== doing; next = steps.next()) before++
    // A clock that runs so fast that every pause of the check is one.
    let [time, pauses] = [0, 0]
    const pause = (): Promise<void> => {
      if (++pauses > before + 3) stop()
      return Promise.resolve()
    }
    const ran = await zintel(['check', path], { signal, pause, now: () => (time += 20) })
    return { ...ran, took: performance.now() - since }
  }

  for (const doing of ['exploring', 'replaying', 'judging', 'grouping'] as const) {
    test(`while ${doing}: what is known until then is printed within a second`, async () => {
      const { code, out, took } = await interrupted(textOf(draft), doing)
      expect(code).toBe(130)
      expect(out).toContain('Interrupted: what is known until then.')
      expect(out).toContain('unknown-name')
      expect(out).not.toContain('Nothing found')
      expect(took).toBeLessThan(1000)
    }, 60_000)
  }

  test('as a process, while 300 rooms are laid out', async () => {
    const path = file('rooms.yaml', rooms300)
    const child = startZintel('check', path)
    let out = ''
    child.stdout.on('data', (part: Buffer) => (out += part.toString()))
    await new Promise((resume) => setTimeout(resume, 2500))
    const since = performance.now()
    child.kill('SIGINT')
    const code = await new Promise((resume) => child.on('close', resume))
    expect(code).toBe(130)
    expect(performance.now() - since).toBeLessThan(3000)
    expect(out).toContain('Interrupted')
  }, 60_000)
})

describe('what is no level', () => {
  const told = (...args: string[]): { code: number | null; err: string; took: number } => {
    const since = performance.now()
    const { status, stderr } = zintelProcess(args, { timeout: 20_000 })
    return { code: status, err: stderr, took: performance.now() - since }
  }

  test('a device that never ends, a folder, a pipe that nobody writes to: each is told, soon', () => {
    const pipe = join(folder, 'pipe')
    spawnSync('mkfifo', [pipe])
    for (const [command, path, why] of [
      ['check', '/dev/zero', 'too large to be a level'],
      ['draw', folder, 'it is a folder, not a file'],
      ['check', pipe, 'did not come to an end within 2 s'],
    ] as const) {
      const { code, err, took } = told(command, path)
      expect(code).toBe(2)
      expect(err).toContain(why)
      expect(took).toBeLessThan(4000)
    }
  }, 60_000)

  test('a pipe that ends is read', () => {
    const path = file('silent.yaml', twoRooms('interactables: { lever: { type: lever, at: [9, 9] } }\n'))
    const { status, stdout } = spawnSync(
      'sh',
      ['-c', `cat ${path} | ${process.execPath} ${main} check /dev/stdin`],
      plainly,
    )
    expect(status).toBe(1)
    expect(stdout).toContain('out-of-reach')
  }, 60_000)
})

describe('errors of our own', () => {
  const broken: Partial<World> = { readText: () => Promise.reject(new TypeError('x is not a function')) }

  test('one line that asks for the level, and exit code 70; the trace where it is asked for', async () => {
    const plain = await zintel(['list', 'level.yaml'], broken)
    expect(plain.code).toBe(70)
    expect(plain.err).toBe(
      'zintel: internal error: x is not a function. Please report it, with the level and what --debug adds.\n',
    )
    const traced = await zintel(['--debug', 'list', 'level.yaml'], broken)
    expect(traced.code).toBe(70)
    expect(traced.err).toContain('TypeError: x is not a function\n    at ')
  })
})

describe('progress', () => {
  test('where standard error is no terminal, a line every ten seconds', async () => {
    let time = 0
    const { err } = await zintel(['check', '--quick', project + draft], { now: () => (time += 200) })
    const lines = err.split('\n').filter((line) => line !== '')
    expect(lines.length).toBeGreaterThan(3)
    for (const line of lines)
      expect(line).toMatch(/^zintel: The tide mill \(draft\): [a-z ]+(, \d+ of at most 2000000 situations)?, \d+ s$/)
    expect(new Set(lines.map((line) => line.split(' ').at(-2))).size).toBe(lines.length)
  }, 60_000)
})

describe('two fixes of one file at the same time', () => {
  const level = twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key }, stays-open: true }, feedback: { refused: [{ message: Locked }] } }
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: kay } }
goals: { open: { interactable: door, is: open } }
`)

  test('the second says that the file has changed, and leaves it', async () => {
    const path = file('twice.yaml', level)
    // While the first asks, the second is made.
    const first = await zintel(['check', '--fix', path], {
      ask: async () => {
        await zintel(['check', '--fix', '--yes', path])
        return true
      },
    })
    expect(first.code).toBe(2)
    expect(first.err).toContain('the file has changed since it was read. Nothing was written: check it again.')
    expect(readFileSync(path, 'utf8')).toBe(level.replace('kay', 'key'))
    // What was there is kept once, by the one that was made.
    expect(readdirSync(folder).filter((name) => name.startsWith('twice.yaml.before-fix'))).toHaveLength(1)
  }, 60_000)

  test('as processes, one is made and the other is told', async () => {
    const path = file('race.yaml', level)
    const run = (): Promise<number | null> =>
      new Promise((resume) => {
        startZintel('check', '--fix', '--yes', path).on('close', resume)
      })
    const codes = await Promise.all([run(), run()])
    expect(readFileSync(path, 'utf8')).toBe(level.replace('kay', 'key'))
    // Whoever comes late finds nothing to fix, or a file that has changed.
    for (const code of codes) expect([0, 2]).toContain(code)
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([])
  }, 60_000)
})

describe('no all-clear beside an error', () => {
  // A goal of which no chain can be told, so that what it follows from leads it.
  const level = textOf('tests/verdicts/levels/fast.level.yaml').replace(
    'interactable: bell, is: rung',
    'not: { interactable: bell, is: still }',
  )

  test('a group has the severity of its worst member, which leads it', async () => {
    const path = file('fast.yaml', level)
    const { code, out } = await zintel(['check', path])
    expect(code).toBe(1)
    expect(out).toMatch(
      /dead-transition\n {5}The goal rung cannot be met, whatever a player does\.\n {5}The cause: bell never takes/,
    )
    expect(out).toContain('Found: 1 error, 2 warnings.')
  })

  test('groups are chosen by any of their members, and the exit code is that of all', async () => {
    const path = file('fast.yaml', level)
    for (const args of [
      ['--severity', 'error'],
      ['--rule', 'unreachable-goal'],
      ['--rule', 'dead-transition'],
    ]) {
      const { code, out } = await zintel(['check', ...args, path])
      expect(code).toBe(1)
      expect(out).toContain('dead-transition')
      expect(out).toContain('2 findings left out by --rule or --severity; the exit code is that of all.')
    }
    const none = await zintel(['check', '--rule', 'silent-refusal', path])
    expect(none.code).toBe(1)
    expect(none.out).not.toContain('Nothing found')
    expect(none.out).toContain('Nothing of what was asked for.')
  })

  test('the JSON has what follows in full', async () => {
    const { out } = await zintel(['check', '--format', 'json', file('fast.yaml', level)])
    const [report] = JSON.parse(out) as FileReport[]
    const [group] = report!.findings
    expect(group).toMatchObject({ rule: 'dead-transition', severity: 'error' })
    const goal = group!.follows.find(({ rule }) => rule === 'unreachable-goal')!
    expect(goal.message).toBe(group!.headline)
    expect(goal.fix.says).not.toBe('')
    expect(goal.steps).toEqual([])
  })

  test('who accepts a cause does not accept what follows from it', async () => {
    const accepted = `${level}accepted-findings: [{ rule: dead-transition, of: bell, because: It is only a bell. }]\n`
    const { code, out } = await zintel(['check', file('accepted.yaml', accepted)])
    expect(code).toBe(1)
    expect(out).toContain('unreachable-goal')
  })
})
