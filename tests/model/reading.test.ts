import { describe, expect, test } from '@jest/globals'
import { readLevel } from '../../src/interactables/index.ts'
import { diagnosticText, nearestName, placeFrame } from '../../src/model/index.ts'
import { textOf, twoRooms } from '../levels.ts'

function problems(text: string): string[] {
  return readLevel(text, 'my.level.yaml').diagnostics.map(diagnosticText)
}

describe('wrong input is told, all of it, with its place', () => {
  test('a misspelt key, with the nearest right one', () => {
    const text = twoRooms('intractables:\n  lamp: { type: lamp, at: [1, 1] }\n')
    expect(problems(text)).toMatchInlineSnapshot(`
     [
       "my.level.yaml:10:1: The file has no key "intractables". Did you mean "interactables"?",
     ]
    `)
  })

  test('several things at once, in the order of the file', () => {
    const text = twoRooms(`items:
  Key: {}
interactables:
  door:
    type: door
    in: gap
    at: [1, 1]
    priority: high
  chest: { at: [1, wide] }
goals:
  win: { carries: key, flag: up }
`)
    expect(problems(text)).toMatchInlineSnapshot(`
     [
       "my.level.yaml:11:3: "Key" cannot be a name. Expected lower-case letters, digits and dashes, beginning with a letter.",
       "my.level.yaml:17:15: interactables.door.priority has the wrong shape. Expected a number. Found "high".",
       "my.level.yaml:18:3: interactables.chest lacks "type".",
       "my.level.yaml:18:20: interactables.chest.at.1 has the wrong shape. Expected a number. Found "wide".",
       "my.level.yaml:20:30: goals.win.flag needs something else. Expected exactly one of carries, room-for, acts, remembers, contains, empty, something-fits, interactable, flag, counter, inside, dial, all, any, not, setting. Found "up".",
     ]
    `)
  })

  test('settings that a type does not have, or that are of another kind', () => {
    const text = twoRooms(`interactables:
  door: { type: door, in: gap, set: { locks: { item: key }, motion: { over: soon }, hinge: lefft } }
  hook: { type: pickup, at: [1, 1], set: { count: 2 } }
`)
    expect(problems(text)).toMatchInlineSnapshot(`
     [
       "my.level.yaml:11:39: interactables.door.set has no setting "locks". Did you mean "lock"?",
       "my.level.yaml:11:92: The setting interactables.door.set.hinge has the wrong shape. Expected left or right. Found "lefft". Did you mean "left"?",
       "my.level.yaml:11:77: The setting interactables.door.set.motion.over has the wrong shape. Expected seconds from 0.001 to 86400 with at most three decimals. Found "soon".",
       "my.level.yaml:12:37: interactables.hook.set lacks the setting "gives".",
     ]
    `)
  })

  test('what an alias repeats is told once, and a merge key by its name', () => {
    const anchored =
      'interactables:\n  a: { type: lever, at: [1, 1], feedback: &f { refused: [{ beep: x }] } }\n  b: { type: lever, at: [2, 1], feedback: *f }\n'
    expect(problems(twoRooms(anchored))).toEqual([
      expect.stringContaining('11:60: interactables.a.feedback.refused.0 has no key "beep"'),
    ])
    const merged = 'interactables:\n  a: &l { type: lever, at: [1, 1] }\n  b: { <<: *l, at: [2, 1] }\n'
    expect(problems(twoRooms(merged))).toEqual([expect.stringContaining('YAML 1.2 has no merge key <<.')])
  })

  test('another version of the format', () => {
    expect(problems(twoRooms('').replace('zintel: 1', 'zintel: 7'))[0]).toContain('another version of the format')
  })

  test('a trigger, a guard or an effect of no known kind', () => {
    const text = twoRooms(`types:
  gong:
    states: { still: {} }
    transitions:
      - { from: still, trigger: { sound: bang } }
      - { from: still, trigger: pres, guard: { has: key } }
      - { from: still, trigger: { after: 0.0004 }, effects: [{ gives: key }] }
`)
    const found = problems(text)
    expect(found).toHaveLength(5)
    expect(found.join('\n')).toContain(
      'transitions.0.trigger has no key "sound". Expected one of enter, leave, signal, after, press, every, chance, option, offered, hold, becomes.',
    )
    expect(found.join('\n')).toContain('my.level.yaml:15:33: types.gong.transitions.1.trigger has the wrong shape.')
  })

  test('the line is shown with a mark under the column', () => {
    const text = twoRooms('goals: { win: { carries: 7 } }\n')
    const [first] = readLevel(text, 'x').diagnostics
    expect(placeFrame(text, first!.place)).toMatchInlineSnapshot(`
     "  10 | goals: { win: { carries: 7 } }
          |                          ^"
    `)
  })

  test('keys that begin with x- are nobody’s business', () => {
    expect(problems(twoRooms('x-notes: { any: thing }\ngoals: { win: { flag: up, x-owner: me } }\n'))).toEqual([])
  })
})

