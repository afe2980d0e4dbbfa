import { describe, expect, test } from '@jest/globals'
import { answerTo, checked, inShort, twoRooms } from '../levels.ts'

/** A box that takes a coin, with words for each moment. */
const box = (feedback: string, guard = '{ carries: coin }'): string =>
  twoRooms(`items: { coin: { title: coin }, old-coin: { title: old coin }, ring: { title: ring } }
flags: { noon: {} }
types:
  box:
    states: { shut: { look: shut }, open: { lasting: true, look: open } }
    transitions:
      - { name: open, from: shut, to: open, trigger: press, guard: ${guard} }
    handle: [0, 0, 1]
interactables:
  purse: { type: pickup, at: [0.2, 2, 1], set: { gives: coin } }
  noon: { type: lever, at: [1.5, 0.2, 1], set: { sets: noon } }
  box: { type: box, at: [3, 0.2, 1], feedback: ${feedback} }
goals: { open: { interactable: box, is: open } }
accepted-findings:
  - { rule: unused-item, of: old-coin, because: another coin }
  - { rule: unused-item, of: ring, because: a ring }
`)

/** What is found of the box. */
const of = (text: string): string[] => inShort(checked(text)).filter((one) => one.includes('box'))

describe('what a refusal says of items', () => {
  const refused = (message: string, guard?: string): string[] =>
    of(box(`{ accepted: [{ sound: clink }], refused: [{ message: "${message}" }] }`, guard))
  const both = '{ all: [{ carries: coin }, { flag: noon }] }'

  test('a longer title is not mistaken for a shorter one in it', () => {
    expect(refused('You need a coin.')).toEqual([])
    expect(refused('You need an old coin.')).toEqual(['wrong-item-named box'])
    expect(refused('You need a coin or an old coin.')).toEqual([])
  })

  test('words for one who lacks an item, said to one who has it', () => {
    expect(refused('You need a coin.', both)).toEqual(['wrong-item-named box'])
    expect(refused('The {item} is missing.', both)).toEqual(['wrong-item-named box'])
    // What lists all that is asked for is true of both.
    expect(refused('A coin, at noon.', both)).toEqual([])
    const [finding] = checked(
      box('{ accepted: [{ sound: clink }], refused: [{ message: You need a coin. }] }', both),
    ).findings
    expect(finding!.message).toContain('of somebody who has the coin')
    expect(finding!.fix.lines?.becomes.join()).toContain('because: carries')
  })

  test('words for one who lacks what is not asked for', () => {
    expect(refused('You need a ring.', '{ flag: noon }')).toEqual(['wrong-item-named box'])
    expect(refused('The ring gleams.', '{ flag: noon }')).toEqual([])
    // What must not be carried is spoken of where it is.
    expect(refused('No coin may come in here.', '{ not: { carries: coin } }')).toEqual([])
  })
})

describe('words where something succeeds', () => {
  const accepted = (message: string): string[] =>
    of(box(`{ accepted: [{ message: "${message}" }], refused: [{ message: "A coin." }] }`))

  test('that say what is lacking', () => {
    for (const words of [
      'No coin.',
      'You need a coin.',
      'Not without a coin.',
      'The coin is missing.',
      'It wants a {item}.',
    ])
      expect(accepted(words)).toEqual(['refusal-words box/open'])
  })

  test('that do not', () => {
    for (const words of ['The coin drops.', 'No longer empty: a coin.', 'No more.', 'A coin is needed no more.'])
      expect(accepted(words)).toEqual([])
  })

  test('that a refusal says, too', () => {
    expect(accepted('A coin.')).toEqual(['same-answer box'])
    const sounds = (one: string, other: string): string[] =>
      of(box(`{ accepted: [${one}], refused: [${other}] }`)).filter((text) => text.startsWith('same'))
    expect(sounds('{ sound: clink }', '{ sound: clink }, { message: "A coin." }')).toEqual([])
    expect(sounds('{ sound: clink }', '{ sound: clink }')).toEqual(['same-answer box'])
  })
})

describe('reasons for which nothing is refused', () => {
  test('an entry for one is never perceived', () => {
    const entries = (because: string): string =>
      box(
        `{ accepted: [{ sound: clink }], refused: [{ message: "A coin." }, { message: Later., because: ${because} }] }`,
      )
    const report = checked(entries('flag'))
    expect(of(entries('flag'))).toEqual(['unused-feedback box/refused/2'])
    const own = report.findings.find(({ rule }) => rule === 'unused-feedback')
    expect(own!.place!.path).toBe('interactables.box.feedback.refused.1')
    expect(of(entries('carries'))).toEqual([])
  })
})

