import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { drawPlan, planGrips, planShapes, prepareLevel, type SavedPlay, startPlay } from '../../src/library/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { Play } from '../../src/play/index.ts'
import { fromHand, type Point } from '../../src/space/index.ts'
import { answerTo, checked, inShort, staged } from '../levels.ts'

/** A hall with a bell in the middle of it. */
const hall = (range: string, more = ''): string => `zintel: 1
title: Hall
rooms: { hall: { outline: [[0, 0], [10, 0], [10, 6], [0, 6]] } }
places: { aside: { at: [6.4, 3] } }
interactables:
  bell:
    type: lever
    at: [5, 3, 1]
    range: ${range}
    feedback: { focused: [{ prompt: Ring }], accepted: [{ sound: ding }] }
${more}
characters: { sam: { role: player, start: [1, 3], radius: 0.3, speed: 3, hand: 1.2, reach: 3 } }
goals: { rung: { interactable: bell, is: "on" } }
`

const wide = '{ radius: 1, until: 1.6 }'

describe('a range that ends farther off than it begins', () => {
  /** What is prompted after each walk. */
  const prompts = (text: string, ways: readonly Point[]): boolean[] => {
    const play = new Play(staged(text))
    return ways.map((to) => {
      play.walkTo(0, to)
      play.advance(4000)
      return play.view(0).prompts.length > 0
    })
  }

  test('begins at its radius, and goes on until its end', () => {
    const ways: Point[] = [
      [3.6, 3],
      [4.2, 3],
      [3.6, 3],
      [3.3, 3],
      [3.6, 3],
    ]
    expect(prompts(hall(wide), ways)).toEqual([false, true, true, false, false])
    expect(prompts(hall('{ radius: 1 }'), ways)).toEqual([false, true, false, false, false])
  })

  test('one that walks past it has been within it, however the time is cut', () => {
    const text = hall(wide)
    for (const cut of [1, 7, 1000]) {
      const play = new Play(staged(text))
      play.walk(0, [[9, 3]])
      const seen: boolean[] = []
      for (let ms = 0; ms < 2000; ms += cut) {
        play.advance(cut)
        const [x] = play.spotOf(0)
        if (cut < 1000 && Math.abs(x - 6.5) < 0.02) seen.push(play.within(0).includes(0))
      }
      if (cut < 1000) expect(seen.length > 0 && seen.every((one) => one)).toBe(true)
      expect(play.within(0)).toEqual([])
    }
  })

  test('is what a look at every millisecond tells, whatever way is walked', () => {
    const spot = fc.tuple(fc.integer({ min: 5, max: 95 }), fc.integer({ min: 5, max: 55 }))
    const seen = { kept: 0, moments: 0 }
    fc.assert(
      fc.property(fc.array(spot, { minLength: 2, maxLength: 5 }), fc.integer({ min: 1, max: 400 }), (spots, cut) => {
        const stage = staged(hall('{ radius: 0.7, until: 1.6 }'))
        const play = new Play(stage)
        const { rangeFrom } = stage.space.layout.figures[0]!
        const far = (): number => fromHand(play.spotOf(0), 1.2, rangeFrom!)
        let isHeld = false
        for (const [x, y] of spots) {
          play.walkTo(0, [x / 10, y / 10])
          for (let ms = 0; ms < cut * 3; ms++) {
            play.advance(1)
            isHeld = far() <= 0.7 || (isHeld && far() <= 1.6)
            const isWithin = play.within(0).includes(0)
            seen.moments++
            if (isWithin && far() > 0.7) seen.kept++
            // Between two milliseconds it may have come nearer by no more than it walks in one.
            if (isWithin !== isHeld && !(isWithin && Math.abs(far() - 0.7) < 1))
              throw new Error(`${String(far())} m off`)
            isHeld = isWithin
          }
        }
      }),
      { numRuns: 40, seed: 5 },
    )
    expect(seen.kept).toBeGreaterThan(500)
  })

  test('a moment that is kept and restored knows it', () => {
    const level = prepareLevel(readLevel(hall(wide)))
    const play = startPlay(level)
    play.walkTo('sam', [4.2, 3])
    play.advance(3000)
    play.walkTo('sam', [3.6, 3])
    play.advance(100)
    const kept = JSON.stringify(play.save())
    const again = startPlay(level)
    again.restore(JSON.parse(kept) as SavedPlay)
    for (const one of [play, again]) {
      one.advance(1000)
      expect(one.view('sam').prompts).toEqual([expect.objectContaining({ text: 'Ring' })])
    }
  })

  test('who is moved stays in range as far as that goes, and whoever comes from elsewhere is not', () => {
    const mats = `  mat: { type: mover, at: [4.4, 3], set: { to: aside } }
  back: { type: mover, at: [9, 3], set: { to: aside } }
types:
  mover:
    settings: { to: { kind: place, needed: true } }
    zones: { near: { radius: 0.2 } }
    states: { there: {} }
    transitions: [{ from: there, trigger: { enter: near }, effects: [{ move-to: { setting: to } }] }]`
    const play = new Play(staged(hall(wide, mats)))
    play.walk(0, [[4.4, 3]])
    play.advance(4000)
    expect([play.spotOf(0)[0], play.within(0).includes(0)]).toEqual([6.4, true])
    play.walk(0, [[9, 3]])
    play.advance(4000)
    expect([play.spotOf(0)[0], play.within(0).includes(0)]).toEqual([6.4, false])
  })

  test('decides as little as it has to: what a press at its end may do is possible, and only what is certain is relied on', () => {
    const text = hall(
      wide,
      `  trap:
    type: pickup
    at: [6.3, 3, 1]
    range: { radius: 0.5, until: 1.2 }
    set: { gives: pebble }
items: { pebble: {} }`,
    )
    const report = checked(text)
    expect(answerTo(report, 'soft-lock', 'rung')).toBe('ruled-out')
    expect(report.questions.filter(({ answer }) => answer === 'undecided')).toEqual([])
  })

  test('is not relied on where one can only come to its end', () => {
    const barred = `zintel: 1
title: Behind a bar
rooms: { hall: { outline: [[0, 0], [10, 0], [10, 6], [0, 6]] } }
types:
  bar:
    states: { down: {}, up: { blocks: [walk], lasting: true } }
    transitions: [{ from: down, to: up, trigger: { signal: pulled } }]
interactables:
  bell: { type: lever, at: [5, 5.5, 1], range: { radius: 0.8, until: 2 }, set: { stays: true } }
  bar: { type: bar, at: [5, 4.9], body: { size: [10, 0.2] } }
  rope: { type: lever, at: [1, 0.3, 1], set: { stays: true, sends: pulled } }
characters: { sam: { role: player, start: [1, 3], radius: 0.3, speed: 3, hand: 1.2, reach: 3 } }
goals: { rung: { interactable: bell, is: "on" } }
`
    // Who is shut out at the rope has not been near the bell; that is not followed, so that it is left open.
    expect(answerTo(checked(barred), 'soft-lock', 'rung')).toMatch(/^undecided/)
    expect(answerTo(checked(barred.replace(', until: 2', '')), 'soft-lock', 'rung')).toBe('found')
  })

  test('is the only one that lingers: the border of any other cuts the ground as it did', () => {
    const lingering = (range: string): number =>
      staged(hall(range)).space.patches[0]!.patches.filter(({ signature }) =>
        signature.candidates.some(({ lingers }) => lingers),
      ).length
    expect(lingering('{ radius: 1 }')).toBe(0)
    expect(lingering(wide)).toBeGreaterThan(0)
  })

  test('one that would end before it begins is told, with its place', () => {
    const report = checked(hall('{ radius: 1.2, until: 0.8 }'))
    const [wrong] = report.findings.filter(({ rule }) => rule === 'bad-value')
    expect(wrong!.message).toBe(
      'The range of bell begins at 1.2 m and would end at 0.8 m, which is nearer: until is left out.',
    )
    expect(wrong!.place).toMatchObject({ line: 9 })
  })

  test('is drawn with its end, which can be dragged', () => {
    const level = prepareLevel(readLevel(hall(wide)))
    expect(planShapes(level).filter(({ kind }) => kind === 'range')).toEqual([
      expect.objectContaining({ radius: 1, until: 1.6 }),
    ])
    expect(drawPlan(level)).toContain('end of a range')
    const [grip] = planGrips(level).filter(({ says }) => says === 'where the range ends')
    expect(grip!.drag).toMatchObject({ is: 'distance', path: 'interactables.bell.range.until' })
  })
})

