import { describe, expect, test } from '@jest/globals'
import type { FileReport } from '../../src/findings/index.ts'
import { Play, type Stage } from '../../src/play/index.ts'
import { answerTo, checked, inShort, staged, textOf, twoRooms } from '../levels.ts'

/** Small levels on which a verdict hangs by a thread: what is said of each, and what Play does in it. */
const levelText = (name: string): string => textOf(`tests/verdicts/levels/${name}.level.yaml`)
const stageOf = (name: string): Stage => staged(levelText(name))
const reportOn = (name: string): FileReport => checked(levelText(name))

/** The index of an interactable. */
const indexOf = (stage: Stage, name: string): number =>
  stage.expanded.interactables.findIndex((one) => one.name === name)

/** Walks to interactables one after the other, and presses each. */
function pressed(play: Play, ...names: readonly string[]): Play {
  for (const name of names) {
    play.walkTo(0, name)
    play.advanceWhileWalking(0, 60_000)
    play.press(0)
  }
  return play
}

const isProved = (report: FileReport, goal: string): void => {
  expect(answerTo(report, 'unreachable-goal', goal)).toBe('ruled-out')
  expect(answerTo(report, 'soft-lock', goal)).toBe('ruled-out')
}

describe('the ground', () => {
  test('a range that covers the whole way through a doorway does not keep anybody from passing it', () => {
    const play = new Play(stageOf('lever-before-door'))
    play.walk(0, [[3.68, 1.5]])
    play.advanceWhileWalking(0, 10_000)
    play.press(0)
    play.advance(1000)
    play.walk(0, [
      [3.68, 2],
      [6.5, 2],
    ])
    play.advanceWhileWalking(0, 10_000)
    play.press(0)
    expect(play.goalsMet()).toEqual(['pulled'])
    const report = reportOn('lever-before-door')
    isProved(report, 'pulled')
    expect(inShort(report)).toEqual([])
  })

  test('one walks through a curtain, whatever is seen from either side', () => {
    const play = new Play(stageOf('curtain'))
    play.walk(0, [[6.5, 0.6]])
    play.advanceWhileWalking(0, 10_000)
    play.press(0)
    expect(play.goalsMet()).toEqual(['pulled'])
    isProved(reportOn('curtain'), 'pulled')
  })

  test('a zone that perhaps nobody comes into leaves it open whether it is a way out', () => {
    // Mirrored, no cell of the ground is uncertain there, and the mat is found to stay up for good.
    expect(answerTo(reportOn('zone-behind-block'), 'stuck-state', 'mat/up')).not.toMatch(/^ruled-out/)
  })

  test('whoever is moved to where nobody can stand stays where they are', () => {
    const level = (x: string): string =>
      twoRooms(`
places: { shelf: { at: [${x}, 2] } }
types:
  trapdoor:
    states: { shut: {}, sprung: {} }
    transitions: [{ from: shut, to: sprung, trigger: press, effects: [{ move-to: shelf }] }]
    handle: [0, 0, 1]
interactables: { trapdoor: { type: trapdoor, at: [1.5, 1.5] } }
goals: { sprung: { interactable: trapdoor, is: sprung } }`)
    const after = (x: string): number => {
      const play = new Play(staged(level(x)))
      play.press(0)
      return play.spotOf(0)[0]
    }
    expect(after('3.5')).toBe(3.5)
    expect(after('0.28')).toBe(1.5)
  })

  for (const name of ['nook', 'pocket']) {
    test(`whoever falls into a ${name} with too narrow a mouth stays there, and that is found`, () => {
      const play = pressed(new Play(stageOf(name)), 'trapdoor')
      const [x] = play.spotOf(0)
      expect(x).toBeCloseTo(4.65)
      play.steer(0, [-1, 0])
      play.advance(5000)
      expect(play.spotOf(0)[0]).toBeGreaterThan(4.3)
      expect(play.walkTo(0, 'lever')).toBe(false)
      expect(inShort(reportOn(name))).toEqual(['soft-lock pulled'])
    })
  }

  test('a mouth that is wide enough by a hair lets one out, and nothing is found', () => {
    const wide = levelText('nook').replaceAll('1.65]', '1.59]').replaceAll('2.19]', '2.25]')
    expect(inShort(checked(wide))).toEqual([])
    isProved(checked(wide), 'pulled')
  })

  test('where a mouth is exactly as wide as the character, nothing is called proved', () => {
    const slot = levelText('nook')
      .replaceAll(/1\.(65|57)\]/g, '1.62]')
      .replaceAll(/2\.(19|27)\]/g, '2.22]')
    const report = checked(slot)
    expect(inShort(report)).toEqual([])
    const lost = report.questions.find(({ rule, subject }) => rule === 'soft-lock' && subject === 'pulled')
    expect(lost).toMatchObject({ answer: 'undecided', why: expect.stringMatching(/sam near \[3\.9\d, 1\.9\d\]/) })
  })

  test('a lane hardly wider than the character leads in and out, and leaves nothing undecided', () => {
    expect(pressed(new Play(stageOf('lane')), 'lever').goalsMet()).toEqual(['pulled'])
    const report = reportOn('lane')
    expect(inShort(report)).toEqual([])
    expect(report.questions.filter(({ answer }) => answer === 'undecided')).toEqual([])
    isProved(report, 'pulled')
  })

  test('who starts where a shut body stands may walk in it, and out of it', () => {
    const play = new Play(stageOf('shut-in'))
    play.walk(0, [[6.5, 2]])
    play.advanceWhileWalking(0, 10_000)
    play.press(0)
    expect(play.goalsMet()).toEqual(['pulled'])
    const report = reportOn('shut-in')
    expect(answerTo(report, 'unreachable-goal', 'pulled')).toBe('ruled-out')
    // Once out of the doorway one does not come in again.
    expect(inShort(report)).toContain('soft-lock pulled')
  })

  test('a doorway between rooms that share a wall leads through it, whichever way the rooms lie', () => {
    const level = levelText('doorway-in-shared-wall')
    const sideways = level.replaceAll(/\[(\d+), (\d+)\]/g, '[$2, $1]').replace('at: [2, 7, 1]', 'at: [7, 2, 1]')
    const reversed = level.replace('joins: [south, north]', 'joins: [north, south]')
    const aslant = level.replaceAll(/\[(\d+), (\d+)(, 1)?\]/g, (_, x: string, y: string, height = '') => {
      const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)]
      return `[${(Number(x) * c - Number(y) * s).toFixed(6)}, ${(Number(x) * s + Number(y) * c).toFixed(6)}${height as string}]`
    })
    for (const text of [level, sideways, reversed, aslant]) {
      expect(pressed(new Play(staged(text)), 'far').goalsMet()).toEqual(['pulled'])
      isProved(checked(text), 'pulled')
    }
  })

  test('who cannot stand at its start is told so, with the nearest spot where it could, and the check goes on there', () => {
    const report = reportOn('start-in-wall')
    expect(report.findings[0]).toMatchObject({ rule: 'blocked-start', subject: 'sam' })
    expect(report.findings[0]!.fix).toMatchObject({ says: 'Start at [0.3, 2].' })
    expect(new Play(stageOf('start-in-wall')).spotOf(0)).toEqual([0.3, 2])
    expect(answerTo(report, 'goal-already-met', 'empty-handed')).toBe('found')
  })
})

