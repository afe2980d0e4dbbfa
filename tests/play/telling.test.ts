import { describe, expect, test } from '@jest/globals'
import { Play } from '../../src/play/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import { staged, twoRooms } from '../levels.ts'

/** A play of a level with a gong in reach of the start, and what is perceived of it. */
function gong(feedback: string, more = '', rows = '{ name: strike, from: still, trigger: press }'): Play {
  return new Play(
    staged(
      twoRooms(`items: { coin: { title: gold coin, stacks: 3 }, key: {} }
flags: { oiled: {}, cold: {} }
types:
  gong:
    states: { still: { lasting: true } }
    transitions:
      - ${rows}
    handle: [0, 0, 1]
interactables:
  gong: { type: gong, at: [1.5, 2.6], feedback: ${feedback} }
${more}`),
    ),
  )
}

/** What was perceived since the beginning: channel and text. */
function perceived(play: Play): string[] {
  return play.log.flatMap((entry) => (entry.what === 'feedback' ? [`${entry.channel} ${entry.text}`] : []))
}

describe('what comes again', () => {
  test('once: only the first time', () => {
    const play = gong('{ accepted: [{ message: first, once: true }, { sound: boom }] }')
    for (let i = 0; i < 3; i++) play.press(0)
    expect(perceived(play)).toEqual(['message first', 'sound boom', 'sound boom', 'sound boom'])
  })

  test('with a pause: not again before it is over, to the millisecond', () => {
    const play = gong('{ accepted: [{ sound: boom, pause: 2 }] }')
    play.press(0)
    play.advance(1999)
    play.press(0)
    expect(perceived(play)).toEqual(['sound boom'])
    play.advance(1)
    play.press(0)
    expect(perceived(play)).toEqual(['sound boom', 'sound boom'])
  })

  test('each entry and each interactable keeps count for itself', () => {
    const play = gong(
      '{ accepted: [{ sound: boom, once: true }, { sound: hum, once: true }] }',
      '  other: { type: gong, at: [1.5, 1.4], feedback: { accepted: [{ sound: boom, once: true }] } }\n',
    )
    play.press(0)
    play.face(0, 'other')
    play.walk(0, [[1.5, 1.9]])
    play.advance(500)
    play.press(0)
    expect(perceived(play).sort()).toEqual(['sound boom', 'sound boom', 'sound hum'])
  })
})

describe('why a press was refused', () => {
  const rows =
    '{ name: strike, from: still, trigger: press, guard: { all: [{ carries: coin, count: 2 }, { flag: oiled }] } }'
  const reasons = `{ missing: [{ message: "{count} {item}s are wanted" }],
    refused: [{ message: stiff, because: flag }, { message: cold, because: counter }, { sound: thud }] }`

  test('an item that is missing is told of instead, by its title and count', () => {
    const play = gong(reasons, '', rows)
    play.press(0)
    expect(perceived(play)).toEqual(['message 2 gold coins are wanted'])
  })

  test('of several reasons only those that were so are told, and what has no reason always', () => {
    const play = gong(reasons, '', rows)
    play.testOnly(0, { kind: 'give', item: 0, count: 2 })
    play.press(0)
    expect(perceived(play)).toEqual(['message stiff', 'sound thud'])
  })

  test('a transition that says something of its own says only that', () => {
    const own = `${rows.slice(0, -1)}, refused: [{ message: mine }] }`
    const play = gong(reasons, '', own)
    play.press(0)
    expect(perceived(play)).toEqual(['message mine'])
  })

  test('no room for it is told of as such, in a press and in walking over it', () => {
    const full = 'feedback: { too-full: [{ message: "no room for {count} {item}" }], refused: [{ sound: thud }] }'
    const play = new Play(
      staged(
        twoRooms(`items: { coin: { stacks: 3 } }
interactables:
  pile: { type: pickup, at: [1.5, 2.5], set: { gives: coin, count: 2, comes-back: 0.1 }, ${full} }
  trail: { type: pickup, at: [3.5, 2], set: { gives: coin, count: 2, taken-by: [enter] }, ${full} }
`),
      ),
    )
    play.press(0)
    play.advance(200)
    play.press(0)
    play.walk(0, [[3.5, 2]])
    play.advance(2000)
    expect(perceived(play)).toEqual(['message no room for 2 coin', 'message no room for 2 coin'])
    expect(play.carried(0, 0)).toBe(2)
  })
})