describe('a probe', () => {
  const pair = (person: string): string => `zintel: 1
title: Two handles
rooms: { hall: { outline: [[0, 0], [6, 0], [6, 4], [0, 4]] } }
interactables:
  near: { type: lever, at: [3, 3.2, 1.2], range: { radius: 3 } }
  far: { type: lever, at: [3, 3.9, 1.2], range: { radius: 3 }, set: { stays: true } }
obstacles: { bench: { outline: [[0, 2.9], [6, 2.9], [6, 3], [0, 3]], blocks: [walk] } }
characters: { sam: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 2${person} } }
goals: { pulled: { interactable: far, is: "on" } }
`

  test('presses what lies behind something nearer, from where it does not look at that', () => {
    expect(answerTo(checked(pair('')), 'unreachable-goal', 'pulled')).toBe('found')
    const report = checked(pair(', probe: 0.1'))
    expect(answerTo(report, 'unreachable-goal', 'pulled')).toBe('ruled-out')
    expect(inShort(report).filter((one) => one.startsWith('hidden-by-neighbour'))).toEqual([])
  })

  test('looks along a line: what is a hand beside it is left alone, and what is behind one, too', () => {
    const play = new Play(staged(pair(', probe: 0.1')))
    play.walkTo(0, [3.1, 2.5])
    play.advance(3000)
    play.face(0, [3.1, 4])
    // A decimetre to the side is just within it.
    expect(play.candidates(0)).toEqual([0, 1])
    play.face(0, [3.3, 4])
    expect(play.candidates(0)).toEqual([])
    play.face(0, 'near')
    expect(play.candidates(0)).toEqual([0, 1])
    play.face(0, [3.1, 0])
    expect(play.candidates(0)).toEqual([])
    // From well to the side, only the one that is looked at.
    play.walkTo(0, [2, 2.5])
    play.advance(3000)
    play.face(0, 'far')
    expect(play.candidates(0)).toEqual([1])
  })
})