describe('time and input', () => {
  test('two borders in one millisecond are crossed in the order in which they come', () => {
    const play = new Play(stageOf('fast'))
    play.walk(0, [[3.5, 0.5]])
    play.advanceWhileWalking(0, 1000)
    const zones = play.log.flatMap((entry) =>
      entry.what === 'zone' ? [[entry.interactable, entry.inside, entry.at]] : [],
    )
    expect(zones).toEqual([
      ['west', false, 6],
      ['east', true, 6],
    ])
    expect(answerTo(reportOn('fast'), 'unreachable-goal', 'rung')).toBe('found')
  })

  test('whoever keeps something pressed stands still, and setting off lets go', () => {
    const stage = stageOf('walking-hold')
    const play = new Play(stage)
    play.steer(0, [1, 0])
    play.hold(0)
    expect(play.isWalking(0)).toBe(false)
    expect(play.keptBy(0)).toBe(indexOf(stage, 'handle'))
    play.steer(0, [1, 0])
    expect(play.keptBy(0)).toBe(-1)
    play.advance(2200)
    play.release(0)
    expect(play.goalsMet()).toEqual([])
    expect(answerTo(reportOn('walking-hold'), 'unreachable-goal', 'sprung')).toBe('found')
  })

  test('a press that is ignored begins no hold', () => {
    const play = new Play(stageOf('ignored-hold'))
    play.hold(0)
    expect(play.keptBy(0)).toBe(-1)
    play.advance(1500)
    play.release(0)
    expect(play.goalsMet()).toEqual([])
    expect(answerTo(reportOn('ignored-hold'), 'unreachable-goal', 'rung')).toBe('found')
  })

  test('the events of all clocks that are due in one millisecond make a storm together', () => {
    const play = new Play(stageOf('two-storms'))
    play.advance(2000)
    expect(play.ended).toBe('signal-storm')
    expect(play.now).toBe(1000)
    const report = reportOn('two-storms')
    expect(answerTo(report, 'signal-storm', 'level')).toBe('found')
    expect(answerTo(report, 'soft-lock', 'pulled')).toMatch(/^undecided/)
  })

  test('many presses in one millisecond make no storm', () => {
    const play = new Play(stageOf('curtain'))
    play.walkTo(0, 'near')
    play.advanceWhileWalking(0, 10_000)
    for (let i = 0; i < 1500; i++) play.press(0)
    expect(play.ended).toBeNull()
  })

  test('who is moved again and again before getting anywhere does not keep a check from its end', () => {
    const play = new Play(stageOf('crash-mover'))
    play.walk(0, [[5.3, 3.5]])
    play.advance(5000)
    expect(play.spotOf(0)[0]).toBeLessThan(1)
    // Being moved lets go, so nobody holds the lever for 3 s, wherever they stand.
    const report = reportOn('crash-mover')
    expect(answerTo(report, 'unreachable-goal', 'pulled')).toBe('found')
    // A press takes no time; that nobody gets near in time is not proved.
    const pressedOnce = checked(levelText('crash-mover').replace(', set: { hold: 3 }', ''))
    expect(answerTo(pressedOnce, 'unreachable-goal', 'pulled')).toMatch(/^undecided/)
    expect(answerTo(pressedOnce, 'soft-lock', 'pulled')).toMatch(/^undecided/)
  })

  test('what runs for ever hinders the proof that waiting brings a level to rest, also beside other moves to the same', () => {
    const play = pressed(new Play(stageOf('blinker')), 'slam', 'lift')
    play.walk(0, [[13.5, 1.5]])
    play.advanceWhileWalking(0, 60_000)
    expect(play.spotOf(0)[0]).toBeLessThan(12.3)
    const report = reportOn('blinker')
    expect(answerTo(report, 'soft-lock', 'rung')).not.toBe('ruled-out')
    // A lamp that has no say in it does not hinder it.
    isProved(reportOn('blinking-lamp'), 'pulled')
    expect(reportOn('blinking-lamp').counts.undecided).toBe(0)
  })

  test('of a goal that holds at the start only that is said', () => {
    const report = reportOn('start-in-wall')
    const asked = report.questions.filter(({ subject }) => subject === 'empty-handed').map(({ rule }) => rule)
    expect(asked).not.toContain('soft-lock')
    expect(asked).not.toContain('wasted-item')
  })
})

