import { describe, expect, test } from '@jest/globals'
import { checkNow, type FileReport, type Finding } from '../../src/findings/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { readProject } from '../../src/play/index.ts'
import { answerTo, checked, inShort, twoRooms } from '../levels.ts'

const lever = `  bell: { type: lever, at: [1, 0.4, 1] }
goals: { rung: { interactable: bell, is: "on" } }
`

describe('stale-reference', () => {
  const chests = (second: string, more = ''): string =>
    twoRooms(`items: { key: {} }
interactables:
  hook: { type: pickup, at: [1, 0.4, 1], set: { gives: key } }
  lock-a: { type: keyhole, at: [1, 4, 1], set: { item: key }, feedback: &no { refused: [{ message: No. }] } }
  lock-b: { type: keyhole, at: [4, 4, 1], set: { item: key ${more} }, feedback: *no }
  chest-a: { type: chest, at: [2.4, 3.6], turn: 180, set: { lock: { keyhole: lock-a } }, feedback: *no }
  chest-b: { type: chest, at: [3.5, 0.5], set: { lock: { keyhole: ${second} } }, feedback: *no }
goals: { open: { all: [{ interactable: chest-a, is: open }, { interactable: chest-b, is: open }] } }
`)

  test('the later of two instances is told, with what it may have been meant to name', () => {
    const report = checked(chests('lock-a'))
    expect(inShort(report)).toEqual(['stale-reference chest-b/lock.keyhole'])
    expect(report.findings[0]!.fix.edit).toEqual({
      do: 'replace',
      path: 'interactables.chest-b.set.lock.keyhole',
      value: 'lock-b',
    })
    expect(inShort(checked(chests('lock-b')))).toEqual([])
  })

  test('where the other one tells somebody by itself, two instances may well share one', () => {
    const report = checked(chests('lock-a', ', sends: turned'))
    expect(answerTo(report, 'stale-reference', 'chest-b/lock.keyhole')).toBe('ruled-out')
  })
})

describe('unobtainable-item', () => {
  test('a goal that asks for what nobody gives is told at its line, and what follows is grouped', () => {
    const text = twoRooms(`items: { pearl: {} }\ngoals: { rich: { carries: pearl } }\n`)
    const report = checked(text)
    expect(inShort(report)).toEqual(['unobtainable-item pearl (unreachable-goal rich)'])
    expect(text.split('\n')[(report.findings[0]!.place?.line ?? 0) - 1]).toContain('carries: pearl')
  })

  test('what is carried at the start, or held by a chest, can be had', () => {
    const held = twoRooms(`items: { pearl: {} }
interactables: { chest: { type: chest, at: [2, 3.6], turn: 180, set: { gives: [{ item: pearl }], hands-over: by-choice } } }
goals: { rich: { carries: pearl } }
`)
    expect(answerTo(checked(held), 'unobtainable-item', 'pearl')).toBe('ruled-out')
    const carried = twoRooms('items: { pearl: {} }\ngoals: { rich: { carries: pearl } }\n').replace(
      'reach: 0.9 }',
      'reach: 0.9, carries: { pearl: 1 } }',
    )
    expect(answerTo(checked(carried), 'unobtainable-item', 'pearl')).toBe('ruled-out')
  })
})

describe('no-way-out', () => {
  const gong = (ringing: string, more = ''): FileReport =>
    checked(
      twoRooms(`types:
  gong:
    states: { still: { look: still }, ringing: { ${ringing}look: swinging } }
    transitions:
      - { name: strike, from: still, to: ringing, trigger: press }
${more}    handle: [0, 0, 1]
interactables:
  gong: { type: gong, at: [2, 3.6] }
${lever}`),
    )

  test('a state that is left, or is lasting, is in order; one that only comes back to itself is not', () => {
    expect(inShort(gong(''))).toEqual(['no-way-out gong/ringing'])
    expect(inShort(gong('lasting: true, '))).toEqual([])
    expect(inShort(gong('', '      - { name: hush, from: ringing, to: still, trigger: { after: 1 } }\n'))).toEqual([])
    const again = gong('', '      - { name: again, from: ringing, trigger: press, feedback: [{ sound: bong }] }\n')
    expect(inShort(again)).toEqual(['no-way-out gong/ringing'])
  })

  test('a transition that was lost with a misspelt name is not told twice', () => {
    const lost = gong('', '      - { name: hush, from: ringing, to: stil, trigger: { after: 1 } }\n')
    expect(inShort(lost)).toHaveLength(1)
    expect(inShort(lost)[0]).toMatch(/^unknown-name gong/)
  })
})

