import { describe, expect, test } from '@jest/globals'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { finish } from '../../src/model/index.ts'
import { type Margin, marginOf, perform, planGoals } from '../../src/explore/index.ts'
import { Play } from '../../src/play/index.ts'
import { zintel } from '../cli/zintel.ts'
import { longRooms, staged } from '../levels.ts'

/** A gate at the far end, opened from the near one, that shuts by itself. */
const dash = (after: number, speed = 3): string =>
  longRooms(`interactables:
  plate: { type: button, at: [1, 3.8, 1.2], set: { sends: go }, feedback: { accepted: [{ sound: click }] } }
  gate: { type: door, in: gap, set: { opened-by: [{ signal: go }], closes: { after: ${String(after)} } }, feedback: { started: [{ sound: grind }] } }
  bell: { type: lever, at: [18, 3.8, 1.2], feedback: { accepted: [{ sound: ding }] } }
goals: { rung: { interactable: bell, is: "on" } }
`).replace('speed: 3', `speed: ${String(speed)}`)

function marginIn(text: string): Margin {
  const stage = staged(text)
  const [plans] = finish(planGoals(stage, [0]))
  return finish(marginOf(stage, plans!))!
}

/** Whether the steps lead to the goal where one of them comes so much later. */
function leads(text: string, { steps, step }: Margin, ms: number): boolean {
  const play = new Play(staged(text))
  for (const [i, one] of steps.entries()) {
    if (i + 1 === step) play.advance(ms)
    perform(play, one)
  }
  return play.goalsMet().includes('rung')
}

describe('the time to spare', () => {
  test('is what can be lost, to a millisecond, and not more', () => {
    const margin = marginIn(dash(5))
    expect(leads(dash(5), margin, margin.spare!)).toBe(true)
    expect(leads(dash(5), margin, margin.spare! + 1)).toBe(false)
    expect(margin.by).toEqual({ interactable: 'gate', transition: 'close-by-itself', given: 5000 })
  })

  test('grows with the time that is given, and shrinks for who is slower', () => {
    const spare = marginIn(dash(5)).spare!
    expect(marginIn(dash(6.5)).spare).toBe(spare + 1500)
    // About twelve metres at three metres a second; a second and a half more at 2.2.
    const slower = marginIn(dash(5, 2.5)).spare!
    expect(slower).toBeLessThan(spare - 500)
    expect(slower).toBeGreaterThan(spare - 1500)
  })

  test('is without end where nothing on the way runs out', () => {
    const still = dash(5).replace('closes: { after: 5 }', 'stays-open: true')
    expect(marginIn(still)).toMatchObject({ spare: null, step: null, by: null })
  })
})

describe('zintel check', () => {
  const file = join(mkdtempSync(join(tmpdir(), 'zintel-margins-')), 'dash.level.yaml')
  writeFileSync(file, dash(5))
  test('--margins tells it, --reserve wants some', async () => {
    const told = await zintel(['check', file, '--margins'])
    expect(told.code).toBe(0)
    expect(told.out.replaceAll(/\s+/g, ' ')).toMatch(
      /Time to spare rung: [\d.]+ s to spare, before step \d+ \(.*\): 5 s given, [\d.]+ s needed\. Then gate makes its transition close-by-itself\./,
    )
    expect((await zintel(['check', file, '--reserve', '0.1'])).code).toBe(0)
    const tight = await zintel(['check', file, '--reserve', '4.5'])
    expect([tight.code, tight.out.replaceAll(/\s+/g, ' ')]).toEqual([
      1,
      expect.stringContaining('less than the 4.5 s wanted'),
    ])
    const wrong = await zintel(['check', file, '--reserve', 'soon'])
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('--reserve takes seconds')])
  })

  test('they are in the JSON report, and null where nobody asked', async () => {
    const [asked] = JSON.parse((await zintel(['check', file, '--margins', '--format', 'json'])).out) as {
      margins: { goal: string; spare: number }[] | null
    }[]
    expect(asked!.margins![0]!.goal).toBe('rung')
    expect(asked!.margins![0]!.spare).toBeGreaterThan(0.2)
    const [plain] = JSON.parse((await zintel(['check', file, '--format', 'json'])).out) as { margins: null }[]
    expect(plain!.margins).toBeNull()
  })
})
