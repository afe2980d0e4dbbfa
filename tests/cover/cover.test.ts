import { describe, expect, test } from '@jest/globals'
import { type Cover, coverLevel, type CoverResult } from '../../src/cover/index.ts'
import { Exercised } from '../../src/cover/exercised.ts'
import { itemsOf } from '../../src/cover/items.ts'
import { exploreNow, type WrittenWalkthrough } from '../../src/explore/index.ts'
import { momentObservation, focusedObservation, refusalObservation } from '../../src/findings/index.ts'
import { finish, moments } from '../../src/model/index.ts'
import { readWalkthrough, runWalkthrough, type Stage } from '../../src/play/index.ts'
import { staged, textOf, twoRooms } from '../levels.ts'
import { randomLevel } from '../soak/levels.ts'
import { playAtRandom, trialOf } from '../soak/plays.ts'
import { Random } from '../soak/random.ts'

function covered(stage: Stage, walkthroughs: readonly string[], fill = false): CoverResult {
  const read = walkthroughs.map((text) => {
    const { value, source, diagnostics } = readWalkthrough(text, 'w.yaml', stage.expanded)
    if (!value) throw new Error(JSON.stringify(diagnostics))
    return { walkthrough: value, source }
  })
  return finish(coverLevel(stage, read, { fill }))
}

const asText = (walkthrough: WrittenWalkthrough): string => JSON.stringify(walkthrough)

/** Possible and exercised, by kind. */
const inShort = ({ totals }: Cover): string =>
  Object.entries(totals)
    .map(([kind, { possible, exercised }]) => `${kind} ${String(exercised)}/${String(possible)}`)
    .join(', ')

const chestWithKey = twoRooms(`
items: { key: { title: brass key } }
interactables:
  hook: { type: pickup, at: [0.8, 2.9], set: { gives: key } }
  chest:
    type: chest
    at: [4, 3]
    set: { lock: { needs: { carries: key }, item-use: keep } }
    feedback: { refused: [{ sound: rattle }], missing: [{ message: 'The {item} is missing.' }] }
goals: { opened: { title: The chest is open, interactable: chest, is: open } }
`)

describe('what walkthroughs exercise', () => {
  const stage = staged(chestWithKey)

  test('without any walkthrough nothing is exercised, and all that can happen is listed', () => {
    const { cover, filled, left } = covered(stage, [])
    expect(Object.values(cover.totals).map(({ exercised }) => exercised)).toEqual([0, 0, 0, 0])
    expect(filled).toEqual([])
    expect(left).toEqual(cover.items)
    expect(cover.items.map(({ interactable, kind, text }) => `${interactable} ${kind} ${text}`)).toContain(
      'chest refusal unlock refused in locked (item missing: brass key)',
    )
  })

  test('a refused press exercises the refusal and what is said, and not what it did not come to', () => {
    const steps = ['{ walk-to: chest }', '{ press: chest }']
    const { cover } = covered(stage, [`{ walkthrough: 1, title: In vain, steps: [${steps.join(', ')}] }`])
    const exercised = cover.items.filter(({ by }) => by.length > 0).map(({ kind, text }) => `${kind} ${text}`)
    expect(exercised).toContain('refusal unlock refused in locked (item missing: brass key)')
    expect(exercised).toContain('feedback missing')
    expect(exercised.filter((text) => text.startsWith('transition'))).toEqual([])
    expect(exercised).toContain('state locked')
    expect(exercised).not.toContain('state open')
  })

  test('a walkthrough says whether it went as expected, and counts all the same', () => {
    const steps = '[{ walk-to: hook }, { press: hook }, { expect: { interactable: chest, is: open } }]'
    const { cover } = covered(stage, [`{ walkthrough: 1, title: Hope, steps: ${steps} }`])
    expect(cover.walkthroughs).toEqual([{ title: 'Hope', passed: false }])
    expect(cover.totals.transition.exercised).toBe(1)
  })

  test('what no player can do is not possible, whatever a step of a tester does', () => {
    const locked = staged(chestWithKey.replace(/ {2}hook: .*\n/, ''))
    const steps = '[{ give: key }, { walk-to: chest }, { press: chest }, { wait: 5 }]'
    const { cover } = covered(locked, [`{ walkthrough: 1, title: Helped, steps: ${steps} }`])
    const texts = cover.items.map(({ kind, text }) => `${kind} ${text}`)
    expect(texts).not.toContain('state open')
    expect(texts).toContain('state locked')
  })

  test('walkthroughs for the rest exercise it, and go as they expect', () => {
    const { filled, left } = covered(stage, [], true)
    expect(left).toEqual([])
    expect(filled).toHaveLength(1)
    const { cover } = covered(
      stage,
      filled.map(({ walkthrough }) => asText(walkthrough)),
    )
    expect(inShort(cover)).toBe('state 5/5, transition 3/3, refusal 1/1, feedback 1/1')
    expect(cover.walkthroughs.every(({ passed }) => passed)).toBe(true)
    const expected = filled[0]!.walkthrough.steps.flatMap((step) =>
      typeof step === 'object' && 'expect' in step ? [step.expect] : [],
    )
    expect(expected).toContainEqual({ refused: 'chest' })
    expect(expected).toContainEqual({ interactable: 'chest', is: 'open' })
    expect(filled[0]!.notes).toHaveLength(filled[0]!.walkthrough.steps.length)
  })

  test('what is exercised already is left out of the rest', () => {
    const steps = '[{ walk-to: chest }, { press: chest }]'
    const { filled } = covered(stage, [`{ walkthrough: 1, title: In vain, steps: ${steps} }`], true)
    expect(JSON.stringify(filled)).not.toContain('refused')
  })
})

