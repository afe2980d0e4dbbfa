import { describe, expect, test } from '@jest/globals'
import { checkProject } from '../../src/findings/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { finish } from '../../src/model/index.ts'
import { readProject } from '../../src/play/index.ts'
import { answerTo, checked, inShort } from '../levels.ts'

/** A gate that a button outside raises, and that falls again; behind it a cell. */
const cell = (more = '', goal = '{ interactable: gate, is: up }'): string => `zintel: 1
title: Cell
rooms:
  hall: { outline: [[0, 0], [5, 0], [5, 4], [0, 4]] }
  cell: { outline: [[5.3, 0], [8, 0], [8, 4], [5.3, 4]] }
doorways:
  gap: { joins: [hall, cell], at: [5.15, 2], width: 1.4, depth: 0.3 }
items: { coin: {} }
places: { out: { at: [1, 1] } }
characters:
  sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
types:
  gate:
    states:
      down: { look: down, blocks: [walk] }
      up: { look: up }
    transitions:
      - { name: rise, from: down, to: up, trigger: { signal: raise }, feedback: [{ sound: chain }] }
      - { name: fall, from: up, to: down, trigger: { after: 5 }, feedback: [{ sound: crash }] }
interactables:
  gate: { type: gate, in: gap }
  button: { type: button, at: [4, 0.2, 1], set: { sends: raise }, feedback: { accepted: [{ sound: click }] } }
${more}goals: { up: ${goal} }
`
const answer = (level: string): string => answerTo(checked(level), 'trapped', 'cell/sam')
const thing = (text: string): string => `  thing: ${text}\n`

describe('trapped', () => {
  test('steps lead into the cell, and the last moment at which there was a way out is told', () => {
    const report = checked(cell())
    expect(inShort(report)).toEqual(['trapped cell/sam', 'unused-item coin'])
    const [finding] = report.findings
    expect(finding!.message).toBe(
      'sam can be trapped in cell for good: once gate/fall has been taken at the wrong time, nothing lets that player out.',
    )
    expect(finding!.steps.map(({ text }) => text).slice(0, 3)).toEqual([
      'Walk to button.',
      'Press: button answers.',
      'Walk to the cell.',
    ])
    expect(finding!.lastSafe!.after).toBe(3)
  })

  test('a button inside lets out, and so does what takes the player elsewhere', () => {
    expect(answer(cell(thing('{ type: button, at: [7.8, 2, 1], set: { sends: raise } }')))).toBe('ruled-out')
    expect(answer(cell(thing('{ type: exit, at: [7, 2], set: { exit-to: { place: out } } }')))).toBe('not asked')
  })

  test('a button inside that asks for what may be left outside does not', () => {
    const asks = '  inner: { type: button, at: [7.8, 2, 1], set: { sends: raise, needs: { carries: coin } } }\n'
    const coin = '  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: coin } }\n'
    expect(answer(cell(asks + coin))).toBe('found')
    expect(answer(cell(asks + coin.replace('at: [2', 'at: [7')))).toBe('ruled-out')
  })

  test('a gate that is pressed, and asks for what it uses up, does not let out for certain', () => {
    const coin = '  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: coin } }\n'
    const pressed = (guard: string): string =>
      cell(coin)
        .replace('trigger: { signal: raise }', `trigger: press${guard}`)
        .replace('states:\n      down', 'handle: [0, 0, 1]\n    states:\n      down')
    expect(answer(pressed(', guard: { carries: coin }, effects: [{ consume: coin }]'))).toBe('found')
    expect(answer(pressed(''))).toBe('not asked')
  })

  test('where a goal is met in it, it may be the end; where a goal is lost, that is told instead', () => {
    expect(answer(cell('', '{ inside: cell, role: player }'))).toBe('not asked')
    const coin = '  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: coin } }\n'
    const lost = checked(cell(coin, '{ carries: coin }'))
    expect(answerTo(lost, 'soft-lock', 'up')).toBe('found')
    expect(answerTo(lost, 'trapped', 'cell/sam')).toBe('not asked')
  })
})

test('what was found by watching does not follow from something else because nothing is watched there', () => {
  const far = '  far: { type: button, at: [2, 9, 1], set: { sends: raise } }\n'
  const requirement = 'requirements: { out: { can-still: { inside: hall, role: player } } }\n'
  const level = cell(far) + requirement
  const report = checked(level)
  expect(report.findings.map(({ rule }) => rule)).toEqual(
    expect.arrayContaining(['broken-requirement', 'out-of-reach', 'trapped']),
  )
  expect(report.findings.flatMap(({ follows }) => follows.map(({ rule }) => rule))).not.toContain('broken-requirement')
})

describe('cannot-leave', () => {
  const project = readProject(
    'project: 1\ntitle: Two\nstart: cell\nlevels: { cell: { file: cell.yaml }, shore: { file: shore.yaml } }\n',
    'a.project.yaml',
  ).value!
  const left = cell('  boat: { type: exit, at: [1, 3], set: { exit-to: { place: jetty, level: shore } } }\n')
  const shore = (things: string): string => `zintel: 1
title: Shore
rooms: { hall: { outline: [[0, 0], [6, 0], [6, 4], [0, 4]] } }
items: { coin: {} }
places: { jetty: { at: [1, 1] } }
characters:
  sam: { role: player, start: [3, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
interactables:
  back: { type: exit, at: [5.7, 2], set: { exit-to: { place: out, level: cell } } }
${things}`
  const answers = (own: string, other: string): string[] => {
    const [one, two] = [readLevel(own, 'cell.yaml'), readLevel(other, 'shore.yaml')]
    const levels = { cell: expandLevel(one.value!, one.source), shore: expandLevel(two.value!, two.source) }
    const [report] = finish(checkProject(project, levels))
    return ['trapped cell/sam', 'cannot-leave level'].map((name) => {
      const [rule, subject] = name.split(' ') as [string, string]
      return answerTo(report!, rule, subject)
    })
  }
  const asks = left.replace(
    'goals:',
    '  inner: { type: button, at: [7.8, 2, 1], set: { sends: raise, needs: { carries: coin } } }\ngoals:',
  )

  test('is told where the way to the exit falls shut, and not of the level alone; of a room that one is shut in, that is told', () => {
    expect(answers(left, shore(''))).toEqual(['found', 'not asked'])
    expect(answerTo(checked(left), 'cannot-leave', 'level')).toBe('not asked')
    // Where staying in the room may be the end of the level.
    const ending = left.replace(/goals: .*/, 'goals: { up: { any: [{ inside: cell }, { inside: hall }] } }')
    expect(answers(ending, shore(''))).toEqual(['not asked', 'found'])
  })

  test('is as it is in the project: what another level gives is of use to whoever has been there before', () => {
    const hook = '  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: coin } }\n'
    expect(answers(asks, shore(hook))).toEqual(['found', 'not asked'])
    const carrying = asks.replace('reach: 0.9', 'reach: 0.9, carries: { coin: 1 }')
    expect(answers(carrying, shore(''))).toEqual(['ruled-out', 'ruled-out'])
  })
})
