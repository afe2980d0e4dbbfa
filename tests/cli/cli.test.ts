import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import Ajv from 'ajv/dist/2020.js'
import { spawnSync } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parse } from 'yaml'
import { wantsColours } from '../../src/cli/process.ts'
import { levelJsonSchema } from '../../src/interactables/index.ts'
import { reportJsonSchema } from '../../src/findings/index.ts'
import { projectJsonSchema, walkthroughJsonSchema } from '../../src/play/index.ts'
import { project, textOf, twoRooms } from '../levels.ts'
import { tangled } from '../../bench/levels.ts'
import { main, plainly, type Ran, startZintel, zintel as ranIn, zintelProcess } from './zintel.ts'

const clean = `${project}examples/levels/tide-mill.level.yaml`
const draft = `${project}examples/levels/tide-mill-draft.level.yaml`
const granary = `${project}examples/levels/granary-draft.level.yaml`
const rightWay = `${project}examples/levels/tide-mill.right-way.walkthrough.yaml`
let folder = ''

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zintel-cli-'))
})

afterAll(() => {
  rmSync(folder, { recursive: true, force: true })
})

/** Runs a command, and gives what it wrote. */
function zintel(...args: string[]): Promise<Ran> {
  return ranIn(args)
}

function file(name: string, text: string): string {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}

function json(text: string): unknown {
  return JSON.parse(text) as unknown
}

describe('check', () => {
  test('a clean level ends with 0, and says what was proved', async () => {
    const { code, out, err } = await zintel('check', clean)
    expect(code).toBe(0)
    expect(out).toContain('Nothing found, nothing undecided.')
    expect(out).toContain('Proved: grind, beacon-lit can be met')
    expect(err).toBe('')
  })

  test('findings end with 1, each with its line and its steps', async () => {
    const { code, out } = await zintel('check', draft)
    expect(code).toBe(1)
    expect(out).toContain('toll-keyhole\n  1. wasted-item')
    expect(out).toContain('set: { item: tally, item-use: consume, sends: toll-shown }')
    expect(out).toContain('4. Press: toll-keyhole uses up the tally.')
    expect(out).toContain('Found: 7 errors, 9 warnings, 4 advice.')
    // eslint-disable-next-line no-control-regex
    expect(out).not.toMatch(/\u001b/)
  })

  test('advice alone ends with 0, something undecided with 3', async () => {
    const advice = await zintel('check', file('advice.yaml', twoRooms('')))
    expect(advice.code).toBe(0)
    expect(advice.out).toContain('1. no-goal')
    // Several characters act in it: sets cannot settle what the budget leaves open.
    const company = `${project}examples/levels/gallery/company.level.yaml`
    const open = await zintel('check', '--quick', '--budget', '50', company)
    expect([open.code, open.out.includes('undecided')]).toEqual([3, true])
    expect(open.out).toContain('undecided: the budget of 50 situations was used up')
  })

  test('several files: those that cannot be used are told, the others are checked', async () => {
    const broken = file('broken.yaml', 'zintel: 1\nrooms: { hall: 7 }\n')
    const { code, out, err } = await zintel('check', broken, join(folder, 'nowhere.yaml'), clean)
    expect(code).toBe(2)
    expect(err).toContain('broken.yaml:2:16: rooms.hall has the wrong shape.')
    expect(err).toContain('nowhere.yaml: cannot be read: there is no such file.')
    expect(out).toContain('tide-mill.level.yaml: nothing found, nothing undecided\n')
    expect(out).toContain('3 files: nothing found; 2 files cannot be used.')
  })

  test('the JSON fits its schema, whatever came of the files', async () => {
    const validate = new Ajv.default({ strict: false }).compile(reportJsonSchema())
    const broken = file('broken.yaml', 'zintel: 1\n')
    const { code, out } = await zintel('check', '--format', 'json', granary, broken, clean)
    expect(code).toBe(2)
    expect(validate(json(out)) || validate.errors).toBe(true)
    expect((json(out) as { outcome: string }[]).map(({ outcome }) => outcome)).toEqual([
      'checked',
      'unusable',
      'checked',
    ])
  })

  test('a level that is checked without its project says what is left out of account; one of a project does not', async () => {
    const gallery = `${project}examples/levels/gallery/`
    const alone = await zintel('check', `${gallery}island.level.yaml`)
    expect(alone.out).toContain('Checked without its project: what harbour gives')
    const together = await zintel('check', `${gallery}crossing.project.yaml`)
    expect(together.code).toBe(0)
    expect(together.out).not.toContain('Checked without its project')
  })

  test('odd names and texts are printed harmlessly', async () => {
    const odd = file('odd \u202e name.yaml', twoRooms('').replace('title: Two rooms', 'title: "\\u001b[31mred\\u0007"'))
    const { code, out } = await zintel('check', odd)
    expect(code).toBe(0)
    // eslint-disable-next-line no-control-regex
    expect(out).not.toMatch(/\u001b|\u0007|\u202e/)
  })
})

