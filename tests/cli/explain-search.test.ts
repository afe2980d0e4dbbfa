import { expect, test } from '@jest/globals'
import { project } from '../levels.ts'
import { zintel } from './zintel.ts'

test('check --explain-search tells how a level was explored, after the findings', async () => {
  const { code, out } = await zintel(['check', '--explain-search', `${project}examples/levels/tide-mill.level.yaml`])
  expect(code).toBe(0)
  const [, account = ''] = out.split('How it was explored\n')
  expect(account).toContain('  Ground: 48 patches for keeper; on a patch everything is alike.\n')
  expect(account).toMatch(/One by one: [\d,]+ situations, which are all\. Of each clock/)
  expect(account).toContain('Whatever comes by itself comes to an end: seen from the tables of transitions.\n')
  expect(account).toContain('Proved that grind can still be met: backwards from the goal, over all situations.\n')
})

test('it names sets, what was merged, ticks, and what was left out of proofs', async () => {
  const level = (name: string): string => `${project}tests/verdicts/levels/${name}.level.yaml`
  const blinking = await zintel(['check', '--explain-search', level('blinking-lamp')])
  expect(blinking.out).toContain('Left out of proofs, since they only keep themselves running: lamp.')
  expect(blinking.out).toMatch(/over all situations without what was\s+left out/)
  const report = await zintel([
    'check',
    '--format',
    'json',
    `${project}examples/levels/round-the-mill/mill-cellar.level.yaml`,
  ])
  const [{ account }] = JSON.parse(report.out) as [{ account: string[] }]
  expect(account.join('\n')).toMatch(
    /One by one: 30,027 situations, then sets and plays were asked instead[^]*As sets: 596,152 situations in [\d,]+ nodes\. Merged places: 56 patches into \d+, between which[^]*Proved that works-awake can still be met: backwards from the goal, over sets\./,
  )
}, 60_000)