describe('what stays for a while', () => {
  test('messages, lights and bursts end when their time is over', () => {
    const play = gong('{ accepted: [{ light: amber, for: 1 }, { burst: dust, for: 0.2 }, { message: boom }] }')
    play.press(0)
    const showing = (): string[] => play.view(0).showing.map(({ channel }) => channel)
    expect(showing()).toEqual(['light', 'burst', 'message'])
    play.advance(200)
    expect(showing()).toEqual(['light', 'message'])
    play.advance(800)
    expect(showing()).toEqual(['message'])
    play.advance(3000)
    expect(showing()).toEqual([])
  })

  test('an icon stays until it is hidden, or as long as something is carried', () => {
    const play = gong(
      '{ accepted: [{ icon: bell }], gained: [{ icon: purse, counts: coin }] }',
      '  other: { type: lever, at: [1.5, 1.4, 1], feedback: { accepted: [{ hide: bell }] } }\n',
      '{ name: strike, from: still, trigger: press, effects: [{ give: coin, count: 2 }] }',
    )
    play.press(0)
    expect(play.view(0).icons).toEqual([
      { icon: 'purse', count: 2 },
      { icon: 'bell', count: null },
    ])
    play.advance(60_000)
    expect(play.view(0).icons).toHaveLength(2)
    play.testOnly(0, { kind: 'remove', item: 0, count: 2 })
    expect(play.view(0).icons).toEqual([{ icon: 'bell', count: null }])
    play.walk(0, [[1.5, 1.9]])
    play.advance(500)
    play.press(0)
    expect(play.view(0).icons).toEqual([])
  })

  test('what is focused is there only while a press would go to it, and in vain only where that is wanted', () => {
    const play = gong(
      '{ focused: [{ prompt: Strike, key: E }, { prompt: Now, shown: if-accepted }, { highlight: rim }] }',
      '',
      '{ name: strike, from: still, trigger: press, guard: { flag: oiled } }',
    )
    expect(play.view(0).prompts).toEqual([{ text: 'Strike', key: 'E' }])
    expect(play.view(0).showing).toEqual([{ channel: 'highlight', text: 'rim', interactable: 'gong' }])
    play.testOnly(0, { kind: 'set', flag: 0, to: true })
    expect(play.view(0).prompts.map(({ text }) => text)).toEqual(['Strike', 'Now'])
    play.walk(0, [[4, 2]])
    play.advance(2000)
    expect([play.view(0).prompts, play.view(0).showing]).toEqual([[], []])
  })
})

describe('a popup', () => {
  test('keeps one from everything but waiting, and is logged to have done so', () => {
    const play = gong('{ accepted: [{ popup: Boom }] }')
    play.press(0)
    play.press(0)
    play.walk(0, [[3, 3]])
    play.steer(0, [1, 0])
    play.face(0, [0, 0])
    expect(play.walkTo(0, 'gong')).toBe(false)
    expect(play.log.filter(({ what }) => what === 'held-back')).toHaveLength(5)
    expect(play.spotOf(0)).toEqual([1.5, 2])
    play.advance(10_000)
    expect(play.view(0).popup).toBe('Boom')
    play.dismiss(0)
    play.walk(0, [[3, 3]])
    expect(play.isWalking(0)).toBe(true)
  })

  test('does not stop a walk that has begun', () => {
    const play = new Play(
      staged(
        twoRooms(`interactables:
  mat: { type: pressure-plate, at: [3, 2], feedback: { accepted: [{ popup: You stand on a mat }] } }
`),
      ),
    )
    play.walk(0, [[4.5, 2]])
    play.advance(3000)
    expect(play.spotOf(0)).toEqual([4.5, 2])
    expect(play.view(0).popup).toBe('You stand on a mat')
  })
})