describe('icons', () => {
  const icons = (entries: string): string[] => of(box(`{ accepted: [${entries}], refused: [{ message: "A coin." }] }`))

  test('end, are taken off, count something, or stay for good', () => {
    expect(icons('{ icon: lid }')).toEqual(['stray-icon box/lid'])
    expect(icons('{ icon: lid, for: 2 }')).toEqual([])
    expect(icons('{ icon: purse, counts: coin }')).toEqual([])
    expect(icons('{ icon: lid }, { hide: lid }')).toEqual([])
    expect(icons('{ sound: clink }, { hide: lid }')).toEqual(['stray-icon box/lid'])
  })
})

describe('guards that keep something back', () => {
  const scale = (trigger: string, guard: string, more = ''): string =>
    twoRooms(`items: { coin: { title: coin } }
flags: { noon: {} }
types:
  scale:
    states: { level: { look: level }, sunk: { lasting: true, look: sunk } }
    zones: { near: { radius: 1 } }
    transitions:
      - { name: weigh, from: level, to: sunk, trigger: ${trigger}, guard: ${guard}, feedback: [{ sound: creak }]${more} }
    handle: [0, 0, 1]
interactables:
  purse: { type: pickup, at: [0.2, 2, 1], set: { gives: coin } }
  noon: { type: lever, at: [1.5, 0.2, 1], set: { sets: noon }, feedback: { accepted: [{ sound: clack }] } }
  rope: { type: button, at: [1.5, 3.8, 1], set: { sends: pull }, feedback: { accepted: [{ sound: rope }] } }
  scale: { type: scale, at: [3.5, 2] }
goals: { weighed: { interactable: scale, is: sunk } }
accepted-findings:
  - { rule: unheard-signal, of: rope/pull, because: not in every one of these levels }
  - { rule: unused-item, of: coin, because: not in every one of these levels }
`)
  const found = (...parts: Parameters<typeof scale>): string[] =>
    inShort(checked(scale(...parts))).filter((one) => one.includes('silent-guard'))

  test('holding, letting go, walking up and signals without what must be carried', () => {
    for (const trigger of ['{ hold: 1 }', 'release', '{ enter: near }', '{ signal: pull }'])
      expect(found(trigger, '{ carries: coin }')).toEqual(['silent-guard scale/weigh'])
  })

  test('walking, and signals that wait for each other, ask for nothing else', () => {
    for (const trigger of ['{ enter: near }', '{ signal: pull }']) expect(found(trigger, '{ flag: noon }')).toEqual([])
    for (const trigger of ['{ hold: 1 }', 'release']) expect(found(trigger, '{ flag: noon }')).not.toEqual([])
  })

  test('where the transition says why, Play tells it, and nothing is found', () => {
    const words = ', refused: [{ message: It does not move. }]'
    for (const trigger of ['{ hold: 1 }', 'release', '{ enter: near }', '{ signal: pull }'])
      expect(found(trigger, '{ carries: coin }', words)).toEqual([])
  })
})

test('what only those perceive who stand nearer than anybody can is never perceived', () => {
  const level = (within: number): string =>
    twoRooms(`interactables:
  bell: { type: lever, at: [2, 3.95, 1], feedback: { accepted: [{ sound: ding, to: { within: ${String(within)} } }] } }
goals: { rung: { interactable: bell, is: "on" } }
`)
  // Its handle is 0.05 m off the wall, and nobody comes nearer to the wall than 0.3 m.
  expect(answerTo(checked(level(0.08)), 'unused-feedback', 'bell/accepted/1 within')).toBe('found')
  expect(answerTo(checked(level(0.3)), 'unused-feedback', 'bell/accepted/1 within')).toBe('ruled-out')
})

