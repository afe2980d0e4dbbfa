import { describe, expect, test } from '@jest/globals'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { FileReport } from '../../src/findings/index.ts'
import { asWalkthrough, planGoals, replay } from '../../src/explore/index.ts'
import { finish } from '../../src/model/index.ts'
import { readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { project, replayedSteps, staged, textOf, twoRooms } from '../levels.ts'
import { randomLevel } from '../soak/levels.ts'
import { playAtRandom, trialOf } from '../soak/plays.ts'
import { Random } from '../soak/random.ts'
import { zintel } from './zintel.ts'

const mill = `${project}examples/levels/tide-mill.level.yaml`

/** Runs a command on the text of a level. */
async function onLevel(text: string, ...args: string[]) {
  const folder = mkdtempSync(join(tmpdir(), 'zintel-route-'))
  try {
    const file = join(folder, 'my.level.yaml')
    writeFileSync(file, text)
    return await zintel(args.map((arg) => (arg === 'LEVEL' ? file : arg)))
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

describe('route', () => {
  test('prints the way with the fewest steps, a quicker one, and what needs what', async () => {
    const { code, out } = await zintel(['route', mill, '--to', 'grind'])
    expect(code).toBe(0)
    expect(out).toMatch(/^grind {2}The stone turns\n {2}Fewest steps: 20 steps in [\d.]+ s\.\n/)
    expect(out).toContain('    19. Press: sluice-wheel answers.\n')
    // What is set off by walking alone is said, too.
    expect(out).toContain('Walk to granary-keyhole, taking the tally from yard-tally on the way.\n')
    expect(out).toContain('Walk to loft-door, taking the crank and the lamp oil from meal-chest on the way.\n')
    expect(out).toMatch(/Quickest found: \d+ steps in [\d.]+ s\.\n/)
    expect(out).toContain('    granary-keyhole ← 2 × tally (from quay-tally, yard-tally)\n')
    expect(out).toContain('    loft-door ← crank (from meal-chest)\n')
    expect(out).toContain('    meal-chest ← granary-door\n')
    const { out: other } = await zintel(['route', mill, '--to', 'beacon-lit'])
    expect(other).toContain('  Few steps (fewer might do): 17 steps in ')
  }, 240_000)

  test('as JSON, and as a walkthrough that goes as written', async () => {
    const { out: json } = await zintel(['route', mill, '--format', 'json'])
    type Told = Record<
      'fewest' | 'quickest',
      { readonly ms: number; readonly steps: FileReport['findings'][number]['steps'] }
    >
    const plans = JSON.parse(json) as (Told & { readonly goal: string })[]
    expect(plans.map(({ goal }) => goal)).toEqual(['grind', 'beacon-lit'])
    const stage = staged(textOf('examples/levels/tide-mill.level.yaml'))
    for (const { goal, fewest, quickest } of plans) {
      for (const plan of [fewest, quickest]) {
        const play = replayedSteps(stage, plan.steps)
        expect(play.goalsMet()).toContain(goal)
        expect(play.now).toBe(plan.ms)
      }
      expect(quickest.ms).toBeLessThanOrEqual(fewest.ms)
      expect(fewest.steps.length).toBeLessThanOrEqual(quickest.steps.length)
    }
    const { out } = await zintel(['route', mill, '--to', 'grind', '--format', 'walkthrough'])
    const reading = readWalkthrough(out, 'way.yaml', stage.expanded)
    expect(reading.diagnostics).toEqual([])
    const failed = runWalkthrough(stage, reading.value!, reading.source).steps.filter(({ failure }) => failure)
    expect(failed).toEqual([])
  }, 240_000)

  const doors = (more: string): string =>
    twoRooms(`items: { key: {} }
interactables:
  door: { type: door, in: gap, set: { lock: { item: key }, stays-open: true } }
${more}goals:
  open: { interactable: door, is: open }
  shut: { interactable: door, is: locked }
`)

  test('what cannot be met has no way, and says why; what is met at once needs none', async () => {
    const { code, out } = await onLevel(doors(''), 'route', 'LEVEL')
    expect(code).toBe(1)
    expect(out).toBe(
      'open\n  No way there: it cannot be met, whatever a player does.\n\nshut\n  It is met at the start.\n',
    )
  })

  test('of two that give the same, neither is needed', async () => {
    const two = `  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: key } }
  nail: { type: pickup, at: [1, 3.6, 1], set: { gives: key } }
`
    const { out } = await onLevel(doors(two), 'route', 'LEVEL', '--to', 'open')
    expect(out).toContain('    door ← key (from hook, nail)\n')
    expect(out).toMatch(/(hook|nail) needs nothing {2}- there are ways without it\n/)
  })

  test('a goal that is not there is told, with the nearest', async () => {
    expect(await zintel(['route', mill, '--to', 'grid'])).toEqual({
      code: 2,
      out: '',
      err: 'zintel: there is no goal called "grid". Did you mean "grind"?\n',
    })
    const none = await onLevel(twoRooms(''), 'route', 'LEVEL')
    expect(none).toMatchObject({ code: 2, err: 'zintel: the level has no goals: there is nothing to be reached.\n' })
  })

  test('the quickest way, and a finding with its steps, are drawn on the plan', async () => {
    const { code, out } = await zintel(['draw', mill, '--route', 'beacon-lit'])
    expect(code).toBe(0)
    expect(out).toMatch(/<path d="M[^"]+" fill="none" stroke="#7a1f5c"/)
    const locked = twoRooms(`items: { key: { title: key } }
interactables:
  hook: { type: pickup, at: [1, 0.4, 1], set: { gives: key } }
  door: { type: door, in: gap, set: { lock: { item: key } } }
goals: { open: { interactable: door, is: open } }
`)
    for (const named of ['1', 'silent-refusal', 'silent-refusal/door']) {
      const drawn = await onLevel(locked, 'draw', 'LEVEL', '--highlight', named)
      expect(drawn.code).toBe(0)
      expect(drawn.out).toContain('>silent-refusal: door</text>')
      expect(drawn.out).toMatch(/<path d="M[^"]+" fill="none" stroke="#7a1f5c"/)
    }
    const unknown = await onLevel(locked, 'draw', 'LEVEL', '--highlight', 'no-such')
    expect([unknown.code, unknown.err]).toEqual([2, expect.stringContaining('there is no finding "no-such" in')])
    const wrong = await zintel(['draw', mill, '--view', 'machine', '--of', 'mill-door', '--route', 'beacon-lit'])
    expect(wrong.err).toContain('--highlight, --route and --storey go with --view plan.')
  })

  test('what a goal needs is drawn: a box for each, with its items', async () => {
    const { code, out } = await zintel(['draw', mill, '--view', 'dependencies', '--of', 'beacon-lit'])
    expect(code).toBe(0)
    for (const text of ['What beacon-lit needs', 'beacon', 'meal-chest', 'lamp oil from meal-chest'])
      expect(out).toContain(`>${text}<`)
    const { code: cannot, err } = await onLevel(doors(''), 'draw', 'LEVEL', '--view', 'dependencies')
    expect([cannot, err]).toEqual([
      2,
      'zintel: there is no way to open to be drawn: it cannot be met, whatever a player does.\n',
    ])
  }, 240_000)
})

test('plans of random levels meet their goals, as walkthroughs too; and no random play does without what is inevitable', () => {
  const seen = { plans: 0, fewest: 0, met: 0, inevitable: 0 }
  for (let number = 1; number <= 24; number++) {
    const { level } = randomLevel(number)
    const trial = trialOf(level)
    if (!trial) continue
    const { stage } = trial
    const [plans] = finish(planGoals(stage, [0], { budget: 20_000 }))
    if (!plans?.fewest || !plans.quickest) continue
    seen.plans++
    if (plans.fewest.isFewest) seen.fewest++
    for (const { steps, ms } of [plans.fewest, plans.quickest]) {
      const play = replay(stage, steps)
      expect([number, play.goalsMet().includes(plans.goal), play.now]).toEqual([number, true, ms])
    }
    const written = asWalkthrough(stage, 'way', plans.fewest.steps, [{ expect: { goal: plans.goal } }])
    const reading = readWalkthrough(JSON.stringify(written), 'way', stage.expanded)
    expect(reading.diagnostics).toEqual([])
    const ran = runWalkthrough(stage, reading.value!, reading.source)
    expect([number, ran.steps.flatMap(({ failure }) => failure ?? [])]).toEqual([number, []])
    const inevitable = (plans.needs ?? []).slice(0, -1).filter(({ isInevitable }) => isInevitable)
    const random = new Random(number)
    for (let i = 0; i < 12; i++) {
      const play = playAtRandom(trial, random, 60, () => null)
      if (!play.goalsMet().includes(plans.goal)) continue
      seen.met++
      const did = new Set(play.taken.map((row) => stage.expanded.interactables[stage.tables.rows[row]!.machine]!.name))
      for (const { interactable } of inevitable) {
        seen.inevitable++
        expect([number, interactable, did.has(interactable)]).toEqual([number, interactable, true])
      }
    }
  }
  for (const count of Object.values(seen)) expect(count).toBeGreaterThan(0)
}, 600_000)
