import { describe, expect, test } from '@jest/globals'
import { answerTo, checked, inShort, longRooms, replayed, twoRooms } from '../levels.ts'

describe('stuck-state', () => {
  const gate = (guard: string, more = ''): string =>
    twoRooms(`items: { key: {} }
flags: { noon: {} }
types:
  gate:
    states: { shut: { look: shut }, up: { lasting: true, look: up } }
    transitions:
      - { name: rise, from: shut, to: up, trigger: press, guard: ${guard} }
    handle: [0, 0, 1]
    feedback: { refused: [{ message: No. }] }
${more}interactables:
  gate: { type: gate, at: [2, 3.6] }
  hook: { type: pickup, at: [4, 0.4, 1], set: { gives: key } }
  noon: { type: lever, at: [1, 0.4, 1], set: { sets: noon, stays: true } }
goals: { key: { carries: key } }
`)

  test('what hangs on where one stands and what one carries is never stuck', () => {
    expect(answerTo(checked(gate('{ carries: key }')), 'stuck-state', 'gate/shut')).toBe('ruled-out')
    expect(answerTo(checked(gate('{ all: [{ carries: key }, { acts: player }] }')), 'stuck-state', 'gate/shut')).toBe(
      'ruled-out',
    )
  })

  test('a flag that is set for good and must not be leaves a machine stuck; one that can be cleared does not', () => {
    const report = checked(gate('{ flag: noon, is: false }'))
    expect(answerTo(report, 'stuck-state', 'gate/shut')).toBe('found')
    const finding = report.findings.find(({ rule }) => rule === 'stuck-state')!
    expect(finding.steps.map(({ text }) => text)).toEqual(['Walk to noon.', 'Press: noon answers.'])
    const back = gate('{ flag: noon, is: false }').replace('sets: noon, stays: true', 'sets: noon')
    expect(answerTo(checked(back), 'stuck-state', 'gate/shut')).toBe('ruled-out')
  })

  test('a signal that comes only once leaves a machine stuck that could not take it then, whatever is carried later', () => {
    const bell = (set: string): string =>
      twoRooms(`items: { key: {} }
types:
  bell:
    states: { still: { look: still }, rung: { lasting: true, look: swinging } }
    transitions:
      - { name: ring, from: still, to: rung, trigger: { signal: go }, guard: { carries: key } }
interactables:
  bell: { type: bell, at: [2, 3.6] }
  hook: { type: pickup, at: [4, 0.4, 1], set: { gives: key } }
  lever: { type: lever, at: [1, 2.4, 1], set: { sends: go${set} } }
goals: { pulled: { interactable: lever, is: "on" } }
`)
    const report = checked(bell(', stays: true'))
    expect(answerTo(report, 'stuck-state', 'bell/still')).toBe('found')
    expect(report.findings.find(({ rule }) => rule === 'stuck-state')!.steps).toMatchObject([
      { text: 'Press: lever answers.' },
    ])
    expect(answerTo(checked(bell('')), 'stuck-state', 'bell/still')).toBe('ruled-out')
  })

  test('what waits for somebody to carry something, or to stand somewhere, is not stuck for want of that', () => {
    const eye = (condition: string): string =>
      twoRooms(`items: { key: {}, feather: {} }
flags: { noon: {} }
types:
  eye:
    states: { shut: { look: shut }, open: { lasting: true, look: open } }
    zones: { before: { radius: 0.6 } }
    transitions:
      - { name: see, from: shut, to: open, trigger: { becomes: ${condition} } }
interactables:
  eye: { type: eye, at: [2, 3.6] }
  hook: { type: pickup, at: [4, 0.4, 1], set: { gives: key } }
goals: { key: { carries: key } }
`)
    // Nobody can get a feather; whoever had one would be seen.
    expect(answerTo(checked(eye('{ carries: feather }')), 'stuck-state', 'eye/shut')).toBe('ruled-out')
    expect(answerTo(checked(eye('{ inside: before, carrying: feather }')), 'stuck-state', 'eye/shut')).toBe('ruled-out')
    expect(answerTo(checked(eye('{ all: [{ carries: feather }, { flag: noon }] }')), 'stuck-state', 'eye/shut')).toBe(
      'found',
    )
  })

  test('it is open where there is too much that could be carried to try it all', () => {
    const coins = ['pearl', 'shell', 'stone', 'feather', 'leaf', 'seed']
    const asked = coins.map((coin) => `{ carries: ${coin} }`).join(', ')
    const report = checked(
      twoRooms(`items: { ${coins.map((coin) => `${coin}: { stacks: true }`).join(', ')} }
types:
  bell:
    states: { still: { look: still }, rung: { lasting: true, look: swinging } }
    transitions:
      - { name: ring, from: still, to: rung, trigger: { signal: go }, guard: { all: [${asked}] } }
interactables:
  bell: { type: bell, at: [2, 3.6] }
  lever: { type: lever, at: [1, 2.4, 1], set: { sends: go, stays: true } }
goals: { pulled: { interactable: lever, is: "on" } }
`),
    )
    const question = report.questions.find(({ rule, subject }) => rule === 'stuck-state' && subject === 'bell/still')!
    expect(question).toMatchObject({ answer: 'undecided', why: 'it hangs on more than could be followed' })
  })

  test('only what stands near enough to be pressed somewhere lets a machine leave', () => {
    const gate = (at: string): string =>
      twoRooms(`types:
  gate:
    states: { shut: { look: shut }, up: { lasting: true, look: up } }
    transitions:
      - { name: rise, from: shut, to: up, trigger: press }
    handle: [0, 0, 1]
interactables:
  gate: { type: gate, at: ${at} }
  lever: { type: lever, at: [1, 2.4, 1] }
goals: { pulled: { interactable: lever, is: "on" } }
`)
    expect(answerTo(checked(gate('[2, 3.6]')), 'stuck-state', 'gate/shut')).toBe('ruled-out')
    const far = checked(gate('[40, 3.6]'))
    expect(answerTo(far, 'stuck-state', 'gate/shut')).toBe('found')
    // It follows from where it stands.
    expect(inShort(far)[0]).toMatch(/^out-of-reach gate \(.*stuck-state gate\/shut/)
  })

  test('what is left in a chest, and what it remembers, is followed', () => {
    const shelf = (guard: string): string =>
      twoRooms(`items: { key: {} }
types:
  shelf:
    contains: { items: [{ item: key, count: 2 }] }
    remembers: [asked]
    states: { full: { look: full }, bare: { lasting: true, look: bare } }
    transitions:
      - { name: take, from: full, trigger: press, guard: ${guard}, effects: [{ take-out: key, count: 1 }, { remember: asked }] }
      - { name: bare, from: full, to: bare, trigger: { becomes: { empty: true } } }
    handle: [0, 0, 1]
    feedback: { refused: [{ message: No. }] }
interactables:
  shelf: { type: shelf, at: [2, 3.6] }
goals: { key: { carries: key } }
`)
    // A second key cannot be carried here, but could be if the first were gone.
    expect(answerTo(checked(shelf('{ something-fits: true }')), 'stuck-state', 'shelf/full')).toBe('ruled-out')
    expect(answerTo(checked(shelf('{ not: { remembers: asked } }')), 'stuck-state', 'shelf/full')).toBe('found')
  })

  test('a signal that comes only once, too early, leaves a machine stuck', () => {
    const text = twoRooms(`types:
  gate:
    states: { asleep: { look: asleep }, awake: { look: awake }, up: { lasting: true, look: up } }
    transitions:
      - { name: wake, from: asleep, to: awake, trigger: { after: 1 } }
      - { name: rise, from: awake, to: up, trigger: { signal: go } }
interactables:
  gate: { type: gate, at: [2, 3.6] }
  lever: { type: lever, at: [1, 2.4, 1], set: { sends: go, stays: true } }
goals: { pulled: { interactable: lever, is: "on" } }
`)
    const report = checked(text)
    expect(answerTo(report, 'stuck-state', 'gate/awake')).toBe('found')
    // Before the signal was wasted nothing is stuck: the other state leads on by itself.
    expect(answerTo(report, 'stuck-state', 'gate/asleep')).toBe('ruled-out')
  })
})

describe('signal-storm', () => {
  test('the steps end in the storm, and a circle that needs a turn of somebody is none', () => {
    const text = (more: string): string =>
      twoRooms(`types:
  echo:
    states: { up: { lasting: true } }
    transitions:
      - { name: answer, from: up, trigger: { signal: call }, ${more}effects: [{ send: reply }] }
      - { name: again, from: up, trigger: { signal: reply }, effects: [{ send: call }] }
interactables:
  echo: { type: echo, at: [4, 2] }
  horn: { type: button, at: [2, 3.6, 1], set: { sends: call } }
  bell: { type: lever, at: [1, 0.4, 1] }
goals: { rung: { interactable: bell, is: "on" } }
`)
    const report = checked(text(''))
    const storm = report.findings.find(({ rule }) => rule === 'signal-storm')!
    expect(storm.steps.map(({ text: said }) => said)).toEqual(['Walk to horn.', 'Press: horn answers.'])
    expect(replayed(text(''), storm).ended).toBe('signal-storm')
    // Where play may end in it, whether the goal can be lost is not proved.
    expect(answerTo(report, 'soft-lock', 'rung')).toBe('undecided: signals without end stop the play')
    const quiet = checked(text('guard: { interactable: bell, is: "on" }, ').replace('[{ send: call }]', '[]'))
    expect(answerTo(quiet, 'signal-storm', 'level')).toBe('ruled-out')
  })

  test('what a storm keeps from happening is grouped under it', () => {
    const report = checked(
      twoRooms(`types:
  echo:
    states: { up: { lasting: true } }
    transitions:
      - { name: answer, from: up, trigger: { signal: call }, effects: [{ send: call }] }
  bell:
    states: { still: { look: still }, rung: { lasting: true, look: swinging } }
    transitions: [{ name: ring, from: still, to: rung, trigger: { signal: call } }]
interactables:
  echo: { type: echo, at: [4, 2] }
  bell: { type: bell, at: [4, 0.4] }
  horn: { type: button, at: [2, 3.6, 1], set: { sends: call } }
goals: { rung: { interactable: bell, is: rung } }
`),
    )
    expect(inShort(report)).toHaveLength(1)
    expect(inShort(report)[0]).toMatch(/^signal-storm level \(.*unreachable-goal rung/)
  })
})

describe('lost-item', () => {
  const spring = (more: string): string =>
    twoRooms(`items: { coin: { stacks: 3 } }
types:
  spring:
    states: { full: { look: full }, dry: { lasting: true, look: dry } }
    transitions:
      - { name: draw, from: full, to: dry, trigger: press, effects: [{ give: coin, count: 2 }] }
    handle: [0, 0, 1]
    ${more}
interactables:
  one: { type: spring, at: [1, 3.6] }
  two: { type: spring, at: [3, 3.6] }
goals: { rich: { carries: coin, count: 3 } }
`)

  test('gives of which all fits lose nothing; one too many loses one, unless that is said', () => {
    const report = checked(spring(''))
    expect(answerTo(report, 'lost-item', 'one/coin')).toBe('found')
    const finding = report.findings.find(({ rule }) => rule === 'lost-item')!
    expect(finding.steps).toHaveLength(4)
    expect(replayed(spring(''), finding).carried(0, 0)).toBe(3)
    expect(answerTo(checked(spring('').replace('stacks: 3', 'stacks: 4')), 'lost-item', 'one/coin')).toBe('ruled-out')
    const told = checked(spring('feedback: { too-full: [{ message: Gone. }] }'))
    expect(answerTo(told, 'lost-item', 'one/coin')).toBe('ruled-out')
  })
})

describe('repeated-feedback', () => {
  const buoy = (entry: string, after = 2): string =>
    longRooms(`types:
  buoy:
    states: { low: { look: low }, high: { look: high } }
    transitions:
      - { name: rise, from: low, to: high, trigger: { after: ${String(after)} } }
      - { name: fall, from: high, to: low, trigger: { after: 3 }, feedback: [${entry}] }
interactables:
  buoy: { type: buoy, at: [3, 3.6] }
goals: { up: { interactable: buoy, is: high } }
`)

  test('a sound that comes round by itself is told, with how often', () => {
    const report = checked(buoy('{ sound: clank }'))
    expect(report.findings.map(({ message }) => message)).toEqual([
      'buoy gives the sound "clank" again every 5 s (fall), for as long as nobody does anything.',
    ])
    const [finding] = report.findings
    expect(replayed(buoy('{ sound: clank }'), finding!).log.filter(({ what }) => what === 'feedback')).toHaveLength(2)
  })

  test('what is meant to come again, or is only seen, is not', () => {
    for (const entry of ['{ sound: clank, pause: 30 }', '{ message: Clank., once: true }', '{ light: red }']) {
      expect(inShort(checked(buoy(entry)))).toEqual([])
    }
  })
})

test('the same line says something of several instances: that is one finding', () => {
  const report = checked(
    twoRooms(`types:
  gong:
    states: { still: { look: still }, ringing: { look: swinging } }
    transitions: [{ name: strike, from: still, to: ringing, trigger: press }]
    handle: [0, 0, 1]
interactables:
  one: { type: gong, at: [1, 3.6] }
  two: { type: gong, at: [3, 3.6] }
  three: { type: gong, at: [9, 3.6] }
goals: { rung: { interactable: one, is: ringing } }
`),
  )
  expect(inShort(report)).toEqual(['no-way-out one/ringing'])
  expect(report.findings[0]!.also).toEqual(['two/ringing', 'three/ringing'])
})

test('what the settings of an instance leave out is no dead state, nor a dead transition', () => {
  const bell = (more: string): string => `zintel: 1
title: A bell
rooms: { hall: { outline: [[0, 0], [6, 0], [6, 4], [0, 4]] } }
types:
  bell:
    settings: { tone: { kind: choice, options: [low, high] } }
    states: { still: { look: still }, low: { look: low }, high: { look: high } }
    transitions:
      - { name: low, from: still, to: low, trigger: press, if: { setting: tone, is: low }, feedback: [{ sound: dong }] }
      - { name: high, from: still, to: high, trigger: press${more}, feedback: [{ sound: ding }] }
      - { name: fades, from: low, to: still, trigger: { after: 1 } }
      - { name: dies, from: high, to: still, trigger: { after: 1 } }
interactables:
  bell: { type: bell, at: [1.5, 0.4, 1], set: { tone: low } }
characters: { sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 } }
`
  expect(inShort(checked(bell(', if: { setting: tone, is: high }')))).toEqual(['no-goal level'])
  // Not so where something else leads there, or nothing leaves it out: the second row is never the first to answer.
  const rises = '      - { name: rises, from: low, to: high, trigger: press, if: { setting: tone, is: high } }\n'
  const both = bell('').replace('      - { name: fades', `${rises}      - { name: fades`)
  expect(inShort(checked(both)).join()).toContain('unreachable-state bell/high')
  expect(inShort(checked(bell(''))).join()).toContain('unreachable-state bell/high')
})

describe('unasked-item', () => {
  const press = (effects: string, count = 1): string =>
    twoRooms(`items: { paper: { stacks: 5 }, ink: {} }
types:
  press:
    states: { bare: { look: bare }, printed: { lasting: true, look: printed } }
    transitions:
      - { name: print, from: bare, to: printed, trigger: press, guard: { all: [{ carries: ink }, { carries: paper, count: ${String(count)} }] }, effects: ${effects} }
    handle: [0, 0, 1]
    feedback: { refused: [{ message: No. }] }
interactables:
  press: { type: press, at: [2, 3.6] }
  shelf: { type: pickup, at: [4, 0.4, 1], set: { gives: paper, count: 3 } }
  pot: { type: pickup, at: [1, 0.4, 1], set: { gives: ink } }
goals: { printed: { interactable: press, is: printed } }
`)
  const answer = (level: string): string => answerTo(checked(level), 'unasked-item', 'press/print')

  test('more is used up than is asked for, in one effect or in two', () => {
    const report = checked(press('[{ consume: paper }, { consume: paper }]'))
    expect(report.findings.find(({ rule }) => rule === 'unasked-item')!.message).toContain(
      'asks for 1 × paper, and uses up 2',
    )
    expect(answer(press('[{ consume: ink }, { consume: paper, count: 2 }]'))).toBe('found')
    expect(answer(press('[{ consume: paper, count: 2 }]', 2))).toBe('ruled-out')
    expect(answer(press('[{ consume: ink }, { consume: paper }]', 2))).toBe('ruled-out')
  })
})

describe('untold-change', () => {
  const hall = (told: string): string =>
    twoRooms(`places: { foot: { at: [1, 1] } }
interactables:
  gap-door: { type: door, in: gap }
  hole: { type: pit, at: [3, 3], set: { back-to: foot }${told} }
  post: { type: checkpoint, at: [1, 3], set: { place: foot }${told} }
goals: { open: { interactable: gap-door, is: open } }
`)

  test('of a fall, and of a checkpoint, something must be told, whatever else there is in the level', () => {
    const report = checked(hall(''))
    expect(answerTo(report, 'untold-change', 'hole')).toBe('found')
    expect(report.findings.find(({ rule }) => rule === 'untold-change')!.message).toContain('falls at hole')
    expect(answerTo(report, 'untold-change', 'post')).toBe('found')
    expect(answerTo(checked(hall(', feedback: { accepted: [{ sound: thud }] }')), 'untold-change', 'hole')).toBe(
      'ruled-out',
    )
  })
})
