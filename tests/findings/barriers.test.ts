import { describe, expect, test } from '@jest/globals'
import { answerTo, checked, twoRooms } from '../levels.ts'

const kim = '  kim: { role: player, start: [1.5, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }\n'

/** Two rooms for two players, with a gate between; `more` doorways. */
const rooms = (gate: string, more = ''): string =>
  twoRooms(`${kim}items: { crank: {}, gold: {} }
types:
  gate:
    states:
${gate}
    handle: [-0.3, 0, 1]
    feedback: { refused: [{ message: It takes a crank. }] }
interactables:
  gate: { type: gate, in: gap }
  gold: { type: pickup, at: [9, 2, 0.9], set: { gives: gold } }
  crank: { type: pickup, at: [2, 3.5, 0.9], set: { gives: crank } }
  lever: { type: lever, at: [4, 3.8, 1], set: { sends: raise } }
goals: { rich: { carries: gold } }
`).replace('characters:', `${more}characters:`)

const gate = (open: string, told: string, guard = '', signal = 'raise'): string => `      down: { blocks: [walk] }
      ${open}
    transitions:
      - { name: crank, from: down, to: up, trigger: press, feedback: [${told}]${guard} }
      - { name: call, from: down, to: up, trigger: { signal: ${signal} }, feedback: [{ sound: rattle }] }
      - { name: lower, from: up, to: down, trigger: press, feedback: [{ sound: rattle }] }`

describe('a body that bars a doorway for good', () => {
  test('leads the report as the cause, and the room behind it is not said to have no doorway', () => {
    const report = checked(rooms(gate('up: { blocks: [walk] }', '{ sound: rattle }')))
    expect(report.findings[0]).toMatchObject({ rule: 'never-gives-way', severity: 'error' })
    expect(report.findings[0]!.message).toContain('its states, down and up, all block walking.')
    expect(answerTo(report, 'cut-off-room', 'east')).toBe('ruled-out')
    expect(report.findings.filter(({ rule }) => rule === 'unreachable-goal')).toEqual([])
  })

  test('is told of the state that is open where one is', () => {
    const level = rooms(gate('open: { blocks: [walk] }', '{ sound: rattle }'))
      .replaceAll('to: up', 'to: open')
      .replace('from: up', 'from: open')
    const report = checked(level)
    expect(report.findings[0]).toMatchObject({ rule: 'blocks-when-open' })
    expect(report.findings[0]!.message).toContain('Nobody can ever come into east.')
    expect(report.findings.some(({ rule }) => rule === 'never-gives-way')).toBe(false)
  })

  test('is nothing to tell of where there is another way, nor where it gives way', () => {
    const round = '  hole: { joins: [west, east], at: [5.15, 3.4], width: 0.9, depth: 0.3 }\n'
    const barred = gate('up: { blocks: [walk] }', '{ sound: rattle }')
    expect(answerTo(checked(rooms(barred, round)), 'never-gives-way', 'gate')).toBe('ruled-out')
    const report = checked(rooms(gate('up: { look: up }', '{ sound: rattle }')))
    expect(report.findings.some(({ rule }) => rule === 'never-gives-way')).toBe(false)
  })
})

describe('bypassed-lock', () => {
  const answer = (level: string): string => answerTo(checked(level), 'bypassed-lock', 'gate/call')
  const locked = rooms(gate('up: { look: up }', '{ sound: rattle }', ', guard: { carries: crank }'))

  test('is told where everybody can work what sends the signal', () => {
    expect(answer(locked)).toBe('found')
  })

  test('is not where it lies behind, asks for something, is for testing, or the lock asks for nothing', () => {
    expect(answer(locked.replace('at: [4, 3.8, 1]', 'at: [8, 3.8, 1]'))).toBe('ruled-out')
    expect(answer(locked.replace('sends: raise', 'sends: raise, needs: { carries: crank }'))).toBe('ruled-out')
    expect(answer(locked.replace('type: lever,', 'type: lever, test-only: true,'))).toBe('ruled-out')
    expect(answer(rooms(gate('up: { look: up }', '{ sound: rattle }')))).toBe('not asked')
  })
})

describe('untold-others', () => {
  const answer = (open: string, told: string): string =>
    answerTo(checked(rooms(gate(open, told))), 'untold-others', 'gate/crank')

  test('is told where words are for the player who acts alone, and nothing is seen or heard', () => {
    expect(answer('up: {}', '{ message: It rises. }')).toBe('found')
    expect(answer('up: {}', '{ sound: rattle, to: actor }')).toBe('found')
  })

  test('is not where others perceive it, see it, or where there is nobody else', () => {
    expect(answer('up: {}', '{ message: It rises., to: all }')).toBe('ruled-out')
    expect(answer('up: {}', '{ message: It rises., to: { within: 8 } }')).toBe('ruled-out')
    expect(answer('up: {}', '{ message: It rises. }, { sound: rattle }')).toBe('ruled-out')
    expect(answer('up: { look: up }', '{ message: It rises. }')).toBe('not asked')
    const alone = rooms(gate('up: {}', '{ message: It rises. }')).replace(kim, '')
    expect(answerTo(checked(alone), 'untold-others', 'gate/crank')).toBe('not asked')
  })
})