test('flags that go together are told where one is forgotten, and not where each is set by itself too', () => {
  const row = (name: string, effects: string): string =>
    `  ${name}: { states: { off: { look: off }, on: { lasting: true, look: on } }, transitions: [{ from: off, to: on, trigger: press, effects: [${effects}], feedback: [{ sound: clack }] }], handle: [0, 0, 1] }\n`
  const both = '{ set: steam }, { set: light }'
  const level = (third: string, fourth: string): string =>
    twoRooms(`flags: { steam: {}, light: {} }
types:
${row('one', both)}${row('two', both)}${row('three', third)}${row('four', fourth)}interactables:
  a: { type: one, at: [1, 0.3] }
  b: { type: two, at: [2, 0.3] }
  c: { type: three, at: [3, 0.3] }
  d: { type: four, at: [4, 0.3] }
goals: { hot: { flag: steam }, lit: { flag: light } }
`)
  const answers = (third: string, fourth: string): (string | null)[] =>
    ['steam/light/set', 'light/steam/set'].map((subject) =>
      answerTo(checked(level(third, fourth)), 'forgotten-flag', subject),
    )
  expect(answers('{ set: steam }', both)).toEqual(['found', 'ruled-out'])
  expect(answers(both, both)).toEqual(['ruled-out', 'ruled-out'])
  expect(answers('{ set: steam }', '{ set: steam }')).toEqual(['ruled-out', 'ruled-out'])
  expect(answers('{ set: steam }', '{ set: light }')).toEqual(['ruled-out', 'ruled-out'])
})

test('a flag that nothing ever changes is told, unless what asks for it is never taken', () => {
  const flag = (is: string, changed = ''): string =>
    twoRooms(`flags: { noon: {} }
interactables:
  crank: { type: lever, at: [0.2, 2, 1], set: { needs: { flag: noon${is} } }, feedback: { refused: [{ message: Not yet. }] } }
${changed}goals: { cranked: { interactable: crank, is: "on" } }
`)
  expect(answerTo(checked(flag(', is: false')), 'idle-flag', 'noon')).toBe('found')
  expect(answerTo(checked(flag('')), 'idle-flag', 'noon')).toBe('ruled-out')
  const lever = '  noon: { type: lever, at: [3, 0.2, 1], set: { sets: noon } }\n'
  expect(answerTo(checked(flag('', lever)), 'idle-flag', 'noon')).toBe('ruled-out')
})

describe('a lost instance is one report', () => {
  const bells = (more: string): string =>
    twoRooms(`types:
  hatch:
    states: { shut: { look: shut }, open: { lasting: true, look: open } }
    transitions:
      - { name: spring, from: shut, to: open, trigger: { signal: pulled }, feedback: [{ sound: bang }] }
interactables:
  rope: { type: button, at: [0.2, 2, 1], set: { sends: pulled }, feedback: { accepted: [{ sound: rope }] } }
${more}goals: { open: { interactable: hatch, is: open } }
`)

  test('led by what misses it, with the type to place', () => {
    const report = checked(bells(''))
    expect(report.findings).toHaveLength(1)
    const [first] = report.findings
    expect(first!.message + first!.fix.says).toContain('Place an interactable with type: hatch')
    expect(first!.follows.map(({ rule }) => rule).sort()).toContain('unused-type')
    expect(inShort(checked(bells('  hatch: { type: hatch, at: [3, 3.5] }\n')))).toEqual([])
  })
})

describe('what is open, and what is shut', () => {
  const gate = (shut: string, open: string): string[] =>
    inShort(
      checked(
        twoRooms(`types:
  gate:
    states: { shut: { look: shut${shut} }, open: { look: open${open} } }
    transitions:
      - { name: open, from: shut, to: open, trigger: { signal: pull }, feedback: [{ sound: chain }] }
      - { name: shut, from: open, to: shut, trigger: { signal: back }, feedback: [{ sound: chain }] }
interactables:
  gate: { type: gate, in: gap }
  crank: { type: lever, at: [0.2, 2, 1], set: { sends: pull, sends-back: back }, feedback: { accepted: [{ sound: clack }] } }
goals: { open: { interactable: gate, is: open } }
`),
      ),
    )
  const blocks = ', blocks: [walk, sight]'

  test('swapped is told once', () => {
    expect(gate(blocks, '')).toEqual([])
    expect(gate('', blocks)).toEqual(['leaks-when-shut gate'])
    expect(gate(blocks, blocks)).toEqual(['blocks-when-open gate'])
  })

  test('is told by the pose before the name', () => {
    expect(gate(`${blocks}, pose: 0`, ', pose: 1')).toEqual([])
    expect(gate(`${blocks}, pose: 1`, ', pose: 0')).toEqual([])
  })
})