describe('opposite-flags', () => {
  const gauge = (fall: string, flags = '{ ebb: { initial: true }, flood: {} }'): FileReport =>
    checked(
      twoRooms(`flags: ${flags}
types:
  gauge:
    states: { low: { lasting: true, look: low }, high: { lasting: true, look: high } }
    transitions:
      - { name: rise, from: low, to: high, trigger: press, effects: [{ set: flood }, { set: ebb, to: false }] }
      - { name: fall, from: high, to: low, trigger: press, effects: [${fall}] }
    handle: [0, 0, 1]
interactables:
  gauge: { type: gauge, at: [2, 3.6] }
goals: { high: { flag: flood } }
`),
    )

  test('it says whether both are set, or neither, and points at the transition that makes them so', () => {
    const both = gauge('{ set: ebb }')
    expect(both.findings[0]!.message).toContain('can come to be both set at once')
    expect(both.findings[0]!.place?.path).toBe('types.gauge.transitions.1')
    const neither = gauge('{ set: flood, to: false }')
    expect(neither.findings[0]!.message).toContain('can come to be both not set at once')
    expect(neither.findings[0]!.steps.map(({ text }) => text)).toEqual([
      'Walk to gauge.',
      'Press: gauge answers.',
      'Press: gauge answers.',
    ])
  })

  test('flags that begin alike are no opposites', () => {
    expect(
      gauge('{ set: ebb }', '{ ebb: {}, flood: {} }').questions.some(({ rule }) => rule === 'opposite-flags'),
    ).toBe(false)
  })
})

test('an instance that is there for trying out is told; one that says it is not is not', () => {
  const report = checked(
    twoRooms(`interactables:
  help: { type: lever, at: [3, 0.4, 1], test-only: true }
  real: { type: lever, at: [4, 0.4, 1], test-only: false, feedback: { accepted: [{ message: Clack. }] } }
${lever}`),
  )
  expect(inShort(report)).toEqual(['leftover-test-only help', 'untold-change bell'])
  expect(report.findings[0]!.fix.edit).toEqual({ do: 'remove', path: 'interactables.help' })
})

test('a goal that holds at once is told, however it comes to hold', () => {
  const level = (goal: string): string => twoRooms(`interactables:\n${lever.replace('"on"', goal)}`)
  expect(inShort(checked(level('"off"')))).toEqual(['goal-already-met rung'])
  expect(inShort(checked(level('["on", "off"]')))).toEqual(['goal-already-met rung'])
  expect(inShort(checked(level('"on"')))).toEqual([])
})

describe('in a project', () => {
  const island = (door: string, boat: string): string =>
    twoRooms(`items: { token: {}, shell: {} }
places: { pier: { at: [1, 1] } }
interactables:
  hook: { type: pickup, at: [3, 0.4, 1], set: { gives: token } }
  shells: { type: pickup, at: [4, 0.4, 1], set: { gives: shell } }
  door: { type: door, in: gap, set: { lock: { item: token, item-use: ${door} }, stays-open: true }, feedback: { refused: [{ message: No. }] } }
  boat: { type: exit, at: [0.4, 3.6], set: { exit-to: { place: pier, level: harbour${boat} } } }
goals: { through: { interactable: door, is: open } }
`)
  const harbour = twoRooms(`items: { shell: {} }
places: { pier: { at: [1, 1] } }
interactables:
  boat: { type: exit, at: [0.4, 3.6], set: { exit-to: { place: pier, level: island } } }
goals: { shown: { carries: shell } }
`)

  function inProject(text: string, remembers: string): FileReport {
    const [own, other] = [text, harbour].map((one) => readLevel(one, null))
    const files = `levels: { island: { file: a.yaml${remembers} }, harbour: { file: b.yaml } }`
    const { value } = readProject(`project: 1\ntitle: Two\nstart: island\n${files}\n`, null)
    const levels = {
      island: expandLevel(own!.value!, own!.source),
      harbour: expandLevel(other!.value!, other!.source),
    }
    return checkNow(own!.value!, own!.source, { project: { project: value!, level: 'island', levels } })
  }

  test('what is forgotten is locked again, where its key was used up and there is no other', () => {
    const forgets = ', remembers: nothing, except: [hook]'
    expect(answerTo(inProject(island('consume', ''), forgets), 'locked-again', 'door/token')).toBe('found')
    expect(answerTo(inProject(island('consume', ''), ''), 'locked-again', 'door/token')).toBe('ruled-out')
    // Where the hook is forgotten too, there is another token on it.
    expect(answerTo(inProject(island('consume', ''), ', remembers: nothing'), 'locked-again', 'door/token')).toBe(
      'ruled-out',
    )
    expect(answerTo(inProject(island('keep', ''), forgets), 'locked-again', 'door/token')).toBe('not asked')
  })

  test('what another level asks for should not be dropped on the way there', () => {
    expect(answerTo(inProject(island('keep', ', drops: [shell]'), ''), 'lost-item', 'boat/harbour')).toBe('found')
    expect(answerTo(inProject(island('keep', ', drops: [token]'), ''), 'lost-item', 'boat/harbour')).toBe('ruled-out')
    expect(answerTo(inProject(island('keep', ''), ''), 'lost-item', 'boat/harbour')).toBe('ruled-out')
  })

  test('what is of use elsewhere is not for nothing; alone, that is not asked', () => {
    expect(answerTo(inProject(island('keep', ''), ''), 'unused-item', 'shell')).toBe('ruled-out')
    expect(answerTo(checked(island('keep', '')), 'unused-item', 'shell')).toBe('not asked')
  })
})

