import { describe, expect, test } from '@jest/globals'
import { writtenSteps } from '../../src/explore/index.ts'
import { stringify } from 'yaml'
import { type Finding, type FileReport } from '../../src/findings/index.ts'
import { readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { checked, inShort, staged, textOf } from '../levels.ts'

const clean = checked(textOf('examples/levels/tide-mill.level.yaml'), 'clean')
const draftText = textOf('examples/levels/tide-mill-draft.level.yaml')
const draft = checked(draftText, 'draft')

test('nothing is found in the clean level, and nothing is open', () => {
  expect(inShort(clean)).toEqual([])
  expect(clean.counts.undecided).toBe(0)
  expect(clean.questions.filter(({ rule }) => rule === 'soft-lock').map(({ subject }) => subject)).toEqual([
    'grind',
    'beacon-lit',
  ])
})

/** Each mistake of the draft: the line that is told, and how it would be fixed. In the order in which one would fix them. */
const mistakes: readonly { finding: string; line: string; wrong: string; right: string }[] = [
  {
    finding: 'wasted-item grind',
    line: 'set: { item: tally, item-use: consume, sends',
    wrong: 'item-use: consume, sends: toll',
    right: 'item-use: keep, sends: toll',
  },
  {
    finding: 'soft-lock grind',
    line: 'lock: { item: sluice-key, item-use: consume }',
    wrong: 'item: sluice-key, item-use: consume',
    right: 'item: sluice-key, item-use: keep',
  },
  { finding: 'unreachable-goal fare', line: 'fare:', wrong: 'count: 3 }', right: 'count: 2 }' },
  {
    finding: 'unsent-signal millstone/gate-dropped',
    line: 'name: stop',
    wrong: '      - { name: stop, from: grinding, to: still, trigger: { signal: gate-dropped } }\n',
    right: '',
  },
  {
    finding: 'unobtainable-item chisel',
    line: 'set: { lock: { item: chisel } }',
    wrong: '\n  tool-chest:\n',
    right:
      '\n  nail:\n    type: pickup\n    at: [7, 6.8, 1]\n    set: { gives: chisel }\n    feedback: { focused: [{ prompt: Take it }], accepted: [{ sound: clink }] }\n\n  tool-chest:\n',
  },
  { finding: 'unknown-name flour-sack', line: 'gives: fluor', wrong: 'gives: fluor', right: 'gives: flour' },
  { finding: 'out-of-reach tide-chart', line: 'at: [9.2, 1.5', wrong: '[9.2, 1.5, 1.3]', right: '[8.9, 1.5, 1.3]' },
  {
    finding: 'no-way-out sluice-gate/up',
    line: 'up: {',
    wrong: 'up: { look: hanging',
    right: 'up: { lasting: true, look: hanging',
  },
  {
    finding: 'unreachable-state sluice-gate/jammed',
    line: 'jammed:',
    wrong: '      jammed: { lasting: true, look: hanging askew }\n',
    right: '',
  },
  {
    finding: 'leftover-test-only call-ferry',
    line: 'test-only: true',
    wrong:
      '  call-ferry: { type: lever, at: [4.2, 0.2, 1], test-only: true, feedback: { focused: [{ prompt: Call the ferry }] } }\n',
    right: '',
  },
  {
    finding: 'unheard-signal granary-keyhole/bolt-drawn',
    line: 'sends: bolt-drawn',
    wrong: ', sends: bolt-drawn',
    right: '',
  },
  {
    finding: 'same-look beacon/dark/lit',
    line: 'lit: {',
    wrong: 'lit: { lasting: true, look: dark }',
    right: 'lit: { lasting: true, look: burning }',
  },
  {
    finding: 'missing-prompt beacon',
    line: 'beacon:',
    wrong: '    feedback:\n      refused: [{ sound: dry-wick }',
    right: '    feedback:\n      focused: [{ prompt: Light it }]\n      refused: [{ sound: dry-wick }',
  },
  { finding: 'wrong-item-named beacon', line: 'Without a crank', wrong: 'Without a crank', right: 'Without {item}' },
  {
    finding: 'stuck-prompt key-hook',
    line: 'prompt: Take the sluice key',
    wrong: 'prompt: Take the sluice key }',
    right: 'prompt: Take the sluice key, shown: if-accepted }',
  },
  {
    finding: 'silent-refusal loft-door',
    line: 'lock: { item: crank, item-use: keep }',
    wrong: '      focused: [{ prompt: Lift the loft latch }]\n',
    right: '      focused: [{ prompt: Lift the loft latch }]\n      refused: [{ message: "It wants a {item}." }]\n',
  },
  {
    finding: 'unused-item chart',
    line: 'chart: {',
    wrong: '\ngoals:\n',
    right: '\ngoals:\n  charted: { carries: chart }\n',
  },
  {
    finding: 'unused-item flour',
    line: 'flour: {',
    wrong: '\ngoals:\n',
    right: '\ngoals:\n  fed: { carries: flour }\n',
  },
  {
    finding: 'one-channel granary-door',
    line: 'bolt-thud',
    wrong: 'refused: [{ sound: bolt-thud }]',
    right: 'refused: [{ sound: bolt-thud }, { message: Bolted. }]',
  },
  {
    finding: 'unused-feedback sluice-wheel/refused',
    line: 'dull-knock',
    wrong: '      refused: [{ sound: dull-knock }, { message: "It will not turn without a {item}." }]\n',
    right: '',
  },
]

const causes = (report: FileReport): string[] => inShort(report).map((one) => one.replace(/ \(.*/, ''))

test('the draft has twenty mistakes, and each is told once, in the order in which one would fix them', () => {
  expect(mistakes).toHaveLength(20)
  expect(causes(draft)).toEqual(mistakes.map(({ finding }) => finding))
  expect(draft.counts.undecided).toBe(0)
  const severities = ['error', 'warning', 'advice']
  const ranks = draft.findings.map(({ severity }) => severities.indexOf(severity))
  expect(ranks).toEqual([...ranks].sort((a, b) => a - b))
})

test('what follows from a mistake is grouped under it', () => {
  const grouped = inShort(draft).filter((one) => one.includes('('))
  expect(grouped).toEqual([
    'wasted-item grind (too-few-items tally, wasted-item beacon-lit)',
    'soft-lock grind (soft-lock beacon-lit)',
    'unsent-signal millstone/gate-dropped (dead-transition millstone/stop)',
    'unobtainable-item chisel (unreachable-state tool-chest/opening, unreachable-state tool-chest/open, dead-transition tool-chest/opened, dead-transition tool-chest/unlock)',
    'out-of-reach tide-chart (unreachable-state tide-chart/taken, dead-transition tide-chart/take, unused-feedback tide-chart/focused, unused-feedback tide-chart/accepted)',
  ])
})

test('each finding points at the line that made it', () => {
  const lines = draftText.split('\n')
  for (const [i, { line }] of mistakes.entries()) {
    expect(lines[(draft.findings[i]?.place?.line ?? 0) - 1]).toContain(line)
  }
})

test('goals that cannot be met, or can be lost, come with a change that was tried, each its own', () => {
  const lines = draft.findings.flatMap(({ rule, tried }) =>
    tried.map((small) => `${rule}: ${small.lines?.becomes.join().trim() ?? ''}`),
  )
  expect(lines).toEqual([
    'wasted-item: set: { item: tally, item-use: keep, sends: toll-shown }',
    'soft-lock: lock: { item: sluice-key, item-use: keep }',
    'unreachable-goal: fare: { title: The fare for the ferry is in hand, carries: tally, count: 2 }',
  ])
})

/** The steps of a finding as a walkthrough file, with what the finding claims expected at its end. */
function walkthrough(finding: Finding): string {
  const steps: unknown[] = finding.steps.flatMap(writtenSteps)
  const isRefusal = ['silent-refusal', 'one-channel', 'wrong-item-named'].includes(finding.rule)
  if (isRefusal) steps.push({ expect: { refused: finding.subject } })
  if (finding.rule === 'stuck-prompt') steps.push({ expect: { prompt: 'Take the sluice key' } })
  if (finding.rule === 'soft-lock' || finding.rule === 'wasted-item') {
    steps.push({ expect: { not: { goal: finding.subject }, for: 30 } })
  }
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
      'Press: mill-door uses up the sluice key.',
      'Wait 4.8 s.',
    ])
  })
})

