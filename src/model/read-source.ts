import { Composer, type Document, isAlias, isMap, isPair, isScalar, isSeq, LineCounter, type Node, Parser } from 'yaml'
import { diagnostic, type Diagnostic, type Place, quoted } from './diagnostics.ts'
import { join, type Source, type Span } from './source.ts'

/** Texts longer than this many characters are not read. */
export const longestText = 500_000
const deepest = 40
const mostNodes = 200_000
const mostProblems = 100

/**
 * Reads YAML 1.2 or JSON into a plain value with the place of every part.
 * Anything unsafe or without meaning here (aliases that grow, repeated keys, `__proto__`, numbers that are not finite,
 * deep nesting, huge texts) gives a diagnostic. Never throws.
 */
export function readSource(text: string, file: string | null): Source {
  const lines = new LineCounter()
  const walk = new Walk(file, lines)
  if (text.length > longestText) {
    const size = `${String(text.length)} characters`
    const most = `at most ${String(longestText)} characters`
    walk.tell('too-large', '', null, 'The text is too large to be a level.', { found: size, expected: most })
    return source(text, undefined, walk)
  }
  const deep = nestingBeyond(text)
  if (deep >= 0) {
    lines.addNewLine(0)
    for (let i = 0; i < deep; i++) if (text[i] === '\n') lines.addNewLine(i + 1)
    walk.tell('too-deep', '', deep, `Values are nested more than ${String(deepest)} deep.`)
    return source(text, undefined, walk)
  }
  const value = walk.read(text)
  return source(text, walk.problems.length > 0 ? undefined : value, walk)
}

function source(text: string, value: unknown, walk: Walk): Source {
  return {
    file: walk.file,
    text,
    value,
    diagnostics: walk.problems,
    place: (path) => walk.placeOf(path, walk.values),
    keyPlace: (path) => walk.placeOf(path, walk.keys),
    span: (path) => walk.values.get(path) ?? null,
    keySpan: (path) => walk.keys.get(path) ?? null,
    isElsewhere: () => false,
    reads: (other) => readSource(other, walk.file).diagnostics.length === 0,
  }
}

/** The offset at which brackets are nested too deep, before a parser would recurse into them; -1 where they are not. */
function nestingBeyond(text: string): number {
  let depth = 0
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    if (c === 91 || c === 123) depth++
    else if (c === 93 || c === 125) depth--
    if (depth > 8 * deepest) return i
  }
  return nestedLines(text)
}

/** Block collections nest by dashes and indentation; the parser recurses into each. */
function nestedLines(text: string): number {
  const limit = 8 * deepest
  const run = /(?:[-?:][ \t]+){320,}/.exec(text)
  if (run) return run.index
  let line = 0
  const indents: number[] = []
  while (line >= 0 && line < text.length) {
    let indent = 0
    while (text.charCodeAt(line + indent) === 32) indent++
    while (indents.length > 0 && (indents[indents.length - 1] ?? 0) >= indent) indents.pop()
    indents.push(indent)
    if (indents.length > limit) return line
    const end = text.indexOf('\n', line)
    line = end < 0 ? -1 : end + 1
  }
  return -1
}

/** The first document of a text, and where a second begins; null where it has too many errors to be worth reading on. */
function compose(text: string, lines: LineCounter): { first: Document; second: number | null } | null {
  const composer = new Composer({
    version: '1.2',
    schema: 'core',
    prettyErrors: false,
    uniqueKeys: false,
    logLevel: 'silent',
  })
  // The composer keeps every error and goes on; texts of nothing but errors would take it many seconds. Its own way of
  // being told of an error is the one place where that can be stopped, though its types keep it to itself.
  const told = composer as unknown as { onError: (...error: unknown[]) => void }
  const keep = told.onError
  let errors = 0
  told.onError = (...error) => {
    if (++errors > mostProblems) throw new TooManyErrors()
    keep(...error)
  }
  try {
    const [first, second] = composer.compose(new Parser(lines.addNewLine).parse(text), true, text.length)
    return first ? { first, second: second?.range[0] ?? null } : null
  } catch (error) {
    if (error instanceof TooManyErrors) return null
    throw error
  }
}

class TooManyErrors extends Error {}

class Walk {
  readonly file: string | null
  readonly lines: LineCounter
  readonly problems: Diagnostic[] = []
  readonly values = new Map<string, Span>()
  readonly keys = new Map<string, Span>()
  #anchors = new Map<string, Node>()
  #open = new Set<string>()
  #nodes = 0

  constructor(file: string | null, lines: LineCounter) {
    this.file = file
    this.lines = lines
  }

  read(text: string): unknown {
    const composed = compose(text, this.lines)
    if (composed === null) {
      this.tell('bad-syntax', '', 0, 'This is not YAML 1.2 or JSON: it has more errors than can be told.')
      return undefined
    }
    const { first: document, second } = composed
    if (second !== null) this.tell('bad-syntax', '', second, 'A second document begins here; one is expected.')
    for (const error of document.errors.slice(0, mostProblems)) {
      const message = (error.message.split('\n')[0] ?? '').replace(/[.:]?$/, '.')
      this.tell('bad-syntax', '', error.pos[0], `This is not YAML 1.2 or JSON: ${message}`)
    }
    if (document.errors.length > 0) return undefined
    return this.value(document.contents, '', 0)
  }

