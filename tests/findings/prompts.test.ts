import { describe, expect, test } from '@jest/globals'
import { answerTo, checked, inShort, replayed, twoRooms } from '../levels.ts'

describe('stuck-prompt', () => {
  const shelf = (set: string, prompt = 'Take it', more = ''): string =>
    twoRooms(`items: { loaf: { stacks: 9 } }
interactables:
  shelf:
    type: pickup
    at: [2, 3.6, 1]
    set: { gives: loaf${set} }
    feedback: { focused: [{ prompt: ${prompt} }], refused: [{ message: No. }] }
goals: { bread: { carries: loaf } }
`).replace('reach: 0.9 }', `reach: 0.9 }${more}`)

  test('the prompt of what each can take once stays; Play shows it, and refuses', () => {
    const text = shelf(', for: each')
    const report = checked(text)
    expect(inShort(report)).toEqual(['stuck-prompt shelf'])
    const [finding] = report.findings
    expect(finding!.steps.map(({ text: said }) => said)).toEqual([
      'Walk to shelf.',
      'Take the loaf from shelf.',
      'Press: shelf refuses.',
    ])
    const play = replayed(text, finding!)
    expect(play.view(0).prompts.map(({ text: said }) => said)).toEqual(['Take it'])
    expect(play.wouldAccept(0, 0, 0)).toBe(false)
  })

  test('a prompt that goes with it, what comes back, and what is gone once it was taken are in order', () => {
    expect(inShort(checked(shelf(', for: each', 'Take it, shown: if-accepted')))).toEqual([])
    expect(answerTo(checked(shelf(', comes-back: 2')), 'stuck-prompt', 'shelf')).toBe('ruled-out')
    expect(answerTo(checked(shelf('')), 'stuck-prompt', 'shelf')).toBe('ruled-out')
  })

  test('it is asked for each character: one that may still take it does not help another', () => {
    const two = shelf(
      ', for: each',
      'Take it',
      '\n  pat: { role: player, start: [4, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }',
    )
    expect(answerTo(checked(two), 'stuck-prompt', 'shelf')).toBe('found')
  })

  test('a lock whose key is gone says so by its refusal, and is not told', () => {
    const report = checked(
      twoRooms(`items: { coin: {} }
interactables:
  hook: { type: pickup, at: [1, 0.4, 1], set: { gives: coin } }
  one: { type: keyhole, at: [2, 4, 1], set: { item: coin, item-use: consume }, feedback: &say { focused: [{ prompt: Pay }], refused: [{ message: No. }] } }
  two: { type: keyhole, at: [4, 4, 1], set: { item: coin, item-use: consume }, feedback: *say }
goals: { paid: { any: [{ interactable: one, is: turned }, { interactable: two, is: turned }] } }
`),
    )
    expect(answerTo(report, 'stuck-prompt', 'two')).toBe('ruled-out')
  })
})

describe('missing-prompt', () => {
  const levers = (announced: number, of: number): string =>
    twoRooms(`interactables:
${Array.from({ length: of }, (_, i) => `  lever-${String(i)}: { type: lever, at: [${String(0.5 + i)}, 3.6, 1]${i < announced ? ', feedback: { focused: [{ prompt: Pull }] }' : ''} }`).join('\n')}
goals: { pulled: { any: [${Array.from({ length: of }, (_, i) => `{ interactable: lever-${String(i)}, is: "on" }`).join(', ')}] } }
`)

  test('it takes all others to miss one, or most of them and two at least', () => {
    expect(inShort(checked(levers(1, 2)))).toEqual(['missing-prompt lever-1'])
    expect(inShort(checked(levers(1, 3)))).toEqual([])
    expect(inShort(checked(levers(2, 3)))).toEqual(['missing-prompt lever-2'])
    expect(inShort(checked(levers(2, 5)))).toEqual([])
    expect(inShort(checked(levers(0, 3)))).toEqual([])
  })

  test('what nobody can come near misses nothing', () => {
    const report = checked(
      levers(2, 3).replace('lever-2: { type: lever, at: [2.5,', 'lever-2: { type: lever, at: [40,'),
    )
    expect(inShort(report).map((one) => one.split(' ')[0])).toEqual(['out-of-reach'])
  })
})

describe('what one sees', () => {
  const latch = (looks: readonly [string, string], row = '', more = ''): string =>
    twoRooms(`types:
  latch:
    states:
      shut: { ${looks[0]} }
      loose: { lasting: true${looks[1] === '' ? '' : `, ${looks[1]}`} }
    transitions:
      - { name: loosen, from: shut, to: loose, trigger: press${row} }
    handle: [0, 0, 1]
${more}interactables: { latch: { type: latch, at: [2, 3.6]${more === '' ? '' : ', body: { size: [0.4, 0.2] }'} } }
goals: { loose: { interactable: latch, is: loose } }
`)

  test('a change is silent where neither look, nor pose, nor motion, nor feedback tells of it', () => {
    expect(inShort(checked(latch(['', ''])))).toEqual(['silent-change latch/loosen'])
    expect(inShort(checked(latch(['look: shut', 'look: hanging'])))).toEqual([])
    expect(inShort(checked(latch(['pose: 0', 'pose: 1'], '', '    about: It turns.\n')))).toEqual([])
    expect(inShort(checked(latch(['', ''], ', feedback: [{ sound: click }]')))).toEqual([])
  })

  test('two states in the same words are the same look, unless they answer alike', () => {
    const told = ', feedback: [{ sound: click }]'
    expect(inShort(checked(latch(['look: shut', 'look: shut'], told)))).toEqual(['same-look latch/shut/loose'])
    // Where nothing tells of the change either, the look is what is fixed first.
    expect(inShort(checked(latch(['look: shut', 'look: shut'])))).toEqual(['same-look latch/shut/loose'])
  })
})
