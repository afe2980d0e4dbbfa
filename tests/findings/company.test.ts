import { describe, expect, test } from '@jest/globals'
import { answerTo, checked, inShort } from '../levels.ts'

const hall = (things: string, more = ''): string => `zintel: 1
title: Hall
rooms: { hall: { outline: [[0, 0], [8, 0], [8, 4], [0, 4]] } }
characters:
  sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
  jackdaw: { role: creature, start: [6, 2], radius: 0.2, speed: 3, hand: 0.8, reach: 0.4 }
items: { ring: { title: ring } }
interactables:
${things}goals: { ring: { carries: ring } }
${more}`
const ledge = (who: string, set = ''): string =>
  `  ledge: { type: pickup, at: [4, 3.5, 0.9], who: ${who}, set: { gives: ring${set} } }\n`
const answer = (level: string): string => answerTo(checked(level), 'wrong-character', 'ledge/take')

describe('wrong-character', () => {
  test('a creature that can take what the goal asks for leads, with the goal that is lost by it', () => {
    const report = checked(hall(ledge('[player, creature, companion]')))
    expect(inShort(report)).toContain('wrong-character ledge/take (soft-lock ring)')
    const [finding] = report.findings
    expect(finding!.message).toContain('jackdaw, a creature, can take the ring from ledge')
    expect(finding!.fix.edit).toMatchObject({ path: 'interactables.ledge.who', value: ['player', 'companion'] })
  })

  test('not where each can take one, where it gets nowhere near, or where there is more', () => {
    expect(answer(hall(ledge('[player, creature]', ', for: each')))).toBe('not asked')
    expect(answer(hall(ledge('[player, creature]').replace('0.9]', '1.9]')))).toBe('ruled-out')
    expect(answer(hall(ledge('player')))).toBe('not asked')
  })

  test('not where the creature can do something with it', () => {
    const nest = '  nest: { type: keyhole, at: [6, 0.4, 0.9], who: creature, set: { item: ring } }\n'
    expect(answer(hall(ledge('[player, creature]') + nest))).toBe('ruled-out')
  })
})