describe('play', () => {
  test('prints the log, and ends with 0 where all went as expected', async () => {
    const { code, out } = await zintel('play', clean, rightWay)
    expect(code).toBe(0)
    expect(out).toContain('sluice-gate: rising -> up (risen)')
    expect(out).toMatch(/(\d+) of \1 expectations met\./)
  })

  test('a failing line is shown with what was true instead, and ends with 1', async () => {
    const wrong = file(
      'wrong.yaml',
      'walkthrough: 1\ntitle: Wrong\nsteps:\n  - walk-to: mill-door\n  - expect: { interactable: mill-door, is: open }\n',
    )
    const { code, out } = await zintel('play', clean, wrong)
    expect(code).toBe(1)
    expect(out).toContain('wrong.yaml:5:5')
    expect(out).toContain('Instead: mill-door is locked')
  })

  test('JSON Lines begin with what they are', async () => {
    const { out } = await zintel('play', '--format', 'json', clean, rightWay)
    const lines = out.trim().split('\n').map(json)
    expect(lines[0]).toEqual({ 'zintel-log': 1, level: 'The tide mill', milliseconds: true })
    expect(lines.length).toBeGreaterThan(60)
  })

  test('a level in which names lead nowhere is refused', async () => {
    const { code, err } = await zintel('play', draft, rightWay)
    expect(code).toBe(2)
    expect(err).toContain('There is no item "fluor". Did you mean "flour"?')
  })
})

describe('draw', () => {
  test('writes a plan that is well-formed SVG', async () => {
    const out = join(folder, 'deep', 'plan.svg')
    const { code } = await zintel('draw', clean, '--view', 'plan', '--out', out)
    expect(code).toBe(0)
    const svg = readFileSync(out, 'utf8')
    expect(svg).toMatch(/^<svg xmlns="http:\/\/www.w3.org\/2000\/svg"/)
    for (const name of ['mill-door', 'granary-keyhole', 'mill yard', 'keeper']) expect(svg).toContain(`>${name}</text>`)
  })

  test('what cannot be written is told, and nothing is left half-done', async () => {
    const blocked = file('file', 'x')
    const { code, err } = await zintel('draw', clean, '--out', join(blocked, 'plan.svg'))
    expect(code).toBe(2)
    expect(err).toContain('cannot be written: a part of its path is not a folder.')
  })
})