describe('of two names that differ in a letter', () => {
  const level = (items: string, more = ''): string =>
    twoRooms(`items: ${items}
interactables:
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: sluice-key } }
  door: { type: door, in: gap, set: { lock: { item: sluice-key } }, feedback: { refused: [{ message: Locked }] } }
${more}goals: { open: { interactable: door, is: open }, key: { carries: sluice-key } }`)

  test('the one that nothing names is misspelt where it is defined, and renamed there, once', () => {
    const text = level('{ sluice-kay: { title: sluice key } }')
    const report = checked(text)
    expect(inShort(report).map((one) => one.split(' (')[0])).toEqual(['unknown-name sluice-kay'])
    const [finding] = report.findings
    expect(finding!.message).toBe(
      'The item "sluice-kay" is defined, but nothing names it; 3 places name "sluice-key", which is not.',
    )
    expect(finding!.fix.automatic).toBe(true)
    expect(finding!.place!.line).toBe(text.split('\n').findIndex((line) => line.startsWith('items:')) + 1)
    expect(checked(text.replace('sluice-kay', 'sluice-key')).findings).toEqual([])
  })

  test('the one used less often is the misspelling where it is used', () => {
    const text = level('{ sluice-key: {} }').replace('gives: sluice-key', 'gives: sluice-kay')
    const report = checked(text)
    expect(report.findings[0]!.message).toBe('There is no item "sluice-kay".')
    expect(report.findings[0]!.fix.says).toBe('Write "sluice-key".')
  })
})

test('a number that a dial does not have is a bad value at its place, and what waits for it follows', () => {
  const text = twoRooms(`interactables:
  safe: { type: dial-lock, at: [1, 0.2, 1], set: { combination: [3, 12, 4], wheels: 3, positions: 10 } }
goals: { open: { interactable: safe, is: turned } }`)
  const report = checked(text)
  expect(report.findings.map(({ rule }) => rule)).toEqual(['bad-value'])
  const [finding] = report.findings
  expect(finding!.message).toBe('The dial goes from 0 to 9: it can never show 12.')
  const line = text.split('\n')[finding!.place!.line! - 1]!
  expect(line.slice(finding!.place!.column! - 1)).toMatch(/^12,/)
  expect(finding!.follows.map(({ rule }) => rule)).toEqual(
    expect.arrayContaining(['unreachable-goal', 'dead-transition']),
  )
})

test('a signal that is sent to a tag which this instance lacks is said so, and the tag can be added', () => {
  const text = twoRooms(`types:
  lamp:
    states: { dark: { look: dark }, lit: { lasting: true, look: lit } }
    transitions: [{ name: light, from: dark, to: lit, trigger: { signal: glow } }]
  crank:
    states: { up: { look: up }, down: { lasting: true, look: down } }
    transitions: [{ name: turn, from: up, to: down, trigger: press, effects: [{ send: glow, tagged: lamps }] }]
interactables:
  winch: { type: crank, at: [3, 0.2, 1] }
  other: { type: lamp, at: [1, 0.2, 1], tags: [lamps] }
  lantern: { type: lamp, at: [4, 0.2, 1] }
goals: { lit: { interactable: lantern, is: lit } }`)
  const [finding] = checked(text).findings
  expect(finding!.rule).toBe('unsent-signal')
  expect(finding!.message).toBe(
    'lantern waits for the signal "glow", which winch sends only to what has the tag "lamps", which lantern lacks.',
  )
  expect(finding!.fix.says).toBe('Give lantern the tag "lamps", or send it there, too.')
  expect(finding!.fix.lines!.becomes.join()).toContain('tags: [lamps]')
  expect(checked(text.replace('at: [4, 0.2, 1]', 'at: [4, 0.2, 1], tags: [lamps]')).findings).toEqual([])
})

/** The lines that a fix makes, or the first change that was tried. */
function linesOf(finding: Finding | undefined): string[] | undefined {
  return (finding?.fix.lines ?? finding?.tried[0]?.lines)?.becomes
}

describe('what a fix would change', () => {
  const lines = (text: string, rule: string): string[] | undefined =>
    linesOf(checked(text).findings.find((one) => one.rule === rule))

  test('an item that can be wasted is kept instead', () => {
    const text = twoRooms(`items: { coin: {} }
interactables:
  hook: { type: pickup, at: [2, 0.4, 1], set: { gives: coin } }
  slot: { type: keyhole, at: [1, 0, 1], set: { item: coin, item-use: consume }, feedback: &no { refused: [{ message: No. }] } }
  gate: { type: door, in: gap, set: { lock: { item: coin, item-use: consume }, stays-open: true }, feedback: *no }
goals: { open: { interactable: gate, is: open } }`)
    expect(lines(text, 'wasted-item')?.join()).toContain('item-use: keep')
  })
})
