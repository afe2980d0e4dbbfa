import { describe, expect, test } from '@jest/globals'
import Ajv from 'ajv'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sarifText } from '../../src/formats/index.ts'
import { emptyReport } from '../../src/findings/index.ts'
import { checked, project, textOf, twoRooms } from '../levels.ts'
import { zintel } from '../cli/zintel.ts'

const draft = `${project}examples/levels/tide-mill-draft.level.yaml`
const validate = new Ajv.default({ strict: false, validateFormats: false, unicodeRegExp: false }).compile(
  JSON.parse(textOf('tests/formats/sarif-2.1.0.schema.json')) as object,
)

/** A door that refuses without a word. */
const lockedDoor = `items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key } } }
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: key } }
goals: { open: { interactable: door, is: open } }
`

interface Region {
  readonly startLine: number
}

/** As much of a SARIF log as is looked at here. */
interface Log {
  readonly runs: readonly [
    {
      readonly tool: {
        readonly driver: { readonly rules: readonly { readonly id: string; readonly help?: { text: string } }[] }
      }
      readonly results: readonly {
        readonly ruleId: string
        readonly ruleIndex: number
        readonly level: string
        readonly suppressions?: readonly { readonly justification: string }[]
        readonly codeFlows?: unknown
        readonly relatedLocations?: unknown
        readonly locations: readonly [
          {
            readonly physicalLocation: { readonly artifactLocation: { readonly uri: string }; readonly region?: Region }
          },
        ]
        readonly fixes?: readonly [
          {
            readonly artifactChanges: readonly [
              {
                readonly replacements: readonly [
                  { readonly deletedRegion: Region & { endLine: number }; readonly insertedContent: { text: string } },
                ]
              },
            ]
          },
        ]
      }[]
      readonly invocations: readonly [
        { readonly executionSuccessful: boolean; readonly toolExecutionNotifications: unknown[] },
      ]
    },
  ]
}

describe('SARIF', () => {
  test('a check of the draft fits the schema: rules with their pages, places, steps, what follows, fixes', async () => {
    const { code, out } = await zintel(['check', '--format', 'sarif', draft])
    expect(code).toBe(1)
    const log = JSON.parse(out) as Log
    expect(validate(log) || validate.errors).toBe(true)
    const [{ tool, results }] = log.runs
    expect(results).toHaveLength(20)
    for (const { ruleId, ruleIndex } of results) expect(tool.driver.rules[ruleIndex]!.id).toBe(ruleId)
    expect(tool.driver.rules.every(({ help }) => help!.text.includes('## The fix'))).toBe(true)
    const wasted = results.find(({ ruleId }) => ruleId === 'wasted-item')!
    expect(wasted).toMatchObject({ level: 'error', locations: [{ physicalLocation: { region: { startLine: 112 } } }] })
    expect(wasted.codeFlows).toBeDefined()
    expect(wasted.relatedLocations).toBeDefined()
    // A fix is the change of whole lines that --fix makes.
    const misspelt = results.find(({ ruleId }) => ruleId === 'unknown-name')!
    const [{ deletedRegion, insertedContent }] = misspelt.fixes![0].artifactChanges[0].replacements
    const lines = textOf('examples/levels/tide-mill-draft.level.yaml').split('\n')
    lines.splice(
      deletedRegion.startLine - 1,
      deletedRegion.endLine - deletedRegion.startLine,
      insertedContent.text.trimEnd(),
    )
    expect(lines.join('\n')).toBe(lines.join('\n').replace('fluor', 'flour'))
    expect(lines.join('\n')).not.toContain('fluor')
  })

  test('what is accepted is suppressed with its reason; odd names of files are URIs', () => {
    const things =
      'items: { coin: {} }\ninteractables:\n  hook: { type: pickup, at: [2, 2], set: { gives: coin } }\n  lever: { type: lever, at: [1, 1] }\ngoals: { pulled: { interactable: lever, is: on } }\n'
    const accepted = 'accepted-findings: [{ rule: unused-item, of: coin, because: It only glitters. }]\n'
    const report = checked(twoRooms(things + accepted), 'odd name #1.yaml')
    const log = JSON.parse(sarifText([report], { version: '1.2.3', exitCode: 0, pages: new Map() })) as Log
    expect(validate(log) || validate.errors).toBe(true)
    const suppressed = log.runs[0].results.filter(({ suppressions }) => suppressions !== undefined)
    expect(suppressed.map(({ suppressions }) => suppressions![0]!.justification)).toContain('It only glitters.')
    expect(suppressed[0]!.locations[0].physicalLocation.artifactLocation.uri).toBe('odd%20name%20%231.yaml')
  })

  test('a file that cannot be used is a notification, and the run has not succeeded', () => {
    const place = { file: 'x.yaml', line: 3, column: 1, path: '' }
    const problem = { code: 'bad-syntax', place, message: 'No YAML.', found: '"["', expected: null, nearest: null }
    const report = emptyReport('x.yaml', 'unusable', [{ ...problem, code: 'bad-syntax' as const }])
    const log = JSON.parse(sarifText([report], { version: '1.2.3', exitCode: 2, pages: new Map() })) as Log
    expect(validate(log) || validate.errors).toBe(true)
    const [{ executionSuccessful, toolExecutionNotifications }] = log.runs[0].invocations
    expect(executionSuccessful).toBe(false)
    expect(toolExecutionNotifications).toMatchObject([{ level: 'error', message: { text: 'No YAML. Found "[".' } }])
  })
})

/** Attributes of the first element of a name. */
function attributes(xml: string, name: string): Record<string, string> {
  const [, head = ''] = new RegExp(`<${name} ([^>]*)>`).exec(xml) ?? []
  return Object.fromEntries([...head.matchAll(/([\w-]+)="([^"]*)"/g)].map(([, key, value]) => [key!, value!]))
}

describe('JUnit', () => {
  test('of a check: a suite for the file, a failure for each finding that counts', async () => {
    const { code, out } = await zintel(['check', '--quick', '--format', 'junit', draft])
    expect(code).toBe(1)
    expect(attributes(out, 'testsuites')).toMatchObject({ failures: '16', errors: '0' })
    expect(out.match(/<failure /g)).toHaveLength(16)
    expect(out).toContain('<failure message="There is no item &quot;fluor&quot;.">')
    // One that is not bad enough is none.
    const folder = mkdtempSync(join(tmpdir(), 'zintel-formats-'))
    const misled = join(folder, 'misled.level.yaml')
    writeFileSync(misled, twoRooms(lockedDoor))
    const counts = ['error', 'warning'].map(async (least) => {
      const { out: own } = await zintel(['check', '--format', 'junit', '--fail-on', least, misled])
      return attributes(own, 'testsuites').failures
    })
    expect(await Promise.all(counts)).toEqual(['0', '1'])
    rmSync(folder, { recursive: true })
  }, 60_000)

  test('of plays: a suite for each walkthrough, a failure for what was not as expected', async () => {
    const { out } = await zintel([
      'play',
      '--format',
      'junit',
      draft.replace('-draft', ''),
      `${project}examples/levels/tide-mill.right-way.walkthrough.yaml`,
    ])
    expect(attributes(out, 'testsuites').failures).toBe('0')
    expect(Number(attributes(out, 'testsuites').tests)).toBeGreaterThan(5)
  })
})