test.each([
  'tide-mill-draft',
  'gallery/choosing',
  'gallery/holding',
  'gallery/items',
  'gallery/perceiving',
  'gallery/telling',
])('everything that can happen in %s is exercised by the walkthroughs that are written for it', (name) => {
  const stage = staged(textOf(`examples/levels/${name}.level.yaml`))
  const { filled, left } = covered(stage, [], true)
  expect(left).toEqual([])
  const { cover } = covered(
    stage,
    filled.map(({ walkthrough }) => asText(walkthrough)),
  )
  for (const { passed } of cover.walkthroughs) expect(passed).toBe(true)
  for (const { possible, exercised } of Object.values(cover.totals)) expect(exercised).toBe(possible)
  // None is needless: each exercises something that no other does.
  for (const i of filled.keys()) expect(cover.items.some(({ by }) => by.length === 1 && by[0] === i)).toBe(true)
})

test('no step of a walkthrough that is written is needless', () => {
  const stage = staged(textOf('examples/levels/gallery/choosing.level.yaml'))
  const { filled } = covered(stage, [], true)
  const keysOf = (walkthrough: WrittenWalkthrough): Set<string> => {
    const { value, source } = readWalkthrough(asText(walkthrough), 'w.yaml', stage.expanded)
    const exercised = new Exercised(stage)
    runWalkthrough(stage, value!, source, (play) => {
      exercised.look(play)
    })
    return exercised.keys
  }
  const all = new Set(filled.flatMap(({ walkthrough }) => [...keysOf(walkthrough)]))
  for (const [which, { walkthrough }] of filled.entries()) {
    const others = filled.filter((_, i) => i !== which).flatMap((one) => [...keysOf(one.walkthrough)])
    for (const [i, step] of walkthrough.steps.entries()) {
      if (typeof step === 'object' && ('expect' in step || 'as' in step)) continue
      const fewer = { ...walkthrough, steps: walkthrough.steps.filter((_, at) => at !== i) }
      const keys = new Set([...keysOf(fewer), ...others])
      expect([which, i, [...all].every((key) => keys.has(key))]).toEqual([which, i, false])
    }
  }
})

test('whatever a random play comes to is among what can happen', () => {
  let [played, seen] = [0, 0]
  for (let seed = 1; seed <= 10; seed++) {
    const trial = trialOf(randomLevel(seed).level)
    if (!trial) continue
    const { stage } = trial
    const observations = [refusalObservation(stage), focusedObservation(stage), momentObservation(stage)]
    const items = finish(itemsOf(stage, exploreNow(stage, { observations })))
    const known = new Set(items.map(({ key }) => key))
    // Of a moment that nothing is to be perceived of there is no item.
    const isCounted = (key: string): boolean => !key.startsWith('moment ') || isSaid(stage, key)
    for (let times = 0; times < 4; times++) {
      const exercised = new Exercised(stage)
      playAtRandom(trial, new Random(100 * seed + times), 40, (play) => {
        exercised.look(play)
        return null
      })
      expect([seed, [...exercised.keys].filter((key) => !known.has(key) && isCounted(key))]).toEqual([seed, []])
      seen += exercised.keys.size
    }
    played++
  }
  expect(played).toBeGreaterThan(5)
  expect(seen).toBeGreaterThan(100)
}, 120_000)

function isSaid(stage: Stage, key: string): boolean {
  const [, machine = '', name = ''] = key.split(' ')
  const moment = moments.find((one) => one === name)!
  return (stage.expanded.interactables[Number(machine)]!.feedback[moment] ?? []).length > 0
}
