import { builtInTypes, type Setting, type TypeDefinition } from 'zintel'
import {
  changeText,
  duplicateInLevel,
  type Edit,
  freeName,
  readLevel,
  readProject,
  renameArrival,
  renameInLevel,
  renameInWalkthrough,
} from 'zintel/yaml'
import { commonOf, kindOf, membersOf } from './files.ts'
import type { FileChange, Files } from './history.ts'

/** A spot in metres, x east and y north. */
export type Spot = readonly [number, number]

/** What an edit comes to: the changes of files, or why it cannot be made. */
export type Edited =
  { readonly changes: readonly FileChange[]; readonly why: null } | { readonly changes: null; readonly why: string }

const broken = 'The text has mistakes that must be put right first.'
const shared = 'This part is written once for several (an anchor), or stands in a common file: change it in the text.'

function refused(why: string): Edited {
  return { changes: null, why }
}

/** Reads a level; what was read last is kept. */
const reading = (() => {
  let last: { key: string; value: ReturnType<typeof readLevel> } | null = null
  return (files: Files, file: string) => {
    const key = JSON.stringify([file, files[file], commonOf(files, file)])
    if (last?.key !== key) last = { key, value: readLevel(files[file] ?? '', file, commonOf(files, file)) }
    return last.value
  }
})()

/** Makes changes of one level, one after the other; refused as a whole where one of them cannot be made. */
export function edit(files: Files, file: string, edits: readonly Edit[]): Edited {
  const before = files[file]
  if (before === undefined) return refused(`${file} is not on the desk.`)
  let now = files
  for (const one of edits) {
    const read = reading(now, file)
    if (!read.value) return refused(broken)
    const text = changeText(read, one)
    if (text === null) return refused(shared)
    now = { ...now, [file]: text }
  }
  const after = now[file] ?? before
  if (after !== before && !reading(now, file).value)
    return refused(reading(now, file).diagnostics[0]?.message ?? 'The level could not be read then.')
  return { changes: [{ file, before, after }], why: null }
}

/** A number of metres or degrees as it is written: to the millimetre. */
export function rounded(value: number): number {
  return Math.round(value * 1000) / 1000 + 0
}

function valueAt(value: unknown, path: string): unknown {
  let at = value
  for (const key of path.split('.')) {
    if (typeof at !== 'object' || at === null) return undefined
    at = (at as Record<string, unknown>)[key]
  }
  return at
}

/** The part that moves where one drags a part: a door in a doorway moves with the doorway. */
export function moving(files: Files, file: string, path: string): string {
  const { value } = reading(files, file)
  const doorway = valueAt(value, `${path}.in`)
  return typeof doorway === 'string' ? `doorways.${doorway}` : path
}

/** Moves a part of a level by metres east and north. */
export function move(files: Files, file: string, path: string, [dx, dy]: Spot): Edited {
  const { value } = reading(files, file)
  if (!value) return refused(broken)
  const part = moving(files, file, path)
  const shifted = (at: unknown): unknown => {
    const [x = 0, y = 0, ...rest] = at as number[]
    return [rounded(x + dx), rounded(y + dy), ...rest]
  }
  const of = (key: string): Edit[] => {
    const at = valueAt(value, `${part}.${key}`)
    return Array.isArray(at) ? [{ do: 'replace', path: `${part}.${key}`, value: shifted(at) }] : []
  }
  const outline = valueAt(value, `${part}.outline`)
  const corners = Array.isArray(outline)
    ? outline.map((corner, i): Edit => ({
        do: 'replace',
        path: `${part}.outline.${String(i)}`,
        value: shifted(corner),
      }))
    : []
  const edits = [...of('at'), ...of('start'), ...corners]
  return edits.length === 0 ? refused('This cannot be moved: it stands where its type says.') : edit(files, file, edits)
}

