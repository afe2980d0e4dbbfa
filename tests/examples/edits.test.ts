import { describe, expect, test } from '@jest/globals'
import { builtInTypes } from '../../src/interactables/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import * as edits from '../../examples/workbench/src/desk/edits.ts'
import { Desk } from '../../examples/workbench/src/desk/desk.ts'
import { textOf } from '../levels.ts'

const file = 'tide-mill.level.yaml'
const text = textOf(`examples/levels/${file}`)
const files = { [file]: text }

/** What a text becomes by an edit that can be made. */
function after({ changes, why }: edits.Edited): string {
  if (!changes) throw new Error(why)
  return changes[0]!.after!
}

describe('edits by mouse, by form and by text give the same file', () => {
  test('a thing is moved', () => {
    const moved = after(edits.move(files, file, 'interactables.key-hook', [0.25, -0.5]))
    const at = readLevel(text).value!.interactables!['key-hook']!.at!
    const written = `at: [${String(at[0] + 0.25)}, ${String(at[1] - 0.5)}, ${String(at[2])}]`
    const byText = text.replace(`at: [${at.join(', ')}]`, written)
    expect(moved).toBe(byText)
    const byForm = after(edits.give(files, file, 'interactables.key-hook.at', [at[0] + 0.25, at[1] - 0.5, at[2]!]))
    expect(byForm).toBe(byText)
    expect(after(edits.move({ [file]: moved }, file, 'interactables.key-hook', [-0.25, 0.5]))).toBe(text)
  })

  test('a door in a doorway moves with it, a room with all its corners', () => {
    expect(edits.moving(files, file, 'interactables.mill-door')).toBe('doorways.mill-entry')
    const moved = readLevel(after(edits.move(files, file, 'interactables.mill-door', [0, 0.1]))).value!
    const before = readLevel(text).value!
    expect(moved.doorways!['mill-entry']!.at[1]).toBeCloseTo(before.doorways!['mill-entry']!.at[1] + 0.1, 9)
    const room = readLevel(after(edits.move(files, file, 'rooms.quay', [1, 0]))).value!.rooms.quay!
    expect(room.outline).toEqual(before.rooms.quay!.outline.map(([x, y]) => [x + 1, y]))
  })

  test('a setting that was not there is written, changed, and taken away again', () => {
    const path = 'interactables.mill-door.set.closes.after'
    const now = Object(readLevel(text).value!.interactables!['mill-door']!.set) as { closes?: { after?: number } }
    const given = after(edits.give(files, file, path, 7))
    expect(Object(readLevel(given).value!.interactables!['mill-door']!.set)).toMatchObject({ closes: { after: 7 } })
    const back = after(edits.give({ [file]: given }, file, path, now.closes?.after))
    expect(back).toBe(text)
  })

  test('a corner, a range and a turn', () => {
    const corner = readLevel(
      after(edits.giveAll(files, file, [{ path: 'rooms.quay.outline.0', value: [-0.5, -0.25] }])),
    ).value!
    expect(corner.rooms.quay!.outline[0]).toEqual([-0.5, -0.25])
    const range = readLevel(after(edits.give(files, file, 'interactables.key-hook.range.radius', 1.25))).value!
    expect(range.interactables!['key-hook']!.range?.radius).toBe(1.25)
    const turned = after(edits.turn(files, file, 'interactables.key-hook', -15))
    expect(readLevel(turned).value!.interactables!['key-hook']!.turn).toBe(345)
    expect(edits.turn(files, file, 'interactables.mill-door', 15).why).toContain('fills its doorway')
  })

  test('what is added, duplicated and deleted leaves the rest as it was', () => {
    const copy = edits.duplicate(files, file, 'interactables.key-hook')
    expect(copy.path).toBe('interactables.key-hook-2')
    const there = after(copy)
    expect(after(edits.remove({ [file]: there }, file, 'interactables.key-hook-2'))).toBe(text)
    const lines = new Set(there.split('\n'))
    expect(text.split('\n').filter((line) => !lines.has(line))).toEqual([])
  })

  test('every type can be added, in a doorway or on the ground', () => {
    const withPlace = text.replace('\ninteractables:', '\nplaces:\n  back: { at: [1, 3] }\n\ninteractables:')
    for (const type of Object.keys(builtInTypes)) {
      const place = type === 'door' ? { in: 'mill-entry' } : { at: [2, 3] as const }
      const made = edits.addThing({ [file]: withPlace }, file, type, place)
      if (!made.changes) throw new Error(`${type}: ${made.why}`)
      expect(readLevel(made.changes[0]!.after!).diagnostics).toEqual([])
    }
  })

  test('a rename is followed in the level and in its walkthroughs', () => {
    const walk = 'tide-mill.right-way.walkthrough.yaml'
    const both = { ...files, [walk]: textOf(`examples/levels/${walk}`) }
    const { changes } = edits.rename(both, file, 'interactables.mill-door', 'main-door')
    expect(changes!.map((one) => one.file)).toEqual([file, walk])
    for (const { before, after: now } of changes!) expect(now).toBe(before!.replaceAll('mill-door', 'main-door'))
    expect(edits.rename(both, file, 'interactables.mill-door', 'Main Door').why).toContain('lower-case')
    expect(edits.rename(both, file, 'interactables.mill-door', 'key-hook').why).toContain('taken')
  })

  test('a rename of a place is followed in the other levels of the project, and of an item wherever it is carried', () => {
    const folder = 'examples/levels/round-the-mill/'
    const names = [
      'round-the-mill.project.yaml',
      'ferry-stage.level.yaml',
      'malt-house.level.yaml',
      'mill-cellar.level.yaml',
    ]
    const all = Object.fromEntries(names.map((name) => [name, textOf(folder + name)]))
    const renamed = edits.rename(all, 'malt-house.level.yaml', 'places.wharf-steps', 'wharf').changes!
    expect(renamed.map((one) => one.file)).toEqual([
      'malt-house.level.yaml',
      'ferry-stage.level.yaml',
      'mill-cellar.level.yaml',
    ])
    for (const { before, after: now } of renamed) expect(now).toBe(before!.replaceAll('wharf-steps', 'wharf'))
    const withTurf = all['ferry-stage.level.yaml']!.replace('items:\n', 'items:\n  turf: { title: turf }\n')
    const carried = edits.rename(
      { ...all, 'ferry-stage.level.yaml': withTurf },
      'malt-house.level.yaml',
      'items.turf',
      'peat',
    )
    expect(carried.changes!.map((one) => one.file)).toEqual(['malt-house.level.yaml', 'ferry-stage.level.yaml'])
    expect(readLevel(carried.changes![1]!.after!).value!.items).toMatchObject({ peat: { title: 'turf' } })
  })

  test('several values are one step; what is missing on the way to one is written with it', () => {
    const path = 'interactables.key-hook'
    const all = [
      { path: `${path}.zones.near`, value: { radius: 0.75 } },
      { path: `${path}.range.from`, value: [0, 0.25, 1] },
      { path: `${path}.scale`, value: undefined },
    ]
    const given = after(edits.giveAll(files, file, all))
    expect(readLevel(given).value!.interactables!['key-hook']).toMatchObject({
      zones: { near: { radius: 0.75 } },
      range: { from: [0, 0.25, 1] },
    })
    // Nothing of it is written where one of them cannot be.
    expect(edits.giveAll(files, file, [...all, { path: `${path}.scale`, value: -1 }]).changes).toBeNull()
  })

  test('an accepted finding is written with its reason', () => {
    const finding = { rule: 'missing-prompt', subject: 'key-hook' }
    const once = after(edits.accept(files, file, finding, 'It is told by the hook itself.'))
    const twice = after(edits.accept({ [file]: once }, file, { rule: 'no-goal', subject: 'level' }, 'A sketch.'))
    expect(readLevel(twice).value!['accepted-findings']).toEqual([
      { rule: 'missing-prompt', of: 'key-hook', because: 'It is told by the hook itself.' },
      { rule: 'no-goal', because: 'A sketch.' },
    ])
    expect(twice.startsWith(text.trimEnd())).toBe(true)
  })

  test('an edit of a text that cannot be read is refused, and nothing is lost', () => {
    const broken = { [file]: text.replace('rooms:', 'rooms') }
    expect(edits.move(broken, file, 'interactables.key-hook', [1, 0]).why).toContain('must be put right first')
    expect(edits.give(files, file, 'interactables.key-hook.type', 7).why).toMatch(/wrong|shape|kind/)
  })
})

