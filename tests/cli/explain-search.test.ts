import { expect, test } from '@jest/globals'
import { project } from '../levels.ts'
import { zintel } from './zintel.ts'

test('check --explain-search tells how a level was explored, after the findings', async () => {
  const { code, out } = await zintel(['check', '--explain-search', `${project}examples/levels/tide-mill.level.yaml`])
  expect(code).toBe(0)
  const [, account = ''] = out.split('How it was explored\n')
  expect(account).toContain('  Ground: 46 patches for keeper; a patch is ground on which everything is the same.\n')
  expect(account).toMatch(/One by one: [\d,]+ situations, which are all\. Timers are only known/)
  expect(account).toContain('Everything that runs by itself ends: the transitions alone show it.\n')
  expect(account).toContain('Proved that grind can still be met: backwards from the goal, over all situations.\n')
})

test('it names sets, what was merged, ticks, and what was left out of proofs', async () => {
  const level = (name: string): string => `${project}tests/verdicts/levels/${name}.level.yaml`
  const blinking = await zintel(['check', '--explain-search', level('blinking-lamp')])
  expect(blinking.out).toContain('Left out of the proofs, because they only keep themselves running: lamp.')
  expect(blinking.out).toMatch(/over all situations without what was\s+left out/)
  const report = await zintel([
    'check',
    '--format',
    'json',
    `${project}examples/levels/round-the-mill/mill-cellar.level.yaml`,
  ])
  const [{ account }] = JSON.parse(report.out) as [{ account: string[] }]
  expect(account.join('\n')).toMatch(
    /One by one: 30,027 situations, and the rest as sets[^]*As sets: 596,152 situations in [\d,]+ nodes\. Merged: 56 patches into \d+ places, because nothing[^]*Proved that works-awake can still be met: backwards from the goal, over sets\./,
  )
}, 60_000)
