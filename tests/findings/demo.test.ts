import { describe, expect, test } from '@jest/globals'
import { stringify } from 'yaml'
import { type Finding, type FileReport } from '../../src/findings/index.ts'
import { readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { checked, inShort, staged, textOf, walkthroughSteps } from '../levels.ts'

const clean = checked(textOf('examples/levels/tide-mill.level.yaml'), 'clean')
const draftText = textOf('examples/levels/tide-mill-draft.level.yaml')
const draft = checked(draftText, 'draft')

test('nothing is found in the clean level, and nothing is open', () => {
  expect(inShort(clean)).toEqual([])
  expect(clean.counts.open).toBe(0)
  expect(clean.questions.filter(({ rule }) => rule === 'soft-lock').map(({ subject }) => subject)).toEqual([
    'grind',
    'beacon-lit',
  ])
})

test('each mistake of the draft is found, once, with what follows from it folded under it', () => {
  expect(inShort(draft)).toEqual([
    'unreachable-state sluice-gate/jammed',
    'dead-transition millstone/stop',
    'wasted-item grind (wasted-item beacon-lit)',
    'out-of-reach tide-chart (unreachable-state tide-chart/taken, dead-transition tide-chart/take)',
    'soft-lock grind (soft-lock beacon-lit)',
    'unknown-name flour-sack',
    'silent-refusal loft-door',
    'unreachable-goal fare',
  ])
  expect(draft.counts.open).toBe(0)
})

test('each finding points at the line that made it', () => {
  const lines = draftText.split('\n')
  const at = (rule: string): string =>
    lines[(draft.findings.find((one) => one.rule === rule)?.place?.line ?? 0) - 1] ?? ''
  expect(at('wasted-item')).toContain('set: { item: tally, then: spend, sends: toll-shown }')
  expect(at('soft-lock')).toContain('closes: { after: 4')
  expect(at('out-of-reach')).toContain('at: [9.2, 1.5, 1.3]')
  expect(at('unknown-name')).toContain('gives: fluor')
  expect(at('silent-refusal')).toContain('lock: { item: crank, then: keep }')
  expect(at('unreachable-goal')).toContain('fare:')
  expect(at('unreachable-state')).toContain('jammed:')
  expect(at('dead-transition')).toContain('name: stop')
})

/** The steps of a finding as a walkthrough file, with what the finding claims expected at its end. */
function walkthrough(finding: Finding): string {
  const steps: unknown[] = finding.steps.flatMap(walkthroughSteps)
  if (finding.rule === 'silent-refusal') steps.push({ expect: { refused: finding.subject } })
  else steps.push({ expect: { not: { goal: finding.subject }, for: 30 } })
  return stringify({ walkthrough: 1, title: finding.message, steps })
}

function stepsGoAsPrinted(text: string, report: FileReport): void {
  // The command that plays refuses names that lead nowhere; a replay uses stand-ins.
  const stage = staged(text)
  const withSteps = report.findings.filter(({ steps }) => steps.length > 0)
  expect(withSteps.length).toBeGreaterThan(0)
  for (const finding of withSteps) {
    const reading = readWalkthrough(walkthrough(finding), finding.rule, stage.expanded)
    expect(reading.diagnostics).toEqual([])
    const result = runWalkthrough(stage, reading.value!, reading.source)
    expect(result.steps.filter((step) => step.failure !== null)).toEqual([])
  }
}

describe('each printed list of steps', () => {
  test('goes as printed when it is played as a walkthrough', () => {
    stepsGoAsPrinted(draftText, draft)
  })

  test('reads like something that a tester can do', () => {
    const soft = draft.findings.find(({ rule }) => rule === 'soft-lock')
    expect(soft?.steps.map(({ text }) => text)).toEqual([
      'Walk to key-hook.',
      'Take the sluice key from key-hook.',
      'Walk to mill-door.',
      'Press: mill-door takes the sluice key.',
      'Wait 4.8 s.',
    ])
  })
})

test('the same level gives the same report, byte for byte', () => {
  expect(JSON.stringify(checked(draftText, 'draft'))).toBe(JSON.stringify(draft))
})

describe('mending one mistake takes away its finding, and brings no other', () => {
  const mends: Readonly<Record<string, readonly [string, string]>> = {
    'unreachable-state sluice-gate/jammed': ['      jammed: { lasting: true, look: hanging askew }\n', ''],
    'dead-transition millstone/stop': [
      '      - { name: stop, from: grinding, to: still, trigger: { signal: gate-dropped } }\n',
      '',
    ],
    'wasted-item grind (wasted-item beacon-lit)': ['then: spend, sends: toll-shown', 'then: keep, sends: toll-shown'],
    'out-of-reach tide-chart (unreachable-state tide-chart/taken, dead-transition tide-chart/take)': [
      '[9.2, 1.5, 1.3]',
      '[8.9, 1.5, 1.3]',
    ],
    'soft-lock grind (soft-lock beacon-lit)': ['item: sluice-key, then: spend', 'item: sluice-key, then: keep'],
    'unknown-name flour-sack': ['gives: fluor', 'gives: flour'],
    'unreachable-goal fare': ['count: 3', 'count: 2'],
  }
  for (const [finding, [wrong, right]] of Object.entries(mends)) {
    test(finding, () => {
      expect(draftText).toContain(wrong)
      const mended = checked(draftText.replace(wrong, right), 'draft')
      const causes = (report: FileReport): string[] => inShort(report).map((one) => one.replace(/ \(.*/, ''))
      expect(causes(mended)).toEqual(causes(draft).filter((one) => !finding.startsWith(one)))
    })
  }
})