describe('one history', () => {
  const desk = (): Desk => {
    const made = new Desk()
    made.add({ 'a.level.yaml': 'zintel: 1\n', 'b.level.yaml': 'zintel: 1\n' }, 'open files')
    return made
  }

  test('takes back and does again, over all files, in order', () => {
    const one = desk()
    one.write('a.level.yaml', 'zintel: 1\ntitle: A\n', 'first')
    one.look('b.level.yaml')
    one.write('b.level.yaml', 'zintel: 1\ntitle: B\n', 'second')
    one.undo()
    expect(one.text('b.level.yaml')).toBe('zintel: 1\n')
    one.undo()
    expect([one.text('a.level.yaml'), one.state.open]).toEqual(['zintel: 1\n', 'a.level.yaml'])
    one.redo()
    one.redo()
    one.redo()
    expect([one.text('a.level.yaml'), one.text('b.level.yaml')]).toEqual([
      'zintel: 1\ntitle: A\n',
      'zintel: 1\ntitle: B\n',
    ])
  })

  test('takes what is typed without a pause as one step, and forgets what was taken back once one goes on', () => {
    const one = desk()
    const type = (text: string, now: number): void => {
      one.change([{ file: 'a.level.yaml', before: one.text('a.level.yaml'), after: text }], 'type', {
        isTyping: true,
        now,
      })
    }
    type('zintel: 1\nt', 1000)
    type('zintel: 1\nti', 1200)
    type('zintel: 1\ntit', 5000)
    expect(one.state.history.steps).toHaveLength(3)
    one.undo()
    expect(one.text('a.level.yaml')).toBe('zintel: 1\nti')
    type('zintel: 1\ntix', 9000)
    one.redo()
    expect(one.text('a.level.yaml')).toBe('zintel: 1\ntix')
  })

  test('clears the desk and brings it back', () => {
    const one = desk()
    one.remove(Object.keys(one.state.files))
    expect([one.state.files, one.state.open]).toEqual([{}, null])
    one.undo()
    expect(Object.keys(one.state.files).sort()).toEqual(['a.level.yaml', 'b.level.yaml'])
  })
})
