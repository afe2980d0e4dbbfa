import type { FileReport, Finding } from '../findings/index.ts'
import { rules, type Severity } from '../findings/index.ts'
import type { Place } from '../model/index.ts'

/** What is known of a rule beyond its name: its page, in Markdown. */
export type RulePages = ReadonlyMap<string, string>

/** What a SARIF log says about the run itself. */
export interface SarifRun {
  readonly version: string
  readonly exitCode: number
  /** The page of each rule that was found; rules without one have no help text. */
  readonly pages: RulePages
}

type Json = Readonly<Record<string, unknown>>

const levels: Readonly<Record<Severity, string>> = { error: 'error', warning: 'warning', advice: 'note' }

/**
 * Check reports as a SARIF 2.1.0 log (OASIS, 2020), as indented JSON: findings as results with their places, steps as a code
 * flow, what follows from a finding as related locations, fixes that change lines, accepted findings as suppressed. Files that
 * could not be used are notifications. Lines and columns count from 1.
 */
export function sarifText(reports: readonly FileReport[], run: SarifRun): string {
  const found = new Set(reports.flatMap(({ findings, accepted }) => [...findings, ...accepted].map(({ rule }) => rule)))
  const known = rules.filter(({ name }) => found.has(name))
  const index = new Map(known.map(({ name }, i) => [String(name), i]))
  const log = {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'Zintel',
            semanticVersion: run.version,
            rules: known.map(({ name, severity }) => ruleOf(name, severity, run.pages.get(name) ?? null)),
          },
        },
        columnKind: 'utf16CodeUnits',
        invocations: [
          {
            executionSuccessful: reports.every(({ outcome }) => outcome === 'checked'),
            exitCode: run.exitCode,
            toolExecutionNotifications: reports.flatMap(notificationsOf),
          },
        ],
        results: reports.flatMap((report) => [
          ...report.findings.map((finding) => resultOf(finding, report, index)),
          ...report.accepted.map((one) => ({
            ...plainResult(one, report, index),
            suppressions: [{ kind: 'inSource', justification: one.because }],
          })),
        ]),
      },
    ],
  }
  return `${JSON.stringify(log, null, 2)}\n`
}

function ruleOf(name: string, severity: Severity, page: string | null): Json {
  const about = page === null ? name : firstParagraph(page)
  return {
    id: name,
    shortDescription: { text: about },
    defaultConfiguration: { level: levels[severity] },
    ...(page === null ? {} : { help: { text: page, markdown: page } }),
  }
}

/** The first paragraph of a page that is neither its heading nor its severity. */
function firstParagraph(page: string): string {
  const paragraphs = page.split(/\n\s*\n/).map((one) => one.replaceAll(/\s+/g, ' ').trim())
  return paragraphs.find((one) => !one.startsWith('#') && !one.startsWith('Severity:')) ?? ''
}

function notificationsOf({ file, diagnostics }: FileReport): Json[] {
  return diagnostics.map(({ message, expected, found, nearest, place }) => ({
    level: 'error',
    message: {
      text: [
        message,
        expected && `Expected ${expected}.`,
        found && `Found ${found}.`,
        nearest && `Did you mean "${nearest}"?`,
      ]
        .filter((part) => part !== null && part !== '')
        .join(' '),
    },
    locations: [locationOf(place, file, null)],
  }))
}

type Summary = Pick<Finding, 'rule' | 'severity' | 'subject' | 'place' | 'message'>

function plainResult(one: Summary, { file }: FileReport, index: ReadonlyMap<string, number>): Json {
  return {
    ruleId: one.rule,
    ruleIndex: index.get(one.rule),
    level: levels[one.severity],
    message: { text: one.message },
    locations: [locationOf(one.place, file, one.subject)],
    // The same finding has the same print, wherever its line has moved to.
    partialFingerprints: { 'ruleAndSubject/v1': `${one.rule} ${one.subject}` },
  }
}

function resultOf(finding: Finding, report: FileReport, index: ReadonlyMap<string, number>): Json {
  const { headline, message, fix, tried, steps, follows, place } = finding
  const changes = [fix, ...tried].flatMap(({ says, lines }) =>
    lines === null ? [] : [fixOf(says, lines, place?.file ?? report.file)],
  )
  const said = headline === null ? message : `${headline} The cause: ${message}`
  return {
    ...plainResult(finding, report, index),
    message: { text: `${said} Fix: ${fix.says}` },
    ...(follows.length === 0
      ? {}
      : {
          relatedLocations: follows.map((one, id) => ({
            id,
            ...locationOf(one.place, report.file, one.subject),
            message: { text: `${one.rule} ${one.subject}: ${one.message}` },
          })),
        }),
    ...(steps.length === 0
      ? {}
      : {
          codeFlows: [
            {
              message: { text: 'Steps from the start that show it.' },
              threadFlows: [
                {
                  locations: steps.map(({ text }, i) => ({
                    executionOrder: i + 1,
                    location: { ...locationOf(place, report.file, null), message: { text } },
                  })),
                },
              ],
            },
          ],
        }),
    ...(changes.length === 0 ? {} : { fixes: changes }),
  }
}

function fixOf(says: string, { line, was, becomes }: NonNullable<Finding['fix']['lines']>, file: string): Json {
  const inserted = becomes.map((text) => `${text}\n`).join('')
  return {
    description: { text: says },
    artifactChanges: [
      {
        artifactLocation: { uri: uriOf(file) },
        replacements: [
          {
            deletedRegion: { startLine: line, startColumn: 1, endLine: line + was.length, endColumn: 1 },
            insertedContent: { text: inserted },
          },
        ],
      },
    ],
  }
}

function locationOf(place: Place | null, file: string, subject: string | null): Json {
  const { line = null, column = null } = place ?? {}
  const region = line === null ? {} : { region: { startLine: line, startColumn: column ?? 1 } }
  const path = place?.path ?? ''
  const names = subject !== null || path !== ''
  return {
    physicalLocation: { artifactLocation: { uri: uriOf(place?.file ?? file) }, ...region },
    ...(names
      ? {
          logicalLocations: [
            { ...(subject === null ? {} : { name: subject }), ...(path === '' ? {} : { fullyQualifiedName: path }) },
          ],
        }
      : {}),
  }
}

/** A file as a URI reference, relative where the file is. */
function uriOf(file: string): string {
  const parts = file.replaceAll('\\', '/').split('/').map(encodeURIComponent)
  return file.startsWith('/') ? `file://${parts.join('/')}` : parts.join('/')
}