  value(node: unknown, path: string, depth: number): unknown {
    if (this.problems.length >= mostProblems) return undefined
    if (++this.#nodes > mostNodes) {
      if (this.#nodes === mostNodes + 1) {
        const expected = `at most ${String(mostNodes)} values, aliases counted as often as they are used`
        this.tell('too-large', path, offsetOf(node), 'The text holds too many values.', { expected })
      }
      return undefined
    }
    if (depth > deepest) {
      this.tell('too-deep', path, offsetOf(node), `Values are nested more than ${String(deepest)} deep.`)
      return undefined
    }
    return this.collection(node, path, depth)
  }

  collection(node: unknown, path: string, depth: number): unknown {
    this.#mark(node, path)
    if (isAlias(node)) return this.#alias(node.source, offsetOf(node), path, depth)
    if (isMap(node)) {
      if (node.anchor !== undefined) this.#anchors.set(node.anchor, node)
      return this.#within(node.anchor, () => this.#map(node.items, path, depth))
    }
    if (isSeq(node)) {
      if (node.anchor !== undefined) this.#anchors.set(node.anchor, node as Node)
      const item = (entry: unknown, i: number): unknown => this.value(entry, join(path, String(i)), depth + 1)
      return this.#within(node.anchor, () => node.items.map(item))
    }
    if (isScalar(node)) {
      if (node.anchor !== undefined) this.#anchors.set(node.anchor, node as Node)
      return this.#scalar(node.value, offsetOf(node), path)
    }
    return null
  }

  tell(
    code: Diagnostic['code'],
    path: string,
    offset: number | null,
    message: string,
    more: Partial<Pick<Diagnostic, 'found' | 'expected' | 'nearest'>> = {},
  ): void {
    this.problems.push(diagnostic(code, this.#at(offset, path), message, more))
  }

  placeOf(path: string, spans: ReadonlyMap<string, Span>): Place {
    for (let part = path; ; part = part.slice(0, Math.max(0, part.lastIndexOf('.')))) {
      const span = (part === path ? spans.get(part) : undefined) ?? this.keys.get(part) ?? this.values.get(part)
      if (span) return this.#at(span.start, path)
      if (part === '') return { file: this.file, line: null, column: null, path }
    }
  }

  #within(anchor: string | undefined, read: () => unknown): unknown {
    if (anchor === undefined) return read()
    this.#open.add(anchor)
    const value = read()
    this.#open.delete(anchor)
    return value
  }

  #alias(name: string, offset: number | null, path: string, depth: number): unknown {
    const node = this.#anchors.get(name)
    if (node === undefined || this.#open.has(name)) {
      const message = node === undefined ? 'This alias has no anchor before it.' : 'This alias holds itself.'
      this.tell('bad-syntax', path, offset, message, { found: quoted(`*${name}`) })
      return undefined
    }
    const span = this.values.get(path)
    const value = this.value(node, path, depth + 1)
    if (span) this.values.set(path, span)
    return value
  }

  #map(items: readonly unknown[], path: string, depth: number): unknown {
    const value: Record<string, unknown> = {}
    for (const pair of items) {
      if (!isPair(pair)) continue
      const key = this.#key(pair.key, path, value)
      if (key === null) continue
      const inner = join(path, key)
      this.#markKey(pair.key, inner)
      value[key] = this.value(pair.value, inner, depth + 1)
    }
    return value
  }

  #key(node: unknown, path: string, before: Record<string, unknown>): string | null {
    const key = isScalar(node) ? node.value : node
    if (typeof key !== 'string') {
      this.tell('bad-key', path, offsetOf(node), 'A key must be a name.', { found: quoted(isScalar(node) ? key : []) })
      return null
    }
    if (key === '__proto__' || key === 'constructor' || key === 'prototype') {
      this.tell('bad-key', path, offsetOf(node), 'This name cannot be used as a key.', { found: quoted(key) })
      return null
    }
    if (key === '<<') {
      const message = 'YAML 1.2 has no merge key <<. Write the keys out, or say in a type what several share.'
      this.tell('bad-key', path, offsetOf(node), message)
      return null
    }
    if (Object.hasOwn(before, key)) {
      const message = `The key ${quoted(key)} stands here a second time.`
      this.tell('duplicate-key', join(path, key), offsetOf(node), message)
      return null
    }
    return key
  }

  #scalar(value: unknown, offset: number | null, path: string): unknown {
    if (typeof value === 'number' && !Number.isFinite(value)) {
      this.tell('wrong-shape', path, offset, 'A number must be finite.', { found: String(value) })
      return undefined
    }
    if (typeof value === 'bigint') return Number(value)
    return value
  }

  #mark(node: unknown, path: string): void {
    const range = (node as Node | null)?.range
    if (range) this.values.set(path, { start: range[0], end: range[1] })
  }

  #markKey(node: unknown, path: string): void {
    const range = (node as Node | null)?.range
    if (range) this.keys.set(path, { start: range[0], end: range[1] })
  }

  #at(offset: number | null, path: string): Place {
    if (offset === null) return { file: this.file, line: null, column: null, path }
    const { line, col } = this.lines.linePos(offset)
    return { file: this.file, line: Math.max(1, line), column: Math.max(1, col), path }
  }
}

function offsetOf(node: unknown): number | null {
  return (node as Node | null)?.range?.[0] ?? null
}
