import { describe, expect, test } from '@jest/globals'
import { checkProject, type FileReport } from '../../src/findings/index.ts'
import { type Expanded, expandLevel, readLevel } from '../../src/interactables/index.ts'
import { finish } from '../../src/model/index.ts'
import { readProject } from '../../src/play/index.ts'
import { inShort } from '../levels.ts'

/** A level of one room, with an exit to another level and a place where one comes in. */
const level = (title: string, to: string, more: string, person = ''): string => `zintel: 1
title: ${title}
rooms:
  room: { outline: [[0, 0], [6, 0], [6, 5], [0, 5]] }
places:
  door: { at: [5, 2.5] }
characters:
  sam: { role: player, start: [1, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9${person} }
interactables:
  way: { type: exit, at: [5.8, 2.5], set: { exit-to: { level: ${to}, place: door } }, feedback: { accepted: [{ sound: steps }] } }
${more}`

const hook = '  hook: { type: pickup, at: [1, 4], set: { gives: bung }, feedback: { accepted: [{ sound: clink }] } }\n'
const barrel = `  barrel:
    type: chest
    at: [1, 4]
    set: { lock: { item: bung } }
    feedback: { accepted: [{ sound: glug }], missing: [{ message: It runs out. }] }
`
const bung = 'items: { bung: {} }\n'
const full = 'goals: { full: { interactable: barrel, is: open } }\n'

const vault = level('The vault', 'shed', `${barrel}${bung}${full}`)
const shed = level('The shed', 'vault', `${hook}${bung}goals: { home: { carries: bung } }\n`)

/** Levels that were read before are the same values, as they are where somebody edits one of several. */
const before = new Map<string, Expanded>()

/** The text of a level that could not be read. */
const unread = ''

/** The reports of a project, by the names of its levels that could be read. */
function checkedAs(
  levels: Readonly<Record<string, string>>,
  more = '',
  start?: string,
  remembered: Readonly<Record<string, string>> = {},
): Record<string, FileReport> {
  const names = Object.keys(levels)
  const files = names.map((name) => `  ${name}: { file: ${name}.level.yaml${remembered[name] ?? ''} }\n`).join('')
  const project = readProject(
    `project: 1\ntitle: The brewery\nstart: ${start ?? names[0]!}\n${more}levels:\n${files}`,
  ).value!
  const read = Object.entries(levels).filter(([, text]) => text !== unread)
  const expanded = read.map(([name, text]) => {
    const reading = readLevel(text, `${name}.level.yaml`)
    expect(reading.diagnostics).toEqual([])
    const one = before.get(name + text) ?? expandLevel(reading.value!, reading.source)
    before.set(name + text, one)
    return [name, one] as const
  })
  const reports = finish(checkProject(project, Object.fromEntries(expanded)))
  return Object.fromEntries(read.map(([name], i) => [name, reports[i]!]))
}

/** The same, with another start. */
const startingAt = (place: string, levels: Readonly<Record<string, string>>): Record<string, FileReport> =>
  checkedAs(levels, '', `{ late: ${place} }`)

const answerTo = (report: FileReport, rule: string, subject: string): string =>
  report.questions.find((one) => one.rule === rule && one.subject === subject)?.answer ?? 'not asked'