test('the same level gives the same report, byte for byte', () => {
  expect(JSON.stringify(checked(draftText, 'draft'))).toBe(JSON.stringify(draft))
})

describe('fixing some mistakes takes away their findings, no other mistake, and brings none', () => {
  /** All findings, each by itself. */
  const all = (text: string): string[] => {
    return checked(text, 'draft', undefined, false).findings.map(({ rule, subject }) => `${rule} ${subject}`)
  }
  const before = all(draftText)

  // Each fix by itself would be twenty checks; every fifth together says the same of all.
  for (const first of [0, 1, 2, 3, 4]) {
    const some = mistakes.filter((_, i) => i % 5 === first)
    test(some.map(({ finding }) => finding).join(', '), () => {
      let fixed = draftText
      for (const { wrong, right } of some) {
        expect(fixed.split(wrong)).toHaveLength(2)
        fixed = fixed.replace(wrong, right)
      }
      const own = some.map(({ finding }) => finding)
      const after = all(fixed)
      for (const finding of own) expect(after).not.toContain(finding)
      const came = after.filter((one) => !before.includes(one))
      // What comes all the same must follow from another mistake.
      const standing = came.length === 0 ? [] : causes(checked(fixed, 'draft'))
      expect(came.filter((one) => standing.includes(one))).toEqual([])
      for (const other of causes(draft)) if (!own.includes(other)) expect(after).toContain(other)
    })
  }
})