describe('the command line', () => {
  test('help shows an example for each command', async () => {
    for (const command of ['check', 'play', 'draw']) {
      const { code, out } = await zintel(command, '--help')
      expect(code).toBe(0)
      expect(out).toContain(`$ zintel ${command} `)
    }
    expect((await zintel('--help')).out).toContain('130 interrupted')
  })

  test('a command that is not there is told, with the nearest that is', async () => {
    expect((await zintel('chek', clean)).err).toBe('zintel: There is no command chek. Did you mean check?\n')
    expect((await zintel('wibble')).err).toBe('zintel: There is no command wibble. zintel --help lists them all.\n')
  })

  test('a file of another kind is told by its kind, in one line', async () => {
    const walkthrough = `${project}examples/levels/tide-mill.right-way.walkthrough.yaml`
    const levels = `${project}examples/levels/round-the-mill/round-the-mill.project.yaml`
    for (const [args, said] of [
      [['check', walkthrough], 'This is a walkthrough, not a level.'],
      [['play', clean, clean], 'This is a level, not a walkthrough.'],
      [['draw', levels], 'This is a project, not a level.'],
    ] as const) {
      const { code, err } = await zintel(...args)
      expect(code).toBe(2)
      expect(err).toContain(said)
      expect(err).toContain('one thing to fix')
    }
  })

  test('what it does not understand ends with 2 and a hint', async () => {
    for (const args of [
      ['chekc', clean],
      ['check'],
      ['check', '--format', 'xml', clean],
      ['check', '--budget', '-3', clean],
      ['draw', clean, '--view', 'sky'],
    ]) {
      const { code, err } = await zintel(...args)
      expect(code).toBe(2)
      expect(err).toMatch(/zintel/)
    }
  })

  test('colours go to terminals only, and NO_COLOR is respected', () => {
    expect(wantsColours({}, true)).toBe(true)
    expect(wantsColours({}, false)).toBe(false)
    expect(wantsColours({ NO_COLOR: '1' }, true)).toBe(false)
    expect(wantsColours({ NO_COLOR: '' }, true)).toBe(true)
    expect(wantsColours({ TERM: 'dumb' }, true)).toBe(false)
    expect(wantsColours({ FORCE_COLOR: '1' }, false)).toBe(true)
  })

  test('as a process: exit codes, a file without permission, bytes that are no text, and a pipe that is closed early', () => {
    expect(zintelProcess(['check', clean]).status).toBe(0)
    // A build server is no terminal, whatever it says of itself.
    const onServer = { ...plainly.env, CI: 'true', GITHUB_ACTIONS: 'true' }
    expect(zintelProcess(['check', clean], { env: onServer }).stdout).not.toContain('\u001b')
    const binary = join(folder, 'binary.yaml')
    writeFileSync(binary, Buffer.from([0xff, 0xfe, 0x00, 0x80]))
    expect(zintelProcess(['check', binary])).toMatchObject({ status: 2 })
    const secret = file('secret.yaml', twoRooms(''))
    chmodSync(secret, 0)
    if (process.getuid?.() !== 0) expect(zintelProcess(['check', secret]).stderr).toContain('permission is denied')
    const piped = spawnSync('sh', ['-c', `${process.execPath} ${main} play ${clean} ${rightWay} | head -n 1`], plainly)
    expect(piped.stdout.split('\n')).toHaveLength(2)
    expect(piped.stderr).toBe('')
  })

  test('an interrupted check ends with 130, and prints what is known until then', async () => {
    const level = file('long.yaml', tangled(24))
    const child = startZintel('check', level)
    let out = ''
    child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()))
    // Long enough for a busy machine to have laid it out, and far too short for all of it.
    setTimeout(() => child.kill('SIGINT'), 6000)
    const code = await new Promise((done) => child.on('close', done))
    expect(code).toBe(130)
    expect(out).toContain('the check was interrupted after')
    expect(out).toContain('Interrupted: what is known until then.')
  })
})

describe('the schemas that are shipped', () => {
  test('are those of the code, and accept the demo', () => {
    const schemas = {
      level: levelJsonSchema(),
      walkthrough: walkthroughJsonSchema(),
      project: projectJsonSchema(),
      check: reportJsonSchema(),
    }
    for (const [name, schema] of Object.entries(schemas)) {
      expect(existsSync(`${project}schemas/${name}.schema.json`)).toBe(true)
      expect(json(textOf(`schemas/${name}.schema.json`))).toEqual(json(JSON.stringify(schema)))
      expect(schema).toHaveProperty('$id', `urn:zintel:${name}:1`)
    }
  })

  test('the level schema accepts every level of the gallery, and offers types, settings and states', () => {
    const schema = levelJsonSchema()
    const accepts = new Ajv.default({ strict: false, allErrors: true }).compile(schema)
    for (const file of readdirSync(`${project}examples/levels/gallery`).filter((one) => one.endsWith('.level.yaml'))) {
      const ok = accepts(parse(textOf(`examples/levels/gallery/${file}`)))
      expect(`${file} ${JSON.stringify(accepts.errors?.slice(0, 3) ?? [])} ${String(ok)}`).toBe(`${file} [] true`)
    }
    const text = JSON.stringify(schema)
    for (const offered of ['dial-lock', 'press-while-moving', 'in-the-way', 'opening-on'])
      expect(text).toContain(`"${offered}"`)
    expect(accepts({ ...base, interactables: { it: { type: 'door', at: [1, 1], set: { hinge: 'top' } } } })).toBe(false)
    expect(accepts({ ...base, interactables: { it: { type: 'my-own', at: [1, 1], set: { hinge: 'top' } } } })).toBe(
      true,
    )
    const misspelt = { it: { type: 'door', at: [1, 1], set: { hinges: 'left' } } }
    expect(accepts({ ...base, interactables: misspelt })).toBe(false)
    expect(accepts({ ...base, types: { door: { states: { shut: {} } } }, interactables: misspelt })).toBe(true)
  })
})

const base = {
  zintel: 1,
  title: 'a level',
  rooms: {
    room: {
      outline: [
        [0, 0],
        [4, 0],
        [4, 4],
        [0, 4],
      ],
    },
  },
  characters: { player: { role: 'player', start: [1, 1], radius: 0.3, speed: 3, hand: 1, reach: 1 } },
}
