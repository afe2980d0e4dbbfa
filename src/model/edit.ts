import { join, type Source, type Span } from './source.ts'

/** A change of one part of a text: another value, nothing any more, or one more entry in a map or a list. */
export type Edit =
  | { readonly do: 'replace'; readonly path: string; readonly value: unknown }
  | { readonly do: 'remove'; readonly path: string }
  /** Another name for the key that the path ends in. */
  | { readonly do: 'rename'; readonly path: string; readonly name: string }
  /** `path` is the map; it is made where it is not there, and so are the maps round it. */
  | { readonly do: 'add'; readonly path: string; readonly key: string; readonly value: unknown }
  /** `path` is the list. */
  | { readonly do: 'append'; readonly path: string; readonly value: unknown }

/** Lines of a text that a change puts others in place of. */
export interface ChangedLines {
  /** The number of the first of them, from 1; where none go, of the line before which the new ones stand. */
  readonly line: number
  readonly was: readonly string[]
  readonly becomes: readonly string[]
}

/**
 * The text with one part changed, and all else (comments, order, how it is laid out) as it was. Null where the part is not
 * there, or is written by way of an alias, so that a change would be one of something else too.
 */
export function edited(source: Source, edit: Edit): string | null {
  if (isShared(source, edit.path)) return null
  switch (edit.do) {
    case 'replace':
      return replaced(source, edit.path, edit.value)
    case 'rename': {
      const span = source.keySpan(edit.path)
      return span ? splice(source.text, span, written(edit.name, source)) : null
    }
    case 'remove':
      return removed(source, edit.path)
    case 'add':
      return added(source, edit.path, edit.key, edit.value)
    case 'append':
      return appended(source, edit.path, edit.value)
  }
}

/** The lines that differ between two texts, from the first to the last of them; null where they are alike. */
export function changedLines(before: string, after: string): ChangedLines | null {
  if (before === after) return null
  const [was, becomes] = [linesOf(before), linesOf(after)]
  let start = 0
  while (start < was.length && start < becomes.length && was[start] === becomes[start]) start++
  let end = 0
  const most = Math.min(was.length, becomes.length) - start
  while (end < most && was[was.length - 1 - end] === becomes[becomes.length - 1 - end]) end++
  return {
    line: start + 1,
    was: was.slice(start, was.length - end),
    becomes: becomes.slice(start, becomes.length - end),
  }
}

function linesOf(text: string): string[] {
  return text.split(/\r\n|\r|\n/)
}

function replaced(source: Source, path: string, value: unknown): string | null {
  const span = source.span(path)
  if (!span || isAnchoring(source.text, span)) return null
  const old = source.text.slice(span.start, span.end)
  const quote = old.startsWith('"') ? '"' : old.startsWith("'") ? "'" : ''
  const text =
    typeof value === 'string' && quote === "'"
      ? `'${value.replaceAll("'", "''")}'`
      : written(value, source, quote === '"')
  return splice(source.text, { start: span.start, end: lastContent(source.text, span) + 1 }, text)
}

function removed(source: Source, path: string): string | null {
  const cut = path.lastIndexOf('.')
  const parent = cut < 0 ? '' : path.slice(0, cut)
  const around = source.span(parent)
  const value = source.span(path)
  if (!around || !value) return null
  const entry = { start: source.keySpan(path)?.start ?? value.start, end: value.end }
  if (isAnchoring(source.text, entry)) return null
  if (isFlow(source, around)) return splice(source.text, withComma(source.text, entry, around), '')
  if (siblings(source, parent) <= 1 && parent !== '') return removed(source, parent)
  const next = afterDash(source, path, entry)
  return splice(source.text, next === null ? wholeLines(source.text, entry) : { start: entry.start, end: next }, '')
}

/** Where the next key begins, of a key that stands behind the dash of a list: the dash has to stay. Null for other keys. */
function afterDash(source: Source, path: string, entry: Span): number | null {
  const { text } = source
  if (!/^\s*-\s+$/.test(text.slice(text.lastIndexOf('\n', entry.start - 1) + 1, entry.start))) return null
  const cut = path.lastIndexOf('.')
  const parent = path.slice(0, Math.max(0, cut))
  const keys = Object.keys(valueAt(source, parent) ?? {})
  const next = keys[keys.indexOf(path.slice(cut + 1)) + 1]
  return next === undefined ? null : (source.keySpan(join(parent, next))?.start ?? null)
}