/** Gives a part of a level a value, whether it was there before or not; undefined takes it away. */
export function give(files: Files, file: string, path: string, value: unknown): Edited {
  const { value: level } = reading(files, file)
  if (!level) return refused(broken)
  const now = valueAt(level, path)
  if (value === undefined) return edit(files, file, now === undefined ? [] : [{ do: 'remove', path }])
  if (now !== undefined) return edit(files, file, [{ do: 'replace', path, value }])
  // What is missing on the way there is written with it.
  let [at, written] = [path, value]
  for (;;) {
    const cut = at.lastIndexOf('.')
    const [parent, key] = [at.slice(0, Math.max(0, cut)), at.slice(cut + 1)]
    if (parent === '' || valueAt(level, parent) !== undefined)
      return edit(files, file, [{ do: 'add', path: parent, key, value: written }])
    ;[at, written] = [parent, { [key]: written }]
  }
}

/** Gives several parts their values, in one step. */
export function giveAll(
  files: Files,
  file: string,
  all: readonly { readonly path: string; readonly value: unknown }[],
): Edited {
  let now = files
  for (const { path, value } of all) {
    const given = give(now, file, path, value)
    if (given.changes === null) return given
    now = { ...now, ...Object.fromEntries(given.changes.map(({ file: of, after }) => [of, after ?? ''])) }
  }
  return { changes: [{ file, before: files[file] ?? '', after: now[file] ?? '' }], why: null }
}

/** Adds an entry to a list, which is made where there is none. */
export function append(files: Files, file: string, path: string, value: unknown): Edited {
  const { value: level } = reading(files, file)
  if (!level) return refused(broken)
  if (Array.isArray(valueAt(level, path))) return edit(files, file, [{ do: 'append', path, value }])
  return give(files, file, path, [value])
}

/** Turns an interactable by degrees. */
export function turn(files: Files, file: string, path: string, by: number): Edited {
  const { value } = reading(files, file)
  if (typeof valueAt(value, `${path}.in`) === 'string')
    return refused('It fills its doorway: turn that, or take the other hinge.')
  const key = path.startsWith('characters.') || path.startsWith('places.') ? 'facing' : 'turn'
  const now = Number(valueAt(value, `${path}.${key}`) ?? 0)
  return give(files, file, `${path}.${key}`, rounded((((now + by) % 360) + 360) % 360))
}

/** Takes a part of a level away. */
export function remove(files: Files, file: string, path: string): Edited {
  return edit(files, file, [{ do: 'remove', path }])
}

/** Writes a part once more under a name of its own, half a metre beside it. */
export function duplicate(files: Files, file: string, path: string): Edited & { readonly path?: string } {
  const read = reading(files, file)
  if (!read.value) return refused(broken)
  const cut = path.lastIndexOf('.')
  const name = freeName(read, path.slice(cut + 1))
  const text = duplicateInLevel(read, path, name)
  if (text === null) return refused(shared)
  const copy = `${path.slice(0, cut)}.${name}`
  const next = { ...files, [file]: text }
  const after = typeof valueAt(read.value, `${path}.in`) === 'string' ? null : move(next, file, copy, [0.5, 0])
  const [change] = after?.changes ?? []
  return { changes: [{ file, before: files[file] ?? null, after: change?.after ?? text }], why: null, path: copy }
}

/** Renames what a level defines, with every place that names it, in its walkthroughs too. */
export function rename(files: Files, file: string, path: string, name: string): Edited {
  if (!/^[a-z][a-z0-9-]*$/.test(name))
    return refused('A name is lower-case letters, digits and dashes, a letter first.')
  const before = files[file] ?? ''
  const text = renameInLevel({ text: before, file, common: commonOf(files, file) }, path, name)
  if (text === null) return refused(`It cannot be called ${name}: the name is taken, or the text cannot be read.`)
  const old = path.slice(path.lastIndexOf('.') + 1)
  const level = readLevel(text, file, commonOf(files, file))
  const followed = Object.entries(files).flatMap(([other, steps]): FileChange[] => {
    if (kindOf(other, steps) !== 'walkthrough') return []
    const after = renameInWalkthrough(steps, level, old, name)
    return after === steps ? [] : [{ file: other, before: steps, after }]
  })
  return {
    changes: [{ file, before, after: text }, ...followed, ...followedAround(files, file, path, name)],
    why: null,
  }
}

