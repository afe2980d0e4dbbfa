import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { prepareLevel, runWalkthrough, startPlay } from 'zintel'
import { readLevel, readWalkthrough } from 'zintel/yaml'
import { checkNow } from '../../src/library/index.ts'
import {
  expectationOf,
  firstPlayer,
  type Noted,
  walkthroughText,
  writtenSteps,
} from '../../examples/workbench/src/trial/recording.ts'
import { Script, scriptOf, scriptOfWalkthrough } from '../../examples/workbench/src/trial/script.ts'
import { type Act, Trial } from '../../examples/workbench/src/trial/trial.ts'
import { textOf } from '../levels.ts'

const mill = prepareLevel(readLevel(textOf('examples/levels/tide-mill.level.yaml')))
const draftText = textOf('examples/levels/tide-mill-draft.level.yaml')
const who = 'keeper'

const act: fc.Arbitrary<Act> = fc.oneof(
  fc.constant<Act>({ do: 'press', way: null, chance: null }),
  fc.constantFrom<Act>({ do: 'hold' }, { do: 'release' }, { do: 'steer', towards: null }),
  fc
    .tuple(fc.integer({ min: -1, max: 1 }), fc.integer({ min: -1, max: 1 }))
    .map((towards): Act => ({ do: 'steer', towards })),
  fc.constantFrom('mill-door', 'key-hook', 'tool-chest', 'quay').map((target): Act => ({ do: 'walk-to', target })),
)
const doings = fc.array(fc.tuple(act, fc.integer({ min: 0, max: 4000 })), { minLength: 1, maxLength: 12 })

function tried(all: readonly (readonly [Act, number])[]): Trial {
  const trial = new Trial(startPlay(mill))
  for (const [one, ms] of all) {
    trial.act(who, one)
    trial.advance(ms)
  }
  return trial
}

describe('going back to a moment', () => {
  test('and on again is the play that it was', () => {
    fc.assert(
      fc.property(
        doings,
        fc.array(fc.integer({ min: 0, max: 30_000 }), { minLength: 1, maxLength: 4 }),
        (all, moments) => {
          const trial = tried(all)
          const [end, log] = [trial.end, JSON.stringify(trial.play.log)]
          const spot = trial.play.character(who).position
          for (const moment of moments) {
            trial.goTo(moment)
            expect(trial.now).toBe(Math.min(moment, end))
            expect(trial.end).toBe(end)
          }
          trial.goTo(end)
          expect(JSON.stringify(trial.play.log)).toBe(log)
          expect(trial.play.character(who).position).toEqual(spot)
        },
      ),
      { numRuns: 40, seed: 7 },
    )
  })

  test('and on differently forgets what came after it', () => {
    const trial = tried([[{ do: 'walk-to', target: 'key-hook' }, 6000]])
    trial.goTo(500)
    trial.act(who, { do: 'walk-to', target: 'mill-door' })
    expect(trial.end).toBe(500)
    trial.advance(8000)
    expect(trial.play.view(who).prompts[0]?.text).toBe('Open the mill door')
    expect(trial.inputs.map(({ at }) => at)).toEqual([0, 500])
  })
})

test('the steps of every finding are played as the check replayed them, at any frame rate', () => {
  const level = prepareLevel(readLevel(draftText))
  const report = checkNow(readLevel(draftText), { quick: true, grouping: false })
  const shown = report.findings.filter(({ steps }) => steps.length > 0)
  expect(shown.length).toBeGreaterThan(5)
  const lately = (frame: number) =>
    shown.map(({ steps }) => {
      const trial = new Trial(startPlay(level, 0, true))
      const script = new Script(trial, scriptOf(steps))
      for (let i = 0; i < 100_000 && !script.isOver; i++) script.advance(frame)
      return trial.play.log
        .filter(({ what }) => what === 'press' || what === 'item')
        .map((entry) => JSON.stringify(entry))
    })
  const smooth = lately(7)
  expect(lately(100)).toEqual(smooth)
  // What the last step says comes about: the word of the report stands in the log, as accepted, refused or unanswered.
  for (const [i, { steps }] of shown.entries()) {
    const presses = steps.filter((step) => step.do === 'press').length
    expect(smooth[i]!.filter((line) => line.includes('"what":"press"')).length).toBeGreaterThanOrEqual(presses)
  }
})

/** A walkthrough as it is watched, beside itself as it is run. */
function watched(folder: string, level: string, way: string) {
  const own = prepareLevel(readLevel(textOf(`${folder}${level}.level.yaml`)))
  const reading = readWalkthrough(textOf(`${folder}${level}.${way}.walkthrough.yaml`), null, own)
  const run = runWalkthrough(own, reading)
  const ends = run.steps.map(({ at }) => at)
  const trial = new Trial(startPlay(own))
  const script = new Script(trial, scriptOfWalkthrough(reading.value!.steps, firstPlayer(trial.play), ends))
  for (let i = 0; i < 100_000 && !script.isOver; i++) script.advance(16)
  return { trial, run }
}

const changed = (log: readonly { readonly what: string }[]): string[] =>
  log.flatMap((one) => {
    const { what, interactable, to } = one as { what: string; interactable?: string; to?: string }
    return what === 'transition' ? [`${String(interactable)} ${String(to)}`] : []
  })

test('a walkthrough is watched to its end, and does what it does when it is run', () => {
  const { trial, run } = watched('examples/levels/', 'tide-mill', 'right-way')
  expect(changed(trial.play.log)).toEqual(changed(run.log))
  expect(trial.play.goalsMet()).toContain('grind')
})

test('steps for trying things out only are watched too: what is given, set and put', () => {
  const { trial, run } = watched('examples/levels/gallery/', 'holding', 'wrong-way')
  expect(changed(run.log).length).toBeGreaterThan(3)
  expect(changed(trial.play.log)).toEqual(changed(run.log))
})

test('what was played is kept as a walkthrough that passes, with what was expected', () => {
  const trial = new Trial(startPlay(mill))
  const noted: Noted[] = []
  const does = (one: Act, ms: number): void => {
    const { play } = trial
    const [pressed = null] = play.view(who).candidates
    const stood = play.log.findLast((entry) => entry.what === 'arrived' || entry.what === 'stopped')?.at ?? 0
    noted.push({ at: trial.now, who, act: one, spot: play.character(who).position, standsSince: stood, pressed })
    trial.act(who, one)
    trial.advance(ms)
  }
  does({ do: 'steer', towards: [0, 1] }, 300)
  does({ do: 'steer', towards: null }, 100)
  does({ do: 'walk-to', target: 'key-hook' }, 6000)
  does({ do: 'hold' }, 80)
  does({ do: 'release' }, 400)
  does({ do: 'walk-to', target: 'mill-door' }, 7000)
  does({ do: 'press', way: null, chance: null }, 3000)
  expect(trial.play.state('mill-door')).toBe('open')
  const asked = trial.play.log.flatMap((entry) => {
    const expected = expectationOf(entry)
    return expected ? [{ at: entry.at, expect: expected }] : []
  })
  expect(asked.length).toBeGreaterThan(4)
  const written = walkthroughText('Through the door', 'tide-mill.level.yaml', writtenSteps(noted, asked, who))
  expect(written).toContain('press: key-hook')
  const reading = readWalkthrough(written, null, mill)
  expect(reading.diagnostics).toEqual([])
  const result = runWalkthrough(mill, reading)
  expect(result.steps.flatMap(({ failure, text }) => (failure === null ? [] : [`${text}: ${failure}`]))).toEqual([])
})