/** Whether something in a part of a text has an anchor that is used outside of it. */
function isAnchoring(text: string, { start, end }: Span): boolean {
  const outside = `${text.slice(0, start)} ${text.slice(end)}`
  return [...text.slice(start, end).matchAll(/(?:^|[\s,[{])&([^\s,[\]{}]+)/g)].some(([, anchor]) =>
    new RegExp(`\\*${anchor!.replaceAll(/[^\w-]/g, String.raw`\$&`)}(?![\\w-])`).test(outside),
  )
}

function added(source: Source, path: string, key: string, value: unknown): string | null {
  const around = source.span(path)
  if (!around || valueAt(source, path) === null) {
    const cut = path.lastIndexOf('.')
    if (cut < 0) return null
    return added(source, path.slice(0, cut), path.slice(cut + 1), { [key]: value })
  }
  const { text } = source
  const said = written(value, source)
  const name = isJson(source) ? JSON.stringify(key) : key
  if (isFlow(source, around)) {
    const inner = text.slice(around.start + 1, around.end - 1)
    const pad = inner.trim() === '' ? ' ' : /\s*$/.exec(inner)![0]
    const before = around.start + 1 + inner.trimEnd().length
    const comma = inner.trim() === '' ? ' ' : ', '
    return text.slice(0, before) + `${comma}${name}: ${said}${pad === '' ? '' : pad}` + text.slice(around.end - 1)
  }
  const first = Object.keys(valueAt(source, path) as object)[0]
  const start = first === undefined ? null : (source.keySpan(join(path, first))?.start ?? null)
  if (start === null) return null
  const indent = ' '.repeat(start - (text.lastIndexOf('\n', start - 1) + 1))
  return insertedAfter(text, lastContent(text, around), `${indent}${name}: ${said}`)
}

function appended(source: Source, path: string, value: unknown): string | null {
  const around = source.span(path)
  if (!around) return null
  const { text } = source
  if (!isFlow(source, around)) {
    const dash = text.lastIndexOf('-', source.span(join(path, '0'))?.start ?? 0)
    const indent = ' '.repeat(dash - (text.lastIndexOf('\n', dash) + 1))
    return insertedAfter(text, lastContent(text, around), `${indent}- ${written(value, source)}`)
  }
  const inner = text.slice(around.start + 1, around.end - 1)
  const before = around.start + 1 + inner.trimEnd().length
  return `${text.slice(0, before)}${inner.trim() === '' ? '' : ', '}${written(value, source)}${text.slice(before)}`
}

/** A value in one line: as JSON in a JSON file, else as YAML. */
function written(value: unknown, source: Source, quoted = false): string {
  if (isJson(source)) return JSON.stringify(value)
  if (typeof value === 'string')
    return quoted || !/^[a-z][a-z0-9-]*$/.test(value) || isWord(value) ? JSON.stringify(value) : value
  if (Array.isArray(value)) return `[${value.map((one) => written(one, source)).join(', ')}]`
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value).map(([key, one]) => `${key}: ${written(one, source)}`)
    return entries.length === 0 ? '{}' : `{ ${entries.join(', ')} }`
  }
  return String(value)
}

/** Words that YAML takes for something else than text. */
function isWord(value: string): boolean {
  return ['true', 'false', 'null', 'yes', 'no', 'on', 'off'].includes(value)
}

function isJson({ text }: Source): boolean {
  return /^\s*\{/.test(text)
}

function isFlow({ text }: Source, { start }: Span): boolean {
  return text[start] === '{' || text[start] === '['
}

/** Whether a part is written once for several places: it, or something round it, is an alias or what aliases stand for. */
function isShared(source: Source, path: string): boolean {
  const { text } = source
  for (let at = path; ; at = at.slice(0, Math.max(0, at.lastIndexOf('.')))) {
    const span = source.span(at)
    const anchor =
      span === null ? null : /(?:^|\s)&(\S+)\s*$/.exec(text.slice(Math.max(0, span.start - 200), span.start))
    if (span !== null && text[span.start] === '*') return true
    if (anchor && new RegExp(`\\*${anchor[1]!}(?![\\w-])`).test(text)) return true
    if (at === '') return false
  }
}

function valueAt(source: Source, path: string): unknown {
  let at = source.value
  for (const key of path === '' ? [] : path.split('.')) {
    if (typeof at !== 'object' || at === null) return undefined
    at = (at as Record<string, unknown>)[key]
  }
  return at
}

function siblings(source: Source, path: string): number {
  const value = valueAt(source, path)
  return typeof value === 'object' && value !== null ? Object.keys(value).length : 0
}

function splice(text: string, { start, end }: Span, by: string): string {
  return text.slice(0, start) + by + text.slice(end)
}

/** An entry of a flow collection with the comma that goes with it. */
function withComma(text: string, entry: Span, around: Span): Span {
  const after = /^\s*,[ \t]*/.exec(text.slice(entry.end, around.end))
  if (after) return { start: entry.start, end: entry.end + after[0].length }
  const before = /,\s*$/.exec(text.slice(around.start, entry.start))
  return before ? { start: entry.start - before[0].length, end: entry.end } : entry
}

/** The lines of an entry of a block collection, with the comment behind it. */
function wholeLines(text: string, entry: Span): Span {
  const start = text.lastIndexOf('\n', entry.start - 1) + 1
  const end = text.indexOf('\n', lastContent(text, entry))
  return { start, end: end < 0 ? text.length : end + 1 }
}

/** Where the last thing in a span ends that is not blank: a block ends before what follows it. */
function lastContent(text: string, { start, end }: Span): number {
  return start + Math.max(1, text.slice(start, end).trimEnd().length) - 1
}

/** A text with one more line after the one in which something stands. */
function insertedAfter(text: string, at: number, line: string): string {
  const end = text.indexOf('\n', at)
  return end < 0 ? `${text}\n${line}\n` : `${text.slice(0, end + 1)}${line}\n${text.slice(end + 1)}`
}
