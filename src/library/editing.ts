import { expandLevel, readLevel } from '../interactables/index.ts'
import { type Edit, edited, join, type Level, type Reading, type Source } from '../model/index.ts'
import { prepareLevel } from './prepared.ts'
import { readWalkthrough } from './walkthroughs.ts'

/** A level as it is read; `common`: the texts of the files that it has in common with others, by the names that it has for them. */
export interface LevelText {
  readonly text: string
  readonly file?: string | null | undefined
  readonly common?: Readonly<Record<string, string>> | undefined
}

/**
 * The text of a level, a walkthrough or a project with one part changed, and everything else (comments, order, layout) as it was. Null
 * where the part is not there, or is written by way of an alias, so that a change would be one of something else too.
 */
export function changeText({ source }: Reading<unknown>, edit: Edit): string | null {
  return edited(source, edit)
}

/**
 * The text of a level with something that it defines renamed, such as `interactables.mill-door` or `items.key`, and with it every place
 * that names it: these are the places that would lead nowhere if only the definition were renamed. Null where there is no such part, where the new
 * name is taken, or where the text cannot be read before or after it.
 */
export function renameInLevel(
  { text, file = null, common = {} }: LevelText,
  path: string,
  name: string,
): string | null {
  const cut = path.lastIndexOf('.')
  const [section, old] = [path.slice(0, Math.max(0, cut)), path.slice(cut + 1)]
  const before = readLevel(text, file, common)
  if (!before.value || Object.hasOwn(Object(valueAt(before.source, section)) as object, name)) return null
  const changed = edited(before.source, { do: 'rename', path, name })
  if (changed === null) return null
  const after = readLevel(changed, file, common)
  // Where its shape hangs on the name (a condition on a setting, say), it cannot be read half-way.
  if (!after.value) return null
  const known = new Set(lostPaths(before.value, before.source, old))
  const lost = lostPaths(after.value, after.source, old).filter((one) => !known.has(one))
  const renamed = withNames(after.source, lost, old, name)
  return readLevel(renamed, file, common).value ? renamed : null
}

/**
 * The text of a walkthrough after something that its level defines was renamed: `level` is the level as it is now. What the
 * walkthrough says is left as it is where it leads nowhere for another reason.
 */
export function renameInWalkthrough(text: string, level: Reading<Level>, old: string, name: string): string {
  const { source, diagnostics } = readWalkthrough(text, null, prepareLevel(level))
  return withNames(
    source,
    diagnostics.flatMap(({ place }) => (place ? [place.path] : [])),
    old,
    name,
  )
}

/**
 * The text of another level, or of a project, after a place of a level was renamed: what leads to it there (`{ level, place }`) leads to it
 * still. `level` is what the project calls the level.
 */
export function renameArrival({ source }: Reading<unknown>, level: string, old: string, name: string): string {
  const leads = (value: unknown, path: string): string[] => {
    if (typeof value !== 'object' || value === null) return []
    const { level: to, place } = value as { level?: unknown; place?: unknown }
    const own = to === level && place === old ? [join(path, 'place')] : []
    return [...own, ...Object.entries(value).flatMap(([key, inner]) => leads(inner, join(path, key)))]
  }
  return withNames(source, leads(source.value, ''), old, name)
}

/** Where a level names something that it does not define. */
function lostPaths(level: Level, source: Source, name: string): string[] {
  return expandLevel(level, source).problems.flatMap((problem) => {
    if (problem.rule !== 'unknown-name') return []
    // Where more places name what is not there than what is nearest to it, they are told together, at the definition.
    const paths = problem.misspelt?.paths ?? [problem.path]
    return problem.name === name || problem.misspelt !== null ? paths : []
  })
}

/** A text in which each of some parts says another name: a value, a key, or the part of a value before a stroke. */
function withNames(source: Source, paths: readonly string[], old: string, name: string): string {
  const changes = new Map<number, { readonly end: number; readonly by: string }>()
  for (const path of paths.flatMap((one) => naming(valueAt(source, one), one, old))) {
    const value = valueAt(source, path)
    const key = path.slice(path.lastIndexOf('.') + 1)
    const isValue = value === old || (typeof value === 'string' && value.startsWith(`${old}/`))
    const span = isValue ? source.span(path) : key === old ? source.keySpan(path) : null
    if (!span) continue
    const written = source.text.slice(span.start, span.end)
    const at = written.indexOf(old)
    if (at < 0) continue
    changes.set(span.start + at, { end: span.start + at + old.length, by: plain(name, written) })
  }
  let text = source.text
  for (const [start, { end, by }] of [...changes].sort(([a], [b]) => b - a)) {
    text = text.slice(0, start) + by + text.slice(end)
  }
  return text
}

/** The parts of a value that say a name: itself, or, of a group of settings, those in it. */
function naming(value: unknown, path: string, name: string): string[] {
  if (typeof value !== 'object' || value === null || path.endsWith(`.${name}`)) return [path]
  return Object.entries(value).flatMap(([key, inner]) =>
    inner === name || typeof inner === 'object' ? naming(inner, join(path, key), name) : [],
  )
}

/** A name as it is put into what is written: in quotes where YAML would take it for something else than text. */
function plain(name: string, written: string): string {
  const isQuoted = /^["']/.test(written)
  return !isQuoted && /^(?:true|false|null|yes|no|on|off)$/.test(name) ? JSON.stringify(name) : name
}

function valueAt({ value }: Source, path: string): unknown {
  let at = value
  for (const key of path === '' ? [] : path.split('.')) {
    if (typeof at !== 'object' || at === null) return undefined
    at = (at as Record<string, unknown>)[key]
  }
  return at
}

/**
 * The text of a level with an entry of one of its sections written once more, below itself, under another name: with its comments and its
 * layout. Null where there is no such part, or the name is taken.
 */
export function duplicateInLevel(reading: Reading<Level>, path: string, name: string): string | null {
  const { source } = reading
  const cut = path.lastIndexOf('.')
  const section = path.slice(0, Math.max(0, cut))
  const key = source.keySpan(path)
  const span = source.span(path)
  if (cut < 0 || !key || !span || source.isElsewhere(path)) return null
  if (Object.hasOwn(Object(valueAt(source, section)) as object, name)) return null
  const { text } = source
  const start = text.lastIndexOf('\n', key.start - 1) + 1
  const isOwnLine = /^\s*$/.test(text.slice(start, key.start))
  // An anchor stands for one thing: a copy of it would be another.
  if (!isOwnLine || /(?:^|\s)&\S/.test(text.slice(key.start, span.end)))
    return edited(source, { do: 'add', path: section, key: name, value: valueAt(source, path) })
  const last = span.start + Math.max(1, text.slice(span.start, span.end).trimEnd().length) - 1
  const line = text.indexOf('\n', last)
  const end = line < 0 ? text.length : line + 1
  const copy = text.slice(start, key.start) + name + text.slice(key.end, end)
  return `${text.slice(0, end)}${line < 0 ? '\n' : ''}${copy}${text.slice(end)}`
}

/** A name like another that nothing in a level has yet: `mill-door-2`. */
export function freeName(level: Reading<Level>, like: string): string {
  const { rooms, doorways, interactables, places } = level.value ?? {}
  const taken = new Set(Object.keys({ ...rooms, ...doorways, ...interactables, ...places }))
  const stem = like.replace(/-\d+$/, '')
  if (!taken.has(stem)) return stem
  for (let count = 2; ; count++) if (!taken.has(`${stem}-${String(count)}`)) return `${stem}-${String(count)}`
}
