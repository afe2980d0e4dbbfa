import { type FileReport, type Finding, rules, type Severity } from '../findings/index.ts'
import { escaped, placeText } from '../model/index.ts'
import type { WalkthroughResult } from '../play/index.ts'

/** One test of a suite: what came of it, and what is said about that. */
interface TestCase {
  readonly name: string
  readonly outcome: 'passed' | 'failure' | 'error' | 'skipped'
  readonly message: string
  readonly text: string
}

interface Suite {
  readonly name: string
  readonly cases: readonly TestCase[]
}

/** From what severity on a finding fails. */
const order: readonly Severity[] = ['advice', 'warning', 'error']

/**
 * Check reports in the XML that build servers read test results from: a suite for each file, a test for each rule that was asked. It fails
 * where something at least so bad was found, and is skipped where something is undecided. A file that cannot be used is an error.
 */
export function junitOfChecks(reports: readonly FileReport[], failOn: Severity): string {
  return junitText(
    'zintel check',
    reports.map((report) => suiteOfCheck(report, failOn)),
  )
}

/** Walkthroughs that were played: a suite for each, a test for each expectation, and for each step that could not be made. */
export function junitOfPlays(
  plays: readonly {
    readonly file: string
    readonly result: WalkthroughResult | null
    readonly problems: readonly string[]
  }[],
): string {
  return junitText(
    'zintel play',
    plays.map(({ file, result, problems }) => ({
      name: file,
      cases: [
        ...problems.map((text): TestCase => ({ name: 'can be played', outcome: 'error', message: text, text: '' })),
        ...(result?.steps ?? []).flatMap((step, i): TestCase[] => {
          if (!step.isExpectation && step.failure === null) return []
          const isMet = step.failure === null
          const message = isMet ? '' : `Instead: ${step.failure}`
          const text = isMet || step.place === null ? '' : placeText(step.place)
          return [{ name: `${String(i + 1)}. ${step.text}`, outcome: isMet ? 'passed' : 'failure', message, text }]
        }),
      ],
    })),
  )
}

function suiteOfCheck(report: FileReport, failOn: Severity): Suite {
  const { file, outcome, diagnostics, questions, findings } = report
  if (outcome === 'unusable') {
    const cases = diagnostics.map(({ message, place }): TestCase => ({
      name: 'can be read',
      outcome: 'error',
      message,
      text: place ? placeText(place) : '',
    }))
    return { name: file, cases }
  }
  const isBad = ({ severity }: Finding): boolean => order.indexOf(severity) >= order.indexOf(failOn)
  const asked = rules.map(({ name }) => String(name)).filter((name) => questions.some(({ rule }) => rule === name))
  const cases = asked.flatMap((rule): TestCase[] => {
    const bad = findings.filter((one) => one.rule === rule && isBad(one))
    if (bad.length > 0) {
      return bad.map((one) => ({
        name: `${rule}: ${one.subject}`,
        outcome: 'failure',
        message: one.message,
        text: findingLines(one),
      }))
    }
    const why = questions.find((one) => one.rule === rule && one.answer === 'undecided')?.why
    if (why) return [{ name: rule, outcome: 'skipped', message: `undecided: ${why}`, text: '' }]
    return [{ name: rule, outcome: 'passed', message: '', text: '' }]
  })
  return { name: file, cases }
}

function findingLines({ headline, message, place, steps, fix, tried }: Finding): string {
  const lines = [...(headline === null ? [] : [headline]), message, ...(place ? [placeText(place)] : [])]
  return [
    ...lines,
    ...steps.map(({ text }, i) => `${String(i + 1)}. ${text}`),
    `Fix: ${fix.says}`,
    ...tried.map(({ says }) => `Tried: ${says}`),
  ].join('\n')
}

function junitText(name: string, suites: readonly Suite[]): string {
  const all = suites.flatMap(({ cases }) => cases)
  const lines = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites name="${escaped(name)}" ${countsOf(all)}>`,
    ...suites.flatMap((suite) => [
      `  <testsuite name="${escaped(suite.name)}" ${countsOf(suite.cases)}>`,
      ...suite.cases.map((one) => `    ${caseOf(one, suite.name)}`),
      '  </testsuite>',
    ]),
    '</testsuites>',
  ]
  return `${lines.join('\n')}\n`
}

function countsOf(cases: readonly TestCase[]): string {
  const count = (outcome: TestCase['outcome']): string => String(cases.filter((one) => one.outcome === outcome).length)
  return `tests="${String(cases.length)}" failures="${count('failure')}" errors="${count('error')}" skipped="${count('skipped')}"`
}

function caseOf({ name, outcome, message, text }: TestCase, suite: string): string {
  const head = `<testcase name="${attribute(name)}" classname="${attribute(suite)}"`
  if (outcome === 'passed') return `${head}/>`
  const said = text === '' ? '/>' : `>${text.split('\n').map(escaped).join('\n')}</${outcome}>`
  return `${head}><${outcome} message="${attribute(message)}"${said}</testcase>`
}

function attribute(text: string): string {
  return escaped(text.replaceAll(/\s+/g, ' '))
}
