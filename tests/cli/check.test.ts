import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import {
  chmodSync,
  existsSync,
  lstatSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { rules } from '../../src/findings/index.ts'
import { project, textOf, twoRooms } from '../levels.ts'
import { startZintel, zintel } from './zintel.ts'

const draft = 'examples/levels/tide-mill-draft.level.yaml'
let folder = ''

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zintel-check-'))
})

afterAll(() => {
  rmSync(folder, { recursive: true, force: true })
})

/** A person at the keyboard who answers every question so; null: there is nobody. */
const saying = (answer: boolean | null) => ({ ask: () => Promise.resolve(answer) })

function file(name: string, text: string): string {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}

const silent = twoRooms(`items: { key: {}, rope: {} } # and no more
interactables:
  door: { type: door, in: gap, set: { lock: { item: key }, stays-open: true } }
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: kay } } # by the door
goals: { open: { interactable: door, is: open } }
`)

/** A door that waits for a signal which nothing sends, and what lies behind it. */
const shut = twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { signal: hoisted }, stays-open: true } }
  hook: { type: pickup, at: [9, 0.4, 1], set: { gives: key } }
  lever: { type: lever, at: [9, 3.9, 1], set: { needs: { carries: key } } }
goals: { pulled: { interactable: lever, is: on } }
`)

describe('what is shown', () => {
  test('of long lists the first, and how many more there are; with --all the whole', async () => {
    const path = file('shut.yaml', shut)
    const { out } = await zintel(['check', path])
    const more = Number(/and (\d+) more \(--all lists them\)/.exec(out)?.[1])
    expect(more).toBeGreaterThan(2)
    const { out: whole } = await zintel(['check', '--all', path])
    expect(whole).not.toContain('--all lists them')
    expect(whole).toContain('dead-transition hook/take')
    const named = (text: string): number => [...text.matchAll(/(dead-transition|unreachable-state) \w+\/\w+/g)].length
    expect(named(whole)).toBeGreaterThan(named(out))
  })

  test('only some rules, and only what is bad enough; the exit code goes by all that was found', async () => {
    const path = file('silent.yaml', silent)
    const all = await zintel(['check', path])
    expect(all.code).toBe(1)
    expect(all.out).toContain('unknown-name')
    const advice = await zintel(['check', '--rule', 'unused-item', path])
    expect(advice.code).toBe(1)
    expect(advice.out).not.toContain('unknown-name')
    const errors = await zintel(['check', '--severity', 'error', path])
    expect(errors.out).toContain('Found: 1 error.')
    expect(errors.out).not.toContain('Warnings')
  })

  test('a rule or a severity that is not there is told, with the nearest', async () => {
    const rule = await zintel(['check', '--rule', 'silent-refusl', 'x.yaml'])
    expect(rule).toMatchObject({ code: 2, out: '' })
    expect(rule.err).toContain('Did you mean "silent-refusal"?')
    expect((await zintel(['check', '--severity', 'bad', 'x.yaml'])).err).toContain('error, warning or advice')
    expect((await zintel(['check', '--fix', '--watch', 'x.yaml'])).err).toContain('cannot be given together')
  })

  test('the table of what is told', async () => {
    const { code, out } = await zintel(['check', '--feedback', project + 'examples/levels/tide-mill.level.yaml'])
    expect(code).toBe(0)
    expect(out).toMatch(/moment +sound +message +prompt/)
    expect(out).toMatch(/mill-door\n {2}focused +· +· +x/)
    expect(out).toMatch(/refused: item missing +x +x +·/)
    const narrow = await zintel(['check', '--feedback', `${project}examples/levels/tide-mill.level.yaml`], {
      columns: 40,
    })
    for (const line of narrow.out.split('\n').slice(2, -6)) expect(line.length).toBeLessThanOrEqual(60)
  }, 120_000)
})

describe('explain', () => {
  test('every rule has its page, and the list names it', async () => {
    const list = await zintel(['explain'])
    for (const { name, severity } of rules) {
      expect(list.out).toMatch(new RegExp(`  ${name} +${severity}\\n`))
      const { code, out } = await zintel(['explain', name])
      expect(code).toBe(0)
      expect(out).toContain(`${name}\n\nSeverity: ${severity}`)
      expect(out).toContain('    zintel: 1\n')
      expect(out).not.toMatch(/```|\]\(/)
    }
  })

  test('a rule that is not there', async () => {
    const { code, err } = await zintel(['explain', 'soft-locks'])
    expect(code).toBe(2)
    expect(err).toContain('Did you mean "soft-lock"?')
  })
})