describe('heights of the hand', () => {
  const lofty = (range: string): string => `zintel: 1
title: Store and loft
storeys: { ground: {}, loft: { floor: 1.4, drawn-at: [9, 0] } }
rooms:
  store: { storey: ground, outline: [[0, 0], [6, 0], [6, 4], [0, 4]] }
  attic: { storey: loft, outline: [[9, 0], [15, 0], [15, 4], [9, 4]] }
interactables:
  brake: { type: lever, at: [11, 2, 1.2], range: ${range}, feedback: { accepted: [{ sound: clack }] } }
characters: { sam: { role: player, start: [1, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 2 } }
goals: { pulled: { interactable: brake, is: "on" } }
`

  test('leave out a hand on another storey', () => {
    expect(answerTo(checked(lofty('{ radius: 2, sight: false }')), 'unreachable-goal', 'pulled')).toBe('ruled-out')
    const only = checked(lofty('{ radius: 2, sight: false, heights: { from: 0, to: 2 } }'))
    expect(answerTo(only, 'unreachable-goal', 'pulled')).toBe('found')
    // The hand below is 0.2 m under the floor of the loft.
    const below = checked(lofty('{ radius: 2, sight: false, heights: { from: -0.5, to: 0 } }'))
    expect(answerTo(below, 'unreachable-goal', 'pulled')).toBe('ruled-out')
  })

  test('that nobody has are told', () => {
    const report = checked(hall('{ heights: { from: 2, to: 3 } }'))
    const [odd] = report.findings.filter(({ rule }) => rule === 'out-of-reach')
    expect(odd!.message).toBe(
      'Nobody can press bell: at the nearest spot, [5.00, 3.00], the hand of a player is not at a height that its range wants (heights).',
    )
  })
})
