import { describe, expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { drawPlan } from '../../src/draw/index.ts'
import { checkProject } from '../../src/findings/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { liesAt, startPlay } from '../../src/library/index.ts'
import { finish } from '../../src/model/index.ts'
import { readProject } from '../../src/play/index.ts'
import { canStand, type Point, signatureAt } from '../../src/space/index.ts'
import { checked, inShort, staged, twoRooms } from '../levels.ts'

interface Sheet {
  /** How high the loft is, and where it is drawn. */
  readonly floor: number
  readonly drawnAt: Point
}

const usual: Sheet = { floor: 1.4, drawnAt: [9, 0] }

/** A store, with a loft above it, stairs between them, and what is added; what stands in the loft is given as it lies, not as it is drawn. */
function stacked(more: (loft: (x: number, y: number, z?: number) => string) => string, sheet = usual): string {
  const [dx, dy] = sheet.drawnAt
  const loft = (x: number, y: number, z?: number): string =>
    `[${[x + dx, y + dy, ...(z === undefined ? [] : [z])].map((metres) => String(Math.round(metres * 1e6) / 1e6)).join(', ')}]`
  return `zintel: 1
title: Store and loft
storeys:
  ground: { title: Ground floor }
  loft: { title: Loft, floor: ${String(sheet.floor)}, drawn-at: ${loft(0, 0)} }
rooms:
  store: { storey: ground, outline: [[0, 0], [6, 0], [6, 4], [0, 4]] }
  attic: { storey: loft, outline: [${loft(0, 0)}, ${loft(6, 0)}, ${loft(6, 4)}, ${loft(0, 4)}] }
places:
  head: { at: ${loft(4.5, 3.5)} }
  foot: { at: [4.5, 3.5] }
characters:
  sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 1.6 }
interactables:
  up: { type: exit, at: [5.7, 3.5], set: { exit-to: { place: head }, taken-by: [enter] } }
  down: { type: exit, at: ${loft(5.7, 3.5)}, set: { exit-to: { place: foot }, taken-by: [enter] } }
${more(loft)}`
}

const sound = 'feedback: { accepted: [{ sound: clack }] }'
const goal = 'goals: { pulled: { interactable: lever, is: "on" } }\n'

describe('storeys that lie over one another', () => {
  test('what is pressed from where is what the straight distances say', () => {
    const metres = (from: number, to: number): fc.Arbitrary<number> =>
      fc.integer({ min: from * 100, max: to * 100 }).map((centimetres) => centimetres / 100)
    const thing = fc.record({
      x: metres(0.2, 5.8),
      y: metres(0.2, 3.8),
      z: metres(0, 2),
      sight: fc.boolean(),
      up: fc.boolean(),
    })
    const seen = { own: 0, through: 0, kept: 0 }
    fc.assert(
      fc.property(
        fc.array(thing, { minLength: 3, maxLength: 6 }),
        metres(-3, 3),
        fc.constantFrom<Point>([6.2, 0], [9, 1], [-7, 0.5], [0, 4.1]),
        fc.array(fc.record({ x: metres(0.35, 5.65), y: metres(0.35, 3.65), up: fc.boolean() }), {
          minLength: 30,
          maxLength: 30,
        }),
        (things, floor, drawnAt, spots) => {
          const text = stacked(
            (loft) =>
              things
                .map(({ x, y, z, sight, up }, i) => {
                  const at = up ? loft(x, y, z) : `[${String(x)}, ${String(y)}, ${String(z)}]`
                  return `  thing-${String(i)}: { type: lever, at: ${at}, range: { radius: 1.5, sight: ${String(sight)} } }\n`
                })
                .join(''),
            { floor, drawnAt },
          )
          const { expanded, space } = staged(text)
          const [sam] = expanded.characters
          for (const spot of spots) {
            const at: Point = spot.up ? [spot.x + drawnAt[0], spot.y + drawnAt[1]] : [spot.x, spot.y]
            expect(canStand(space.layout, at, 0.3)).toBe(true)
            const far = ({ x, y, z, up }: (typeof things)[number]): number =>
              Math.hypot(x - spot.x, y - spot.y, z + (up ? floor : 0) - (1.2 + (spot.up ? floor : 0)))
            if (things.some((one) => Math.abs(far(one) - 1.5) < 1e-6)) continue
            const expected = things.flatMap((one, i) => {
              const isOwn = one.up === spot.up
              if (far(one) > 1.5) return []
              seen[isOwn ? 'own' : one.sight ? 'kept' : 'through']++
              return isOwn || !one.sight ? [{ i, far: far(one) }] : []
            })
            const { candidates } = signatureAt(expanded, space.layout, sam!, at)
            const said = candidates.map(({ interactable }) => expanded.interactables[interactable]!.name)
            expect([...said].sort()).toEqual(expected.map(({ i }) => `thing-${String(i)}`).sort())
            // And the patch that the spot is in says the same, nearest first.
            const { patches, patchAt } = space.patches[0]!
            const patch = patches[patchAt(at)]!
            expect(
              patch.signature.candidates.map(({ interactable }) => expanded.interactables[interactable]!.name),
            ).toEqual(said)
            const order = [...expected].sort((a, b) => a.far - b.far)
            if (order.every(({ far: own }, i) => i === 0 || own - order[i - 1]!.far > 1e-6))
              expect(said).toEqual(order.map(({ i }) => `thing-${String(i)}`))
          }
        },
      ),
      { numRuns: 20, seed: 3 },
    )
    expect(Math.min(seen.own, seen.through, seen.kept)).toBeGreaterThan(50)
  })

  test('wherever a storey is drawn, the answers are the same', () => {
    const at = (drawnAt: Point): string =>
      stacked(
        (loft) => `  lever: { type: lever, at: ${loft(2, 1, 0.3)}, range: { sight: false }, ${sound} }\n${goal}`,
        {
          floor: 1.4,
          drawnAt,
        },
      )
    const reports = (
      [
        [9, 0],
        [6, 0],
        [-40, 3],
        [0, -4.05],
      ] as const
    ).map((drawnAt) => checked(at(drawnAt)))
    const shorts = reports.map((report) => [
      inShort(report),
      report.questions.map(({ rule, subject, answer }) => [rule, subject, answer]),
    ])
    expect(shorts[0]![0]).toEqual(['reach-through lever'])
    for (const short of shorts) expect(short).toEqual(shorts[0])
    expect(reports[0]!.findings[0]!.message).toBe(
      'lever, in attic, can be pressed through the floor from store: at [1.95, 0.95] its handle is 0.50 m from the hand.',
    )
  })

  test('what is drawn beside one another is not near one another', () => {
    // A lever at the wall of the loft, drawn a hand's breadth from the wall of the store: what is 30 m up is out of reach.
    const text = stacked(
      (loft) => `  lever: { type: lever, at: ${loft(0.1, 2, 1)}, range: { sight: false }, ${sound} }\n${goal}`,
      {
        floor: 30,
        drawnAt: [6.1, 0],
      },
    )
    expect(inShort(checked(text))).toEqual([])
    const play = startPlay(readLevel(text))
    play.walkTo('sam', [5.6, 2])
    play.advance(3000)
    expect(play.character('sam').position[0]).toBeCloseTo(5.6)
    play.press('sam')
    expect(play.state('lever')).toBe('off')
  })

  test('a play presses through the floor, and hears what is near enough above', () => {
    const text = stacked(
      (loft) =>
        `  lever: { type: lever, at: ${loft(2, 1, 0.3)}, range: { sight: false }, feedback: { accepted: [{ sound: clack, to: { within: 2 } }] } }\n` +
        `  bell: { type: lever, at: ${loft(3, 1, 0.3)}, range: { sight: false }, feedback: { accepted: [{ sound: ding, to: { within: 1 } }] } }\n${goal}`,
    )
    const play = startPlay(readLevel(text))
    const heard: string[] = []
    play.on('feedback', ({ text: said }) => heard.push(said))
    play.walkTo('sam', [2, 1])
    play.advance(3000)
    play.press('sam')
    expect(play.state('lever')).toBe('on')
    play.walkTo('sam', [3, 1])
    play.advance(3000)
    play.press('sam')
    expect(play.state('bell')).toBe('on')
    // The floor of the loft is 1.4 m above: what is heard within a metre is not heard below.
    expect(heard).toEqual(['clack'])
  })

  test('a range that heeds walls heeds floors, and the fix that is offered says so', () => {
    const lever = (more: string): string =>
      stacked((loft) => `  lever: { type: lever, at: ${loft(2, 1, 0.3)}, ${more}${sound} }\n${goal}`)
    expect(inShort(checked(lever('')))).toEqual([])
    const [finding] = checked(lever('range: { sight: false }, ')).findings
    expect(finding!.fix.edit).toMatchObject({ do: 'replace', path: 'interactables.lever.range.sight', value: true })
    expect(finding!.spots[0]!.text).toBe('0.50 m through the floor')
  })

  test('what cannot be meant is told: a room drawn over another storey, a doorway between storeys, an unknown storey', () => {
    const over = stacked(() => '', { floor: 2, drawnAt: [0, 0] })
    expect(checked(over).findings.map(({ message }) => message)).toContain(
      'attic is drawn over store, which is on another storey (loft, ground).',
    )
    expect(inShort(checked(stacked(() => '', { floor: 2, drawnAt: [5.9, 0] })))).toContain('bad-value attic')
    expect(inShort(checked(stacked(() => '', { floor: 2, drawnAt: [6, 0] })))).toEqual(['no-goal level'])
    const flight = 'doorways: { flight: { joins: [store, attic], at: [6.15, 2], width: 1, depth: 0.3 } }\n'
    const between = stacked(() => flight, {
      floor: 2,
      drawnAt: [6.3, 0],
    })
    const [told] = checked(between).findings
    expect(told!.message).toBe('flight joins store and attic, which are on different storeys (ground, loft).')
    expect(told!.fix.says).toContain('exit at each end')
    // As long as one could walk from one to the other, nothing is pressed through floors.
    const lever = (more: string): string =>
      stacked(
        (loft) => `  lever: { type: lever, at: ${loft(2, 1, 0.3)}, range: { sight: false }, ${sound} }\n${goal}${more}`,
        {
          floor: 1.4,
          drawnAt: [6.3, 0],
        },
      )
    expect(inShort(checked(lever('')))).toEqual(['reach-through lever'])
    expect(inShort(checked(lever(flight)))).toEqual(['bad-value flight'])
    const unknown = stacked(() => '').replace('attic: { storey: loft,', 'attic: { storey: lotf,')
    expect(inShort(checked(unknown))).toContain('unknown-name attic')
  })

  test('the levels of a project have storeys of their own', () => {
    const level = (to: string): string =>
      stacked(
        (loft) =>
          `  lever: { type: lever, at: ${loft(2, 1, 0.3)}, range: { sight: false }, ${sound} }\n` +
          `  way: { type: exit, at: [0.2, 3.5], set: { exit-to: { level: ${to}, place: foot } }, ${sound} }\n${goal}`,
      )
    const names = ['one', 'two']
    const project = readProject(
      'project: 1\ntitle: Two mills\nstart: one\nlevels: { one: { file: one.level.yaml }, two: { file: two.level.yaml } }\n',
    ).value!
    const parts = names.map((name, i) => {
      const reading = readLevel(level(names[1 - i]!), `${name}.level.yaml`)
      return [name, expandLevel(reading.value!, reading.source)] as const
    })
    const reports = finish(checkProject(project, Object.fromEntries(parts)))
    for (const report of reports) {
      expect(report.together).not.toBeNull()
      expect(inShort(report)).toEqual(['reach-through lever'])
      expect(report.findings[0]!.message).toContain('through the floor from store: at [1.95, 0.95]')
    }
  })

  test('what hangs too high in one level of a project is not pressed from a storey of another', () => {
    // The loft of the other level is as high as the lever, and in its own frame it is straight above.
    const level = (to: string, floor: number, more: string): string =>
      stacked(
        () =>
          `  way: { type: exit, at: [0.2, 3.5], set: { exit-to: { level: ${to}, place: foot } }, ${sound} }\n${more}`,
        {
          floor,
          drawnAt: [9, 0],
        },
      )
    const high = level('two', 1, `  lever: { type: lever, at: [2, 1, 9], range: { sight: false }, ${sound} }\n${goal}`)
    const low = level('one', 8, 'goals: { in: { inside: attic } }\n')
    const project = readProject(
      'project: 1\ntitle: Two mills\nstart: one\nlevels: { one: { file: one.level.yaml }, two: { file: two.level.yaml } }\n',
    ).value!
    const parts = [high, low].map((text, i) => {
      const reading = readLevel(text, `${String(i)}.level.yaml`)
      return [['one', 'two'][i]!, expandLevel(reading.value!, reading.source)] as const
    })
    const [first] = finish(checkProject(project, Object.fromEntries(parts)))
    expect(first!.together).not.toBeNull()
    expect(
      first!.questions.find(({ rule, subject }) => rule === 'unreachable-goal' && subject === 'pulled')?.answer,
    ).toBe('found')
  })

  test('an engine is told where a spot really lies', () => {
    const level = readLevel(stacked(() => '', { floor: 1.4, drawnAt: [9, 0.5] }))
    expect(liesAt(level, [2, 1])).toEqual({ storey: 'ground', at: [2, 1, 0] })
    expect(liesAt(level, [11, 1.5])).toEqual({ storey: 'loft', at: [2, 1, 1.4] })
    // In the wall, what is nearest counts.
    expect(liesAt(level, [15.125, 1.5])).toEqual({ storey: 'loft', at: [6.125, 1, 1.4] })
    expect(liesAt(readLevel(twoRooms('')), [2, 1])).toEqual({ storey: null, at: [2, 1, 0] })
  })

  test('a plan names storeys and their heights, and marks on one what is pressed from it on another', () => {
    const svg = drawPlan(
      staged(
        stacked((loft) => `  lever: { type: lever, at: ${loft(2, 1, 0.3)}, range: { sight: false }, ${sound} }\n`),
      ),
    )
    expect(svg).toContain('>Ground floor</text>')
    expect(svg).toContain('>Loft, 1.4 m up</text>')
    expect(svg).toContain('>lever (Loft)</text>')
    expect(svg).toContain('>handle on another storey</text>')
    const heeding = drawPlan(staged(stacked((loft) => `  lever: { type: lever, at: ${loft(2, 1, 0.3)}, ${sound} }\n`)))
    expect(heeding).not.toContain('lever (Loft)')
    expect(heeding).not.toContain('another storey')
  })
})