/** What follows a rename in the other levels of the project: what leads to a place, and items of the same name. */
function followedAround(files: Files, file: string, path: string, name: string): FileChange[] {
  const [section, old = ''] = path.split('.')
  if (section !== 'places' && section !== 'items') return []
  const changes = new Map<string, FileChange>()
  for (const [project, text] of Object.entries(files)) {
    const { value } = kindOf(project, text) === 'project' ? readProject(text, project) : { value: null }
    const members = value ? membersOf(project, value.levels) : []
    const own = members.find((one) => one.file === file)
    if (!own) continue
    for (const other of [project, ...members.map((one) => one.file)]) {
      const before = files[other]
      if (other === file || before === undefined) continue
      const after =
        section === 'items'
          ? (renameInLevel({ text: before, file: other, common: commonOf(files, other) }, path, name) ?? before)
          : renameArrival(other === project ? readProject(before, project) : reading(files, other), own.name, old, name)
      if (after !== before) changes.set(other, { file: other, before, after })
    }
  }
  return [...changes.values()]
}

/** Adds a new instance of a type, at a spot or in a doorway. */
export function addThing(
  files: Files,
  file: string,
  type: string,
  place: { readonly at: Spot } | { readonly in: string },
): Edited & { readonly path?: string } {
  const read = reading(files, file)
  const name = freeName(read, type)
  const where = 'at' in place ? { at: [rounded(place.at[0]), rounded(place.at[1])] } : { in: place.in }
  // What a type cannot do without is filled in with something that shows what it takes.
  const set = Object.fromEntries(neededOf(read.value, type))
  const value = { type, ...where, ...(Object.keys(set).length > 0 ? { set } : {}) }
  const made = edit(files, file, [{ do: 'add', path: 'interactables', key: name, value }])
  if (made.changes === null && made.why !== broken)
    return { ...made, why: `A ${type} needs something that this level does not have yet: ${made.why}` }
  return { ...made, path: `interactables.${name}` }
}

/** What a type cannot do without, filled in with the first thing of the level that will do. */
function neededOf(value: unknown, type: string): [string, unknown][] {
  const own = valueAt(value, `types.${type}`) as TypeDefinition | undefined
  return Object.entries((own ?? builtInTypes[type])?.settings ?? {}).flatMap(([name, setting]): [string, unknown][] => {
    const filled = setting.needed ? sampleOf(setting, value) : undefined
    return filled === undefined ? [] : [[name, filled]]
  })
}

/** Something that a setting takes; undefined where the level has nothing of the kind. */
function sampleOf({ kind, options, fields }: Setting, value: unknown): unknown {
  const first = (section: string): string | undefined =>
    Object.keys((valueAt(value, section) as object | undefined) ?? {})[0]
  switch (kind) {
    case 'item':
      return first('items')
    case 'items':
      return first('items') === undefined ? undefined : [{ item: first('items') }]
    case 'item-names':
      return first('items') === undefined ? undefined : [first('items')]
    case 'interactable':
      return first('interactables')
    case 'place':
      return first('places')
    case 'flag':
      return first('flags')
    case 'counter':
      return first('counters')
    case 'choice':
      return options?.[0]
    case 'yes-no':
      return true
    case 'seconds':
    case 'metres':
    case 'count':
      return 2
    case 'degrees':
    case 'speed':
      return 90
    case 'digits':
      return [3, 1]
    case 'shift':
      return [0, 0, 1]
    case 'group': {
      const inner = Object.entries(fields ?? {}).flatMap(([name, one]) => {
        const filled = one.needed || name === 'place' ? sampleOf(one, value) : undefined
        return filled === undefined ? [] : [[name, filled] as const]
      })
      return inner.length === 0 ? undefined : Object.fromEntries(inner)
    }
    default:
      return 'something'
  }
}

/** Accepts a finding: it is meant so, and for this reason. */
export function accept(
  files: Files,
  file: string,
  { rule, subject }: { readonly rule: string; readonly subject: string },
  because: string,
): Edited {
  const of = subject === 'level' ? {} : { of: subject }
  const value = { rule, ...of, because }
  return append(files, file, 'accepted-findings', value)
}