describe('fixing', () => {
  test('automatic fixes are shown, made once that is agreed to, and can be taken back', async () => {
    const path = file('fix.yaml', silent)
    const shown = await zintel(['check', '--fix', path], saying(null))
    expect(shown.out).toContain('set: { gives: key } } # by the door')
    expect(shown.out).toContain('Nothing was changed')
    expect(readFileSync(path, 'utf8')).toBe(silent)
    expect(await zintel(['check', '--fix', path], saying(false))).toMatchObject({ code: 1 })
    expect(readFileSync(path, 'utf8')).toBe(silent)

    const { code, out } = await zintel(['check', '--fix', path], saying(true))
    expect(out).toContain('Fixed.')
    expect(out).toMatch(/To be filled in: line \d+\./)
    expect(code).toBe(1)
    expect(readFileSync(path, 'utf8')).toBe(
      silent
        .replace('kay', 'key')
        .replace('key: {}, rope: {}', 'key: {}')
        .replace(
          'stays-open: true } }',
          'stays-open: true }, feedback: { refused: [{ message: "(say here: {item} is missing)" }] } }',
        ),
    )

    expect((await zintel(['check', '--undo-fix', path])).code).toBe(0)
    expect(readFileSync(path, 'utf8')).toBe(silent)
    // What stood there until then is kept too: it may hold more than the fixes.
    expect(readdirSync(folder).filter((name) => name.startsWith('fix.yaml.'))).toEqual(['fix.yaml.before-undo1'])
    expect(readFileSync(`${path}.before-undo1`, 'utf8')).toContain('(say here: {item} is missing)')
    expect((await zintel(['check', '--undo-fix', path])).code).toBe(2)
  }, 120_000)

  test('what cannot be done together is said, and nothing is done', async () => {
    const path = file('together.yaml', silent)
    for (const [one, other] of [
      ['--fix', '--feedback'],
      ['--fix', '--undo-fix'],
      ['--watch', '--feedback'],
    ] as const) {
      const { code, err } = await zintel(['check', '--yes', one, other, path])
      expect([code, err]).toEqual([2, expect.stringContaining('cannot be given together')])
    }
    const { code, err } = await zintel(['check', '--fix', '--yes', '--format', 'json', path])
    expect([code, err]).toEqual([2, expect.stringContaining('--fix writes no json')])
    expect(readFileSync(path, 'utf8')).toBe(silent)
    // The report in JSON holds the table of feedback anyway.
    expect((await zintel(['check', '--feedback', '--format', 'json', path])).code).toBe(1)
  }, 120_000)

  test('a fix after which something else would be found is not made, and that is told; the others are', async () => {
    // The key, once there is one, opens either the door or the chest, and is gone.
    const text = twoRooms(`items: { key: {}, crank: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key, item-use: consume }, stays-open: true } }
  chest: { type: chest, at: [4, 0.4, 0.5], set: { lock: { item: key, item-use: consume }, gives: [{ item: crank, count: 1 }] } }
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: kay } }
goals: { crank: { carries: crank } }
`)
    const path = file('either.yaml', text)
    const { code, out } = await zintel(['check', '--fix', '--yes', path])
    expect(out).toMatch(/unknown-name hook: not fixed\. Then [a-z-]+ \S+ would be found\./)
    expect(out).not.toContain('gives: key')
    expect(code).toBe(1)
    const fixed = readFileSync(path, 'utf8')
    expect(fixed).toContain('gives: kay')
    expect(fixed).toContain('is missing)')
    // Fixes that were asked for by name are tried all the same.
    expect((await zintel(['check', '--fix', '--yes', '--rule', 'unknown-name', path])).out).toContain('not fixed')
    expect(readFileSync(path, 'utf8')).toBe(fixed)
  }, 120_000)

  test('a link stays a link, and lines may end as on any machine', async () => {
    const path = file('windows.yaml', silent.replaceAll('\n', '\r\n'))
    chmodSync(path, 0o640)
    const link = join(folder, 'link.yaml')
    symlinkSync(path, link)
    const { out } = await zintel(['check', '--fix', '--yes', '--rule', 'unknown-name', link])
    expect(out).not.toContain('u{d}')
    expect(lstatSync(link).isSymbolicLink()).toBe(true)
    expect(readFileSync(path, 'utf8')).toBe(silent.replace('kay', 'key').replaceAll('\n', '\r\n'))
    expect(statSync(path).mode & 0o777).toBe(0o640)
  }, 120_000)

  test('what was there before each of several fixes is kept', async () => {
    const path = file('twice.yaml', silent)
    await zintel(['check', '--fix', '--yes', '--rule', 'unknown-name', path])
    const once = readFileSync(path, 'utf8')
    expect(once).toBe(silent.replace('kay', 'key'))
    await zintel(['check', '--fix', '--yes', path])
    expect(existsSync(`${path}.before-fix2`)).toBe(true)
    await zintel(['check', '--undo-fix', path])
    expect(readFileSync(path, 'utf8')).toBe(once)
    await zintel(['check', '--undo-fix', path])
    expect(readFileSync(path, 'utf8')).toBe(silent)
  }, 120_000)

  test('the automatic fixes of the draft fix what they say, and break nothing', async () => {
    const path = file('draft.yaml', textOf(draft))
    const before = await zintel(['check', '--quick', '--format', 'json', path])
    await zintel(['check', '--quick', '--fix', '--yes', path])
    const after = await zintel(['check', '--quick', '--format', 'json', path])
    const rulesIn = (out: string): string[] =>
      (JSON.parse(out) as { findings: { rule: string }[] }[])[0]!.findings.map(({ rule }) => rule)
    const [were, are] = [rulesIn(before.out), rulesIn(after.out)]
    // The line to be filled in keeps its finding until it is.
    expect(are).toEqual(were.filter((rule) => rule !== 'unknown-name'))
  }, 240_000)
})