describe('the levels of a project are explored as one', () => {
  test('also where a play starts at a place, from which the way may be shut', () => {
    const reports = startingAt('{ level: vault, place: door }', { shed, vault })
    expect([inShort(reports.shed!), inShort(reports.vault!)]).toEqual([[], []])
    expect(reports.vault!.together).toEqual(['shed'])
    // Behind a wall in the room of the vault there is no way to the barrel from the start of the level, but from where the play starts there is.
    const walled = vault.replace(
      'places:',
      'obstacles: { wall: { outline: [[3, 0], [3.2, 0], [3.2, 5], [3, 5]] } }\nplaces:',
    )
    expect(inShort(checkedAs({ vault: walled, shed }).vault!)).not.toEqual([])
    const near = walled.replace('at: [1, 4]', 'at: [5, 4]')
    expect(inShort(startingAt('{ level: vault, place: door }', { shed, vault: near }).vault!)).toEqual([])
  })

  test('what one level asks for and another gives is no fault', () => {
    const reports = checkedAs({ shed, vault })
    expect(inShort(reports.shed!)).toEqual([])
    expect(inShort(reports.vault!)).toEqual([])
    expect(answerTo(reports.vault!, 'unreachable-goal', 'full')).toBe('ruled-out')
    expect(answerTo(reports.vault!, 'soft-lock', 'full')).toBe('ruled-out')
    expect(reports.vault!.together).toEqual(['shed'])
  })

  test('what no level gives is told in the level that asks for it, with what follows from it', () => {
    const { shed: first, vault: second } = checkedAs({ shed: shed.replace('gives: bung', 'gives: bunk'), vault })
    expect(first!.findings.map(({ rule, subject }) => `${rule} ${subject}`)).toEqual(['unknown-name hook'])
    expect(first!.findings[0]!.place!.file).toBe('shed.level.yaml')
    // The goal of the other level follows from the misspelt name in this one.
    expect(first!.findings[0]!.follows.map(({ rule, subject }) => `${rule} ${subject}`)).toContain(
      'unreachable-goal full',
    )
    expect(inShort(second!)).toEqual([])
  })

  test('a goal of one level that is lost in another: the steps lead through both', () => {
    // Whoever goes down without the bung never comes back.
    const down = vault.replace('level: shed', 'level: vault')
    const { shed: first, vault: second } = checkedAs({ shed, vault: down })
    expect([first!, second!].map(inShort)).toEqual([['soft-lock home (soft-lock full)'], []])
    const [finding] = first!.findings
    expect(finding!.place!.file).toBe('shed.level.yaml')
    expect(finding!.steps.map(({ text }) => text)).toEqual([
      'Walk to way.',
      'Press: way answers. This leads to The vault.',
    ])
    expect(finding!.lastSafe!.steps.map(({ text }) => text)).toEqual(['Walk to hook.', 'Take the bung from hook.'])
    const { lastSafe } = finding!.follows[0]!
    expect(lastSafe!.steps.map(({ text }) => text)).toEqual([
      'Walk to hook.',
      'Take the bung from hook.',
      'Walk to way.',
      'Press: way answers. This leads to The vault.',
      'Walk to barrel (The vault).',
      'Press: barrel (The vault) answers.',
      'Wait 0.6 s.',
    ])
  })

  test('time stands still in a level that was left: what was on its way there does not come', () => {
    const gate = `  crank: { type: button, at: [5.2, 2.5], set: { sends: rise } }
  gate: { type: gate, at: [1, 4] }
types:
  gate:
    states: { down: { look: down }, rising: { look: rising }, up: { look: up, lasting: true } }
    transitions:
      - { from: down, to: rising, trigger: { signal: rise } }
      - { name: risen, from: rising, to: up, trigger: { after: 10 } }
goals: { risen: { interactable: gate, is: up } }
`
    const [yard, field] = [level('The yard', 'field', gate), level('The field', 'field', '')]
    const { yard: there } = checkedAs({ yard, field })
    const [finding] = there!.findings.filter(({ rule }) => rule === 'soft-lock')
    expect(finding!.subject).toBe('risen')
    // With a way back it is only late.
    const back = checkedAs({ yard, field: level('The field', 'yard', '') })
    expect(answerTo(back.yard!, 'soft-lock', 'risen')).toBe('ruled-out')
  })

  test('an exit drops what is asked for beyond it', () => {
    const drops = shed.replace('place: door }', 'place: door, drops: [bung] }')
    const { shed: first } = checkedAs({ shed: drops, vault })
    expect(first!.findings.map(({ rule }) => rule)).toContain('lost-item')
    const all = first!.findings.flatMap((one) => [one.rule, ...one.follows.map(({ rule }) => rule)])
    expect(all.join()).toContain('lost-item')
  })

  test('whoever is sent back at once: what nobody comes to follows from that', () => {
    const pump = '  pump: { type: lever, at: [1, 4, 1] }\n'
    const back = level('The marsh', 'dune', `${pump}goals: { dry: { interactable: pump, is: on } }\n`)
      .replace('at: [5.8, 2.5]', 'at: [5.2, 2.5]')
      .replace('place: door } }', 'place: door }, taken-by: [enter] }')
    const { marsh } = checkedAs({ dune: level('The dune', 'marsh', ''), marsh: back })
    const [finding] = marsh!.findings
    expect(`${finding!.rule} ${finding!.subject}`).toBe('bounce door/way')
    expect(finding!.follows.map(({ rule, subject }) => `${rule} ${subject}`)).toContain('unreachable-goal dry')
    expect(marsh!.findings.map(({ rule }) => rule)).not.toContain('unreachable-goal')
  })

  test('a finding is told where it is to be mended, and may be accepted there', () => {
    const cup = '  cup: { type: chest, at: [1, 4], set: { lock: { item: bung, item-use: consume } } }\n'
    const goal = bung + 'goals: { home: { carries: bung } }\n'
    const [loft, cave] = [level('The loft', 'cave', hook + goal), level('The cave', 'loft', cup + bung)]
    const wanted = loft.replace(
      'goals: { home: { carries: bung } }',
      'goals: { both: { all: [{ carries: bung }, { inside: room }, { interactable: lamp, is: on }] } }',
    )
    const lamp = wanted.replace(
      'items:',
      '  lamp: { type: lever, at: [3, 4.6, 1], set: { needs: { carries: bung } } }\nitems:',
    )
    const reports = checkedAs({ loft: lamp, cave })
    expect(reports.loft!.findings.filter(({ rule }) => rule === 'wasted-item')).toEqual([])
    const [finding] = reports.cave!.findings.filter(({ rule }) => rule === 'wasted-item')
    expect(finding!.message).toContain('the goal both (The loft) can never be met')
    const accepted = `${cave}accepted-findings: [{ rule: wasted-item, of: both, because: It is meant so. }]\n`
    const after = checkedAs({ loft: lamp, cave: accepted })
    expect(after.cave!.findings.map(({ rule }) => rule)).not.toContain('wasted-item')
    expect(after.cave!.findings.map(({ rule }) => rule)).not.toContain('stale-acceptance')
  })

  test('what shuts players in and loses a goal is told as that, and else as what it is', () => {
    const gate = `  gate: { type: gate, in: gap }
  raise: { type: button, at: [5, 0.3, 1], set: { sends: raise } }
  inner: { type: button, at: [8.7, 2.5, 1], set: { sends: raise, needs: { carries: bung } } }
types:
  gate:
    states: { down: { blocks: [walk] }, up: {} }
    transitions:
      - { name: rise, from: down, to: up, trigger: { signal: raise } }
      - { name: fall, from: up, to: down, trigger: { after: 5 } }
`
    const cell = level('The cell', 'shed', gate + bung).replace(
      'places:',
      `  cell: { outline: [[6.3, 0], [9, 0], [9, 5], [6.3, 5]] }
doorways:
  gap: { joins: [room, cell], at: [6.15, 1], width: 1.2, depth: 0.3 }
places:`,
    )
    const without = shed.replace(hook, '').replace('goals: { home: { carries: bung } }\n', '')
    const asked = (one: FileReport): string[] =>
      one.questions.flatMap(({ rule, subject }) => (rule === 'trapped' ? [subject] : []))
    expect(asked(checkedAs({ cell, shed }).cell!)).toEqual([])
    expect(asked(checkedAs({ cell, shed: without }).cell!)).toEqual(['cell/sam'])
  })

  describe('ways out', () => {
    const home = level('The shed', 'yard', 'goals: { near: { inside: room } }\n')
    /** One comes in in the east, beyond a wall from where the level has its own start; the rope in the west shuts the gate for good. */
    const yard = level(
      'The yard',
      'shed',
      `  gate: { type: gate, in: gap }
  rope: { type: lever, at: [9.4, 4.7, 1], set: { sends: cut, stays: true }, feedback: { accepted: [{ sound: snap }] } }
types:
  gate:
    states: { up: { look: up, lasting: true }, down: { look: down, blocks: [walk], lasting: true } }
    transitions: [{ name: fall, from: up, to: down, trigger: { signal: cut }, feedback: [{ sound: crash }] }]
goals: { cut: { interactable: gate, is: down } }
`,
    )
      .replace(
        'places:\n  door: { at: [5, 2.5] }',
        `  east: { outline: [[12.3, 0], [16, 0], [16, 5], [12.3, 5]] }
  west: { outline: [[8, 0], [12, 0], [12, 5], [8, 5]] }
doorways: { gap: { joins: [west, east], at: [12.15, 2.5], width: 1.4, depth: 0.3 } }
places:
  door: { at: [15, 2.5] }`,
      )
      .replace('at: [5.8, 2.5]', 'at: [15.8, 2.5]')

    test('are asked about from where players come in, not from the own start of a level', () => {
      const { yard: report } = checkedAs({ shed: home, yard })
      // That the level cannot be left either is not told beside it.
      expect(inShort(report!)).toEqual(['trapped west/sam'])
      const [finding] = report!.findings.filter(({ rule }) => rule === 'trapped')
      expect(finding!.message).toContain('sam can be trapped in west for good: once rope/')
      expect(finding!.steps.map(({ text }) => text)).toEqual([
        'Walk to way (The shed).',
        'Press: way (The shed) answers. This leads to The yard.',
        'Walk to rope.',
        'Press: rope answers.',
      ])
    })

    test('whoever goes on in another level is out, whether or not one can come back', () => {
      // The rope lowers the gate and raises it again; beyond the hatch in the east there is no way back.
      const hatch =
        '  hatch: { type: exit, at: [15.7, 0.4], set: { exit-to: { level: well, place: door } }, feedback: { accepted: [{ sound: creak }] } }\n'
      const through = yard
        .replace('  gate: { type: gate,', `${hatch}  gate: { type: gate,`)
        .replace(
          'rope: { type: lever, at: [9.4, 4.7, 1], set: { sends: cut, stays: true }',
          'rope: { type: button, at: [9.4, 4.7, 1], set: { sends: cut }',
        )
        .replace(
          'transitions: [{ name: fall',
          'transitions: [{ name: rise, from: down, to: up, trigger: { signal: cut }, feedback: [{ sound: chain }] }, { name: fall',
        )
        .replace('goals: { cut: { interactable: gate, is: down } }', 'goals: { in: { inside: east } }')
      const well = level('The well', 'well', 'goals: { deep: { inside: room } }\n')
      const { yard: report } = checkedAs({ shed: home, yard: through, well })
      expect(answerTo(report!, 'trapped', 'west/sam')).toBe('ruled-out')
      expect(answerTo(report!, 'cannot-leave', 'level')).toBe('ruled-out')
    })

    test('where the own start of a level is shut in, nobody is trapped who comes in elsewhere', () => {
      const shut = yard
        .replace('rope: { type: lever, at: [9.4, 4.7, 1]', 'rope: { type: lever, at: [15, 4.7, 1]')
        .replace('start: [1, 1]', 'start: [9, 1]')
      const { yard: report } = checkedAs({ shed: home, yard: shut })
      expect(inShort(report!)).toEqual([])
    })
  })

  describe('from several starts', () => {
    const starts = (second: string): string => `{ early: shed, late: ${second} }`.replace('shed', '{ level: shed }')
    const from = (second: string, levels: Readonly<Record<string, string>>): Record<string, FileReport> =>
      checkedAs(levels, '', starts(second))
    /** Whoever goes down never comes back. */
    const down = vault.replace('level: shed', 'level: vault')

    test('what can be done, or lost, from one of them can; never is what never is from any', () => {
      expect(inShort(from('{ level: vault }', { shed, vault }).vault!)).toEqual([])
      const mine = level(
        'The mine',
        'mine',
        '  lamp: { type: lever, at: [1, 4, 1] }\ngoals: { lit: { interactable: lamp, is: on } }\n',
      )
      const fork = shed.replace('level: vault', 'level: shed')
      const { mine: alone } = from('{ level: mine, place: door }', { shed: fork, mine })
      expect(alone!.findings.map(({ message }) => message)).toEqual([
        'The goal lit cannot be met by a player who starts at early, where play usually starts, only from late. It needs: lamp on. Nobody can ever come near enough to lamp.',
      ])
      expect(alone!.findings[0]!.steps).toEqual([])
      expect(answerTo(alone!, 'unreachable-state', 'lamp/on')).toBe('ruled-out')
    })

    test('steps from another start than the usual one say so first, and are played from there', () => {
      const quiet = vault.replace(/ {4}feedback: .*It runs out.*\n/, '')
      const fork = shed.replace('level: vault', 'level: shed')
      const { vault: report } = from('{ level: vault, place: door }', { shed: fork, vault: quiet })
      const [silent] = report!.findings.filter(({ rule }) => rule === 'silent-refusal')
      expect(silent!.steps.map(({ text }) => text)).toEqual([
        'Start at late, in The vault.',
        'Walk to barrel.',
        'Press: barrel refuses.',
      ])
    })

    test('what is lost from one of them is lost, with the last moment at which it was not', () => {
      const both = from('{ level: shed, place: door }', { shed, vault: down })
      const [lost] = both.shed!.findings
      expect(lost!.rule).toBe('soft-lock')
      expect(lost!.steps.map(({ text }) => text)).toEqual([
        'Walk to way.',
        'Press: way answers. This leads to The vault.',
      ])
      const fork = shed.replace('level: vault', 'level: shed')
      const apart = from('{ level: cave, place: door }', {
        shed: fork,
        vault: down,
        cave: level('The cave', 'vault', hook + bung + 'goals: { dug: { carries: bung } }\n'),
      })
      const [later] = apart.cave!.findings.filter(({ rule }) => rule === 'soft-lock')
      expect(later!.steps.map(({ text }) => text)).toEqual([
        'Start at late, in The cave.',
        'Press: way answers. This leads to The vault.',
      ])
      expect(later!.lastSafe!.after).toBe(1)
      expect(later!.lastSafe!.steps.map(({ text }) => text)).toContain('Take the bung from hook.')
    })
  })

  test('what is not met in a level that nobody comes to follows from that', () => {
    const { vault: report } = checkedAs({ shed: shed.replace('level: vault', 'level: shed'), vault })
    expect(report!.findings.map(({ rule }) => rule)).toEqual(['unreached-level'])
    expect(report!.findings[0]!.follows.map(({ rule, subject }) => `${rule} ${subject}`)).toContain(
      'unreachable-goal full',
    )
  })

  describe('where a level could not be read', () => {
    test('what hangs on it is left open, with the reason, and nobody else is blamed', () => {
      const { vault: report } = checkedAs({ shed: unread, vault })
      expect(inShort(report!)).toEqual([])
      expect(report!.unread).toEqual(['shed'])
      const open = report!.questions.filter(({ answer }) => answer === 'undecided')
      const rules = open.map(({ rule, subject }) => `${rule} ${subject}`)
      expect(rules).toEqual(
        expect.arrayContaining(['unobtainable-item bung', 'unreachable-goal full', 'unreached-level vault']),
      )
      expect(open.every(({ why }) => why!.includes('shed could not be read'))).toBe(true)
    })

    test('what does not hang on it is told as ever; an exit that leads there is none that leads nowhere', () => {
      const { shed: report } = checkedAs({ shed: shed.replace('gives: bung', 'gives: bunk'), vault: unread })
      expect(inShort(report!)).toEqual(['unknown-name hook'])
      const misled = checkedAs({ shed: shed.replace('level: vault', 'level: vaults'), vault: unread })
      expect(inShort(misled.shed!).join()).toContain('unlisted-level way/vaults')
    })

    test('it may ask for what is given here, and lead back here', () => {
      const idle = shed.replace('goals: { home: { carries: bung } }', 'goals: { near: { inside: room } }')
      const { shed: report } = checkedAs({ shed: idle, vault: unread })
      expect(inShort(report!).join()).not.toContain('unused-item')
      expect(answerTo(report!, 'unused-item', 'bung')).toBe('undecided')
      const dropping = idle.replace('place: door }', 'place: door, drops: [bung] }')
      expect(answerTo(checkedAs({ shed: dropping, vault: unread }).shed!, 'lost-item', 'way/vault')).toBe('undecided')
      const spent = vault.replace('item: bung }', 'item: bung, item-use: consume }')
      const again = checkedAs({ vault: spent, shed: unread }, '', undefined, { vault: ', remembers: nothing' }).vault!
      expect(answerTo(again, 'locked-again', 'barrel/bung')).toBe('undecided')
    })
  })

  describe('where a level is not as it was left', () => {
    const hatch = level(
      'The vault',
      'shed',
      `  hatch: { type: door, in: gap, set: { lock: { item: bung, item-use: consume }, stays-open: true }, feedback: { missing: [{ message: It wants a bung. }] } }
  shelf: { type: pickup, at: [-4, 4.5], set: { gives: cup }, feedback: { accepted: [{ sound: clink }] } }
${bung.replace('{ bung: {} }', '{ bung: {}, cup: {} }')}goals: { full: { carries: cup } }
`,
    ).replace(
      'places:',
      `  cellar: { outline: [[-6, 0], [-0.3, 0], [-0.3, 5], [-6, 5]] }
doorways: { gap: { joins: [room, cellar], at: [-0.15, 2.5], width: 1.4, depth: 0.3 } }
places:`,
    )
    const at = (remembered: string): Record<string, FileReport> =>
      checkedAs({ shed, vault: hatch }, '', undefined, { vault: remembered })

    test('what was used up on something that is shut again is lost: the steps show how', () => {
      for (const remembered of [', remembers: nothing', ', except: [hatch]']) {
        const { shed: first, vault: report } = at(remembered)
        expect(first!.together).toEqual(['vault'])
        expect(inShort(report!)).toEqual(['soft-lock full (locked-again hatch/bung)'])
        expect(report!.findings[0]!.steps.map(({ text }) => text)).toEqual([
          'Walk to hook (The shed).',
          'Take the bung from hook (The shed).',
          'Walk to way (The shed).',
          'Press: way (The shed) answers. This leads to The vault.',
          'Walk to hatch.',
          'Press: hatch uses up the bung.',
          'Walk to way.',
          'Press: way answers. This leads to The shed.',
        ])
        expect(report!.findings[0]!.tried[0]!.says).toBe('Keep the item.')
      }
    })

    test('what is known of a transition is that of its own level, whatever stands before it in others', () => {
      // As many transitions that nothing sets off come first in the other level as there are in the vault.
      const idle = `  idler: { type: idler, at: [3, 4.5] }
types:
  idler:
    states: { idle: {}, ${Array.from({ length: 12 }, (_, i) => `s${String(i)}: { lasting: true }`).join(', ')} }
    transitions:
${Array.from({ length: 12 }, (_, i) => `      - { from: s${String(i)}, to: idle, trigger: press }`).join('\n')}
`
      const first = shed.replace(hook, idle.split('types:')[0]! + hook).concat('types:' + idle.split('types:')[1]!)
      const { vault: report } = checkedAs({ shed: first, vault: hatch }, '', undefined, { vault: ', except: [hatch]' })
      expect(answerTo(report!, 'locked-again', 'hatch/bung')).toBe('found')
    })

    const stays = level(
      'The vault',
      'shed',
      `  cock: { type: cock, at: [1, 4] }
  tap: { type: tap, at: [3, 0.5] }
${bung}goals: { full: { interactable: cock, is: open } }
types:
  cock:
    states: { shut: {}, open: {} }
    transitions:
      - { from: shut, to: open, trigger: press, feedback: [{ sound: hiss }] }
      - { from: open, to: shut, trigger: press, guard: { interactable: tap, is: "on" }, feedback: [{ sound: hiss }], refused: [{ sound: thud }] }
  tap:
    states: { "on": {}, "off": {} }
    transitions: [{ from: "on", to: "off", trigger: press, feedback: [{ sound: squeak }] }]
`,
    )

    test('what would stay as it is for good begins anew', () => {
      const told = (remembered: string): string[] =>
        inShort(checkedAs({ shed, vault: stays }, '', undefined, { vault: remembered }).vault!).filter(
          (one) => one.startsWith('no-way-out') || one.startsWith('stuck-state'),
        )
      expect(told('')).toEqual(['no-way-out tap/off', 'stuck-state cock/open'])
      expect(told(', remembers: nothing, except: [tap]')).toEqual(['no-way-out tap/off'])
      expect(told(', remembers: nothing')).toEqual([])
    })

    test('what begins anew is not called stuck because somebody may be shut in with it', () => {
      // The cord shuts the way out for good. Whoever has not pulled it can leave, and all is as at first.
      const cellar = stays
        .replace('at: [5.8, 2.5]', 'at: [-4, 2.5]')
        .replace(
          'places:',
          `  cellar: { outline: [[-6, 0], [-0.3, 0], [-0.3, 5], [-6, 5]] }
doorways: { gap: { joins: [room, cellar], at: [-0.15, 2.5], width: 1.4, depth: 0.3 } }
places:`,
        )
        .replace('  tap: {', '  cord: { type: cord, at: [1, 2.5] }\n  gate: { type: gate, in: gap }\n  tap: {')
        .concat(`  cord:
    states: { hanging: {}, pulled: { lasting: true } }
    transitions: [{ from: hanging, to: pulled, trigger: press, effects: [{ send: fall }], feedback: [{ sound: twang }] }]
  gate:
    body: { size: [0.3, 1.4] }
    states: { up: { blocks: [] }, down: { blocks: [walk], lasting: true } }
    transitions: [{ from: up, to: down, trigger: { signal: fall }, feedback: [{ sound: thud }] }]
`)
      const told = (remembered: string): string =>
        Object.values(checkedAs({ shed, vault: cellar }, '', undefined, { vault: remembered }))
          .flatMap(inShort)
          .join()
      expect(told('')).toMatch(/soft-lock home.*stuck-state cock\/open/)
      expect(told(', remembers: nothing')).toMatch(/soft-lock home/)
      expect(told(', remembers: nothing')).not.toMatch(/stuck-state/)
    })

    test('requirements about an order, or about what can still be done, are asked of all levels together', () => {
      const asks = stays.replace(
        'goals:',
        `requirements:
  again: { can-still: { interactable: cock, is: shut } }
  first: { never: { interactable: cock, is: open }, before: { interactable: tap, is: "off" } }
  later: { never: { interactable: tap, is: "off" }, before: { interactable: cock, is: [shut, open] } }
goals:`,
      )
      const told = (remembered: string): [string[], (string | undefined)[][]] => {
        const { vault: report } = checkedAs({ shed, vault: asks }, '', undefined, { vault: remembered })
        const broken = report!.findings
          .flatMap((one) => [one, ...one.follows])
          .filter(({ rule }) => rule === 'broken-requirement')
        return [
          ['again', 'first', 'later'].map((name) => answerTo(report!, 'broken-requirement', name)),
          broken.map((one) => [one.message, one.steps.map((s) => s.text).join(' | ')]),
        ]
      }
      const first =
        'The requirement first does not hold: cock/transition-1 can break it; what must not be so until then comes to be so before.'
      const again = (by: string): string =>
        `The requirement again does not hold: ${by}/transition-1 can break it; from then on nobody can bring it about any more.`
      const into = 'Walk to way (The shed). | Press: way (The shed) answers. | '
      expect(told('')).toEqual([
        ['found', 'found', 'ruled-out'],
        [
          [again('cock'), `${into}Walk to tap. | Press: tap answers. | Walk to cock. | Press: cock answers.`],
          [again('tap'), `${into}Walk to cock. | Press: cock answers. | Walk to tap. | Press: tap answers.`],
          [first, `${into}Walk to cock. | Press: cock answers.`],
        ],
      ])
      // What cannot be had any more comes back where the level begins anew.
      expect(told(', remembers: nothing')).toEqual([
        ['ruled-out', 'found', 'ruled-out'],
        [[first, `${into}Walk to cock. | Press: cock answers.`]],
      ])
    })

    describe('what can still be done', () => {
      const asked = (text: string, requirement: string): string => `${text}requirements: { it: ${requirement} }\n`
      const lever = (name: string, at: string): string =>
        `  ${name}: { type: lever, at: ${at}, feedback: { accepted: [{ sound: click }] } }\n`
      const told = (reports: Record<string, FileReport>, name: string): (string | undefined)[] => {
        const all = reports[name]!.findings.flatMap((one) => [one, ...one.follows])
        const [broken] = all.filter(({ rule }) => rule === 'broken-requirement')
        const why = reports[name]!.questions.find((one) => one.rule === 'broken-requirement')!.why
        return [
          answerTo(reports[name]!, 'broken-requirement', 'it') + String(why ?? ''),
          ...(broken?.steps.map(({ text }) => text) ?? []),
        ]
      }

      test('an order is remembered where the level begins anew', () => {
        const things = `  shelf: { type: pickup, at: [3, 4.5], set: { gives: cup }, feedback: { accepted: [{ sound: clink }] } }
  cock: { type: cock, at: [1, 4] }
items: { cup: { stacks: true } }
types:
  cock:
    states: { shut: {}, open: {} }
    transitions:
      - { from: shut, to: open, trigger: press, guard: { carries: cup }, feedback: [{ sound: hiss }], refused: [{ sound: thud }] }
      - { from: open, to: shut, trigger: press, feedback: [{ sound: hiss }] }
`
        const order = '{ never: { interactable: cock, is: open }, before: { interactable: shelf, is: taken } }'
        const last = asked(level('The vault', 'shed', things), order)
        const at = (remembered: string): (string | undefined)[] =>
          told(checkedAs({ shed, vault: last }, '', undefined, { vault: remembered }), 'vault')
        expect([at(''), at(', remembers: nothing')]).toEqual([['ruled-out'], ['ruled-out']])
      })

      test('is not asked of who has gone on for good', () => {
        const first = asked(
          level('The shed', 'vault', lever('rope', '[1, 4]')),
          '{ can-still: { interactable: rope, is: "on" } }',
        )
        const last = level('The vault', 'shed', lever('bell', '[1, 4]')).replace(/ {2}way: .*\n/, '')
        expect(told(checkedAs({ shed: first, vault: last }), 'shed')).toEqual(['ruled-out'])
      })

      test('is lost elsewhere, where one can come back to find it so', () => {
        // The bung is left behind, and the way to it shut.
        const first = level('The shed', 'vault', `${hook}${bung}`).replace(
          'place: door }',
          'place: door, drops: [bung] }',
        )
        const open = asked(vault, '{ can-still: { interactable: barrel, is: open } }')
        expect(told(checkedAs({ shed: first, vault: open }), 'vault')).toEqual([
          'found',
          'Walk to way (The shed).',
          'Press: way (The shed) answers.',
        ])
        expect(told(checkedAs({ shed, vault: open }), 'vault')).toEqual(['ruled-out'])
      })

      test('against those who are there', () => {
        const beast = 'beast: { role: creature, start: [3, 3], radius: 0.2, speed: 2, hand: 1, reach: 1 }'
        const lamp = `  lamp: { type: lamp-of-its-own, at: [1, 4, 1] }
types:
  lamp-of-its-own:
    states: { dark: {}, lit: {} }
    transitions:
      - { from: dark, to: lit, trigger: press, feedback: [{ sound: click }] }
      - { from: lit, to: dark, trigger: press, who: WHO, feedback: [{ sound: click }] }
`
        const dark = '{ can-still: { interactable: lamp-of, is: dark }, against: creature }'.replace('lamp-of', 'lamp')
        const at = (who: string): (string | undefined)[] => {
          const last = asked(level('The vault', 'shed', lamp.replace('WHO', who)), dark)
          return told(checkedAs({ shed, vault: last.replace('characters:', `characters:\n  ${beast}`) }), 'vault')
        }
        expect(at('[player, creature]')).toEqual(['ruled-out'])
        expect(at('creature').slice(0, 1)).toEqual(['found'])
      })

      test('and what must follow in time counts while somebody is there', () => {
        const bell = `  bell: { type: bell, at: [1, 4, 1] }
types:
  bell:
    states: { still: {}, ringing: {} }
    transitions:
      - { from: still, to: ringing, trigger: press, feedback: [{ sound: ding }] }
      - { from: ringing, to: still, trigger: { after: 2 } }
`
        const within = (seconds: number): string =>
          `{ when: { interactable: bell, is: ringing }, then: { interactable: bell, is: still }, within: ${String(seconds)} }`
        const at = (seconds: number, remembered: string): string | undefined => {
          const text = asked(level('The vault', 'shed', bell), within(seconds))
          return told(checkedAs({ shed, vault: text }, '', undefined, { vault: remembered }), 'vault')[0]
        }
        expect([at(1.5, ''), at(1.5, ', remembers: nothing')]).toEqual(['found', 'found'])
        expect(at(2.5, ', remembers: nothing')).toBe('ruled-out')
        // How long each clock has run is known to a tick, each time that one leaves.
        expect(at(2.5, '')).not.toBe('found')
      })
    })

    test('nothing is lost where all that matters is remembered; what is put back is there twice', () => {
      expect(inShort(at('').vault!)).toEqual([])
      expect(inShort(at(', remembers: nothing, except: [hatch, shelf]').vault!)).toEqual([])
      expect(inShort(at(', remembers: nothing, except: [hatch]').vault!)).toEqual(['silent-refusal shelf'])
    })
  })

  describe('with others than the player in them', () => {
    const dog = 'dog: { role: creature, start: [3, 3], radius: 0.2, speed: 2, hand: 1, reach: 1 }'
    const guarded = vault.replace('characters:', `characters:\n  ${dog}`)

    test('they stay in theirs, and what one level gives may be used in another', () => {
      const { shed: first, vault: report } = checkedAs({ shed, vault: guarded })
      expect([inShort(first!), inShort(report!)]).toEqual([[], []])
      expect(report!.together).toEqual(['shed'])
      expect(answerTo(report!, 'unreachable-goal', 'full')).toBe('ruled-out')
      expect(answerTo(report!, 'soft-lock', 'full')).toBe('ruled-out')
    })

    test('what one of them can take is named as in its level, and what it carries it does not carry into another', () => {
      const peg = '  peg: { type: pickup, at: [3, 3], who: [player, creature], set: { gives: bung } }\n'
      const lost = shed.replace('characters:', `characters:\n  ${dog}`).replace(hook, peg)
      const { shed: first } = checkedAs({ vault, shed: lost })
      const [finding] = first!.findings.filter(({ rule }) => rule === 'wrong-character')
      expect(finding!.message).toMatch(/^dog, a creature, can take the bung from peg/)
      expect(finding!.follows.map(({ rule, subject }) => `${rule} ${subject}`)).toEqual([
        'soft-lock full',
        'soft-lock home',
      ])
      expect(finding!.follows[0]!.steps.map(({ who, text }) => [who, text])).toEqual([
        ['sam', 'Walk to way (The vault).'],
        ['sam', 'Press: way (The vault) answers. This leads to The shed.'],
        ['dog', 'As dog: Take the bung from peg.'],
      ])
    })
  })

  test('where they cannot be explored as one, what hangs on the others is left open, with the reason', () => {
    const pair = vault.replace(
      'characters:',
      'characters:\n  pip: { role: player, start: [3, 3], radius: 0.2, speed: 2, hand: 0.3, reach: 0.3 }',
    )
    const { vault: report } = checkedAs({ shed, vault: pair })
    expect(report!.together).toEqual([])
    const question = report!.questions.find((one) => one.rule === 'unreachable-goal')!
    expect(question.answer).toBe('undecided')
    expect(question.why).toBe(
      'other levels give what is asked for here, and this one was explored by itself, because there are several players in vault',
    )
    expect(inShort(report!).filter((one) => one.startsWith('unreachable') || one.startsWith('dead'))).toEqual([])
    // What is required of it is not shown to hold either.
    const required = `${pair}requirements: { shut: { can-still: { interactable: barrel, is: locked } }, first: { never: { interactable: barrel, is: open }, before: { carries: bung } } }\n`
    const { vault: asked } = checkedAs({ shed, vault: required })
    const answers = ['shut', 'first'].map((name) => answerTo(asked!, 'broken-requirement', name))
    expect(answers).toEqual(['undecided', 'undecided'])
    const chest = shed.replace(
      hook,
      '  chest: { type: chest, at: [1, 4], set: { gives: [{ item: bung }], hands-over: what-fits } }\n',
    )
    const filled = checkedAs({
      shed: chest.replace('level: vault', 'level: shed'),
      vault: pair.replace('level: shed', 'level: vault'),
    })
    expect(filled.vault!.questions.find((one) => one.rule === 'unreachable-goal')!.why).toContain('other levels give')
    // Ground that only players come to who come in from another level is not out of reach.
    const walled = pair
      .replace('places:', 'obstacles: { wall: { outline: [[3.5, 0], [3.7, 0], [3.7, 5], [3.5, 5]] } }\nplaces:')
      .replace('at: [1, 4]', 'at: [5, 4]')
      .replace('set: { lock: { item: bung } }', 'set: {}')
    expect(inShort(checkedAs({ shed, vault: walled }).vault!).filter((one) => !one.startsWith('no-'))).toEqual([])
  })

  test('where it starts at a place that is not there, what hangs on that is left open', () => {
    const { vault: report } = startingAt('{ level: vault, place: dor }', { shed, vault })
    expect(report!.findings).toEqual([])
    expect(report!.questions.find((one) => one.rule === 'unreachable-goal')!.why).toContain(
      'because the project starts at the place dor, which is not in vault',
    )
  })

  test('nobody is called a leaver who is no player', () => {
    const boat = vault
      .replace(
        'characters:',
        'characters:\n  dog: { role: creature, start: [3, 3], radius: 0.2, speed: 2, hand: 1, reach: 1 }',
      )
      .replace('way: { type: exit,', 'way: { type: exit, who: [player, creature],')
    const { vault: report } = checkedAs({ shed, vault: boat })
    expect(report!.together).toEqual([])
    expect(report!.questions.find((one) => one.rule === 'unreachable-goal')!.why).toContain(
      'because dog, who is no player, can leave vault',
    )
  })

  test('the same levels give the same bytes', () => {
    expect(JSON.stringify(checkedAs({ shed, vault }))).toBe(JSON.stringify(checkedAs({ shed, vault })))
    expect(JSON.stringify(checkedAs({ shed, vault }))).not.toContain('\u2063')
  })
})