describe('unsafe text gives a diagnostic, never more', () => {
  const unsafe: Readonly<Record<string, string>> = {
    'aliases that grow': `a: &a [x, x, x, x, x, x, x, x, x]\n${'bcdefghij'
      .split('')
      .map(
        (c, i) =>
          `${c}: &${c} [${Array(9)
            .fill(`*${'abcdefghi'[i] ?? ''}`)
            .join(', ')}]`,
      )
      .join('\n')}\n`,
    'an alias that holds itself': 'a: &a [*a]\n',
    'an alias without an anchor': 'a: *b\n',
    'keys that stand twice': 'zintel: 1\nzintel: 1\n',
    'a key that would change all objects': '__proto__: { polluted: true }\n',
    'a key that is a list': '[1, 2]: 3\n',
    'numbers that are not finite': twoRooms('').replace('width: 1.4', 'width: .inf'),
    'absurd numbers': twoRooms('').replace('width: 1.4', 'width: 1e300'),
    'deep nesting in brackets': `a: ${'['.repeat(5000)}${']'.repeat(5000)}\n`,
    'deep nesting by dashes': `${'- '.repeat(5000)}x\n`,
    'deep nesting by lines': Array.from({ length: 2000 }, (_, i) => `${' '.repeat(i)}a:`).join('\n'),
    'unbalanced quotes': 'title: "half\nrooms: {\n',
    'tabs and control characters': '\u0000\u0001\t\t:\u2028{',
    'nothing at all': '',
    'a list': '- 1\n- 2\n',
    'half a million dashes': '- '.repeat(400_000),
    'half a million braces': '{'.repeat(500_000),
    'half a million quotes': '"'.repeat(500_000),
    'many keys': Array.from({ length: 45_000 }, (_, i) => `k${String(i)}: 1`).join('\n'),
  }
  for (const [name, text] of Object.entries(unsafe)) {
    test(name, () => {
      const since = performance.now()
      const { value, diagnostics } = readLevel(text, 'x')
      expect(value).toBeNull()
      expect(diagnostics.length).toBeGreaterThan(0)
      expect(performance.now() - since).toBeLessThan(5000)
      expect(({} as { polluted?: boolean }).polluted).toBeUndefined()
    })
  }

  test('10 MB of nonsense in under a second', () => {
    const text = 'rooms: [}{ &*!| - : , '.repeat(500_000)
    const since = performance.now()
    expect(readLevel(text, 'x').diagnostics[0]?.code).toBe('too-large')
    expect(performance.now() - since).toBeLessThan(1000)
  })
})

test('YAML and JSON give the same level, with the same places by path', () => {
  const yaml = readLevel(textOf('examples/levels/tide-mill.level.yaml'), 'a')
  const json = readLevel(JSON.stringify(yaml.value, null, 2), 'b')
  expect(json.diagnostics).toEqual([])
  expect(json.value).toEqual(yaml.value)
  const lines = textOf('examples/levels/tide-mill.level.yaml').split('\n')
  const line = lines.findIndex((one) => one.includes('lock: { item: sluice-key'))
  expect(yaml.source.place('interactables.mill-door.set.lock.item').line).toBe(line + 1)
  expect(json.source.place('interactables.mill-door.set.lock.item').path).toBe('interactables.mill-door.set.lock.item')
  expect(json.source.place('interactables.mill-door.set.lock.item').line).not.toBeNull()
})

test('the nearest name is near, or none', () => {
  expect(nearestName('sluce-key', ['tally', 'sluice-key'])).toBe('sluice-key')
  expect(nearestName('tlaly', ['tally', 'sluice-key'])).toBe('tally')
  expect(nearestName('anchor', ['tally', 'sluice-key'])).toBeNull()
  expect(nearestName('in', ['is', 'not'])).toBeNull()
  expect(nearestName('ni', ['is', 'in'])).toBe('in')
})