describe('guards that keep back what no press sets off', () => {
  const refused = (trigger: string, said: string): Play =>
    gong(
      '{ refused: [{ message: in general }] }',
      '',
      `{ name: strike, from: still, trigger: ${trigger}, guard: { carries: key }${said} }`,
    )
  const own = ', refused: [{ message: "Not without the {item}." }]'

  test('are told where the transition says so: walking, letting go, a signal', () => {
    const walking = new Play(
      staged(
        twoRooms(`items: { key: {} }
types:
  mat:
    states: { flat: { lasting: true } }
    zones: { near: { radius: 1 } }
    transitions:
      - { from: flat, trigger: { enter: near }, guard: { carries: key }${own} }
interactables: { mat: { type: mat, at: [3.5, 2] } }
`),
      ),
    )
    walking.walk(0, [[3, 2]])
    walking.advance(2000)
    expect(perceived(walking)).toEqual(['message Not without the key.'])
    const letting = refused('release', own)
    letting.hold(0)
    letting.release(0)
    expect(perceived(letting)).toEqual(['message Not without the key.'])
  })

  test('are not told by what is said of presses, but of holding', () => {
    const letting = refused('release', '')
    letting.hold(0)
    letting.release(0)
    expect(perceived(letting)).toEqual([])
    const holding = refused('{ hold: 1 }', '')
    holding.hold(0)
    holding.advance(1500)
    expect(perceived(holding)).toEqual(['message in general'])
  })
})

test('a dial within reach shows its prompt, its highlight and its icon, as what is pressed does', () => {
  const play = new Play(
    staged(
      twoRooms(`interactables:
  dials:
    type: dial-lock
    at: [1.5, 2.6, 1]
    set: { combination: [2], wheels: 1, stays: true }
    feedback: { focused: [{ prompt: Set the dial }, { highlight: rim }, { icon: hand }] }
`),
    ),
  )
  const { prompts, showing, icons } = play.view(0)
  expect(prompts.map(({ text }) => text)).toEqual(['Set the dial'])
  expect([showing, icons]).toMatchObject([[{ text: 'rim', interactable: 'dials' }], [{ icon: 'hand' }]])
  play.walk(0, [[4.5, 0.5]])
  play.advance(3000)
  expect(play.view(0).prompts).toEqual([])
})

test('what cannot be perceived as it is written is told where it stands', () => {
  const told = (feedback: string): string[] =>
    readLevel(twoRooms(`interactables:\n  a: { type: lever, at: [1, 1], feedback: ${feedback} }\n`)).diagnostics.map(
      ({ place, expected }) => `${place.path.split('feedback.')[1] ?? ''}: ${expected ?? ''}`,
    )
  expect(told('{ focused: [{ sound: hum }] }')).toEqual(['focused.0.sound: one of prompt, highlight, light, icon'])
  expect(told('{ refused: [{ prompt: Open }] }')).toEqual(['refused.0.prompt: focused, for a prompt'])
  expect(told('{ accepted: [{ sound: hum, message: hum }] }')[0]).toContain('exactly one of sound, message')
  expect(told('{ accepted: [{ message: hum, pitch: 2 }] }')).toEqual(['accepted.0.pitch: sound beside it'])
  expect(told('{ accepted: [{ message: hum, once: true, pause: 1 }] }')).toEqual(['accepted.0.pause: not beside once'])
  const row = twoRooms(
    'types:\n  t: { states: { a: {} }, transitions: [{ from: a, trigger: press, refused: [{ prompt: Open }] }] }\n',
  )
  expect(readLevel(row).diagnostics.map(({ expected }) => expected)).toEqual(['focused, for a prompt'])
  expect(told('{ accepted: [{ rumble: 2 }] }')).toEqual(['accepted.0.rumble: at most 1'])
})