describe('refusals are judged by what is perceived at that moment', () => {
  test('what is told only once leaves the second press silent', () => {
    const report = reportOn('silent-once')
    const [finding] = report.findings
    expect(finding).toMatchObject({ rule: 'silent-refusal', subject: 'hole' })
    expect(finding!.steps.map(({ text }) => text)).toEqual(['Press: hole refuses.', 'Press: hole refuses.'])
  })

  test('what is told only near by leaves a press from farther off silent', () => {
    const report = reportOn('silent-within')
    const [finding] = report.findings
    expect(finding).toMatchObject({ rule: 'silent-refusal', subject: 'hole' })
    expect(finding!.message).toContain('farther off')
    const near = levelText('silent-within').replace('within: 0.5', 'within: 3')
    expect(answerTo(checked(near), 'silent-refusal', 'hole')).toBe('ruled-out')
  })

  test('what is told again only after a pause leaves a press before that silent', () => {
    const paused = levelText('silent-once').replace('once: true', 'pause: 5')
    const report = checked(paused)
    expect(report.findings[0]!.message).toContain('after a pause')
    const both = levelText('silent-once').replace('once: true }', 'once: true }, { sound: knock }')
    expect(answerTo(checked(both), 'silent-refusal', 'hole')).toBe('ruled-out')
  })
})
