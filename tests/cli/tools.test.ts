import { afterAll, describe, expect, test } from '@jest/globals'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { starterFiles, starterTypes } from '../../src/library/index.ts'
import { builtInTypes, exampleInstance, listInstances, readLevel } from '../../src/interactables/index.ts'
import { readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { checked, project, staged, twoRooms } from '../levels.ts'
import { type Ran, zintel as ranIn, zintelProcess } from './zintel.ts'

/** Runs a command, and gives what it wrote. */
function zintel(...args: string[]): Promise<Ran> {
  return ranIn(args)
}

describe('types', () => {
  test('lists every built-in type with its states', async () => {
    const { code, out } = await zintel('types')
    expect(code).toBe(0)
    for (const name of Object.keys(builtInTypes)) expect(out).toMatch(new RegExp(`^${name}$`, 'm'))
    expect(out).toContain('States: empty, turned.')
  })

  test('tells the settings of one, with units and defaults', async () => {
    const { out } = await zintel('types', 'door')
    expect(out).toContain('  motion.over  seconds; 0.8 unless given\n      Seconds from shut to open.\n')
    expect(out).toContain('  lock.item  the name of an item; none unless given\n')
    const { out: keyhole } = await zintel('types', 'keyhole')
    expect(keyhole).toContain('  item  the name of an item; needed\n')
  })

  test('a misspelt one is told, with the nearest', async () => {
    expect(await zintel('types', 'dor')).toEqual({
      code: 2,
      out: '',
      err: 'zintel: there is no built-in type "dor". Did you mean "door"?\n',
    })
  })

  for (const [name, type] of Object.entries(builtInTypes)) {
    test(`the example of ${name} can be read, as it is and with all comments filled in`, () => {
      const instance = exampleInstance(name, type, name === 'door' ? 'in: gap' : 'at: [2, 3]')
      const level = (text: string): string =>
        twoRooms(
          `items: { my-item: {} }\nflags: { my-flag: {} }\ncounters: { my-counter: { most: 3 } }\ninteractables:\n${text}\n`,
        )
      expect(readLevel(level(instance)).diagnostics).toEqual([])
      const filled = instance.replaceAll(/^( *)# ( *[a-z-]+: )/gm, '$1$2').replaceAll(/^( +)stays(-open)?: .*$/gm, '')
      const told = readLevel(level(filled)).diagnostics.filter(({ code }) => code !== 'contradiction')
      expect(told).toEqual([])
    })
  }
})

describe('play --step', () => {
  const level = `${project}examples/levels/tide-mill.level.yaml`
  const walkthrough = `${project}examples/levels/tide-mill.right-way.walkthrough.yaml`

  test('says after each step what changed, what a press would go to, why the rest does not answer, and all states', async () => {
    const { code, out } = await zintel('play', '--step', level, walkthrough)
    expect(code).toBe(0)
    expect(out).toContain('       changed  key-hook available -> taken, sluice-key 0 -> 1\n')
    expect(out).toMatch(/ {7}press {4}mill-door accepts\n/)
    expect(out).toMatch(/ {7}not {6}.*its range ends at/)
    expect(out).toMatch(/ {7}states {3}key-hook taken, /)
    expect(out).toMatch(/ {7}ranges {3}key-hook [\d.]+ of 1\.50 m, /)
  })

  test('without it nothing of that is printed', async () => {
    const { out } = await zintel('play', level, walkthrough)
    expect(out).not.toMatch(/^ {7}states/m)
  })
})

describe('list', () => {
  const level = twoRooms(`items: { key: {} }
interactables:
  one: { type: chest, at: [1, 3.4], set: { lock: { item: key } }, feedback: { refused: [{ sound: knock }] } }
  two: { type: chest, at: [2, 3.4], set: { lock: { item: key } }, feedback: { refused: [{ sound: knock }] } }
  three: { type: chest, at: [3, 3.4], set: { lock: { item: key, count: 2 } } }
`)

  test('says of each change how many siblings have it too, and what an instance lacks', () => {
    const listed = listInstances(readLevel(level).value!)
    expect(listed[0]!.changes).toEqual([
      { path: 'set.lock.item', value: 'key', siblings: 2, alike: 2 },
      { path: 'feedback.refused', value: '[{ sound: knock }]', siblings: 2, alike: 1 },
    ])
    expect(listed[2]!.changes.at(-1)).toEqual({ path: 'set.lock.count', value: '2', siblings: 2, alike: 0 })
    expect(listed[2]!.lacks).toEqual([{ path: 'feedback.refused', siblings: 2, have: 2 }])
  })

  test('prints all instances of the demo, by type', async () => {
    const { code, out } = await zintel('list', `${project}examples/levels/tide-mill.level.yaml`)
    expect(code).toBe(0)
    expect(out).toContain('pickup  3 instances\n  key-hook  at 0.6, 6, 1.4\n')
    const asJson = await zintel('list', '--format', 'json', `${project}examples/levels/tide-mill.level.yaml`)
    expect(JSON.parse(asJson.out)).toHaveLength((out.match(/^ {2}[a-z]/gm) ?? []).length)
  })
})

describe('completion', () => {
  test('of commands, options and files, as bash does it', async () => {
    const { out } = await zintel('completion', 'bash')
    const complete = (words: string): string[] => {
      const list = words.split(' ')
      const script = `${out}\nCOMP_WORDS=(${list.map((word) => `'${word}'`).join(' ')}); COMP_CWORD=${String(list.length - 1)}; _zintel; printf '%s\\n' "\${COMPREPLY[@]}"`
      return spawnSync('bash', ['-c', script], { encoding: 'utf8', cwd: project }).stdout.trim().split('\n')
    }
    expect(complete('zintel ch')).toEqual(['check'])
    expect(complete('zintel check --fo')).toEqual(['--format'])
    expect(complete('zintel draw --')).toContain('--view')
    expect(complete('zintel play READ')).toEqual(['README.md'])
  })

  test('there is a script for zsh and fish, and for no other shell', async () => {
    expect((await zintel('completion', 'zsh')).out).toContain('bashcompinit')
    expect((await zintel('completion', 'fish')).out).toContain("-n '__fish_seen_subcommand_from check' -l baseline")
    const { code, err } = await zintel('completion', 'csh')
    expect(code).toBe(2)
    expect(err).toContain('completion takes bash, zsh, fish, not "csh".')
  })
})

describe('new', () => {
  test('there is a start for every built-in type', () => {
    expect([...starterTypes].sort()).toEqual(Object.keys(builtInTypes).sort())
  })

  for (const type of starterTypes) {
    test(`${type}: nothing is found or open, and both walkthroughs go as written`, () => {
      const files = starterFiles('boat-house', type)
      const text = files['boat-house.level.yaml']!
      expect(checked(text)).toMatchObject({ findings: [], counts: { undecided: 0 } })
      const stage = staged(text)
      for (const way of ['wrong-way', 'right-way']) {
        const { value, source, diagnostics } = readWalkthrough(
          files[`boat-house.${way}.walkthrough.yaml`]!,
          way,
          stage.expanded,
        )
        expect(diagnostics).toEqual([])
        expect(runWalkthrough(stage, value!, source).steps.filter(({ failure }) => failure !== null)).toEqual([])
      }
      expect(text).toContain(`type: ${type}`)
    })
  }

  test('writes into a new folder, and never over anything', () => {
    const folder = mkdtempSync(join(tmpdir(), 'zintel-new-'))
    const zintelHere = (...args: string[]): ReturnType<typeof zintelProcess> => zintelProcess(args, { cwd: folder })
    try {
      expect(zintelHere('new', 'boat-house').status).toBe(0)
      expect(readdirSync(join(folder, 'boat-house')).sort()).toEqual([
        'README.md',
        'boat-house.level.yaml',
        'boat-house.right-way.walkthrough.yaml',
        'boat-house.wrong-way.walkthrough.yaml',
      ])
      const [first] = readFileSync(join(folder, 'boat-house/boat-house.level.yaml'), 'utf8').split('\n')
      expect(first).toBe('# yaml-language-server: $schema=../node_modules/zintel/schemas/level.schema.json')
      expect(zintelHere('check', 'boat-house/boat-house.level.yaml').status).toBe(0)
      const again = zintelHere('new', 'boat-house')
      expect(again.status).toBe(2)
      expect(again.stderr).toBe('zintel: boat-house: there is something of that name already.\n')
      expect(zintelHere('new', 'Boat House').status).toBe(2)
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })
})

describe('projects', () => {
  const folder = mkdtempSync(join(tmpdir(), 'zintel-project-'))
  afterAll(() => {
    rmSync(folder, { recursive: true, force: true })
  })

  /** Writes files, plays a walkthrough that only waits, and gives what is said. */
  async function played(projectText: string, files: Readonly<Record<string, string>>) {
    for (const [file, text] of Object.entries(files)) writeFileSync(join(folder, file), text)
    writeFileSync(join(folder, 'the.project.yaml'), projectText)
    writeFileSync(join(folder, 'w.yaml'), 'walkthrough: 1\ntitle: wait\nsteps:\n  - wait: 1\n')
    const { code, out, err } = await zintel('play', join(folder, 'the.project.yaml'), join(folder, 'w.yaml'))
    return { code, said: (out + err).replaceAll(folder, '') }
  }

  const west = twoRooms(
    'interactables:\n  way: { type: exit, at: [1, 1], set: { exit-to: { place: there, level: east } } }\n',
  )
  const east = twoRooms('places: { there: { at: [2, 2] } }\n')
  const both =
    'project: 1\ntitle: two\nstart: west\nlevels:\n  west: { file: west.yaml }\n  east: { file: east.yaml }\n'

  test('are played, and all their levels checked', async () => {
    const { code, said } = await played(both, { 'west.yaml': west, 'east.yaml': east })
    expect([code, said]).toEqual([0, expect.stringContaining('0 of 0 expectations met')])
    const checkedAll = await zintel('check', join(folder, 'the.project.yaml'))
    expect(checkedAll.out.match(/yaml {2}Two rooms/g)).toHaveLength(2)
  })

  test('that cannot be used are told where, and with the nearest right name', async () => {
    const files = { 'west.yaml': west, 'east.yaml': east }
    const told = async (text: string, more: Readonly<Record<string, string>> = {}): Promise<string> => {
      const { code, said } = await played(text, { ...files, ...more })
      expect(code).toBe(2)
      return said
    }
    expect(await told(both.replace('start: west', 'start: wset'))).toContain(
      '/the.project.yaml:3:8: There is no level "wset" in the project. Did you mean "west"?',
    )
    const several = both.replace('start: west', 'start: { day: { level: east, place: here } }')
    expect(await told(several)).toContain('/the.project.yaml:3:37: There is no place "here". Did you mean "there"?')
    expect(await told(both.replace('project: 1', 'project: 2'))).toContain('This is another version of the format.')
    expect(await told(both.replace('east.yaml', 'gone.yaml'))).toContain('/gone.yaml: cannot be read')
    expect(await told(both, { 'west.yaml': west.replace('place: there', 'place: ther') })).toContain(
      '/west.yaml:11:59: There is no place "ther". Did you mean "there"?',
    )
    expect(await told(both, { 'west.yaml': west.replace('level: east', 'level: eats') })).toContain(
      'There is no level "eats" in the project. Did you mean "east"?',
    )
    expect(await told(both.replace('east.yaml }', 'east.yaml, except: [door] }'))).toContain(
      'There is no interactable "door".',
    )
    const report = await zintel('check', '--format', 'json', join(folder, 'the.project.yaml'))
    expect(report.code).toBe(2)
  })
})

test('list names what is there for trying things out only', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'zintel-list-'))
  const file = join(folder, 'a.level.yaml')
  writeFileSync(
    file,
    twoRooms('interactables:\n  a: { type: lever, at: [1, 1], test-only: true }\n  b: { type: lever, at: [2, 1] }\n'),
  )
  const { out } = await zintel('list', file)
  rmSync(folder, { recursive: true, force: true })
  expect(out).toMatch(/test-only +true +only here/)
})
