import { expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { stringify } from 'yaml'
import { processWorld } from '../../src/cli/process.ts'
import { reportText } from '../../src/cli/report.ts'
import { writtenSteps } from '../../src/explore/index.ts'
import { type FileReport, type Finding, reportSchema } from '../../src/findings/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { edited } from '../../src/model/index.ts'
import { readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { checked, replayedSteps, staged } from '../levels.ts'
import { pairs } from '../oracle/levels.ts'

const world = { ...processWorld(), colours: false, columns: 100 }
/** The most situations of a level that are looked at: a larger one leaves more open, and takes no longer. */
const budget = 20_000
const runs = Number(process.env.ZINTEL_REPORT_RUNS ?? 4)

/** What a finding says to be so at the end of its steps, as walkthroughs expect it. */
function claimOf({ rule, subject }: Finding): unknown {
  const [interactable, state] = subject.split('/')
  if (rule === 'silent-refusal') return { expect: { refused: subject } }
  if (rule === 'stuck-state') return { expect: { interactable, is: state } }
  if (rule === 'soft-lock' || rule === 'wasted-item') return { expect: { not: { goal: subject }, for: 20 } }
  return null
}

/** The steps of a finding, and what it claims, played as a walkthrough; what failed. */
function failures(text: string, finding: Finding): unknown[] {
  const stage = staged(text)
  const claim = claimOf(finding)
  const steps = [...finding.steps.flatMap(writtenSteps), ...(claim === null ? [] : [claim])]
  const source = stringify({ walkthrough: 1, title: finding.rule, steps })
  const reading = readWalkthrough(source, finding.rule, stage.expanded)
  if (!reading.value) return [reading.diagnostics]
  return runWalkthrough(stage, reading.value, reading.source).steps.flatMap(({ failure }) => failure ?? [])
}

/** Everything that is told, also what is grouped under another finding. */
function allOf({ findings }: FileReport): { rule: string; subject: string; message: string }[] {
  return findings.flatMap(({ rule, subject, message, also, follows }) => [
    ...[subject, ...also].map((one) => ({ rule, subject: one, message })),
    ...follows,
  ])
}

test(`reports of ${String(runs)} random levels: nothing twice, steps that go as printed, fixes that can be made`, () => {
  const seen = { findings: 0, steps: 0, claims: 0, fixes: 0, grouped: 0, safe: 0 }
  fc.assert(
    fc.property(pairs, ({ level }) => {
      const text = stringify(level)
      const report = checked(text, 'test.level.yaml', budget)
      expect(reportSchema.safeParse([report]).error).toBeUndefined()
      const told = allOf(report)
      const lines = told.map(({ rule, subject, message }) => `${rule} ${subject}: ${message}`)
      expect(lines).toEqual([...new Set(lines)])
      const questions = new Set(report.questions.map(({ rule, subject }) => `${rule} ${subject}`))
      for (const { rule, subject } of told) expect(questions).toContain(`${rule} ${subject}`)
      const printed = reportText(report, text, world)
      for (const finding of report.findings) {
        seen.findings++
        seen.grouped += finding.follows.length
        expect(printed.replaceAll(/\s+/g, ' ')).toContain(finding.message)
        if (finding.fix.edit) {
          seen.fixes++
          const fixed = edited(readLevel(text).source, finding.fix.edit)
          expect(readLevel(fixed!).diagnostics).toEqual([])
          expect(fixed).not.toBe(text)
        }
        if (finding.steps.length === 0 || Object.keys(level.characters).length > 1) continue
        seen.steps++
        if (claimOf(finding) !== null) seen.claims++
        if (finding.lastSafe) {
          seen.safe++
          const { after, steps } = finding.lastSafe
          const met = replayedSteps(staged(text), [...finding.steps.slice(0, after), ...steps]).goalsMet()
          expect(met).toContain(finding.subject)
        }
        expect([finding.rule, finding.subject, failures(text, finding)]).toEqual([finding.rule, finding.subject, []])
      }
    }),
    { numRuns: runs, seed: Number(process.env.ZINTEL_ORACLE_SEED ?? 37), endOnFailure: true },
  )
  for (const count of Object.values(seen)) expect(count).toBeGreaterThan(0)
}, 600_000)