describe('projects', () => {
  const room = (more: string): string =>
    `zintel: 1\ntitle: Room\nrooms: { hall: { outline: [[0, 0], [6, 0], [6, 4], [0, 4]] } }\ncharacters:\n  sam: { role: player, start: [3, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }\n${more}`

  test('levels are checked with the others round them: lost levels and places are findings', async () => {
    file(
      'one.level.yaml',
      room(
        'items: { coin: {} }\nplaces: { in: { at: [1, 1] } }\ninteractables:\n  out: { type: exit, at: [3, 3.6], set: { exit-to: { place: ni, level: two } } }\n  off: { type: exit, at: [1, 3.6], set: { exit-to: { place: in, level: tow } } }\ngoals: { on: { carries: coin } }\n',
      ),
    )
    file(
      'two.level.yaml',
      room(
        'items: { coin: {} }\nplaces: { in: { at: [1, 1] } }\ninteractables:\n  hook: { type: pickup, at: [3, 0.4, 1], set: { gives: coin } }\n  back: { type: exit, at: [3, 3.6], set: { exit-to: { place: in, level: one } } }\ngoals: { coin: { carries: coin } }\n',
      ),
    )
    const path = file(
      'a.project.yaml',
      'project: 1\ntitle: Two\nstart: one\nlevels: { one: { file: one.level.yaml }, two: { file: two.level.yaml } }\n',
    )
    const { code, out } = await zintel(['check', '--rule', 'unlisted-level,unknown-name,unobtainable-item', path])
    expect(code).toBe(1)
    expect(out).toContain('off leads to the level "tow", which the project does not list')
    expect(out).toContain('There is no place "ni".')
    expect(out).toContain('Write "in". (--fix does it.)')
    // The other level gives the coin.
    expect(out).not.toContain('unobtainable-item')
  })
})

test('watching checks again on each save, and says what came and what went', async () => {
  const path = file('watched.yaml', silent)
  const child = startZintel('check', '--watch', path)
  let out = ''
  let err = ''
  child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()))
  child.stderr.on('data', (chunk: Buffer) => (err += chunk.toString()))
  const until = async (isSo: () => boolean): Promise<void> => {
    for (let i = 0; i < 400 && !isSo(); i++) await new Promise((resume) => setTimeout(resume, 100))
    expect(isSo()).toBe(true)
  }
  const rounds = (): number => err.split('Watching:').length - 1
  await until(() => rounds() >= 1)
  expect(out).toContain('unknown-name')
  writeFileSync(path, silent.replace('kay', 'key').replace('goals:', 'flags: {}\ngoals:'))
  await until(() => rounds() >= 2)
  expect(out).toContain('gone: unknown-name hook')
  // A file that cannot be used for a moment does not end it.
  writeFileSync(path, 'zintel: 1\n')
  await until(() => rounds() >= 3)
  writeFileSync(path, silent)
  await until(() => rounds() >= 4)
  expect(out.split('gone: unknown-name hook')[1]).toMatch(/new:[^]*unknown-name/)
  child.kill('SIGINT')
  const code = await new Promise((resolve) => child.on('exit', resolve))
  expect(code).toBe(130)
}, 120_000)
