import { describe, expect, test } from '@jest/globals'
import { answerTo, checked, inShort, textOf, twoRooms } from '../levels.ts'

/** A vault that asks for a key and a flag, with feedback of its own. */
function vault(feedback: string): string {
  return twoRooms(`items: { key: { title: brass key }, oil: { title: lamp oil } }
flags: { noon: {} }
interactables:
  vault: { type: chest, at: [2, 3.5], turn: 180, set: { lock: { item: key, needs: { flag: noon } }, gives: [{ item: oil }] }, feedback: ${feedback} }
  hook: { type: pickup, at: [4, 0.4, 1], set: { gives: key } }
  noon: { type: lever, at: [1, 0.4, 1], set: { sets: noon } }
goals: { oil: { carries: oil } }
`)
}

describe('refusals are judged reason by reason', () => {
  test('words for one reason do not count for another', () => {
    const missing = checked(vault('{ missing: [{ message: "No {item}." }] }'))
    expect(inShort(missing)).toEqual(['silent-refusal vault'])
    const [finding] = missing.findings
    // With the key in hand, only the flag keeps it shut: of that nothing is said.
    expect(finding!.steps.map(({ text }) => text)).toContain('Take the brass key from hook.')
    expect(inShort(checked(vault('{ missing: [{ message: "No {item}." }], refused: [{ message: Wait. }] }')))).toEqual(
      [],
    )
  })

  test('a message still to be written says nothing', () => {
    const report = checked(vault('{ refused: [{ message: "(say here: {item} is missing)" }] }'))
    expect(inShort(report)).toEqual(['silent-refusal vault'])
    const { message, place, fix } = report.findings[0]!
    expect(message).toContain('the message that says so is still to be written')
    expect(place!.path).toBe('interactables.vault.feedback.refused.0.message')
    expect(fix).toMatchObject({ says: 'Write the message.', edit: null })
  })

  test('the fix of a silent refusal is a line to be filled in', () => {
    const { fix } = checked(vault('{ opened: [] }').replace(', feedback: { opened: [] }', '')).findings[0]!
    expect(fix.automatic).toBe(true)
    expect(fix.lines?.becomes.join()).toContain('feedback: { refused: [{ message: "(say here: ')
  })

  test('only words that name another item, and not the one that is missing, are wrong', () => {
    const wrong = (message: string): string =>
      answerTo(checked(vault(`{ refused: [{ message: "${message}" }] }`)), 'wrong-item-named', 'vault')
    expect(wrong('You need lamp oil.')).toBe('found')
    expect(wrong('The brass key would fit; lamp oil might help.')).toBe('ruled-out')
    expect(wrong('Some oily thing.')).toBe('ruled-out')
  })
})

test('the table has every moment that happens, and no other, with what is told on which channel', () => {
  const { feedback } = checked(vault('{ refused: [{ sound: thud }, { message: No. }], started: [{ sound: creak }] }'))
  const own = feedback.filter(({ interactable }) => interactable === 'vault')
  expect(
    own.map(({ moment, which, channels }) => [moment, which, channels.map(({ channel }) => channel).join()]),
  ).toEqual([
    ['focused', null, ''],
    ['accepted', null, ''],
    ['refused', 'carries', 'sound,message'],
    ['refused', 'carries, flag', 'sound,message'],
    ['refused', 'flag', 'sound,message'],
    ['started', null, 'sound'],
    ['finished', null, ''],
    ['gained', null, ''],
  ])
  expect(own.every(({ happens }) => happens === 'yes')).toBe(true)
  expect(feedback.filter(({ interactable }) => interactable === 'noon').map(({ moment }) => moment)).toEqual([
    'focused',
    'accepted',
  ])
})

test('every moment of every gallery level is settled', () => {
  for (const level of ['choosing', 'holding', 'items', 'perceiving', 'telling']) {
    const { feedback } = checked(textOf(`examples/levels/gallery/${level}.level.yaml`))
    expect(feedback.filter(({ happens }) => happens === 'undecided')).toEqual([])
    expect(feedback.length).toBeGreaterThan(4)
  }
})

describe('inconsistent-instance', () => {
  const instances = (settings: readonly string[], type = ''): string =>
    twoRooms(`types:
  post:
    settings: { burns: { kind: seconds, default: 4 } }
    states: { dark: { lasting: true, look: dark }, lit: { look: lit } }
    transitions:
      - { name: light, from: dark, to: lit, trigger: press }
      - { name: fade, from: lit, to: dark, trigger: { after: { setting: burns } } }
    handle: [0, 0, 1]
    ${type}
interactables:
${settings.map((set, i) => `  post-${String(i)}: { type: post, at: [${String(0.5 + 0.7 * i)}, 3.6]${set} }`).join('\n')}
goals: { light: { interactable: post-0, is: lit } }
`)
  const six = ', set: { burns: 6 }'

  test('it shows who says what, and blames the type where all instances overrule it', () => {
    const [found] = checked(instances([six, six, six, six])).findings
    expect(found?.message).toMatch(/it may be the type that is wrong\.$/)
    expect(found?.place?.path).toBe('types.post')
    expect(found?.table).toEqual([{ value: '6', instances: ['post-0', 'post-1', 'post-2', 'post-3'] }])
  })

  test('it tells the instance that lacks what the others say, with how many are on each side', () => {
    const told = ', feedback: { accepted: [{ sound: hiss }] }'
    const [found, ...more] = checked(instances([told, told, told, ''])).findings
    expect(more).toEqual([])
    expect(found?.subject).toBe('post/feedback.accepted')
    expect(found?.table.map(({ value, instances: those }) => [value, those.length])).toEqual([
      ['sound', 3],
      [null, 1],
    ])
    expect(found?.about).toBeNull()
  })

  test('two sides of two, or what no instance says itself, are nobody’s mistake', () => {
    expect(inShort(checked(instances([six, six, '', ''])))).toEqual([])
    expect(inShort(checked(instances(['', '', '', six])))).toEqual([])
  })
})
